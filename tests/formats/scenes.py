"""Scenes like photographs, made up: a thing of one color with light, shade and folds on it, among others."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from pavese.core.color.oklab import decode, encode
from pavese.core.color.srgb import Rgb

#: Rows and columns.
SIZE = (240, 320)
SAND = Rgb(196, 188, 170)
_Mask = npt.NDArray[np.bool_]


class Scene(NamedTuple):
    """Pixels, shape (rows, columns, 3); what of them is the thing, and what is a second one of the same color."""

    pixels: npt.NDArray[np.uint8]
    thing: _Mask
    other: _Mask


def disc(x: float, y: float, size: float) -> npt.NDArray[np.float64]:
    """How much of each pixel a disc covers, in parts of the height."""
    down, right = np.mgrid[0 : SIZE[0], 0 : SIZE[1]]
    away = np.hypot(down + 0.5 - y * SIZE[0], right + 0.5 - x * SIZE[1])
    return np.clip(size * SIZE[0] - away + 0.5, 0, 1)


def scene(color: Rgb, ground: Rgb = SAND, seed: int = 1) -> Scene:
    """A thing in the middle, a second one of its color at the right, a cast shadow over both it and the ground."""
    dice = np.random.default_rng(seed)
    down, right = np.mgrid[0 : SIZE[0], 0 : SIZE[1]] / SIZE[0]
    linear = np.empty((*SIZE, 3))
    linear[:] = decode(np.array(ground) / 255)
    lit = (1 + 0.25 * np.sin(3 * down + right) + 0.1 * np.sin(40 * right))[..., None]
    thing, other = disc(0.4, 0.5, 0.3), disc(0.85, 0.5, 0.12)
    for cover in (thing, other):
        linear = linear * (1 - cover[..., None]) + decode(np.array(color) / 255) * lit * cover[..., None]
    linear *= (1 - 0.4 * disc(0.3, 0.3, 0.2))[..., None]
    levels = encode(linear) * 255 + dice.normal(0, 1.5, linear.shape)
    return Scene(np.clip(np.rint(levels), 0, 255).astype(np.uint8), thing >= 0.5, other >= 0.5)
