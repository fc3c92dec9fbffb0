"""Which paints of a file are not of the kit, how far off they are, and what would be."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit, members
from pavese.core.kit.ours import Verdict, nearest, verdict
from pavese.core.kit.token import Token
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.natural import natural_tone
from pavese.core.recolor.recoloring import Recoloring


@dataclass(frozen=True)
class Finding:
    """A paint that is not of the kit: where it is used, and the kit color nearest to it (None: an empty kit)."""

    paint: Rgba
    sites: int
    severity: Verdict
    nearest: Token | None
    nearest_color: Rgb | None
    difference: float | None

    def natural(self, before: Inventory) -> str | None:
        """What it may be the natural tone of, where the file had it `before`: kept on purpose, shown, and no fault."""
        return natural_tone(self.paint.rgb) if self.paint in before.sites else None


def check_paints(inventory: Inventory, kit: Kit) -> tuple[Finding, ...]:
    """The findings for one file, worst first; a paint within CIEDE2000 1 of a kit color counts as of the kit."""
    own = members(kit)
    strange = [paint for paint in inventory.paints if paint.rgb not in own]
    if not strange:
        return ()
    findings = [
        finding
        for paint, near in zip(strange, nearest([paint.rgb for paint in strange], kit), strict=True)
        if (finding := _finding(paint, inventory, near, kit)) is not None
    ]
    return tuple(sorted(findings, key=lambda finding: (-(finding.difference or 1e9), finding.paint)))


def files_off(files: Iterable[tuple[Inventory, Recoloring]], kit: Kit) -> int:
    """How many files, as they came and with what becomes of them, will hold paint that is not of the kit.

    What is kept for its natural tone is no fault. The results of a whole set are few: each is looked at once.
    """
    becoming = [(before, {one for paint in before.sites for one in to.results(paint)}) for before, to in files]
    all_of = Inventory({one: {} for _, results in becoming for one in results})
    strange = {finding.paint: finding for finding in check_paints(all_of, kit)}
    return sum(
        any(strange[one].natural(before) is None for one in results if one in strange) for before, results in becoming
    )


def _finding(paint: Rgba, inventory: Inventory, near: tuple[Token, Rgb, float] | None, kit: Kit) -> Finding | None:
    sites = sum(inventory.sites[paint].values())
    if near is None:
        return Finding(paint, sites, Verdict.OFF, None, None, None)
    token, color, difference = near
    severity = verdict(difference, kit.rules)
    return None if severity is Verdict.OURS else Finding(paint, sites, severity, token, color, difference)
