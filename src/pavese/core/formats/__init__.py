"""File formats: each reads bytes into a `Document`. Adding one is adding a module and an entry here."""

from __future__ import annotations

from pavese.core.errors import RefusedFileError
from pavese.core.formats.document import Document
from pavese.core.formats.format import Can, Format
from pavese.core.formats.lottie import read_dotlottie, read_lottie
from pavese.core.formats.svg import read_svg

_EXACT = frozenset((Can.EXACT, Can.VECTOR, Can.PARTS))
_DRAWING = _EXACT | {Can.BACKING, Can.MOTION}
_ANIMATION = _EXACT | {Can.ANIMATED}

FORMATS: tuple[Format, ...] = (
    Format("svg", "SVG", "SVG icons and illustrations", (".svg", ".svgz"), "image/svg+xml", read_svg, _DRAWING),
    Format("lottie", "Lottie", "Lottie animations", (".json",), "application/json", read_lottie, _ANIMATION),
    Format(
        "dotlottie",
        "dotLottie",
        "dotLottie packages",
        (".lottie",),
        "application/zip+dotlottie",
        read_dotlottie,
        _ANIMATION,
    ),
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
