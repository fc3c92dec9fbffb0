"""Slide decks as Office Open XML packages, edited in place: ISO/IEC 29500."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from functools import cached_property
from itertools import chain, count

from pavese.core.color.derived import Transform, turning
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.formats.deck.charts import charts_of
from pavese.core.formats.deck.faces import named_faces, typefaces
from pavese.core.formats.deck.linking import decided, links
from pavese.core.formats.deck.looking import closed, for_looking
from pavese.core.formats.deck.parts import Package, Part
from pavese.core.formats.deck.pictures import in_deck, relations, uses_of
from pavese.core.formats.deck.places import Place, blends_of, name_of, places_of, themes_of, told_apart
from pavese.core.formats.deck.styles import styled
from pavese.core.formats.document import ALONE, PLAIN, Alone, Beside, Document, Look, Notation, Page, PageKind, Preview
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.inside import PicturesInside
from pavese.core.formats.marks import scattered
from pavese.core.formats.repack import appended, repacked
from pavese.core.formats.slide_pictures import InPackage, Use, by_use, contents, in_marks, pictures_of, stands_on_pages
from pavese.core.formats.slides import LONGEST_TITLE, MEASURED, REMARKS, numbered, titled, together
from pavese.core.recolor.changes import Changes, Wanted
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.linked import Linked
from pavese.core.recolor.pictures import wanted_pictures
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import TextRun

_PER_INCH, _EMU = 96, 914_400
#: Themes of a deck that are named.
_THEMES = 6
_KINDS = {
    "slide": PageKind.CONTENT,
    "master": PageKind.MASTER,
    "layout": PageKind.LAYOUT,
    "notes": PageKind.NOTES,
}


def read_deck(name: str, data: bytes, beside: Beside = ALONE) -> DeckDocument:
    """Reads a deck. Raises RefusedFileError with the file's name and the reason."""
    package = Package(name, data)
    if not package.slides and not any(part.sort == "layout" for part in package.parts.values()):
        raise RefusedFileError(name, "it holds no slide and no layout.")
    return DeckDocument(package, beside)


