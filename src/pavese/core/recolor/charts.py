"""Charts of decks: which of their colors stand beside each other, and whether these are told apart."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from pavese.core.color.neighbors import LEAST, Apart, apart
from pavese.core.color.srgb import Rgb
from pavese.core.color.vision import Vision
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Site


class Series(NamedTuple):
    """What a chart draws in one color: its name as the chart says it, and the site that its color stands at; for one
    without a color of its own, the place of the theme that it follows."""

    name: str
    site: Site


class Chart(NamedTuple):
    """Colors in the order in which they stand beside each other, on a page (its selector); in a `ring` the last stands
    beside the first."""

    page: str
    series: tuple[Series, ...]
    ring: bool = False

    def neighbors(self) -> Iterator[tuple[Series, Series]]:
        """Each two that stand beside each other."""
        yield from zip(self.series, self.series[1:], strict=False)
        if self.ring and len(self.series) > 2:
            yield self.series[-1], self.series[0]

    def alike(self, to: Recoloring) -> Iterator[Alike]:
        """Neighbors that are not told apart after a change."""
        for one, other in self.neighbors():
            first, second = (to.at(*each.site) or each.site.paint.rgb for each in (one, other))
            found = apart(first, second)
            if found.share < 1:
                yield Alike(one, other, (first, second), found)


class Alike(NamedTuple):
    """Two that stand beside each other and look alike: what they became, and how near that is."""

    first: Series
    second: Series
    colors: tuple[Rgb, Rgb]
    how: Apart

    @property
    def said(self) -> str:
        """In words, with what helps."""
        seen = "" if self.how.vision is Vision.USUAL else f" seen in {self.how.vision}"
        least = f"{self.how.distance:.0f} apart{seen}, {LEAST[self.how.vision]:.0f} are needed"
        both = f"“{self.first.name}” and “{self.second.name}”"
        return f"{both} are {least}. Fewer of them, labels on them or another order would help, too."
