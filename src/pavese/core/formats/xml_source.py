"""Reading XML for editing in place: where every tag and every attribute value stands in the source.

expat (in Python's standard library) checks well-formedness and gives the byte offset of each tag; attributes are
then found in the source itself. Entities (XML 1.0, section 4.2) are the door to expansion bombs and to reading other
files: short plain ones, as drawing programs write them, are taken within bounds; those that name others or another
file are refused. https://www.w3.org/TR/xml/#sec-entity-decl
"""

from __future__ import annotations

import codecs
import gzip
import re
import zlib
from collections.abc import Iterator, Mapping, Set
from dataclasses import dataclass
from xml.parsers import expat

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.edits import Edit, SourceText, splice

_GZIP = b"\x1f\x8b"
_BOMS = ((codecs.BOM_UTF8, "utf-8"), (codecs.BOM_UTF16_LE, "utf-16-le"), (codecs.BOM_UTF16_BE, "utf-16-be"))
_DECLARED = re.compile(rb"""^\s*<\?xml[^>]*?encoding\s*=\s*["']([A-Za-z0-9._-]+)["']""")
_ENCODINGS = re.compile(r"utf-?8|utf-?16(le|be)?|us-ascii|ascii|iso-?8859-?\d+|latin-?1|windows-125\d|cp125\d", re.I)
_TAG_NAME = re.compile(rb"<([^\s/>]+)")
_ATTRIBUTE = re.compile(rb"""\s+([^\s=/>]+)\s*=\s*(?:"([^"]*)"|'([^']*)')""")
_TAG_END = re.compile(rb"\s*/?>")
_REFERENCE = re.compile(rb"&(#[0-9]+|#x[0-9a-fA-F]+|[^\s&;#<>]+);")
_ENTITY = re.compile(rb"""<!--.*?-->|<!ENTITY\s+([^\s%]+)\s+(?:"([^"]*)"|'([^']*)')\s*>""", re.DOTALL)
_HIDDEN = re.compile(rb"<!\[CDATA\[(.*?)\]\]>|<!--.*?-->|<\?.*?\?>|<[^>]*>", re.DOTALL)
#: Bytes that nearly always hold the start tag of the outermost element.
_HEAD = 2048
_NAMED = {b"amp": "&", b"lt": "<", b"gt": ">", b"quot": '"', b"apos": "'"}


@dataclass(slots=True, eq=False)
class Element:
    """One element: namespace, local name and decoded attributes (those of a namespace as `uri name`).

    It knows where it ends (`behind`: the index of the first element after all that stand in it), not what stands in
    it, so that elements are no circles of references and go when their file goes.
    """

    namespace: str
    name: str
    attributes: dict[str, str]
    start: int
    parent: Element | None
    index: int
    content_end: int = 0
    behind: int = 0


