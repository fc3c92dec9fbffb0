"""Photographs of which few paints explain all, as they do of a drawing."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from pavese.core.pictures.mixture import OTHER, Levels, Mixture

_Mask = npt.NDArray[np.bool_]

#: Paints of a picture with a palette, from which on it is a photograph where so many of them are a smaller part of it.
_ENTRIES, _FEW_ENTRIES, _OF_ENTRIES = 40, 16, 0.25
#: A photograph in greys: how many of them it has at least, of how many pixels it is, which parts of it are flat at most
#: and mixed at least, and by how many levels the channels of a grey may differ.
_GREYS, _LEAST, _HARDLY_FLAT, _MUCH_MIXED, _GREY = 5, 64 * 64, 0.1, 0.14, 8


def is_of_entries(area: npt.NDArray[np.int16], paints: int) -> bool:
    """Whether a picture is a photograph that has all entries of a palette, by the paint that each pixel is: of many
    flat regions none is much of it."""
    if paints < _ENTRIES:
        return False
    areas = np.sort(np.bincount(area[area >= 0]))
    return bool(areas[-_FEW_ENTRIES:].sum() < _OF_ENTRIES * area.size)


def is_of_greys(found: Mixture, colors: Levels, seen: _Mask) -> bool:
    """Whether a picture, shape (rows, columns, 3), is a photograph in greys, by what is `seen` of it: between black and
    white any grey is a mix of others, so that all of it is explained; but hardly any of it is flat, and more of it is
    mixed than edges are."""
    size = int(seen.sum())
    if size < _LEAST or len(found.paints) < _GREYS or len(found.edges.places) < _MUCH_MIXED * size:
        return False
    flat = int(((found.at != OTHER) & seen).sum())
    return flat <= _HARDLY_FLAT * size and int(np.ptp(colors[seen], axis=1).max()) <= _GREY
