"""The smallest change of a color that makes a pair readable, at constant hue.

Candidates are 8-bit colors at the OKLCH hue of the original, over lightness and chroma; "smallest" is the least
CIEDE2000 from the original, for two colors the least of the larger of both changes.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from pavese.core.color.contrast import contrast_ratio, contrast_table, luminance
from pavese.core.color.difference import difference, differences
from pavese.core.color.gamut import to_rgb
from pavese.core.color.oklab import Array, hue_distance, lch_of, oklch_of
from pavese.core.color.srgb import Rgb

#: Steps over lightness, and over the share of the original's chroma.
_FINE = 160
_CHROMAS = np.array([0.0, 0.25, 0.5, 0.65, 0.8, 0.9, 0.96, 1.0, 1.04, 1.1])
#: Rounding turns the hue of quiet colors; as far as this (degrees times chroma) it still counts as the same.
_TURN = 0.35


@dataclass(frozen=True)
class Nudge:
    """A pair as it would be: which of both changed, by how much (CIEDE2000, the larger where both do), its ratio."""

    changes: str
    text: Rgb
    ground: Rgb
    difference: float
    ratio: float


def nudges(text: Rgb, ground: Rgb, wanted: float) -> tuple[Nudge, ...]:
    """The nearest ways to reach a ratio: by the text, by the ground, by both; fewer where a side alone cannot.

    None at all when the pair reaches it already.
    """
    if contrast_ratio(text, ground) >= wanted:
        return ()
    found = []
    new_text = nearest_readable(text, ground, wanted)
    if new_text is not None:
        found.append(_nudge("text", text, ground, new_text, ground))
    new_ground = nearest_readable(ground, text, wanted)
    if new_ground is not None:
        found.append(_nudge("ground", text, ground, text, new_ground))
    both = _both(text, ground, wanted)
    if both is not None:
        found.append(_nudge("both", text, ground, *both))
    return tuple(found)


def nearest_readable(color: Rgb, against: Rgb, wanted: float) -> Rgb | None:
    """The color nearest to one at its hue that reaches a ratio against another; None where none at its hue does."""
    candidates, apart = _around(color)
    for _ in range(2):
        reached = contrast_table(candidates, [against])[:, 0] >= wanted
        if not reached.any():
            return None
        best = int(np.where(reached, apart, np.inf).argmin())
        candidates, apart = _around(color, candidates[best])
    reached = contrast_table(candidates, [against])[:, 0] >= wanted
    best = int(np.where(reached, apart, np.inf).argmin())
    return candidates[best] if reached.any() else None


def _nudge(changes: str, text: Rgb, ground: Rgb, new_text: Rgb, new_ground: Rgb) -> Nudge:
    moved = max(difference(text, new_text), difference(ground, new_ground))
    return Nudge(changes, new_text, new_ground, moved, contrast_ratio(new_text, new_ground))


def _both(text: Rgb, ground: Rgb, wanted: float) -> tuple[Rgb, Rgb] | None:
    """Both moved apart: the lighter up, the darker down, within one bound on the change that is as small as can be."""
    light, dark = (text, ground) if luminance(text) >= luminance(ground) else (ground, text)
    up, down = _reach(light, 1), _reach(dark, -1)
    best: tuple[float, Rgb, Rgb] | None = None
    for bound in np.unique(np.concatenate([up[1], down[1]])):
        lighter, darker = (_furthest(reach, float(bound)) for reach in (up, down))
        if contrast_ratio(lighter, darker) >= wanted:
            best = (float(bound), lighter, darker)
            break
    if best is None:
        return None
    _, lighter, darker = best
    return (lighter, darker) if light is text else (darker, lighter)


def _reach(color: Rgb, sign: int) -> tuple[list[Rgb], Array]:
    """Candidates by growing difference, each reaching further in luminance than all before it."""
    candidates, apart = _around(color)
    light = np.array([luminance(one) for one in candidates]) * sign
    order = np.lexsort((-light, apart))
    further: list[int] = []
    best = -np.inf
    for i in order.tolist():
        if light[i] > best:
            best = light[i]
            further.append(i)
    return [candidates[i] for i in further], apart[further]


def _furthest(reach: tuple[list[Rgb], Array], bound: float) -> Rgb:
    candidates, apart = reach
    return candidates[max(int(np.searchsorted(apart, bound, side="right")) - 1, 0)]


def _around(color: Rgb, near: Rgb | None = None) -> tuple[list[Rgb], Array]:
    """Colors at the hue of one, over all lightnesses or finely about `near`, with their difference from it.

    The color itself is among them, at difference 0.
    """
    _, chroma, hue = lch_of(color)
    if near is None:
        levels, shares = np.linspace(0, 1, _FINE), _CHROMAS * chroma
    else:
        at, strength, _ = lch_of(near)
        levels = np.clip(at + np.linspace(-1, 1, 41) / _FINE, 0, 1)
        shares = np.clip(strength + np.linspace(-0.02, 0.02, 17), 0, None)
    grid = np.stack(np.meshgrid(levels, shares, indexing="ij"), axis=-1).reshape(-1, 2)
    made = dict.fromkeys(to_rgb(np.column_stack([grid, np.full(len(grid), hue)])))
    lch = oklch_of(made)
    kept = [color] + [
        one for one, (_, c, h) in zip(made, lch.tolist(), strict=True) if hue_distance(h, hue) * c <= _TURN or c < 0.004
    ]
    return kept, differences([color], kept)[0]
