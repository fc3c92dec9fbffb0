"""Many drawings in one file, each a symbol that a page can use by its id."""

from __future__ import annotations

import re
from collections.abc import Iterable
from xml.sax.saxutils import quoteattr

from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.svg.properties import SVG
from pavese.core.formats.svg.size import extent
from pavese.core.formats.xml_source import read_xml, without_entities

#: What stands around an id where it is given, and where something refers to it; the last is a selector.
_REFERENCES = (
    (rb"""(\sid\s*=\s*["'])""", rb"""(["'])"""),
    (rb"""(href\s*=\s*["']#)""", rb"""(["'])"""),
    (rb"""(url\(\s*["']?#)""", rb"""(["']?\s*\))"""),
    (rb"(#)", rb"((?:[\s,.:>\[+~][^{}]*)?\{)"),
)


def sprite(drawings: Iterable[tuple[str, bytes]]) -> bytes:
    """A sprite of (id, drawing): each stands whole inside its symbol, so that its own size and ids stay as they are.

    Ids inside drawings are theirs: two drawings that use the same id are told apart by a prefix.
    """
    parts = []
    for name, data in drawings:
        source = read_xml(name, without_entities(name, data))
        text = _own_ids(source.utf8, re.sub(r"[^A-Za-z0-9_-]", "-", name))
        again = read_xml(name, text)
        width, height = extent(again.root)
        view = again.root.attributes.get("viewBox") or f"0 0 {width:g} {height:g}"
        inner = splice(again.utf8, [Edit(0, again.root.start, b"")])
        parts.append(f"<symbol id={quoteattr(name)} viewBox={quoteattr(view)}>".encode() + inner.strip() + b"</symbol>")
    return f'<svg xmlns="{SVG}" style="display:none">\n'.encode() + b"\n".join(parts) + b"\n</svg>\n"


def _own_ids(text: bytes, prefix: str) -> bytes:
    """The text with every id, and every reference to one, given a prefix."""
    ids = {match[1] for match in re.finditer(rb"""\sid\s*=\s*["']([^"']+)["']""", text)}
    for one in sorted(ids, key=len, reverse=True):
        new = (prefix.encode() + b"-" + one).replace(b"\\", b"\\\\")
        for before, behind in _REFERENCES:
            text = re.sub(before + re.escape(one) + behind, rb"\g<1>" + new + rb"\g<2>", text)
    return text
