"""Pictures with 16 bits a channel, of which the library reads and writes the upper eight: their lower ones, and the
pixels of such PNGs (https://www.w3.org/TR/png-3/)."""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from typing import Any, Protocol

import numpy as np
import numpy.typing as npt
from PIL import Image

from pavese.core.formats.picture.container import Container
from pavese.core.pictures.mixture import Deep, Levels

#: By how values of 16 bits are unpacked (the machine's own order is the first of these), how they are that lie the
#: other way round: of such ones the lower bytes are taken for the upper.
_OTHER_WAY = {";16N": ";16B", ";16L": ";16B", ";16B": ";16L"}
#: Rows that are packed at a time, and how hard.
_ROWS, _HARD = 128, 6

_Bytes = npt.NDArray[np.uint8]


class Holding(Container, Protocol):
    """A container with all that its pixels hold, shape (rows, columns, 1, 3 or 4), where these are 16 bits that are
    kept."""

    values: Deep | None

    def with_values(self, values: Deep) -> bytes:
        """The file with other values, of as many channels or of more."""


class DeepPicture:
    """See `container.DeepContainer`."""

    def __init__(self, picture: Holding, values: Deep) -> None:
        self._picture, self._values = picture, values
        self.pixels, self.seen_rows, self.fineness = picture.pixels, picture.seen_rows, picture.fineness
        self.profile, self.turn, self.remarks = picture.profile, picture.turn, picture.remarks
        self.clears, self.square = picture.clears, picture.square
        self.deep: Deep = values[..., :3] if values.shape[2] > 1 else values.repeat(3, axis=2)

    def written(self, colors: Levels, alpha: Levels | None = None, by_place: bool = False) -> bytes:
        """See `container.Container`."""
        return self._picture.written(colors, alpha, by_place)

    def written_deep(self, colors: Deep) -> bytes:
        """See `container.DeepContainer`."""
        if self._values.shape[2] == 1 and (colors == colors[..., :1]).all():
            return self._picture.with_values(colors[..., :1])
        return self._picture.with_values(np.concatenate([colors, self._values[..., 3:]], axis=2))

    def bare(self, data: bytes) -> bytes:
        """See `container.Container`."""
        return self._picture.bare(data)


def kept_deep(picture: Holding) -> Container:
    """A picture, with its 16 bits where it has such."""
    return picture if picture.values is None else DeepPicture(picture, picture.values)


def deep_values(image: Image.Image, upper: _Bytes) -> Deep | None:
    """The values of a picture, shape (rows, columns, 1, 3 or 4), of which the upper bytes are known; `image` is opened
    anew and not decoded yet. None where they cannot be told."""
    if image.mode in ("I;16", "I;16B", "I"):
        return np.asarray(image).astype(np.uint16)[..., None]
    tiles = [(tile, _other_way(image.mode, tile.args)) for tile in getattr(image, "tile", [])]
    if image.mode not in ("RGB", "RGBA") or not tiles or any(args is None for _, args in tiles):
        return None
    image.tile = [tile._replace(args=args) for tile, args in tiles]  # type: ignore[attr-defined]
    values = upper.astype(np.uint16)
    values <<= 8
    values |= np.asarray(image)
    return values


def _other_way(mode: str, args: Any) -> Any:
    """How something is unpacked whose values lie the other way round; None where they are not of 16 bits."""
    how, *others = args if isinstance(args, tuple) else (args,)
    other = _OTHER_WAY.get(str(how).removeprefix(mode))
    if other is None:
        return None
    return (mode + other, *others) if isinstance(args, tuple) else mode + other


def packed(values: Deep) -> bytes:
    """Values, shape (rows, columns, channels), filtered and deflated (sections 9 and 10), each row by the filter that
    leaves least of it (section 12.7)."""
    deflate = zlib.compressobj(_HARD)
    return b"".join([*(deflate.compress(rows) for rows in _filtered(values)), deflate.flush()])


def _filtered(values: Deep) -> Iterator[bytes]:
    rows, columns, channels = values.shape
    width, back = columns * channels * 2, channels * 2
    above = np.zeros((1, width), dtype=np.int16)
    for top in range(0, rows, _ROWS):
        some = np.ascontiguousarray(values[top : top + _ROWS].astype(">u2")).view(np.uint8)
        own = some.reshape(-1, width).astype(np.int16)
        up = np.concatenate([above, own[:-1]])
        above = own[-1:]
        left, corner = (np.pad(one[:, :-back], ((0, 0), (back, 0))) for one in (own, up))
        ways = np.stack([own, own - left, own - up, own - (left + up >> 1), own - _paeth(left, up, corner)])
        made = (ways & 255).astype(np.uint8)
        cost = np.abs(made.view(np.int8).astype(np.int16)).sum(axis=2, dtype=np.int64)
        best = cost.argmin(axis=0)
        lines = made[best, np.arange(len(own))]
        yield np.column_stack([best.astype(np.uint8), lines]).tobytes()


def _paeth(
    left: npt.NDArray[np.int16], up: npt.NDArray[np.int16], corner: npt.NDArray[np.int16]
) -> npt.NDArray[np.int16]:
    """What is nearest to what the three foretell (section 9.4)."""
    to_left, to_up, to_corner = np.abs(up - corner), np.abs(left - corner), np.abs(left + up - 2 * corner)
    return np.where((to_left <= to_up) & (to_left <= to_corner), left, np.where(to_up <= to_corner, up, corner)).astype(
        np.int16
    )
