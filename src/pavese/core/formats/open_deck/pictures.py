"""Pictures in an OpenDocument: what shows them, and how it comes to show others.

OpenDocument 1.3, part 3, 10.4.4 (`draw:image`) and 16.41 (`draw:fill-image`); part 2, 3.2 (the list of what is in a
package).
"""

from __future__ import annotations

import posixpath
from collections.abc import Callable, Iterator, Mapping
from xml.sax.saxutils import quoteattr

from pavese.core.formats.edits import Edit
from pavese.core.formats.open_deck.places import DRAW, XLINK
from pavese.core.formats.slide_pictures import ENDINGS, InPackage, Use, media_type, opened
from pavese.core.formats.xml_source import Element, XmlSource

_HREF = f"{XLINK} href"
#: Drawings, which stand here as pictures do.
_DRAWINGS = (".svg",)
#: Where a picture is shown: the part, and the element that names it.
Shown = tuple[str, Element]


def uses_in(parts: Mapping[str, XmlSource], size: Callable[[str], int | None]) -> dict[Use, list[Shown]]:
    """Where pictures are shown, part by part; `size` gives that of a file of the package, None for one that is not in
    it."""
    found: dict[Use, list[Shown]] = {}
    sizes: dict[Use, int] = {}
    for path, source in parts.items():
        folder, holders = posixpath.dirname(path), dict(_holders(path, source))
        for element in source.named("image", "fill-image"):
            if element.namespace != DRAW:
                continue
            picture = posixpath.normpath(posixpath.join(folder, element.attributes.get(_HREF, "")))
            told = size(picture)
            if told is not None:
                use = Use(picture, _holder(element, holders) or posixpath.splitext(path)[0].replace("/", " "))
                found.setdefault(use, []).append((path, element))
                sizes[use] = told
    return {use: found[use] for use in opened(sizes, (*ENDINGS, *_DRAWINGS))}


def edits_for(
    parts: Mapping[str, XmlSource], uses: Mapping[Use, list[Shown]], pictures: InPackage
) -> Iterator[tuple[str, Edit]]:
    """The edits, by part, by which places show new pictures."""
    for use, target in pictures.moved.items():
        for path, element in uses[use]:
            said = posixpath.relpath(target, posixpath.dirname(path) or ".")
            yield path, Edit(*parts[path].spaced_span(element, _HREF), said.encode())


def in_manifest(manifest: bytes, pictures: InPackage) -> bytes:
    """The list of what is in a package, with the new pictures."""
    end = manifest.rindex(b"</")
    prefix = manifest[end + 2 : manifest.index(b">", end)].rpartition(b":")[0].decode()
    own = f"{prefix}:" if prefix else ""
    entries = "".join(
        f"<{own}file-entry {own}full-path={quoteattr(path)} {own}media-type={quoteattr(media_type(path))}/>"
        for path in pictures.added
    )
    return manifest[:end] + entries.encode() + manifest[end:]


def _holders(path: str, source: XmlSource) -> Iterator[tuple[int, str]]:
    """Pages and masters by the numbers of their elements."""
    for name in ("page", "master-page"):
        for number, element in enumerate(source.named(name), 1):
            yield element.index, f"{name}{number}"


def _holder(element: Element, holders: Mapping[int, str]) -> str:
    at: Element | None = element
    while at is not None:
        if at.index in holders:
            return holders[at.index]
        at = at.parent
    return ""
