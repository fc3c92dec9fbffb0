"""Pictures made of pixels: PNG, JPEG, GIF, WebP, AVIF and TIFF. Flat ones are recolored as the drawings they are."""

from __future__ import annotations

from collections.abc import Callable

from pavese.core import limits
from pavese.core.formats.document import ALONE, Beside
from pavese.core.formats.format import Can, Format
from pavese.core.formats.picture import avif, gif, jpeg, png, tiff, webp
from pavese.core.formats.picture.container import Container
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.formats.picture.large import LargePicture
from pavese.core.recolor.pixels import PhotographTones, PictureGround, WithoutMetadata
from pavese.core.recolor.pointed import HeadlineRoom, ObjectColors, PictureParts

__all__ = ["FORMATS", "IMAGES"]

#: The channel of pictures. Much that is none comes with pictures of its own.
IMAGES = "images"
#: A large one takes a while.
_SECONDS = 60.0
_ACTS = (
    PhotographTones.key,
    ObjectColors.key,
    PictureParts.key,
    PictureGround.key,
    HeadlineRoom.key,
    WithoutMetadata.key,
)
#: For containers from which what they say cannot be taken without coding their pixels anew.
_BUT_METADATA = _ACTS[:-1]


def _reader(opens: Callable[[str, bytes], Container]) -> Callable[[str, bytes, Beside], PictureDocument]:
    """What reads pictures of a format. It raises RefusedFileError."""

    def read(name: str, data: bytes, beside: Beside = ALONE) -> PictureDocument:
        container = opens(name, data)
        rows, columns = container.pixels.shape[:2]
        if rows * columns > limits.PICTURE_PIXELS and container.seen_rows == rows:
            return LargePicture(name, data, container, opens)
        return PictureDocument(data, container, opens)

    return read


def _format(
    title: str,
    endings: tuple[str, ...],
    matches: Callable[[bytes], bool],
    container: Callable[[str, bytes], Container],
    acts: tuple[str, ...] = _ACTS,
) -> Format:
    key = title.lower()
    return Format(
        key=key,
        title=title,
        words=f"{title} pictures",
        endings=endings,
        media_type=f"image/{key}",
        matches=matches,
        read=_reader(container),
        can=frozenset((Can.STILL, Can.PIXELS)),
        acts=acts,
        channel=IMAGES,
        seconds=_SECONDS,
    )


FORMATS = (
    _format("PNG", (".png",), lambda data: data.startswith(png.SIGNATURE), png.png_picture),
    _format(
        "JPEG",
        (".jpg", ".jpeg", ".jpe", ".jfif"),
        lambda data: data.startswith(jpeg.SIGNATURE),
        jpeg.JpegPicture,
    ),
    # Its colors stand in tables; there is no room for what an act would add.
    _format("GIF", (".gif",), lambda data: data.startswith(gif.SIGNATURES), gif.GifPicture, ()),
    _format("WebP", (".webp",), webp.is_webp, webp.webp_picture),
    _format("AVIF", (".avif",), avif.is_avif, avif.avif_picture, _BUT_METADATA),
    _format("TIFF", (".tif", ".tiff"), lambda data: data.startswith(tiff.SIGNATURES), tiff.tiff_picture, _BUT_METADATA),
)
