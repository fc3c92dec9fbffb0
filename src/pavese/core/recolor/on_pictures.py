"""What stands on pictures where all else goes to one ground and one ink: pictures do not go there with it, so that an
ink which reads on the ground may not read on them."""

from __future__ import annotations

from dataclasses import replace

from pavese.core.color.contrast import WHITE
from pavese.core.kit.kit import Kit
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import GroundAndInk, fitting, grounds_and_inks, light_and_dark, quiet
from pavese.core.recolor.reading import readings
from pavese.core.recolor.site import ON_PICTURES

#: Pairs that are tried.
_MOST = 8


def with_pictures_apart(paints: SetPaints, kit: Kit, plan: Plan) -> Plan:
    """The plan with a ground and an ink of their own for texts on pictures, where they would read less well by its
    rules and read better so; as it is where that was chosen already."""
    if ON_PICTURES in plan.part_rules:
        return plan
    standing = _on_pictures(paints)
    if not standing.files:
        return plan
    best, ruled, pressed = plan, plan.ruled(paints, kit), fitting(paints)
    least = _lost(standing, kit, ruled)
    for pair in _offered(kit) if least > 0 else ():
        rules = quiet(kit, pair.ground, pair.ink, pressed).rules
        if (lost := _lost(standing, kit, ruled.with_part_rules(ON_PICTURES, rules, kit))) < least:
            best, least = plan.with_part_rules(ON_PICTURES, rules, kit), lost
    return best


def without_pictures_apart(paints: SetPaints, kit: Kit, plan: Plan) -> Plan:
    """The plan without what `with_pictures_apart` gave it."""
    bare = plan.with_part_rules(ON_PICTURES, None, kit)
    return bare if with_pictures_apart(paints, kit, bare).part_rules == plan.part_rules else plan


def _offered(kit: Kit) -> list[GroundAndInk]:
    """The pairs that all may go to, the best on a light and on a dark ground first."""
    return list(dict.fromkeys((*light_and_dark(kit), *grounds_and_inks(kit))))[:_MOST]


def _on_pictures(paints: SetPaints) -> SetPaints:
    """The files with such texts, with nothing but those."""
    files = []
    for file in paints.files:
        runs = tuple(run for run in file.measured.texts if run.ground is None and ON_PICTURES in run.text.selectors)
        if runs:
            files.append(file._replace(measured=replace(file.measured, texts=runs)))
    return replace(paints, files=tuple(files))


def _lost(standing: SetPaints, kit: Kit, plan: Plan) -> float:
    """How much contrast its texts lack that they need, or had."""
    both = plan.kit_with_guests(kit)
    found = 0.0
    for file in standing.files:
        changes = plan.changes(both, file.name)
        for one in readings(file.measured.texts, changes, WHITE):
            found += max(min(one.before, one.needed) - one.after, 0.0)
    return found
