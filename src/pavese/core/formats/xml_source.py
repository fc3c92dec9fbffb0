"""Reading XML for editing in place: where every tag and every attribute value stands in the source.

expat (in Python's standard library) checks well-formedness and gives the byte offset of each tag; attributes are
then found in the source itself. Files that declare entities are refused: XML 1.0, section 4.2, allows them, but
they are the door to expansion bombs and to reading other files. https://www.w3.org/TR/xml/#sec-entity-decl
"""

from __future__ import annotations

import codecs
import gzip
import io
import re
import zlib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from xml.parsers import expat

from pavese.core.errors import RefusedFileError
from pavese.core.formats import limits
from pavese.core.formats.edits import SourceText

_GZIP = b"\x1f\x8b"
_BOMS = ((codecs.BOM_UTF8, "utf-8"), (codecs.BOM_UTF16_LE, "utf-16-le"), (codecs.BOM_UTF16_BE, "utf-16-be"))
_DECLARED = re.compile(rb"""^\s*<\?xml[^>]*?encoding\s*=\s*["']([A-Za-z0-9._-]+)["']""")
_ENCODINGS = re.compile(r"utf-?8|utf-?16(le|be)?|us-ascii|ascii|iso-?8859-?\d+|latin-?1|windows-125\d|cp125\d", re.I)
_TAG_NAME = re.compile(rb"<([^\s/>]+)")
_ATTRIBUTE = re.compile(rb"""\s+([^\s=/>]+)\s*=\s*(?:"([^"]*)"|'([^']*)')""")
_TAG_END = re.compile(rb"\s*/?>")
_REFERENCE = re.compile(rb"&(#[0-9]+|#x[0-9a-fA-F]+|amp|lt|gt|quot|apos);")
_HIDDEN = re.compile(rb"<!\[CDATA\[(.*?)\]\]>|<!--.*?-->|<\?.*?\?>|<[^>]*>", re.DOTALL)
_NAMED = {b"amp": "&", b"lt": "<", b"gt": ">", b"quot": '"', b"apos": "'"}


@dataclass(slots=True, eq=False)
class Element:
    """One element: namespace, local name and decoded attributes (those of a namespace as `uri name`)."""

    namespace: str
    name: str
    attributes: dict[str, str]
    start: int
    parent: Element | None
    index: int
    children: list[Element] = field(default_factory=list)
    content_end: int = 0

    def subtree(self) -> Iterator[Element]:
        """This element and all below it, in document order."""
        stack = [self]
        while stack:
            element = stack.pop()
            yield element
            stack.extend(reversed(element.children))


@dataclass(frozen=True)
class XmlSource:
    """A well-formed XML file as UTF-8 bytes, with its elements in document order and the way it was packed."""

    original: bytes
    utf8: bytes
    encoding: str
    bom: bytes
    gzipped: bool
    elements: tuple[Element, ...]

    @property
    def root(self) -> Element:
        """The document element."""
        return self.elements[0]

    def tag_name_end(self, element: Element) -> int:
        """The byte behind the element's name in its start tag, where an attribute can be put in."""
        match = _TAG_NAME.match(self.utf8, element.start)
        assert match is not None
        return match.end()

    def attribute_spans(self, element: Element) -> dict[str, tuple[int, int]]:
        """Where the raw value of each attribute stands, by the name as written (prefix included)."""
        spans: dict[str, tuple[int, int]] = {}
        at = self.tag_name_end(element)
        while match := _ATTRIBUTE.match(self.utf8, at):
            spans[match[1].decode()] = match.span(2) if match[2] is not None else match.span(3)
            at = match.end()
        return spans

    def spans_of(self, element: Element, wanted: re.Pattern[bytes]) -> list[tuple[str, int, int]]:
        """Where the raw values of some attributes stand; `wanted` is made by `attribute_pattern`.

        In a tag with one kind of quotes an attribute can be searched for; in one with both, a value may hold what
        looks like an attribute, so there all are read in turn.
        """
        end = self.utf8.find(b"<", element.start + 1)
        tag = self.utf8[element.start : end if end >= 0 else len(self.utf8)]
        closing = tag.find(b">")
        if b"'" not in tag and tag.count(b'"', 0, closing) % 2 == 0:
            return [
                (match[1].decode(), *match.span(2))
                for match in wanted.finditer(self.utf8, element.start, element.start + closing)
            ]
        return [
            (name, start, stop)
            for name, (start, stop) in self.attribute_spans(element).items()
            if wanted.fullmatch(f' {name}=""'.encode())
        ]

    def attribute_text(self, start: int, end: int) -> SourceText:
        """The decoded value of an attribute whose raw value stands from `start` to `end`."""
        raw = self.utf8[start:end]
        if b"&" not in raw:
            return SourceText.run(raw, start)
        text = SourceText()
        self._decode(text, start, end)
        return text

    def content_text(self, element: Element) -> SourceText:
        """The character data directly in an element, CDATA sections included, comments and tags left out."""
        text = SourceText()
        at = self.tag_name_end(element)
        while match := _ATTRIBUTE.match(self.utf8, at):
            at = match.end()
        closing = _TAG_END.match(self.utf8, at)
        assert closing is not None
        at = closing.end()
        for hidden in _HIDDEN.finditer(self.utf8, at, max(element.content_end, at)):
            self._decode(text, at, hidden.start())
            if hidden[1] is not None:
                text.add_run(hidden[1], hidden.start(1))
            at = hidden.end()
        self._decode(text, at, max(element.content_end, at))
        return text

    def pack(self, utf8: bytes) -> bytes:
        """Edited UTF-8 bytes in the encoding and packing the file came in; unedited, the very same file."""
        if utf8 == self.utf8:
            return self.original
        encoded = utf8 if self.encoding == "utf-8" else utf8.decode().encode(self.encoding)
        encoded = self.bom + encoded
        return gzip.compress(encoded, mtime=0) if self.gzipped else encoded

    def _decode(self, text: SourceText, start: int, end: int) -> None:
        at = start
        for reference in _REFERENCE.finditer(self.utf8, start, end):
            text.add_run(self.utf8[at : reference.start()], at)
            text.add_reference(_character(reference[1]), reference.start(), reference.end())
            at = reference.end()
        text.add_run(self.utf8[at:end], at)


