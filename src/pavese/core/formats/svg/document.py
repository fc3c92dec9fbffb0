"""An SVG file as a document: its paints, and the file again with paints replaced in place."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from itertools import chain
from typing import NamedTuple

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError, UnreadableCssError
from pavese.core.formats.document import (
    ALONE,
    NOT_FETCHED,
    PLAIN,
    Beside,
    Document,
    Look,
    Notation,
    Page,
    PageKind,
    Preview,
)
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.format import Can, Format
from pavese.core.formats.picture import FORMATS as PIXELS
from pavese.core.formats.svg.acts import done
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.engine import engine_edits, sprite_symbols
from pavese.core.formats.svg.implied import implied_colors
from pavese.core.formats.svg.pictures import DrawnPictures
from pavese.core.formats.svg.places import SvgPlace, place_color, selectors_of, written_colors
from pavese.core.formats.svg.properties import SVG, XLINK_HREF
from pavese.core.formats.svg.size import extent
from pavese.core.formats.svg.texts import inked, texts_of, unlettered
from pavese.core.formats.svg.variables import can_link, linked, with_variables
from pavese.core.formats.told import is_svg
from pavese.core.formats.xml_source import Element, XmlSource, read_xml, without_entities
from pavese.core.recolor.acts import Namespace
from pavese.core.recolor.changes import Changes, Links, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Text, TextRun


def read_svg(name: str, data: bytes, beside: Beside = ALONE) -> SvgDocument:
    """Reads an SVG, gzipped or not. Raises RefusedFileError with the file's name and the reason."""
    return _read(name, data, beside, (*PIXELS, _SHOWN_IN_ONE))


def _read_shown(name: str, data: bytes, beside: Beside = ALONE) -> SvgDocument:
    """Reads one that another shows: no drawing that it shows itself is opened, or there would be no end of them."""
    return _read(name, data, beside, PIXELS)


_SHOWN_IN_ONE = Format(
    "svg", "SVG", "drawings in drawings", (".svg",), "image/svg+xml", is_svg, _read_shown, frozenset((Can.VECTOR,))
)


def _read(name: str, data: bytes, beside: Beside, formats: Sequence[Format]) -> SvgDocument:
    source = read_xml(name, data)
    root = source.root
    if root.name != "svg":
        raise RefusedFileError(name, f"it is XML, but not SVG: its outermost element is “{root.name[:40]}”.")
    if root.namespace not in (SVG, ""):
        raise RefusedFileError(name, f"its svg element is of another namespace, “{root.namespace[:60]}”.")
    try:
        document = SvgDocument(source, beside, formats)
    except UnreadableCssError as error:
        raise RefusedFileError(name, str(error)) from error
    return document


class _Declared(NamedTuple):
    """What is declared for a color that nothing in the file names; `token` is the one it was chosen by."""

    color: Rgb
    token: str | None = None


