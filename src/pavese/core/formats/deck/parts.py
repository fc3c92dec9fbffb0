"""The parts of a deck: how they belong together, and which theme and color map count in each.

ISO/IEC 29500-2 (packages: content types, relationships) and 29500-1, 13.3 (the parts of a presentation) and 19.3.1.6
(color maps).
"""

from __future__ import annotations

import io
import posixpath
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.archive import Archive
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.xml_source import Element, XmlSource, read_xml
from pavese.core.kit.deck_theme import PLACES

_ROOT_RELATIONS, _SMALL = "_rels/.rels", "/metadata/thumbnail"
#: What the kinds of parts stand in.
TYPES = "[Content_Types].xml"
#: What a part is, by the end of its content type; of all others nothing is read.
_SORTS = {
    "presentation.main+xml": "presentation",
    "template.main+xml": "presentation",
    "slideshow.main+xml": "presentation",
    "presentation.macroenabled.main+xml": "presentation",
    "template.macroenabled.main+xml": "presentation",
    "slideshow.macroenabled.main+xml": "presentation",
    "slide+xml": "slide",
    "slidelayout+xml": "layout",
    "slidemaster+xml": "master",
    "notesslide+xml": "notes",
    "notesmaster+xml": "notes master",
    "handoutmaster+xml": "handout master",
    "theme+xml": "theme",
    "themeoverride+xml": "theme override",
    "tablestyles+xml": "table styles",
    "drawingml.chart+xml": "chart",
    "chartex+xml": "chart",
    "chartshapes+xml": "chart",
    "diagramdrawing+xml": "diagram",
    "diagramdata+xml": "diagram",
    "diagramcolors+xml": "definition",
    "diagramstyle+xml": "definition",
    # MS-ODRAWXML, 2.2.4: how a chart is drawn anew, or a series that is added to it.
    "chartstyle+xml": "definition",
    "chartcolorstyle+xml": "definition",
}
#: How places are called where no map says otherwise.
_PLAIN_MAP = {"bg1": "lt1", "tx1": "dk1", "bg2": "lt2", "tx2": "dk2", **{one: one for one in PLACES}}
#: Documents of an older kind, and those with a password, are compound files.
_COMPOUND = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"


@dataclass(frozen=True)
class Relation:
    """What a part refers to: the path of another part, or an address outside of the package."""

    id: str
    sort: str
    target: str
    outside: bool


@dataclass(eq=False)
class Part:
    """A part that may hold color: its path, what it is, its source; the theme that counts in it (by path), and the
    place of the theme that each name means there; the slide, layout, master or notes in which it is seen, "" for what
    is seen in many."""

    path: str
    sort: str
    source: XmlSource
    theme: str = ""
    #: The key of that theme, where the masters of its deck have several.
    own_theme: str = ""
    names: Mapping[str, str] = field(default_factory=lambda: _PLAIN_MAP)
    page: str = ""
    #: Whether a name means one place in it: what is seen under several masters may have several themes.
    one_theme: bool = False

    @property
    def stem(self) -> str:
        """Its name, as `slide3`."""
        return posixpath.splitext(posixpath.basename(self.path))[0]