@dataclass(slots=True, eq=False)
class XmlSource:
    """A well-formed XML file as UTF-8 bytes, with its elements in document order and the way it was packed."""

    original: bytes
    utf8: bytes
    encoding: str
    bom: bytes
    gzipped: bool
    elements: tuple[Element, ...]
    #: The local names of all elements.
    names: Set[str]
    #: Where the text of each entity stands that the file declares.
    entities: Mapping[bytes, tuple[int, int]]

    @property
    def root(self) -> Element:
        """The document element."""
        return self.elements[0]

    def named(self, *names: str) -> list[Element]:
        """The elements of some local names, whatever their namespace, in document order."""
        if self.names.isdisjoint(names):
            return []
        return [element for element in self.elements if element.name in names]

    def subtree(self, element: Element) -> tuple[Element, ...]:
        """An element and all below it, in document order."""
        return self.elements[element.index : element.behind]

    def children(self, element: Element) -> list[Element]:
        """The elements directly in an element, in document order."""
        found: list[Element] = []
        at = element.index + 1
        while at < element.behind:
            found.append(self.elements[at])
            at = found[-1].behind
        return found

    def tag_name_end(self, element: Element) -> int:
        """The byte behind the element's name in its start tag, where an attribute can be put in."""
        match = _TAG_NAME.match(self.utf8, element.start)
        assert match is not None
        return match.end()

    def span(self, element: Element) -> tuple[int, int]:
        """Where an element stands, its tags and all in it included."""
        end = self._start_tag_end(element)
        if self.utf8[end - 2 : end] == b"/>":
            return element.start, end
        return element.start, self.utf8.index(b">", element.content_end) + 1

    def attribute_spans(self, element: Element) -> dict[str, tuple[int, int]]:
        """Where the raw value of each attribute stands, by the name as written (prefix included)."""
        spans: dict[str, tuple[int, int]] = {}
        at = self.tag_name_end(element)
        while match := _ATTRIBUTE.match(self.utf8, at):
            spans[match[1].decode()] = match.span(2) if match[2] is not None else match.span(3)
            at = match.end()
        return spans

    def _start_tag_end(self, element: Element) -> int:
        at = self.tag_name_end(element)
        while match := _ATTRIBUTE.match(self.utf8, at):
            at = match.end()
        closing = _TAG_END.match(self.utf8, at)
        assert closing is not None
        return closing.end()

    def attribute_span(self, element: Element, name: str) -> tuple[int, int]:
        """Where the raw value of one attribute stands that the element has.

        Nearly always its text can be searched for. No find is right when single quotes stand before it, for then it may
        lie inside a value; what lies between two values in double quotes ends with an equals sign, as no color does.
        """
        utf8, start = self.utf8, element.start
        plain = f' {name}="{element.attributes[name]}"'.encode()
        at = utf8.find(plain, start, utf8.find(b">", start))
        if at >= 0 and utf8.find(b"'", start, at) < 0:
            return at + len(name) + 3, at + len(plain) - 1
        return self.attribute_spans(element)[name]

    def attribute_text(self, element: Element, name: str) -> SourceText:
        """The decoded value of one attribute that the element has."""
        start, end = self.attribute_span(element, name)
        value = element.attributes[name]
        if len(value) == end - start and not (self.entities and b"&" in self.utf8[start:end]):
            # References and characters of several bytes are longer in the source than in the value.
            return SourceText(value, start)
        text = SourceText()
        self._decode(text, start, end)
        return text

    def spaced_span(self, element: Element, attribute: str) -> tuple[int, int]:
        """Where the raw value of an attribute of a namespace (`uri name`) stands that the element has."""
        local, value = attribute.rpartition(" ")[2], element.attributes[attribute]
        spans = [span for name, span in self.attribute_spans(element).items() if name.rpartition(":")[2] == local]
        if len(spans) == 1:
            return spans[0]
        # Of two with one name in two namespaces, the one that says this.
        return next(span for span in spans if self.decoded(*span).text == value)

    def spaced_text(self, element: Element, attribute: str) -> SourceText:
        """The decoded value of an attribute of a namespace (`uri name`) that the element has."""
        return self.decoded(*self.spaced_span(element, attribute))

    def setting(self, element: Element, values: Mapping[str, str]) -> Iterator[Edit]:
        """The edits that give an element attributes in place of those it has; none of the values needs escaping."""
        spans, at = self.attribute_spans(element), self.tag_name_end(element)
        for name, value in values.items():
            if name in spans:
                yield Edit(*spans[name], value.encode())
            else:
                yield Edit(at, at, f' {name}="{value}"'.encode())

    def content_text(self, element: Element) -> SourceText:
        """The character data directly in an element, CDATA sections included, comments and tags left out."""
        text = SourceText()
        at = self._start_tag_end(element)
        for hidden in _HIDDEN.finditer(self.utf8, at, max(element.content_end, at)):
            self._decode(text, at, hidden.start())
            if hidden[1] is not None:
                text.add_run(hidden[1], hidden.start(1))
            at = hidden.end()
        self._decode(text, at, max(element.content_end, at))
        return text

    def place_in(self, namespace: str) -> None:
        """Takes the elements that are of no namespace for elements of this one."""
        for element in self.elements:
            element.namespace = element.namespace or namespace

    def pack(self, utf8: bytes) -> bytes:
        """Edited UTF-8 bytes in the encoding and packing the file came in; unedited, the very same file."""
        if utf8 == self.utf8:
            return self.original
        encoded = utf8 if self.encoding == "utf-8" else utf8.decode().encode(self.encoding)
        encoded = self.bom + encoded
        return gzip.compress(encoded, mtime=0) if self.gzipped else encoded

    def decoded(self, start: int, end: int) -> SourceText:
        text = SourceText()
        self._decode(text, start, end)
        return text

    def _decode(self, text: SourceText, start: int, end: int) -> None:
        at = start
        for reference in _REFERENCE.finditer(self.utf8, start, end):
            text.add_run(self.utf8[at : reference.start()], at)
            at = reference.end()
            if reference[1] in self.entities:
                # What an entity says is edited where it is declared.
                self._decode(text, *self.entities[reference[1]])
            elif (character := _character(reference[1])) is not None:
                text.add_reference(character, reference.start(), reference.end())
        text.add_run(self.utf8[at:end], at)


