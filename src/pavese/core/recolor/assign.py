"""The automatic plan: every paint of a set to a step of the kit.

This first version works in two assignments, each an optimum (`scipy.optimize.linear_sum_assignment`): families of
paints by hue to the colors of the kit, then paints to steps. The cost of a step grows with the square of its
distance in the luminance-aligned scale, and a convex cost keeps the order of lightness within a ramp.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import linear_sum_assignment

from pavese.core.color.difference import SAME, differences
from pavese.core.color.naming import describe
from pavese.core.color.oklab import Array, hue_distance, oklch_of
from pavese.core.color.ramp import STEPS, step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor, Role, Token
from pavese.core.recolor.inventory import PaintUse
from pavese.core.recolor.plan import Choice, Plan, resolve_target

#: Below this OKLCH chroma a color reads as neutral; near white and near black more is needed to see a hue.
_NEUTRAL = 0.035
#: Hues of one family lie within this many degrees of its heaviest member.
_FAMILY_WIDTH = 28.0
_QUIET_ROLES = frozenset((Role.NEUTRAL, Role.BACKGROUND, Role.TEXT_DARK, Role.TEXT_LIGHT))
_ANCHORS = frozenset((Role.BACKGROUND, Role.TEXT_DARK, Role.TEXT_LIGHT))

# Costs, in units of squared steps: leaving the family's ramp costs as much as a shift of four to eight steps.
# Neutral ramps count as one family; its lightest and darkest paints go to the bases of background and text.
_OTHER_NEUTRAL = 4.0
_ANCHOR_BONUS = 5.0
_OTHER_RAMP = 12.0
_PER_TURN = 60.0
_SHARED_STEP = 5000.0

#: What a family pays, in degrees of hue, for each family already on a ramp: less than it takes to turn skin green.
_SHARED_RAMP = 30.0


@dataclass(frozen=True)
class _Family:
    """Paint colors of one hue (None: neutrals), as indices, with their weight."""

    hue: float | None
    members: tuple[int, ...]
    weight: int


def assign(uses: Sequence[PaintUse], kit: Kit, held: Plan | None = None) -> Plan:
    """A plan for the paints of a set; choices in `held` stay and their steps are taken.

    Deterministic. Two colors never get the same target while the kit has steps left; paints that differ in alpha
    only are one color. A kit without colors keeps everything.
    """
    fixed = dict(held.choices) if held else {}
    open_uses = [use for use in uses if use.paint.key not in fixed]
    colors = sorted({use.paint.rgb for use in open_uses})
    slots = _slots(kit, fixed)
    if not colors or not kit.colors:
        kept = {use.paint.key: Choice(target="keep", reason="the kit has no colors yet") for use in open_uses}
        return Plan(choices={**fixed, **kept})
    weights = dict.fromkeys(colors, 0)
    for use in open_uses:
        weights[use.paint.rgb] += use.sites
    choices = _to_steps(colors, [weights[color] for color in colors], kit, slots)
    auto = {use.paint.key: choices[use.paint.rgb] for use in open_uses}
    ordered = {use.paint.key: (fixed | auto)[use.paint.key] for use in uses}
    return Plan(choices={**fixed, **ordered})


def nearest_step(paint: Rgb, color: KitColor) -> Token:
    """The step of one kit color that is nearest to a paint in luminance; its base where that is the step."""
    position = step_position(paint)
    steps = color.ramp
    step = min(STEPS, key=lambda step: abs(step_position(steps.at(step)) - position))
    return Token(color.key, None if step == steps.base_step else step)


def _slots(kit: Kit, fixed: dict[str, Choice]) -> list[tuple[Token, Rgb]]:
    """The steps still free; each color of the kit once, under the first token that gives it."""
    taken = {resolve_target(choice.target, kit) for choice in fixed.values()}
    free: dict[Rgb, Token] = {}
    everything: dict[Rgb, Token] = {}
    for token, color in kit.tokens():
        everything.setdefault(color, token)
        if color not in taken:
            free.setdefault(color, token)
    return [(token, color) for color, token in (free or everything).items()]


def _to_steps(
    colors: Sequence[Rgb], weights: Sequence[int], kit: Kit, slots: Sequence[tuple[Token, Rgb]]
) -> dict[Rgb, Choice]:
    lch = oklch_of(colors)
    families = _families(lch, weights)
    homes = _homes(families, kit)
    home_of = {i: home for family, home in zip(families, homes, strict=True) for i in family.members}
    cost = _costs(colors, [home_of[i] for i in range(len(colors))], kit, slots)
    rounds = -(-len(colors) // len(slots))
    table = np.hstack([cost + _SHARED_STEP * n for n in range(rounds)])
    rows, columns = linear_sum_assignment(table)
    chosen: dict[Rgb, Choice] = {}
    for row, column in zip(rows.tolist(), columns.tolist(), strict=True):
        token, color = slots[column % len(slots)]
        chosen[colors[row]] = Choice(
            target=str(token), reason=_reason(colors[row], color, token, kit, home_of[row], column >= len(slots))
        )
    return chosen


def _families(lch: Array, weights: Sequence[int]) -> list[_Family]:
    """Neutrals first, then hue families, heaviest first: each gathers what lies near its heaviest member."""
    neutral = [i for i in range(len(lch)) if _is_neutral(lch[i])]
    families = [_Family(None, tuple(neutral), sum(weights[i] for i in neutral))] if neutral else []
    quiet = set(neutral)
    left = sorted((i for i in range(len(lch)) if i not in quiet), key=lambda i: (-weights[i] * float(lch[i, 1]), i))
    while left:
        hue = float(lch[left[0], 2])
        near = [i for i in left if hue_distance(float(lch[i, 2]), hue) <= _FAMILY_WIDTH]
        families.append(_Family(hue, tuple(near), sum(weights[i] for i in near)))
        gathered = set(near)
        left = [i for i in left if i not in gathered]
    return families


def _is_neutral(lch: Array) -> bool:
    lightness, chroma = float(lch[0]), float(lch[1])
    edge = 0.02 if lightness > 0.96 else _NEUTRAL
    return chroma < edge or lightness < 0.12


def _homes(families: Sequence[_Family], kit: Kit) -> list[KitColor]:
    """The color of the kit for each family: hue families spread over the vivid colors, nearest hues first."""
    hues = oklch_of([color.base for color in kit.colors])
    vivid = [i for i, color in enumerate(kit.colors) if color.role not in _QUIET_ROLES] or list(range(len(kit.colors)))
    quiet = [i for i, color in enumerate(kit.colors) if color.role in _QUIET_ROLES] or list(range(len(kit.colors)))
    main_neutral = min(quiet, key=lambda i: (kit.colors[i].role is not Role.NEUTRAL, float(hues[i, 1]), i))
    colored = [family for family in families if family.hue is not None]
    homes: dict[int, int] = {}
    if colored:
        rounds = len(colored)
        cost = np.array([[hue_distance(family.hue or 0.0, float(hues[i, 2])) for i in vivid] for family in colored])
        table = np.hstack([cost + _SHARED_RAMP * n for n in range(rounds)])
        # What is seen most has the first choice.
        table *= np.array([family.weight for family in colored])[:, None]
        rows, columns = linear_sum_assignment(table)
        homes = {int(row): vivid[int(column) % len(vivid)] for row, column in zip(rows, columns, strict=True)}
    found = iter(range(len(colored)))
    return [kit.colors[main_neutral if family.hue is None else homes[next(found)]] for family in families]


def _costs(colors: Sequence[Rgb], homes: Sequence[KitColor], kit: Kit, slots: Sequence[tuple[Token, Rgb]]) -> Array:
    """How badly each step fits each paint, shape (paints, slots): squared steps, and more off the family's ramp."""
    index = {color.key: i for i, color in enumerate(kit.colors)}
    gap = np.array([step_position(color) for color in colors])[:, None] - np.array(
        [step_position(color) for _, color in slots]
    )
    moved = _moves(kit)[
        np.array([index[home.key] for home in homes])[:, None], np.array([index[token.color] for token, _ in slots])
    ]
    quiet_home = np.array([home.role in _QUIET_ROLES for home in homes])[:, None]
    anchor = np.array([token.step is None and kit.color(token.color).role in _ANCHORS for token, _ in slots])
    cost = gap**2 + moved - _ANCHOR_BONUS * (quiet_home & anchor)
    same = differences(colors, [color for _, color in slots]) < SAME
    return np.asarray(np.where(same, -_SHARED_STEP / 2, cost))


