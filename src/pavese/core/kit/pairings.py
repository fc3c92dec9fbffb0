"""Which colors of a kit read on which: every ordered pair, as text on its ground."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import permutations

from pavese.core.color.contrast import Level, contrast_ratio, level
from pavese.core.kit.kit import Kit, KitColor


@dataclass(frozen=True)
class Pair:
    """One color as text on another as ground; `ratio` is unrounded."""

    text: KitColor
    ground: KitColor
    ratio: float

    @property
    def level(self) -> Level:
        """What the pair may be used for."""
        return level(self.ratio)


def pairs(kit: Kit) -> tuple[Pair, ...]:
    """All ordered pairs of different base colors, best contrast first, then in the kit's order."""
    found = [Pair(a, b, contrast_ratio(a.base, b.base)) for a, b in permutations(kit.in_line(), 2)]
    return tuple(sorted(found, key=lambda pair: -pair.ratio))