def read_xml(name: str, data: bytes) -> XmlSource:
    """Reads a file. Raises RefusedFileError with `name` and the reason, within the bounds of `limits`."""
    gzipped = data.startswith(_GZIP)
    plain = _gunzip(name, data) if gzipped else data
    if len(plain) > limits.FILE_BYTES:
        raise RefusedFileError(name, f"the file is larger than {limits.FILE_BYTES // limits.MEGABYTE} MB.")
    if not plain.strip():
        raise RefusedFileError(name, "the file is empty.")
    bom, encoding = _encoding(name, plain)
    packed = plain[len(bom) :]
    try:
        text = packed.decode(encoding)
    except (UnicodeError, LookupError) as error:
        raise RefusedFileError(name, f"the text is not valid {encoding}.") from error
    utf8 = packed if encoding == "utf-8" else text.encode()
    elements, names, declared = _tree(name, utf8)
    entities = _entities(name, utf8[: elements[0].start], declared, utf8) if declared else {}
    return XmlSource(data, utf8, encoding, bom, gzipped, elements, names, entities)


def read_root(name: str, utf8: bytes) -> XmlSource:
    """The outermost element alone of what was written here as UTF-8; nothing behind its start tag is looked at.

    Raises RefusedFileError with `name` and the reason.
    """
    found: list[Element] = []
    parser = expat.ParserCreate("utf-8", namespace_separator=" ")

    def started(expanded: str, attributes: dict[str, str]) -> None:
        namespace, _, local = expanded.rpartition(" ")
        found.append(Element(namespace, local, attributes, parser.CurrentByteIndex, None, 0, behind=1))
        parser.StartElementHandler = None

    parser.StartElementHandler = started
    at = 0
    try:
        while not found and at < len(utf8):
            parser.Parse(utf8[at : at + _HEAD], False)
            at += _HEAD
    except expat.ExpatError as error:
        # Behind the root's start tag others may find fault; whoever draws it will.
        if not found:
            raise RefusedFileError(name, f"not well-formed XML: {expat.ErrorString(error.code)}.") from error
    finally:
        parser.StartElementHandler = None
    if not found:
        raise RefusedFileError(name, "it has no element.")
    return XmlSource(utf8, utf8, "utf-8", b"", False, tuple(found), {found[0].name}, {})


def without_entities(name: str, data: bytes) -> bytes:
    """A file in which the text of each entity stands where it is used, so that its parts can be put elsewhere.

    Raises RefusedFileError with `name` and the reason.
    """
    if b"<!ENTITY" not in data:
        return data
    source = read_xml(name, data)
    edits = []
    for reference in _REFERENCE.finditer(source.utf8, source.root.start):
        if reference[1] in source.entities:
            start, end = source.entities[reference[1]]
            text = source.utf8[start:end].replace(b'"', b"&quot;").replace(b"'", b"&apos;")
            edits.append(Edit(*reference.span(), text))
    return source.pack(splice(source.utf8, edits))