class SvgDocument:
    """See `pavese.core.formats.document.Document`."""

    looks: tuple[Look, ...] = (PLAIN,)
    #: Those that lie on the web are not fetched: they are said to be missing.
    remote: tuple[str, ...] = ()

    def __init__(self, source: XmlSource, beside: Beside, formats: Sequence[Format]) -> None:
        """`formats` are those of pictures in it that are opened."""
        self._source = source
        self._pictures = DrawnPictures(source, beside, formats)
        self._beside = beside
        self._undeclared = not source.root.namespace
        if self._undeclared:
            source.place_in(SVG)
        self._written = written_colors(source)
        self._cascade = Cascade(source, self._written.sheets)
        self._implied = implied_colors(source, self._cascade, self._written.masked)

    def sites(self) -> Iterator[Site]:
        for place in self._written.places:
            yield Site(place.paint, place.kind, place.selectors)
        for found in self._implied:
            if found.mask is None:
                yield Site(found.paint, found.kind, selectors_of(found.element))
        yield from self._pictures.inside.sites()

    def inventory(self) -> Inventory:
        inside = self._pictures.inside
        found = Inventory.count(self.sites(), self._remarks, chain(self._blends(), inside.blends))
        return replace(found, pictures=inside.paints)

    def write(self, wanted: Wanted) -> bytes:
        changes = Changes.of(wanted)
        pictures = self._pictures.written(self._pictures.inside.changed(changes))
        edits = chain(self._edits(changes.recoloring, changes.links), pictures)
        data = self._source.pack(splice(self._source.utf8, edits))
        data = done(data, changes)
        return with_variables(data, changes.links) if changes.links else data

    @cached_property
    def pages(self) -> tuple[Page, ...]:
        ids = [symbol.attributes["id"] for symbol in sprite_symbols(self._source)]
        width, height = extent(self._source.root)
        return tuple(Page(id_, PageKind.SYMBOL, f"#{id_}") for id_ in ids) or (Page(width=width, height=height),)

    @cached_property
    def refers(self) -> tuple[str, ...]:
        return self._pictures.refers

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        return {**self._pictures.came(), **self._pictures.inside.changed(Changes.of(wanted))}

    def beside(self, wanted: Wanted) -> Mapping[str, bytes]:
        changed = self._pictures.inside.changed(Changes.of(wanted))
        return {reference: data for reference, data in changed.items() if reference in self._beside}

    def stands_in_pictures(self) -> Iterator[TextRun]:
        return self._pictures.inside.stands()

    def picture_selector(self, reference: str) -> str:
        return self._pictures.inside.selector(reference)

    def embedded(self) -> Sequence[Document]:
        return ()

    def texts(self) -> Sequence[Text | None]:
        return texts_of(self._source, self._cascade)

    def inked(self, inks: Sequence[Rgb], look: Look = PLAIN) -> Preview:
        plain = read_xml("drawing.svg", self.preview({}).content)
        return Preview(Notation.VECTOR, inked(plain, inks))

    def unlettered(self, look: Look = PLAIN) -> Preview:
        plain = read_xml("drawing.svg", self.preview({}).content)
        return Preview(Notation.VECTOR, unlettered(plain))

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        changes = Changes.of(wanted)
        plain = splice(
            self._source.utf8,
            (
                *engine_edits(
                    self._source,
                    self._written.places,
                    self._cascade,
                    changes.recoloring,
                    {
                        element: {name: declared.color for name, declared in colors.items()}
                        for element, colors in self._implied_changes(changes.recoloring).items()
                    },
                    self._pictures.shown(self._pictures.inside.changed(changes)),
                    page,
                ),
                *((self._source.setting(self._source.root, {"xmlns": SVG})) if self._undeclared else ()),
            ),
        )
        if self._source.entities:
            plain = without_entities("drawing.svg", plain)
        return Preview(Notation.VECTOR, plain if page is not None else done(plain, changes, shown=True))

    def _blends(self) -> Iterator[tuple[Rgba, Rgba]]:
        """Paints of stops that follow each other."""
        before: SvgPlace | None = None
        for place in self._written.places:
            if place.kind is not Kind.STOP or isinstance(place.by, str):
                continue
            if before is not None and isinstance(before.by, Element) and before.by.parent is place.by.parent:
                yield before.paint, place.paint
            before = place

    def _edits(self, recoloring: Recoloring, links: Links | None = None) -> Iterator[Edit]:
        for place in self._written.places:
            target = place_color(place, recoloring)
            name = self._link(place, target, recoloring, links) if links else None
            if name is not None:
                yield Edit(place.start, place.end, linked(name, target or place.paint.rgb).encode())
            elif target is not None and target != place.paint[:3]:
                yield Edit(place.start, place.end, place.rewritten(target))
        for element, colors in self._implied_changes(recoloring).items():
            yield from self._declare(element, colors, links)

    @staticmethod
    def _link(place: SvgPlace, target: Rgb | None, recoloring: Recoloring, links: Links) -> str | None:
        """What a color is called at a place that can follow a variable, where it was chosen by a token."""
        if target is None or not can_link(place):
            return None
        token = recoloring.token_at(place.paint, place.kind, place.selectors)
        return None if token is None else links.name(target, token)

    def _implied_changes(self, recoloring: Recoloring) -> dict[Element, dict[str, _Declared]]:
        """What to declare for implied colors: the inherited ones once on the root, the others where they show.

        What stands in a mask must not change with the root, so the mask is told the color it had.
        """
        root = self._source.root
        changes: dict[Element, dict[str, _Declared]] = {}
        for found in self._implied:
            if found.mask is not None:
                continue
            split = recoloring.splits(found.paint)
            site = found.paint, found.kind, selectors_of(found.element) if split else ()
            target = recoloring.at(*site)
            if target is not None and target != found.paint.rgb:
                inherited = found.attribute in ("fill", "color") and not split
                at = root if inherited else found.element
                changes.setdefault(at, {})[found.attribute] = _Declared(target, recoloring.token_at(*site))
        for found in self._implied:
            if found.mask is not None and found.attribute in changes.get(root, ()):
                changes.setdefault(found.mask, {})[found.attribute] = _Declared(found.paint.rgb)
        return changes

    def _declare(self, element: Element, colors: Mapping[str, _Declared], links: Links | None) -> Iterator[Edit]:
        """Puts attributes into a start tag; what is declared there already, but sets nothing, is overruled by style."""
        declared = self._cascade.declared(element)
        at = self._source.tag_name_end(element)
        values = {name: _value(one, links) for name, one in colors.items()}
        for name, value in values.items():
            if name not in declared:
                yield Edit(at, at, f' {name}="{value}"'.encode())
        overruling = [f"{name}:{value} !important" for name, value in values.items() if name in declared]
        if overruling:
            text = ";".join(overruling)
            if "style" in element.attributes:
                end = self._source.attribute_span(element, "style")[1]
                yield Edit(end, end, f";{text}".encode())
            else:
                yield Edit(at, at, f' style="{text}"'.encode())

    @cached_property
    def _remarks(self) -> tuple[str, ...]:
        remarks: list[str] = []
        names = {element.name for element in self._source.elements if element.namespace == SVG}
        remarks += self._pictures.remarks
        if self._written.computing or "feComponentTransfer" in names:
            remarks.append("It holds a filter that computes colors, which stays as it is and may turn them.")
        if self._undeclared:
            remarks.append(Namespace.remedies)
        if self._written.outside:
            named = ", ".join(self._written.outside[:4])
            remarks.append(f"It takes {named} from the page around it; where there is none, nothing is painted by it.")
        if "foreignObject" in names:
            remarks.append("It holds a passage of another format, which keeps its colors.")
        if self._written.unread:
            shown = self._written.unread[0][:60]
            remarks.append(f"“{shown}” is put together from variables and keeps its color.")
        if any(href not in self._beside for href in self.refers):
            remarks.append(NOT_FETCHED)
        if any(_outside(element) for element in self._source.named("use")):
            remarks.append("It uses a part of another file, which is not fetched.")
        return tuple(remarks)


def _value(declared: _Declared, links: Links | None) -> str:
    name = links.name(declared.color, declared.token) if links else None
    return declared.color.hex if name is None else linked(name, declared.color)


def _outside(element: Element) -> str:
    """The reference of an element to another file; "" for none."""
    href = (element.attributes.get("href") or element.attributes.get(XLINK_HREF) or "").strip()
    return "" if href.startswith(("#", "data:")) else href
