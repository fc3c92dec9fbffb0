"""Pictures made of pixels: PNG, JPEG, GIF and WebP. Flat ones are recolored as the drawings they are."""

from __future__ import annotations

from pavese.core.formats.format import Can, Format
from pavese.core.formats.picture import gif, jpeg, png
from pavese.core.formats.picture.document import reader
from pavese.core.formats.picture.gif import GifPicture
from pavese.core.formats.picture.jpeg import JpegPicture
from pavese.core.formats.picture.png import PngPicture
from pavese.core.formats.picture.webp import WebpPicture
from pavese.core.recolor.pixels import PhotographTones, PictureGround

__all__ = ["GIF", "IMAGES", "JPEG", "PNG", "WEBP"]

_CAN = frozenset((Can.STILL, Can.PIXELS))
#: The channel of pictures. Much that is none comes with pictures of its own.
IMAGES = "images"
_ACTS = (PhotographTones.key, PictureGround.key)
#: A large one takes a while.
_SECONDS = 60.0

PNG = Format(
    key="png",
    title="PNG",
    words="PNG pictures",
    endings=(".png",),
    media_type="image/png",
    matches=lambda data: data.startswith(png.SIGNATURE),
    read=reader(PngPicture),
    can=_CAN,
    acts=_ACTS,
    channel=IMAGES,
    seconds=_SECONDS,
)
JPEG = Format(
    key="jpeg",
    title="JPEG",
    words="JPEG pictures",
    endings=(".jpg", ".jpeg", ".jpe", ".jfif"),
    media_type="image/jpeg",
    matches=lambda data: data.startswith(jpeg.SIGNATURE),
    read=reader(JpegPicture),
    can=_CAN,
    acts=_ACTS,
    channel=IMAGES,
    seconds=_SECONDS,
)
GIF = Format(
    key="gif",
    title="GIF",
    words="GIF pictures",
    endings=(".gif",),
    media_type="image/gif",
    matches=lambda data: data.startswith(gif.SIGNATURES),
    read=reader(GifPicture),
    can=_CAN,
    channel=IMAGES,
    seconds=_SECONDS,
)
WEBP = Format(
    key="webp",
    title="WebP",
    words="WebP pictures",
    endings=(".webp",),
    media_type="image/webp",
    matches=lambda data: data[:4] == b"RIFF" and data[8:12] == b"WEBP",
    read=reader(WebpPicture),
    can=_CAN,
    acts=_ACTS,
    channel=IMAGES,
    seconds=_SECONDS,
)
