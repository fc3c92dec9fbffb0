"""PNG (https://www.w3.org/TR/png-3/): of one with a palette its entries are exchanged in place, of another the chunks
with its pixels; every other chunk stays as it was."""

from __future__ import annotations

import io
import struct
import zlib
from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple

import numpy as np
from PIL import Image

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.container import (
    IN_EIGHT_BITS,
    IN_SIXTEEN_BITS,
    Container,
    alpha_of,
    exchanged_codes,
    keeps_palette,
    only_turned,
    opened,
    pixels_of,
    remarks_on,
    turn_of,
    with_alpha,
    without_small_picture,
)
from pavese.core.formats.picture.deep import deep_values, kept_deep, packed
from pavese.core.formats.picture.frames import Box, MovingPicture, Piece, with_all
from pavese.core.pictures.mixture import Deep, Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import LOSSLESS, PALETTE

SIGNATURE = b"\x89PNG\r\n\x1a\n"
#: Chunks that say something of pixels as they were written before.
_OF_PIXELS = frozenset((b"IHDR", b"PLTE", b"IDAT", b"tRNS", b"hIST", b"sBIT", b"bKGD", b"IEND"))
_GREY, _COLORED, _PALETTE, _COLORED_CLEAR = 0, 2, 3, 6
_DEEP = 16
#: Kinds that are grey, without and with alpha (section 11.2.1).
_GREYS = (0, 4)
#: What says where, how long and how a frame stands (section 11.3.4.2): number, width, height, left, top, time as a
#: fraction, how it goes, and whether it is laid over what was there.
_CONTROL, _OVER = struct.Struct(">IIIIIHHBB"), 1
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


def png_picture(name: str, data: bytes) -> Container:
    """A PNG, still or moving. Raises RefusedFileError."""
    # What says that it moves stands before the pixels (section 11.3.4.1).
    if b"acTL" in data[: max(data.find(b"IDAT"), 0)]:
        return MovingPngPicture(name, data)
    return kept_deep(PngPicture(name, data))


class PngPicture:
    """See `container.Container`."""

    clears = True
    square = 0

    def __init__(self, name: str, data: bytes) -> None:
        self._data = data
        with opened(name, data, "PNG") as image:
            self._chunks = list(chunks(name, data))
            self._depth, self._type = _how(name, self._chunks)
            image.load()
            self._grey = image.mode in ("1", "L", "LA", "I;16", "I")
            self.pixels = pixels_of(_eight_bits(image))
            self.profile = Profile(image.info.get("icc_profile"))
            self.turn = turn_of(image)
            said = list(remarks_on(image))
        self.fineness = PALETTE if self._type == _PALETTE else LOSSLESS
        self.seen_rows = self.pixels.shape[0]
        self.values = self._values(name) if self._depth == _DEEP else None
        if self._depth == _DEEP:
            said.append(IN_EIGHT_BITS if self.values is None else IN_SIXTEEN_BITS)
        self.remarks = tuple(said)

    def _values(self, name: str) -> Deep | None:
        rows, columns = self.pixels.shape[:2]
        keyed = any(one.kind == b"tRNS" for one in self._chunks)
        if keyed or rows * columns > limits.PICTURE_PIXELS:
            return None
        with opened(name, self._data, "PNG") as image:
            return deep_values(image, self.pixels)

    def with_values(self, values: Deep) -> bytes:
        """See `deep.Holding`."""
        kind = {1: _GREY, 3: _COLORED, 4: _COLORED_CLEAR}[values.shape[2]]
        head = self._chunks[0].data
        made = [
            Chunk(b"IHDR", head[:9] + bytes([kind]) + head[10:12] + bytes(1)),
            Chunk(b"IDAT", packed(values)),
            Chunk(b"IEND", b""),
        ]
        return _file(self._around(made))

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        if keeps_palette(self.fineness, alpha, by_place):
            return _file(_with_entries(self._chunks, self.pixels, colors))
        whole = with_alpha(colors, alpha_of(self.pixels) if alpha is None else alpha)
        return _file(self._around(_coded(whole, grey=self._grey and bool((colors == colors[..., :1]).all()))))

    def _around(self, made: Sequence[Chunk]) -> Iterator[Chunk]:
        """The chunks of other pixels, with all that says something of the picture."""
        pixels = [one for one in made if one.kind == b"IDAT"]
        yield made[0]
        for one in self._chunks:
            if one.kind == b"IDAT":
                yield from pixels
                pixels = []
            elif one.kind == b"eXIf":
                yield Chunk(one.kind, without_small_picture(one.data))
            elif one.kind not in _OF_PIXELS:
                yield one
        yield made[-1]

    def bare(self, data: bytes) -> bytes:
        return _bare(data, self.turn)


