"""The automatic plan: every paint of a set to a color of the kit.

Paints are split into families (`families`), each family gets a ramp (`family_ramps`), and paints get steps (`search`),
or, where derived shades are allowed, the shade of their ramp that is exactly as light as they are. The other modes need
only lightness. Modes are entries of `MODES`.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from scipy.spatial import KDTree

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, WHITE, contrast_ratio, contrast_table
from pavese.core.color.difference import NEAR, SAME, differences
from pavese.core.color.naming import describe
from pavese.core.color.oklab import Array, oklab_of, oklch_of
from pavese.core.color.ramp import STEPS, step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor, members
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token, parse_token
from pavese.core.recolor.families import PaintFamily, is_neutral, split
from pavese.core.recolor.family_ramps import QUIET, family_ramps, main_color
from pavese.core.recolor.inventory import Kind, PaintUse, SetPaints
from pavese.core.recolor.natural import natural_tone
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.recipe import AllowedColors, Mode, Recipe
from pavese.core.recolor.search import SHARED, Pair, Problem, Step, solve, step_of
from pavese.core.recolor.target import KEEP, blend, mixed, resolve_target, shade

_ENDS = {Role.BACKGROUND: 0, Role.TEXT_DARK: 1, Role.TEXT_LIGHT: 0}

# Costs, in units of squared steps: leaving the family's ramp costs as much as a shift of four to eight steps.
# Neutral ramps count as one family; its lightest and darkest paints go to the bases of background and text.
_OTHER_NEUTRAL = 4.0
_ANCHOR_BONUS = 5.0
_END_BONUS = 15.0
_OTHER_RAMP = 12.0
_PER_TURN = 60.0
_OFF_GROUND = 30.0
#: A backing is there for the figure to stand out from: whatever it takes, short of sharing a step.
_OFF_BACKING = 4000.0
#: Steps that reach 3:1 between them, with a little to spare for rounding.
_CLEAR = 4.05
#: What a difference of 0.1 in OKLCH chroma costs: a vivid paint rather goes half a step off than gets pale.
_PALER = 5.0
#: The paint that covers most counts this much more than one that covers nothing: what must go elsewhere is small.
_HEAVY = 2.0

#: Places in the luminance-aligned scale beyond which a neutral is the white, or the near-black, of a drawing.
_WHITE_END, _BLACK_END = -0.2, 9.4
#: How many neighbors in lightness of its own family a paint is compared with.
_NEIGHBORS = 2
#: Colors that are planned together: with so many it takes two seconds, and its time grows faster than their number.
_MOST_SEARCHED = 700
#: Derived shades of one ramp stay at least this part of a step apart.
_APART = 0.04
#: A derived shade within this part of a step is that step.
_SNAP = 0.12


@dataclass(frozen=True)
class _Task:
    """What is to be planned: distinct open colors with their weights and wanted places, and what stands already."""

    colors: tuple[Rgb, ...]
    weights: tuple[float, ...]
    wanted: Array
    lch: Array
    paints: SetPaints
    kit: Kit
    recipe: Recipe
    standing: Mapping[Rgb, Rgb]
    ground: Rgb
    backed: bool
    forbidden: Collection[tuple[int, str]]


def assign(
    paints: SetPaints,
    kit: Kit,
    held: Plan | None = None,
    forbidden: Collection[tuple[int, str]] = (),
) -> Plan:
    """A plan for the paints of a set by the recipe of `held`; its choices stay and their steps are taken.

    Deterministic. Two colors never get the same target while the kit has steps left; paints that differ in alpha
    only are one color. A kit without colors keeps everything. `forbidden` bars families from ramps, see
    `family_ramps`.
    """
    plan = (held or Plan()).ruled(paints.uses)
    fixed = {key: choice for key, choice in plan.choices.items() if "@" not in key}
    open_uses = [use for use in paints.uses if use.paint.key not in fixed]
    if not kit.colors:
        left = {color: Choice(target=KEEP, reason="the kit has no colors yet") for color in _colors(open_uses)}
    else:
        left = _left_alone(_colors(open_uses), kit, plan.recipe)
        task = _task(paints, kit, plan, left, forbidden)
        left.update(_planned(task) if task.colors else {})
    auto = {use.paint.key: left[use.paint.rgb] for use in open_uses}
    ordered = {use.paint.key: (fixed | auto)[use.paint.key] for use in paints.uses}
    parts = {
        key: choice if choice.by != "plan" else ordered.get(key.partition("@")[0], choice)
        for key, choice in plan.choices.items()
        if "@" in key
    }
    return plan.with_(choices={**fixed, **ordered, **parts})


def nearest_step(paint: Rgb, color: KitColor) -> Token:
    """The step of one kit color that is nearest to a paint in luminance; its base where that is the step."""
    position = step_position(paint)
    steps = color.ramp
    step = min(STEPS, key=lambda step: abs(step_position(steps.at(step)) - position))
    return Token(color.key, None if step == steps.base_step else step)


def needed_ratio(first: Rgb, second: Rgb, text: bool) -> float:
    """The ratio that two colors which touch are to keep: the level they reach for graphics, or for text."""
    ratio = contrast_ratio(first, second)
    levels = (ENHANCED, TEXT, LARGE) if text else (LARGE,)
    return next((level for level in levels if ratio >= level), 1.0)


def _planned(task: _Task) -> dict[Rgb, Choice]:
    """The choices of the task's mode. Of very many colors the weightiest are planned, the others follow the nearest."""
    mode = MODES[task.recipe.mode]
    if len(task.colors) <= _MOST_SEARCHED:
        return mode(task)
    heaviest = sorted(range(len(task.colors)), key=lambda i: (-task.weights[i], task.colors[i]))[:_MOST_SEARCHED]
    at = sorted(heaviest)
    chosen = mode(
        replace(
            task,
            colors=tuple(task.colors[i] for i in at),
            weights=tuple(task.weights[i] for i in at),
            wanted=task.wanted[at],
            lch=task.lch[at],
        )
    )
    leaders = [task.colors[i] for i in at]
    rest = [color for color in task.colors if color not in chosen]
    nearest = KDTree(oklab_of(leaders)).query(oklab_of(rest))[1]
    for color, leader in zip(rest, nearest.tolist(), strict=True):
        leading = leaders[leader]
        chosen[color] = Choice(
            target=chosen[leading].target,
            reason=f"goes with {leading.hex}, the nearest of the colors that stand in more",
        )
    return chosen


