"""GIF (version 89a), still or moving: its color tables are exchanged in place, every other byte stays."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.picture.container import exchanged_codes, opened
from pavese.core.formats.picture.frames import stacked
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.profile import Profile
from pavese.core.pictures.regions import PALETTE
from pavese.core.recolor.pixels import MOVES

#: Frames that are looked at.
_FRAMES = 48


def tables(name: str, data: bytes) -> Iterator[tuple[int, int]]:
    """Where the color tables of a file begin and end, the one for all frames first (sections 18 to 24). Raises
    RefusedFileError for what is cut short."""
    try:
        at = 13
        if data[10] & 0x80:
            yield at, at + _size(data[10])
            at += _size(data[10])
        while data[at] != 0x3B:
            if data[at] == 0x21:
                at = _behind_blocks(data, at + 2)
            elif data[at] == 0x2C:
                packed = data[at + 9]
                at += 10
                if packed & 0x80:
                    yield at, at + _size(packed)
                    at += _size(packed)
                at = _behind_blocks(data, at + 1)
            else:
                raise RefusedFileError(name, f"the picture is broken: nothing that belongs there is at byte {at:,}.")
    except IndexError as error:
        raise RefusedFileError(name, "the picture is broken: it is cut short.") from error


def _size(packed: int) -> int:
    return int(3 * 2 ** ((packed & 7) + 1))


def _behind_blocks(data: bytes, at: int) -> int:
    while data[at]:
        at += data[at] + 1
    return at + 1


SIGNATURES = (b"GIF87a", b"GIF89a")


class GifPicture:
    """See `container.Container`."""

    fineness = PALETTE
    profile = Profile(None)
    turn = 1
    clears = False
    square = 0

    def __init__(self, name: str, data: bytes) -> None:
        self._data = data
        with opened(name, data, "GIF") as image:
            self._tables = list(tables(name, data))
            count = getattr(image, "n_frames", 1)
            most = max(min(_FRAMES, limits.PICTURE_PIXELS // (image.width * image.height)), 1)
            frames: list[Levels] = []
            for at in range(0, count, max(-(-count // most), 1)):
                image.seek(at)
                frames.append(np.asarray(image.convert("RGBA")))
        stack = stacked(frames)
        self.pixels, self.seen_rows = stack.pixels, stack.first_rows
        self.remarks: tuple[str, ...] = (MOVES,) if count > 1 else ()

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        edits = []
        for start, end in self._tables:
            entries = np.frombuffer(self._data[start:end], dtype=np.uint8).reshape(-1, 3)
            edits.append(Edit(start, end, exchanged_codes(self.pixels, colors, entries).tobytes()))
        return splice(self._data, edits)

    def bare(self, data: bytes) -> bytes:
        return data