def attribute_pattern(names: Iterable[str]) -> re.Pattern[bytes]:
    """A pattern for `XmlSource.spans_of`."""
    return re.compile(rb"""\s(%s)\s*=\s*"([^"]*)\"""" % "|".join(sorted(names)).encode())


def read_xml(name: str, data: bytes) -> XmlSource:
    """Reads a file. Raises RefusedFileError with `name` and the reason, within the bounds of `limits`."""
    gzipped = data.startswith(_GZIP)
    plain = _gunzip(name, data) if gzipped else data
    if len(plain) > limits.FILE_BYTES:
        raise RefusedFileError(name, f"the file is larger than {limits.FILE_BYTES // limits.MEGABYTE} MB.")
    if not plain.strip():
        raise RefusedFileError(name, "the file is empty.")
    bom, encoding = _encoding(name, plain)
    try:
        utf8 = plain[len(bom) :].decode(encoding).encode()
    except (UnicodeError, LookupError) as error:
        raise RefusedFileError(name, f"the text is not valid {encoding}.") from error
    return XmlSource(data, utf8, encoding, bom, gzipped, tuple(_Tree(name).read(utf8)))


class _Tree:
    """Builds the list of elements from expat's events, and stops at the first thing that is not allowed."""

    def __init__(self, name: str) -> None:
        self._name = name
        self._elements: list[Element] = []
        self._open: list[Element] = []
        self._parser = expat.ParserCreate("utf-8", namespace_separator=" ")
        self._parser.StartElementHandler = self._start
        self._parser.EndElementHandler = self._end
        self._parser.EntityDeclHandler = self._entity
        self._parser.SetParamEntityParsing(expat.XML_PARAM_ENTITY_PARSING_NEVER)

    def read(self, utf8: bytes) -> list[Element]:
        try:
            self._parser.Parse(utf8, True)
        except expat.ExpatError as error:
            problem = expat.ErrorString(error.code)
            raise RefusedFileError(
                self._name, f"not well-formed XML: {problem} at line {error.lineno}, column {error.offset + 1}."
            ) from error
        finally:
            # The handlers are bound methods: without this, each parser is a reference cycle left to the collector.
            self._parser.StartElementHandler = None
            self._parser.EndElementHandler = None
            self._parser.EntityDeclHandler = None
        return self._elements

    def _start(self, name: str, attributes: dict[str, str]) -> None:
        namespace, _, local = name.rpartition(" ")
        elements = self._elements
        parent = self._open[-1] if self._open else None
        element = Element(namespace, local, attributes, self._parser.CurrentByteIndex, parent, len(elements))
        if parent is not None:
            parent.children.append(element)
        elements.append(element)
        self._open.append(element)
        if len(self._open) > limits.DEPTH:
            raise RefusedFileError(self._name, f"elements are nested more than {limits.DEPTH} deep{self._where()}.")
        if len(elements) > limits.ELEMENTS:
            raise RefusedFileError(self._name, f"it has more than {limits.ELEMENTS:,} elements.")

    def _end(self, _name: str) -> None:
        self._open.pop().content_end = self._parser.CurrentByteIndex

    def _entity(self, name: str, *_: object) -> None:
        raise RefusedFileError(
            self._name,
            f"it declares an entity (“{name[:40]}”{self._where()}), which is not taken for safety. "
            "Save it again as plain SVG, without entities.",
        )

    def _where(self) -> str:
        return f" at line {self._parser.CurrentLineNumber}"


def _gunzip(name: str, data: bytes) -> bytes:
    try:
        with gzip.open(io.BytesIO(data)) as packed:
            return packed.read(limits.FILE_BYTES + 1)
    except (OSError, EOFError, zlib.error) as error:
        raise RefusedFileError(name, "the compressed file is broken and cannot be unpacked.") from error


def _encoding(name: str, plain: bytes) -> tuple[bytes, str]:
    for bom, encoding in _BOMS:
        if plain.startswith(bom):
            return bom, encoding
    if plain.startswith(b"<\0"):
        return b"", "utf-16-le"
    if plain.startswith(b"\0<"):
        return b"", "utf-16-be"
    declared = _DECLARED.match(plain)
    if declared is None:
        return b"", "utf-8"
    encoding = declared[1].decode().lower()
    if not _ENCODINGS.fullmatch(encoding):
        raise RefusedFileError(name, f"the encoding “{encoding}” is not known.")
    return b"", "utf-8" if encoding in ("utf8", "utf-8") else codecs.lookup(encoding).name


def _character(reference: bytes) -> str:
    if reference.startswith(b"#x"):
        return chr(int(reference[2:], 16))
    return chr(int(reference[1:])) if reference.startswith(b"#") else _NAMED[reference]
