"""What a drawing would lose with the colors that its set gives it: texts that read, borders that are seen, colors that
are two, gradients that run one way.
"""

from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping
from enum import IntEnum
from functools import lru_cache
from itertools import chain
from typing import NamedTuple

from pavese.core.color.contrast import LARGE, seen_contrast
from pavese.core.color.ramp import step_position
from pavese.core.color.srgb import Rgb
from pavese.core.recolor.borders import LEAST_BORDER
from pavese.core.recolor.inventory import FilePaints
from pavese.core.recolor.near import became_one
from pavese.core.recolor.steps import SEEN
from pavese.core.recolor.together import text_levels


class Loss(IntEnum):
    """The worst that is lost in a drawing."""

    NOTHING = 0
    SHADING = 1
    DISTINCT = 2
    CONTRAST = 3
    TEXT = 4


class _Level(NamedTuple):
    """Two colors of a drawing, and the contrast that they are to keep; `shows` is how much the first hides of the
    second, where that is seen through it."""

    one: Rgb
    other: Rgb
    level: float
    shows: float = 1.0


class NumberedLevel(NamedTuple):
    """The same by the numbers of the colors."""

    one: int
    other: int
    level: float
    shows: float


def worst_loss(file: FilePaints, became: Mapping[Rgb, Rgb], ground: Rgb) -> Loss:
    """Whether a text or touching paints lose the level of contrast they had, two paints become one, or a gradient runs
    the other way."""
    if any(_fallen(_text_levels(file, ground), became)):
        return Loss.TEXT
    if any(_fallen(_border_levels(file), became)):
        return Loss.CONTRAST
    if any(became_one({paint.rgb: became[paint.rgb] for paint in file.paints if paint.rgb in became})):
        return Loss.DISTINCT
    if any(_turned(one.rgb, other.rgb, became) for one, other in file.blends):
        return Loss.SHADING
    return Loss.NOTHING


def levels_by_number(file: FilePaints, ground: Rgb, row: Mapping[Rgb, int]) -> Mapping[int, Collection[NumberedLevel]]:
    """What the colors of a drawing, by their numbers, keep to others: the contrast that a text, or a border, has."""
    found: defaultdict[int, set[NumberedLevel]] = defaultdict(set)
    for one, other, level, shows in chain(_text_levels(file, ground), _border_levels(file)):
        if one in row and other in row and row[one] != row[other] and ratio(one, other, shows) >= level:
            kept = NumberedLevel(row[one], row[other], level, shows)
            found[kept.one].add(kept)
            found[kept.other].add(kept)
    return found


@lru_cache(maxsize=65_536)
def ratio(one: Rgb, other: Rgb, shows: float) -> float:
    """The contrast that is seen; kept, since a set has few pairs, in thousands of files."""
    return seen_contrast(one, shows, other)


def _text_levels(file: FilePaints, ground: Rgb) -> Iterator[_Level]:
    for one in text_levels(file, ground):
        yield _Level(one.run.text.ink.rgb, one.below.paint.rgb, one.of_paint, one.run.text.shows)


def _border_levels(file: FilePaints) -> Iterator[_Level]:
    borders = file.measured.touching.items()
    return (_Level(one.rgb, other.rgb, LARGE) for (one, other), share in borders if share >= LEAST_BORDER)


def _fallen(levels: Iterable[_Level], became: Mapping[Rgb, Rgb]) -> Iterator[bool]:
    """Of each two colors that have become others, whether they reached their level and do not any more."""
    return (
        ratio(one, other, shows) >= level > ratio(became[one], became[other], shows)
        for one, other, level, shows in levels
        if one in became and other in became
    )


def _turned(one: Rgb, other: Rgb, became: Mapping[Rgb, Rgb]) -> bool:
    """Whether two stops that follow each other run the other way."""
    if one not in became or other not in became:
        return False
    was = step_position(one) - step_position(other)
    now = step_position(became[one]) - step_position(became[other])
    return abs(was) >= SEEN and abs(now) >= SEEN and (was > 0) != (now > 0)
