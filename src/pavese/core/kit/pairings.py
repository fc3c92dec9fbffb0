"""Which colors of a kit read on which: every ordered pair, as text on its ground."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, Level, contrast_table
from pavese.core.color.oklab import Array
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit
from pavese.core.kit.token import Token, parse_token

#: The levels by their number in `Pairs.levels`, weakest first.
LEVELS = (Level.NONE, Level.LARGE, Level.AA, Level.AAA)


@dataclass(frozen=True)
class Subject:
    """A color that takes part in pairs: a base of the kit, or a ramp step that is switched on."""

    token: Token
    color: Rgb


@dataclass(frozen=True)
class Pair:
    """One color as text on another as ground; `ratio` is unrounded."""

    text: Token
    ground: Token
    ratio: float
    level: Level


@dataclass(frozen=True)
class Pairs:
    """Every ordered pair of different subjects; `ratios[i, j]` is text j on ground i, the same both ways round."""

    subjects: tuple[Subject, ...]
    ratios: Array

    @cached_property
    def levels(self) -> np.ndarray[tuple[int, ...], np.dtype[np.int64]]:
        """The index in LEVELS of each pair; the diagonal is 0."""
        found = np.searchsorted((LARGE, TEXT, ENHANCED), self.ratios, side="right")
        np.fill_diagonal(found, 0)
        return found

    @property
    def counts(self) -> dict[Level, int]:
        """How many ordered pairs reach each level and no more."""
        size = len(self.subjects)
        counts = Counter({LEVELS[i]: int(n) for i, n in enumerate(np.bincount(self.levels.ravel(), minlength=4))})
        counts[Level.NONE] -= size
        return {level: counts[level] for level in Level}

    @property
    def total(self) -> int:
        """The number of ordered pairs."""
        return len(self.subjects) * (len(self.subjects) - 1)

    @property
    def readable(self) -> int:
        """How many ordered pairs read as body text (4.5)."""
        return int((self.levels >= 2).sum())

    @property
    def without_partner(self) -> tuple[str, ...]:
        """The keys of colors whose base reads as body text with no other subject."""
        return tuple(
            subject.token.color
            for subject, row in zip(self.subjects, self.levels.tolist(), strict=True)
            if subject.token.step is None and max(row, default=0) < LEVELS.index(Level.AA)
        )

    def best_first(self) -> tuple[Pair, ...]:
        """The pairs by contrast, then in the kit's order."""
        size = len(self.subjects)
        order = np.argsort(-self.ratios, axis=None, kind="stable")
        tokens = [subject.token for subject in self.subjects]
        return tuple(
            Pair(tokens[text], tokens[ground], float(self.ratios[ground, text]), LEVELS[self.levels[ground, text]])
            for at in order.tolist()
            for ground, text in (divmod(at, size),)
            if ground != text
        )


def subjects(kit: Kit) -> tuple[Subject, ...]:
    """What takes part: the bases in the kit's order, each with those of its steps that are switched on behind it."""
    on: dict[str, list[Token]] = {}
    for text in kit.steps:
        token = parse_token(text)
        on.setdefault(token.color, []).append(token)
    return tuple(
        subject
        for color in kit.colors
        for subject in (
            Subject(Token(color.key, None), color.base),
            *(Subject(t, kit.resolve(t)) for t in sorted(on.get(color.key, ()), key=lambda t: t.step or 0)),
        )
    )


def pairs(kit: Kit) -> Pairs:
    """All ordered pairs of a kit."""
    found = subjects(kit)
    colors = [subject.color for subject in found]
    return Pairs(found, contrast_table(colors, colors))
