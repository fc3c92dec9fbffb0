"""The two typefaces of the themes of a deck.

ISO/IEC 29500-1, 20.1.4.1 (`fontScheme`): a theme names a face for headings (`majorFont`) and one for texts
(`minorFont`), each for Latin and for other scripts; runs refer to them (`+mj-lt`, `+mn-lt`), and keep doing so.
"""

from __future__ import annotations

from collections.abc import Iterator
from xml.sax.saxutils import quoteattr

from pavese.core.formats.deck.parts import Package
from pavese.core.formats.edits import Edit
from pavese.core.recolor.changes import Faces


def named_faces(package: Package) -> Iterator[str]:
    """The faces that themes and texts of a deck name for Latin script."""
    for part in package.parts.values():
        for element in part.source.named("latin"):
            face = element.attributes.get("typeface", "")
            if face and not face.startswith("+"):
                yield face


def typefaces(package: Package, faces: Faces) -> Iterator[tuple[str, Edit]]:
    """The edits by which the themes of a deck name other faces, by part; those of other scripts stay."""
    for part in package.parts.values():
        if part.sort != "theme":
            continue
        for place, face in (("majorFont", faces.headline), ("minorFont", faces.text)):
            for holder in part.source.named(place) if face else ():
                for element in part.source.children(holder):
                    if element.name == "latin" and element.attributes.get("typeface") != face:
                        start, end = part.source.span(element)
                        tag = part.source.utf8[start + 1 : part.source.tag_name_end(element)].decode()
                        # What is said of the shapes of the old face (`panose`, `pitchFamily`) goes with it.
                        yield part.path, Edit(start, end, f"<{tag} typeface={quoteattr(face)}/>".encode())
