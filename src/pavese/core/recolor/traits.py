"""How a file looks beside the others of its set: drawn in strokes or filled, in how many colors, how detailed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import log2

import numpy as np

from pavese.core.color.oklab import oklch_of
from pavese.core.recolor.families import is_neutral
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.site import Kind

#: From this share of its sites on, a file is drawn in strokes.
_STROKED = 0.5
#: Spread below which a trait is taken to be the same in the whole set.
_LEAST_SPREAD = 0.25


@dataclass(frozen=True)
class Traits:
    """`paints` counts colors, `hues` those that are not neutral, `sites` places; `ink` is the drawn share of borders
    with the empty ground, which is high for thin drawings."""

    paints: int
    hues: int
    sites: int
    stroked: bool
    stroke_share: float
    ink: float


def traits_of(inventory: Inventory, measured: Measured) -> Traits:
    """The traits of one file."""
    colors = sorted({paint.rgb for paint in inventory.paints})
    lch = oklch_of(colors)
    strokes = sum(counts.get(Kind.STROKE, 0) for counts in inventory.sites.values())
    sites = sum(sum(counts.values()) for counts in inventory.sites.values())
    share = strokes / sites if sites else 0.0
    return Traits(
        len(colors),
        sum(not is_neutral(row) for row in lch),
        sites,
        share >= _STROKED,
        share,
        sum(measured.outline.values()),
    )


def apart(files: Sequence[Traits]) -> list[float]:
    """How far each file is from the rest of its set: 0 is like the others, above about 2 it stands out.

    The distance from the median of each trait, in spreads of the middle half of the files, the largest trait counts.
    """
    if len(files) < 3:
        return [0.0] * len(files)
    traits = np.array([[log2(1 + one.paints), log2(1 + one.sites), 4 * one.stroke_share, 4 * one.ink] for one in files])
    middle = np.median(traits, axis=0)
    quarter, three = np.percentile(traits, (25, 75), axis=0)
    spread = np.maximum((three - quarter) / 1.35, _LEAST_SPREAD)
    return [round(float(value), 2) for value in (np.abs(traits - middle) / spread).max(axis=1)]
