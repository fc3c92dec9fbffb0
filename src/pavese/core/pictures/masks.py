"""Masks that grow and shrink by squares, several times as quick as filters of any footprint."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

_Mask = npt.NDArray[np.bool_]


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


def shrunk(mask: _Mask, by: int) -> _Mask:
    """The pixels around which, as far as that and up to the edge, all is of a mask."""
    return ~grown(~mask, by)
