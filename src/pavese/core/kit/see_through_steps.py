"""What the see-through settings of a kit give: a ramp as transparent colors over a ground."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from pavese.core.color.gamut import to_rgb
from pavese.core.color.oklab import oklch_of
from pavese.core.color.overlay import SeeThroughColor, see_through_equal
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit
from pavese.core.kit.see_through import PLAIN_BASES, SeeThrough
from pavese.core.kit.token import parse_token


@dataclass(frozen=True)
class Equal:
    """A step, solid and see-through; `seen` is what the latter gives over its base, `chroma` and `full` are OKLCH."""

    step: int
    solid: Rgb
    through: SeeThroughColor
    seen: Rgb
    chroma: float
    full: float

    @property
    def exact(self) -> bool:
        """Whether over its base it is the solid color to the bit."""
        return self.seen == self.solid


def base_of(kit: Kit, setting: SeeThrough) -> Rgb:
    """The color of a setting's base."""
    return PLAIN_BASES[setting.base] if setting.plain else kit.resolve(parse_token(setting.base))


def equals(kit: Kit, setting: SeeThrough) -> tuple[Equal, ...]:
    """The eleven steps of a setting, light to dark. Raises InvalidKitError for a color or base that is gone."""
    base = base_of(kit, setting)
    ramp = kit.color(setting.of).ramp
    exact = [see_through_equal(ramp.at(step), base) for step in STEPS]
    lch = oklch_of([found.color for found in exact])
    kept = np.array([setting.vividness.kept(1 - i / (len(STEPS) - 1)) for i in range(len(STEPS))])
    quiet = lch.copy()
    quiet[:, 1] *= kept
    calmer = to_rgb(quiet)
    found = []
    for i, step in enumerate(STEPS):
        through = exact[i] if kept[i] == 1 else SeeThroughColor(calmer[i], exact[i].alpha)
        found.append(Equal(step, ramp.at(step), through, through.over(base), float(quiet[i, 1]), float(lch[i, 1])))
    return tuple(found)
