"""WebP (https://developers.google.com/speed/webp/docs/riff_container, RFC 9649), still, with and without loss."""

from __future__ import annotations

import io
import struct

from PIL import Image

from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.container import (
    alpha_of,
    opened,
    pixels_of,
    remarks_on,
    turn_of,
    with_alpha,
    without_small_picture,
)
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import LOSSLESS, LOSSY

#: How fine one with loss is written; the file does not say how fine it was.
_QUALITY = 92


class WebpPicture:
    """See `container.Container`."""

    clears = True

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, "WEBP") as image:
            if getattr(image, "n_frames", 1) > 1:
                raise RefusedFileError(name, "it is a WebP that moves; these are not recolored yet. A GIF is.")
            image.load()
            self.pixels = pixels_of(image)
            self.turn = turn_of(image)
            self.remarks = tuple(remarks_on(image))
            profile, exif, xmp = (image.info.get(key) for key in ("icc_profile", "exif", "xmp"))
        kept = {"icc_profile": profile, "exif": without_small_picture(exif) if exif else None, "xmp": xmp}
        self._told = {key: value for key, value in kept.items() if value}
        self.profile = Profile(profile)
        self._lossless = _is_lossless(data)
        self.fineness = LOSSLESS if self._lossless else LOSSY
        self.seen_rows = self.pixels.shape[0]

    def written(self, colors: Levels, alpha: Levels | None = None) -> bytes:
        whole = with_alpha(colors, alpha_of(self.pixels) if alpha is None else alpha)
        target = io.BytesIO()
        Image.fromarray(whole).save(target, "WEBP", lossless=self._lossless, quality=_QUALITY, exact=True, **self._told)
        return target.getvalue()


def _is_lossless(data: bytes) -> bool:
    """By the first chunk with pixels (RFC 9649, section 2)."""
    at = 12
    while at + 8 <= len(data):
        kind, size = struct.unpack_from("<4sI", data, at)
        if kind in (b"VP8L", b"VP8 "):
            return bool(kind == b"VP8L")
        at += 8 + size + size % 2
    return False
