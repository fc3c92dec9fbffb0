"""WebP (https://developers.google.com/speed/webp/docs/riff_container, RFC 9649), still or moving, with or without
loss."""

from __future__ import annotations

import io
import struct
from collections.abc import Iterator
from typing import Any, NamedTuple

import numpy as np
from PIL import Image

from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.coded import CodedPicture
from pavese.core.formats.picture.container import (
    Container,
    only_turned,
    opened,
    pixels_of,
    without_small_picture,
)
from pavese.core.formats.picture.frames import Box, MovingPicture, Piece, with_all
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.regions import LOSSLESS, LOSSY

#: How fine one with loss is written; the file does not say how fine it was.
_QUALITY = 92
#: Flags of what an extended file holds.
_HAS_EXIF, _HAS_XMP, _HAS_ALPHA = 0x08, 0x04, 0x10
#: Where the first chunk of a file begins, and the first in a frame; the flag of one that is not laid over the others.
_FIRST, _HEAD, _IN_ITS_PLACE = 12, 16, 0x02
#: Chunks with pixels.
_PIXELS = frozenset((b"ALPH", b"VP8 ", b"VP8L"))


def webp_picture(name: str, data: bytes) -> Container:
    """A WebP, still or moving. Raises RefusedFileError."""
    moves = any(kind == b"ANIM" for kind, _ in _chunks(data, _FIRST))
    return MovingWebpPicture(name, data) if moves else WebpPicture(name, data)


class WebpPicture(CodedPicture):
    """See `container.Container`."""

    kind = "WEBP"

    def __init__(self, name: str, data: bytes) -> None:
        super().__init__(name, data)
        self._lossless = _is_lossless(data)
        self.fineness = LOSSLESS if self._lossless else LOSSY

    @property
    def _options(self) -> dict[str, Any]:
        return {"lossless": self._lossless, "quality": _QUALITY, "exact": True}

    def bare(self, data: bytes) -> bytes:
        return _without(data, only_turned(self.turn))


class MovingWebpPicture(MovingPicture):
    """One that moves (section 2.7.1.1): its frames stay the pieces that they are, and stand where, when and how they
    stood."""

    def __init__(self, name: str, data: bytes) -> None:
        self._data = data
        with opened(name, data, "WEBP") as image:
            super().__init__(name, image)
        held = [part for kind, part in _chunks(data, _FIRST) if kind == b"ANMF"]
        self.check(name, [_box(name, part) for part in held])
        self._frames = [_frame(name, part) for part in held]
        self.fineness = LOSSLESS if all(frame.lossless for frame in self._frames) else LOSSY

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """See `container.Container`; no more than colors is changed in one that moves."""
        made = self.changed([frame.piece for frame in self._frames], colors)
        frames = iter(zip(self._frames, made, strict=True))
        body = b""
        for kind, part in _chunks(self._data, _FIRST):
            if kind == b"ANMF":
                frame, pixels = next(frames)
                if (pixels != frame.piece.pixels).any():
                    part = part[:_HEAD] + _coded(pixels, lossless=frame.lossless)
            if kind == b"EXIF":
                part = without_small_picture(part)
            body += _chunk(kind, part)
        return _riff(body)

    def bare(self, data: bytes) -> bytes:
        return _without(data, only_turned(self.turn))


class _Frame(NamedTuple):
    piece: Piece
    lossless: bool


def _box(name: str, part: bytes) -> Box:
    """Where a frame lies, from what holds it (section 2.7.1.1). Raises RefusedFileError."""
    if len(part) < _HEAD:
        raise RefusedFileError(name, "the picture is broken: a frame does not say where it stands.")
    left, top, width, height = (int.from_bytes(part[at : at + 3], "little") for at in (0, 3, 6, 9))
    return Box(2 * left, 2 * top, width + 1, height + 1)


def _frame(name: str, part: bytes) -> _Frame:
    """A frame with its pixels. Raises RefusedFileError."""
    box, size = _box(name, part), part[6:12]
    inner = [(kind, data) for kind, data in _chunks(part, _HEAD) if kind in _PIXELS]
    body = b"".join(_chunk(kind, data) for kind, data in inner)
    if any(kind == b"ALPH" for kind, _ in inner):
        body = _chunk(b"VP8X", bytes([_HAS_ALPHA, 0, 0, 0]) + size) + body
    with opened(name, _riff(body), "WEBP") as image:
        if image.size != (box.width, box.height):
            raise RefusedFileError(name, "the picture is broken: a frame is not as large as it says.")
        image.load()
        piece = Piece(box.left, box.top, with_all(pixels_of(image)), not part[15] & _IN_ITS_PLACE)
    return _Frame(piece, any(kind == b"VP8L" for kind, _ in inner))


def _coded(pixels: Levels, lossless: bool) -> bytes:
    """The chunks with the pixels of a frame, shape (rows, columns, 4)."""
    whole = pixels if (pixels[..., 3] < 255).any() else np.ascontiguousarray(pixels[..., :3])
    target = io.BytesIO()
    Image.fromarray(whole).save(target, "WEBP", lossless=lossless, quality=_QUALITY, exact=True)
    return b"".join(_chunk(kind, part) for kind, part in _chunks(target.getvalue(), _FIRST) if kind in _PIXELS)


def _chunks(data: bytes, at: int) -> Iterator[tuple[bytes, bytes]]:
    """The chunks of a file, or of what is in one of them, from a byte on (section 2.3)."""
    while at + 8 <= len(data):
        kind, size = struct.unpack_from("<4sI", data, at)
        yield kind, data[at + 8 : at + 8 + size]
        at += 8 + size + size % 2


def _chunk(kind: bytes, part: bytes) -> bytes:
    return struct.pack("<4sI", kind, len(part)) + part + bytes(len(part) % 2)


def _riff(body: bytes) -> bytes:
    """A file of chunks."""
    return b"RIFF" + struct.pack("<I", len(body) + 4) + b"WEBP" + body


def _without(data: bytes, exif: bytes) -> bytes:
    """A file without Exif and XMP data (RFC 9649, section 2.7.1.5), with other Exif data where there is some."""
    body = b""
    for kind, part in _chunks(data, _FIRST):
        if kind == b"VP8X":
            part = bytes([part[0] & ~(_HAS_EXIF | _HAS_XMP) | (_HAS_EXIF if exif else 0)]) + part[1:]
        if kind not in (b"EXIF", b"XMP "):
            body += _chunk(kind, part)
    return _riff(body + (_chunk(b"EXIF", exif) if exif else b""))


def is_webp(data: bytes) -> bool:
    """Whether a file begins as a WebP does."""
    return data[:4] == b"RIFF" and data[8:12] == b"WEBP"


def _is_lossless(data: bytes) -> bool:
    """By the first chunk with pixels (RFC 9649, section 2)."""
    return next((kind == b"VP8L" for kind, _ in _chunks(data, _FIRST) if kind in (b"VP8L", b"VP8 ")), False)
