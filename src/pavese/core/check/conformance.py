"""Which paints of a file are not of the kit, how far off they are, and what would be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from pavese.core.color.difference import NEAR, SAME, differences
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit, Token, members
from pavese.core.recolor.inventory import Inventory


class Verdict(StrEnum):
    """How far a color is from the kit: of it, a drift of one of its colors, or off altogether."""

    OURS = "ours"
    NEAR = "near"
    OFF = "off"


def verdict(difference: float) -> Verdict:
    """What a difference (CIEDE2000) from the nearest kit color means."""
    if difference < SAME:
        return Verdict.OURS
    return Verdict.NEAR if difference < NEAR else Verdict.OFF


@dataclass(frozen=True)
class Finding:
    """A paint that is not of the kit: where it is used, and the kit color nearest to it (None: an empty kit)."""

    paint: Rgba
    sites: int
    severity: Verdict
    nearest: Token | None
    nearest_color: Rgb | None
    difference: float | None


def check_paints(inventory: Inventory, kit: Kit) -> tuple[Finding, ...]:
    """The findings for one file, worst first; a paint within CIEDE2000 1 of a kit color counts as of the kit."""
    own = members(kit)
    strange = [paint for paint in inventory.paints if paint.rgb not in own]
    if not strange:
        return ()
    findings = [
        finding
        for paint, near in zip(strange, nearest([paint.rgb for paint in strange], kit), strict=True)
        if (finding := _finding(paint, inventory, near)) is not None
    ]
    return tuple(sorted(findings, key=lambda finding: (-(finding.difference or 1e9), finding.paint)))


def nearest(colors: Sequence[Rgb], kit: Kit) -> list[tuple[Token, Rgb, float] | None]:
    """For each color the nearest token, its color and the difference (CIEDE2000); None in a kit without colors."""
    own = members(kit)
    if not own:
        return [None] * len(colors)
    palette = list(own)
    table = differences(colors, palette)
    best = table.argmin(axis=1).tolist()
    return [(own[palette[at]], palette[at], float(table[row, at])) for row, at in enumerate(best)]


def _finding(paint: Rgba, inventory: Inventory, near: tuple[Token, Rgb, float] | None) -> Finding | None:
    sites = sum(inventory.sites[paint].values())
    if near is None:
        return Finding(paint, sites, Verdict.OFF, None, None, None)
    token, color, difference = near
    severity = verdict(difference)
    return None if severity is Verdict.OURS else Finding(paint, sites, severity, token, color, difference)
