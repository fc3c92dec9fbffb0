"""The plain way that anyone would try first: every color replaced by the nearest of the kit."""

from __future__ import annotations

from collections.abc import Callable

from pavese.core.color.difference import differences
from pavese.core.kit.kit import Kit
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import SetPaints

#: What becomes of a file, by its name.
Way = Callable[[str], Changes]


def nearest_colors(paints: SetPaints, kit: Kit) -> Way:
    """The same for every file."""
    own = [color for _, color in kit.tokens()]
    colors = [use.paint for use in paints.uses]
    nearest = differences([paint.rgb for paint in colors], own).argmin(axis=1)
    to = {paint: own[at] for paint, at in zip(colors, nearest.tolist(), strict=True)}
    return lambda _: Changes.of(to)
