"""What a plan owes to two colors of one drawing."""

from collections.abc import Iterable, Mapping
from itertools import combinations

from pavese.core.color.difference import difference
from pavese.core.color.oklab import oklch_of
from pavese.core.color.ramp import STEPS, step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, members
from pavese.core.recolor.colorfulness import of_its_hue

#: CIEDE2000 from which on two colors are plainly two, whatever else is lost; steps of lightness beyond which a color is
#: not what it was.
PLAINLY, AWAY = 20.0, 3.0


def melted(colors: Iterable[Rgb], became: Mapping[Rgb, Rgb], kit: Kit) -> list[tuple[Rgb, Rgb]]:
    """Pairs that are plainly two and became one although the kit has a color left of the hue of both, and about as
    light."""
    listed = sorted(set(colors))
    left = [color for color in members(kit) if color not in {became[one] for one in listed}]

    def has_left(color: Rgb) -> bool:
        place = min(max(step_position(color), 0.0), len(STEPS) - 1.0)
        near = [one for one in left if abs(step_position(one) - place) <= AWAY]
        return bool(near) and bool(of_its_hue(oklch_of([color])[0], oklch_of(near)).any())

    return [
        (one, other)
        for one, other in combinations(listed, 2)
        if became[one] == became[other] and difference(one, other) >= PLAINLY and has_left(one) and has_left(other)
    ]
