"""An SVG file as a document: its paints, and the file again with paints replaced in place."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError, UnreadableCssError
from pavese.core.formats.document import Colors
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.engine import engine_edits, sprite_symbols
from pavese.core.formats.svg.implied import implied_colors
from pavese.core.formats.svg.places import SvgPlace, place_color, selectors_of, written_colors
from pavese.core.formats.svg.properties import SVG, XLINK_HREF
from pavese.core.formats.xml_source import Element, XmlSource, read_xml, without_entities
from pavese.core.recolor.inventory import Inventory, Kind, Site
from pavese.core.recolor.recoloring import Recoloring

#: What is said of a drawing without a namespace.
UNDECLARED = "Its svg element does not say xmlns, so browsers and other programs may not show it."


def read_svg(name: str, data: bytes) -> SvgDocument:
    """Reads an SVG, gzipped or not. Raises RefusedFileError with the file's name and the reason."""
    source = read_xml(name, data)
    root = source.root
    if root.name != "svg":
        raise RefusedFileError(name, f"it is XML, but not SVG: its outermost element is “{root.name[:40]}”.")
    if root.namespace not in (SVG, ""):
        raise RefusedFileError(name, f"its svg element is of another namespace, “{root.namespace[:60]}”.")
    try:
        document = SvgDocument(source)
    except UnreadableCssError as error:
        raise RefusedFileError(name, str(error)) from error
    return document


def with_namespace(data: bytes) -> bytes:
    """An SVG whose root declares what it is; one that does already stays as it is."""
    source = read_xml("drawing.svg", data)
    return source.pack(splice(source.utf8, _declared(source)))


def _declared(source: XmlSource) -> Iterator[Edit]:
    """Declares the namespace on a root that lacks it: without it, programs take the file for any other XML."""
    if not source.root.namespace:
        yield from source.setting(source.root, {"xmlns": SVG})


class SvgDocument:
    """See `pavese.core.formats.document.Document`."""

    still = True

    def __init__(self, source: XmlSource) -> None:
        self._source = source
        self._undeclared = not source.root.namespace
        if self._undeclared:
            source.place_in(SVG)
        self._written = written_colors(source)
        self._cascade = Cascade(source, self._written.sheets)
        self._implied = implied_colors(source, self._cascade, self._written.masked)

    def inventory(self) -> Inventory:
        written = (Site(place.paint, place.kind, place.selectors) for place in self._written.places)
        implied = (
            Site(found.paint, found.kind, selectors_of(found.element)) for found in self._implied if found.mask is None
        )
        return Inventory.count([*written, *implied], self._remarks, self._blends())

    def apply(self, recoloring: Colors) -> bytes:
        return self._source.pack(splice(self._source.utf8, self._edits(Recoloring.of(recoloring))))

    @property
    def parts(self) -> tuple[str, ...]:
        return tuple(symbol.attributes["id"] for symbol in sprite_symbols(self._source))

    def preview(self, recoloring: Colors, part: int | None = None) -> bytes:
        wanted = Recoloring.of(recoloring)
        changes = self._implied_changes(wanted)
        plain = splice(
            self._source.utf8,
            (
                *engine_edits(self._source, self._written.places, self._cascade, wanted, changes, part),
                *((self._source.setting(self._source.root, {"xmlns": SVG})) if self._undeclared else ()),
            ),
        )
        return without_entities("drawing.svg", plain) if self._source.entities else plain

    def _blends(self) -> Iterator[tuple[Rgba, Rgba]]:
        """Paints of stops that follow each other."""
        before: SvgPlace | None = None
        for place in self._written.places:
            if place.kind is not Kind.STOP or isinstance(place.by, str):
                continue
            if before is not None and isinstance(before.by, Element) and before.by.parent is place.by.parent:
                yield before.paint, place.paint
            before = place

    def _edits(self, recoloring: Recoloring) -> Iterator[Edit]:
        for place in self._written.places:
            target = place_color(place, recoloring)
            if target is not None and target != place.paint[:3]:
                yield Edit(place.start, place.end, place.rewritten(target))
        for element, colors in self._implied_changes(recoloring).items():
            yield from self._declare(element, colors)

    def _implied_changes(self, recoloring: Recoloring) -> dict[Element, dict[str, Rgb]]:
        """What to declare for implied colors: the inherited ones once on the root, the others where they show.

        What stands in a mask must not change with the root, so the mask is told the color it had.
        """
        root = self._source.root
        changes: dict[Element, dict[str, Rgb]] = {}
        for found in self._implied:
            if found.mask is not None:
                continue
            split = recoloring.splits(found.paint)
            target = recoloring.at(found.paint, found.kind, selectors_of(found.element) if split else ())
            if target is not None and target != found.paint.rgb:
                inherited = found.attribute in ("fill", "color") and not split
                at = root if inherited else found.element
                changes.setdefault(at, {})[found.attribute] = target
        for found in self._implied:
            if found.mask is not None and found.attribute in changes.get(root, ()):
                changes.setdefault(found.mask, {})[found.attribute] = found.paint.rgb
        return changes

    def _declare(self, element: Element, colors: Mapping[str, Rgb]) -> Iterator[Edit]:
        """Puts attributes into a start tag; what is declared there already, but sets nothing, is overruled by style."""
        declared = self._cascade.declared(element)
        at = self._source.tag_name_end(element)
        for name, color in colors.items():
            if name not in declared:
                yield Edit(at, at, f' {name}="{color.hex}"'.encode())
        overruling = [f"{name}:{color.hex} !important" for name, color in colors.items() if name in declared]
        if overruling:
            text = ";".join(overruling)
            if "style" in element.attributes:
                end = self._source.attribute_span(element, "style")[1]
                yield Edit(end, end, f";{text}".encode())
            else:
                yield Edit(at, at, f' style="{text}"'.encode())

    @cached_property
    def _remarks(self) -> tuple[str, ...]:
        remarks = []
        names = {element.name for element in self._source.elements if element.namespace == SVG}
        if names & {"image", "feImage"}:
            remarks.append("It holds a picture, which keeps its colors.")
        if self._written.computing or "feComponentTransfer" in names:
            remarks.append("It holds a filter that computes colors, which stays as it is and may turn them.")
        if self._undeclared:
            remarks.append(UNDECLARED)
        if self._written.outside:
            named = ", ".join(self._written.outside[:4])
            remarks.append(f"It takes {named} from the page around it; where there is none, nothing is painted by it.")
        if "foreignObject" in names:
            remarks.append("It holds a passage of another format, which keeps its colors.")
        if self._written.unread:
            shown = self._written.unread[0][:60]
            remarks.append(f"“{shown}” is put together from variables and keeps its color.")
        if any(_outside(element) for element in self._source.elements):
            remarks.append("It refers to another file, which is not fetched.")
        return tuple(remarks)


def _outside(element: Element) -> bool:
    href = element.attributes.get("href") or element.attributes.get(XLINK_HREF) or ""
    return element.name in ("image", "feImage", "use") and not href.startswith(("#", "data:")) and href != ""
