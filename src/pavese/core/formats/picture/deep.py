"""The pixels of PNGs with 16 bits a channel (https://www.w3.org/TR/png-3/), of which the library knows eight."""

from __future__ import annotations

import zlib
from collections.abc import Iterator

import numpy as np
import numpy.typing as npt
from PIL import Image

from pavese.core.pictures.mixture import Deep

#: How colors with 16 bits are unpacked by their upper bytes, and by their lower ones: as if these were the upper.
_UPPER, _LOWER = ";16B", ";16L"
#: Rows that are packed at a time, and how hard.
_ROWS, _HARD = 128, 6

_Bytes = npt.NDArray[np.uint8]


def deep_values(image: Image.Image, upper: _Bytes) -> Deep | None:
    """The values of a PNG, shape (rows, columns, 1, 3 or 4), of which the upper bytes are known; `image` is opened anew
    and not decoded yet. None where they cannot be told."""
    if image.mode in ("I;16", "I"):
        return np.asarray(image).astype(np.uint16)[..., None]
    tiles = getattr(image, "tile", [])
    if image.mode not in ("RGB", "RGBA") or any(tile.args != image.mode + _UPPER for tile in tiles):
        return None
    image.tile = [tile._replace(args=image.mode + _LOWER) for tile in tiles]  # type: ignore[attr-defined]
    values = upper.astype(np.uint16)
    values <<= 8
    values |= np.asarray(image)
    return values


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
