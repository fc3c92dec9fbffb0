"""JPEG (ITU-T T.81, T.871): its pixels are coded anew with the tables it came with and whole color; what it says of
itself stays but for small pictures in the old colors."""

from __future__ import annotations

import io
import struct
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
from PIL import Image

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.container import (
    EXIF,
    only_turned,
    opened,
    pixels_of,
    remarks_on,
    turn_of,
    without_small_picture,
)
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import LOSSY

SIGNATURE = b"\xff\xd8\xff"
_START_OF_SCAN, _COMMENT = 0xDA, 0xFE
_APP0, _APP1, _APP2, _APP13, _APP14, _APP15 = 0xE0, 0xE1, 0xE2, 0xED, 0xEE, 0xEF
#: What programs need to show one: its density, how color is coded; and how a color profile begins (ICC.1:2010, B.4).
_NEEDED, _PROFILE = (_APP0, _APP14), b"ICC_PROFILE\0"
#: Resources of APP13 that are small pictures.
_SMALL = frozenset((1033, 1036))


class Segment(NamedTuple):
    """A segment before the pixels: its marker and what it holds."""

    marker: int
    data: bytes
    #: Where it ends in its file.
    end: int = 0

    @property
    def written(self) -> bytes:
        """It with its marker and length."""
        return struct.pack(">BBH", 0xFF, self.marker, len(self.data) + 2) + self.data

    @property
    def tells(self) -> bool:
        """Whether it says something of the picture, and not how its pixels are coded."""
        return _APP0 <= self.marker <= _APP15 or self.marker == _COMMENT


def segments(name: str, data: bytes) -> Iterator[Segment]:
    """The segments of a file up to its pixels. Raises RefusedFileError where they do not fit together."""
    at = 2
    while at + 4 <= len(data):
        if data[at] != 0xFF:
            raise RefusedFileError(name, f"the picture is broken: at byte {at:,} no segment begins.")
        marker = data[at + 1]
        if marker == 0xFF:
            at += 1
            continue
        (length,) = struct.unpack_from(">H", data, at + 2)
        if marker == _START_OF_SCAN:
            return
        yield Segment(marker, data[at + 4 : at + 2 + length], at + 2 + length)
        at += 2 + length
    raise RefusedFileError(name, "the picture is broken: it is cut short.")


class JpegPicture:
    """See `container.Container`."""

    fineness = LOSSY
    clears = False
    #: As long as color is whole (ITU-T T.81, A.2).
    square = 8

    def __init__(self, name: str, data: bytes) -> None:
        with opened(name, data, "JPEG") as image:
            image.load()
            said = list(remarks_on(image))
            self._tables = {key: list(table) for key, table in image.quantization.items()}  # type: ignore[attr-defined]
            self._progressive = bool(image.info.get("progressive"))
            self._told = [one for one in segments(name, data) if one.tells]
            self.turn = turn_of(image)
            if image.mode == "CMYK":
                # Its colors are brought to sRGB, and it is turned upright with them.
                self.pixels = decode_picture(name, data).pixels[..., :3]
                self.profile, self.turn = Profile(None), 1
                self._told = [one for one in self._told if one.marker not in (_APP1, _APP2)]
                self._tables = {0: self._tables[min(self._tables)]}
                said.append("It is in CMYK; recolored it is handed over in RGB (sRGB).")
            else:
                self.pixels = pixels_of(image)
                self.profile = Profile(image.info.get("icc_profile"))
        self.seen_rows = self.pixels.shape[0]
        self.remarks = tuple(said)

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        target = io.BytesIO()
        # For choosing codes anew, and for coming in passes, all of its values are held at once.
        small = colors.shape[0] * colors.shape[1] <= limits.PICTURE_PIXELS
        # Half the colors would bleed over the new edges.
        Image.fromarray(np.ascontiguousarray(colors)).save(
            target, "JPEG", qtables=self._tables, subsampling=0, progressive=self._progressive and small, optimize=small
        )
        made = target.getvalue()
        told = sum(len(one.written) for one in segments("", made) if one.tells)
        kept = b"".join(one.written for one in _kept(self._told))
        return made[:2] + kept + made[2 + told :]

    def bare(self, data: bytes) -> bytes:
        all_ = list(segments("", data))
        kept = [one for one in all_ if not one.tells or one.marker in _NEEDED or one.data.startswith(_PROFILE)]
        if turn := only_turned(self.turn):
            kept.insert(1, Segment(_APP1, EXIF + turn))
        return data[:2] + b"".join(one.written for one in kept) + data[all_[-1].end :]


def _kept(told: list[Segment]) -> Iterator[Segment]:
    """What stays of what a picture says of itself."""
    for one in told:
        if one.marker == _APP1 and one.data.startswith(EXIF):
            yield Segment(one.marker, EXIF + without_small_picture(one.data))
        elif one.marker == _APP0 and one.data.startswith(b"JFIF\0"):
            # Without the small picture that may stand behind (T.871, section 10.1).
            yield Segment(one.marker, one.data[:12] + b"\0\0")
        elif one.marker == _APP13:
            yield Segment(one.marker, _without_small(one.data))
        elif one.marker != _APP14 and not one.data.startswith((b"JFXX\0", b"MPF\0")):
            yield one


def _without_small(data: bytes) -> bytes:
    """The resources of an APP13 segment without small pictures; all of it where they do not fit together."""
    at = data.find(b"8BIM")
    kept = data[:at]
    while 0 <= at < len(data):
        if data[at : at + 4] != b"8BIM" or at + 12 > len(data):
            return data
        (number,) = struct.unpack_from(">H", data, at + 4)
        name = 1 + data[at + 6]
        begin = at + 6 + name + name % 2
        if begin + 4 > len(data):
            return data
        (size,) = struct.unpack_from(">I", data, begin)
        end = begin + 4 + size + size % 2
        kept += b"" if number in _SMALL else data[at:end]
        at = end
    return kept
