"""How much of a hue is seen in a color, and how far hues lie apart."""

from __future__ import annotations

import numpy as np

from pavese.core.color.oklab import Array

#: OKLCH lightness, and the chroma from which a color of that lightness is wholly of its hue: towards white and black
#: there is less chroma to have, and less of it is needed to see a hue.
_LIGHTNESS = (0.0, 0.2, 0.45, 0.8, 0.96, 1.0)
_WHOLLY = (0.09, 0.045, 0.08, 0.08, 0.03, 0.02)
#: Up to this part of that chroma a color is neutral.
_NEUTRAL = 0.25
#: At this part of that chroma a hue is plain.
_PLAIN = 0.5


def colorfulness(lch: Array) -> Array:
    """0 for neutral colors to 1 for those that are wholly of their hue; OKLCH of shape (..., 3) gives shape (...)."""
    wholly = np.interp(lch[..., 0], _LIGHTNESS, _WHOLLY)
    return np.asarray(np.clip((lch[..., 1] / wholly - _NEUTRAL) / (1 - _NEUTRAL), 0.0, 1.0))


def hue_seen(lch: Array) -> Array:
    """0 for colors that show no hue to 1 for those whose hue is plain, however muted; OKLCH of shape (..., 3)."""
    wholly = np.interp(lch[..., 0], _LIGHTNESS, _WHOLLY)
    return np.asarray(np.clip(lch[..., 1] / (_PLAIN * wholly), 0.0, 1.0))


#: OKLCH chroma below which a color is taken for grey; degrees within which two hues are one, and from which on they are
#: plainly two.
_GREY, _SAME_HUE, _OTHER_HUE = 0.03, 30.0, 60.0
#: From this on a color is no grey, and another shows a hue.
_COLORED = 0.5


def of_its_hue(lch: Array, others: Array) -> Array:
    """Which of other colors have the hue of a color, or are grey where it is; OKLCH, shapes (..., 3) and (n, 3) give
    shape (..., n)."""
    grey = others[:, 1] < _GREY
    same = ~grey & (turns(lch[..., 2, None], others[:, 2]) <= _SAME_HUE)
    return np.where(lch[..., 1, None] < _GREY, grey, same)


def loses_its_hue(lch: Array, others: Array) -> Array:
    """In which of other colors the hue of a color would be lost: grey ones, and those of quite another hue. Nothing is
    lost where it hardly has one. Shapes as in `of_its_hue`."""
    grey = (hue_seen(others) < _COLORED) | (others[:, 1] < _GREY)
    lost = grey | (turns(lch[..., 2, None], others[:, 2]) >= _OTHER_HUE)
    return np.asarray((colorfulness(lch)[..., None] >= _COLORED) & lost)


def turns(one: Array, other: Array | float) -> Array:
    """Degrees between hues, 0 to 180; shapes that broadcast."""
    return np.asarray(np.abs((one - other + 180) % 360 - 180))
