"""Alternatives of a set, remembered while they are looked at: every picture of one asks for its plan."""

from __future__ import annotations

import hashlib
from collections import OrderedDict
from threading import Lock

from pavese.api.set_views import OpenSet
from pavese.core.recolor.alternatives import Alternative, alternatives

_MOST = 16
_known: OrderedDict[str, tuple[Alternative, ...]] = OrderedDict()
_lock = Lock()


def alternatives_of(opened: OpenSet) -> tuple[Alternative, ...]:
    """The alternatives to the plan in force; what a person chose by hand is in all of them."""
    key = _key(opened)
    with _lock:
        known = _known.get(key)
        if known is not None:
            _known.move_to_end(key)
            return known
    made = alternatives(opened.paints, opened.kit, opened.plan.by_hand())
    with _lock:
        _known[key] = made
        while len(_known) > _MOST:
            _known.popitem(last=False)
    return made


def _key(opened: OpenSet) -> str:
    """A hash of all that the alternatives depend on."""
    parts = (opened.plan.model_dump_json(), opened.kit.model_dump_json(), repr(opened.paints))
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()
