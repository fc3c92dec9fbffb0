"""What a plan owes to two colors of one drawing."""

from collections.abc import Iterable, Mapping
from itertools import combinations

from pavese.core.color.difference import difference
from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, members
from pavese.core.recolor.colorfulness import of_its_hue

#: CIEDE2000 from which on two colors are plainly two, whatever else is lost.
PLAINLY = 20.0


def melted(colors: Iterable[Rgb], became: Mapping[Rgb, Rgb], kit: Kit) -> list[tuple[Rgb, Rgb]]:
    """Pairs that are plainly two and became one although the kit has a color left of the hue of both."""
    listed = sorted(set(colors))
    left = oklch_of([color for color in members(kit) if color not in {became[one] for one in listed}])
    return [
        (one, other)
        for one, other in combinations(listed, 2)
        if became[one] == became[other]
        and difference(one, other) >= PLAINLY
        and all(len(left) and of_its_hue(oklch_of([color])[0], left).any() for color in (one, other))
    ]
