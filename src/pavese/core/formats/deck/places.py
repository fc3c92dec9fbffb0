"""Where color stands in a deck: what the places of its themes hold, what points to them, and what is typed in."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from pavese.core.color.derived import Transform, derived, is_alpha, turning
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.deck.colors import FILLED_LATER, SaidColor, is_color, said_color
from pavese.core.formats.deck.parts import Package, Part
from pavese.core.formats.xml_source import Element
from pavese.core.kit.deck_theme import PLACES
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.theme import place_selector, theme_key

#: What a color does in the nearest of these that it stands in.
_KINDS = {
    **dict.fromkeys(("rPr", "defRPr", "endParaRPr", "buClr", "fontRef", "tcTxStyle", "txPr"), Kind.TEXT),
    **dict.fromkeys(("bg", "bgPr", "bgRef", "highlight"), Kind.GROUND),
    **dict.fromkeys(("ln", "lnL", "lnR", "lnT", "lnB", "lnTlToBr", "lnBlToTr", "uLn", "lnRef"), Kind.STROKE),
    **dict.fromkeys(("tcPr", "tcStyle", "tblBg"), Kind.CELL),
    **dict.fromkeys(("outerShdw", "innerShdw", "prstShdw"), Kind.SHADOW),
    **dict.fromkeys(
        ("effectLst", "effectDag", "effectRef", "glow", "sp3d", "scene3d", "animClr", "clrVal"), Kind.EFFECT
    ),
    **dict.fromkeys(("ser", "dPt"), Kind.SERIES),
    # A picture in two tones is a gradient of them, by its lightness.
    **dict.fromkeys(("gs", "duotone"), Kind.STOP),
}
#: What gradients are said in: stops on either side of such a name are of two of them.
_OF_STOPS = (b"gsLst", b"duotone")
#: In these a color says nothing of what is seen: which color of a picture is left out, with which pen one draws, which
#: colors were used last or are offered.
_UNSEEN = frozenset(("clrChange", "penClr", "clrMru", "custClrLst", "extraClrSchemeLst", "clrScheme"))
_SHAPES = frozenset(("sp", "cxnSp", "pic", "graphicFrame", "grpSp"))
#: The longest selector of a place: plans name parts of paints by it.
_LONGEST = 150
#: What stands in definitions for a color that is put in later.
_NO_COLOR = Rgb(0, 0, 0)


@dataclass(frozen=True, slots=True)
class Place:
    """A color element: where it stands, its site, how see-through it is in its own words; the place of the theme that
    it defines, or points to with transforms."""

    part: Part
    start: int
    end: int
    prefix: str
    site: Site
    alpha: bytes
    defines: str = ""
    points: str = ""
    transforms: tuple[Transform, ...] = ()


#: What each place of each theme holds, by the path of the theme.
Themes = Mapping[str, Mapping[str, Rgb]]


def themes_of(package: Package) -> Themes:
    """What the themes of a deck hold."""
    found: dict[str, dict[str, Rgb]] = {}
    for part in package.parts.values():
        if part.sort in ("theme", "theme override"):
            for slot, color in _scheme(part):
                said = said_color(part.source, color)
                if said is not None and said.literal is not None:
                    found.setdefault(part.path, {})[slot] = derived(said.literal, said.transforms).rgb
    return found


def places_of(package: Package, themes: Themes) -> Iterator[Place]:
    """Every place where color stands that is seen, part by part in their order."""
    for part in package.parts.values():
        defined = dict(_defining(part))
        for element in part.source.elements:
            if not is_color(element):
                continue
            said = said_color(part.source, element)
            slot = defined.get(element.index, "")
            if said is None or (not slot and _is_unseen(element)):
                continue
            made = _place(part, element, said, slot, themes)
            if made is not None:
                yield made


def _place(part: Part, element: Element, said: SaidColor, defines: str, themes: Themes) -> Place | None:
    points = "" if said.literal is not None else part.names.get(said.name, "")
    base = said.literal if said.literal is not None else themes.get(part.theme, {}).get(points)
    if base is None or said.name == FILLED_LATER:
        return None
    if part.sort == "definition" and (said.literal is None or said.literal == _NO_COLOR):
        # They follow the theme; what is drawn of the diagram, or the chart, says its colors itself.
        return None
    paint = derived(base, said.transforms)
    kind, shape = (Kind.THEME, "") if defines else _told(part, element)
    # The nearest goes before what it stands in.
    selectors = [f"#{part.page}.{shape}"] if shape else []
    if part.page:
        selectors.append(f"/{part.page}")
    selectors += in_theme(part, defines or points, () if defines else turning(said.transforms))
    start, end = part.source.span(element)
    name = part.source.utf8[start + 1 : part.source.tag_name_end(element)].decode()
    prefix = name.rpartition(":")[0]
    alpha = b"".join(
        part.source.utf8[slice(*part.source.span(child))]
        for child in part.source.children(element)
        if is_alpha(Transform(child.name))
    )
    site = Site(Rgba(*paint), kind, tuple(selectors))
    return Place(part, start, end, f"{prefix}:" if prefix else "", site, alpha, defines, points, said.transforms)


def in_theme(part: Part, slot: str, transforms: Sequence[Transform] = ()) -> Iterator[str]:
    """What a site bears in a part that defines a place, or points to it: in a deck with several themes that of its own
    before that of all; nothing without a place. What is made from a place by more than anybody does by hand is a color
    like any other."""
    own, of_all = place_selector(slot, transforms, part.own_theme), place_selector(slot, transforms)
    if slot and len(own) <= _LONGEST:
        yield from (own, of_all) if part.own_theme else (of_all,)


def name_of(theme: Part) -> str:
    """How a theme is called in its file."""
    return theme.source.root.attributes.get("name", "")


def told_apart(package: Package, themes: Themes) -> Mapping[str, str]:
    """The themes of the masters of a deck, by their paths, with their keys, where slides that were pasted in brought
    others along; the parts are told which counts in them."""
    masters = dict.fromkeys(part.theme for part in package.parts.values() if part.sort == "master")
    keys = {path: theme_key(name_of(package.parts[path]), themes[path]) for path in masters if path in themes}
    if len({tuple(sorted(themes[path].items())) for path in keys}) < 2:
        return {}
    for part in package.parts.values():
        part.own_theme = keys.get(part.path) or keys.get(part.theme, "")
    return keys


def blends_of(places: list[Place]) -> set[tuple[Rgba, Rgba]]:
    """Paints that follow each other in a gradient."""
    found = set()
    for one, other in pairwise(places):
        if one.part is other.part and one.site.kind is other.site.kind is Kind.STOP:
            between = one.part.source.utf8[one.end : other.start]
            if not any(name in between for name in _OF_STOPS) and one.site.paint != other.site.paint:
                found.add((one.site.paint, other.site.paint))
    return found


def _scheme(part: Part) -> Iterator[tuple[str, Element]]:
    """The places of a theme, each with the element that says its color."""
    for scheme in part.source.named("clrScheme"):
        if scheme.parent is None or scheme.parent.name in ("themeElements", "themeOverride"):
            for slot in part.source.children(scheme):
                if slot.name in PLACES:
                    yield from ((slot.name, color) for color in part.source.children(slot) if is_color(color))
            return


def _defining(part: Part) -> Iterator[tuple[int, str]]:
    if part.sort in ("theme", "theme override"):
        yield from ((color.index, slot) for slot, color in _scheme(part))


def _is_unseen(element: Element) -> bool:
    at = element.parent
    while at is not None:
        if at.name in _UNSEEN:
            return True
        at = at.parent
    return False


def _told(part: Part, element: Element) -> tuple[Kind, str]:
    """What a color does, and the number of the shape that it belongs to ("" for none)."""
    kind, of_series, shape = None, False, ""
    at = element.parent
    while at is not None:
        found = _KINDS.get(at.name)
        kind = kind or found
        of_series = of_series or found is Kind.SERIES
        if not shape and at.name in _SHAPES and at.index + 2 < at.behind:
            shape = part.source.elements[at.index + 2].attributes.get("id", "")
        at = at.parent
    if of_series and kind in (Kind.STROKE, Kind.SERIES):
        # A series of a line chart is a line.
        return Kind.SERIES, shape
    return kind or Kind.FILL, shape
