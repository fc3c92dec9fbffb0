"""Which colors of a deck are linked to its theme when it is written, and which are typed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from pavese.core.color.derived import derived
from pavese.core.color.difference import differences
from pavese.core.color.srgb import Rgb
from pavese.core.formats.deck.parts import Part
from pavese.core.formats.deck.places import Place, Themes
from pavese.core.kit.deck_theme import ACCENTS
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.linked import Linked, Typed
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.core.recolor.typed import TypedCodes

#: Which place a color is linked to, of several that hold it, by what it does; the others in the order of the theme.
_FIRST = {Kind.TEXT: ("dk1", "lt1", "dk2", "lt2"), Kind.GROUND: ("lt1", "dk1", "lt2", "dk2")}


class Decided(NamedTuple):
    """A color element that is written anew: its color, and the place that it points to, as its part calls it; where it
    is a code and could be none, why."""

    place: Place
    color: Rgb
    slot: str = ""
    name: str | None = None
    why: Typed | None = None


def decided(places: Sequence[Place], themes: Themes, changes: Changes) -> Iterator[Decided]:
    """The color elements that become others: first those of the themes."""
    to = changes.recoloring
    for place in places:
        color = to.at(*place.site) if place.defines else None
        if color is not None and color != place.site.paint.rgb:
            yield Decided(place, color)
    yield from _decided(places, _themes_after(places, themes, to), changes)


def _decided(places: Sequence[Place], after: Themes, changes: Changes) -> Iterator[Decided]:
    """Those that define no place, when the themes hold something else."""
    to = changes.recoloring
    typing = any(isinstance(act, TypedCodes) for act in changes.acts)
    slots: dict[tuple[str, Kind], Mapping[Rgb, str]] = {}
    for place in places:
        if place.defines:
            continue
        given = to.at(*place.site)
        color = given or place.site.paint.rgb
        theme = after.get(place.part.theme, {})
        if place.points:
            if derived(theme[place.points], place.transforms).rgb == color:
                continue
        elif color == place.site.paint.rgb and (typing or to.token_at(*place.site) is None):
            # What is of the kit already is linked, too, where a plan says that it is.
            continue
        key = place.part.theme, place.site.kind
        if key not in slots:
            slots[key] = _by_color(theme, place.site.kind)
        slot = slots[key].get(color, "")
        name = _name_in(place.part, slot) if slot and place.part.one_theme and not typing else None
        if name is not None:
            yield Decided(place, color, slot, name)
        elif place.points or color != place.site.paint.rgb:
            yield Decided(place, color, why=_why(place, slot, given, typing=typing))


def links(places: Sequence[Place], themes: Themes, changes: Changes) -> Iterator[Linked]:
    """What becomes of all that was typed in and changes, and of what leaves its place."""
    after = _themes_after(places, themes, changes.recoloring)
    for one in _decided(places, after, changes):
        place = one.place
        if one.why is None:
            yield Linked(place.site, one.color, one.slot, place.points)
            continue
        theme = after.get(place.part.theme, {})
        near, apart = "", 0.0
        if theme:
            row = differences([one.color], list(theme.values()))[0]
            near, apart = list(theme)[int(row.argmin())], float(row.min())
        yield Linked(place.site, one.color, "", place.points, one.why, near, apart)


def _themes_after(places: Sequence[Place], themes: Themes, to: Recoloring) -> Themes:
    """What the themes hold when the places that define them have changed."""
    after = {path: dict(slots) for path, slots in themes.items()}
    for place in places:
        color = to.at(*place.site) if place.defines else None
        if color is not None:
            after[place.part.path][place.defines] = color
    return after


def _why(place: Place, slot: str, given: Rgb | None, *, typing: bool) -> Typed:
    if place.points:
        return Typed.MADE_OFF if place.transforms and given is not None else Typed.OTHER_WAY
    if typing:
        return Typed.CODES
    if place.part.sort in ("theme", "theme override"):
        return Typed.IN_STYLES
    return Typed.MANY_THEMES if slot else Typed.NO_PLACE


def _by_color(theme: Mapping[str, Rgb], kind: Kind) -> Mapping[Rgb, str]:
    """The place of a theme that holds a color, that which fits what the color does before others."""
    found: dict[Rgb, str] = {}
    for slot in (*_FIRST.get(kind, ()), *ACCENTS, *theme):
        if slot in theme:
            found.setdefault(theme[slot], slot)
    return found


def _name_in(part: Part, slot: str) -> str | None:
    """How a place is called in a part."""
    return next((name for name, place in part.names.items() if place == slot), None)
