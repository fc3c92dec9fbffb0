"""The white and the near-black of a drawing, and where the kit has its own."""

from __future__ import annotations

from functools import lru_cache

from pavese.core.color.oklab import lch_of
from pavese.core.color.ramp import step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.recolor.families import is_neutral

#: Places in the luminance-aligned scale beyond which a neutral is the white, or the near-black, of a drawing.
_WHITE_END, _BLACK_END = -0.2, 9.4
#: The kit's background is where white goes while it is lighter than this, its dark text where black goes while darker.
_LIGHT, _DARK = 2.5, 6.0


@lru_cache(maxsize=32_768)
def end_of(color: Rgb) -> int | None:
    """0 for a white, 1 for a near-black, None for anything between."""
    if not is_neutral(lch_of(color)):
        return None
    place = step_position(color)
    return 0 if place < _WHITE_END else 1 if place > _BLACK_END else None


def anchors(kit: Kit) -> dict[int, KitColor]:
    """The colors of the kit whose bases take the white (0) and the near-black (1) of drawings, where it has them."""
    found: dict[int, KitColor] = {}
    for color in kit.colors:
        if color.role is Role.BACKGROUND and step_position(color.base) < _LIGHT:
            found.setdefault(0, color)
        if color.role is Role.TEXT_DARK and step_position(color.base) > _DARK:
            found.setdefault(1, color)
    return found
