"""Showing where one paint stands: in a picture of its own, or by masks for every paint, to be laid over any picture."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

import numpy as np

from pavese.core.color.contrast import BLACK, luminance
from pavese.core.color.gamut import to_rgb
from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.recoloring import Recoloring

#: Lightness range (OKLCH) of what is pushed back, behind a dark and behind a light paint.
_BEHIND_DARK = (0.86, 0.97)
_BEHIND_LIGHT = (0.34, 0.5)
_LIGHT = 0.5


def _of(resolved: Mapping[Rgba, Rgb] | Recoloring, paint: Rgba) -> Rgb:
    color = resolved.get(paint)
    return paint.rgb if color is None else color


#: The channel of each of three paints whose masks one drawing gives.
_CHANNELS = (Rgb(255, 0, 0), Rgb(0, 255, 0), Rgb(0, 0, 255))


def mask_recolorings(paints: Sequence[Rgba]) -> list[dict[Rgba, Rgb]]:
    """Recolorings after which the red, green and blue of a drawing are the masks of three paints each, in their order.

    Where shapes meet, the engine mixes their colors, so that the masks have the same soft edges as the drawing.
    """
    return [
        {
            paint: _CHANNELS[at - first] if first <= at < first + len(_CHANNELS) else BLACK
            for at, paint in enumerate(paints)
        }
        for first in range(0, len(paints), len(_CHANNELS))
    ]


def spotlight(paints: Iterable[Rgba], resolved: Mapping[Rgba, Rgb] | Recoloring, spot: Rgba) -> dict[Rgba, Rgb]:
    """A recoloring in which `spot` stands out and the shapes of the rest can still be made out."""
    lit = _of(resolved, spot)
    low, high = _BEHIND_LIGHT if luminance(lit) > _LIGHT else _BEHIND_DARK
    others = [paint for paint in paints if paint != spot]
    lch = oklch_of([_of(resolved, paint) for paint in others])
    lch[:, 0] = low + (high - low) * lch[:, 0]
    lch[:, 1:] = np.zeros_like(lch[:, 1:])
    return {**dict(zip(others, to_rgb(lch), strict=True)), spot: lit}
