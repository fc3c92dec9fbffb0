"""A picture inside of another file, as the file that it is: what it is painted with, and how it is written in others.

A picture is met again and again: in every mail of a set, on every slide, and whenever something is drawn. So what it is
painted with, and what was made of it, is remembered by its hash.
"""

from __future__ import annotations

import hashlib
import io
import warnings
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple, TypeVar

from cachetools import LRUCache
from PIL import Image, UnidentifiedImageError

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats.document import Document
from pavese.core.formats.format import Can, Format
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.texts import TextRun

#: What a drawing counts for, in pixels.
_DRAWING = 100_000
#: Pictures of which it is remembered what they are painted with, and bytes of those that were made, and that are open.
_TOLD, _MADE, _OPEN = 4096, 48_000_000, 48_000_000
#: Bytes that a drawing takes in memory for one of its file.
_SPREAD = 30

_One = TypeVar("_One")


class Met(NamedTuple):
    """A picture as far as it was looked at: its hash, its pixels, and how its kind is read, where that is known."""

    digest: str
    pixels: int
    format: Format | None


@dataclass(frozen=True)
class Painted:
    """What a picture is painted with; `blends` as in an inventory, what in it `stands` on what, and whether it is a
    photograph, which has no paints."""

    paints: tuple[Rgba, ...] = ()
    blends: frozenset[tuple[Rgba, Rgba]] = frozenset()
    stands: tuple[TextRun, ...] = ()
    photograph: bool = False


def met(data: bytes, formats: Sequence[Format]) -> Met:
    """Looks at how a picture begins; `formats` are those that it may have."""
    digest = hashlib.sha256(data).hexdigest()
    known = next((one for one in formats if one.matches(data)), None)
    if known is None or Can.PIXELS not in known.can:
        return Met(digest, _DRAWING, known)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(data)) as image:
                return Met(digest, image.width * image.height * getattr(image, "n_frames", 1), known)
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, EOFError, Image.DecompressionBombError):
        return Met(digest, 0, None)


def painted(one: Met, content: Callable[[], bytes]) -> Painted:
    """What a picture is painted with; nothing for one that is broken."""

    def told() -> Painted:
        document = _document(one, content)
        if document is None:
            return Painted()
        found = document.inventory()
        if not isinstance(document, PictureDocument):
            return Painted(found.paints, found.blends)
        return Painted(found.paints, found.blends, document.measured().texts, document.is_photograph)

    return _remembered(_told, one.digest, told)


def in_colors(one: Met, content: Callable[[], bytes], colors: Mapping[Rgba, Rgb], rest: Rgb | None) -> bytes | None:
    """A picture in other colors (of `rest` as in `Recoloring`); None for one that is broken."""

    def made() -> bytes | None:
        document = _document(one, content)
        return None if document is None else document.write(Changes(Recoloring(colors, rest=rest)))

    return _remembered(_made, (one.digest, tuple(sorted(colors.items())), rest), made)


def as_png(one: Met, content: Callable[[], bytes], colors: Mapping[Rgba, Rgb], rest: Rgb) -> bytes | None:
    """A picture of pixels in other colors, as a PNG whose colors are exact; None for any other."""
    document = _document(one, content)
    if not isinstance(document, PictureDocument):
        return None
    return document.preview(Changes(Recoloring(colors, rest=rest))).content


def _document(one: Met, content: Callable[[], bytes]) -> Document | None:
    def read() -> Document | None:
        try:
            return None if one.format is None else one.format.read("a picture in it", content(), {})
        except RefusedFileError:
            # It is shown as broken by whatever shows it, and stays as it is.
            return None

    return _remembered(_open, one.digest, read)


def _weight(document: Document | None) -> int:
    return document.weight if isinstance(document, PictureDocument) else _DRAWING * _SPREAD


def _remembered(known: LRUCache[Any, Any], key: Hashable, make: Callable[[], _One]) -> _One:
    """What was made before under a key. A process reads and draws one file at a time."""
    if key in known:
        found: _One = known[key]
        return found
    made = make()
    if known.getsizeof(made) <= known.maxsize:
        known[key] = made
    return made


_told: LRUCache[str, Painted] = LRUCache(_TOLD)
_made: LRUCache[Hashable, bytes | None] = LRUCache(_MADE, getsizeof=lambda data: len(data or b""))
_open: LRUCache[str, Document | None] = LRUCache(_OPEN, getsizeof=_weight)
