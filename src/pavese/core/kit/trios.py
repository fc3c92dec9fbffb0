"""Trios: a title and a graphic that stand together on one ground, all readable and told apart.

They come from approved pairs. Their rank is by variety: each next one is the one least like those before it, so that
whoever takes the first few has different ones.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
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
    found = sorted(
        _of_approved(kit),
        key=lambda trio: (-min(trio.title_ratio, trio.graphic_ratio), str(trio.ground), str(trio.title)),
    )
    return _by_variety(kit, found[:_MOST_RANKED])


def thirds(kit: Kit, ground: Token, title: Token) -> list[tuple[Trio, bool]]:
    """The trios of a ground and a title, those that were approved as trios (True) first, then by contrast."""
    approved = {(one.ground, one.title, one.graphic) for one in kit.trios if one.status is Status.APPROVED}
    found = [
        (trio, (str(ground), str(title), str(trio.graphic)) in approved)
        for trio in _of_approved(kit, str(ground), str(title))
    ]
    return sorted(found, key=lambda one: (not one[1], -one[0].graphic_ratio, str(one[0].graphic)))


def _of_approved(kit: Kit, ground: str | None = None, title: str | None = None) -> Iterator[Trio]:
    """The trios that the approved pairs make, all or those of one ground and one title."""
    approved = {d.pair: d.use for d in kit.decisions if d.status is Status.APPROVED}
    on: dict[str, list[str]] = defaultdict(list)
    for (text, below), use in approved.items():
        if use is not Use.DECORATION and ground in (None, below):
            on[below].append(text)
    colors = {token: kit.resolve(parse_token(token)) for token in {*on, *(t for ts in on.values() for t in ts)}}
    for below, texts in on.items():
        for one in texts if title is None else set(texts) & {title}:
            for graphic in texts:
                if one == graphic or not reads_in(approved, one, graphic, below):
                    continue
                apart = float(ciede2000(*cielab([colors[one], colors[graphic]])))
                if apart >= DISTINCT:
                    yield Trio(
                        parse_token(below),
                        parse_token(one),
                        parse_token(graphic),
                        contrast_ratio(colors[one], colors[below]),
                        contrast_ratio(colors[graphic], colors[below]),
                        apart,
                    )


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
