"""Paints that are none: what filters leave beside edges where a picture is made smaller or sharper."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.pictures.fitting import RINGS, Fitted, beyond, near_places
from pavese.core.pictures.mixture import GRADIENTS, Levels, Places, levels_apart

_Areas = npt.NDArray[np.int16]

#: How wide a paint is somewhere, in pixels, that is no ring of another; how far from that it is at most, in levels, and
#: what is tried as its ground. What differs by no more levels than these is one, however wide.
_RING_WIDE, _RING_FAR, _RING_GROUNDS, _SAME_CODE = 5, 28, 3, 2
#: By so many pixels what a paint stands on is looked at.
_LOOKED_AT = 3000


class Ring(NamedTuple):
    """A paint that is a little more of another (`of`), by such a part of the way away from its ground; of nothing where
    that is None."""

    paint: int
    places: Places
    of: int
    ground: int | None
    beyond: float

    def as_mix(self, area: _Areas) -> Fitted:
        """It as a mix of what it lies beside; `area` is what each pixel belongs to."""
        count = len(self.places)
        spots = [int(np.argmax(area.ravel() == one)) if one is not None else 0 for one in (self.of, self.ground)]
        parts = [1 + self.beyond, 0.0 if self.ground is None else -self.beyond, 0.0]
        return Fitted(
            self.places,
            np.tile(np.array([*spots, 0], dtype=np.int32), (count, 1)),
            np.tile(np.array(parts, dtype=np.float32), (count, 1)),
            np.ones(count, dtype=np.bool_),
            np.zeros(count, dtype=np.bool_),
        )


def rings(area: _Areas, paints: Levels, whole: npt.NDArray[np.float64], knots: Collection[int]) -> list[Ring]:
    """Which paints are nowhere wide, and a little more of a paint than there is, away from what it stands on. `area` is
    what each pixel belongs to, `whole` how many pixels each paint is in all; `knots` are the paints of gradients."""
    deep = ndimage.maximum_filter(area, _RING_WIDE) == ndimage.minimum_filter(area, _RING_WIDE)
    wide = {*np.unique(area[deep]).tolist(), *knots}
    counts = np.bincount(area[area >= 0], minlength=len(paints))
    found: list[Ring] = []
    kept: list[int] = []
    for paint in np.argsort(-whole, kind="stable").tolist():
        if not counts[paint]:
            continue
        far = _SAME_CODE if paint in wide else _RING_FAR
        ring = _ring(area, paints, paint, [one for one in kept if _apart(paints, paint, one) <= far])
        if ring is None:
            kept.append(paint)
        else:
            found.append(ring)
    # What a ring stands on may be one itself.
    of = {ring.paint: ring.of for ring in found}
    return [ring._replace(ground=None if ring.ground is None else of.get(ring.ground, ring.ground)) for ring in found]


def _apart(paints: Levels, one: int, other: int) -> int:
    """By how many levels two paints differ."""
    return int(levels_apart(paints[one], paints[other]))


def _ring(area: _Areas, paints: Levels, paint: int, near: Sequence[int]) -> Ring | None:
    """A paint as a little more of one of those `near` it."""
    if not near:
        return None
    places = np.flatnonzero(area.ravel() == paint).astype(np.int32)
    same = min(near, key=lambda one: (_apart(paints, paint, one), one))
    if _apart(paints, paint, same) <= _SAME_CODE:
        return Ring(paint, places, same, None, 0.0)
    names, _ = near_places(area, places[:: max(len(places) // _LOOKED_AT, 1)], 3)
    around, counts = np.unique(names[(names >= 0) & (names < GRADIENTS) & (names != paint)], return_counts=True)
    most = around[np.argsort(-counts, kind="stable")][:_RING_GROUNDS].tolist()
    # Nothing is what was clear, also where that was laid on a ground later.
    grounds: list[int | None] = [*most, None]
    own = paints[paint].astype(np.float32)[None]
    best, nearest = None, np.inf
    for of in near:
        base = paints[of].astype(np.float32)[None]
        for ground in grounds:
            if ground != of:
                other = None if ground is None else paints[ground].astype(np.float32)[None]
                part, off = beyond(own, base, other)
                if off[0] <= RINGS and part[0] + off[0] / _RING_FAR < nearest:
                    best, nearest = Ring(paint, places, of, ground, float(part[0])), part[0] + off[0] / _RING_FAR
    return best
