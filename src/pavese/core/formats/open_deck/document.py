"""Slide decks as OpenDocument packages, edited in place: OpenDocument 1.3 (ISO/IEC 26300)."""

from __future__ import annotations

import io
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from itertools import chain, count

from pavese.core import limits
from pavese.core.color.derived import Transform
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.formats.archive import Archive
from pavese.core.formats.document import (
    ALONE,
    PLAIN,
    WHOLE,
    Alone,
    Beside,
    Document,
    Look,
    Notation,
    Page,
    PageKind,
    Preview,
)
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.inside import PicturesInside
from pavese.core.formats.marks import scattered
from pavese.core.formats.open_deck.pictures import Shown, edits_for, in_manifest, uses_in
from pavese.core.formats.open_deck.places import DRAW, FO, PRESENTATION, STYLE, SVG, XLINK, Place, places_in
from pavese.core.formats.repack import appended, repacked
from pavese.core.formats.slide_pictures import (
    NOTHING_CHANGES,
    InPackage,
    Use,
    by_use,
    contents,
    in_marks,
    in_package,
    pictures_of,
    stands_on_pages,
)
from pavese.core.formats.slides import LONGEST_TITLE, MEASURED, REMARKS, numbered, titled, together
from pavese.core.formats.xml_source import Element, XmlSource, read_xml
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import TextRun

_PRESENTATION = re.compile(rb"application/vnd\.oasis\.opendocument\.presentation(-template)?")
#: The parts that may hold color: those of the deck, and those of charts and tables in it.
_PARTS = re.compile(r"(?:Object [^/]+/)?(?:content|styles)\.xml")
#: The small picture of the deck that is in it (OpenDocument 1.3, part 2, 3.7).
_THUMBNAIL = "Thumbnails/thumbnail.png"
_CONTENT, _MANIFEST = "content.xml", "META-INF/manifest.xml"
#: Addresses that lead out of the package (OpenDocument 1.3, part 2, 3.7).
_OUTSIDE = re.compile(r"\s*(?:[A-Za-z][A-Za-z0-9+.-]*:|/|\.\./)")
_CHOSEN_BY_ITSELF = "Texts without a color of their own turn black or white by themselves where their ground changes."


def read_open_deck(name: str, data: bytes, beside: Beside = ALONE) -> OpenDeckDocument:
    """Reads a deck. Raises RefusedFileError with the file's name and the reason."""
    archive = Archive(name, io.BytesIO(data), limits.DECK_BYTES)

    def part(path: str) -> bytes:
        if path not in archive.numbers:
            raise RefusedFileError(name, f"“{path}” is missing in it.")
        return archive.member(archive.numbers[path])[1]

    if not _PRESENTATION.match(part("mimetype")):
        raise RefusedFileError(name, "it is no presentation.")
    if _MANIFEST in archive.numbers and b"encryption-data" in part(_MANIFEST):
        raise RefusedFileError(name, "it has a password. Open it, take the password away, and save it again.")
    part(_CONTENT)
    paths = [path for path in archive.numbers if _PARTS.fullmatch(path)]
    if sum(archive.sizes[archive.numbers[path]] for path in paths) > limits.PACKAGE_BYTES:
        size = limits.PACKAGE_BYTES // limits.MEGABYTE
        raise RefusedFileError(name, f"its texts and shapes are larger than {size} MB together.")
    parts = {path: read_xml(f"{name}: {path}", part(path)) for path in paths}
    if any(source.entities for source in parts.values()):
        raise RefusedFileError(name, "it declares entities, which no deck needs.")
    return OpenDeckDocument(data, archive, parts, beside)