def _moves(kit: Kit) -> Array:
    """What it costs to leave the ramp of one kit color for that of another, shape (colors, colors)."""
    hues = oklch_of([color.base for color in kit.colors])[:, 2]
    quiet = np.array([color.role in _QUIET_ROLES for color in kit.colors])
    turn = np.abs((hues[:, None] - hues + 180) % 360 - 180) / 180
    both_quiet = quiet[:, None] & quiet
    table = _OTHER_RAMP + _PER_TURN * np.where(quiet[:, None] == quiet, turn, 1.0)
    table = np.where(both_quiet, _OTHER_NEUTRAL, table)
    np.fill_diagonal(table, 0.0)
    return np.asarray(table)


def _reason(paint: Rgb, color: Rgb, token: Token, kit: Kit, home: KitColor, shared: bool) -> str:
    if shared:
        return "the kit has no step left, so it shares the nearest one"
    if differences([paint], [color])[0, 0] < SAME:
        return "it is this color of the kit already"
    if token.color == home.key:
        return f"{describe(paint)}: same family and lightness as {kit.color(token.color).name}"
    goal = kit.color(token.color)
    if home.role in _QUIET_ROLES and goal.role in _QUIET_ROLES:
        return f"{describe(paint)}: a neutral of this lightness; {goal.name} is the kit's {goal.role.value}"
    return f"{describe(paint)}: nearest free step, since {home.name} has none left at this lightness"
