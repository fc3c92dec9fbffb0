"""Several good plans for one set, different from each other, best first."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from pavese.core.color.contrast import luminance
from pavese.core.color.difference import differences
from pavese.core.color.naming import hue_word
from pavese.core.color.oklab import oklch_of
from pavese.core.kit.kit import Kit
from pavese.core.kit.token import Token
from pavese.core.recolor.assign import assign
from pavese.core.recolor.families import split
from pavese.core.recolor.family_ramps import family_ramps
from pavese.core.recolor.figures import Figures, figures
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.on_pictures import with_pictures_apart, without_pictures_apart
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import fitting, grounds_and_inks, is_for, light_and_dark, quiet
from pavese.core.recolor.reading import readings_of_set
from pavese.core.recolor.recipe import AllowedColors, Mode, Policy, Recipe

#: How many plans are offered.
MOST = 6
#: Mean CIEDE2000 over the area by which two plans must differ to be two.
_UNLIKE = 3.0
_TURNED_FAMILIES = 4
#: Pairs that a set is tried in where two tones are wanted.
_TONES = 12


@dataclass(frozen=True)
class Alternative:
    """One plan with what it is, in words, and its figures; `lost` texts read before and do not read after."""

    plan: Plan
    title: str
    figures: Figures
    lost: int = 0


def alternatives(paints: SetPaints, kit: Kit, held: Plan) -> tuple[Alternative, ...]:
    """Up to `MOST` plans for a set by the recipe of `held`, whose choices all of them keep.

    The first is the one `assign` makes; in a mode of one color or of two tones the others are in other ones. For files
    with grounds and texts there follow one ground and one ink, light and dark (`quiet`), and every paint by itself
    where rules are in force. The others come from the other policy, from derived shades, and from barring the largest
    families from the ramp they were given, each in turn; what looks like one already there is left out.
    """
    usual = held.recipe.policy.value if held.recipe.mode is Mode.KIT else held.recipe.mode.value
    first = _made(paints, kit, held, held.recipe, (), usual)
    listed = [first, *(_whole(paints, kit, held) if kit.colors and is_for(paints) and not paints.theme else ())]
    rest = [_made(paints, kit, held, *way) for way in _ways(paints, kit, held.recipe)] if kit.colors else []
    for one in sorted(rest, key=lambda made: -round(made.figures.score, 2)):
        if len(listed) < MOST and all(_apart(paints, kit, one, other) > _UNLIKE for other in listed):
            listed.append(one)
    return tuple(listed)


def _whole(paints: SetPaints, kit: Kit, held: Plan) -> Iterator[Alternative]:
    """Results by one choice for all."""
    # What stands on pictures goes its own way in each, unless that was chosen.
    held = without_pictures_apart(paints, kit, held)
    if held.rules:
        yield _made(paints, kit, held.with_(rules={}), held.recipe, (), held.recipe.policy.value)
    pressed = fitting(paints)
    for pair in light_and_dark(kit):
        rules = quiet(kit, pair.ground, pair.ink, pressed).rules
        if rules != held.rules:
            title = f"one ground, one ink: {kit.title(pair.ink)} on {kit.title(pair.ground)}"
            apart = with_pictures_apart(paints, kit, held.with_(rules=rules))
            yield _made(paints, kit, apart, held.recipe, (), title)


def _made(
    paints: SetPaints, kit: Kit, held: Plan, recipe: Recipe, forbidden: Collection[tuple[int, str]], title: str
) -> Alternative:
    plan = assign(paints, kit, held.with_(recipe=recipe), forbidden)
    found = figures(paints, plan.resolve(kit), kit, plan.own_colors(kit))
    lost = sum(one.worse for one in readings_of_set(paints, plan, plan.kit_with_guests(kit)))
    return Alternative(plan, title, found, lost)


def _tones(kit: Kit) -> list[tuple[Token, Token]]:
    """A dark and a light color of each pair that a text may be in, as those stand."""
    pairs = [(one.ground, one.ink) for one in grounds_and_inks(kit)]
    ordered = (sorted(pair, key=lambda token: luminance(kit.resolve(token))) for pair in pairs)
    return list(dict.fromkeys((dark, light) for dark, light in ordered))[:_TONES]


def _ways(paints: SetPaints, kit: Kit, recipe: Recipe) -> Iterator[tuple[Recipe, Collection[tuple[int, str]], str]]:
    if recipe.mode is Mode.TWO_TONE:
        for dark, light in _tones(kit):
            ends = recipe.model_copy(update={"dark": str(dark), "light": str(light)})
            yield ends, (), f"{kit.title(dark)} to {kit.title(light)}"
        return
    if recipe.mode is not Mode.KIT:
        for color in kit.colors:
            if color.key != recipe.color:
                yield recipe.model_copy(update={"color": color.key}), (), f"with {color.name}"
        return
    other = Policy.BRANDED if recipe.policy is Policy.FAITHFUL else Policy.FAITHFUL
    yield recipe.model_copy(update={"policy": other}), (), other.value
    if recipe.allowed is AllowedColors.STEPS:
        yield recipe.model_copy(update={"allowed": AllowedColors.DERIVED}), (), "with derived shades"
    colors = sorted({use.paint.rgb for use in paints.uses})
    weight = dict.fromkeys(colors, 0.0)
    for use in paints.uses:
        weight[use.paint.rgb] += use.area or use.sites * 1e-4
    families = split(oklch_of(colors), [weight[color] for color in colors]) if colors else []
    for policy in (recipe.policy, other):
        settings = recipe.model_copy(update={"policy": policy})
        found = family_ramps(families, kit, settings)
        for at, family in [(i, f) for i, f in enumerate(families) if f.hue is not None][:_TURNED_FAMILIES]:
            barred = {(at, found[at].key)}
            again = family_ramps(families, kit, settings, barred)
            if again[at].key != found[at].key:
                title = f"{policy.value}, {hue_word(family.hue or 0.0)} to {again[at].name}"
                yield settings, tuple(sorted(barred)), title


def _apart(paints: SetPaints, kit: Kit, one: Alternative, other: Alternative) -> float:
    first, second = one.plan.resolve(kit), other.plan.resolve(kit)
    total = found = 0.0
    for use in paints.uses:
        weight = use.area or use.sites * 1e-4
        a, b = first.get(use.paint, use.paint.rgb), second.get(use.paint, use.paint.rgb)
        total += weight
        found += weight * (0.0 if a == b else float(differences([a], [b])[0, 0]))
    return found / total if total else 0.0
