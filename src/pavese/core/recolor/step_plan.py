"""Paints to steps of the kit, for a whole set and then file by file where that loses something in a drawing."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from pavese.core.color.contrast import LARGE, TEXT, WHITE, contrast_ratio, contrast_table
from pavese.core.color.difference import SAME, ciede2000, cielab, differences
from pavese.core.color.naming import describe
from pavese.core.color.oklab import Array, oklch_of
from pavese.core.color.ramp import STEPS, step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, members
from pavese.core.recolor.colorfulness import colorfulness, loses_its_hue, of_its_hue, turns
from pavese.core.recolor.ends import anchors, end_of
from pavese.core.recolor.family_ramps import QUIET
from pavese.core.recolor.fitting import fit
from pavese.core.recolor.inventory import FilePaints, SetPaints
from pavese.core.recolor.losses import Loss, NumberedLevel, levels_by_number, ratio, worst_loss
from pavese.core.recolor.near import NEAR_EQUAL, leaders
from pavese.core.recolor.plan import Choice
from pavese.core.recolor.search import BRIEF, THOROUGH, Pairs, Problem, Search
from pavese.core.recolor.site import Kind
from pavese.core.recolor.steps import SEEN, Step, Term, step_of, tables
from pavese.core.recolor.texts import BARE
from pavese.core.recolor.together import pairs_of

#: The paint that covers most counts this much more than one that covers nothing: what must go elsewhere is small.
_HEAVY = 2.0
#: The white of drawings goes where the kit's does, their black too, more surely than one text reads: that can give way.
_ANCHORED = 1000.0
#: What is of the kit already stays, unless that costs a text.
_STAYS = 120.0
#: What is not in the theme of a deck already: a little nearer is not worth a color that follows nothing.
_OFF_THEME = 1.5
#: Colored paints keep off the ramps of backgrounds and texts, neutral ones off the others.
_OUT_OF_ROLE = 4.0
_OFF_GROUND = 60.0
#: The kit's background is its white, also where it is a cream: what is plainly lighter looks the wrong way round there.
_LIGHTER_THAN_WHITE = 20.0
#: A backing is there for the figure to stand out from: whatever it takes.
_OFF_BACKING = 4000.0
#: What it takes for a paint to leave in one file what it is in all others.
_EXCEPTION = 25.0
#: So many colors of one drawing can be sought for as thoroughly as for an exception.
_FEW = 100
#: So many drawings of one set are sought for by themselves, worst first, so that planning ends in seconds whatever it
#: is given; what is lost in others is told by `doubts`.
_MOST_FILES = 400
#: What it may cost to keep two colors of one drawing apart: more the more they differ in CIEDE2000, and whatever it
#: takes from the second of these on.
_WORTH, _PLAINLY_TWO = 20.0, 20.0
#: Steps of lightness up to which a color goes away from its own to be kept apart: a yellow that ends as dark as a brown
#: is no yellow. What a step of a hue beside its own may cost more than the one that it shares.
_AWAY, _OTHER_HUE = 3.0, 160.0
#: Steps of lightness up to which a color that stands binds others to its order wholly, and from which on it does not:
#: where a rule made a light one dark, all that was darker would end at the dark end.
_IN_ORDER, _OUT_OF_ORDER = 1.5, 3.5
_ORDER = [Term.TURNED, Term.TURNED_ON_RAMP, Term.LEVEL]
#: What it may cost to keep a level that a step beside it keeps.
_REGAINED = 100.0
_IN_THIS_FILE = "in this file only: with the target it has in the others something would be lost here"


@dataclass(frozen=True)
class Sought:
    """What is to be planned: distinct open colors with their weights and the hues they are to have (degrees), and what
    `standing` colors have become already; `wanted` tells where on the scale of steps colors are to stand.

    `fixed` are those of them that no file may make an exception of. `only` is the one ramp that may be used, if one.
    `backed` says that `ground` is a backing. Some colors are `preferred` to others that fit a little better.
    """

    colors: tuple[Rgb, ...]
    weights: tuple[float, ...]
    wanted: Callable[[Sequence[Rgb]], Array]
    aims: Array
    paints: SetPaints
    kit: Kit
    standing: Mapping[Rgb, Rgb]
    fixed: frozenset[Rgb]
    ground: Rgb
    backed: bool
    only: str | None = None
    preferred: frozenset[Rgb] = frozenset()

    @cached_property
    def steps(self) -> tuple[Step, ...]:
        """Each color of the kit once, under the first token that gives it."""
        groups = {color.key: "quiet" if color.role in QUIET else color.key for color in self.kit.colors}
        ramps = {color.key: color.ramp for color in self.kit.colors}
        found: dict[Rgb, Step] = {}
        for token, color in self.kit.tokens():
            if self.only is None or token.color == self.only:
                place = ramps[token.color].base_index if token.step is None else STEPS.index(token.step)
                found.setdefault(color, step_of(token, color, groups[token.color], place))
        return tuple(found.values())

    @cached_property
    def natural(self) -> frozenset[Rgb]:
        """Natural tones of pictures, where they stay as they came."""
        if not any(file.on_pixels for file in self.paints.files):
            return frozenset()
        return frozenset(color for color in self.paints.natural if self.standing.get(color) == color)

    @cached_property
    def unseen(self) -> frozenset[Rgb]:
        """What only stands in places of themes: no color is beside it."""
        kinds: dict[Rgb, set[Kind]] = defaultdict(set)
        for use in self.paints.uses:
            kinds[use.paint.rgb].update(use.kinds)
        return frozenset(color for color, found in kinds.items() if found == {Kind.THEME})

    @cached_property
    def row(self) -> Mapping[Rgb, int]:
        """The number of each color."""
        return {color: at for at, color in enumerate(self.colors)}


@dataclass(frozen=True)
class StepPlan:
    """The choice for each color, and exceptions by file, for colors that would be lost there."""

    choices: Mapping[Rgb, Choice]
    files: Mapping[str, Mapping[Rgb, Choice]]


def step_plan(sought: Sought) -> StepPlan:
    """A step for each color of a set. Deterministic."""
    return _Planner(sought).planned()


class _Planner:
    def __init__(self, sought: Sought) -> None:
        self._sought = sought
        self._steps = sought.steps
        self._at_step = {one.color: at for at, one in enumerate(self._steps)}
        order = sorted(range(len(sought.colors)), key=lambda at: (-sought.weights[at], sought.colors[at]))
        own = members(sought.kit)
        self._leads = leaders(
            sought.colors, order, frozenset(color for color in sought.colors if color in own), sought.paints.rows
        )
        self._order = [at for at in order if self._leads[at] == at]
        self._steps_lch = oklch_of([one.color for one in self._steps])
        self._positions = np.array([one.position for one in self._steps])
        white = anchors(sought.kit).get(0)
        self._lighter_than_white = np.array(
            [white is not None and step_position(one.color) < step_position(white.base) - SEEN for one in self._steps]
        )
        self._wanted = sought.wanted(sought.colors)
        self._same = differences(sought.colors, [one.color for one in self._steps]) < SAME
        self._fit = self._fitted()

    def planned(self) -> StepPlan:
        found = self._for_set()
        at = {color: found[self._leads[row]] for color, row in self._sought.row.items()}
        return StepPlan(self._choices(at), self._for_files(at))

    # What suits a color by itself ------------------------------------------------------------------------------------

    def _fitted(self) -> Array:
        """What each step costs each color, whatever else is in its drawings; shape (colors, steps)."""
        sought = self._sought
        cost = self._fit_of(sought.colors, sought.aims)
        heavy = np.sqrt(np.array(sought.weights) / max(sought.weights, default=1.0))[:, None]
        cost *= 1 + _HEAVY * heavy
        self._anchor(cost)
        if sought.preferred:
            cost += np.array([_OFF_THEME * (one.color not in sought.preferred) for one in self._steps])
        cost = np.where(self._same, -_STAYS, cost)
        return np.asarray(cost + self._against_ground(sought.row, sought.paints.by_file))

    def _fit_of(self, colors: Sequence[Rgb], aims: Array) -> Array:
        """How each step suits each color by itself; shape (colors, steps)."""
        lch, hued = oklch_of(colors), self._sought.only is None
        cost = fit(lch, self._sought.wanted(colors), aims, self._steps_lch, self._positions, hued=hued)
        if hued:
            colored = colorfulness(lch)[:, None]
            quiet = np.array([one.ramp_group == "quiet" for one in self._steps])
            cost += _OUT_OF_ROLE * np.where(quiet, colored, 1 - colored)
            cost += _LIGHTER_THAN_WHITE * self._lighter_than_white
        return cost

    def _anchor(self, cost: Array) -> None:
        """The commonest white goes where the kit's background is, the commonest black to its dark text."""
        for paint, base in self._ends.items():
            at = self._sought.row[paint]
            cost[[at, self._leads[at]], self._at_step[base]] -= _ANCHORED

    @cached_property
    def _ends(self) -> Mapping[Rgb, Rgb]:
        """The commonest white and the commonest black, with the base of the kit that takes it."""
        files = {use.paint.rgb: use.files for use in reversed(self._sought.paints.uses)}
        found: dict[Rgb, Rgb] = {}
        if self._sought.only is not None or self._sought.backed:
            return found
        for end, color in anchors(self._sought.kit).items():
            ends = [at for at, paint in enumerate(self._sought.colors) if end_of(paint) == end]
            if ends and color.base in self._at_step:
                colors, weights = self._sought.colors, self._sought.weights
                commonest = max(ends, key=lambda at: (files.get(colors[at], 0), weights[at], colors[at]))
                found[colors[commonest]] = color.base
        return found

    def _against_ground(self, row: Mapping[Rgb, int], files: Sequence[FilePaints]) -> Array:
        """What each step costs each color, by its number, for its contrast to what drawings are shown on, and of an ink
        to what stays as it is below it."""
        sought = self._sought
        ratios = self._ratios([sought.ground], 1.0)
        cost = np.zeros((len(row), len(self._steps)))
        for color in {paint.rgb for file in files for paint in file.measured.outline} & row.keys():
            if sought.backed or contrast_ratio(color, WHITE) >= LARGE:
                cost[row[color]] += (_OFF_BACKING if sought.backed else _OFF_GROUND) * (ratios < LARGE)
        for run in (run for file in files for run in file.measured.texts):
            at = row.get(run.text.ink.rgb)
            level = LARGE if run.text.large else TEXT
            if at is None:
                continue
            stays = [one.color for one in run.planned_on if one.parts == ()]
            if run.ground == BARE and ratio(run.text.ink.rgb, WHITE, run.text.shows) >= level:
                cost[at] = np.maximum(cost[at], _OFF_BACKING * (self._ratios([sought.ground], run.text.shows) < level))
            if stays and min(ratio(run.text.ink.rgb, one, run.text.shows) for one in stays) >= level:
                cost[at] = np.maximum(cost[at], _OFF_BACKING * (self._ratios(stays, run.text.shows) < level))
        return cost

    def _ratios(self, grounds: Sequence[Rgb], shows: float) -> Array:
        """The least contrast of letters in the color of each step to some grounds."""
        steps = [one.color for one in self._steps]
        if shows >= 1:
            return np.asarray(contrast_table(grounds, steps).min(axis=0))
        return np.array([min(ratio(one, ground, shows) for ground in grounds) for one in steps])

    # The whole set ---------------------------------------------------------------------------------------------------

    def _for_set(self) -> Mapping[int, int]:
        """The step of each color that leads, by their numbers."""
        sought = self._sought
        number = {at: place for place, at in enumerate(sorted(self._order))}
        free = [sought.colors[at] for at in number]
        kept = {color: sought.standing[color] for color in sorted(sought.standing) if color not in sought.unseen}
        row = {color: number[self._leads[at]] for color, at in sought.row.items()}
        row |= {color: len(free) + place for place, color in enumerate(kept)}
        pairs = pairs_of([*free, *kept], sought.paints.by_file, row, sought.natural, WHITE)
        order = tuple(number[at] for at in self._order)
        problem = self._problem(self._fit[list(number)], pairs, kept, order)
        alone = len(sought.paints.by_file) == 1
        search = Search(problem, THOROUGH if alone and len(free) < _FEW else BRIEF)
        search.place()
        search.settle()
        if alone:
            weights = [sought.weights[at] for at in number]
            levels = levels_by_number(sought.paints.by_file[0], sought.ground, row)
            self._keep_apart(search, free, weights, list(kept.values()), levels)
        found = search.at.tolist()
        return {at: found[place] for at, place in number.items()}

    def _problem(self, cost: Array, pairs: Pairs, kept: Mapping[Rgb, Rgb], order: tuple[int, ...]) -> Problem:
        """What is sought for colors by their `cost`, beside `kept` ones as what they are now, whose numbers follow."""
        free = len(cost)
        shown = [self._step_of(color) for color in kept.values()]
        pairs = self._bound(pairs, free, list(kept), shown)
        inner = (pairs.first < free) & (pairs.second < free)
        inside = Pairs(pairs.first[inner], pairs.second[inner], pairs.weights[inner])
        return Problem(self._steps, cost + _beside_kept(pairs, free, self._steps, shown), inside, order)

    def _bound(self, pairs: Pairs, free: int, kept: Sequence[Rgb], shown: Sequence[Step]) -> Pairs:
        """The pairs, but that a color which went far from its own lightness binds no other to their order."""
        if not kept:
            return pairs
        astray = np.abs(self._sought.wanted(kept) - np.array([one.position for one in shown]))
        binds = np.concatenate([np.ones(free), np.interp(astray, [_IN_ORDER, _OUT_OF_ORDER], [1.0, 0.0])])
        weights = pairs.weights.copy()
        weights[:, _ORDER] *= np.minimum(binds[pairs.first], binds[pairs.second])[:, None]
        return Pairs(pairs.first, pairs.second, weights)

    def _step_of(self, color: Rgb) -> Step:
        """The step that a color is; one that is none of the kit stands for itself."""
        at = self._at_step.get(color)
        return step_of(None, color, color.hex) if at is None else self._steps[at]

    # File by file ----------------------------------------------------------------------------------------------------

    def _for_files(self, at: Mapping[Rgb, int]) -> dict[str, dict[Rgb, Choice]]:
        """What single files need else, lest two of their paints become one, or one of them cannot be told or read."""
        became = {**self._sought.standing, **{color: self._steps[step].color for color, step in at.items()}}
        files = self._sought.paints.files
        if len(files) == 1:
            return {}
        # What a picture inside of a file shares with all else in it does not go its own way there.
        parts = Counter((file.name, color) for file in files for color in {paint.rgb for paint in file.paints})
        shared: dict[str, set[Rgb]] = defaultdict(set)
        for (name, color), count in parts.items():
            if count > 1:
                shared[name].add(color)
        alike: dict[object, list[FilePaints]] = defaultdict(list)
        for file in files:
            bound = frozenset(shared[file.name]) if file.name in shared else frozenset()
            alike[file.paints, tuple(file.measured.touching.items()), file.measured.texts, bound].append(file)
        groups = list(alike.values())
        losses = [worst_loss(group[0], became, self._sought.ground) for group in groups]
        losing = [number for number, loss in enumerate(losses) if loss > Loss.NOTHING]
        found: dict[str, dict[Rgb, Choice]] = {}
        for number in sorted(losing, key=lambda number: -losses[number])[:_MOST_FILES]:
            first = groups[number][0]
            if exceptions := self._for_file(first, became, shared.get(first.name, set())):
                for file in groups[number]:
                    found.setdefault(file.name, {}).update(exceptions)
        return found

    def _for_file(self, file: FilePaints, became: Mapping[Rgb, Rgb], bound: Collection[Rgb]) -> dict[Rgb, Choice]:
        """What one file needs else: its own colors sought anew, but for those that are `bound`, each as near as can be
        to what it is in the set. All of them may move: what mends a text and turns the order of the rest is no gain."""
        sought = self._sought
        fixed = sought.fixed.union(bound)
        colors = sorted({paint.rgb for paint in file.paints if paint.rgb in became})
        free = [color for color in colors if color not in fixed and became[color] in self._at_step]
        kept = {color: became[color] for color in colors if color not in set(free)}
        row = {color: at for at, color in enumerate([*free, *kept])}
        if not free:
            return {}
        pairs = pairs_of([*free, *kept], [file], row, sought.natural, WHITE)
        start = np.array([self._at_step[became[color]] for color in free], dtype=np.int64)
        cost = self._fit_of(free, oklch_of([became[color] for color in free])[:, 2]) + _EXCEPTION
        areas = {paint.rgb: area for paint, area in file.measured.areas.items()}
        weights = [areas.get(color, 0.0) for color in free]
        ends = np.array([self._ends.get(color) == became[color] for color in free])
        cost[np.arange(len(free)), start] -= _EXCEPTION + _ANCHORED * ends * np.square(weights)
        cost += self._against_ground({color: at for at, color in enumerate(free)}, [file])
        # The smallest give way first.
        order = tuple(sorted(range(len(free)), key=lambda at: (weights[at], free[at])))
        search = Search(self._problem(cost, pairs, kept, order), THOROUGH)
        search.stand(start)
        search.settle()
        levels = levels_by_number(file, sought.ground, row)
        self._keep_apart(search, free, weights, list(kept.values()), levels)
        found = search.at.tolist()
        return {
            color: Choice(target=str(self._steps[step].token), reason=_IN_THIS_FILE)
            for color, step, was in zip(free, found, start.tolist(), strict=True)
            if step != was
        }

    def _keep_apart(
        self,
        search: Search,
        free: Sequence[Rgb],
        weights: Sequence[float],
        kept: Sequence[Rgb],
        levels: Mapping[int, Collection[NumberedLevel]],
    ) -> None:
        """Gives colors of one drawing that would plainly be one a step that nothing else in it has, while there is one
        by which none of the `levels` is lost; then those that lose one a step by which they do not, as letters that
        did not read and would read worse. What covers least moves."""
        lab = cielab(free)
        order = sorted(range(len(free)), key=lambda at: (weights[at], free[at]))
        used = {*search.at.tolist(), *(self._at_step[color] for color in kept if color in self._at_step)}
        fits = self._of_its_own(free)
        moved = len(used) < len(free) + len(set(kept))
        while moved and len(used) < len(self._steps):
            moved = False
            for one in order:
                beside = np.flatnonzero(search.at == search.at[one])
                apart = float(ciede2000(lab[one], lab[beside]).max()) if len(beside) > 1 else 0.0
                if apart < NEAR_EQUAL:
                    continue
                pays = [(rise, step) for rise, step in fits(search, one) if step not in used and rise < _worth(apart)]
                now = self._lost(search, kept, levels, one, search.at[one]) if pays else 0
                best = next((step for _, step in pays if self._lost(search, kept, levels, one, step) <= now), None)
                if best is not None:
                    search.put(one, best)
                    used.add(best)
                    moved = True
        for one in order:
            if now := self._lost(search, kept, levels, one, search.at[one]):
                left = [(rise, step) for rise, step in fits(search, one) if step not in used and rise < _REGAINED]
                gains = [(self._lost(search, kept, levels, one, step), rise, step) for rise, step in left]
                fewest, _, best = min(gains, default=(now, 0.0, 0))
                if fewest < now:
                    search.put(one, best)
                    used.add(best)

    def _of_its_own(self, free: Sequence[Rgb]) -> Callable[[Search, int], list[tuple[float, int]]]:
        """Gives the steps of the hue of a color, or of one beside it that is nearly as good, that are nearly as light
        as it is to be; by what it costs more to go there."""
        lch = oklch_of(free)
        wanted = np.clip(self._sought.wanted(free), 0, len(STEPS) - 1)
        near = np.abs(self._positions - wanted[:, None]) <= _AWAY
        of_hue, hueless = of_its_hue(lch, self._steps_lch), loses_its_hue(lch, self._steps_lch)

        def fits(search: Search, one: int) -> list[tuple[float, int]]:
            rises = search.sums[one] - search.sums[one, search.at[one]]
            own = near[one] & (of_hue[one] | ~hueless[one] & (rises < _OTHER_HUE))
            return sorted((round(float(rises[step]), 6), step) for step in np.flatnonzero(own).tolist())

        return fits

    def _lost(
        self, search: Search, kept: Sequence[Rgb], levels: Mapping[int, Collection[NumberedLevel]], one: int, step: int
    ) -> int:
        """How many of its levels a color loses on a step, beside what the others are now."""
        free = len(search.at)

        def became(other: int) -> Rgb:
            return (
                kept[other - free] if other >= free else self._steps[step if other == one else search.at[other]].color
            )

        own = levels.get(one, ())
        return sum(ratio(became(first), became(then), shows) < level for first, then, level, shows in own)

    # What is said ----------------------------------------------------------------------------------------------------

    def _choices(self, at: Mapping[Rgb, int]) -> dict[Rgb, Choice]:
        sought = self._sought
        colors = sought.colors
        steps = [self._steps[at[color]] for color in colors]
        lch, own = oklch_of(colors), oklch_of([one.color for one in steps])
        hued = colorfulness(lch)
        of_hue = turns(sought.aims, own[:, 2]) <= 30
        off = np.abs(np.array([one.position for one in steps]) - np.clip(self._wanted, 0, len(STEPS) - 1))
        found: dict[Rgb, Choice] = {}
        for row, (color, step) in enumerate(zip(colors, steps, strict=True)):
            assert step.token is not None
            goal = sought.kit.color(step.token.color)
            leader = colors[self._leads[row]]
            away = f", {off[row]:.0f} steps off to stay apart from what it meets" if off[row] > 1.5 else ""
            if self._same[row, at[color]]:
                reason = "it is this color of the kit already"
            elif leader != color:
                reason = f"hardly differs from {leader.hex} and goes with it"
            elif sought.only is not None:
                reason = f"{describe(color)}: as light as it was, in {goal.name}{away}"
            elif hued[row] < 0.5:
                role = f"{goal.name} is the kit's {goal.role.value}"
                reason = f"{describe(color)}: a neutral of this lightness; {role}{away}"
            elif of_hue[row]:
                reason = f"{describe(color)}: same hue and lightness as {goal.name}{away}"
            else:
                reason = f"{describe(color)}: the kit has no color of this hue; {goal.name} is nearest{away}"
            found[color] = Choice(target=str(step.token), reason=reason)
        return found


