"""Generated pictures with known colors and shares, to measure how well colors are found."""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from PIL import Image

from pavese.core.color.difference import difference, differences
from pavese.core.color.extract import Pixels
from pavese.core.color.srgb import Rgb

#: Ways to make it hard: (over a gradient, with noise, through JPEG).
KINDS: dict[str, tuple[bool, bool, bool]] = {
    "flat": (False, False, False),
    "noise": (False, True, False),
    "gradient": (True, False, False),
    "jpeg": (False, False, True),
    "all": (True, True, True),
}
_APART = 12.0
_WIDTH, _HEIGHT = 640, 480
#: Standard deviation of the noise, in levels of 255.
_GRAIN = 5.0
_QUALITY = 85


@dataclass(frozen=True)
class Planted:
    """A picture of shape (rows, columns, 4), and the colors that were planted, each on at least a hundredth of it."""

    pixels: Pixels
    colors: tuple[Rgb, ...]
    kind: str


def planted(seed: int, kind: str) -> Planted:
    """The picture of a seed and a kind; patches lie on a flat ground, which is planted as well, or on a gradient."""
    chance = np.random.default_rng([seed, list(KINDS).index(kind)])
    over_gradient, noisy, compressed = KINDS[kind]
    ends = [_color(chance), _color(chance)]
    ground = _gradient(*ends) if over_gradient else np.full((_HEIGHT, _WIDTH, 3), ends[0], dtype=np.float64)
    taken = [Rgb(*(int(v) for v in ground[0, x])) for x in range(0, _WIDTH, 16)] if over_gradient else ends[:1]
    colors = [] if over_gradient else ends[:1]
    for place in chance.permutation(12)[: int(chance.integers(3, 7))]:
        color = _unlike(chance, taken)
        if color is None:
            break
        taken.append(color)
        colors.append(color)
        _patch(chance, ground, int(place), color)
    if noisy:
        ground = ground + chance.normal(0, _GRAIN, ground.shape)
    levels = np.clip(np.rint(ground), 0, 255).astype(np.uint8)
    if compressed:
        out = io.BytesIO()
        Image.fromarray(levels).save(out, "JPEG", quality=_QUALITY)
        with Image.open(out) as image:
            levels = np.asarray(image.convert("RGB"))
    alpha = np.full((*levels.shape[:2], 1), 255, dtype=np.uint8)
    return Planted(np.concatenate([levels, alpha], axis=-1), tuple(colors), kind)


def pictures(count: int) -> Iterator[Planted]:
    """`count` pictures of every kind."""
    return (planted(seed, kind) for kind in KINDS for seed in range(count))


def missed(picture: Planted, found: list[Rgb]) -> list[Rgb]:
    """The planted colors that none of the found ones is within CIEDE2000 3 of."""
    if not found:
        return list(picture.colors)
    table = differences(picture.colors, found)
    return [color for color, row in zip(picture.colors, table, strict=True) if row.min() > 3.0]


def _color(chance: np.random.Generator) -> Rgb:
    return Rgb(*(int(v) for v in chance.integers(0, 256, 3)))


def _unlike(chance: np.random.Generator, taken: list[Rgb]) -> Rgb | None:
    for _ in range(60):
        color = _color(chance)
        if all(difference(color, other) >= _APART for other in taken):
            return color
    return None


def _gradient(first: Rgb, last: Rgb) -> np.ndarray[tuple[int, ...], np.dtype[np.float64]]:
    along = np.linspace(0, 1, _WIDTH)[None, :, None]
    row = np.array(first) * (1 - along) + np.array(last) * along
    return np.repeat(row, _HEIGHT, axis=0)


def _patch(
    chance: np.random.Generator, ground: np.ndarray[tuple[int, ...], np.dtype[np.float64]], place: int, color: Rgb
) -> None:
    """A rectangle or an ellipse of one to six hundredths of the picture, in one of twelve fields."""
    top, left = place // 4 * (_HEIGHT // 3), place % 4 * (_WIDTH // 4)
    area = chance.uniform(0.0105, 0.06) * _WIDTH * _HEIGHT
    round_ = bool(chance.integers(0, 2))
    high = int(min(max((area * (4 / np.pi if round_ else 1)) ** 0.5, 30), _HEIGHT // 3 - 4))
    wide = int(np.ceil(area * (4 / np.pi if round_ else 1) / high))
    wide = min(wide, _WIDTH // 4 - 4)
    y, x = np.mgrid[0:high, 0:wide]
    inside = ((y - high / 2) / (high / 2)) ** 2 + ((x - wide / 2) / (wide / 2)) ** 2 <= 1 if round_ else y >= 0
    ground[top : top + high, left : left + wide][inside] = color
