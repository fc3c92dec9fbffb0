"""How badly a step of the kit suits a paint by itself, in squared steps of lightness."""

from __future__ import annotations

import numpy as np

from pavese.core.color.oklab import Array
from pavese.core.recolor.colorfulness import colorfulness, turns

#: Lightness: squared steps up to this many, from there on as steep as there.
_SQUARED = 3.0
#: Hue: what a turn by 90 degrees costs; the least turn that the kit allows costs a part of that only.
_TURN = 26.0
_UNAVOIDABLE = 0.8
#: A vivid paint that ends neutral loses more than one whose hue turns by any angle.
_TO_GREY = 150.0
#: A turn by so many degrees is a hue lost, where the kit has one within the first.
_NEAR_HUE, _LOST_HUE = 30.0, 45.0
_HUE_LOST = 120.0
#: Character: what a difference of 0.1 in OKLCH chroma costs, squared, and for a quiet paint that gets loud.
_CHARACTER, _LOUD = 3.0, 10.0


def fit(lch: Array, wanted: Array, aims: Array, steps_lch: Array, positions: Array, *, hued: bool = True) -> Array:
    """What each step costs each paint, shape (paints, steps).

    `lch` are the paints in OKLCH, `wanted` their places on the scale of steps, `aims` the hue each is to have;
    `steps_lch` and `positions` are the same of the steps. Without `hued` only lightness counts.
    """
    gap = np.abs(wanted[:, None] - positions)
    cost = np.where(gap <= _SQUARED, gap**2, 2 * _SQUARED * gap - _SQUARED**2)
    if not hued or not len(lch):
        return np.asarray(cost)
    paint, step = colorfulness(lch)[:, None], colorfulness(steps_lch)[None, :]
    turn = turns(aims[:, None], steps_lch[None, :, 2])
    angle = 1 - np.cos(np.radians(turn))
    can_have = np.where(step >= 0.5, angle, np.inf).min(axis=1, keepdims=True)
    least = np.where(np.isfinite(can_have), can_have, 0.0)
    cost += _TURN * paint * step * np.maximum(angle - _UNAVOIDABLE * least, 0.0)
    has_hue = least <= 1 - np.cos(np.radians(_NEAR_HUE))
    cost += np.where(has_hue & (turn >= _LOST_HUE), _HUE_LOST * paint * step, 0.0)
    cost += np.where(np.isfinite(can_have), _TO_GREY * paint**2 * (1 - step) ** 2, 0.0)
    off = (steps_lch[None, :, 1] - lch[:, 1][:, None]) * 10
    cost += _CHARACTER * off**2 + _LOUD * (1 - paint) * np.maximum(off, 0.0) ** 2
    return np.asarray(cost)
