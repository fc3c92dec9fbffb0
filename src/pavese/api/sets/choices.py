"""Plans that are looked at and not in force: alternatives, and a set tried in another kit.

They are remembered while they are looked at, since every picture of one asks for its plan.
"""

from __future__ import annotations

import hashlib
from dataclasses import replace
from threading import Condition

from cachetools import LRUCache, cached

from pavese.api.sets.views import OpenSet
from pavese.core.kit.kit import Kit
from pavese.core.recolor.alternatives import Alternative, alternatives
from pavese.core.recolor.plan import Plan
from pavese.store import sets


def _key(opened: OpenSet, kit: Kit) -> str:
    """A hash of all that a plan made from this one depends on."""
    parts = (opened.plan.model_dump_json(), kit.model_dump_json(), repr(opened.paints))
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()


@cached(LRUCache(16), key=lambda opened: _key(opened, opened.kit), condition=Condition())
def alternatives_of(opened: OpenSet) -> tuple[Alternative, ...]:
    """The alternatives to the plan in force; what a person chose by hand is in all of them."""
    return alternatives(opened.paints, opened.kit, opened.plan.by_hand())


def tried(opened: OpenSet, kit: Kit) -> OpenSet:
    """The set as it would be in another kit: what the kit has stays where it is sent, the rest is planned."""
    return replace(opened, own_kit=kit, plan=_planned(opened, kit))


@cached(LRUCache(8), key=_key, condition=Condition())
def _planned(opened: OpenSet, kit: Kit) -> Plan:
    return sets.complete(opened.paints, kit, opened.plan)