def _beside_kept(pairs: Pairs, free: int, steps: Sequence[Step], kept: Sequence[Step]) -> Array:
    """What each step costs each free color beside the colors that stand, whose numbers follow; shape (free, steps)."""
    cost = np.zeros((free, len(steps)))
    shown = list(dict.fromkeys(kept))
    place = np.array([shown.index(one) for one in kept], dtype=np.int64)
    for lighter in (True, False):
        mine, theirs = (pairs.first, pairs.second) if lighter else (pairs.second, pairs.first)
        mixed = np.flatnonzero((mine < free) & (theirs >= free))
        if not len(mixed):
            continue
        lost = _lost_beside(tuple(steps), tuple(shown), lighter, pairs.charts)
        for at in mixed.tolist():
            cost[mine[at]] += pairs.weights[at] @ lost[place[theirs[at] - free]]
    return cost


@lru_cache(maxsize=256)
def _lost_beside(steps: tuple[Step, ...], shown: tuple[Step, ...], lighter: bool, charts: bool) -> Array:
    """What a paint loses on each step beside one that stands, shape (standing, terms, steps); kept since the files of a
    set often keep the same tones."""
    if lighter:
        return tables(steps, shown, charts=charts).transpose(2, 0, 1)
    return tables(shown, steps, charts=charts).transpose(1, 0, 2)


def _worth(apart: float) -> float:
    """What may be lost elsewhere, in squared steps, to keep two colors apart that differ so much in CIEDE2000."""
    return _WORTH * (1 + apart - NEAR_EQUAL) if apart < _PLAINLY_TWO else np.inf
