"""How a figure stands out from the ground it is shown on."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from pavese.core.color.contrast import LARGE, contrast_ratio
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.measure import Measured


@dataclass(frozen=True)
class FigureContrast:
    """`ratio` is reached along at least half of the figure's outline; `clear` is the share of it with 3:1 or more.

    3:1 is what WCAG 2.2 asks of graphical objects (success criterion 1.4.11).
    """

    ratio: float
    clear: float

    @property
    def stands(self) -> bool:
        """Whether the figure can be told from its ground."""
        return self.ratio >= LARGE


def figure_contrast(measured: Measured, changes: Changes, ground: Rgb) -> FigureContrast | None:
    """The contrast of a recolored file to its ground, or to its backing where it has one.

    None for a drawing that has no outline: it fills its picture, or nothing was measured of it.
    """
    whole = sum(measured.outline.values())
    if not whole:
        return None
    behind = changes.ground or ground
    borders: list[tuple[float, float]] = []
    for paint, share in measured.outline.items():
        after = changes.recoloring.get(paint)
        shown = paint if after is None else Rgba(*after, paint.alpha)
        borders.append((_contrast(shown, behind), share / whole))
    borders.sort(reverse=True)
    reached, ratio = 0.0, 1.0
    for contrast, share in borders:
        reached, ratio = reached + share, contrast
        if reached >= 0.5 - 1e-9:
            break
    return FigureContrast(ratio, sum(share for contrast, share in borders if contrast >= LARGE))


@lru_cache(maxsize=8192)
def _contrast(shown: Rgba, behind: Rgb) -> float:
    """The contrast of a color on a ground, kept since a set shows few on one ground, in thousands of files."""
    return contrast_ratio(shown.over(behind), behind)
