"""Whether colors that stand beside each other in a chart can be told apart: as they are, with each color vision
deficiency, and printed in grey."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np

from pavese.core.color.difference import cielab, differences
from pavese.core.color.oklab import Array
from pavese.core.color.srgb import Rgb
from pavese.core.color.vision import Vision, seen

#: How far apart neighbors are to be, in CIEDE2000; in grey print in CIELAB lightness.
LEAST: Mapping[Vision, float] = {
    Vision.USUAL: 20.0,
    Vision.PROTAN: 10.0,
    Vision.DEUTAN: 10.0,
    Vision.TRITAN: 10.0,
    Vision.GREY: 12.0,
}


class Apart(NamedTuple):
    """How far apart two colors are in the way of seeing in which they are nearest to too near; `share` is that as a
    part of what is asked for, from 1 on they are told apart."""

    vision: Vision
    distance: float
    share: float


def shares(some: Sequence[Rgb], others: Sequence[Rgb]) -> Array:
    """How far apart colors are, as parts of what is asked for; shape (ways of seeing, some, others)."""
    return np.stack([_distances(some, others, vision) / least for vision, least in LEAST.items()])


def apart(one: Rgb, other: Rgb) -> Apart:
    """How well two colors are told apart."""
    each = shares([one], [other])[:, 0, 0]
    vision = list(LEAST)[int(each.argmin())]
    return Apart(vision, float(each.min()) * LEAST[vision], float(each.min()))


def _distances(some: Sequence[Rgb], others: Sequence[Rgb], vision: Vision) -> Array:
    if vision is Vision.GREY:
        return np.abs(cielab(some)[:, None, 0] - cielab(others)[None, :, 0])
    return differences(seen(some, vision), seen(others, vision))
