"""What the style matrix of a theme makes of the colors that shapes and slides put into it.

ISO/IEC 29500-1, 20.1.4.1 (the matrix: `fillStyleLst`, `bgFillStyleLst`), 20.1.4.2.10 and 19.3.1.3 (references to it).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from pavese.core.color.derived import Transform
from pavese.core.formats.deck.colors import FILLED_LATER, is_color, said_color
from pavese.core.formats.deck.parts import Package, Part
from pavese.core.formats.deck.places import Place
from pavese.core.formats.xml_source import Element
from pavese.core.kit.deck_theme import ACCENTS

#: What refers to a fill, the list that it is of, and the number of its first; 0 is no fill.
_REFERENCES = {"fillRef": (("fillStyleLst", 1), ("bgFillStyleLst", 1001)), "bgRef": (("bgFillStyleLst", 1001),)}
#: The numbers of fills that charts take: moderate and intense (20.1.4.1.14).
_OF_CHARTS = ("2", "3")
#: Fills that take a color: also pictures in two tones of it.
_FILLS = frozenset(("solidFill", "gradFill", "blipFill"))


def styled(package: Package, places: Sequence[Place]) -> Mapping[int, Sequence[tuple[Transform, ...]]]:
    """The transforms by which a fill is made of the colors of some places, by their numbers: of one color, of the stops
    of a gradient, or of the tones of a picture."""
    numbers = {(place.part.path, place.start): number for number, place in enumerate(places)}
    fills = {path: _fills(part) for path, part in package.parts.items() if part.sort.startswith("theme")}
    found: dict[int, Sequence[tuple[Transform, ...]]] = {}
    for part in package.parts.values():
        for name in _REFERENCES:
            for reference in part.source.named(name):
                made = fills.get(part.theme, {}).get((name, reference.attributes.get("idx", "")))
                for child in part.source.children(reference):
                    number = numbers.get((part.path, part.source.span(child)[0]))
                    if made and number is not None:
                        found[number] = made
    for number, place in enumerate(places):
        if place.defines in ACCENTS:
            # Series of charts that say nothing themselves are filled by a style with what stands there.
            of_charts = (fills.get(place.part.path, {}).get(("fillRef", one), []) for one in _OF_CHARTS)
            found[number] = [transforms for made in of_charts for transforms in made]
    return found


def _fills(theme: Part) -> dict[tuple[str, str], list[tuple[Transform, ...]]]:
    """The fills of a theme that take a color, by what refers to them and its number there."""
    lists = {one.name: one for name in ("fillStyleLst", "bgFillStyleLst") for one in theme.source.named(name)}
    found = {}
    for reference, named in _REFERENCES.items():
        for name, first in named:
            fills = theme.source.children(lists[name]) if name in lists else ()
            for number, fill in enumerate(fills, first):
                if fill.name in _FILLS and (colors := list(_taken(theme, fill))):
                    found[reference, str(number)] = colors
    return found


def _taken(theme: Part, element: Element) -> Iterator[tuple[Transform, ...]]:
    """The transforms of each color of a fill that is put in, in their order."""
    for child in theme.source.children(element):
        said = said_color(theme.source, child) if is_color(child) else None
        if said is not None and said.name == FILLED_LATER:
            yield said.transforms
        elif said is None:
            yield from _taken(theme, child)
