"""Which colors of a kit go to the places of a theme, proposed from roles and from what decks use each place for.

What the kit says of a place itself goes there (`Kit.theme`). Neighbors among the accents are to be told apart
(`color.neighbors`, as charts take them in their order), each accent to stand out from the light ground (3:1) and from
what its figures lie on in the decks at hand, and what is read on what there to be read still.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from itertools import chain

import numpy as np
from scipy.optimize import linear_sum_assignment

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, WHITE, contrast_ratio, contrast_table, luminance
from pavese.core.color.derived import derived
from pavese.core.color.difference import differences
from pavese.core.color.neighbors import shares
from pavese.core.color.oklab import Array, lch_of, oklch_of
from pavese.core.color.overlay import mixed
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.deck_theme import ACCENTS, PLACES
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token, parse_token
from pavese.core.recolor.colorfulness import of_its_hue
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.theme import MixedPlaces, Needed, Pointing, places_ruled
from pavese.core.recolor.theme_in_use import TYPED, UNUSED, Figure, InUse, Need, in_use

#: How light a color is that light places take, and how dark for dark ones.
_LIGHT, _DARK = 0.6, 0.2
_ROLES = (Role.PRIMARY, Role.SECONDARY, Role.ACCENT)
#: With so many colors for accents the one for actions is kept for what matters.
_ENOUGH = 4

#: What it costs an accent to be another color than the one it is to be, a quiet one, a step away from its base; not to
#: stand out or read; to be told from a neighbor hardly, or only in some ways of seeing; and to be there already.
_OTHER, _QUIET, _STEP_AWAY, _SINKS, _UNREAD = 60.0, 80.0, 4.0, 80.0, 1500.0
#: A wish of a place that is not met, and what is offered one later; what never pays; how much less it counts to lose
#: what was hardly read before, or that what was read well just passes, and how much it does at least that something is
#: no longer read that was.
_WISH, _LATER, _NEVER, _FAINT, _SQUEEZED, _LOST_AT_ALL = 30.0, 2.0, 10_000.0, 0.1, 0.1, 0.4
#: The ratios that tell a text that reads.
_LEVELS = frozenset(1 + (level - 1) * share for level in (LARGE, TEXT) for share in (1.0, TYPED))
_FIRST_AWAY, _IN_A_RING = 150.0, 0.5
_ALIKE, _TOLD, _REUSED = 120.0, 60.0, 400.0
#: What it costs that all figures of an accent sink into what they lie on; and the distance (CIEDE2000) at which they
#: are seen there also below 3:1 (WCAG 2.2, 1.4.11).
_SUNK, _PLAIN = 1500.0, 25.0
#: Another color costs so much where it is so much farther (CIEDE2000) from what stands there than the one that is to be
#: there; and the least and the most of that.
_FAR, _FARTHER = 25.0, (0.4, 2.0)
#: OKLCH chroma from which on a light color is no tint.
_VIVID = 0.1
#: Beginnings that are kept.
_KEPT = 40

#: What a color is to be.
Wish = Callable[[Rgb], bool]


def with_proposed_theme(plan: Plan, paints: SetPaints, kit: Kit) -> Plan:
    """The plan with a target for every place, where decks have themes and it says nothing of them yet."""
    said = places_ruled(plan.part_rules) or any(paint.key in plan.choices for paint in paints.theme)
    if not paints.theme or not kit.colors or said:
        return plan
    wanted = {slot: str(token) for slot, token in theme_for(paints, kit).items()}
    return plan.with_theme(wanted, kit)


def theme_for(paints: SetPaints, kit: Kit) -> dict[str, Token]:
    """What is proposed for the decks of a set."""
    return proposed_theme(kit, in_use(paints))


def proposed_theme(kit: Kit, used: InUse = UNUSED) -> dict[str, Token]:
    """A token for each place, for a kit that has colors, by what decks use them for."""
    made = _Theme(kit, used)
    main = next(chain(_of(kit, Role.PRIMARY), kit.colors))
    # Whatever a place is called, what decks put on it goes before.
    any_step = list(_steps([*_of(kit, Role.NEUTRAL), *_of(kit, Role.BACKGROUND), main, *_of(kit, Role.SECONDARY)]))
    made.put("lt1", chain(_grounds(kit, main), any_step), _is_light)
    made.put("dk1", chain(_inks(kit, main), any_step), made.on("lt1", ENHANCED), _is_dark)
    offered: Iterable[Token] = chain(_grounds(kit, main), any_step)
    wishes = [made.other_than("lt1"), made.on("dk1", TEXT), _is_light]
    if (vivid := _vivid(kit, used.was.get("lt2", WHITE))) is not None:
        # Titles of dark slides: a loud yellow is no tint of the ground.
        offered, wishes = _steps([vivid]), wishes[:-1]
    made.put("lt2", offered, *wishes, like=used.one_ground.get("lt2"))
    dark = (main.token(step) for step in (800, 900, 700, 950, 600))
    made.put("dk2", chain(dark, any_step), made.on("lt1", TEXT), made.on("lt2", TEXT), like=used.one_ground.get("dk2"))
    made.put_accents(used.was)
    made.put("hlink", _steps(chain(_of(kit, Role.ACTION), [main])), made.on("lt1", TEXT))
    followed = _steps(chain(_of(kit, Role.SECONDARY), _of(kit, Role.NEUTRAL), [main]))
    made.put("folHlink", followed, made.on("lt1", TEXT), made.other_than("hlink"))
    return {slot: made.found[slot] for slot in PLACES}


class _Theme:
    """A theme while it is made, place by place."""

    def __init__(self, kit: Kit, used: InUse) -> None:
        self._kit, self._used = kit, used
        self._own = {place.slot: parse_token(place.target) for place in kit.theme}
        self.found: dict[str, Token] = {}
        self._colors: dict[str, Rgb] = {}

    def put(self, slot: str, offered: Iterable[Token], *wishes: Wish, like: str | None = None) -> None:
        """What the kit says itself; else what the place that it is to be `like` has, or what costs least: that what is
        read there no longer is, then that a wish is not met, the first ones before the others, then that others are
        offered before it."""
        if slot in self._own or like is not None:
            wishes, offered = (), [self._own.get(slot) or self.found[like or slot]]
        best: tuple[float, int, Token, Rgb] | None = None
        for at, token in enumerate(dict.fromkeys(offered)):
            color = self._kit.resolve(token)
            unmet = sum(_WISH * (len(wishes) - number) for number, wish in enumerate(wishes) if not wish(color))
            cost = _UNREAD * self._lost(slot, {**self._colors, slot: color}) + unmet + _LATER * at
            one = cost, at, token, color
            if best is None or one < best:
                best = one
        if best is not None:
            _, _, self.found[slot], self._colors[slot] = best

    def _lost(self, slot: str, colors: Mapping[str, Rgb], least: int = 1) -> float:
        """How much of what is needed of a place is lost, in whole needs, of those with `least` places or more."""
        needs = (need for need in self._used.needs if slot in (named := _slots(need)) and len(named) >= least)
        return sum(_short(_read(colors, one, other), needed) for one, other, needed in needs)

    def on(self, slot: str, ratio: float) -> Wish:
        """What has so much contrast to a place."""
        return lambda color: contrast_ratio(color, self._colors[slot]) >= ratio

    def other_than(self, *slots: str) -> Wish:
        """What does not stand in some places yet."""
        taken = {self._colors[slot] for slot in slots}
        return lambda color: color not in taken

    def put_accents(self, was: Mapping[str, Rgb]) -> None:
        """The accents together, so that neighbors are told apart; each near to what stands there, as far as that goes.

        A search that keeps the best beginnings; what is lost is told by sums of costs.
        """
        offered = list(_offered(self._kit))
        colors = [self._kit.resolve(token) for token in offered]
        near = shares(colors, colors)
        least = near.min(axis=0)
        beside = np.where(near[0] < 1, _ALIKE, 0.0) + np.where(least < 1, _TOLD, 0.0) * (1.5 - least)
        reused = np.where(np.eye(len(offered), dtype=bool), _REUSED, 0.0)
        begun: list[tuple[float, tuple[int, ...]]] = [(0.0, ())]
        for at, slot in enumerate(ACCENTS):
            alone = self._alone(slot, at, offered, colors, was)
            longer: list[tuple[float, tuple[int, ...]]] = []
            for cost, chosen in begun:
                row = alone + cost
                if chosen:
                    row += beside[chosen[-1]] + reused[list(chosen)].sum(axis=0)
                    # In a chart of so many points it is the last, and stands beside the first.
                    row += beside[chosen[0]] * (1.0 if slot == ACCENTS[-1] else _IN_A_RING)
                    row += self._unread(slot, chosen, colors)
                longer += [(float(row[one]), (*chosen, one)) for one in np.argsort(row, kind="stable")[:_KEPT].tolist()]
            begun = sorted(longer)[:_KEPT]
        for slot, one in zip(ACCENTS, begun[0][1], strict=True):
            self.found[slot], self._colors[slot] = offered[one], colors[one]

    def _alone(
        self, slot: str, at: int, offered: Sequence[Token], colors: Sequence[Rgb], was: Mapping[str, Rgb]
    ) -> Array:
        """What each color costs a place by itself."""
        if slot in self._own:
            return np.array([0.0 if token == self._own[slot] else np.inf for token in offered])
        # What stood out less than it might is not made another color for that.
        came = contrast_ratio(was[slot], was["lt1"]) if slot in was and "lt1" in was else LARGE
        stands_out = self.on("lt1", min(came, LARGE))
        of_color = _of_color(self._kit, slot, was)
        known = {color.key: color for color in self._kit.colors}
        cost = np.zeros(len(offered))
        for row, (token, color) in enumerate(zip(offered, colors, strict=True)):
            # The first accent is the kit's main color, whatever stands beside it.
            cost[row] += of_color[token.color] if at or not of_color[token.color] else _NEVER
            if token.step is not None:
                base = known[token.color].ramp.base_step
                away = abs(STEPS.index(token.step) - STEPS.index(base))
                cost[row] += away**2 * _STEP_AWAY if at else away * _FIRST_AWAY
            cost[row] += (0.0 if stands_out(color) else _SINKS) + _UNREAD * self._lost(
                slot, {**self._colors, slot: color}
            )
        return cost + _SUNK * self._sunk(slot, colors)

    def _sunk(self, slot: str, colors: Sequence[Rgb]) -> Array:
        """How much of the figures of an accent is no longer seen on what they lie on, with each color."""
        lost = np.zeros(len(colors))
        for figure in self._used.figures:
            if figure.place.slot != slot or (ground := self._below(figure)) is None:
                continue
            shown = [derived(color, figure.place.transforms).rgb for color in colors]
            ratio, apart = contrast_table(shown, [ground])[:, 0], differences(shown, [ground])[:, 0]
            seen = np.maximum((ratio - 1) / (LARGE - 1), apart / _PLAIN)
            lost += figure.share * np.maximum(1 - seen, 0)
        return lost

    def _below(self, figure: Figure) -> Rgb | None:
        """What a figure will lie on: for what was typed in about that; None for a place that has no color yet."""
        if isinstance(figure.ground, Pointing):
            return _color(self._colors, figure.ground)
        own = [color for _, color in self._kit.tokens()]
        return own[int(differences([figure.ground], own)[0].argmin())]

    def _unread(self, slot: str, chosen: Sequence[int], colors: Sequence[Rgb]) -> Array:
        """What each color costs that is not read on accents chosen before, where a deck uses them so."""
        before = dict(zip(ACCENTS, (colors[one] for one in chosen), strict=False))
        between = (named for need in self._used.needs if len(named := _slots(need)) > 1 and slot in named)
        if not any(named <= {slot, *before} for named in between):
            return np.zeros(len(colors))
        return np.array([_UNREAD * self._lost(slot, {**before, slot: color}, least=2) for color in colors])


def _is_light(color: Rgb) -> bool:
    return luminance(color) > _LIGHT


def _is_dark(color: Rgb) -> bool:
    return luminance(color) < _DARK


def _short(found: float, needed: Needed) -> float:
    """How much of what a text takes is lost at a ratio: a whole need at 1:1, something where it just passes."""
    if found >= needed.good:
        return 0.0
    if found >= needed.least:
        return _SQUEEZED * (needed.good - found) / (needed.good - 1)
    weight = 1.0 if needed.least in _LEVELS else _FAINT
    return weight * max((needed.least - found) / (needed.least - 1), _LOST_AT_ALL)


def _slots(need: Need) -> set[str]:
    """The places of which something is needed."""
    one, other, _ = need
    of = [place for place, _ in one.of] if isinstance(one, MixedPlaces) else [one]
    return {place.slot for place in (*of, *([other] if isinstance(other, Pointing) else []))}


def _read(colors: Mapping[str, Rgb], one: Pointing | MixedPlaces, other: Pointing | Rgb) -> float:
    """The contrast of two places, or of one to a color; what is not chosen yet may become anything."""
    found = [_color(colors, one), other if isinstance(other, Rgb) else _color(colors, other)]
    return 21.0 if None in found else contrast_ratio(*(color for color in found if color is not None))


def _color(colors: Mapping[str, Rgb], place: Pointing | MixedPlaces) -> Rgb | None:
    if isinstance(place, Pointing):
        return derived(colors[place.slot], place.transforms).rgb if place.slot in colors else None
    told = [(share, _color(colors, one)) for one, share in place.of]
    known = [(share, color) for share, color in told if color is not None]
    return mixed(place.rest, known) if len(known) == len(told) else None


def _of(kit: Kit, role: Role) -> Iterator[KitColor]:
    return (color for color in kit.colors if color.role is role)


def _base(colors: Iterable[KitColor]) -> Iterator[Token]:
    return (Token(color.key, None) for color in colors)


def _steps(colors: Iterable[KitColor]) -> Iterator[Token]:
    """The base of each color, and the steps of its ramp from there on."""
    for color in colors:
        at = STEPS.index(color.ramp.base_step)
        yield from (color.token(step) for step in sorted(STEPS, key=lambda step: (abs(STEPS.index(step) - at), step)))


def _grounds(kit: Kit, main: KitColor) -> Iterator[Token]:
    """Light grounds, the kit's own first."""
    yield from _base(sorted(_of(kit, Role.BACKGROUND), key=lambda color: -luminance(color.base)))
    yield from _base(_of(kit, Role.TEXT_LIGHT))
    for step in (50, 100):
        yield from (color.token(step) for color in chain(_of(kit, Role.NEUTRAL), [main]))
    yield from (color.token(50) for color in kit.colors)


