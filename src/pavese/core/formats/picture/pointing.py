"""What is done to a picture where a person pointed: things in other colors, and a veil under a headline.

Places are those of the picture as it is seen, upright; colors are worked out in sRGB, and every pixel that does not
change keeps the very values it had.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

from pavese.core.color.srgb import Rgb
from pavese.core.pictures import veil
from pavese.core.pictures.again import Again
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.objects import Sought, Stroke, in_another_color, object_in
from pavese.core.pictures.veil import STEPS, Rectangle, veil_needed, veiled, worst
from pavese.core.recolor.pointed import HeadlineRoom, ObjectColors, PointedAt, Region, Spread

#: How much thicker a veil gets where coding takes away what it gave, each time that it does.
_THICKER = (0, 1, 2, 4, 8, 16, 32, 64)


class Headroom(NamedTuple):
    """What a headline has under it: the least contrast before and after, and how thick the veil is, 0 to 1; None where
    the ink does not read on the veil itself."""

    before: float
    after: float
    thick: float | None


def sought_of(one: PointedAt) -> Sought:
    """What belongs to a thing that was pointed at."""
    return Sought(
        tuple((spot.x, spot.y) for spot in one.spots),
        float(one.hue),
        one.faint / 100,
        one.light / 100,
        one.together,
        tuple(
            Stroke(tuple((spot.x, spot.y) for spot in stroke.points), stroke.width, stroke.adds)
            for stroke in one.strokes
        ),
    )


def with_objects(pixels: Levels, under: Levels, act: ObjectColors, resolved: Mapping[str, Rgb]) -> Levels:
    """A picture with things in other colors; `pixels` are those it came with, in which they are found."""
    made = under
    for one in act.objects:
        found = object_in(pixels, sought_of(one))
        if found is not None and one.color in resolved:
            made = in_another_color(pixels, made, found, resolved[one.color])
    return made


def rectangle(region: Region, shape: tuple[int, ...]) -> Rectangle:
    """The rows and columns of a region, at least one pixel."""
    top, left = (min(int(at * size), size - 1) for at, size in zip((region.top, region.left), shape[:2], strict=True))
    bottom = min(max(round((region.top + region.height) * shape[0]), top + 1), shape[0])
    right = min(max(round((region.left + region.width) * shape[1]), left + 1), shape[1])
    return Rectangle(top, bottom, left, right)


def region_of(found: Again) -> Region:
    """The region where something was found, to a tenth of a thousandth."""
    left, top = round(found.left, 4), round(found.top, 4)
    width, height = min(round(found.width, 4), 1 - left), min(round(found.height, 4), 1 - top)
    return Region(left=left, top=top, width=width, height=height)


def with_headline(
    pixels: Levels, act: HeadlineRoom, resolved: Mapping[str, Rgb], coded: Callable[[Levels, Rectangle], Levels] | None
) -> tuple[Levels, Headroom]:
    """A picture in sRGB with a veil that is as thin as a headline needs to read, and how well it does; `coded` says
    what is read back of a part of it where coding loses something."""
    ink, color = resolved[act.ink], resolved[act.veil]
    region = rectangle(act.region, pixels.shape)
    there = region.of(pixels)
    before, level = worst(there, ink), act.size.level
    spread = {
        Spread.FADING: lambda: veil.fading(pixels.shape, region),
        Spread.PLACE: lambda: veil.only_in(pixels.shape, region),
        Spread.WHOLE: lambda: veil.whole(pixels.shape),
    }[act.spread]()
    needed = veil_needed(there, ink, level, color)
    if needed is None:
        return pixels, Headroom(before, before, None)
    made, after = pixels, before
    for more in _THICKER:
        step = min(needed + more, STEPS)
        made = pixels if step == 0 else veiled(pixels, color, step, spread)
        after = worst(region.of(made) if coded is None else coded(made, region), ink)
        if after >= level or step == STEPS:
            return made, Headroom(before, after, step / STEPS)
    return made, Headroom(before, after, step / STEPS)
