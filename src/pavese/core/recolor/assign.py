"""The automatic plan: every paint of a set to a color of the kit.

In the kit's mode near-equal paints are gathered (`near`), each of the rest is weighed against each step (`fitting`) and
against the paints it shares a drawing with (`together`), and steps are sought for all of them at once (`search`). Where
that leaves something lost in a drawing, this file gets exceptions (`exceptions`). Where derived shades are allowed, a
paint gets the shade of its ramp that is exactly as light as it is. The other modes need only lightness. Modes are
entries of `MODES`.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from pavese.core.color.contrast import WHITE
from pavese.core.color.oklab import Array, lch_of, oklch_of
from pavese.core.color.ramp import STEPS, step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor, members
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token, parse_token
from pavese.core.recolor.ends import anchors, end_of
from pavese.core.recolor.families import split
from pavese.core.recolor.family_ramps import family_ramps, main_color
from pavese.core.recolor.inventory import FilePaints, PaintUse, SetPaints
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.proposed_theme import with_proposed_theme
from pavese.core.recolor.recipe import AllowedColors, Mode, Policy, Recipe
from pavese.core.recolor.shades import Shades, spread
from pavese.core.recolor.site import Kind
from pavese.core.recolor.step_plan import Sought, StepPlan, step_plan
from pavese.core.recolor.target import KEEP, blend, mixed, resolve_target, shade
from pavese.core.recolor.theme import places_ruled
from pavese.core.recolor.typed import TypedCodes

_AS_ITS_ROW = "as what it hardly differs from in other pictures"
#: Steps that reach 3:1 between them, with a little to spare for rounding.
_CLEAR = 4.05
#: The step from which on colors are as light in the kit as they came, also where its white is a cream: 400.
_AS_LIGHT = 4.0


@dataclass(frozen=True)
class _Task:
    """What is to be planned: distinct open colors with their weights and wanted places, and what stands already;
    `fixed` is what of that a person chose, or is left alone."""

    colors: tuple[Rgb, ...]
    weights: tuple[float, ...]
    wanted: Array
    wanted_of: Callable[[Sequence[Rgb]], Array]
    lch: Array
    paints: SetPaints
    kit: Kit
    recipe: Recipe
    standing: Mapping[Rgb, Rgb]
    fixed: frozenset[Rgb]
    ground: Rgb
    backed: bool
    preferred: frozenset[Rgb]
    forbidden: Collection[tuple[int, str]]


def assign(
    paints: SetPaints,
    kit: Kit,
    held: Plan | None = None,
    forbidden: Collection[tuple[int, str]] = (),
) -> Plan:
    """A plan for the paints of a set by the recipe of `held`; its choices stay, and the rest is planned around them.

    Deterministic. Two paints of one file do not get the same target while the kit has steps of their hue left, unless
    they hardly differ; paints that differ in alpha only are one color. Where the one target that a color has in the
    whole set would lose something in a file, that file gets an exception. A kit without colors keeps everything.
    `forbidden` bars families from ramps, see `family_ramps`.
    """
    plan = _in_rows(with_proposed_theme(held or Plan(), paints, kit).ruled(paints, kit), paints)
    stands = {key: choice for key, choice in plan.choices.items() if "@" not in key}
    open_uses = [use for use in paints.uses if use.paint.key not in stands]
    exceptions: Mapping[str, Mapping[Rgb, Choice]] = {}
    if not kit.colors:
        left = {color: Choice(target=KEEP, reason="the kit has no colors yet") for color in _colors(open_uses)}
    else:
        left = _left_alone(_colors(open_uses), paints, kit, plan.recipe)
        made = MODES[plan.recipe.mode](_task(_but_for_rules(paints, plan), kit, plan, left, forbidden))
        left.update(made.choices)
        exceptions = made.files
    chosen = stands | {use.paint.key: left[use.paint.rgb] for use in open_uses}
    ordered = {use.paint.key: chosen[use.paint.key] for use in paints.uses}
    parts = {
        key: choice if choice.by != "plan" else ordered.get(key.partition("@")[0], choice)
        for key, choice in plan.choices.items()
        if "@" in key
    }
    planned = plan.with_(choices={**stands, **ordered, **parts})
    return planned.with_exceptions(_by_paint(paints, exceptions))


def _but_for_rules(paints: SetPaints, plan: Plan) -> SetPaints:
    """The paints without what rules say of wherever they stand but in pictures: there they are planned by these."""
    ruled = {
        use.paint
        for use in paints.uses
        if Kind.PICTURE in use.kinds and all(kind in plan.rules for kind in use.kinds if kind is not Kind.PICTURE)
    }
    if not plan.rules or not ruled:
        return paints

    def rest(file: FilePaints) -> FilePaints:
        left = tuple(paint for paint in file.paints if paint not in ruled)
        texts = tuple(one for one in file.measured.texts if ruled.isdisjoint((one.text.ink, one.ground)))
        return file._replace(paints=left, measured=file.measured.among(left, texts))

    files = tuple(file if file.on_pixels else rest(file) for file in paints.files)
    return replace(paints, files=files)


def _in_rows(plan: Plan, paints: SetPaints) -> Plan:
    """The plan with what is new in a row of near-equals where that row goes already; a choice by hand goes first."""
    lead_of = {**{lead: lead for lead in paints.rows.values()}, **paints.rows}
    in_rows = [(use.paint.key, lead_of[use.paint.rgb]) for use in paints.uses if use.paint.rgb in lead_of]
    goes: dict[Rgb, Choice] = {}
    for key, lead in in_rows:
        choice = plan.choices.get(key)
        if choice is not None and (lead not in goes or (choice.by == "you" and goes[lead].by != "you")):
            goes[lead] = choice
    new = {
        key: goes[lead].model_copy(update={"by": "plan", "reason": _AS_ITS_ROW})
        for key, lead in in_rows
        if lead in goes and key not in plan.choices
    }
    return plan.with_(choices={**plan.choices, **new}) if new else plan


def _by_paint(paints: SetPaints, files: Mapping[str, Mapping[Rgb, Choice]]) -> dict[str, dict[str, Choice]]:
    found: dict[str, dict[str, Choice]] = {}
    for file in paints.files:
        if file.name in files:
            own = files[file.name]
            found.setdefault(file.name, {}).update(
                {paint.key: own[paint.rgb] for paint in file.paints if paint.rgb in own}
            )
    return found


def nearest_step(paint: Rgb, color: KitColor) -> Token:
    """The step of one kit color that is nearest to a paint in luminance; its base where that is the step."""
    position = step_position(paint)
    steps = color.ramp
    step = min(STEPS, key=lambda step: abs(step_position(steps.at(step)) - position))
    return color.token(step)


def _colors(uses: Sequence[PaintUse]) -> list[Rgb]:
    return sorted({use.paint.rgb for use in uses})


def _left_alone(colors: Sequence[Rgb], paints: SetPaints, kit: Kit, recipe: Recipe) -> dict[Rgb, Choice]:
    """Natural tones, and the ends of the scale where they are to stay."""
    own = members(kit)
    left: dict[Rgb, Choice] = {}
    # Grounds and texts of mails are never skin or sky.
    if recipe.natural and recipe.mode is Mode.KIT and not paints.lettered:
        tones = paints.natural
        for color in colors:
            if color in tones and color not in own:
                left[color] = Choice(target=KEEP, reason=f"natural tone: may be {tones[color]}")
    if recipe.ends == "stay":
        for color in colors:
            if end_of(color) is not None:
                left[color] = Choice(target=KEEP, reason="white and near-black stay")
    asked = set(colors)
    for color, lead in paints.rows.items():
        # A row goes one way.
        if color not in asked or color in own or lead in own:
            continue
        if lead in left:
            left[color] = left[lead]
        else:
            left.pop(color, None)
    return left


def _task(
    paints: SetPaints, kit: Kit, plan: Plan, left: Mapping[Rgb, Choice], forbidden: Collection[tuple[int, str]]
) -> _Task:
    weights: dict[Rgb, float] = {}
    standing = {color: color for color in left}
    fixed = set(left)
    measured = any(use.area for use in paints.uses)
    for use in paints.uses:
        choice = plan.choices.get(use.paint.key)
        if choice is not None:
            standing[use.paint.rgb] = resolve_target(choice.target, kit) or use.paint.rgb
            if choice.by != "plan" or choice.target == KEEP:
                fixed.add(use.paint.rgb)
        elif use.paint.rgb not in left:
            weights[use.paint.rgb] = weights.get(use.paint.rgb, 0.0) + (use.area if measured else use.sites)
    # A paint may stand with one alpha and be new with another: it goes where it went.
    colors = tuple(sorted(weights))
    recipe = plan.recipe
    least = 0.001 * (sum(weights.values()) or 1.0)
    return _Task(
        colors,
        tuple(max(weights[color], least) for color in colors),
        _wanted(colors, kit, plan),
        lambda others: _wanted(others, kit, plan),
        oklch_of(colors) if colors else np.zeros((0, 3)),
        paints,
        kit,
        recipe,
        {color: became for color, became in standing.items() if color not in weights},
        frozenset(fixed),
        _ground(plan, kit),
        plan.ground is not None,
        _preferred(paints, kit, plan),
        forbidden,
    )


def _preferred(paints: SetPaints, kit: Kit, plan: Plan) -> frozenset[Rgb]:
    """What stands in the themes of decks after the plan: what is typed in and goes there follows them."""
    if not paints.theme or TypedCodes.key in plan.acts:
        return frozenset()
    found = (resolve_target(target, kit) for target in places_ruled(plan.part_rules).values())
    return frozenset(color for color in found if color is not None)


def _wanted(colors: Sequence[Rgb], kit: Kit, plan: Plan) -> Array:
    """Where colors are to stand on the scale of steps: where they are, but for the kit's white, and the plan's range
    and backing."""
    recipe, last = plan.recipe, len(STEPS) - 1
    places = np.array([step_position(color) for color in colors])
    if plan.ground is None and recipe.mode is Mode.KIT:
        places = _below_white(places, kit)
    if (recipe.low, recipe.high) != (0.0, 1.0):
        places = (1 - recipe.high) * last + np.clip(places, 0, last) * (recipe.high - recipe.low)
    if plan.ground is not None and (recipe.mode is not Mode.KIT or recipe.allowed is AllowedColors.DERIVED):
        places = _beside(places, step_position(_ground(plan, kit)))
    return places


def _below_white(places: Array, kit: Kit) -> Array:
    """Light places brought as far below the kit's white as they were below white, less and less down to `_AS_LIGHT`:
    beside a cream, what is as light as it does not look darker."""
    white = anchors(kit).get(0)
    if white is None:
        return places
    room = (_AS_LIGHT - step_position(white.base)) / (_AS_LIGHT - step_position(WHITE))
    return np.where(places < _AS_LIGHT, _AS_LIGHT - (_AS_LIGHT - places) * room, places)


def _beside(places: Array, backing: float) -> Array:
    """Places brought to the side of a backing where there is more room, 3:1 away from it, in their order."""
    last = float(len(STEPS) - 1)
    lighter, darker = backing - _CLEAR, last - (backing + _CLEAR)
    low, high = (0.0, max(lighter, 0.0)) if lighter >= darker else (min(backing + _CLEAR, last), last)
    return np.asarray(low + np.clip(places, 0, last) / last * (high - low))


def _ground(plan: Plan, kit: Kit) -> Rgb:
    """What drawings are seen on: their backing, the kit's background, or white."""
    backing = resolve_target(plan.ground, kit) if plan.ground else None
    return backing or next((color.base for color in kit.colors if color.role is Role.BACKGROUND), WHITE)


