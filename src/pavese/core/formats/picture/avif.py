"""AVIF (AV1 Image File Format 1.1), still or moving, coded anew in whole color."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
from PIL import Image

from pavese.core.formats.picture.coded import CodedPicture, told_by
from pavese.core.formats.picture.container import Container, opened
from pavese.core.formats.picture.frames import MovingPicture
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.regions import LOSSY

#: How well it is coded, of 100: the file does not say how it was.
_OPTIONS: dict[str, Any] = {"quality": 90, "subsampling": "4:4:4"}
#: How many bytes at the beginning name what a file is (ISO/IEC 14496-12, section 4.3).
_BRANDS = 64


def avif_picture(name: str, data: bytes) -> Container:
    """An AVIF, still or moving. Raises RefusedFileError."""
    with opened(name, data, "AVIF") as image:
        moves = getattr(image, "n_frames", 1) > 1
    return MovingAvifPicture(name, data) if moves else AvifPicture(name, data)


class AvifPicture(CodedPicture):
    """See `container.Container`."""

    fineness = LOSSY
    kind = "AVIF"

    @property
    def _options(self) -> dict[str, Any]:
        return _OPTIONS

    def bare(self, data: bytes) -> bytes:
        """As it is: what it says cannot be taken from it without coding it anew."""
        return data


class MovingAvifPicture(MovingPicture):
    """A sequence (section 5): all of its frames are whole ones, and coded anew."""

    fineness = LOSSY

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, "AVIF") as image:
            super().__init__(name, image)
            self._told = told_by(image)
            self._times: list[int] = []
            for number in range(len(self.stack.places)):
                image.seek(number)
                image.load()
                self._times.append(int(image.info.get("duration", 0)))

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """See `container.Container`; no more than colors is changed in one that moves."""
        clear = any((frame[..., 3] < 255).any() for frame in self.stack.each(colors))
        frames = [
            Image.fromarray(one if clear else np.ascontiguousarray(one[..., :3])) for one in self.stack.each(colors)
        ]
        target = io.BytesIO()
        first, rest = frames[0], frames[1:]
        first.save(target, "AVIF", save_all=True, append_images=rest, duration=self._times, **_OPTIONS, **self._told)
        return target.getvalue()

    def bare(self, data: bytes) -> bytes:
        return data


def is_avif(data: bytes) -> bool:
    """Whether a file begins as an AVIF does."""
    return data[4:8] == b"ftyp" and b"avi" in data[8:_BRANDS]