def _inks(kit: Kit, main: KitColor) -> Iterator[Token]:
    """Dark texts, the kit's own first."""
    yield from _base(_of(kit, Role.TEXT_DARK))
    for step in (950, 900):
        yield from (color.token(step) for color in chain(_of(kit, Role.NEUTRAL), [main]))
    yield from (color.token(950) for color in kit.colors)


def _offered(kit: Kit) -> Iterator[Token]:
    """What accents may be: every step of the loud colors and of the quiet ones, but for the ends."""
    for color in dict.fromkeys((*_loud(kit), *_of(kit, Role.NEUTRAL))):
        yield from (color.token(step) for step in STEPS[1:-1])
        if color.ramp.base_step in (STEPS[0], STEPS[-1]):
            yield Token(color.key, None)
    own = (parse_token(place.target) for place in kit.theme if place.slot in ACCENTS)
    yield from own


def _loud(kit: Kit) -> list[KitColor]:
    """The colors that accents take, in their order; the one for actions only where there are few others."""
    found = [color for role in _ROLES for color in _of(kit, role)]
    return found if len(found) >= _ENOUGH else [*found, *_of(kit, Role.ACTION)] or list(kit.colors)


def _vivid(kit: Kit, held: Rgb) -> KitColor | None:
    """The color of a kit that is nearest to a vivid one, if it has one of about that hue."""
    lch = np.array(lch_of(held))
    hued = of_its_hue(lch, oklch_of([color.base for color in kit.colors]))
    same = [color for color, is_same in zip(kit.colors, hued.tolist(), strict=True) if is_same]
    if lch[1] < _VIVID or not same:
        return None
    return same[int(differences([held], [color.base for color in same])[0].argmin())]