def _in_kit(task: _Task) -> StepPlan:
    planned = step_plan(_sought(task))
    if task.recipe.allowed is AllowedColors.STEPS:
        return planned
    own = [task.kit.color(_color_of(planned.choices[paint])) for paint in task.colors]
    return StepPlan(_as_shades(task, own, ends=not task.backed), {})


def _single(task: _Task) -> StepPlan:
    color = _ramp(task)
    if task.recipe.allowed is AllowedColors.DERIVED:
        return StepPlan(_as_shades(task, [color] * len(task.colors), ends=False), {})
    return step_plan(_sought(task, only=color.key))


def _as_shades(task: _Task, own: Sequence[KitColor], *, ends: bool) -> dict[Rgb, Choice]:
    backing = task.ground if task.backed else None
    return Shades(task.colors, task.wanted, own, task.paints, task.kit, task.standing, backing).chosen(ends=ends)


def _sought(task: _Task, only: str | None = None) -> Sought:
    return Sought(
        task.colors,
        task.weights,
        task.wanted_of,
        _aims(task),
        task.paints,
        task.kit,
        task.standing,
        task.fixed,
        task.ground,
        task.backed,
        only,
        task.preferred,
    )


def _aims(task: _Task) -> Array:
    """The hue that each color is to have: its own, or that of the ramp its family is given."""
    aims = task.lch[:, 2].copy()
    branded = task.recipe.policy is Policy.BRANDED
    if not (branded or task.forbidden) or task.recipe.mode is not Mode.KIT:
        return aims
    families = split(task.lch, task.weights)
    barred = {at for at, _ in task.forbidden}
    ramps = family_ramps(families, task.kit, task.recipe, task.forbidden)
    for at, (family, color) in enumerate(zip(families, ramps, strict=True)):
        if family.hue is not None and (branded or at in barred):
            aims[list(family.members)] = lch_of(color.base)[2]
    return aims


