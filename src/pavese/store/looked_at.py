"""What was read and measured of a file, as it is stored beside it and as it is used."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any

from pavese.core.color.srgb import parse_key
from pavese.core.recolor.inventory import Inventory, Kind
from pavese.core.recolor.likeness import Look, look_of
from pavese.core.recolor.measure import Measured
from pavese.store.models import AssetRow


def to_json(inventory: Inventory, measured: Measured) -> dict[str, Any]:
    """Everything but the sites and the remarks, which have columns of their own."""
    return {
        "areas": {paint.key: share for paint, share in measured.areas.items()},
        "touching": [[one.key, other.key, share] for (one, other), share in measured.touching.items()],
        "outline": {paint.key: share for paint, share in measured.outline.items()},
        "marks": {paint.key: list(marks) for paint, marks in inventory.marks.items() if marks},
        "blends": sorted([one.key, other.key] for one, other in inventory.blends),
    }


@dataclass(frozen=True)
class Looked:
    """What is known of one file."""

    inventory: Inventory
    measured: Measured
    look: Look


#: A file is never changed once it is in, so what was read of it can be remembered: every answer about a large set, and
#: every file added to it, asks for all of them. By the file's id, which no two share.
_MOST = 20_000
_known: dict[uuid.UUID, Looked] = {}


def looked_at(row: AssetRow) -> Looked:
    """What was read and measured of a file when it came in, and how it looks."""
    known = _known.get(row.id)
    if known is None:
        inventory, measured = _inventory(row), _measured(row)
        known = Looked(inventory, measured, look_of(inventory, measured))
        if len(_known) >= _MOST:
            _known.clear()
        _known[row.id] = known
    return known


def inventory_of(row: AssetRow) -> Inventory:
    """The paints of a file as they were read when it came in."""
    return looked_at(row).inventory


def measured_of(row: AssetRow) -> Measured:
    """What was measured on its picture; nothing for a file that could not be drawn."""
    return looked_at(row).measured


def _inventory(row: AssetRow) -> Inventory:
    return Inventory(
        {parse_key(key): {Kind(kind): count for kind, count in counts.items()} for key, counts in row.paints.items()},
        tuple(row.remarks),
        {parse_key(key): tuple(marks) for key, marks in row.measured.get("marks", {}).items()},
        frozenset((parse_key(one), parse_key(other)) for one, other in row.measured.get("blends", ())),
    )


def _measured(row: AssetRow) -> Measured:
    return Measured(
        {parse_key(key): share for key, share in row.measured.get("areas", {}).items()},
        {(parse_key(one), parse_key(other)): share for one, other, share in row.measured.get("touching", ())},
        {parse_key(key): share for key, share in row.measured.get("outline", {}).items()},
    )
