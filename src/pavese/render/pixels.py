"""Decoded pictures, kept on disk while they are looked at: a dragged pin asks for the same pixels again and again.

Pictures are decoded, set on boards, searched for colors and made smaller in child processes. What they write, this
process maps: of a picture of many million pixels it only touches those that somebody points at. The functions named
with an underscore run in a child.
"""

from __future__ import annotations

import os
import tempfile
import uuid
from collections.abc import Callable, Sequence
from io import BytesIO
from pathlib import Path
from threading import Condition
from typing import NamedTuple

import numpy as np
from cachetools import LRUCache, cachedmethod
from PIL import Image

from pavese.core.color.extract import Finding, FoundColor, Pixels, find_colors
from pavese.core.gather.intake import TakenPicture, take_picture
from pavese.core.gather.logo import TakenLogo, freed_picture, take_logo
from pavese.core.gather.source import Source
from pavese.core.pictures.board import Part, Placed, compose, on_white
from pavese.core.pictures.decode import decode_picture
from pavese.render.draw import draw
from pavese.render.pool import DrawingPool

_SECONDS = 20.0
_MEGABYTE = 1024 * 1024


class Held(NamedTuple):
    """A picture that lies decoded in a file: (rows, columns), RGBA."""

    path: str
    rows: int
    columns: int

    @property
    def pixels(self) -> Pixels:
        """Its pixels, of shape (rows, columns, 4), not to be written to."""
        return np.memmap(self.path, dtype=np.uint8, mode="r", shape=(self.rows, self.columns, 4))


class PixelCache:
    """The pictures used last, together at most `megabytes` large; each is made once, whoever asks for it meanwhile."""

    def __init__(self, pool: DrawingPool, megabytes: int = 1200) -> None:
        self._pool = pool
        self._folder = tempfile.TemporaryDirectory(prefix="pavese-pixels-")
        self._kept = _Files(megabytes * _MEGABYTE, getsizeof=_bytes)
        self._change = Condition()

    def picture(self, key: str, data: Callable[[], bytes]) -> Held:
        """A picture, decoded from its bytes where it is not kept. Raises RefusedFileError and CannotDrawError."""
        return self._get(key, lambda path: Held(path, *self._pool.done(_decode, key, data(), path, seconds=_SECONDS)))

    def board(self, key: str, pictures: Callable[[], Sequence[Held]], source: Source) -> Held:
        """The pictures of a source set on its board, made where it is not kept. Raises CannotDrawError."""
        places, height = source.places()
        parts = [picture.part for picture in source.pictures]

        def make(path: str) -> Held:
            return Held(
                path, *self._pool.done(_compose, list(pictures()), places, height, parts, path, seconds=_SECONDS)
            )

        return self._get(key, make)

    def colors(self, held: Held, how: Finding) -> tuple[FoundColor, ...]:
        """The colors of a picture (`extract.find_colors`). Raises CannotDrawError."""
        found: tuple[FoundColor, ...] = self._pool.done(_colors, held, how, seconds=_SECONDS)
        return found

    def shown(self, held: Held, side: int) -> tuple[bytes, str]:
        """A picture to be looked at, its longer side at most `side` pixels, and its media type."""
        made: tuple[bytes, str] = self._pool.done(_shown, held, side, seconds=_SECONDS)
        return made

    def on_white(self, held: Held) -> bytes:
        """A picture on white, as PNG."""
        return bytes(self._pool.done(_on_white, held, seconds=_SECONDS))

    def close(self) -> None:
        """Throws everything away."""
        self._folder.cleanup()

    @cachedmethod(lambda self: self._kept, key=lambda _self, key, _make: key, condition=lambda self: self._change)
    def _get(self, _key: str, make: Callable[[str], Held]) -> Held:
        return make(str(Path(self._folder.name) / uuid.uuid4().hex))


class _Files(LRUCache[str, Held]):
    """Files of pictures; the one asked for longest ago is thrown away. Whoever has it mapped keeps its pixels."""

    def popitem(self) -> tuple[str, Held]:
        key, held = super().popitem()
        os.unlink(held.path)
        return key, held


def taken_picture(pool: DrawingPool, name: str, data: bytes) -> TakenPicture:
    """A picture, read as one of a source. Raises RefusedFileError and CannotDrawError."""
    taken: TakenPicture = pool.done(_take, name, data, seconds=_SECONDS)
    return taken


def taken_logo(pool: DrawingPool, name: str, data: bytes) -> TakenLogo:
    """A picture, read as the logo of a kit. Raises RefusedFileError and CannotDrawError."""
    taken: TakenLogo = pool.done(_logo, name, data, seconds=_SECONDS)
    return taken


def freed_of_box(pool: DrawingPool, name: str, data: bytes, *, inside: bool) -> bytes:
    """A picture without the box round what it shows (`logo.freed_picture`). Raises RefusedFileError and
    CannotDrawError."""
    made: bytes = pool.done(_freed, name, data, inside, seconds=_SECONDS)
    return made


def _bytes(held: Held) -> int:
    return held.rows * held.columns * 4


def _take(name: str, data: bytes) -> TakenPicture:
    return take_picture(name, data, draw)


def _logo(name: str, data: bytes) -> TakenLogo:
    return take_logo(name, data, draw)


def _freed(name: str, data: bytes, inside: bool) -> bytes:
    return freed_picture(name, data, draw, inside=inside)


def _decode(name: str, data: bytes, path: str) -> tuple[int, int]:
    def make(rows: int, columns: int) -> Pixels:
        return np.memmap(path, dtype=np.uint8, mode="w+", shape=(rows, columns, 4))

    decoded = decode_picture(name, data, make)
    return decoded.height, decoded.width


def _compose(pictures: list[Held], places: list[Placed], height: int, parts: list[Part], path: str) -> tuple[int, int]:
    board = compose((held.pixels for held in pictures), places, height, parts)
    Path(path).write_bytes(board.tobytes())
    return board.shape[0], board.shape[1]


def _colors(held: Held, how: Finding) -> tuple[FoundColor, ...]:
    return find_colors(held.pixels, how)


def _shown(held: Held, side: int) -> tuple[bytes, str]:
    image = Image.fromarray(held.pixels)
    image.thumbnail((side, side), Image.Resampling.LANCZOS, reducing_gap=2.0)
    opaque = image.getchannel("A").getextrema() == (255, 255)
    out = BytesIO()
    if opaque:
        image.convert("RGB").save(out, "JPEG", quality=92)
        return out.getvalue(), "image/jpeg"
    image.save(out, "PNG", compress_level=1)
    return out.getvalue(), "image/png"


def _on_white(held: Held) -> bytes:
    out = BytesIO()
    Image.fromarray(on_white(held.pixels)).convert("RGB").save(out, "PNG")
    return out.getvalue()
