"""What in a plan deserves a look, worst first, each with the reason and remedies that are one press away."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from functools import lru_cache
from itertools import permutations

import numpy as np

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, contrast_ratio, seen_contrast, shown
from pavese.core.color.difference import difference, differences
from pavese.core.color.naming import describe
from pavese.core.color.neighbors import shares
from pavese.core.color.oklab import lch_of, oklch_of
from pavese.core.color.ramp import STEPS, step_position
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.recolor.borders import lost_borders
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.charts import Chart
from pavese.core.recolor.colorfulness import colorfulness, hue_seen, turns
from pavese.core.recolor.figure_contrast import figure_contrast
from pavese.core.recolor.inventory import FilePaints, SetPaints
from pavese.core.recolor.natural import natural_tone
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.reading import reading
from pavese.core.recolor.recipe import Mode
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import OUTER, Kind
from pavese.core.recolor.target import KEEP, label, ramp_of
from pavese.core.recolor.together import text_levels

#: How many are told.
MOST = 12
#: Degrees from which on a vivid paint has lost its hue, and the colorfulness from which on it is vivid.
_LOST, _VIVID = 45.0, 0.9
#: Below this a result shows no hue.
_NO_HUE = 0.5
#: CIEDE2000 from which on two paints that became one are missed.
_TWO = 5.0
#: Of charts with more series it is not tried in which other order they are told apart.
_MOST_ORDERED = 7


class DoubtKind(StrEnum):
    """What may be wrong, worst first."""

    UNREAD = "a text does not read"
    BELOW = "a pair fell below 3:1"
    SERIES = "neighbors in a chart look alike"
    SINKS = "a figure sinks into its ground"
    SKIN = "may be skin"
    HUE = "a hue could not be kept"
    MELTED = "two paints became one"
    SIDES = "sides show on a phone"


@dataclass(frozen=True)
class Remedy:
    """Some paints (keys) with the target of each, in one file or in all."""

    title: str
    targets: Mapping[str, str]
    file: str | None = None


@dataclass(frozen=True)
class Doubt:
    """What may be wrong with some paints (keys), in which files, why, and what would help. `weight` orders those of one
    kind."""

    kind: DoubtKind
    paints: tuple[str, ...]
    files: tuple[str, ...]
    reason: str
    remedies: tuple[Remedy, ...]
    weight: float


@dataclass
class _Found:
    """The files in which one thing was found, the worst figure, and how much of them it is."""

    files: list[str] = field(default_factory=list)
    before: float = 0.0
    after: float = 99.0
    level: float = 0.0
    weight: float = 0.0

    def add(self, file: str, weight: float, before: float = 0.0, after: float = 0.0, level: float = 0.0) -> None:
        self.files.append(file)
        self.weight += weight
        if after < self.after:
            self.before, self.after, self.level = before, after, level


def doubts(paints: SetPaints, plan: Plan, kit: Kit, shown_on: Rgb) -> list[Doubt]:
    """All that deserves a look, worst first; `kit` has the guests of the plan. What a person chose is not doubted."""
    if not kit.colors:
        return []
    teller = _Teller(paints, plan, kit, shown_on)
    found = [*teller.pairs(), *teller.charts(), *teller.sinking(), *teller.skin(), *teller.hues(), *teller.melted()]
    found += teller.sides()
    order = list(DoubtKind)
    return sorted(found, key=lambda one: (order.index(one.kind), -one.weight, one.paints))


@lru_cache(maxsize=32_768)
def _apart(one: Rgba, other: Rgba) -> float:
    """CIEDE2000, kept for the same."""
    return difference(one.rgb, other.rgb)


class _Teller:
    def __init__(self, paints: SetPaints, plan: Plan, kit: Kit, shown_on: Rgb) -> None:
        self._paints, self._plan, self._kit, self._shown_on = paints, plan, kit, shown_on
        changes_of = plan.changes_by_file(kit)
        keys = {use.paint: use.paint.key for use in paints.uses}
        self._files: list[tuple[FilePaints, Changes]] = [
            (file, changes_of(file.name, [keys.get(paint) or paint.key for paint in file.seen], file.others))
            for file in paints.files
        ]
        self._areas = {use.paint: use.area or use.sites * 1e-4 for use in paints.uses}

    def _became(self, changes: Changes, paint: Rgba) -> Rgb:
        return changes.recoloring.get(paint) or paint.rgb

    def _by_person(self, *paints: Rgba) -> bool:
        known = (self._plan.choices.get(paint.key) for paint in paints)
        return any(choice is not None and choice.by != "plan" for choice in known)

    def pairs(self) -> Iterator[Doubt]:
        """Texts that no longer read, and touching paints that can no longer be told apart."""
        unread: defaultdict[tuple[Rgba, Rgba], _Found] = defaultdict(_Found)
        below: defaultdict[tuple[Rgba, Rgba], _Found] = defaultdict(_Found)
        shows: dict[tuple[Rgba, Rgba], float] = {}
        for file, changes in self._files:
            for run, ground, level, _, _ in text_levels(file, self._shown_on):
                if run.dark and changes.darkens:
                    continue
                read = reading(run, changes, self._shown_on)
                if read is not None and read.after < level:
                    both = run.text.ink, ground.paint
                    unread[both].add(file.name, 1.0, read.before, read.after, level)
                    shows[both] = min(run.text.shows, shows.get(both, 1.0))
            for lost in lost_borders(file.measured.touching, changes.recoloring):
                below[lost.paints].add(file.name, lost.border, lost.before, lost.after, LARGE)
        for kind, listed in ((DoubtKind.UNREAD, unread), (DoubtKind.BELOW, below)):
            for (one, other), found in listed.items():
                if not self._by_person(one, other):
                    enough = "reads" if kind is DoubtKind.UNREAD else "can be told apart"
                    wanted = (
                        f"{shown(found.level)}:1 {enough}"
                        if found.level in (LARGE, TEXT, ENHANCED)
                        else "it did not read before either"
                    )
                    had = f"had {shown(found.before)}:1 and has {shown(found.after)}:1"
                    reason = f"{one.key} on {other.key} {had}; {wanted}."
                    hides = shows.get((one, other), 1.0) if kind is DoubtKind.UNREAD else 1.0
                    clearer = self._clearer(one, other, found.level, hides)
                    yield self._doubt(kind, (one, other), found, reason, clearer)

    def charts(self) -> Iterator[Doubt]:
        """Series or points that stand beside each other in a chart and are not told apart."""
        alike: defaultdict[tuple[Rgba, Rgba], _Found] = defaultdict(_Found)
        said: dict[tuple[Rgba, Rgba], tuple[str, Chart, list[Remedy]]] = {}
        for file, changes in self._files:
            for chart in file.charts:
                for one in chart.alike(changes.recoloring):
                    both = one.first.site.paint, one.second.site.paint
                    alike[both].add(file.name, 1.0, after=one.how.share)
                    if both not in said:
                        ordered = self._reordered(chart, file.name, changes.recoloring)
                        said[both] = one.said, chart, ordered
        for both, found in alike.items():
            words, chart, ordered = said[both]
            remedies = [one for paint in reversed(both) for one in self._told_apart(paint, chart)]
            yield self._doubt(DoubtKind.SERIES, both, found, words, [*remedies[:2], *ordered])

    @staticmethod
    def _reordered(chart: Chart, file: str, to: Recoloring) -> list[Remedy]:
        """The colors of a chart among its own series, in the order in which neighbors are told apart that moves the
        fewest. Series that follow the theme are left alone."""
        paints = [one.site.paint for one in chart.series]
        tokens = [to.token_at(*one.site) for one in chart.series]
        typed = all(one.site.kind is Kind.SERIES for one in chart.series) and len(set(paints)) == len(paints)
        if not typed or None in tokens or len(paints) > _MOST_ORDERED:
            return []
        colors = [to.at(*one.site) or one.site.paint.rgb for one in chart.series]
        told = shares(colors, colors).min(axis=0) >= 1
        place = {paint: at for at, paint in enumerate(paints)}
        beside = [(place[one.site.paint], place[other.site.paint]) for one, other in chart.neighbors()]
        orders = (
            order
            for order in permutations(range(len(paints)))
            if all(told[order[one], order[other]] for one, other in beside)
        )
        best = min(orders, key=lambda order: sum(at != of for at, of in enumerate(order)), default=None)
        if best is None:
            return []
        moved = {f"{paints[at].key}@{chart.page}": str(tokens[of]) for at, of in enumerate(best) if at != of}
        return [Remedy("the same colors in another order", moved, file)]

    def _told_apart(self, paint: Rgba, chart: Chart) -> list[Remedy]:
        """The step nearest to what a paint becomes at which it is told from all its neighbors in a chart."""
        whole = self._plan.resolve(self._kit)
        became = {one.site.paint: whole.get(one.site.paint, one.site.paint.rgb) for one in chart.series}
        beside = [
            became[other.site.paint]
            for both in chart.neighbors()
            for one, other in (both, both[::-1])
            if one.site.paint == paint
        ]
        tokens = [(token, color) for token, color in self._kit.tokens() if color not in became.values()]
        if not tokens:
            return []
        colors = [color for _, color in tokens]
        told = (shares(colors, beside).min(axis=0) >= 1).all(axis=1)
        row = np.where(told, differences(colors, [became[paint]])[:, 0], np.inf)
        at = int(row.argmin())
        if not np.isfinite(row[at]):
            return []
        token = str(tokens[at][0])
        return [Remedy(f"{paint.key} to {label(token, self._kit)}", {paint.key: token})]

    def sinking(self) -> Iterator[Doubt]:
        """Figures that stood out from their ground as they came and no longer do."""
        sunk: defaultdict[Rgba, _Found] = defaultdict(_Found)
        for file, changes in self._files:
            now = figure_contrast(file.measured, changes, self._shown_on)
            if now is None or now.stands:
                continue
            was = figure_contrast(file.measured, Changes(), self._shown_on)
            if was is not None and was.stands:
                edge = max(file.measured.outline, key=lambda paint: (file.measured.outline[paint], paint))
                sunk[edge].add(file.name, 1.0, was.ratio, now.ratio, LARGE)
        for paint, found in sunk.items():
            if not self._by_person(paint):
                reason = (
                    f"{paint.key} stood out from the ground by {shown(found.before)}:1 and has {shown(found.after)}:1."
                )
                steps = self._reaching(paint, lambda step: contrast_ratio(step, self._shown_on) >= LARGE)
                yield self._doubt(DoubtKind.SINKS, (paint,), found, reason, [*steps, self._kept(paint)])

    def skin(self) -> Iterator[Doubt]:
        """Tones that may be skin and were recolored, or may be none and were kept."""
        if not self._plan.recipe.natural or self._plan.recipe.mode is not Mode.KIT or self._paints.lettered:
            return
        told = self._paints.natural
        for use in self._paints.uses:
            paint = use.paint
            choice = self._plan.choices.get(paint.key)
            if choice is None or choice.by != "plan":
                continue
            found = _Found(self._holding(paint), weight=self._areas[paint])
            if choice.target == KEEP and paint.rgb in told and natural_tone(paint.rgb) is None:
                reason = (
                    f"{paint.key}, {describe(paint.rgb)}, was kept as {told[paint.rgb]}; pinks like it are paint, too."
                )
                yield self._doubt(DoubtKind.SKIN, (paint,), found, reason, self._of_its_hue(paint))
            elif choice.target != KEEP and natural_tone(paint.rgb) == "skin" and paint.rgb not in told:
                reason = f"{paint.key} may be skin, but nothing else in its drawings says so; it was recolored."
                yield self._doubt(DoubtKind.SKIN, (paint,), found, reason, [self._kept(paint)])

    def hues(self) -> Iterator[Doubt]:
        """Vivid paints that turned into another hue, or into none."""
        if self._plan.recipe.mode is not Mode.KIT:
            return
        whole = self._plan.resolve(self._kit)
        for use in self._paints.uses:
            paint = use.paint
            became = whole.get(paint)
            if became is None or self._by_person(paint):
                continue
            before, after = oklch_of([paint.rgb, became])
            if colorfulness(before) < _VIVID:
                continue
            greyed = hue_seen(after) < _NO_HUE
            if greyed or turns(before[2], after[2]) >= _LOST:
                what = "has no hue any more" if greyed else f"became {describe(became)}"
                reason = f"{paint.key}, {describe(paint.rgb)}, {what}."
                found = _Found(self._holding(paint), weight=self._areas[paint])
                yield self._doubt(DoubtKind.HUE, (paint,), found, reason, [*self._of_its_hue(paint), self._kept(paint)])

    def melted(self) -> Iterator[Doubt]:
        """Paints that could be told apart in a file and are one now."""
        melted: defaultdict[tuple[Rgba, Rgba], _Found] = defaultdict(_Found)
        for file, changes in self._files:
            groups: defaultdict[Rgb, list[Rgba]] = defaultdict(list)
            for paint in file.paints:
                groups[self._became(changes, paint)].append(paint)
            for group in groups.values():
                for at, one in enumerate(group):
                    for other in group[at + 1 :]:
                        if _apart(one, other) >= _TWO:
                            areas = file.measured.areas
                            melted[one, other].add(file.name, min(areas.get(one, 0.0), areas.get(other, 0.0)))
        for (one, other), found in melted.items():
            if not self._by_person(one, other):
                smaller = min((one, other), key=lambda paint: (self._areas[paint], paint))
                reason = f"{one.key} and {other.key} look the same now."
                remedies = [*self._beside(smaller, found.files[0]), self._kept(smaller)]
                yield self._doubt(DoubtKind.MELTED, (one, other), found, reason, remedies)

    def sides(self) -> Iterator[Doubt]:
        """What lies around mails and is seen beside them on a phone, in another color than they have."""
        if OUTER in self._plan.part_rules:
            return
        seen: defaultdict[tuple[Rgba, Rgba], _Found] = defaultdict(_Found)
        targets: dict[tuple[Rgba, Rgba], str | None] = {}
        for file, changes in self._files:
            for outer, inner in file.measured.sides:
                if outer.becomes(changes.recoloring) != inner.becomes(changes.recoloring):
                    both = outer.paint, inner.paint
                    seen[both].add(file.name, 1.0)
                    token = changes.recoloring.token_at(inner.paint, inner.kind or Kind.GROUND, inner.selectors)
                    targets.setdefault(both, token if OUTER in outer.selectors else None)
        for (outer_paint, inner_paint), found in seen.items():
            key, target = f"{outer_paint.key}@{OUTER}", targets[outer_paint, inner_paint]
            if key in self._plan.held():
                continue
            remedies = []
            if target is not None:
                remedies.append(Remedy(f"{label(target, self._kit)} all around", {key: target}))
            reason = f"{inner_paint.key} does not reach the edges of a phone: {outer_paint.key} shows beside it."
            yield self._doubt(DoubtKind.SIDES, (outer_paint, inner_paint), found, reason, remedies)

    def _doubt(
        self, kind: DoubtKind, paints: tuple[Rgba, ...], found: _Found, reason: str, remedies: Sequence[Remedy]
    ) -> Doubt:
        keys = tuple(paint.key for paint in paints)
        return Doubt(kind, keys, tuple(found.files), reason, tuple(remedies[:3]), found.weight)

    def _holding(self, paint: Rgba) -> list[str]:
        return [file.name for file, _ in self._files if paint in file.paints]

    def _kept(self, *paints: Rgba) -> Remedy:
        return Remedy("keep as it came", {paint.key: KEEP for paint in paints})

    def _clearer(self, one: Rgba, other: Rgba, level: float, shows: float) -> list[Remedy]:
        """The nearest step of the ramp of either that reaches a level on the other, which is seen through the first
        where that does not hide all of it (`shows`)."""
        whole = self._plan.resolve(self._kit)
        ink, ground = whole.get(one, one.rgb), whole.get(other, other.rgb)
        found = [
            *self._reaching(one, lambda step: seen_contrast(step, shows, ground) >= level),
            *self._reaching(other, lambda step: seen_contrast(ink, shows, step) >= level),
        ]
        keep = Remedy("keep both as they came", {one.key: KEEP, other.key: KEEP})
        return [*found, keep]

    def _reaching(self, paint: Rgba, reached: Callable[[Rgb], bool]) -> list[Remedy]:
        """The nearest step of the ramp of a paint by which something is reached, if there is one."""
        color = self._ramp(paint)
        if color is None:
            return []
        place = step_position(self._plan.resolve(self._kit).get(paint, paint.rgb))
        steps = [step for step in STEPS if reached(color.ramp.at(step))]
        nearest = sorted(steps, key=lambda step: (abs(step_position(color.ramp.at(step)) - place), step))
        return [self._to_step(paint, color, step) for step in nearest[:1]]

    def _of_its_hue(self, paint: Rgba) -> list[Remedy]:
        """The steps as light as a paint of the two colors of the kit that are nearest to it in hue."""
        bases = oklch_of([color.base for color in self._kit.colors])
        hue = lch_of(paint.rgb)[2]
        apart = np.where(hue_seen(bases) < _NO_HUE, np.inf, turns(bases[:, 2], hue))
        nearest = [at for at in np.argsort(apart, kind="stable")[:2].tolist() if np.isfinite(apart[at])]
        colors = [self._kit.colors[at] for at in nearest]
        place = step_position(paint.rgb)
        made = [
            self._to_step(
                paint, color, min(STEPS, key=lambda step: (abs(step_position(color.ramp.at(step)) - place), step))
            )
            for color in colors
        ]
        return [one for one in made if one.targets[paint.key] != self._plan.target(paint)]

    def _beside(self, paint: Rgba, file: str) -> list[Remedy]:
        """The steps before and behind that which a paint has."""
        color = self._ramp(paint)
        if color is None:
            return []
        became = self._plan.resolve(self._kit).get(paint, paint.rgb)
        at = color.ramp.colors.index(became) if became in color.ramp.colors else None
        if at is None:
            return []
        near = [STEPS[one] for one in (at + 1, at - 1) if 0 <= one < len(STEPS)]
        return [self._to_step(paint, color, step, file) for step in near]

    def _ramp(self, paint: Rgba) -> KitColor | None:
        key = ramp_of(self._plan.target(paint))
        return None if key is None else self._kit.color(key)

    def _to_step(self, paint: Rgba, color: KitColor, step: int, file: str | None = None) -> Remedy:
        token = str(color.token(step))
        return Remedy(f"{paint.key} to {label(token, self._kit)}", {paint.key: token}, file)