class MovingPngPicture(MovingPicture):
    """A PNG that moves (section 11.3.4): its frames stay the pieces that they are, and stand where, when and how they
    stood."""

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, "PNG") as image:
            self._chunks = list(chunks(name, data))
            depth, self._type = _how(name, self._chunks)
            super().__init__(name, image)
        held = _held(name, self._chunks)
        self.check(name, [one.box for one in held])
        if held[0].box != Box(0, 0, *struct.unpack_from(">II", self._chunks[0].data)):
            raise RefusedFileError(name, "the picture is broken: its first frame is not as large as it is.")
        self._pieces = [_piece(name, one, self._chunks) for one in held]
        if depth == _DEEP:
            self.remarks = (*self.remarks, IN_EIGHT_BITS)
        self.fineness = PALETTE if self._type == _PALETTE else LOSSLESS

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """See `container.Container`; no more than colors is changed in one that moves."""
        if self.fineness is PALETTE:
            return _file(_with_entries(self._chunks, self.pixels, colors))
        made = self.changed(self._pieces, colors)
        grey = self._type in _GREYS and all((one[..., :3] == one[..., :1]).all() for one in made)
        clear = any((one[..., 3] < 255).any() for one in made)
        coded = [_coded(one if clear else one[..., :3], grey=grey) for one in made]
        return _file(self._with_pixels(coded))

    def _with_pixels(self, coded: Sequence[Sequence[Chunk]]) -> Iterator[Chunk]:
        """Its chunks with other pixels for each piece, numbered anew: each piece is one chunk now."""
        frames = iter(coded)
        number, waiting = 0, True
        yield coded[0][0]
        for one in self._chunks[1:]:
            if one.kind == b"fcTL":
                yield Chunk(one.kind, struct.pack(">I", number) + one.data[4:])
                number += 1
                waiting = True
            elif one.kind in (b"IDAT", b"fdAT"):
                if waiting:
                    pixels = b"".join(part.data for part in next(frames) if part.kind == b"IDAT")
                    yield Chunk(one.kind, pixels if one.kind == b"IDAT" else struct.pack(">I", number) + pixels)
                    number += one.kind == b"fdAT"
                waiting = False
            elif one.kind == b"eXIf":
                yield Chunk(one.kind, without_small_picture(one.data))
            elif one.kind not in _OF_PIXELS or one.kind == b"IEND":
                yield one

    def bare(self, data: bytes) -> bytes:
        return _bare(data, self.turn)


class _Held(NamedTuple):
    """What a file that moves holds of a frame: where it lies, whether it is laid over what was there, and its pixels,
    packed."""

    box: Box
    over: bool
    data: bytearray


def _held(name: str, all_: Sequence[Chunk]) -> list[_Held]:
    """The frames that a file holds, in their order; one that only programs show that know of no frames stands for
    itself."""
    found: list[_Held] = []
    for one in all_:
        if one.kind == b"fcTL":
            if len(one.data) != _CONTROL.size:
                raise RefusedFileError(name, "the picture is broken: a frame does not say where it stands.")
            _, width, height, left, top, _, _, _, blend = _CONTROL.unpack(one.data)
            found.append(_Held(Box(left, top, width, height), blend == _OVER, bytearray()))
        elif one.kind == b"IDAT":
            if not found:
                found.append(_Held(Box(0, 0, *struct.unpack_from(">II", all_[0].data)), False, bytearray()))
            found[-1].data.extend(one.data)
        elif one.kind == b"fdAT" and found:
            found[-1].data.extend(one.data[4:])
    return found


def _piece(name: str, held: _Held, all_: Sequence[Chunk]) -> Piece:
    """A frame with its pixels; `all_` are the chunks of its file."""
    box = held.box
    head = Chunk(b"IHDR", struct.pack(">II", box.width, box.height) + all_[0].data[8:])
    shared = [one for one in all_ if one.kind in (b"PLTE", b"tRNS")]
    parts = [head, *shared, Chunk(b"IDAT", bytes(held.data)), Chunk(b"IEND", b"")]
    with opened(name, _file(parts), "PNG") as image:
        image.load()
        return Piece(box.left, box.top, with_all(pixels_of(_eight_bits(image))), held.over)


def _how(name: str, all_: Sequence[Chunk]) -> tuple[int, int]:
    """Bits and kind of a file's colors (section 11.2.1)."""
    head = all_[0].data
    if all_[0].kind != b"IHDR" or len(head) != 13:
        raise RefusedFileError(name, "the picture is broken: it does not begin with its size.")
    return head[8], head[9]


def _coded(pixels: Levels, grey: bool) -> list[Chunk]:
    """The chunks of a PNG of pixels, shape (rows, columns, 3), or with alpha (rows, columns, 4)."""
    target = io.BytesIO()
    image = Image.fromarray(np.ascontiguousarray(pixels))
    if grey:
        image = image.convert("LA" if pixels.shape[2] == 4 else "L")
    image.save(target, "PNG")
    return list(chunks("", target.getvalue()))


def _bare(data: bytes, turn: int) -> bytes:
    said = [one for one in chunks("", data) if one.kind not in _TELLING]
    exif = only_turned(turn)
    return _file([said[0], *([Chunk(b"eXIf", exif)] if exif else []), *said[1:]])


def _with_entries(all_: Iterable[Chunk], pixels: Levels, colors: Levels) -> Iterator[Chunk]:
    """Chunks with the palette in the colors that its entries have become, by the pixels of the picture."""
    for one in all_:
        if one.kind == b"PLTE":
            entries = np.frombuffer(one.data, dtype=np.uint8).reshape(-1, 3)
            yield Chunk(one.kind, exchanged_codes(pixels, colors, entries).tobytes())
        else:
            yield one


def _file(wanted: Iterable[Chunk]) -> bytes:
    return SIGNATURE + b"".join(one.written for one in wanted)


def _eight_bits(image: Image.Image) -> Image.Image:
    """One with 16 bits of grey as one with 8."""
    if image.mode not in ("I;16", "I"):
        return image
    return Image.fromarray((np.asarray(image).astype(np.uint32) >> 8).astype(np.uint8))
