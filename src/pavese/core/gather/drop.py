"""What a drop of files is: pictures, web pages, or files with codes in them; told by content before ending."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass, field, replace

from pavese.core.errors import RefusedFileError
from pavese.core.formats.archive import is_archive, members
from pavese.core.formats.told import is_svg
from pavese.core.gather.code_files import is_deck
from pavese.core.gather.source import MOST_PICTURES
from pavese.core.pictures.decode import ENDINGS

_MAGIC = (b"\x89PNG", b"\xff\xd8\xff", b"GIF8", b"BM", b"II*\0", b"MM\0*", b"\0\0\x01\0")
_PAGE = re.compile(rb"<(!doctype\s+html|html|head|body)\b", re.IGNORECASE)
_HEAD = 4096
#: How drawings and pages are called; pictures beside them are `pictures.decode.ENDINGS`.
DRAWINGS, PAGES = (".svg", ".svgz"), (".html", ".htm", ".xhtml")


@dataclass
class Sorted:
    """A drop, sorted: (name, bytes) of each kind in the order they came, and what cannot be opened."""

    pictures: list[tuple[str, bytes]] = field(default_factory=list)
    pages: list[tuple[str, bytes]] = field(default_factory=list)
    codes: list[tuple[str, bytes]] = field(default_factory=list)
    refused: list[RefusedFileError] = field(default_factory=list)

    def add(self, other: Sorted) -> None:
        """What was sorted apart, behind all that is there."""
        self.pictures += other.pictures
        self.pages += other.pages
        self.codes += other.codes
        self.refused += other.refused

    def with_room(self, room: int) -> Sorted:
        """The same with so many pictures at most, the others refused."""
        refused = [*self.refused, *(no_room(name) for name, _ in self.pictures[room:])]
        return replace(self, pictures=self.pictures[:room], refused=refused)


def no_room(name: str) -> RefusedFileError:
    """What is said of a picture for which a board has no room."""
    return RefusedFileError(name, f"a board holds at most {MOST_PICTURES} pictures.")


def sort_drop(files: Iterable[tuple[str, bytes]]) -> Sorted:
    """Sorts files by what they are. A zip is a deck, or a page with its parts, or else stands for what is in it."""
    found = Sorted()
    for name, data in files:
        if not is_archive(name, data) or is_deck(name, data):
            _sort(found, name, data)
            continue
        try:
            parts = list(members(name, data))
        except RefusedFileError as error:
            found.refused.append(error)
            continue
        if any(_is_page(path, part) for path, part in parts):
            found.pages.append((name, data))
        else:
            for path, part in parts:
                _sort(found, path, part)
    return found


def _sort(found: Sorted, name: str, data: bytes) -> None:
    if is_picture(name, data):
        found.pictures.append((name, data))
    elif _is_page(name, data):
        found.pages.append((name, data))
    else:
        found.codes.append((name, data))


def is_picture(name: str, data: bytes) -> bool:
    """Whether a file is a picture, or is called one."""
    head = data[:_HEAD]
    known = head.startswith(_MAGIC) or (head[:4] == b"RIFF" and head[8:12] == b"WEBP") or head[4:8] == b"ftyp"
    return known or is_drawing(name, data) or name.lower().endswith(ENDINGS)


def is_drawing(name: str, data: bytes) -> bool:
    """Whether a picture is an SVG, plain or compressed."""
    return is_svg(data) or name.lower().endswith(DRAWINGS)


def _is_page(name: str, data: bytes) -> bool:
    head = data[:_HEAD]
    written = head.lstrip().startswith(b"<") and bool(_PAGE.search(head))
    return written or name.lower().endswith(PAGES)
