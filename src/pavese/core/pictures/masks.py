"""Masks that grow and shrink by squares, several times as quick as filters of any footprint."""

from __future__ import annotations

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
    side = 2 * by + 1
    few = mask.size // (_WORTH * side**2)
    rows = sorted(range(-by, by + 1), key=abs)
    held, count = mask.ravel(), np.count_nonzero(mask)
    if count <= min(few, len(places)):
        sources, made = np.flatnonzero(mask), np.zeros(mask.size, dtype=np.bool_)
        for down in rows:
            made[_beside(sources, down, by, mask.shape)] = True
        return np.asarray(made[places])
    if len(places) > few:
        return np.asarray(grown(mask, by).ravel()[places])
    found, left = np.zeros(len(places), dtype=np.bool_), np.arange(len(places))
    for down in rows:
        hit = held[_beside(places[left], down, by, mask.shape)].any(axis=1)
        found[left[hit]] = True
        left = left[~hit]
    return found


def _beside(places: _Places, down: int, by: int, shape: tuple[int, ...]) -> _Places:
    """What is so many rows away from some pixels, shape (n,), and at most `by` columns to either side, shape
    (n, 2 * by + 1); at the edge of the picture what is nearer."""
    row, column = np.divmod(places, shape[1])
    columns = column[:, None] + np.arange(-by, by + 1)
    # To clip whole numbers takes numpy many times as long as this.
    row, columns = (
        np.minimum(np.maximum(at, 0), size - 1) for at, size in ((row + down, shape[0]), (columns, shape[1]))
    )
    return np.asarray(row[:, None] * shape[1] + columns)


def shrunk(mask: _Mask, by: int) -> _Mask:
    """The pixels around which, as far as that and up to the edge, all is of a mask."""
    return ~grown(~mask, by)
