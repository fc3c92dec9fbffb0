"""Stock libraries of icons and illustrations: what an adapter gives, and how what it gives is searched."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol

import numpy as np
from rapidfuzz.fuzz import ratio

from pavese.core.recolor.traits import Traits

#: Words at least this like a searched one count as it: one letter wrong in five is forgiven, one in three is not.
_LIKE = 0.78
_WORD = re.compile(r"[a-z0-9]+")


class StockKind(StrEnum):
    """What kind of drawing it is."""

    ICON = "icon"
    ILLUSTRATION = "illustration"


@dataclass(frozen=True)
class StockItem:
    """One drawing of a library; `rights` are carried along with the file."""

    id: str
    title: str
    pack: str
    kind: StockKind
    tags: tuple[str, ...]
    author: str
    rights: str
    traits: Traits

    @property
    def file_name(self) -> str:
        """The name it has in a set."""
        return f"{self.id.rpartition('/')[2]}.svg"


class StockLibrary(Protocol):
    """What an adapter for a library gives."""

    name: str

    def items(self) -> Sequence[StockItem]:
        """Everything there is, in the library's order."""

    def file(self, item_id: str) -> bytes:
        """A drawing. Raises KeyError for what the library does not have."""


@dataclass(frozen=True)
class Wish:
    """What is searched for; None leaves it open. `like` are the traits of a set that the drawings should go with."""

    text: str = ""
    pack: str | None = None
    kind: StockKind | None = None
    several: bool | None = None
    stroked: bool | None = None
    like: tuple[Traits, ...] = ()


def search(items: Iterable[StockItem], wish: Wish) -> list[StockItem]:
    """What fits a wish: best match of the words first, then, where a set is given, what looks most like it."""
    words = _WORD.findall(wish.text.lower())
    found = []
    for order, item in enumerate(items):
        if not _holds(item, wish):
            continue
        matched = _matched(words, item)
        if matched is not None:
            found.append((-matched, _unlike(item.traits, wish.like), order, item))
    return [item for _, _, _, item in sorted(found, key=lambda entry: entry[:3])]


def _holds(item: StockItem, wish: Wish) -> bool:
    return (
        (wish.pack is None or item.pack == wish.pack)
        and (wish.kind is None or item.kind is wish.kind)
        and (wish.several is None or (item.traits.paints > 1) is wish.several)
        and (wish.stroked is None or item.traits.stroked is wish.stroked)
    )


def _matched(words: Sequence[str], item: StockItem) -> float | None:
    """How well every searched word is met, 0 to 1; None when one is not."""
    known = {*_WORD.findall(item.title.lower()), *(word for tag in item.tags for word in _WORD.findall(tag.lower()))}
    best = []
    for word in words:
        score = max((_likeness(word, other) for other in known), default=0.0)
        if score < _LIKE:
            return None
        best.append(score)
    return round(sum(best) / len(best), 3) if best else 1.0


def _likeness(word: str, other: str) -> float:
    if word == other:
        return 1.0
    # The beginning of a word is typed before the whole of it.
    if len(word) >= 2 and other.startswith(word):
        return 0.95
    return ratio(word, other) / 100


def _unlike(one: Traits, set_: Sequence[Traits]) -> float:
    """How far a drawing is from the middle of a set; 0 without a set."""
    if not set_:
        return 0.0
    middle = np.median([_numbers(one) for one in set_], axis=0)
    return round(float(np.abs(np.array(_numbers(one)) - middle).sum()), 4)


def _numbers(one: Traits) -> tuple[float, ...]:
    return float(np.log2(1 + one.paints)), float(np.log2(1 + one.sites)), 4 * one.stroke_share, 2.0 * one.stroked
