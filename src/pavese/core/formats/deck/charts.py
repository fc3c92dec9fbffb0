"""Charts of a deck: the colors of their series, or of the points of one, in their order.

ISO/IEC 29500-1, 21.2 (charts): `ser`, `dPt`, `varyColors`. What says no color follows the accents of the theme in their
order.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from pavese.core.color.srgb import Rgba
from pavese.core.formats.deck.parts import Package, Part
from pavese.core.formats.deck.places import Place, Themes, in_theme
from pavese.core.formats.xml_source import Element
from pavese.core.kit.deck_theme import ACCENTS
from pavese.core.recolor.charts import Chart, Series
from pavese.core.recolor.site import Kind, Site

#: What has its series one inside of the other, or its points side by side in a ring.
_RINGS = frozenset(("pieChart", "pie3DChart", "ofPieChart", "doughnutChart"))
#: Of a chart with more, neighbors are not told apart by their colors.
_MOST = 24
_LONGEST = 40

#: Places by the part and the byte at which they stand.
_Places = Mapping[tuple[str, int], Place]


def charts_of(package: Package, places: list[Place], themes: Themes) -> Iterator[Chart]:
    """The charts that stand on a page and have two colors or more."""
    at = {(place.part.path, place.start): place for place in places if place.part.sort == "chart"}
    for part in package.parts.values():
        if part.sort != "chart" or not part.page:
            continue
        for plot in part.source.elements:
            if plot.name.endswith("Chart") and plot.parent is not None and plot.parent.name == "plotArea":
                yield from (chart for chart in _charts(part, plot, at, themes) if len(chart.series) > 1)


def _charts(part: Part, plot: Element, places: _Places, themes: Themes) -> Iterator[Chart]:
    each = [one for one in part.source.children(plot) if one.name == "ser"]
    varied = any(
        one.name == "varyColors" and one.attributes.get("val") not in ("0", "false")
        for one in part.source.children(plot)
    )
    if plot.name in _RINGS or (varied and len(each) == 1):
        for one in each:
            yield Chart(f"/{part.page}", tuple(_points(part, one, places, themes)), ring=plot.name in _RINGS)
        return
    found = []
    for place, one in enumerate(each):
        number = _number(part, one, place)
        name = _first_value(part, one, "tx") or f"series {number + 1}"
        site = _own(part, one, places) or _follows(part, number, themes)
        if site is not None:
            found.append(Series(name, site))
    yield Chart(f"/{part.page}", tuple(found[:_MOST]))


def _points(part: Part, series: Element, places: _Places, themes: Themes) -> Iterator[Series]:
    """The points of a series, each with its color."""
    own = {}
    for point in part.source.children(series):
        if point.name == "dPt":
            own[_number(part, point, 0)] = _own(part, point, places)
    names = _values(part, series, "cat")
    count = max(len(names), len(_values(part, series, "val")), *(number + 1 for number in own), 0)
    for number in range(min(count, _MOST)):
        site = own.get(number) or _follows(part, number, themes)
        if site is not None:
            yield Series(names.get(number) or f"point {number + 1}", site)


def _own(part: Part, element: Element, places: _Places) -> Site | None:
    """The color that a series or a point says itself: its fill, else its line."""
    for shape in part.source.children(element):
        if shape.name == "spPr":
            inside = list(part.source.children(shape))
            lines = [one for one in inside if one.name == "ln"]
            for holder in (*(one for one in inside if one.name == "solidFill"), *lines):
                for color in part.source.subtree(holder):
                    place = places.get((part.path, part.source.span(color)[0]))
                    if place is not None:
                        return place.site
    return None


def _follows(part: Part, number: int, themes: Themes) -> Site | None:
    """The accent that one without a color takes."""
    slot = ACCENTS[number % len(ACCENTS)]
    color = themes.get(part.theme, {}).get(slot)
    return None if color is None else Site(Rgba(*color), Kind.THEME, tuple(in_theme(part, slot)))


def _first_value(part: Part, element: Element, name: str) -> str:
    return next(iter(_values(part, element, name).values()), "")


def _values(part: Part, element: Element, name: str) -> dict[int, str]:
    """What a series keeps of the cells that it shows, by their number."""
    found: dict[int, str] = {}
    for holder in part.source.children(element):
        if holder.name == name:
            for value in part.source.subtree(holder):
                if value.name == "v" and len(found) < _MOST:
                    text = " ".join(part.source.content_text(value).text.split())
                    point = value.parent.attributes.get("idx", "") if value.parent is not None else ""
                    found[int(point) if point.isdigit() else len(found)] = text[:_LONGEST]
    return found


def _number(part: Part, element: Element, default: int) -> int:
    """The number of a series or of a point, which tells its color."""
    said = (one.attributes.get("val", "") for one in part.source.children(element) if one.name == "idx")
    return next((int(one) for one in said if one.isdigit() and len(one) < 6), default)
