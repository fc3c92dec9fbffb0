"""Which colors of a kit go to the places of a theme, proposed from roles and from what decks use each place for.

What the kit says of a place itself goes there (`Kit.theme`). Neighbors among the accents are to be told apart
(CIEDE2000 of 20, as charts take them in their order), each accent to stand out from the light ground (3:1), and what is
read on what in the decks at hand to be read still.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from itertools import chain

from scipy.optimize import linear_sum_assignment

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, contrast_ratio, luminance
from pavese.core.color.derived import derived
from pavese.core.color.difference import difference, differences
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.deck_theme import ACCENTS, PLACES
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token, parse_token
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.theme import Pointing, most_seen, places_ruled, pointing, reading_of

#: From this difference on two neighbors of a chart are told apart.
_APART = 20.0
#: How light a color is that light places take, and how dark for dark ones.
_LIGHT, _DARK = 0.6, 0.2
_ROLES = (Role.PRIMARY, Role.SECONDARY, Role.ACCENT)
#: With so many colors for accents the one for actions is kept for what matters.
_ENOUGH = 4

#: Two places that must be read on one another as they are pointed to, and the ratio it takes.
Needs = Sequence[tuple[Pointing, Pointing, float]]
NOTHING: Mapping[str, Rgb] = {}
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
    was: dict[str, Rgb] = {}
    for paint in most_seen(paints):
        for place in filter(None, map(pointing, paints.theme[paint])):
            if not place.transforms:
                was.setdefault(place.slot, paint.rgb)
    return proposed_theme(kit, needs_of(paints), was)


def needs_of(paints: SetPaints) -> Needs:
    """What is read on what in decks, as far as both are places of their themes."""
    places = {paint: place for paint, named in paints.theme.items() if (place := pointing(named[0]))}
    return [
        (places[ink], places[ground], needed)
        for ink, partners in reading_of(paints).items()
        for ground, needed in partners
        if ink in places and ground in places and places[ink].slot != places[ground].slot
    ]


def proposed_theme(kit: Kit, needs: Needs = (), was: Mapping[str, Rgb] = NOTHING) -> dict[str, Token]:
    """A token for each place, for a kit that has colors; `was` is what stands in them."""
    made = _Theme(kit, needs)
    main = next(chain(_of(kit, Role.PRIMARY), kit.colors))
    made.put("lt1", _grounds(kit, main), _is_light)
    made.put("dk1", _inks(kit, main), made.on("lt1", ENHANCED), _is_dark)
    made.put("lt2", _grounds(kit, main), made.other_than("lt1"), made.on("dk1", TEXT), _is_light)
    dark = (main.token(step) for step in (800, 900, 700, 950, 600))
    made.put("dk2", dark, made.on("lt1", TEXT), made.on("lt2", TEXT))
    nearest = _nearest(kit, was)
    for at, slot in enumerate(ACCENTS):
        # What stood out less than it might is not made another color for that.
        came = contrast_ratio(was[slot], was["lt1"]) if slot in was and "lt1" in was else LARGE
        stands_out = made.on("lt1", min(came, LARGE))
        offered = _accents(kit, made.fitting(slot, stands_out), nearest.get(slot))
        beside = (ACCENTS[at - 1], *ACCENTS[: at == len(ACCENTS) - 1]) if at else ()
        made.put(slot, offered, made.apart_from(*beside), made.other_than(*ACCENTS[:at]), stands_out)
    made.put("hlink", _steps(chain(_of(kit, Role.ACTION), [main])), made.on("lt1", TEXT))
    followed = _steps(chain(_of(kit, Role.SECONDARY), _of(kit, Role.NEUTRAL), [main]))
    made.put("folHlink", followed, made.on("lt1", TEXT), made.other_than("hlink"))
    return {slot: made.found[slot] for slot in PLACES}


class _Theme:
    """A theme while it is made, place by place."""

    def __init__(self, kit: Kit, needs: Needs) -> None:
        self._kit, self._needs = kit, needs
        self._own = {place.slot: parse_token(place.target) for place in kit.theme}
        self.found: dict[str, Token] = {}
        self._colors: dict[str, Rgb] = {}

    def put(self, slot: str, offered: Iterable[Token], *wishes: Wish) -> None:
        """What the kit says itself; else the first that meets all wishes, else all but the last of them, and so on; it
        reads, if any does."""
        if slot in self._own:
            wishes, offered = (), [self._own[slot]]
        listed = {token: self._kit.resolve(token) for token in offered}
        reads = self.fitting(slot)
        listed = {token: color for token, color in listed.items() if reads(color)} or listed
        for count in range(len(wishes), -1, -1):
            for token, color in listed.items():
                if all(wish(color) for wish in wishes[:count]):
                    self.found[slot], self._colors[slot] = token, color
                    return

    def fitting(self, slot: str, *more: Wish) -> Wish:
        """What is read where a place is used."""

        def fits(color: Rgb) -> bool:
            tried = {**self._colors, slot: color}
            needs = (need for need in self._needs if slot in (need[0].slot, need[1].slot))
            return all(_read(tried, one, other) >= ratio for one, other, ratio in needs) and all(
                wish(color) for wish in more
            )

        return fits

    def on(self, slot: str, ratio: float) -> Wish:
        """What has so much contrast to a place."""
        return lambda color: contrast_ratio(color, self._colors[slot]) >= ratio

    def other_than(self, *slots: str) -> Wish:
        """What does not stand in some places yet."""
        taken = {self._colors[slot] for slot in slots}
        return lambda color: color not in taken

    def apart_from(self, *slots: str) -> Wish:
        """What is told from its neighbors."""
        beside = [self._colors[slot] for slot in slots]
        return lambda color: all(difference(color, other) >= _APART for other in beside)


def _is_light(color: Rgb) -> bool:
    return luminance(color) > _LIGHT


def _is_dark(color: Rgb) -> bool:
    return luminance(color) < _DARK


def _read(colors: Mapping[str, Rgb], one: Pointing, other: Pointing) -> float:
    """The contrast of two places; what is not chosen yet may become anything."""
    if one.slot not in colors or other.slot not in colors:
        return 21.0
    first, second = (derived(colors[place.slot], place.transforms).rgb for place in (one, other))
    return contrast_ratio(first, second)


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


def _accents(kit: Kit, fits: Wish, nearest: KitColor | None) -> Iterator[Token]:
    """The kit's colors, each as near to itself as it fits there: first the one that is nearest to
    what stands there, then by role; then their other steps, two apart."""
    loud = _loud(kit)
    for color in filter(None, (nearest, *loud)):
        each = list(_steps([color]))
        yield next((token for token in each if fits(kit.resolve(token))), each[0])
    for by in (2, -2, 4, -4):
        for color in (*loud, *_of(kit, Role.NEUTRAL)):
            at = STEPS.index(color.ramp.base_step) + by
            if 0 < at < len(STEPS) - 1:
                yield color.token(STEPS[at])
    yield from _steps(loud)


def _loud(kit: Kit) -> list[KitColor]:
    """The colors that accents take, in their order; the one for actions only where there are few others."""
    found = [color for role in _ROLES for color in _of(kit, role)]
    return found if len(found) >= _ENOUGH else [*found, *_of(kit, Role.ACTION)] or list(kit.colors)


def _nearest(kit: Kit, was: Mapping[str, Rgb]) -> dict[str, KitColor]:
    """For the accents behind the first, colors of the kit shared out so that together they differ least from what
    stands there: what was green in charts and signals stays so, where the kit has a green."""
    slots = [slot for slot in ACCENTS[1:] if slot in was]
    loud = _loud(kit)[1:]
    if not slots or not loud:
        return {}
    costs = differences([was[slot] for slot in slots], [color.base for color in loud])
    return {slots[row]: loud[column] for row, column in zip(*linear_sum_assignment(costs), strict=True)}