class Package:
    """A deck, opened. Only what may hold color is unpacked."""

    def __init__(self, name: str, data: bytes) -> None:
        """Raises RefusedFileError with the reason."""
        if data.startswith(_COMPOUND):
            raise RefusedFileError(
                name,
                "it has a password, or is in the older format of decks (.ppt). Open it, take the password away, and "
                "save it as .pptx.",
            )
        self.name, self.data = name, data
        self._archive = Archive(name, io.BytesIO(data), limits.DECK_BYTES)
        self._left = limits.PACKAGE_BYTES
        sorts = {path: sort for path in self.paths if (sort := _sort_of(self.types(path)))}
        if "presentation" not in sorts.values():
            raise RefusedFileError(name, "it holds no presentation.")
        self.parts = {path: Part(path, sort, self._xml(path)) for path, sort in sorts.items()}
        self._relations = {path: self._relations_of(path) for path in self.parts}
        self._settle()

    @property
    def paths(self) -> tuple[str, ...]:
        """All that is in the package, in its order."""
        return tuple(self._archive.numbers)

    @cached_property
    def presentation(self) -> Part:
        """The part that names the slides."""
        return next(part for part in self.parts.values() if part.sort == "presentation")

    @cached_property
    def slides(self) -> tuple[Part, ...]:
        """The slides in the order in which they are shown, hidden ones too."""
        targets = {one.id: one.target for one in self._relations[self.presentation.path]}
        found = (targets.get(id_of(element)) for element in self.presentation.source.named("sldId"))
        return tuple(self.parts[path] for path in found if path in self.parts)

    def notes_of(self, slide: Part) -> Part | None:
        """What its speaker has written down beside a slide."""
        return self._one(slide.path, "notes")

    def related(self, path: str) -> tuple[Relation, ...]:
        """What a part refers to."""
        return self._relations.get(path, ())

    def relations_path(self, path: str) -> str | None:
        """Where it is written what a part refers to; None for one that refers to nothing."""
        folder, name = posixpath.split(path)
        found = f"{folder}/_rels/{name}.rels" if folder else f"_rels/{name}.rels"
        return found if found in self._archive.numbers else None

    @cached_property
    def thumbnail(self) -> str | None:
        """The path of the small picture of the deck that is in it (ISO/IEC 29500-2, 11: a relation of the package)."""
        listed = self._xml(_ROOT_RELATIONS).named("Relationship") if _ROOT_RELATIONS in self._archive.numbers else ()
        named = (one.attributes.get("Target", "") for one in listed if one.attributes.get("Type", "").endswith(_SMALL))
        paths = (posixpath.normpath(one).lstrip("/") for one in named)
        return next((path for path in paths if path in self._archive.numbers), None)

    def size(self, path: str) -> int:
        """How many bytes a part has."""
        return self._archive.sizes[self._archive.numbers[path]]

    def read(self, path: str) -> bytes:
        """The bytes of a part. Raises RefusedFileError for a broken one."""
        return self._archive.member(self._archive.numbers[path])[1]

    def retargeted(self, path: str, targets: Mapping[str, str]) -> bytes:
        """The list of what a part refers to, with other parts for some of its relations (paths, by their ids)."""
        where = self.relations_path(path)
        assert where is not None
        source = self._xml(where)
        folder = posixpath.dirname(path)
        edits = [
            Edit(*source.attribute_span(one, "Target"), posixpath.relpath(target, folder).encode())
            for one in source.named("Relationship")
            if (target := targets.get(one.attributes.get("Id", ""))) is not None
        ]
        return source.pack(splice(source.utf8, edits))

    @cached_property
    def types(self) -> Types:
        """What each part is."""
        return _content_types(self._xml(TYPES))

    def _xml(self, path: str) -> XmlSource:
        if path not in self._archive.numbers:
            raise RefusedFileError(self.name, f"“{path}” is missing in it.")
        data = self.read(path)
        self._left -= len(data)
        if self._left < 0:
            size = limits.PACKAGE_BYTES // limits.MEGABYTE
            raise RefusedFileError(self.name, f"its texts and shapes are larger than {size} MB together.")
        source = read_xml(f"{self.name}: {path}", data)
        if source.entities:
            # ISO/IEC 29500-2, annex B: no part declares a document type.
            raise RefusedFileError(self.name, f"“{path}” declares entities, which no deck may.")
        return source

    def _relations_of(self, path: str) -> tuple[Relation, ...]:
        where = self.relations_path(path)
        if where is None:
            return ()
        folder, found = posixpath.dirname(path), []
        for element in self._xml(where).named("Relationship"):
            given = element.attributes
            outside = given.get("TargetMode") == "External"
            target = given.get("Target", "")
            if not outside:
                target = posixpath.normpath(posixpath.join("/", folder, target)).lstrip("/")
            found.append(Relation(given.get("Id", ""), posixpath.basename(given.get("Type", "")), target, outside))
        return tuple(found)

    def _one(self, path: str, sort: str) -> Part | None:
        """The part of a sort that another refers to."""
        parts = (self.parts.get(one.target) for one in self.related(path))
        return next((part for part in parts if part is not None and part.sort == sort), None)

    def _settle(self) -> None:
        """Tells each part its theme and its color map: those of the master above it, or of the part that holds it."""
        for part in self._of("master", "notes master", "handout master"):
            theme = self._one(part.path, "theme")
            self._give(part, theme.path if theme else "", _mapped(part.source, "clrMap") or _PLAIN_MAP)
        for sort, above in (("layout", "master"), ("slide", "layout"), ("notes", "notes master")):
            for part in self._of(sort):
                master = self._one(part.path, above)
                if master is not None:
                    self._give(part, master.theme, _mapped(part.source, "overrideClrMapping") or master.names)
        first = next(self._of("master"), None)
        for part in self._of("presentation", "table styles"):
            if first is not None:
                self._give(part, first.theme, first.names)
                part.one_theme = len(list(self._of("master"))) == 1
        for holder in list(self._of("slide", "layout", "master", "notes", "notes master", "handout master")):
            holder.page, holder.one_theme = holder.stem, True
            self._hand_down(holder)
        for part in self._of("theme", "theme override"):
            part.theme = part.path

    def _hand_down(self, holder: Part) -> None:
        """What stands in a slide, such as a chart, has its theme, unless it brings one of its own."""
        for one in self.related(holder.path):
            part = self.parts.get(one.target)
            if part is not None and not part.page and part.sort in ("chart", "diagram", "definition"):
                part.page, part.one_theme = holder.page, True
                own = self._one(part.path, "theme override")
                names = _mapped(part.source, "clrMapOvr") or holder.names
                self._give(part, own.path if own and own.source.named("clrScheme") else holder.theme, names)
                self._hand_down(part)

    def _of(self, *sorts: str) -> Iterator[Part]:
        return (part for part in self.parts.values() if part.sort in sorts)

    @staticmethod
    def _give(part: Part, theme: str, names: Mapping[str, str]) -> None:
        part.theme, part.names = theme, names


