"""Where a panel ends on a photograph: pixels that are a mix of its paint and of what is seen beside it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import numpy.typing as npt
from scipy import ndimage
from scipy.spatial import KDTree

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
    near = _grown(paint, reach)
    rim = unknown & near
    beyond = unknown & _grown(near, _BESIDE) & ~near
    last = paint & _grown(unknown, 1)
    if not rim.any() or not beyond.any() or not last.any():
        return mixture
    at, of = np.argwhere(rim), []
    off = []
    for mask in (last, beyond):
        there = np.argwhere(mask)
        far, nearest = KDTree(there).query(at)
        of.append(there[nearest] @ (mixture.at.shape[1], 1))
        off.append(far)
    flat = pixels[..., :3].reshape(-1, 3).astype(np.float32)
    places = at @ (mixture.at.shape[1], 1)
    own, panel, seen = (flat[one] for one in (places, *of))
    way = panel - seen
    part = np.einsum("ij,ij->i", own - seen, way) / np.maximum(np.einsum("ij,ij->i", way, way), 1.0)
    part = np.clip(part, 0, 1)
    # What lies by no panel's end, but far from where anything else is seen, is left alone.
    chosen = (part >= _LEAST) & (off[1] <= 2 * (reach + _BESIDE))
    parts = np.stack([part, 1 - part, np.zeros_like(part)], axis=1)[chosen].astype(np.float32)
    mixed = np.stack([of[0], of[1], of[1]], axis=1)[chosen].astype(np.int32)
    rims = Blended(places[chosen].astype(np.int32), mixed, parts, np.ones(int(chosen.sum()), dtype=np.bool_))
    return replace(mixture, edges=Blended.joined([mixture.edges, rims]))


def _grown(mask: _Mask, by: int) -> _Mask:
    return np.asarray(ndimage.maximum_filter(mask.view(np.uint8), 2 * by + 1) > 0)
