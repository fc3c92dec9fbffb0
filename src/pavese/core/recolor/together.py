"""What paints are to each other: which share a drawing, touch, stand on one another or run into one another, and what
it costs when that is lost.

Costs are in squared steps, as in `fitting`. What gives way to what is their order of size: texts that read, paints
that touch and must differ, hue, order of lightness, paints of one drawing that must differ, character.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import NamedTuple

import numpy as np
from scipy.sparse import csr_matrix
from scipy.spatial import KDTree

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, contrast_ratio, luminance, seen_contrast
from pavese.core.color.difference import ciede2000, cielab
from pavese.core.color.oklab import Array, oklab_of, oklch_of
from pavese.core.color.ramp import STEPS_OF_LOG
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.colorfulness import colorfulness, turns
from pavese.core.recolor.inventory import FilePaints
from pavese.core.recolor.near import NEAR_EQUAL, near_equal_in
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.search import Ints, Pairs
from pavese.core.recolor.site import Kind
from pavese.core.recolor.steps import SEEN, STRONG, STRONGEST, Term
from pavese.core.recolor.texts import Part, TextRun

_MERGED, _MERGED_TOUCHING = 90.0, 200.0
_TURNED, _TURNED_ON_RAMP = 90.0, 25.0
#: Two neutrals that end a hair the right way round, and of two ramps: nobody sees which is the lighter.
_LEVEL = 4.5
_UNREAD, _BELOW = 600.0, 160.0
#: Two hues of one drawing on one ramp, shades of one hue on two, neutrals on a colored ramp beside others.
_MELTED, _SCATTERED = 10.0, 8.0
_SPLIT_GRADIENT = 200.0
#: What two paints that hardly are two count beside two that plainly are.
_HARDLY_TWO = 0.8
#: Two that meet along so much of all borders of a picture, as a card and its page do, are two by the eye, however many
#: shades there are.
_BORDERED = 0.02
#: Neighbors in a chart that cannot be told apart.
_ALIKE_IN_CHART = 400.0
_NEAR_APART = 60.0
#: Degrees of hue from which on two paints are of two hues, and up to which they are of one.
_TWO_HUES, _ONE_HUE = (20.0, 40.0), (12.0, 24.0)
#: Beyond so many paints in one drawing, one is only compared with those it touches and with its nearest.
_CROWD, _NEAREST = 120, 40
#: What a pair counts that meets in one of very many files, beside one that always meets.
_RARE = 0.25
#: What the files of the commoner of two colors count in the share in which they meet, beside those of the rarer.
_COMMONER = 0.4
#: What a text that missed a level as it came counts for where it misses it still, beside one that loses it.
_MISSED = 0.5
#: Letters fainter than this on what they stand on are not meant to be read there: words for the list of mails, in the
#: color of their ground, or white ones on a picture where that is not shown.
HIDDEN = 1.4


#: The steps on the way to what see-through letters take.
_THROUGH = (
    (Term.BELOW_TEXT, TEXT),
    (Term.BELOW_ENHANCED, ENHANCED),
    (Term.BELOW_STRONG, STRONG),
    (Term.BELOW_STRONGEST, STRONGEST),
)


@dataclass
class Ties:
    """Pairs of colors that something ties beside that they share a drawing: the longest border they share in any file
    that holds both, the level of contrast that letters are to keep and the one that they need, the contrast of the two
    colors that gives see-through letters what they need, whether they run into one another, whether they stand beside
    each other in a chart, and whether one is faint on the other, and may be letters."""

    borders: dict[tuple[int, int], float]
    levels: dict[tuple[int, int], float]
    needed: dict[tuple[int, int], float]
    opaque: dict[tuple[int, int], float]
    blends: set[tuple[int, int]]
    beside: set[tuple[int, int]]
    faint: set[tuple[int, int]]


_AS_IT_CAME = Recoloring()


class TextLevel(NamedTuple):
    """A text that stands on a paint, or mostly so, and the ratio that it is to keep to what is seen below it: the
    highest level it reaches (WCAG 2.2, 1.4.3 and 1.4.6), and where it reaches none what it has, so that it does not get
    worse. To the paint itself that is `of_paint`, which in a mixture is as much more or less as it is now, and
    `opaque` between the two colors, which is more where the ground is seen through the letters."""

    run: TextRun
    below: Part
    level: float
    of_paint: float
    opaque: float


def text_levels(file: FilePaints, shown_on: Rgb) -> Iterator[TextLevel]:
    """Every text of a file with each of the paints that it stands on."""
    for run in file.measured.texts:
        for below in run.below():
            ratio = min(_ratio(run, came, shown_on) for came, _ in run.grounded(_AS_IT_CAME))
            levels = (TEXT, LARGE) if run.text.large else (ENHANCED, TEXT)
            level = next((level for level in levels if ratio >= level), ratio)
            on = _on(run, below.paint, shown_on)
            seen = seen_contrast(run.text.ink.rgb, run.text.shows, on)
            of_paint = level * (seen / ratio)
            yield TextLevel(run, below, level, of_paint, of_paint * contrast_ratio(run.text.ink.rgb, on) / seen)


def _ratio(run: TextRun, ground: Rgba, shown_on: Rgb) -> float:
    return seen_contrast(run.text.ink.rgb, run.text.shows, _on(run, ground, shown_on))


def _on(run: TextRun, ground: Rgba, shown_on: Rgb) -> Rgb:
    return ground.over(shown_on) if run.ground is not None else ground.rgb


def tied(files: Iterable[FilePaints], row: Mapping[Rgb, int], natural: Collection[Rgb], shown_on: Rgb) -> Ties:
    """What ties colors, by their numbers; a color that has none is left out. What is `natural` stays so: skin and hair,
    which are no letters in a picture, where none are recognized."""
    ties = Ties({}, defaultdict(float), defaultdict(float), defaultdict(float), set(), set(), set())

    def pair(one: Rgba, other: Rgba) -> tuple[int, int] | None:
        first, second = row.get(one.rgb), row.get(other.rgb)
        if first is None or second is None or first == second:
            return None
        return (first, second) if first < second else (second, first)

    for file in files:
        for (one, other), border in file.measured.touching.items():
            if (both := pair(one, other)) is not None:
                ties.borders[both] = max(ties.borders.get(both, 0.0), border)
        for run, below, level, of_paint, opaque in text_levels(file, shown_on):
            if (both := pair(run.text.ink, below.paint)) is None:
                continue
            thing = file.on_pixels and (run.text.ink.rgb in natural or below.paint.rgb in natural)
            if thing or (level < LARGE and (file.on_pixels or run.kind is Kind.PICTURE)):
                # No letters were recognized there: it is kept, and not brought to a level.
                ties.faint.add(both)
            else:
                ties.levels[both] = max(ties.levels[both], of_paint)
                needed = LARGE if run.text.large else TEXT
                ties.needed[both] = max(ties.needed[both], needed)
                if run.text.shows < 1 and level > HIDDEN:
                    ties.opaque[both] = max(ties.opaque[both], opaque * min(needed / level, 1.0))
        neighbors = (both for chart in file.charts for both in chart.neighbors())
        paints = ((one.site.paint, other.site.paint) for one, other in neighbors)
        ties.beside.update(both for one, other in paints if (both := pair(one, other)) is not None)
        ties.blends.update(both for one, other in file.blends if (both := pair(one, other)) is not None)
    return ties


def pairs_of(
    colors: Sequence[Rgb],
    files: Sequence[FilePaints],
    row: Mapping[Rgb, int],
    natural: Collection[Rgb],
    shown_on: Rgb,
) -> Pairs:
    """All pairs of colors that share a drawing, with what they cost where something is lost between them.

    `row` gives the number in `colors` for the color of each paint that is planned; `natural` ones stay as they came.
    """
    ties = tied(files, row, natural, shown_on)
    first, second, share = _meeting(colors, files, row, ties)
    light = np.array([luminance(color) for color in colors]) + 0.05
    turned = light[first] < light[second]
    first, second = np.where(turned, second, first), np.where(turned, first, second)
    near = _near_equal(colors, files, row)
    return Pairs(first, second, _weights(colors, first, second, share, ties, np.log(light) * STEPS_OF_LOG, near))


def _near_equal(colors: Sequence[Rgb], files: Sequence[FilePaints], row: Mapping[Rgb, int]) -> Array:
    """CIEDE2000 below which each color passes for another in all drawings that hold it (`near_equal_in`)."""
    found = np.full(len(colors), np.inf)
    for group in {tuple(sorted({row[paint.rgb] for paint in file.paints if paint.rgb in row})) for file in files}:
        held = list(group)
        found[held] = np.minimum(found[held], near_equal_in([colors[at] for at in held]))
    return found


def _meeting(
    colors: Sequence[Rgb], files: Sequence[FilePaints], row: Mapping[Rgb, int], ties: Ties
) -> tuple[Ints, Ints, Array]:
    """Pairs of numbers, lower first, with the share of their files in which they meet: of a mean of those that hold the
    rarer and the commoner (`_COMMONER`). A color of many files is not bound by one as if it stood there only."""
    held = Counter(tuple(sorted({row[paint.rgb] for paint in file.paints if paint.rgb in row})) for file in files)
    small = [(group, count) for group, count in held.items() if 1 < len(group) <= _CROWD]
    files_of = np.zeros(len(colors))
    for group, count in held.items():
        files_of[list(group)] += count
    met: dict[tuple[int, int], float] = {}
    for group, count in held.items():
        if len(group) > _CROWD:
            numbers = np.array(group)
            near = KDTree(oklab_of([colors[at] for at in group]))
            _, found = near.query(near.data, _NEAREST + 1)
            for at, others in zip(group, numbers[found].tolist(), strict=True):
                for other in others:
                    if other != at:
                        both = (min(at, other), max(at, other))
                        met[both] = met.get(both, 0.0) + count / 2
    for both in (*ties.borders, *ties.levels, *ties.blends, *ties.beside, *ties.faint):
        met.setdefault(both, 0.0)
    if len(small) == 1:
        [(group, count)] = small
        for both in combinations(group, 2):
            met[both] = met.get(both, 0.0) + count
    elif small:
        for one, other, files_with_both in _counted(small, len(colors)):
            met[one, other] = met.get((one, other), 0.0) + files_with_both
    listed = sorted(met)
    ends = np.array(listed, dtype=np.int64).reshape(-1, 2)
    first, second = ends[:, 0], ends[:, 1]
    rarer, commoner = np.minimum(files_of[first], files_of[second]), np.maximum(files_of[first], files_of[second])
    held_by = np.maximum(rarer ** (1 - _COMMONER) * commoner**_COMMONER, 1.0)
    return first, second, np.minimum(np.array([met[both] for both in listed]) / held_by, 1.0)


def _counted(groups: Sequence[tuple[tuple[int, ...], int]], colors: int) -> Iterator[tuple[int, int, float]]:
    """Pairs of numbers, lower first, with the number of files in which both are; a group is given with how many hold
    it."""
    which = np.repeat(np.arange(len(groups)), [len(group) for group, _ in groups])
    members = np.concatenate([np.array(group) for group, _ in groups])
    inside = csr_matrix((np.ones(len(members)), (which, members)), shape=(len(groups), colors))
    counts = inside.multiply(np.array([[float(count)] for _, count in groups]))
    both = (inside.T @ counts).tocoo()
    upper = both.row < both.col
    yield from zip(both.row[upper].tolist(), both.col[upper].tolist(), both.data[upper].tolist(), strict=True)


def _weights(
    colors: Sequence[Rgb], first: Ints, second: Ints, share: Array, ties: Ties, dark: Array, near_equal: Array
) -> Array:
    lch, lab = oklch_of(colors) if colors else np.zeros((0, 3)), cielab(colors)
    apart = ciede2000(lab[first], lab[second])
    hued = colorfulness(lch)
    one, other = hued[first], hued[second]
    turn = turns(lch[first, 2], lch[second, 2])
    gap = np.abs(dark[first] - dark[second])
    keys = list(zip(np.minimum(first, second).tolist(), np.maximum(first, second).tolist(), strict=True))
    border = np.array([ties.borders.get(both, 0.0) for both in keys])
    level = np.array([ties.levels.get(both, 0.0) for both in keys])
    wanted = np.array([ties.needed.get(both, 0.0) for both in keys])
    opaque = np.array([ties.opaque.get(both, 0.0) for both in keys])
    blend = np.array([both in ties.blends for both in keys], dtype=bool)
    beside = np.array([both in ties.beside for both in keys], dtype=bool)
    faint = np.array([both in ties.faint for both in keys], dtype=bool)
    touches = border > 0
    counts = _RARE + (1 - _RARE) * share
    for_one = np.where(border < _BORDERED, np.minimum(near_equal[first], near_equal[second]), NEAR_EQUAL)
    near = apart < for_one

    found = np.zeros((len(first), len(Term)))
    # Paints that hardly differ may come near each other, those that plainly do may not.
    plainly = np.clip((apart - for_one) / for_one, _HARDLY_TWO, 1.0)
    found[:, Term.MERGED] = np.where(near, 0.0, plainly * np.where(touches, _MERGED_TOUCHING, _MERGED))
    found[:, Term.APART] = np.where(near, _NEAR_APART, 0.0)
    seen = np.where(gap < SEEN, 0.0, np.clip((gap - SEEN) / 0.8, 0.25, 1.0))
    found[:, Term.TURNED] = _TURNED * seen * np.where(touches | blend, 1.3, 1.0)
    found[:, Term.LEVEL] = _LEVEL * seen * (1 - one) * (1 - other)
    found[:, Term.TURNED_ON_RAMP] = _TURNED_ON_RAMP * np.maximum(seen, np.where(gap > 0.02, 0.3, 0.0))
    ratio = np.exp(gap / STEPS_OF_LOG)
    found[:, Term.BELOW_LARGE] = np.where(
        touches & (ratio >= LARGE), _BELOW * (0.6 + 0.4 * np.minimum(4 * border, 1)), 0
    )
    for term, needed in ((Term.BELOW_LARGE, LARGE), (Term.BELOW_TEXT, TEXT), (Term.BELOW_ENHANCED, ENHANCED)):
        found[:, term] += np.where(level >= needed, _UNREAD * (0.2 if needed == ENHANCED else 1.0), 0.0)
        if needed != ENHANCED:
            # What misses a level is brought to it rather than away from it.
            missed = (level > HIDDEN) & (level < needed) & (wanted >= needed)
            found[:, term] += np.where(missed, _UNREAD * _MISSED, 0.0)
    for term, needed in _THROUGH:
        found[:, term] = np.maximum(found[:, term], np.where(opaque >= needed, _UNREAD, 0.0))
    found[:, Term.BELOW_FAINT] = np.where(faint, _BELOW, 0.0)
    found[:, Term.BESIDE] = np.where(beside, _ALIKE_IN_CHART, 0.0)
    both_hued, both_quiet = one * other, (1 - one) * (1 - other)
    of_two = np.clip((turn - _TWO_HUES[0]) / (_TWO_HUES[1] - _TWO_HUES[0]), 0, 1)
    of_one = np.clip((_ONE_HUE[1] - turn) / (_ONE_HUE[1] - _ONE_HUE[0]), 0, 1)
    found[:, Term.ONE_RAMP] = _MELTED * both_hued * of_two
    found[:, Term.TWO_RAMPS] = _SCATTERED * (both_hued * of_one + 0.5 * both_quiet)
    # Stops of one gradient stay on one ramp, but for one that runs from one hue into another.
    found[:, Term.TWO_RAMPS] += np.where(blend & (both_hued > 0.1) & (turn < _TWO_HUES[1]), _SPLIT_GRADIENT, 0.0)
    found *= counts[:, None]
    return found
