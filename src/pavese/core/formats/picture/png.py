"""PNG (https://www.w3.org/TR/png-3/): of one with a palette its entries are exchanged in place, of another the chunks
with its pixels; every other chunk stays as it was."""

from __future__ import annotations

import io
import struct
import zlib
from collections.abc import Iterable, Iterator
from typing import NamedTuple

import numpy as np
from PIL import Image

from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.container import (
    alpha_of,
    exchanged_codes,
    only_turned,
    opened,
    pixels_of,
    remarks_on,
    turn_of,
    with_alpha,
    without_small_picture,
)
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import LOSSLESS, PALETTE

SIGNATURE = b"\x89PNG\r\n\x1a\n"
#: Chunks that say something of pixels as they were written before.
_OF_PIXELS = frozenset((b"IHDR", b"PLTE", b"IDAT", b"tRNS", b"hIST", b"sBIT", b"bKGD", b"IEND"))
_PALETTE, _DEEP = 3, 16
#: Chunks in which a picture says something of itself (section 11.3).
_TELLING = frozenset((b"tEXt", b"zTXt", b"iTXt", b"tIME", b"eXIf"))


class Chunk(NamedTuple):
    """A chunk: its type and its data."""

    kind: bytes
    data: bytes

    @property
    def written(self) -> bytes:
        """It with its length and its checksum (section 5.3)."""
        return (
            struct.pack(">I", len(self.data))
            + self.kind
            + self.data
            + struct.pack(">I", zlib.crc32(self.kind + self.data))
        )


def chunks(name: str, data: bytes) -> Iterator[Chunk]:
    """The chunks of a file up to its end. Raises RefusedFileError where they do not fit together."""
    at = len(SIGNATURE)
    while at < len(data):
        if at + 12 > len(data):
            raise RefusedFileError(name, f"the picture is broken: it is cut short at byte {at:,}.")
        length, kind = struct.unpack_from(">I4s", data, at)
        if at + 12 + length > len(data):
            raise RefusedFileError(name, f"the picture is broken: it is cut short at byte {at:,}.")
        yield Chunk(kind, data[at + 8 : at + 8 + length])
        at += 12 + length
        if kind == b"IEND":
            return
    raise RefusedFileError(name, "the picture is broken: its end is missing.")


class PngPicture:
    """See `container.Container`."""

    clears = True
    square = 0

    def __init__(self, name: str, data: bytes) -> None:
        self._data = data
        with opened(name, data, "PNG") as image:
            self._chunks = list(chunks(name, data))
            kinds = {chunk.kind for chunk in self._chunks}
            if b"acTL" in kinds:
                raise RefusedFileError(name, "it is a PNG that moves; these are not recolored yet. A GIF is.")
            head = self._chunks[0].data
            if self._chunks[0].kind != b"IHDR" or len(head) != 13:
                raise RefusedFileError(name, "the picture is broken: it does not begin with its size.")
            self._depth, self._type = head[8], head[9]
            image.load()
            self._grey = image.mode in ("1", "L", "LA", "I;16", "I")
            self.pixels = pixels_of(_eight_bits(image))
            self.profile = Profile(image.info.get("icc_profile"))
            self.turn = turn_of(image)
            said = list(remarks_on(image))
        self.fineness = PALETTE if self._type == _PALETTE else LOSSLESS
        self.seen_rows = self.pixels.shape[0]
        if self._depth == _DEEP:
            said.append("It has 16 bits a channel; recolored it is handed over with 8.")
        self.remarks = tuple(said)

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        if self._type == _PALETTE and alpha is None and not by_place:
            return _file(
                Chunk(one.kind, self._entries(one.data, colors)) if one.kind == b"PLTE" else one for one in self._chunks
            )
        target = io.BytesIO()
        whole = with_alpha(colors, alpha_of(self.pixels) if alpha is None else alpha)
        image = Image.fromarray(whole)
        if self._grey and (colors == colors[..., :1]).all():
            image = image.convert("LA" if whole.shape[2] == 4 else "L")
        image.save(target, "PNG")
        made = list(chunks("", target.getvalue()))
        pixels = [one for one in made if one.kind == b"IDAT"]
        kept: list[Chunk] = [made[0]]
        for one in self._chunks:
            if one.kind == b"IDAT" and pixels:
                kept += pixels
                pixels = []
            elif one.kind == b"eXIf":
                kept.append(Chunk(one.kind, without_small_picture(one.data)))
            elif one.kind not in _OF_PIXELS:
                kept.append(one)
        return _file([*kept, made[-1]])

    def bare(self, data: bytes) -> bytes:
        said = [one for one in chunks("", data) if one.kind not in _TELLING]
        turn = only_turned(self.turn)
        return _file([said[0], *([Chunk(b"eXIf", turn)] if turn else []), *said[1:]])

    def _entries(self, palette: bytes, colors: Levels) -> bytes:
        """The palette in the colors that its entries have become."""
        entries = np.frombuffer(palette, dtype=np.uint8).reshape(-1, 3)
        return exchanged_codes(self.pixels[..., :3], colors, entries).tobytes()


def _file(wanted: Iterable[Chunk]) -> bytes:
    return SIGNATURE + b"".join(one.written for one in wanted)


def _eight_bits(image: Image.Image) -> Image.Image:
    """One with 16 bits of grey as one with 8."""
    if image.mode not in ("I;16", "I"):
        return image
    return Image.fromarray((np.asarray(image).astype(np.uint32) >> 8).astype(np.uint8))
