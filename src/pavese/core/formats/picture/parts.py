"""Parts of a picture that a person has framed, and what stands in them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.formats.picture.pointing import rectangle
from pavese.core.pictures.mixture import OTHER, Mixture
from pavese.core.recolor.pointed import PartWay, PictureParts

#: The part of a frame's line from which on a paint runs through it, and is not what stands in the frame.
_RUNS_THROUGH = 0.08


class Framed(NamedTuple):
    """What becomes of a part, and the pixels in it, shape (rows, columns)."""

    way: PartWay
    where: npt.NDArray[np.bool_]


def framed(act: PictureParts, shape: tuple[int, ...]) -> Iterator[Framed]:
    """The parts of a picture of so many rows and columns, as it is seen."""
    for part in act.parts:
        found = rectangle(part.region, shape)
        where = np.zeros(shape[:2], dtype=np.bool_)
        where[found.top : found.bottom, found.left : found.right] = True
        yield Framed(part.way, where)


def kept_in(mixture: Mixture, where: npt.NDArray[np.bool_]) -> npt.NDArray[np.bool_]:
    """Which of a picture's paints stand in a frame, shape (n,): not those that run through its line, such as the ground
    under a sign, which go on outside."""
    line = mixture.at[where & ~ndimage.binary_erosion(where)]
    shares = np.bincount(line, minlength=OTHER + 1)[: len(mixture.paints)] / max(len(line), 1)
    return np.asarray(shares < _RUNS_THROUGH)
