"""A veil over a picture: a color, see-through, as thin as an ink needs to read on all of a region.

It is mixed in sRGB values, as a see-through layer is wherever pictures are shown (CSS Compositing 1, section 5.1).
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from pavese.core.color.oklab import LUMINANCE, Array, decode
from pavese.core.color.srgb import Rgb
from pavese.core.pictures.mixture import Floats, Levels

#: In how many steps a veil gets thicker; colors by which a step is found before all are asked; pixels at a time.
STEPS = 200
_HARDEST, _AT_ONCE = 4000, 400_000
_LINEAR = decode(np.arange(256) / 255)


class Rectangle(NamedTuple):
    """Rows and columns of a picture, from the first to the one behind the last."""

    top: int
    bottom: int
    left: int
    right: int

    def of(self, pixels: Levels) -> Levels:
        """The pixels in it."""
        return pixels[self.top : self.bottom, self.left : self.right]


def worst(pixels: Levels, ink: Rgb) -> float:
    """The least contrast of an ink with any of some pixels, shape (..., 3) in sRGB (WCAG 2.2, "contrast ratio")."""
    flat = pixels.reshape(-1, 3)
    parts = (flat[start : start + _AT_ONCE] for start in range(0, len(flat), _AT_ONCE))
    return min((float(_contrasts(part, ink).min()) for part in parts), default=21.0)


def _contrasts(colors: Levels, ink: Rgb) -> Array:
    """The contrast of an ink with each of some colors, shape (n, 3)."""
    light, own = _LINEAR[colors] @ LUMINANCE, float(_LINEAR[list(ink)] @ LUMINANCE)
    return np.asarray((np.maximum(light, own) + 0.05) / (np.minimum(light, own) + 0.05))


def veil_needed(pixels: Levels, ink: Rgb, level: float, color: Rgb, least: int = 0) -> int | None:
    """How thick a veil of a color has to be, in `STEPS`, for an ink to reach a contrast with each of some pixels, shape
    (..., 3) in sRGB, from `least` on; None where it does not even reach it on the color itself."""
    if worst(np.array(color, dtype=np.uint8), ink) < level:
        return None
    each = _each(pixels)
    found = np.concatenate([_contrasts(each[start : start + _AT_ONCE], ink) for start in range(0, len(each), _AT_ONCE)])
    hardest, step = each[np.argsort(found, kind="stable")[:_HARDEST]], least
    while True:
        step = next(one for one in range(step, STEPS + 1) if worst(veiled(hardest, color, one), ink) >= level)
        made = veiled(each, color, step)
        left = [
            each[start : start + _AT_ONCE][_contrasts(made[start : start + _AT_ONCE], ink) < level]
            for start in range(0, len(each), _AT_ONCE)
        ]
        hardest = np.concatenate(left)[:_HARDEST]
        if not len(hardest):
            return step


def _each(pixels: Levels) -> Levels:
    """The colors of pixels, each once."""
    flat = pixels.reshape(-1, 3)
    there = np.zeros(1 << 24, dtype=np.bool_)
    for start in range(0, len(flat), _AT_ONCE):
        wide = flat[start : start + _AT_ONCE].astype(np.uint32)
        there[wide[:, 0] << 16 | wide[:, 1] << 8 | wide[:, 2]] = True
    codes = np.flatnonzero(there)
    return np.stack([codes >> 16, codes >> 8 & 255, codes & 255], axis=-1).astype(np.uint8)


def veiled(pixels: Levels, color: Rgb, step: int, spread: Floats | None = None) -> Levels:
    """Pixels in sRGB, shape (..., 3), under a veil that is so thick (of `STEPS`); `spread`, shape (...), says how much
    of it lies where, 0 to 1."""
    thick, goal = np.float32(step / STEPS), np.array(color, dtype=np.float32)
    made = np.empty_like(pixels)
    # Row by row, or color by color: some at a time.
    each = max(_AT_ONCE // max(pixels[:1].size // 3, 1), 1)
    for start in range(0, len(pixels), each):
        part = slice(start, start + each)
        much = thick if spread is None else (spread[part] * thick)[..., None]
        made[part] = np.rint(pixels[part] + much * (goal - pixels[part]))
    return made


def fading(shape: tuple[int, ...], region: Rectangle) -> Floats:
    """How much of a veil lies where in a picture (rows, columns): all of it in a region, and evenly less away from it,
    until none does at the border of the picture that is farthest."""
    away = np.hypot(
        _beyond(shape[0], region.top, region.bottom)[:, None], _beyond(shape[1], region.left, region.right)[None]
    )
    farthest = max(region.top, shape[0] - region.bottom, region.left, shape[1] - region.right)
    found: Floats = np.clip(1 - away / max(farthest, 1), 0, 1).astype(np.float32)
    return found


def _beyond(size: int, start: int, stop: int) -> Array:
    """How far each place of a line is from a part of it."""
    at = np.arange(size, dtype=np.float64)
    return np.maximum(np.maximum(start - at, at - (stop - 1)), 0)


def only_in(shape: tuple[int, ...], region: Rectangle) -> Floats:
    """A veil that lies in a region alone."""
    made = np.zeros(shape[:2], dtype=np.float32)
    made[region.top : region.bottom, region.left : region.right] = 1
    return made


def whole(shape: tuple[int, ...]) -> npt.NDArray[np.float32]:
    """A veil that lies everywhere."""
    return np.ones(shape[:2], dtype=np.float32)