def _color_of(choice: Choice) -> str:
    return parse_token(choice.target).color


def _greyscale(task: _Task) -> StepPlan:
    color, tint = _ramp(task), task.recipe.tint
    reason = f"as light as it was, {tint:.0%} of the chroma of {color.name}"
    shades = {
        paint: Choice(target=shade(color.key, place, tint), reason=reason)
        for paint, place in zip(task.colors, spread(task.wanted), strict=True)
    }
    return StepPlan(shades, {})


def _two_tone(task: _Task) -> StepPlan:
    """Each color to the blend of the two ends that is as light as its place, the scale fitted between the ends."""
    dark, light = (_two_tone_end(task, at) for at in (1, 0))
    shares = np.linspace(1.0, 0.0, 41)
    ends = [task.kit.resolve(dark)], [task.kit.resolve(light)]
    scale = np.array([step_position(mixed(*ends, float(share))[0]) for share in shares])
    last = len(STEPS) - 1
    # A backing has set the places already; otherwise the whole scale is used.
    places = task.wanted if task.backed else scale[0] + np.clip(task.wanted, 0, last) / last * (scale[-1] - scale[0])
    blends = {
        paint: Choice(
            target=blend(dark, light, float(np.interp(place, scale, shares))),
            reason=f"between {task.kit.title(dark)} and {task.kit.title(light)} by its lightness",
        )
        for paint, place in zip(task.colors, spread(places), strict=True)
    }
    return StepPlan(blends, {})


#: How each mode chooses the targets of the open colors.
MODES: dict[Mode, Callable[[_Task], StepPlan]] = {
    Mode.KIT: _in_kit,
    Mode.SINGLE: _single,
    Mode.GREY: _greyscale,
    Mode.TWO_TONE: _two_tone,
}


def _ramp(task: _Task) -> KitColor:
    key = task.recipe.color
    known = {color.key: color for color in task.kit.colors}
    return known[key] if key in known else main_color(task.kit)


def _two_tone_end(task: _Task, at: int) -> Token:
    given = task.recipe.dark if at else task.recipe.light
    if given is not None and parse_token(given).color in {color.key for color in task.kit.colors}:
        return parse_token(given)
    bases = sorted(task.kit.colors, key=lambda color: -step_position(color.base) if at else step_position(color.base))
    if at:
        loud = main_color(task.kit)
        dark = loud.ramp.colors[-2]
        return Token(loud.key, STEPS[-2]) if step_position(dark) > 5 else Token(bases[0].key, None)
    return Token(bases[0].key, None)
