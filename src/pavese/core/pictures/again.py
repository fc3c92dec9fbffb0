"""A piece of a picture found again in another one: in another size, on another ground, in other colors.

Both are told by the lines in them, and not by their colors: at each pixel the slope of the channel that differs most,
its angle doubled, so that dark on light and light on dark are the same (as the structure tensor has it: Bigün and
Granlund, 1987). How well a piece fits at a place is the correlation of both, by the Fourier transform, one size after
another (normalized as in Lewis, *Fast Normalized Cross-Correlation*, 1995, but without the mean, as slopes have none).
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image
from scipy import fft

from pavese.core.pictures.mixture import Levels

_Lines = npt.NDArray[np.complex64]

#: The longer side to which a picture is made smaller, and the least side of a piece in it, in pixels.
_LOOKED_AT, _LEAST = 400, 14
#: One size to the next, first and where it has been found; how many finer ones are tried to each side.
_STEP, _FINE, _FINER = 1.06, 1.012, 5
#: From this correlation on it is the same: of 39 general pictures none came above 0.38 with a sign that is not in it,
#: and 38 of 39 above 0.5 with one that is.
_SAME = 0.5
#: From this on it is so for certain: where they are not, a plain disc came to 0.71 and a sign to 0.47; where they are,
#: a disc to 0.91 and a sign mostly above 0.75.
_SURELY = 0.74
#: Slopes of fewer levels a pixel are noise, and so is a place with less than so much of them.
_NOISE, _EMPTY = 2.0, 1e3
#: How much larger than it was a piece is looked for.
_LARGER = 4


class Again(NamedTuple):
    """Where a piece stands, as parts of a picture's width and height, and how well it fits, at most 1."""

    left: float
    top: float
    width: float
    height: float
    fits: float

    @property
    def sure(self) -> bool:
        """Whether it is the same for certain, and not perhaps."""
        return self.fits >= _SURELY


def found_again(piece: Levels, picture: Levels) -> Again | None:
    """Where a piece, shape (rows, columns, 3), stands in a picture of that kind; None where it does not."""
    looked = _Looked(picture)
    best: Again | None = None
    for size in _sizes(looked.lines.shape[0], piece.shape[0]):
        best = looked.better(piece, size, best)
    if best is None:
        return None
    around = best.height * looked.lines.shape[0]
    for step in range(-_FINER, _FINER + 1):
        best = looked.better(piece, around * _FINE**step, best)
    return best if best and best.fits >= _SAME else None


def _sizes(rows: int, had: int) -> Iterator[float]:
    """How high a piece of so many rows may stand in a picture of so many, the largest first."""
    size = float(min(rows, had * _LARGER))
    while size >= _LEAST:
        yield size
        size /= _STEP


class _Looked:
    """A picture in which pieces are looked for."""

    def __init__(self, picture: Levels) -> None:
        image = Image.fromarray(np.ascontiguousarray(picture))
        by = min(_LOOKED_AT / max(image.size), 1)
        size = max(round(image.width * by), 1), max(round(image.height * by), 1)
        self.lines = _lines(np.asarray(image.resize(size, Image.Resampling.BOX)))
        self._shape = tuple(fft.next_fast_len(side) for side in self.lines.shape)
        self._transformed = fft.fft2(self.lines, self._shape)
        summed = (np.abs(self.lines).astype(np.float64) ** 2).cumsum(0).cumsum(1)
        self._summed = np.pad(summed, ((1, 0), (1, 0)))

    def better(self, piece: Levels, size: float, best: Again | None) -> Again | None:
        """Where a piece fits best when it is so many pixels high, or what did better."""
        rows, columns = self.lines.shape
        tall, wide = round(size), round(size * piece.shape[1] / piece.shape[0])
        if not (_LEAST <= wide <= columns and _LEAST <= tall <= rows):
            return best
        smaller = tall < piece.shape[0]
        way = Image.Resampling.BOX if smaller else Image.Resampling.BICUBIC
        lines = _lines(np.asarray(Image.fromarray(np.ascontiguousarray(piece)).resize((wide, tall), way)))
        own = float((np.abs(lines) ** 2).sum())
        if own < _EMPTY:
            return best
        product = self._transformed * np.conj(fft.fft2(lines, self._shape))
        together = fft.ifft2(product)[: rows - tall + 1, : columns - wide + 1].real
        summed = self._summed
        there = summed[tall:, wide:] - summed[:-tall, wide:] - summed[tall:, :-wide] + summed[:-tall, :-wide]
        fits = together / np.sqrt(own * np.maximum(there, _EMPTY))
        row, column = np.unravel_index(int(fits.argmax()), fits.shape)
        found = float(fits[row, column])
        if best is not None and best.fits >= found:
            return best
        return Again(float(column / columns), float(row / rows), wide / columns, tall / rows, found)


def _lines(pixels: Levels) -> _Lines:
    """The slope at each pixel of a picture, shape (rows, columns), with its angle doubled."""
    if min(pixels.shape[:2]) < 2:
        return np.zeros(pixels.shape[:2], dtype=np.complex64)
    levels = pixels.astype(np.float32)
    down, across = np.gradient(levels, axis=0), np.gradient(levels, axis=1)
    most = (down**2 + across**2).argmax(axis=2)[..., None]
    slope = np.take_along_axis(across, most, 2)[..., 0] + 1j * np.take_along_axis(down, most, 2)[..., 0]
    steep = np.abs(slope)
    return np.where(steep > _NOISE, slope * slope / np.maximum(steep, _NOISE), 0).astype(np.complex64)