def _colors(uses: Sequence[PaintUse]) -> list[Rgb]:
    return sorted({use.paint.rgb for use in uses})


def _left_alone(colors: Sequence[Rgb], kit: Kit, recipe: Recipe) -> dict[Rgb, Choice]:
    """Natural tones, and the ends of the scale where they are to stay."""
    own = members(kit)
    left: dict[Rgb, Choice] = {}
    strangers = [color for color in colors if color not in own]
    if recipe.natural and strangers and recipe.mode is Mode.KIT:
        near = differences(strangers, list(own)).min(axis=1) if own else np.full(len(strangers), 99.0)
        for color, distance in zip(strangers, near.tolist(), strict=True):
            tone = natural_tone(color)
            if tone and distance >= NEAR / 2:
                left[color] = Choice(target=KEEP, reason=f"natural tone: may be {tone}")
    if recipe.ends == "stay":
        for color in colors:
            if _end(color) is not None:
                left[color] = Choice(target=KEEP, reason="white and near-black stay")
    return left


def _end(color: Rgb) -> int | None:
    """0 for a white, 1 for a near-black, None for anything between."""
    if not is_neutral(oklch_of([color])[0]):
        return None
    place = step_position(color)
    return 0 if place < _WHITE_END else 1 if place > _BLACK_END else None


