"""Trios: a title and a graphic that stand together on one ground, all readable and told apart.

They come from approved pairs. Their rank is by variety: each next one is the one least like those before it, so that
whoever takes the first few has different ones.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.difference import ciede2000, cielab
from pavese.core.kit.decisions import Status, reads_in
from pavese.core.kit.kit import Kit
from pavese.core.kit.rules import Use
from pavese.core.kit.token import Token, parse_token

#: Title and graphic are told apart at a glance from here on (CIEDE2000).
DISTINCT = 15.0
MOST_TRIOS = 120
#: More than this many candidates are thinned out before they are ranked.
_MOST_RANKED = 1500


@dataclass(frozen=True)
class Trio:
    """One ground with two foregrounds; `apart` is CIEDE2000 between these."""

    ground: Token
    title: Token
    graphic: Token
    title_ratio: float
    graphic_ratio: float
    apart: float


def trios(kit: Kit) -> tuple[Trio, ...]:
    """The trios that the approved pairs make, by variety; at most MOST_TRIOS."""
    approved = {d.pair: d.use for d in kit.decisions if d.status is Status.APPROVED}
    on: dict[str, list[str]] = defaultdict(list)
    for (text, ground), use in approved.items():
        if use is not Use.DECORATION:
            on[ground].append(text)
    colors = {token: kit.resolve(parse_token(token)) for token in {*on, *(t for ts in on.values() for t in ts)}}
    found = []
    for ground, texts in on.items():
        for title in texts:
            for graphic in texts:
                if title == graphic or not reads_in(approved, title, graphic, ground):
                    continue
                apart = float(ciede2000(*cielab([colors[title], colors[graphic]])))
                if apart >= DISTINCT:
                    found.append(
                        Trio(
                            parse_token(ground),
                            parse_token(title),
                            parse_token(graphic),
                            contrast_ratio(colors[title], colors[ground]),
                            contrast_ratio(colors[graphic], colors[ground]),
                            apart,
                        )
                    )
    found.sort(key=lambda trio: (-min(trio.title_ratio, trio.graphic_ratio), str(trio.ground), str(trio.title)))
    return _by_variety(kit, found[:_MOST_RANKED])


def _by_variety(kit: Kit, found: list[Trio]) -> tuple[Trio, ...]:
    """Farthest first: the best readable one, then always the one whose nearest among the chosen is farthest."""
    if not found:
        return ()
    parts = [
        cielab([kit.resolve(part) for part in column])
        for column in (
            [trio.ground for trio in found],
            [trio.title for trio in found],
            [trio.graphic for trio in found],
        )
    ]
    chosen = [0]
    nearest = np.full(len(found), np.inf)
    while len(chosen) < min(len(found), MOST_TRIOS):
        last = chosen[-1]
        # The ground is what is seen first, so it counts as much as both foregrounds together.
        away = sum(weight * ciede2000(part[last], part) for weight, part in zip((2.0, 1.0, 1.0), parts, strict=True))
        nearest = np.minimum(nearest, away)
        nearest[last] = -1
        chosen.append(int(nearest.argmax()))
    return tuple(found[i] for i in chosen)
