"""Derived shades: each paint to the place on a ramp that is exactly as light as it is."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import log
from typing import NamedTuple

import numpy as np

from pavese.core.color.contrast import LARGE, WHITE, contrast_ratio, luminance
from pavese.core.color.naming import describe
from pavese.core.color.oklab import Array
from pavese.core.color.ramp import STEPS, STEPS_OF_LOG, step_position
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.token import Token
from pavese.core.recolor.ends import anchors, end_of
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.plan import Choice
from pavese.core.recolor.target import resolve_target, shade
from pavese.core.recolor.together import HIDDEN, text_levels

#: Derived shades of one ramp stay at least this part of a step apart.
_APART = 0.04
#: A derived shade within this part of a step is that step.
_SNAP = 0.12
#: How far, and by how much at once, a shade moves to be told from what it touches, in steps.
_FARTHEST, _BY = 2.0, 0.1
#: A little more than two colors need between them, for rounding, in steps.
_TO_SPARE = 0.02


def spread(places: Array) -> list[float]:
    """Places on the scale, bounded to it, with those that would fall together moved a little apart, order kept."""
    last = float(len(STEPS) - 1)
    order = np.argsort(places, kind="stable")
    spread = np.clip(places, 0, last).astype(float)
    step = min(_APART, last / max(len(places), 1))
    for before, at in pairwise(order):
        spread[at] = max(spread[at], spread[before] + step)
    over = float(spread[order[-1]]) - last if len(order) else 0.0
    if over > 0:
        room = last
        for at in order[::-1]:
            spread[at] = min(spread[at], room)
            room = spread[at] - step
    return [max(float(place), 0.0) for place in spread]


@dataclass(frozen=True)
class Shades:
    """Colors with their wanted places on the scale of steps and the ramp of each; `standing` is what others became,
    `backing` what all are seen on, if anything is laid behind them."""

    colors: Sequence[Rgb]
    wanted: Array
    own: Sequence[KitColor]
    paints: SetPaints
    kit: Kit
    standing: Mapping[Rgb, Rgb]
    backing: Rgb | None = None

    def chosen(self, *, ends: bool) -> dict[Rgb, Choice]:
        """The shade of each color; with `ends`, whites and near-blacks go to the kit's own.

        A shade is moved a little where it could not be told from what it touches, or a text could not be read, though
        the color could.
        """
        found: dict[Rgb, Choice] = {}
        places: dict[Rgb, tuple[str, float]] = {}
        own_ends = anchors(self.kit) if ends else {}
        for ramp in dict.fromkeys(self.own):
            rows = [i for i, color in enumerate(self.own) if color.key == ramp.key]
            for i, place in zip(rows, spread(self.wanted[rows]), strict=True):
                paint = self.colors[i]
                end = end_of(paint)
                anchor = own_ends.pop(end, None) if end is not None else None
                if anchor is not None:
                    reason = f"the {'near-black' if end else 'white'} becomes {anchor.name}"
                    found[paint] = Choice(target=str(Token(anchor.key, None)), reason=reason)
                    continue
                near = round(place)
                snapped = float(near) if abs(place - near) < _SNAP and len(rows) < len(STEPS) / 2 else place
                places[paint] = ramp.key, snapped
                reason = f"{describe(paint)}: a shade of {ramp.name} as light as it was"
                found[paint] = Choice(target=shade(ramp.key, snapped), reason=reason)
        return found | self._told_apart(found, places)

    def _told_apart(self, found: Mapping[Rgb, Choice], places: Mapping[Rgb, tuple[str, float]]) -> dict[Rgb, Choice]:
        became = dict(self.standing)
        became |= {color: resolve_target(choice.target, self.kit) or color for color, choice in found.items()}
        beside: defaultdict[Rgb, dict[Rgb, float]] = defaultdict(dict)
        for one, other, level in self._levels():
            if contrast_ratio(one, other) >= level and one in became and other in became:
                beside[one][other] = beside[other][one] = max(level, beside[one].get(other, level))
        moved: dict[Rgb, Choice] = {}
        for color in sorted(beside.keys() & places.keys()):
            around = sorted(
                _Beside(step_position(became[other]), _gap(level), luminance(color) > luminance(other))
                for other, level in beside[color].items()
            )
            ramp, place = places[color]
            if self.backing is not None:
                behind = step_position(self.backing)
                around.append(_Beside(behind, _gap(LARGE), place < behind))
            if all(one.told_from(step_position(became[color])) for one in around):
                continue
            steps = (sign * _BY * at for at in range(1, round(_FARTHEST / _BY) + 1) for sign in (1, -1))
            free = (place + by for by in steps if 0 <= place + by <= len(STEPS) - 1)
            best = next((to for to in free if all(one.told_from(to) for one in around)), None)
            if best is not None:
                target = shade(ramp, best)
                became[color] = resolve_target(target, self.kit) or color
                reason = f"{found[color].reason}, moved a little to be told from what it meets"
                moved[color] = Choice(target=target, reason=reason)
        return moved

    def _levels(self) -> Iterator[tuple[Rgb, Rgb, float]]:
        """Two colors with the contrast that they are to keep, where they have it."""
        yield from ((one.rgb, other.rgb, LARGE) for one, other in self.paints.touching)
        for file in self.paints.files:
            for run, below, level, _, opaque in text_levels(file, self.backing or WHITE):
                if level > HIDDEN:
                    yield run.text.ink.rgb, below.paint.rgb, opaque


class _Beside(NamedTuple):
    """What a color meets: its place on the scale of steps, how many steps are to be between them, and whether the color
    is the lighter one."""

    place: float
    gap: float
    lighter: bool

    def told_from(self, place: float) -> bool:
        """Whether a place on the scale is far enough from it, on its own side."""
        return (self.place - place if self.lighter else place - self.place) >= self.gap


def _gap(level: float) -> float:
    """The steps between two colors that have so much contrast (`ramp.step_position`)."""
    return STEPS_OF_LOG * log(level) + _TO_SPARE