def _task(
    paints: SetPaints, kit: Kit, plan: Plan, left: Mapping[Rgb, Choice], forbidden: Collection[tuple[int, str]]
) -> _Task:
    weights: dict[Rgb, float] = {}
    standing = {color: color for color in left}
    measured = any(use.area for use in paints.uses)
    for use in paints.uses:
        choice = plan.choices.get(use.paint.key)
        if choice is not None:
            standing[use.paint.rgb] = resolve_target(choice.target, kit) or use.paint.rgb
        elif use.paint.rgb not in left:
            weights[use.paint.rgb] = weights.get(use.paint.rgb, 0.0) + (use.area if measured else use.sites)
    colors = tuple(sorted(weights))
    recipe = plan.recipe
    last = len(STEPS) - 1
    places = np.array([step_position(color) for color in colors])
    if (recipe.low, recipe.high) != (0.0, 1.0):
        places = (1 - recipe.high) * last + np.clip(places, 0, last) * (recipe.high - recipe.low)
    if plan.ground is not None and (recipe.mode is not Mode.KIT or recipe.allowed is AllowedColors.DERIVED):
        places = _beside(places, step_position(_ground(plan, kit)))
    least = 0.001 * (sum(weights.values()) or 1.0)
    heavy = tuple(max(weights[color], least) for color in colors)
    lch = oklch_of(colors) if colors else np.zeros((0, 3))
    return _Task(
        colors,
        heavy,
        places,
        lch,
        paints,
        kit,
        recipe,
        standing,
        _ground(plan, kit),
        plan.ground is not None,
        forbidden,
    )


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


def _in_kit(task: _Task) -> dict[Rgb, Choice]:
    families = split(task.lch, task.weights)
    found = family_ramps(families, task.kit, task.recipe, task.forbidden)
    ramp_of_paint = {i: ramp for family, ramp in zip(families, found, strict=True) for i in family.members}
    own = [ramp_of_paint[i] for i in range(len(task.colors))]
    if task.recipe.allowed is AllowedColors.DERIVED:
        return _as_shades(task, own)
    return _as_steps(task, families, own)


def _single(task: _Task) -> dict[Rgb, Choice]:
    color = _ramp(task)
    if task.recipe.allowed is AllowedColors.DERIVED:
        return _as_shades(task, [color] * len(task.colors), ends=False)
    everything = PaintFamily(0.0, tuple(range(len(task.colors))), 1.0, 0.0)
    return _as_steps(task, [everything], [color] * len(task.colors), only=color)


def _greyscale(task: _Task) -> dict[Rgb, Choice]:
    color, tint = _ramp(task), task.recipe.tint
    reason = f"as light as it was, {tint:.0%} of the chroma of {color.name}"
    return {
        paint: Choice(target=shade(color.key, place, tint), reason=reason)
        for paint, place in zip(task.colors, _spread(task.wanted), strict=True)
    }


def _two_tone(task: _Task) -> dict[Rgb, Choice]:
    """Each color to the blend of the two ends that is as light as its place, the scale fitted between the ends."""
    dark, light = (_two_tone_end(task, at) for at in (1, 0))
    shares = np.linspace(1.0, 0.0, 41)
    ends = [task.kit.resolve(dark)], [task.kit.resolve(light)]
    scale = np.array([step_position(mixed(*ends, float(share))[0]) for share in shares])
    last = len(STEPS) - 1
    # A backing has set the places already; otherwise the whole scale is used.
    places = task.wanted if task.backed else scale[0] + np.clip(task.wanted, 0, last) / last * (scale[-1] - scale[0])
    return {
        paint: Choice(
            target=blend(dark, light, float(np.interp(place, scale, shares))),
            reason=f"between {task.kit.title(dark)} and {task.kit.title(light)} by its lightness",
        )
        for paint, place in zip(task.colors, _spread(places), strict=True)
    }


