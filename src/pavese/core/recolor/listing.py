"""Which files of a set are looked at, and in which order."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, Protocol

from pavese.core.recolor.traits import Traits

#: Above this many spreads from the middle of its set a file is the odd one out, see `traits.apart`.
ODD = 2.0


class Only(StrEnum):
    """The files that are looked at by themselves."""

    ALL = "all"
    ONE_COLOR = "one"
    SEVERAL_COLORS = "several"
    STROKED = "stroke"
    FILLED = "filled"
    ODD = "odd"
    REMARKED = "remarks"
    OWN = "own"
    WEAK = "weak"
    UNREAD = "unread"
    WORSE = "worse"
    LEFT_OUT = "out"
    HANDED = "handed"
    MOVING = "moving"


class Order(StrEnum):
    """What stands first."""

    SET = "set"
    NAME = "name"
    PAINTS = "paints"
    ODD = "odd"
    REMARKS = "findings"


class Listed(Protocol):
    """What a file is listed by. `own` ones do not simply follow their set, `weak` ones do not stand out from their
    ground, `unread` ones have a text that cannot be read, `worse` ones one that reads less well than it did; `apart` is
    of `traits.apart`."""

    @property
    def name(self) -> str: ...
    @property
    def traits(self) -> Traits: ...
    @property
    def apart(self) -> float: ...
    @property
    def remarks(self) -> int: ...
    @property
    def moves(self) -> bool: ...
    @property
    def own(self) -> bool: ...
    @property
    def left_out(self) -> bool: ...
    @property
    def weak(self) -> bool: ...
    @property
    def unread(self) -> bool: ...
    @property
    def worse(self) -> bool: ...


@dataclass(frozen=True)
class Listing:
    """Files of a kind whose names hold a text (in any case), in an order; those that are equal in it, as added."""

    only: Only = Only.ALL
    order: Order = Order.SET
    text: str = ""

    @property
    def whole(self) -> bool:
        """Whether nothing is left out and nothing moved."""
        return self.only is Only.ALL and self.order is Order.SET and not self.text.strip()

    def holds(self, file: Listed) -> bool:
        """Whether a file is in it."""
        return self.text.strip().casefold() in file.name.casefold() and _HOLDS[self.only](file)

    def of(self, files: Sequence[Listed]) -> Sequence[int]:
        """The places of the files that are in it, in its order."""
        if self.whole:
            return range(len(files))
        return self._sorted(files, [at for at, file in enumerate(files) if self.holds(file)])

    def beside(self, files: Sequence[Listed], at: int) -> tuple[int, int]:
        """The places of the files before and behind one, around the end; the one need not be in the listing, as when
        it left it a moment ago. Its own place where there is no other."""
        held = [place for place, file in enumerate(files) if place == at or self.holds(file)]
        ordered = self._sorted(files, held)
        here = ordered.index(at)
        return ordered[here - 1], ordered[(here + 1) % len(ordered)]

    def _sorted(self, files: Sequence[Listed], places: list[int]) -> list[int]:
        by = _BY.get(self.order)
        return places if by is None else sorted(places, key=lambda at: by(files[at]))


_HOLDS: Mapping[Only, Callable[[Listed], bool]] = {
    Only.ALL: lambda file: True,
    Only.ONE_COLOR: lambda file: file.traits.paints <= 1,
    Only.SEVERAL_COLORS: lambda file: file.traits.paints > 1,
    Only.STROKED: lambda file: file.traits.stroked,
    Only.FILLED: lambda file: not file.traits.stroked,
    Only.ODD: lambda file: file.apart > ODD,
    Only.REMARKED: lambda file: file.remarks > 0,
    Only.OWN: lambda file: file.own,
    Only.WEAK: lambda file: file.weak,
    Only.UNREAD: lambda file: file.unread,
    Only.WORSE: lambda file: file.worse,
    Only.LEFT_OUT: lambda file: file.left_out,
    Only.HANDED: lambda file: not file.left_out,
    Only.MOVING: lambda file: file.moves,
}

_BY: Mapping[Order, Callable[[Listed], Any]] = {
    Order.NAME: lambda file: _natural(file.name),
    Order.PAINTS: lambda file: -file.traits.paints,
    Order.ODD: lambda file: -file.apart,
    Order.REMARKS: lambda file: -file.remarks,
}


def _natural(name: str) -> tuple[list[str | int], str]:
    """A key by which `icon-2` stands before `icon-10`."""
    return [int(part) if at % 2 else part for at, part in enumerate(re.split(r"(\d+)", name.casefold()))], name
