"""Where a panel ends on a photograph: pixels that are a mix of its paint and of what is seen beside it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import numpy.typing as npt
from scipy.spatial import KDTree

from pavese.core.pictures.masks import grown
from pavese.core.pictures.mixture import OTHER, Blended, Levels, Mixture
from pavese.core.pictures.regions import Fineness

_Mask = npt.NDArray[np.bool_]

#: How far from a paint such pixels lie, in pixels: as they were drawn, and as coding leaves them.
_DRAWN, _CODED = 2, 4
#: Over how many pixels more what is seen beside is looked for.
_BESIDE = 3
#: What of a picture is unknown at least where there is a photograph in it.
_PHOTOGRAPH = 0.01
#: From which part on a pixel has of the paint.
_LEAST = 0.08


def with_rims(mixture: Mixture, pixels: Levels, how: Fineness) -> Mixture:
    """A mixture with the rims of its paints, shape of the picture (rows, columns, 3 or 4): how far each pixel lies
    between the paint and what is seen a little further is its part."""
    unknown = ~mixture.known
    if pixels.shape[2] == 4:
        unknown &= pixels[..., 3] == 255
    if not len(mixture.paints) or unknown.mean() < _PHOTOGRAPH:
        return mixture
    reach = _DRAWN if how.exact else _CODED
    paint = mixture.at != OTHER
    near = grown(paint, reach)
    rim = unknown & near
    beyond = unknown & grown(near, _BESIDE) & ~near
    last = paint & grown(unknown, 1)
    if not rim.any() or not beyond.any() or not last.any():
        return mixture
    there = np.argwhere(rim)
    panels, _ = _nearest(last, there)
    sights, far = _nearest(beyond, there)
    flat = pixels[..., :3].reshape(-1, 3)
    places = there @ (rim.shape[1], 1)
    own, panel, seen = (flat[one].astype(np.float32) for one in (places, panels, sights))
    way = panel - seen
    part = np.einsum("ij,ij->i", own - seen, way) / np.maximum(np.einsum("ij,ij->i", way, way), 1.0)
    # What lies far from where anything else is seen is by no panel's end.
    chosen = np.flatnonzero((part >= _LEAST) & (far <= 2 * (reach + _BESIDE)))
    part = np.clip(part[chosen], 0, 1)
    rims = Blended(
        places[chosen].astype(np.int32),
        np.stack([panels[chosen], sights[chosen], sights[chosen]], axis=1).astype(np.int32),
        np.stack([part, 1 - part, np.zeros_like(part)], axis=1).astype(np.float32),
        np.ones(len(chosen), dtype=np.bool_),
    )
    return replace(mixture, edges=Blended.joined([mixture.edges, rims]))


def _nearest(mask: _Mask, places: npt.NDArray[np.int64]) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.float64]]:
    """The pixel of a mask that is nearest to each of some places, shape (n, 2), as a flat position, and how far that
    is."""
    there = np.argwhere(mask)
    far, nearest = KDTree(there).query(places)
    return there[nearest] @ (mask.shape[1], 1), far
