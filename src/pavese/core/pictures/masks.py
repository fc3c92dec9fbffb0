"""Masks that grow and shrink by squares, several times as quick as filters of any footprint."""

from __future__ import annotations

from itertools import product

import numpy as np
import numpy.typing as npt

_Mask = npt.NDArray[np.bool_]
_Places = npt.NDArray[np.integer]

#: To look around one pixel takes as long as so many of them do in a pass over the whole picture, by place looked at.
_WORTH = 4


def grown(mask: _Mask, by: int) -> _Mask:
    """The pixels at most so many rows and columns away from some, shape (rows, columns)."""
    made = mask
    for axis in (0, 1):
        both = made.copy()
        for way in (1, -1):
            reached, one_way = 0, made
            while reached < by:
                # What is reached so far, laid beside itself without a gap.
                step = min(reached + 1, by - reached)
                further = one_way.copy()
                np.moveaxis(further, axis, 0)[::way][step:] |= np.moveaxis(one_way, axis, 0)[::way][:-step]
                reached, one_way = reached + step, further
            both |= one_way
        made = both
    return made


def near(mask: _Mask, by: int, places: _Places) -> _Mask:
    """Which of some pixels (flat positions) `grown` would hold, shape (n,). To ask of few, or where few are in the
    mask, does not take as long as the whole picture."""
    around = sorted(product(range(-by, by + 1), repeat=2), key=lambda at: at[0] ** 2 + at[1] ** 2)
    few = mask.size // (_WORTH * len(around))
    held, count = mask.ravel(), np.count_nonzero(mask)
    if count <= min(few, len(places)):
        sources, made = np.flatnonzero(mask), np.zeros(mask.size, dtype=np.bool_)
        for down, right in around:
            made[_beside(sources, down, right, mask.shape)] = True
        return np.asarray(made[places])
    if len(places) > few:
        return np.asarray(grown(mask, by).ravel()[places])
    found, left = np.zeros(len(places), dtype=np.bool_), np.arange(len(places))
    for down, right in around:
        hit = held[_beside(places[left], down, right, mask.shape)]
        found[left[hit]] = True
        left = left[~hit]
    return found


def _beside(places: _Places, down: int, right: int, shape: tuple[int, ...]) -> _Places:
    """What is so many rows and columns away from some pixels; at the edge of the picture what is nearer."""
    rows, columns = np.divmod(places, shape[1])
    return np.asarray(np.clip(rows + down, 0, shape[0] - 1) * shape[1] + np.clip(columns + right, 0, shape[1] - 1))


def shrunk(mask: _Mask, by: int) -> _Mask:
    """The pixels around which, as far as that and up to the edge, all is of a mask."""
    return ~grown(~mask, by)
