"""Plans that are looked at and not in force: alternatives, and a set tried in another kit.

They are remembered while they are looked at, since every picture of one asks for its plan.
"""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import replace
from threading import Lock
from typing import Generic, TypeVar

from pavese.api.set_views import OpenSet
from pavese.core.kit.kit import Kit
from pavese.core.recolor.alternatives import Alternative, alternatives
from pavese.core.recolor.plan import Plan
from pavese.store import sets

_Made = TypeVar("_Made")


class _Remembered(Generic[_Made]):
    """What was made last, by a hash of all it depends on."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._known: OrderedDict[str, _Made] = OrderedDict()
        self._lock = Lock()

    def get(self, key: str, make: Callable[[], _Made]) -> _Made:
        with self._lock:
            known = self._known.get(key)
            if known is not None:
                self._known.move_to_end(key)
                return known
        made = make()
        with self._lock:
            self._known[key] = made
            while len(self._known) > self._most:
                self._known.popitem(last=False)
        return made


_alternatives = _Remembered[tuple[Alternative, ...]](16)
_tried = _Remembered[Plan](8)


def alternatives_of(opened: OpenSet) -> tuple[Alternative, ...]:
    """The alternatives to the plan in force; what a person chose by hand is in all of them."""
    return _alternatives.get(
        _key(opened, opened.kit), lambda: alternatives(opened.paints, opened.kit, opened.plan.by_hand())
    )


def tried(opened: OpenSet, kit: Kit) -> OpenSet:
    """The set as it would be in another kit: what the kit has stays where it is sent, the rest is planned."""
    plan = _tried.get(_key(opened, kit), lambda: sets.complete(opened.paints, kit, opened.plan))
    return replace(opened, home=kit, plan=plan)


def _key(opened: OpenSet, kit: Kit) -> str:
    """A hash of all that a plan made from this one depends on."""
    parts = (opened.plan.model_dump_json(), kit.model_dump_json(), repr(opened.paints))
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()