class DeckDocument:
    """See `pavese.core.formats.document.Document`; every part that holds no changed color stays byte for byte."""

    looks: tuple[Look, ...] = (PLAIN,)
    #: Its pictures lie in the package.
    refers: tuple[str, ...] = ()
    remote: tuple[str, ...] = ()

    def __init__(self, package: Package, beside: Beside = ALONE) -> None:
        self._package, self._beside = package, beside
        self._themes = themes_of(package)
        self._told_apart = told_apart(package, self._themes)
        self._places = list(places_of(package, self._themes))

    def sites(self) -> Iterator[Site]:
        return chain((place.site for place in self._places), self._inside.sites())

    #: What an engine shows in marks are the same places.
    marked_sites = sites

    def inventory(self) -> Inventory:
        inside = self._inside
        blends = blends_of(self._places) | inside.blends
        found = Inventory.count(self.sites(), [*self._remarks, *inside.remarks], blends)
        charts = tuple(charts_of(self._package, self._places, self._themes))
        found = replace(found, charts=charts, pictures=inside.paints)
        return titled(found, [self._title(slide) for slide in self._package.slides], len(self._shown))

    @cached_property
    def pages(self) -> tuple[Page, ...]:
        size = self._package.presentation.source.named("sldSz")
        given = size[0].attributes if size else {}
        width, height = (_pixels(given.get(one, "")) for one in ("cx", "cy"))
        return tuple(
            Page(self._called(number, part), _KINDS[part.sort], f"/{part.page}", width, height)
            for number, part in enumerate(self._shown, 1)
        )

    @cached_property
    def _shown(self) -> tuple[Part, ...]:
        """What is looked at: the slides, then masters and layouts, then the notes of slides."""
        rest = (part for sort in ("master", "layout") for part in self._package.parts.values() if part.sort == sort)
        return (*self._package.slides, *rest, *self._notes)

    @cached_property
    def _notes(self) -> Mapping[Part, Part]:
        """The slides whose notes there are, by these."""
        found = ((self._package.notes_of(slide), slide) for slide in self._package.slides)
        return {notes: slide for notes, slide in found if notes is not None}

    @property
    def _measured(self) -> tuple[Part, ...]:
        """What texts are counted on: the slides; without any, what slides will be made from."""
        return (self._package.slides or self._shown)[:MEASURED]

    def _called(self, number: int, part: Part) -> str:
        if part.sort == "slide":
            return numbered(number, self._title(part), hidden=_is_hidden(part))
        if part.sort == "notes":
            slide = self._notes[part]
            return f"Notes of {numbered(self._package.slides.index(slide) + 1, self._title(slide), hidden=False)}"
        named = (one.attributes.get("name", "") for one in part.source.named("cSld"))
        return next(filter(None, named), "") or ("Master" if part.sort == "master" else "Layout")

    def embedded(self) -> Sequence[Document]:
        return ()

    @property
    def thumbnail(self) -> tuple[str, bytes] | None:
        path = self._package.thumbnail
        return None if path is None else (path, self._package.read(path))

    def write(self, wanted: Wanted) -> bytes:
        changes = Changes.of(wanted)
        pictures = self._pictured(changes)
        return self._repacked(changes, pictures, relations(self._package, pictures))

    def preview(self, wanted: Wanted, page: int | None = None, look: Look = PLAIN) -> Preview:
        """The slides around one; of the file, the first."""
        shown, at = together(page, len(self._shown))
        changes = Changes.of(wanted)
        edited = self._parts(changes)
        part = self._shown[shown.start : shown.stop]
        notation = Notation.OFFICE
        if part[at:] and part[at].sort == "notes":
            # They are seen with their slides.
            notes = [one for one in part if one.sort == "notes"]
            at -= len(part) - len(notes)
            notation, part = Notation.NOTES, tuple(self._notes[one] for one in notes)
        else:
            part = tuple(one for one in part if one.sort != "notes")
        holders = {one.stem for one in (*part, *(one for one in self._shown if one.sort != "slide"))}
        content = for_looking(self._package, edited, part, self._pictured(changes, holders))
        return Preview(notation, content, look, page=at)

    def slides(self, wanted: Wanted) -> Preview:
        changes = Changes.of(wanted)
        pictures = self._pictured(changes)
        lists = closed(self._package, relations(self._package, pictures))
        return Preview(Notation.OFFICE, self._repacked(changes, pictures, lists))

    def _repacked(self, changes: Changes, pictures: InPackage, lists: Mapping[str, bytes]) -> bytes:
        parts = self._packed(self._parts(changes))
        data = repacked(self._package.data, {**parts, **pictures.replaced, **lists})
        return appended(data, pictures.added)

    def marked(self, look: Look = PLAIN) -> Preview:
        """All slides, each site in its mark. What is seen on slides of several masters and points to a place of the
        theme shows the mark of that place: which one it is, each master says for itself."""
        marks = map(scattered, count(len(self._places)))
        return self._in_marks(by_use(self._uses, self._inside.marked(marks)), look)

    def alone(self, number: int) -> Alone | None:
        if number >= len(self._places):
            return None
        place = self._places[number]
        shape = next((one for one in place.site.selectors if one.startswith("#")), None)
        if shape is None:
            return None
        of = shape.rpartition(".")[2]
        named = (one.attributes for one in place.part.source.named("cNvPr"))
        name = next((one.get("name", "") for one in named if one.get("id") == of), "") or of
        return Alone(shape, f"the shape “{name}” {self._where(place.part)}".strip())

    def _where(self, part: Part) -> str:
        """Where something is that stands in a part, in words."""
        if part.sort == "notes":
            return f"in the notes {self._where(self._notes[part])}" if part in self._notes else "in notes"
        if part.sort == "slide":
            return f"on slide {self._package.slides.index(part) + 1}"
        called = self._called(0, part) if part.sort in _KINDS else part.sort
        return f"of the {part.sort}" + (f" “{called}”" if called.lower() != part.sort else "")

    def styled(self) -> Mapping[int, Sequence[tuple[Transform, ...]]]:
        return styled(self._package, self._places)

    @property
    def faces(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys(named_faces(self._package)))

    def unmarked(self) -> Preview:
        return Preview(Notation.OFFICE, for_looking(self._package, {}, self._measured))

    def pictures_marked(self, look: Look = PLAIN) -> Preview:
        return self._in_marks(in_marks(self._uses, self._package.read, len(list(self.marked_sites()))), look)

    def _in_marks(self, pictures: Mapping[Use, bytes], look: Look) -> Preview:
        edits = (
            (place, self._literal(place, scattered(number)))
            for number, place in enumerate(self._places)
            if place.part.page or not place.points or turning(place.transforms)
        )
        marks = in_deck(self._package, self._uses, pictures)
        return Preview(Notation.OFFICE, for_looking(self._package, self._edited(edits), self._measured, marks), look)

    @cached_property
    def _uses(self) -> tuple[Use, ...]:
        return uses_of(self._package)

    @cached_property
    def _inside(self) -> PicturesInside:
        return pictures_of(self._uses, self._package.read, self._beside)

    def stands_in_pictures(self) -> Iterator[TextRun]:
        return stands_on_pages(self._inside)

    def picture_selector(self, reference: str) -> str:
        return self._inside.selector(reference)

    def pictures(self, wanted: Wanted) -> Mapping[str, bytes]:
        return contents(self._uses, self._package.read, self._changed_pictures(Changes.of(wanted), self._uses))

    def beside(self, wanted: Wanted) -> Mapping[str, bytes]:
        """All of them lie in it."""
        return {}

    def _changed_pictures(self, changes: Changes, uses: Sequence[Use]) -> Mapping[Use, bytes]:
        return by_use(uses, self._inside.changed(changes, only={use.reference for use in uses}))

    def _pictured(self, changes: Changes, holders: Collection[str] | None = None) -> InPackage:
        """The pictures that become others, of some pages or of all."""
        uses = [use for use in self._uses if holders is None or use.holder in holders]
        mended = wanted_pictures(changes)

        def drawn(use: Use, drawing: bytes) -> bytes | None:
            return (
                None
                if use.reference in mended
                else self._inside.as_shown_by(use.reference, drawing, changes.recoloring)
            )

        return in_deck(self._package, uses, self._changed_pictures(changes, uses), drawn)

    def links(self, wanted: Wanted) -> Iterator[Linked]:
        return links(self._places, self._themes, Changes.of(wanted))

    def _changed(self, changes: Changes) -> Iterator[tuple[Place, bytes]]:
        """The color elements that become others, and what they become."""
        for one in decided(self._places, self._themes, changes):
            yield one.place, self._link(one.place, one.name) if one.name else self._literal(one.place, one.color)

    @staticmethod
    def _literal(place: Place, color: Rgb) -> bytes:
        return _element(place, "srgbClr", color.hex[1:].upper())

    @staticmethod
    def _link(place: Place, name: str) -> bytes:
        return _element(place, "schemeClr", name)

    def _parts(self, changes: Changes) -> dict[str, bytes]:
        """The parts that become others by what is changed in them, by their paths, in UTF-8."""
        faces = typefaces(self._package, changes.faces) if changes.faces is not None else ()
        return self._edited(self._changed(changes), faces)

    def _edited(
        self, changed: Iterable[tuple[Place, bytes]], more: Iterable[tuple[str, Edit]] = ()
    ) -> dict[str, bytes]:
        edits: dict[str, list[Edit]] = {}
        for path, edit in more:
            edits.setdefault(path, []).append(edit)
        for place, text in changed:
            edits.setdefault(place.part.path, []).append(Edit(place.start, place.end, text))
        return {path: splice(self._package.parts[path].source.utf8, own) for path, own in edits.items()}

    def _packed(self, parts: Mapping[str, bytes]) -> dict[str, bytes]:
        return {path: self._package.parts[path].source.pack(utf8) for path, utf8 in parts.items()}

    def _title(self, slide: Part) -> str:
        for shape in slide.source.named("ph"):
            if shape.attributes.get("type") in ("title", "ctrTitle"):
                at = shape.parent
                while at is not None and at.name != "sp":
                    at = at.parent
                if at is not None:
                    found = (one for one in slide.source.subtree(at) if one.name == "t")
                    text = " ".join(slide.source.content_text(one).text for one in found)
                    return " ".join(text.split())[:LONGEST_TITLE]
        return ""

    @cached_property
    def _remarks(self) -> tuple[str, ...]:
        paths = [path.lower() for path in self._package.paths]
        return (*(words for words, there in REMARKS.items() if there(paths)), *self._brought_along())

    def _brought_along(self) -> Iterator[str]:
        """The themes of its masters, where slides that were pasted in brought others along."""
        used = Counter(slide.theme for slide in self._package.slides)
        slides: dict[str, tuple[str, int]] = {}
        for path, key in self._told_apart.items():
            name, count = slides.get(key, (name_of(self._package.parts[path]) or "no name", 0))
            slides[key] = name[:40], count + used[path]
        told = [f"{name} ({_slides(count)})" for name, count in slides.values()]
        if told:
            more = f" and {len(told) - _THEMES} more" if len(told) > _THEMES else ""
            listed = f"{', '.join(told[:_THEMES])}{more}"
            yield f"Its masters have {len(told)} themes, which go the same way unless one is chosen apart: {listed}."


def _slides(count: int) -> str:
    return f"{count} slide" if count == 1 else f"{count} slides"


def _is_hidden(slide: Part) -> bool:
    return slide.source.root.attributes.get("show") in ("0", "false")


def _element(place: Place, name: str, value: str) -> bytes:
    tag = f"{place.prefix}{name}"
    if not place.alpha:
        return f'<{tag} val="{value}"/>'.encode()
    return f'<{tag} val="{value}">'.encode() + place.alpha + f"</{tag}>".encode()


def _pixels(emu: str) -> float:
    return int(emu) / _EMU * _PER_INCH if emu.isdigit() and len(emu) < 12 else 0.0
