"""The colors of a picture: few, real, and each with a place where it stands.

Modes of the picture's density in OKLab are found on a smoothed grid (mean shift: Comaniciu and Meer (2002), "Mean
shift: a robust approach toward feature space analysis", IEEE PAMI 24(5)). A flat area makes a peak however small it is,
a gradient makes a ridge without one, so peaks and not averages are taken; each is then moved to a pixel that is there.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from itertools import product
from math import ceil, sqrt

import numpy as np
import numpy.typing as npt
from scipy import ndimage
from scipy.spatial.distance import cdist

from pavese.core.color.difference import ciede2000, cielab
from pavese.core.color.oklab import Array, decode, encode, linear_to_oklab, oklab_to_linear
from pavese.core.color.srgb import Rgb

Pixels = npt.NDArray[np.uint8]
_Mask = npt.NDArray[np.bool_]
_Index = npt.NDArray[np.int64]

FEWEST, MOST = 3, 12


class Lean(StrEnum):
    """Which colors are preferred among those found."""

    BALANCED = "balanced"
    VIVID = "vivid"
    SOFT = "soft"
    LIGHT = "light"
    DARK = "dark"


@dataclass(frozen=True)
class Finding:
    """How to look: how many colors, leaning to which, and whether the ground is left out."""

    count: int = 6
    lean: Lean = Lean.BALANCED
    leave_out_ground: bool = False


@dataclass(frozen=True)
class FoundColor:
    """A color of a picture: a pixel of it at column `x`, row `y`, and the share (0 to 1) of pixels nearest to it."""

    color: Rgb
    x: int
    y: int
    share: float


#: Two colors nearer than this (CIEDE2000) are given once.
APART = 5.0

#: More pixels than this are thinned to every second, third …: a color of a hundredth still has thousands.
_PIXELS = 310_000
#: Grid of OKLab: lightness from 0, a and b from -0.34, in steps of a just noticeable size.
_STEP = 0.0125
_LOW = np.array([0.0, -0.34, -0.34])
_SHAPE = (82, 56, 56)
#: A wide blur takes noise for one peak, a narrow one tells a small color from a large one beside it.
_BLURS = (1.5, 0.7)
#: Mean shift looks this many cells around; noise of 6 levels in 255 stays within them.
_REACH = 2
_ROUNDS = 8
#: How much a color counts less for lying on a gradient.
_RIDGE = 400.0
#: From this distance (CIEDE2000) to those chosen on, a color is not worth more for being farther.
_FAR = 24.0
#: A peak below this share of all pixels is noise.
_LEAST = 0.0004
#: Most peaks looked at; the rest are slighter than all of these.
_PEAKS = 96
#: Peaks that are looked at beyond those asked for, where some of those come to the same color, and one.
_MORE = 4
#: Pixels more see-through than this have no color of their own.
_OPAQUE = 16
#: How near (OKLab) to the border's own color a pixel is still ground.
_UNIFORM = 0.045
_GROUND_SIDE = 480
#: From this share of a color's pixels on, one code of them is taken for the color itself.
_FLAT = 0.2
#: Packs red, green and blue into one number.
_CODE = np.array([65536, 256, 1])


def find_colors(pixels: Pixels, how: Finding) -> tuple[FoundColor, ...]:
    """The colors of a picture of shape (rows, columns, 4), most prominent first; the same input, the same colors.

    Fewer than asked for when the picture has fewer that can be told apart; none when nothing in it is opaque.
    """
    every = max(1, ceil(sqrt(pixels.shape[0] * pixels.shape[1] / _PIXELS)))
    thin = pixels[::every, ::every]
    weights = np.where(thin[..., 3] >= _OPAQUE, thin[..., 3], 0).astype(np.float64) / 255
    if how.leave_out_ground:
        weights = np.where(_ground(thin), 0.0, weights)
    flat = np.flatnonzero(weights)
    if not len(flat):
        return ()
    rows, columns = np.divmod(flat, thin.shape[1])
    levels = thin.reshape(-1, 4)[:, :3].take(flat, axis=0)
    weight = weights.ravel()[flat]
    lab = linear_to_oklab(_LINEAR[levels])
    cells = _cells(lab)
    grid = np.bincount(cells, weight, minlength=int(np.prod(_SHAPE))) / weight.sum()
    cube = grid.reshape(_SHAPE).astype(np.float32)
    peaks = _peaks(cube)
    used = np.flatnonzero(grid)
    looked_at = _center(np.argwhere(cube))

    def standing(centers: Array) -> list[FoundColor]:
        """For each center the pixel of the picture that stands for it, with the share of what is nearest to it."""
        nearest = np.zeros(len(grid), dtype=np.int64)
        nearest[used] = cdist(looked_at, centers).argmin(axis=1)
        label = nearest[cells]
        found = []
        for i, center in enumerate(centers):
            own = np.flatnonzero(label == i)
            if not len(own):
                continue
            at = own[_exemplar(rows[own], columns[own], levels[own], lab[own], center, thin.shape[:2])]
            y, x = int(rows[at]) * every, int(columns[at]) * every
            share = float(weight[own].sum() / weight.sum())
            found.append(FoundColor(Rgb(*(int(level) for level in levels[at])), x, y, share))
        return found

    kept: tuple[FoundColor, ...] = ()
    # Two peaks may come to pixels that are as good as one; then the next best peaks are looked at as well.
    for more in range(_MORE):
        chosen = _choose(peaks, cube, how, how.count + more)
        kept = _told_apart(standing(peaks[chosen]))
        if len(kept) >= how.count or len(chosen) < how.count + more:
            break
    return kept


_LINEAR: Array = decode(np.arange(256) / 255)


def _cell(lab: Array) -> _Index:
    """The place in the grid of each color, shape (n, 3)."""
    return np.asarray(np.clip(((lab - _LOW) / _STEP).astype(np.int64), 0, np.array(_SHAPE) - 1))


def _center(cells: _Index) -> Array:
    return np.asarray(_LOW + (cells + 0.5) * _STEP)


def _cells(lab: Array) -> _Index:
    """The number of the grid cell of each color."""
    return np.asarray(np.ravel_multi_index(tuple(_cell(lab).T), _SHAPE))


def _peaks(cube: Array) -> Array:
    """The modes of a density, shape (n, 3) in OKLab, none nearer than APART to one before it."""
    found = []
    for blur in _BLURS:
        smooth = ndimage.gaussian_filter(cube, blur, mode="constant")
        top = ndimage.maximum_filter(smooth, size=3) == smooth
        at = np.argwhere(top & (smooth > smooth.max() * 1e-4))
        order = np.argsort(-smooth[tuple(at.T)], kind="stable")[:_PEAKS]
        found.append(_center(at[order]))
    peaks = np.concatenate(found)
    # On a grid the mean around every cell is known at once, and a round of mean shift is a look into that table.
    mass = _around(cube, _REACH)
    means = []
    for axis, size in enumerate(_SHAPE):
        along = _LOW[axis] + (np.arange(size) + 0.5) * _STEP
        shape = [1, 1, 1]
        shape[axis] = size
        means.append(_around(cube * along.reshape(shape), _REACH) / np.maximum(mass, 1e-15))
    for _ in range(_ROUNDS):
        cells = tuple(_cell(peaks).T)
        peaks = np.stack([mean[cells] for mean in means], axis=-1)
    lab = cielab(_rounded(peaks))
    table = ciede2000(lab[:, None, :], lab[None, :, :])
    kept: list[int] = []
    for i in range(len(peaks)):
        if not kept or table[i, kept].min() >= APART:
            kept.append(i)
    return peaks[kept]


def _choose(peaks: Array, cube: Array, how: Finding, count: int) -> list[int]:
    """The peaks to give, at most `count`: each time the one that adds most, by its mass, its sharpness, its vividness,
    its distance."""
    cells = tuple(_cell(peaks).T)
    mass = np.maximum(_around(cube, _REACH), 0.0)
    close = mass[cells]
    # A gradient goes on to both sides of a place on it; beside a flat area there is nothing on one side at least.
    sharp = close / (close + _RIDGE * _through(mass, np.stack(cells, axis=-1)))
    chroma = np.hypot(peaks[:, 1], peaks[:, 2])
    merit = close**0.45 * sharp * (1 + 4 * chroma) * _leaning(peaks[:, 0], chroma, how.lean)
    lab = cielab(_rounded(peaks))
    table = ciede2000(lab[:, None, :], lab[None, :, :])
    chosen: list[int] = []
    open_ = [i for i in range(len(peaks)) if close[i] >= _LEAST]
    while open_ and len(chosen) < count:
        apart = [min((float(table[i, j]) for j in chosen), default=100.0) for i in open_]
        worth = [merit[i] * min(distance / _FAR, 1.0) ** 1.5 for i, distance in zip(open_, apart, strict=True)]
        best = open_[int(np.argmax(worth))]
        chosen.append(best)
        open_.remove(best)
    return sorted(chosen, key=lambda i: (-close[i], i))


def _around(cube: Array, reach: int) -> Array:
    """The sum within a box that reaches so many cells to each side."""
    size = 2 * reach + 1
    return np.asarray(ndimage.uniform_filter(cube, size, mode="constant") * size**3)


def _through(mass: Array, cells: _Index) -> Array:
    """How much density goes through each cell: of two opposite neighbors the lesser, of all directions the most."""
    side = 2 * _REACH + 1
    wide = np.pad(mass, side)
    most = np.zeros(len(cells))
    for step in product((-1, 0, 1), repeat=3):
        if step <= (0, 0, 0):
            continue
        there, back = (tuple((cells + side + sign * side * np.array(step)).T) for sign in (1, -1))
        most = np.maximum(most, np.minimum(wide[there], wide[back]))
    return most


def _leaning(lightness: Array, chroma: Array, lean: Lean) -> Array:
    """How much a lean prefers colors of this lightness and chroma."""
    by: dict[Lean, Array] = {
        Lean.BALANCED: np.ones_like(chroma),
        Lean.VIVID: np.exp(14 * (chroma - 0.12)),
        Lean.SOFT: np.exp(-14 * np.abs(chroma - 0.05)),
        Lean.LIGHT: np.exp(6 * (lightness - 0.8)),
        Lean.DARK: np.exp(-6 * (lightness - 0.35)),
    }
    return by[lean]


def _exemplar(rows: _Index, columns: _Index, levels: Pixels, lab: Array, center: Array, shape: tuple[int, ...]) -> int:
    """The pixel that stands for a color: the nearest to it in the part of the picture that holds most of it."""
    away = np.linalg.norm(lab - center, axis=-1)
    close = np.flatnonzero(away <= max(float(away.min()) + 0.012, 0.02))
    # In a flat area one code is repeated; that very code is meant, not a neighbor that scaling or compression made.
    codes, inverse, counts = np.unique(levels[close] @ _CODE, return_inverse=True, return_counts=True)
    del codes
    if counts.max() >= _FLAT * len(close):
        close = close[inverse == int(counts.argmax())]
    side = max(1, ceil(max(shape) / 96))
    across = shape[1] // side + 1
    block = rows[close] // side * across + columns[close] // side
    size = (shape[0] // side + 1, across)
    counts = np.bincount(block, minlength=size[0] * size[1]).reshape(size).astype(np.float64)
    inside = (ndimage.uniform_filter(counts, 3, mode="constant") + counts * 1e-6).ravel()[block]
    # Nearest first; among equals the one deepest inside its area.
    best = np.lexsort((-inside, np.round(away[close] * 250), inside < inside.max() * 0.6))
    return int(close[best[0]])


def _ground(thin: Pixels) -> _Mask:
    """The near-uniform area that reaches in from the border, and everything see-through."""
    side = max(1, ceil(max(thin.shape[:2]) / _GROUND_SIDE))
    small = thin[::side, ::side]
    clear = small[..., 3] < _OPAQUE
    edge = np.concatenate([small[0], small[-1], small[:, 0], small[:, -1]])
    edge = edge[edge[:, 3] >= _OPAQUE][:, :3]
    ground = clear
    if len(edge):
        lab = linear_to_oklab(_LINEAR[edge])
        codes, inverse, counts = np.unique(_cells(lab), return_inverse=True, return_counts=True)
        del codes
        usual = lab[inverse == int(counts.argmax())].mean(axis=0)
        alike = np.linalg.norm(linear_to_oklab(_LINEAR[small[..., :3]]) - usual, axis=-1) < _UNIFORM
        ground = clear | alike
    areas, _ = ndimage.label(ground)
    border = np.unique(np.concatenate([areas[0], areas[-1], areas[:, 0], areas[:, -1]]))
    reached = np.isin(areas, border[border > 0])
    # One cell wider, since the edge between ground and figure is a blend of both.
    reached = ndimage.binary_dilation(reached) & ground | reached
    whole = np.repeat(np.repeat(reached, side, axis=0), side, axis=1)
    return np.asarray(whole[: thin.shape[0], : thin.shape[1]])


def _told_apart(found: list[FoundColor]) -> tuple[FoundColor, ...]:
    """Once more without duplicates, since moving to real pixels can bring two together."""
    kept: list[FoundColor] = []
    for color in found:
        if not kept or ciede2000(cielab([color.color]), cielab([known.color for known in kept])).min() >= APART:
            kept.append(color)
        else:
            kept = [
                FoundColor(known.color, known.x, known.y, known.share + color.share * (known is kept[-1]))
                for known in kept
            ]
    return tuple(kept)


def _rounded(lab: Array) -> list[Rgb]:
    levels = np.rint(encode(oklab_to_linear(lab)) * 255).astype(int)
    return [Rgb(int(r), int(g), int(b)) for r, g, b in levels]
