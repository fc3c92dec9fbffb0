"""A color at a place of a picture: one pixel, or the average of a few around it; and the pixels seen there."""

from __future__ import annotations

from enum import IntEnum

import numpy as np

from pavese.core.color.extract import Pixels
from pavese.core.color.oklab import decode, encode
from pavese.core.color.srgb import Rgb, Rgba


class Reach(IntEnum):
    """Side of the square that is sampled, in pixels."""

    POINT = 1
    FIVE = 5
    FIFTEEN = 15


def sample(pixels: Pixels, x: int, y: int, reach: Reach = Reach.POINT) -> Rgba:
    """The color at column `x`, row `y`, averaged in linear light over the square around it.

    See-through pixels count by their alpha; the alpha given is the average. Places outside are moved to the edge.
    """
    y, x = (min(max(at, 0), size - 1) for at, size in ((y, pixels.shape[0]), (x, pixels.shape[1])))
    half = int(reach) // 2
    square = pixels[max(y - half, 0) : y + half + 1, max(x - half, 0) : x + half + 1].reshape(-1, 4)
    alpha = square[:, 3].astype(np.float64) / 255
    if len(square) == 1 or not alpha.any():
        r, g, b, a = (int(level) for level in pixels[y, x])
        return Rgba(r, g, b, round(a / 255, 4))
    linear = decode(square[:, :3].astype(np.float64) / 255)
    mean = (linear * alpha[:, None]).sum(axis=0) / alpha.sum()
    levels = np.rint(encode(mean) * 255).astype(int)
    return Rgba(int(levels[0]), int(levels[1]), int(levels[2]), round(float(alpha.mean()), 4))


def around(pixels: Pixels, x: int, y: int, side: int = 21) -> list[list[Rgb | None]]:
    """The square of `side` pixels around a place, row by row; None beyond the edge and where nothing is opaque."""
    half = side // 2
    rows: list[list[Rgb | None]] = []
    for row in range(y - half, y + half + 1):
        line: list[Rgb | None] = []
        for column in range(x - half, x + half + 1):
            inside = 0 <= row < pixels.shape[0] and 0 <= column < pixels.shape[1]
            r, g, b, a = (int(level) for level in pixels[row, column]) if inside else (0, 0, 0, 0)
            line.append(Rgb(r, g, b) if a else None)
        rows.append(line)
    return rows
