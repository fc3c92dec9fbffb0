"""What holds the hues of a kit together: the scheme they are nearest to, and by how many degrees they miss it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from pavese.core.color.oklab import Array, oklch_of
from pavese.core.color.schemes import RULES, Point, Wheel, points
from pavese.core.color.srgb import Rgb

#: Below this chroma a color has no hue worth relating.
COLORFUL = 0.045
#: Degrees that each further point of a scheme costs, since a scheme of many points is near to anything.
_COST = 3.0


def relation(colors: Sequence[Rgb]) -> tuple[str, float]:
    """The name of the nearest scheme on the perceptual wheel, and the mean miss in degrees.

    Colors without a hue do not count; one hue alone is `monochrome`, none `without hue`.
    """
    lch = oklch_of(colors) if colors else np.zeros((0, 3))
    hues = lch[lch[:, 1] >= COLORFUL][:, 2]
    if not len(hues):
        return "without hue", 0.0
    found: list[tuple[float, float, str]] = []
    for name, rule in RULES.items():
        for base in hues.tolist():
            places = [point.hue for point in points(Point(0.6, 0.1, base), rule, Wheel.PERCEPTUAL, rule.spread)]
            miss = _miss(hues, np.array(sorted(set(places))))
            found.append((miss + _COST * len(set(places)), miss, name))
    _, miss, name = min(found)
    return name, miss


def _miss(hues: Array, places: Array) -> float:
    away = np.abs((hues[:, None] - places[None, :] + 180) % 360 - 180)
    return float(away.min(axis=1).mean())
