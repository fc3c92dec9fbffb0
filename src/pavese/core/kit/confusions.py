"""Which colors of a kit are taken for one another by people who see color differently, or in print without color."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

from pavese.core.color.difference import differences
from pavese.core.color.vision import Vision, seen
from pavese.core.kit.kit import Kit
from pavese.core.kit.remarks import CONFUSABLE


@dataclass(frozen=True)
class Confusion:
    """Two colors (keys) that are told apart with usual vision and not with this one; differences are CIEDE2000."""

    vision: Vision
    first: str
    second: str
    usual: float
    left: float


def confusions(kit: Kit, severity: float = 1.0) -> tuple[Confusion, ...]:
    """The confusions under every kind of vision, the closest first within each."""
    bases = [color.base for color in kit.colors]
    if not bases:
        return ()
    usual = differences(bases, bases)
    found = []
    for vision in Vision:
        if vision is Vision.USUAL:
            continue
        looks = seen(bases, vision, severity)
        table = differences(looks, looks)
        close = [
            Confusion(vision, a.key, b.key, float(usual[i, j]), float(table[i, j]))
            for (i, a), (j, b) in combinations(enumerate(kit.colors), 2)
            if table[i, j] < CONFUSABLE <= usual[i, j]
        ]
        found += sorted(close, key=lambda one: one.left)
    return tuple(found)
