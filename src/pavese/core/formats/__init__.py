"""File formats: each reads bytes into a `Document`. Adding one is adding a module and an entry here."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from pavese.core.errors import RefusedFileError
from pavese.core.formats.document import Document
from pavese.core.formats.lottie import read_dotlottie, read_lottie
from pavese.core.formats.svg import read_svg


class Format(NamedTuple):
    """A format: its name in the interface, the endings of its files, their media type, its reader, and whether it
    moves."""

    name: str
    endings: tuple[str, ...]
    media_type: str
    read: Callable[[str, bytes], Document]
    moves: bool = False


FORMATS: tuple[Format, ...] = (
    Format("SVG", (".svg", ".svgz"), "image/svg+xml", read_svg),
    Format("Lottie", (".json",), "application/json", read_lottie, moves=True),
    Format("dotLottie", (".lottie",), "application/zip+dotlottie", read_dotlottie, moves=True),
)


def format_of(name: str) -> Format:
    """The format of a file by its ending. Raises RefusedFileError when there is none for it."""
    for known in FORMATS:
        if name.lower().endswith(known.endings):
            return known
    taken = ", ".join(ending for known in FORMATS for ending in known.endings)
    raise RefusedFileError(name, f"this kind of file is not taken here; taken are {taken} and .zip.")


def is_taken(name: str) -> bool:
    """Whether there is a format for a file of this name."""
    return any(name.lower().endswith(known.endings) for known in FORMATS)


def read(name: str, data: bytes) -> Document:
    """Reads a file by its ending. Raises RefusedFileError with the reason."""
    return format_of(name).read(name, data)
