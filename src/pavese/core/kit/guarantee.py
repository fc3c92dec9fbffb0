"""What steps of one ramp, and of different ones, promise each other, and where a base or a pinned step breaks that."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.ramp import PROMISES, STEPS
from pavese.core.kit.kit import Kit, KitColor


@dataclass(frozen=True)
class Shortfall:
    """A step that misses what it promises (see `ramp.PROMISES`) to one step of some ramps, of its `own` and of others
    by their names; `ratio` is the least that it reaches there."""

    step: int
    against: int
    own: bool
    others: tuple[str, ...]
    ratio: float
    promised: float


def shortfalls(kit: Kit) -> dict[str, tuple[Shortfall, ...]]:
    """For each color, by its key, all that its base or its pinned steps miss against its ramp and those of others."""
    return _shortfalls(kit.colors)


@lru_cache(maxsize=64)
def _shortfalls(colors: tuple[KitColor, ...]) -> dict[str, tuple[Shortfall, ...]]:
    found: dict[str, tuple[Shortfall, ...]] = {}
    for color in colors:
        missed: defaultdict[tuple[int, int, float], dict[str, float]] = defaultdict(dict)
        for step, against, promised, other, ratio in _missed(color, colors):
            missed[step, against, promised][other] = ratio
        found[color.key] = tuple(
            Shortfall(
                step,
                against,
                color.name in others,
                tuple(name for name in others if name != color.name),
                min(others.values()),
                promised,
            )
            for (step, against, promised), others in sorted(missed.items())
        )
    return found


def _missed(color: KitColor, colors: tuple[KitColor, ...]) -> Iterator[tuple[int, int, float, str, float]]:
    ramp = color.ramp
    for step in sorted({ramp.base_step, *ramp.pinned}):
        at = STEPS.index(step)
        for apart, promised in PROMISES:
            for against in (at - apart, at + apart):
                if not 0 <= against < len(STEPS):
                    continue
                for other in colors:
                    ratio = contrast_ratio(ramp.colors[at], other.ramp.colors[against])
                    if ratio < promised:
                        yield step, STEPS[against], promised, other.name, ratio
