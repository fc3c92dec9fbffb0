"""What WebP and AVIF have in common: their pixels are coded anew, their profile, Exif and XMP data stay."""

from __future__ import annotations

import io
from typing import Any, ClassVar

from PIL import Image

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


def told_by(image: Image.Image) -> dict[str, Any]:
    """What a picture says of itself, as it is saved again."""
    profile, exif, xmp = (image.info.get(key) for key in ("icc_profile", "exif", "xmp"))
    kept = {"icc_profile": profile, "exif": without_small_picture(exif) if exif else None, "xmp": xmp}
    return {key: value for key, value in kept.items() if value}


class CodedPicture:
    """See `container.Container`. `kind` is Pillow's name of the format."""

    clears = True
    square = 0
    kind: ClassVar[str]

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, self.kind) as image:
            image.load()
            self.pixels = pixels_of(image)
            self.turn = turn_of(image)
            self.remarks = tuple(remarks_on(image))
            self._told = told_by(image)
        self.profile = Profile(self._told.get("icc_profile"))
        self.seen_rows = self.pixels.shape[0]

    @property
    def _options(self) -> dict[str, Any]:
        """How its pixels are coded."""
        raise NotImplementedError

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """See `container.Container`."""
        whole = with_alpha(colors, alpha_of(self.pixels) if alpha is None else alpha)
        target = io.BytesIO()
        Image.fromarray(whole).save(target, self.kind, **self._options, **self._told)
        return target.getvalue()