def _of_color(kit: Kit, slot: str, was: Mapping[str, Rgb]) -> dict[str, float]:
    """What it costs an accent to be of each color: nothing for the one it is to be, and for the others the more, the
    more they differ from what stands there."""
    loud = _loud(kit)
    wanted = _nearest(kit, was).get(slot, loud[ACCENTS.index(slot) % len(loud)])
    cost = {color.key: _OTHER if color in loud else _QUIET for color in kit.colors}
    if slot in was:
        away = differences([was[slot]], [color.base for color in (wanted, *kit.colors)])[0]
        farther = np.clip((away[1:] - away[0]) / _FAR, *_FARTHER)
        cost = {key: cost[key] * more for key, more in zip(cost, farther.tolist(), strict=True)}
    return {**cost, wanted.key: 0.0}


def _nearest(kit: Kit, was: Mapping[str, Rgb]) -> dict[str, KitColor]:
    """For the accents behind the first, colors of the kit shared out so that together they differ least from what
    stands there: what was green in charts and signals stays so, where the kit has a green. Where there are fewer
    colors than accents each of them is taken as often, the main color for the first accent before."""
    slots = [slot for slot in ACCENTS[1:] if slot in was]
    if not slots:
        return {}
    loud = _loud(kit)
    offered = (loud * math.ceil((len(slots) + 1) / len(loud)))[1:]
    costs = differences([was[slot] for slot in slots], [color.base for color in offered])
    return {slots[row]: offered[column] for row, column in zip(*linear_sum_assignment(costs), strict=True)}
