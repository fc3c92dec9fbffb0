"""Is this one of ours? How far any color is from the kit, and which kit color is the nearest."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum

from pavese.core.color.difference import differences
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, members
from pavese.core.kit.rules import Rules
from pavese.core.kit.token import Token


class Verdict(StrEnum):
    """How far a color is from the kit: of it, a drift of one of its colors, or off altogether."""

    OURS = "ours"
    NEAR = "near"
    OFF = "off"


def verdict(difference: float, rules: Rules) -> Verdict:
    """What a difference (CIEDE2000) from the nearest kit color means by the kit's rules."""
    if difference < rules.same:
        return Verdict.OURS
    return Verdict.NEAR if difference < rules.near else Verdict.OFF


def nearest(colors: Sequence[Rgb], kit: Kit) -> list[tuple[Token, Rgb, float] | None]:
    """For each color the nearest token, its color and the difference (CIEDE2000); None in a kit without colors."""
    own = members(kit)
    if not own:
        return [None] * len(colors)
    palette = list(own)
    table = differences(colors, palette)
    best = table.argmin(axis=1).tolist()
    return [(own[palette[at]], palette[at], float(table[row, at])) for row, at in enumerate(best)]
