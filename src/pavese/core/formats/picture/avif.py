"""AVIF (AV1 Image File Format 1.1): its pixels are coded anew in whole color; its profile and what it says stay."""

from __future__ import annotations

import io

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
from pavese.core.pictures.regions import LOSSY

#: How well it is coded, of 100: the file does not say how it was.
_QUALITY = 90
#: How many bytes at the beginning name what a file is (ISO/IEC 14496-12, section 4.3).
_BRANDS = 64


class AvifPicture:
    """See `container.Container`."""

    fineness = LOSSY
    clears = True

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, "AVIF") as image:
            if getattr(image, "n_frames", 1) > 1:
                raise RefusedFileError(name, "it is an AVIF that moves; these are not recolored yet. A GIF is.")
            image.load()
            self.pixels = pixels_of(image)
            self.turn = turn_of(image)
            self.remarks = tuple(remarks_on(image))
            profile, exif, xmp = (image.info.get(key) for key in ("icc_profile", "exif", "xmp"))
        kept = {"icc_profile": profile, "exif": without_small_picture(exif) if exif else None, "xmp": xmp}
        self._told = {key: value for key, value in kept.items() if value}
        self.profile = Profile(profile)
        self.seen_rows = self.pixels.shape[0]

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        whole = with_alpha(colors, alpha_of(self.pixels) if alpha is None else alpha)
        target = io.BytesIO()
        Image.fromarray(whole).save(target, "AVIF", quality=_QUALITY, subsampling="4:4:4", **self._told)
        return target.getvalue()

    def bare(self, data: bytes) -> bytes:
        return data


def is_avif(data: bytes) -> bool:
    """Whether a file begins as an AVIF does."""
    return data[4:8] == b"ftyp" and b"avi" in data[8:_BRANDS]