def _tree(name: str, utf8: bytes) -> tuple[tuple[Element, ...], Set[str], Mapping[str, str]]:
    """The elements from expat's events, their local names, and the texts of entities; stops at the first thing that is
    not allowed."""
    parser = expat.ParserCreate("utf-8", namespace_separator=" ")
    elements: list[Element] = []
    names: set[str] = set()
    open_: list[Element | None] = [None]
    deepest, most = limits.DEPTH + 1, limits.ELEMENTS

    def where() -> str:
        return f" at line {parser.CurrentLineNumber}"

    def started(expanded: str, attributes: dict[str, str]) -> None:
        namespace, _, local = expanded.rpartition(" ")
        index = len(elements)
        element = Element(namespace, local, attributes, parser.CurrentByteIndex, open_[-1], index)
        elements.append(element)
        names.add(local)
        open_.append(element)
        if len(open_) > deepest:
            raise RefusedFileError(name, f"elements are nested more than {limits.DEPTH} deep{where()}.")
        if index >= most:
            raise RefusedFileError(name, f"it has more than {most:,} elements.")

    def ended(_expanded: str) -> None:
        element = open_.pop()
        assert element is not None
        element.content_end = parser.CurrentByteIndex
        element.behind = len(elements)

    entities: dict[str, str] = {}

    def declared(entity: str, parameter: bool, value: str | None, *_: object) -> None:
        if parameter or value is None or any(sign in value for sign in "&%<") or len(value) > limits.ENTITY_LENGTH:
            raise RefusedFileError(
                name,
                f"it declares an entity that names others, is long or lies in another file (“{entity[:40]}”{where()}), "
                "which is not taken for safety. Save it again without entities.",
            )
        entities.setdefault(entity, value)
        if len(entities) > limits.ENTITIES:
            raise RefusedFileError(name, f"it declares more than {limits.ENTITIES} entities.")

    parser.StartElementHandler = started
    parser.EndElementHandler = ended
    parser.EntityDeclHandler = declared
    parser.SetParamEntityParsing(expat.XML_PARAM_ENTITY_PARSING_NEVER)
    try:
        parser.Parse(utf8, True)
    except expat.ExpatError as error:
        problem = expat.ErrorString(error.code)
        raise RefusedFileError(
            name, f"not well-formed XML: {problem} at line {error.lineno}, column {error.offset + 1}."
        ) from error
    finally:
        # The handlers know the parser: without this, each parser is a reference cycle left to the collector.
        parser.StartElementHandler = None
        parser.EndElementHandler = None
        parser.EntityDeclHandler = None
    return tuple(elements), names, entities


def _entities(name: str, head: bytes, declared: Mapping[str, str], utf8: bytes) -> Mapping[bytes, tuple[int, int]]:
    """Where the texts of entities stand in a file's head. Raises RefusedFileError when they blow the file up."""
    places: dict[bytes, tuple[int, int]] = {}
    for match in _ENTITY.finditer(head):
        if match[1] is not None:
            places.setdefault(match[1], match.span(2) if match[2] is not None else match.span(3))
    if not places.keys() >= {entity.encode() for entity in declared}:
        raise RefusedFileError(name, "its entities are declared in a way that cannot be followed.")
    growth = sum(utf8.count(f"&{entity};".encode()) * len(value) for entity, value in declared.items())
    if growth > limits.ENTITY_GROWTH:
        size = limits.ENTITY_GROWTH // limits.MEGABYTE
        raise RefusedFileError(name, f"its entities would make it more than {size} MB larger.")
    return places


def _gunzip(name: str, data: bytes) -> bytes:
    """Unpacks members one behind the other (RFC 1952, section 2.2), no further than one byte beyond the bound."""
    plain = bytearray()
    for _ in range(limits.GZIP_MEMBERS):
        unpacker = zlib.decompressobj(wbits=31)
        try:
            plain += unpacker.decompress(data, limits.FILE_BYTES + 1 - len(plain))
        except zlib.error as error:
            raise RefusedFileError(name, "the compressed file is broken and cannot be unpacked.") from error
        if len(plain) > limits.FILE_BYTES:
            return bytes(plain)
        if not unpacker.eof:
            raise RefusedFileError(name, "the compressed file is cut short.")
        # Zeros behind the last member are padding.
        data = unpacker.unused_data.lstrip(b"\0")
        if not data:
            return bytes(plain)
    raise RefusedFileError(name, f"it is compressed in more than {limits.GZIP_MEMBERS} pieces.")


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
    try:
        found = codecs.lookup(encoding).name if _ENCODINGS.fullmatch(encoding) else None
    except LookupError:
        found = None
    if found is None:
        raise RefusedFileError(name, f"the encoding “{encoding[:40]}” is not known.")
    return b"", found


def _character(reference: bytes) -> str | None:
    """What a reference stands for; None for an entity that nobody declared, which stands for nothing."""
    if reference.startswith(b"#x"):
        return chr(int(reference[2:], 16))
    return chr(int(reference[1:])) if reference.startswith(b"#") else _NAMED.get(reference)
