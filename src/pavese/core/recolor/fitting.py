"""How badly a step of the kit suits a paint by itself, in squared steps of lightness."""

from __future__ import annotations

import numpy as np

from pavese.core.color.oklab import Array
from pavese.core.color.ramp import STEPS
from pavese.core.recolor.colorfulness import colorfulness, hue_seen, turns

#: Lightness: squared steps up to this many, from there on as steep as there.
_SQUARED = 3.0
#: Hue: what a turn by 90 degrees costs; the least turn that the kit allows costs a part of that only.
_TURN = 26.0
_UNAVOIDABLE = 0.8
#: Degrees beyond the least turn that the kit allows from which on a hue begins to be lost, and at which it is.
_LOSING, _LOST = 25.0, 45.0
_HUE_LOST, _HUE_MISSED = 120.0, 60.0
#: OKLCH chroma of steps that begin to be a tint, and that are one; what it costs that a grey becomes one where the kit
#: has greys, up to so many steps from each place of the scale; a paint is none from a sixth of its hue on.
_TINT, _TINTED, _AT_PLACE, _HARDLY = (0.03, 0.05), 160.0, 0.6, 6.0
#: Degrees within which the kit has a hue.
_NEAR_HUE = 30.0
#: From this on a step shows its hue, see `hue_seen`.
_PLAIN = 0.75
#: A vivid paint that ends neutral loses more than one whose hue turns by any angle; more still where the kit has its
#: hue: while it did not, a blue gave its steps to darker blues and to texts on it, and ended as a blue grey.
_TO_GREY, _TO_GREY_BESIDE = 200.0, 330.0
#: OKLCH chroma below which a step passes for white or grey, whatever hue it shows by itself (a cream), and below which
#: it begins to in the place of a vivid paint (the palest tints); what that costs at most, and the chroma from which on
#: a paint begins to be vivid, and is.
_FAINT, _PALE_TINT, _TO_FAINT, _VIVID = 0.03, 0.06, 60.0, (0.05, 0.1)
#: Character: what a difference of 0.1 in OKLCH chroma costs, squared; for a vivid paint that gets pale, and for a quiet
#: one that gets loud.
_CHARACTER, _PALE, _LOUD = 2.0, 6.0, 20.0


#: Hues in OKLCH, and as far apart as their names are: few degrees lie between a yellow and a green.
_HUES, _NAMED = (0.0, 60.0, 100.0, 125.0, 165.0, 360.0), (0.0, 60.0, 100.0, 150.0, 180.0, 360.0)


def _named(hues: Array) -> Array:
    return np.interp(hues, _HUES, _NAMED)


def fit(lch: Array, wanted: Array, aims: Array, steps_lch: Array, positions: Array, *, hued: bool = True) -> Array:
    """What each step costs each paint, shape (paints, steps).

    `lch` are the paints in OKLCH, `wanted` their places on the scale of steps, `aims` the hue each is to have;
    `steps_lch` and `positions` are the same of the steps. Without `hued` only lightness counts.
    """
    gap = np.abs(wanted[:, None] - positions)
    cost = np.where(gap <= _SQUARED, gap**2, 2 * _SQUARED * gap - _SQUARED**2)
    if not hued or not len(lch):
        return np.asarray(cost)
    paint, step = colorfulness(lch)[:, None], hue_seen(steps_lch)[None, :]
    turn = turns(_named(aims)[:, None], _named(steps_lch[:, 2])[None, :])
    # What the kit allows: the nearest hue that is plainly one, and has some chroma to show it.
    plain = (step >= _PLAIN) & (steps_lch[None, :, 1] >= _FAINT)
    least = np.where(plain, turn, np.inf).min(axis=1, keepdims=True)
    has_hue = np.isfinite(least)
    least = np.where(has_hue, least, 0.0)
    angle, allowed = (1 - np.cos(np.radians(one)) for one in (turn, least))
    lost = np.clip((turn - least - _LOSING) / (_LOST - _LOSING), 0.0, 1.0)
    missed = np.where(least <= _NEAR_HUE, _HUE_LOST, _HUE_MISSED) * lost
    cost += paint * step * (_TURN * np.maximum(angle - _UNAVOIDABLE * allowed, 0.0) + missed)
    vivid = np.interp(lch[:, 1], _VIVID, (0.0, 1.0))[:, None]
    to_grey = _TO_GREY + (_TO_GREY_BESIDE - _TO_GREY) * vivid * (least <= _NEAR_HUE)
    faint = np.maximum(1 - steps_lch[None, :, 1] / _PALE_TINT, 0.0)
    cost += np.where(has_hue, to_grey * paint**4 * (1 - step) ** 2 + _TO_FAINT * vivid * faint, 0.0)
    off = (steps_lch[None, :, 1] - lch[:, 1][:, None]) * 10
    paler, louder = np.maximum(-off, 0.0) ** 2, np.maximum(off, 0.0) ** 2
    tint = np.clip((steps_lch[:, 1] - _TINT[0]) / (_TINT[1] - _TINT[0]), 0.0, 1.0)
    if _has_greys(positions[tint < 1]):
        cost += _TINTED * np.maximum(1 - _HARDLY * paint, 0.0) * tint
    cost += _CHARACTER * off**2 + _PALE * paint * paler + _LOUD * (1 - paint) * louder
    return np.asarray(cost)


def _has_greys(neutral: Array) -> bool:
    """Whether the neutral steps, by their places, are two whole scales, as a background and a dark text give: with less
    greys are told apart by tints."""
    apart = np.abs(np.arange(len(STEPS))[:, None] - neutral)
    return len(neutral) > 1 and bool((np.sort(apart, axis=1)[:, 1] <= _AT_PLACE).all())