def with_elements(data: bytes, name: str, elements: Sequence[str]) -> bytes:
    """A list with more elements at its end, called as those are that stand in it."""
    end = data.rindex(b"</")
    prefix = data[end + 2 : data.index(b">", end)].rpartition(b":")[0]
    tag = (prefix.decode() + ":" if prefix else "") + name
    more = "".join(f"<{tag} {said}/>" for said in elements)
    return data[:end] + more.encode() + data[end:]


def id_of(element: Element) -> str:
    """The relationship that an element names (`r:id`)."""
    return next((value for name, value in element.attributes.items() if name.endswith("relationships id")), "")


def _content_types(source: XmlSource) -> Types:
    endings, paths = (
        {one.attributes.get(key, ""): one.attributes.get("ContentType", "") for one in source.named(name)}
        for name, key in (("Default", "Extension"), ("Override", "PartName"))
    )
    return Types(
        {ending.lower(): said for ending, said in endings.items()},
        {path.lstrip("/"): said for path, said in paths.items()},
    )


@dataclass(frozen=True)
class Types:
    """What parts are, by the endings of their paths, and by whole paths."""

    by_ending: Mapping[str, str]
    by_path: Mapping[str, str]

    def __call__(self, path: str) -> str:
        return self.by_path.get(path) or self.by_ending.get(path.rpartition(".")[2].lower(), "")


def _sort_of(content_type: str) -> str | None:
    named = content_type.lower()
    return next((sort for end, sort in _SORTS.items() if named.endswith((f".{end}", f"-{end}"))), None)


def _mapped(source: XmlSource, name: str) -> Mapping[str, str] | None:
    """What a color map says, with those names that no map turns."""
    for element in source.named(name):
        given = {key: value for key, value in element.attributes.items() if value in PLACES}
        if given:
            return {**_PLAIN_MAP, **given}
    return None
