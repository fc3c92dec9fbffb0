"""What decks use the places of their themes for: what stands in them, what is read on what there, and what is seen."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from pavese.core.color.contrast import LARGE, WHITE, contrast_ratio
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.deck_theme import ACCENTS
from pavese.core.recolor.borders import LEAST_BORDER
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.site import Kind
from pavese.core.recolor.texts import BARE
from pavese.core.recolor.theme import (
    MixedPlaces,
    Needed,
    Pointing,
    mixed_reading,
    most_seen,
    near_places,
    pointing,
    reading_of,
)

#: How much of a ratio must be left beside what is typed on a ground or as a text.
TYPED = 0.75
#: The other light place, and the other dark one.
_OTHERS = {"lt1": "lt2", "dk1": "dk2"}
#: A place as it is pointed to, or what places are mixed to, and another or a color that it must be read on, or that on
#: it; and what it takes.
Need = tuple[Pointing | MixedPlaces, Pointing | Rgb, Needed]
Needs = Sequence[Need]


class Figure(NamedTuple):
    """What is filled or drawn with an accent and stood out from what it lies on, another place or a color; `share` is
    how much of all borders of that accent they have with each other."""

    place: Pointing
    ground: Pointing | Rgb
    share: float


_EMPTY: Mapping[str, Rgb] = {}
_NO_PLACES: Mapping[str, str] = {}


class InUse(NamedTuple):
    """What stands in places, what they take to be read, the figures in their colors; and the places that are one ground
    with another, and which: boxes in the one are not seen on the other, and are not to be."""

    was: Mapping[str, Rgb] = _EMPTY
    needs: Needs = ()
    figures: Sequence[Figure] = ()
    one_ground: Mapping[str, str] = _NO_PLACES


#: In no deck.
UNUSED = InUse()


def in_use(paints: SetPaints) -> InUse:
    """What the decks of a set use their themes for."""
    was = _standing(paints)
    grounds = {use.paint.rgb for use in paints.uses if Kind.GROUND in use.kinds}
    one_ground = {
        other: place
        for place, other in _OTHERS.items()
        if was.get(place) in grounds and was.get(other) == was.get(place)
    }
    return InUse(was, needs_of(paints), figures_of(paints), one_ground)


def _standing(paints: SetPaints) -> dict[str, Rgb]:
    """What stands in each place, mostly."""
    was: dict[str, Rgb] = {}
    for paint in most_seen(paints):
        for place in filter(None, map(pointing, paints.theme[paint])):
            if not place.transforms and not place.theme:
                was.setdefault(place.slot, paint.rgb)
    return was


def _places(paints: SetPaints) -> dict[Rgba, Pointing]:
    """The place that each paint stands in, or is made from, first."""
    return {paint: place for paint, named in paints.theme.items() if (place := pointing(named[0]))}


def needs_of(paints: SetPaints) -> Needs:
    """What is read on what in decks, as far as one of both is a place of their themes; what is typed beside it is taken
    to stay about as light as it is, and gives way a little on grounds and texts."""
    places = _places(paints)
    # What is only in pictures goes along as well, but that lettering was read there is not certain.
    written = {use.paint for use in paints.uses if set(use.kinds) != {Kind.PICTURE}}
    near = near_places(paints, {paint: [place] for paint, place in places.items()})
    places |= {paint: place for paint, place in near.items() if paint in written}
    found: list[Need] = []
    for one, partners in reading_of(paints).items():
        for other, needed in partners if one in places else ():
            if other not in places:
                stays = other == BARE or places[one].slot in ACCENTS
                found.append((places[one], other.over(WHITE), needed.gives(1.0 if stays else TYPED)))
            elif places[one].slot != places[other].slot:
                found.append((places[one], places[other], needed))
    for ink, mixture, needed in mixed_reading(paints, places):
        # On what stays, text places stay light or dark; an accent may become either.
        by_accent = ink in places and places[ink].slot in ACCENTS and needed.least >= LARGE
        if mixture.of or by_accent:
            found.append((mixture, places.get(ink, ink.rgb), needed))
    return found


def figures_of(paints: SetPaints) -> list[Figure]:
    """The figures in accents that are clearly seen on what they lie on: on a dark slide light ones, on a light one dark
    ones. What lies on another accent is told from it as its neighbor."""
    places = _places(paints)
    borders: dict[str, float] = defaultdict(float)
    found: dict[tuple[Pointing, Pointing | Rgb], float] = defaultdict(float)
    for file in paints.files:
        for both, border in file.measured.touching.items():
            for paint, ground in (both, both[::-1]) if border >= LEAST_BORDER else ():
                place, other = places.get(paint), places.get(ground)
                if place is None or place.slot not in ACCENTS or paint.alpha < 1 or ground.alpha < 1:
                    continue
                borders[place.slot] += border
                if (other is None or other.slot not in ACCENTS) and contrast_ratio(paint.rgb, ground.rgb) >= LARGE:
                    found[place, other or ground.rgb] += border
    return [Figure(place, ground, border / borders[place.slot]) for (place, ground), border in found.items()]