class OpenDeckDocument:
    """See `pavese.core.formats.document.Document`; every part that holds no changed color stays byte for byte."""

    looks: tuple[Look, ...] = (PLAIN,)
    #: Its pictures lie in the package.
    refers: tuple[str, ...] = ()
    remote: tuple[str, ...] = ()

    def __init__(self, data: bytes, archive: Archive, parts: Mapping[str, XmlSource], beside: Beside = ALONE) -> None:
        self._data, self._archive, self._parts, self._beside = data, archive, parts, beside
        self._paths = tuple(archive.numbers)
        self._content = parts[_CONTENT]
        self._slides = [one for one in self._content.named("page") if one.namespace == DRAW]
        own = self._styles_of_one_page()
        self._places = [
            place
            for path, source in parts.items()
            for place in places_in(path, source, own if path == _CONTENT else {})
        ]

    def sites(self) -> Iterator[Site]:
        return chain((place.site for place in self._places), self._inside.sites())

    #: What an engine shows in marks are the same places.
    marked_sites = sites

    def inventory(self) -> Inventory:
        inside = self._inside
        found = Inventory.count(self.sites(), [*self._remarks, *inside.remarks], inside.blends)
        return titled(replace(found, pictures=inside.paints), [self._title(slide) for slide in self._slides])

    @cached_property
    def pages(self) -> tuple[Page, ...]:
        hidden = self._hidden
        found = [
            Page(
                numbered(number, self._title(slide), hidden=_style_of(slide) in hidden),
                PageKind.CONTENT,
                f"/page{number}",
            )
            for number, slide in enumerate(self._slides, 1)
        ]
        notes = [
            Page(
                f"Notes of {numbered(at + 1, self._title(self._slides[at]), hidden=False)}",
                PageKind.NOTES,
                f"/notes{at + 1}",
            )
            for at in self._noted
        ]
        return (*found, *notes) or (WHOLE,)

    @cached_property
    def _noted(self) -> tuple[int, ...]:
        """The slides, by their places, beside which something is written down."""
        return tuple(
            at for at, slide in enumerate(self._slides) if (notes := self._notes_in(slide)) and self._words_in(notes)
        )

    def _notes_in(self, slide: Element) -> Element | None:
        """ISO/IEC 26300-1 (OpenDocument 1.2), 9.1.5."""
        return next((one for one in self._content.children(slide) if one.name == "notes"), None)

    def embedded(self) -> Sequence[Document]:
        return ()

    @property
    def thumbnail(self) -> tuple[str, bytes] | None:
        return (_THUMBNAIL, self._read(_THUMBNAIL)) if _THUMBNAIL in self._paths else None

    def write(self, wanted: Wanted) -> bytes:
        changes = Changes.of(wanted)
        return self._repacked(self._changed(changes), self._pictured(changes), {})

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        """The slides around one; of the file, the first. Notes are seen with their slides."""
        behind = (page or 0) - len(self._slides)
        notes = 0 <= behind < len(self._noted)
        shown, at = together(self._noted[behind] if notes else page, len(self._slides))
        changes = Changes.of(wanted)
        slides = {f"page{at + 1}" for at in shown}
        uses = [use for use in self._uses if use.holder in slides or not use.holder.startswith("page")]
        content = self._for_looking(self._changed(changes), shown, self._pictured(changes, uses))
        return Preview(Notation.NOTES if notes else Notation.OFFICE, content, look, page=at)

    def slides(self, wanted: Wanted) -> Preview:
        changes = Changes.of(wanted)
        content = self._repacked(self._changed(changes), self._pictured(changes), self._closed())
        return Preview(Notation.OFFICE, content)

    def marked(self, look: Look = PLAIN) -> Preview:
        """All slides, each site in its mark."""
        marks = map(scattered, count(len(self._places)))
        return self._in_marks(by_use(self._uses, self._inside.marked(marks)), look)

    def alone(self, number: int) -> Alone | None:
        """Styles say its colors, and shapes share them."""
        return None

    def styled(self) -> Mapping[int, Sequence[tuple[Transform, ...]]]:
        """Styles say their colors themselves."""
        return {}

    @property
    def faces(self) -> tuple[str, ...]:
        elements = (one for source in self._parts.values() for one in source.named("font-face", "text-properties"))
        # By a name of its own, or by that of a face that is declared (OpenDocument 1.3, part 3, 20.284).
        keys = (f"{SVG} font-family", f"{FO} font-family", f"{STYLE} font-name")
        said = (one.attributes.get(key, "") for one in elements for key in keys)
        # Of several the first is meant, as in CSS.
        named = (one.split(",")[0].strip().strip("'\"") for one in said)
        return tuple(dict.fromkeys(filter(None, named)))

    def unmarked(self) -> Preview:
        return Preview(Notation.OFFICE, self._for_looking((), range(MEASURED), NOTHING_CHANGES))

    def pictures_marked(self, look: Look = PLAIN) -> Preview:
        return self._in_marks(in_marks(tuple(self._uses), self._read, len(list(self.marked_sites()))), look)

    def _in_marks(self, pictures: Mapping[Use, bytes], look: Look) -> Preview:
        marks = ((place, scattered(number)) for number, place in enumerate(self._places))
        packed = in_package(self._uses, pictures, self._paths)
        return Preview(Notation.OFFICE, self._for_looking(marks, range(MEASURED), packed), look)

    @cached_property
    def _inside(self) -> PicturesInside:
        return pictures_of(self._uses, self._read, self._beside)

    def stands_in_pictures(self) -> Iterator[TextRun]:
        return stands_on_pages(self._inside)

    def picture_selector(self, reference: str) -> str:
        return self._inside.selector(reference)

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        uses = tuple(self._uses)
        return contents(uses, self._read, self._changed_pictures(Changes.of(wanted), uses))

    def beside(self, wanted: Wanted) -> Mapping[str, bytes]:
        """All of them lie in it."""
        return {}

    @cached_property
    def _uses(self) -> Mapping[Use, list[Shown]]:
        sizes = {path: self._archive.sizes[number] for path, number in self._archive.numbers.items()}
        return uses_in(self._parts, sizes.get)

    def _read(self, path: str) -> bytes:
        return self._archive.member(self._archive.numbers[path])[1]

    def _changed_pictures(self, changes: Changes, uses: Sequence[Use]) -> Mapping[Use, bytes]:
        return by_use(uses, self._inside.changed(changes, only={use.reference for use in uses}))

    def _pictured(self, changes: Changes, uses: Sequence[Use] | None = None) -> InPackage:
        """The pictures that become others, at some places or at all."""
        listed = tuple(self._uses) if uses is None else uses
        return in_package(listed, self._changed_pictures(changes, listed), self._paths)

    def _repacked(
        self, changed: Iterable[tuple[Place, Rgb]], pictures: InPackage, more: Mapping[str, Sequence[Edit]]
    ) -> bytes:
        edits = {path: list(own) for path, own in more.items()}
        for path, edit in edits_for(self._parts, self._uses, pictures):
            edits.setdefault(path, []).append(edit)
        parts = {**self._edited(changed, edits), **pictures.replaced}
        if pictures.added and _MANIFEST in self._paths:
            parts[_MANIFEST] = in_manifest(self._read(_MANIFEST), pictures)
        return appended(repacked(self._data, parts), pictures.added)

    def _changed(self, changes: Changes) -> Iterator[tuple[Place, Rgb]]:
        for place in self._places:
            color = changes.recoloring.at(*place.site)
            if color is not None and color != place.site.paint.rgb:
                yield place, color

    def _edited(
        self, changed: Iterable[tuple[Place, Rgb]], more: Mapping[str, Sequence[Edit]] | None = None
    ) -> dict[str, bytes]:
        """The parts that become others, by their paths. What is taken away takes its colors along."""
        edits: dict[str, list[Edit]] = {path: list(own) for path, own in (more or {}).items()}
        for place, color in changed:
            edits.setdefault(place.path, []).append(Edit(place.start, place.end, color.hex.encode()))
        return {path: self._parts[path].pack(splice(self._parts[path].utf8, own)) for path, own in edits.items()}

    def _for_looking(self, changed: Iterable[tuple[Place, Rgb]], shown: range, pictures: InPackage) -> bytes:
        """The package with some of its slides, hidden ones too, and without a way out of it."""
        more = self._closed()
        gone = [self._content.span(slide) for at, slide in enumerate(self._slides) if at not in shown]
        own = [edit for edit in more.get(_CONTENT, ()) if not any(start <= edit.start < end for start, end in gone)]
        own += [Edit(start, end, b"") for start, end in gone]
        hidden = self._hidden
        for style in self._content.named("drawing-page-properties"):
            if f"{PRESENTATION} visibility" in style.attributes and style.parent is not None:
                if style.parent.attributes.get(f"{STYLE} name") in hidden:
                    own.append(Edit(*self._content.spaced_span(style, f"{PRESENTATION} visibility"), b"visible"))
        kept = (
            (place, color)
            for place, color in changed
            if place.path != _CONTENT or not any(start <= place.start < end for start, end in gone)
        )
        moved = {
            use: path
            for use, path in pictures.moved.items()
            if not any(
                where == _CONTENT and start <= element.start < end
                for where, element in self._uses[use]
                for start, end in gone
            )
        }
        return self._repacked(kept, pictures._replace(moved=moved), {**more, _CONTENT: own})

    def _closed(self) -> dict[str, list[Edit]]:
        """The edits by which whatever leads out of the package leads nowhere."""
        found: dict[str, list[Edit]] = {}
        for path, source in self._parts.items():
            for element in source.elements:
                if _OUTSIDE.match(element.attributes.get(f"{XLINK} href", "")):
                    span = source.spaced_span(element, f"{XLINK} href")
                    found.setdefault(path, []).append(Edit(*span, b""))
        return found

    @cached_property
    def _hidden(self) -> frozenset[str]:
        """The styles of pages that are not shown."""
        found = (
            style.parent.attributes.get(f"{STYLE} name", "")
            for style in self._content.named("drawing-page-properties")
            if style.attributes.get(f"{PRESENTATION} visibility") == "hidden" and style.parent is not None
        )
        return frozenset(found)

    def _styles_of_one_page(self) -> dict[str, str]:
        """The selector of the page that alone uses a style, by the style's name; what a slide and its notes share is of
        the slide."""
        pages: dict[str, set[str]] = {}
        for number, slide in enumerate(self._slides, 1):
            notes = self._notes_in(slide)
            for element in self._content.subtree(slide):
                page = f"/notes{number}" if notes and notes.index <= element.index < notes.behind else f"/page{number}"
                for attribute, value in element.attributes.items():
                    if attribute.endswith("style-name"):
                        pages.setdefault(value, set()).add(page)
        for used in pages.values():
            used -= {one.replace("page", "notes") for one in used if "page" in one}
        return {style: next(iter(used)) for style, used in pages.items() if len(used) == 1}

    def _title(self, slide: Element) -> str:
        for frame in self._content.subtree(slide):
            if frame.attributes.get(f"{PRESENTATION} class") == "title":
                return self._words_in(frame)[:LONGEST_TITLE]
        return ""

    def _words_in(self, element: Element) -> str:
        texts = (one for one in self._content.subtree(element) if one.name == "p")
        return " ".join(" ".join(self._content.content_text(one).text for one in texts).split())

    @cached_property
    def _remarks(self) -> tuple[str, ...]:
        paths = [path.lower() for path in self._paths]
        by_itself = any(
            one.attributes.get(f"{STYLE} use-window-font-color") == "true"
            for source in self._parts.values()
            for one in source.named("text-properties")
        )
        return (
            *(words for words, there in REMARKS.items() if there(paths)),
            *((_CHOSEN_BY_ITSELF,) if by_itself else ()),
        )


def _style_of(slide: Element) -> str:
    return slide.attributes.get(f"{DRAW} style-name", "")