#: How each mode chooses the targets of the open colors.
MODES: dict[Mode, Callable[[_Task], dict[Rgb, Choice]]] = {
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


def _spread(places: Array) -> list[float]:
    """Places on the scale, bounded to it, with those that would fall together moved a little apart, order kept."""
    last = float(len(STEPS) - 1)
    order = np.argsort(places, kind="stable")
    spread = np.clip(places, 0, last).astype(float)
    step = min(_APART, last / max(len(places), 1))
    for before, at in pairwise(order):
        spread[at] = max(spread[at], spread[before] + step)
    over = float(spread[order[-1]]) - last if len(order) else 0.0
    if over > 0:
        room = last
        for at in order[::-1]:
            spread[at] = min(spread[at], room)
            room = spread[at] - step
    return [max(float(place), 0.0) for place in spread]


def _as_shades(task: _Task, own: Sequence[KitColor], *, ends: bool = True) -> dict[Rgb, Choice]:
    """Each color to the shade of its ramp that is as light as it is; whites and near-blacks to the kit's own."""
    chosen: dict[Rgb, Choice] = {}
    anchors = _anchors(task.kit) if ends and not task.backed else {}
    for ramp in dict.fromkeys(own):
        rows = [i for i, color in enumerate(own) if color.key == ramp.key]
        for i, place in zip(rows, _spread(task.wanted[rows]), strict=True):
            paint = task.colors[i]
            end = _end(paint)
            if end is not None and end in anchors and anchors[end][0] not in {c.target for c in chosen.values()}:
                target, name = anchors[end]
                chosen[paint] = Choice(target=target, reason=f"the {'near-black' if end else 'white'} becomes {name}")
                continue
            near = round(place)
            snapped = float(near) if abs(place - near) < _SNAP and len(rows) < len(STEPS) / 2 else place
            target = shade(ramp.key, snapped)
            chosen[paint] = Choice(
                target=target, reason=f"{describe(paint)}: a shade of {ramp.name} as light as it was"
            )
    return chosen


def _anchors(kit: Kit) -> dict[int, tuple[str, str]]:
    found: dict[int, tuple[str, str]] = {}
    for color in kit.colors:
        end = _ENDS.get(color.role)
        if end is not None and color.role is not Role.TEXT_LIGHT:
            found.setdefault(end, (str(Token(color.key, None)), color.name))
    return found


def _as_steps(
    task: _Task, families: Sequence[PaintFamily], own: Sequence[KitColor], only: KitColor | None = None
) -> dict[Rgb, Choice]:
    steps = _steps(task, only)
    problem = Problem(steps, _costs(task, own, steps), _pairs(task, families))
    at = solve(problem).tolist()
    used: dict[int, int] = {}
    chosen: dict[Rgb, Choice] = {}
    by_weight = sorted(range(len(at)), key=lambda i: (-task.weights[i], task.colors[i]))
    for i in by_weight:
        shared = at[i] in used
        used[at[i]] = i
        token, color, place, _ = steps[at[i]]
        moved = abs(place - float(np.clip(task.wanted[i], 0, len(STEPS) - 1)))
        reason = _reason(task.colors[i], color, token, task.kit, own[i], shared=shared, moved=moved)
        chosen[task.colors[i]] = Choice(target=str(token), reason=reason)
    return chosen


def _steps(task: _Task, only: KitColor | None) -> tuple[Step, ...]:
    """The steps still free; each color of the kit once, under the first token that gives it."""
    taken = set(task.standing.values())
    free: dict[Rgb, Token] = {}
    everything: dict[Rgb, Token] = {}
    for token, color in task.kit.tokens():
        if only is None or token.color == only.key:
            everything.setdefault(color, token)
            if color not in taken:
                free.setdefault(color, token)
    groups = {color.key: "quiet" if color.role in QUIET else color.key for color in task.kit.colors}
    return tuple(step_of(token, color, groups[token.color]) for color, token in (free or everything).items())


def _costs(task: _Task, own: Sequence[KitColor], steps: Sequence[Step]) -> Array:
    """How badly each step fits each paint, shape (paints, steps): squared steps, and more off the family's ramp."""
    kit, colors = task.kit, task.colors
    index = {color.key: i for i, color in enumerate(kit.colors)}
    gap = task.wanted[:, None] - np.array([one.position for one in steps])
    moved = _moves(kit)[
        np.array([index[ramp.key] for ramp in own])[:, None], np.array([index[one.token.color] for one in steps])
    ]
    quiet_ramp = np.array([ramp.role in QUIET for ramp in own])[:, None]
    bases = [kit.color(one.token.color).role if one.token.step is None else None for one in steps]
    anchor = np.array([role in _ENDS for role in bases])
    paler = task.lch[:, 1][:, None] - oklch_of([one.color for one in steps])[:, 1]
    heavy = np.sqrt(np.array(task.weights) / max(task.weights))[:, None]
    cost = (gap**2 + _PALER * (10 * paler) ** 2 + moved) * (1 + _HEAVY * heavy) - _ANCHOR_BONUS * (quiet_ramp & anchor)
    for end, role in ((0, Role.BACKGROUND), (1, Role.TEXT_DARK)):
        rows = np.array([_end(color) == end for color in colors])[:, None]
        cost -= _END_BONUS * (rows & np.array([of is role for of in bases]))
    same = differences(colors, [one.color for one in steps]) < SAME
    return np.asarray(np.where(same, -SHARED / 2, cost) + _against_what_stands(task, steps))


def _against_what_stands(task: _Task, steps: Sequence[Step]) -> Array:
    """What each step costs each paint for contrast with the ground behind it and with paints that stay."""
    cost = np.zeros((len(task.colors), len(steps)))
    row = {color: i for i, color in enumerate(task.colors)}
    shown = [one.color for one in steps]
    of_ground = contrast_table([task.ground], shown)[0]
    for paint in task.paints.outline:
        at = row.get(paint.rgb)
        if at is not None and (contrast_ratio(paint.rgb, WHITE) >= LARGE or task.backed):
            cost[at] += (_OFF_BACKING if task.backed else _OFF_GROUND) * (of_ground < LARGE)
    texts = _texts(task.paints)
    for first, second in task.paints.touching:
        for one, other in ((first.rgb, second.rgb), (second.rgb, first.rgb)):
            at, stays = row.get(one), task.standing.get(other)
            if at is not None and stays is not None:
                needed = needed_ratio(one, other, one in texts or other in texts)
                if needed > 1:
                    ratio = contrast_table([stays], shown)[0]
                    cost[at] += _OFF_GROUND * (ratio < needed)
    return cost


def _pairs(task: _Task, families: Sequence[PaintFamily]) -> tuple[Pair, ...]:
    row = {color: i for i, color in enumerate(task.colors)}
    texts = _texts(task.paints)
    most = max(task.paints.touching.values(), default=1.0)
    found: dict[tuple[int, int], Pair] = {}
    shades: list[Pair] = []
    for (one, other), border in task.paints.touching.items():
        first, second = row.get(one.rgb), row.get(other.rgb)
        if first is None or second is None or first == second:
            continue
        if task.wanted[first] > task.wanted[second]:
            first, second = second, first
        needed = needed_ratio(one.rgb, other.rgb, one.rgb in texts or other.rgb in texts)
        weight = 0.5 + 0.5 * border / most
        known = found.get((first, second))
        if known is None or known.weight < weight:
            found[first, second] = Pair(first, second, needed, weight)
    for family in families:
        order = sorted(family.members, key=lambda i: (float(task.wanted[i]), task.colors[i]))
        for apart in range(1, _NEIGHBORS + 1):
            for first, second in zip(order, order[apart:], strict=False):
                shades.append(Pair(first, second, 1.0, 1.0, apart=True))
    return (*found.values(), *shades)


def _texts(paints: SetPaints) -> set[Rgb]:
    return {use.paint.rgb for use in paints.uses if Kind.TEXT in use.kinds}


def _moves(kit: Kit) -> Array:
    """What it costs to leave the ramp of one kit color for that of another, shape (colors, colors)."""
    hues = oklch_of([color.base for color in kit.colors])[:, 2]
    quiet = np.array([color.role in QUIET for color in kit.colors])
    turn = np.abs((hues[:, None] - hues + 180) % 360 - 180) / 180
    both_quiet = quiet[:, None] & quiet
    table = _OTHER_RAMP + _PER_TURN * np.where(quiet[:, None] == quiet, turn, 1.0)
    table = np.where(both_quiet, _OTHER_NEUTRAL, table)
    np.fill_diagonal(table, 0.0)
    return np.asarray(table)


def _reason(paint: Rgb, color: Rgb, token: Token, kit: Kit, ramp: KitColor, *, shared: bool, moved: float) -> str:
    if shared:
        return "the kit has no step left, so it shares the nearest one"
    if differences([paint], [color])[0, 0] < SAME:
        return "it is this color of the kit already"
    goal = kit.color(token.color)
    away = f", {moved:.0f} steps off to stay apart from what it touches" if moved > 1.5 else ""
    if token.color == ramp.key:
        return f"{describe(paint)}: same family and lightness as {goal.name}{away}"
    if ramp.role in QUIET and goal.role in QUIET:
        return f"{describe(paint)}: a neutral of this lightness; {goal.name} is the kit's {goal.role.value}{away}"
    return f"{describe(paint)}: nearest free step, since {ramp.name} has none left at this lightness{away}"
