"""Which paints of a file are not of the kit, how far off they are, and what would be."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterable
from dataclasses import dataclass
from enum import IntEnum

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit, members
from pavese.core.kit.ours import Verdict, nearest, verdict
from pavese.core.kit.token import Token
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.natural import natural_tone
from pavese.core.recolor.site import Kind


@dataclass(frozen=True)
class Finding:
    """What is wrong with a file, in words, and the colors that it is about."""

    text: str
    colors: tuple[Rgb, ...]


@dataclass(frozen=True)
class OffKit(Finding):
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


def check_paints(inventory: Inventory, kit: Kit) -> tuple[OffKit, ...]:
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


def left_by_coding(finding: OffKit, inventory: Inventory, results: Collection[Rgba], *, on_pixels: bool) -> bool:
    """Whether a paint is only what coding made of a color of the kit: it is read back from a picture inside of
    the file, or from the file where that is one (`on_pixels`); nothing was to become it, and it is near to the kit."""
    pictured = on_pixels or set(inventory.sites[finding.paint]) == {Kind.PICTURE}
    return pictured and finding.paint not in results and finding.severity is Verdict.NEAR


class Holds(IntEnum):
    """What a file holds, by the worst of its paints: only paint of the kit, natural tones beside it, paint that a
    person wanted, or paint that is off."""

    KIT = 0
    NATURAL = 1
    WANTED = 2
    OFF = 3


def holds(found: Iterable[tuple[bool, bool]]) -> Holds:
    """What a file holds, by whether each paint that is not of the kit is a natural tone, and whether it was wanted."""
    each = (Holds.NATURAL if natural else Holds.WANTED if wanted else Holds.OFF for natural, wanted in found)
    return max(each, default=Holds.KIT)


def held_by_files(files: Iterable[tuple[Inventory, Changes, Collection[str]]], kit: Kit) -> Counter[Holds]:
    """How many files hold what; each is given as it came, with what becomes of it, and the keys of paints for which a
    person has chosen.

    The results of a whole set are few: each is looked at once.
    """
    becoming = []
    for before, to, chosen in files:
        results: dict[Rgba, bool] = {}
        for paint in before.sites:
            for one in to.recoloring.results(paint):
                results[one] = results.get(one, False) or paint.key in chosen
        if any(act.keeps for act in to.acts):
            results = dict.fromkeys(before.sites, True) | results
        becoming.append((before, results))
    all_of = Inventory({one: {} for _, results in becoming for one in results})
    strange = {finding.paint: finding for finding in check_paints(all_of, kit)}
    return Counter(
        holds((strange[one].natural(before) is not None, wanted) for one, wanted in results.items() if one in strange)
        for before, results in becoming
    )


def _finding(paint: Rgba, inventory: Inventory, near: tuple[Token, Rgb, float] | None, kit: Kit) -> OffKit | None:
    sites = sum(inventory.sites[paint].values())
    if near is None:
        words = f"{paint.key} is no color of the kit, which has none."
        return OffKit(words, (paint.rgb,), paint, sites, Verdict.OFF, None, None, None)
    token, color, difference = near
    severity = verdict(difference, kit.rules)
    if severity is Verdict.OURS:
        return None
    words = f"{paint.key} is {severity}: {difference:.1f} from {kit.label(token)}, {color.hex}."
    return OffKit(words, (paint.rgb,), paint, sites, severity, token, color, difference)
