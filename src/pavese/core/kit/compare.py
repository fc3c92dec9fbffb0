"""What differs between two states of a kit, in words and in colors."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from pavese.core.color.difference import difference
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.pairings import LEVELS, pairs
from pavese.core.kit.token import parse_token
from pavese.core.kit.told import told


class DifferenceKind(StrEnum):
    """What happened."""

    ADDED = "added"
    REMOVED = "removed"
    RENAMED = "renamed"
    CHANGED = "changed"
    GAINED = "pairs gained"
    LOST = "pairs lost"
    APPROVED = "approvals"
    RULES = "rules"
    OTHER = "other"


@dataclass(frozen=True)
class Difference:
    """A sentence; where it is about a color, the color before and after (text and ground for a pair)."""

    kind: DifferenceKind
    text: str
    before: Rgb | None = None
    after: Rgb | None = None


def compare(old: Kit, new: Kit) -> tuple[Difference, ...]:
    """Everything that differs, by kind; colors are known by their keys."""
    return (*_colors(old, new), *_pairs(old, new), *_approvals(old, new), *_rules(old, new), *_other(old, new))


def _colors(old: Kit, new: Kit) -> Iterator[Difference]:
    was, now = ({color.key: color for color in kit.colors} for kit in (old, new))
    for key, color in now.items():
        if key not in was:
            yield Difference(
                DifferenceKind.ADDED, f"{color.name}, {color.role.value}, {color.base.hex}", None, color.base
            )
    for key, color in was.items():
        if key not in now:
            yield Difference(
                DifferenceKind.REMOVED, f"{color.name}, {color.role.value}, {color.base.hex}", color.base, None
            )
    both = [(was[key], now[key]) for key in was if key in now]
    for before, after in both:
        if before.name != after.name:
            yield Difference(DifferenceKind.RENAMED, f"{before.name} is now {after.name}", before.base, after.base)
    for before, after in both:
        yield from _color(before, after)
    if [a.key for a, _ in both] != [key for key in now if key in was]:
        yield Difference(DifferenceKind.OTHER, "The colors stand in another order")


def _in_short(color: KitColor) -> str:
    return f"{color.name}, {color.role.value}, {color.base.hex}"


def _color(before: KitColor, after: KitColor) -> Iterator[Difference]:
    name = after.name
    if before.base != after.base:
        away = difference(before.base, after.base)
        text = f"{name}: {before.base.hex} is now {after.base.hex}, a difference of {away:.1f}"
        yield Difference(DifferenceKind.CHANGED, text, before.base, after.base)
    elif moved := [step for step in STEPS if before.ramp.at(step) != after.ramp.at(step)]:
        step = moved[0]
        steps = ", ".join(map(str, moved))
        text = f"{name}: steps {steps} changed" if len(moved) > 1 else f"{name}: step {steps} changed"
        yield Difference(DifferenceKind.CHANGED, text, before.ramp.at(step), after.ramp.at(step))
    if before.role is not after.role:
        text = f"{name} is now {after.role.value}, was {before.role.value}"
        yield Difference(DifferenceKind.CHANGED, text, before.base, after.base)
    if before.note != after.note:
        yield Difference(DifferenceKind.OTHER, f"The note on {name} is another one")


def _pairs(old: Kit, new: Kit) -> Iterator[Difference]:
    was, now = _readable(old), _readable(new)
    for kind, some, others, kit in ((DifferenceKind.GAINED, now, was, new), (DifferenceKind.LOST, was, now, old)):
        for text, ground in sorted(set(some) - set(others)):
            tokens = parse_token(text), parse_token(ground)
            words = f"{kit.title(tokens[0])} on {kit.title(tokens[1])}"
            yield Difference(kind, words, kit.resolve(tokens[0]), kit.resolve(tokens[1]))


def _readable(kit: Kit) -> set[tuple[str, str]]:
    return {(str(pair.text), str(pair.ground)) for pair in pairs(kit).best_first() if LEVELS.index(pair.level) >= 2}


def _approvals(old: Kit, new: Kit) -> Iterator[Difference]:
    was, now = ({d.pair: d.use for d in kit.decisions if d.status is Status.APPROVED} for kit in (old, new))
    for pair, use in now.items():
        if was.get(pair) != use:
            yield Difference(
                DifferenceKind.APPROVED, f"{_words(new, pair)} is approved for {use.value}", *_shown(new, pair)
            )
    for pair in was:
        if pair not in now:
            yield Difference(DifferenceKind.APPROVED, f"{_words(old, pair)} is no longer approved", *_shown(old, pair))


def _words(kit: Kit, pair: tuple[str, str]) -> str:
    return " on ".join(kit.title(parse_token(token)) for token in pair)


def _shown(kit: Kit, pair: tuple[str, str]) -> tuple[Rgb, Rgb]:
    return kit.resolve(parse_token(pair[0])), kit.resolve(parse_token(pair[1]))


def _rules(old: Kit, new: Kit) -> Iterator[Difference]:
    for before, after in zip(old.rules.in_words(), new.rules.in_words(), strict=True):
        if before != after:
            yield Difference(DifferenceKind.RULES, f"{after} (was: {before})")


def _other(old: Kit, new: Kit) -> Iterator[Difference]:
    for field, said in told(Kit).items():
        if said.differs and getattr(old, field) != getattr(new, field):
            yield Difference(DifferenceKind.OTHER, said.differs)
