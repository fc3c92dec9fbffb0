"""What was read and measured of a file, as it is stored beside it and as it is used."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property
from threading import Lock
from typing import Any

from cachetools import LRUCache
from sqlalchemy import select
from sqlalchemy.orm import Session

from pavese.core.color.derived import Transform
from pavese.core.color.srgb import parse_key
from pavese.core.recolor.charts import Chart, Series
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Part, Seen, Sides, Text, TextRun
from pavese.core.recolor.traits import Traits, traits_of
from pavese.store.models import AssetRow


def to_json(inventory: Inventory, measured: Measured) -> dict[str, Any]:
    """Everything but the sites and the remarks, which have columns of their own."""
    return {
        "areas": {paint.key: share for paint, share in measured.areas.items()},
        "touching": [[one.key, other.key, share] for (one, other), share in measured.touching.items()],
        "outline": {paint.key: share for paint, share in measured.outline.items()},
        "texts": [_text_to_json(run) for run in measured.texts],
        **({"sides": [list(map(_part_to_json, one)) for one in measured.sides]} if measured.sides else {}),
        **({"faces": [list(pair) for pair in measured.faces]} if measured.faces else {}),
        "marks": {paint.key: list(selectors) for paint, selectors in inventory.selectors.items() if selectors},
        "title": inventory.title,
        "preview": inventory.preview,
        "slides": inventory.slides,
        "charts": [_chart_to_json(chart) for chart in inventory.charts],
        **({"pictures": [[one.key for one in paints] for paints in inventory.pictures]} if inventory.pictures else {}),
        "blends": sorted([one.key, other.key] for one, other in inventory.blends),
    }


@dataclass(frozen=True)
class FileFacts:
    """What is known of one file."""

    inventory: Inventory
    measured: Measured

    @cached_property
    def traits(self) -> Traits:
        """How it looks beside others."""
        return traits_of(self.inventory, self.measured)


#: A file is never changed once it is in, so what was read of it can be remembered: every answer about a large set, and
#: every file added to it, asks for all of them. By the file's id, which no two share.
_known: LRUCache[uuid.UUID, FileFacts] = LRUCache(20_000)
_lock = Lock()


def facts_of(row: AssetRow) -> FileFacts:
    """What was read and measured of a file when it came in, and how it looks."""
    with _lock:
        known = _known.get(row.id)
    return known or _remembered(row, row.measured)


def remember(session: Session, rows: Iterable[AssetRow]) -> None:
    """Reads at once what is not known yet of files."""
    with _lock:
        new = {row.id: row for row in rows if row.id not in _known}
    if new:
        found = session.execute(select(AssetRow.id, AssetRow.measured).where(AssetRow.id.in_(new)))
        for file, stored in found.all():
            _remembered(new[file], stored)


def know(file: uuid.UUID, inventory: Inventory, measured: Measured) -> FileFacts:
    """Remembers what has just been read of a file, so that it need not be asked for."""
    made = FileFacts(inventory, measured)
    with _lock:
        _known[file] = made
    return made


def _remembered(row: AssetRow, stored: Mapping[str, Any]) -> FileFacts:
    inventory, measured = _inventory(row, stored), from_json(stored)
    return know(row.id, inventory, measured)


def inventory_of(row: AssetRow) -> Inventory:
    """The paints of a file as they were read when it came in."""
    return facts_of(row).inventory


def measured_of(row: AssetRow) -> Measured:
    """What was measured on its picture; nothing for a file that could not be drawn."""
    return facts_of(row).measured


def _inventory(row: AssetRow, stored: Mapping[str, Any]) -> Inventory:
    return Inventory(
        {
            parse_key(key): {Kind(kind): count for kind, count in counts.items()}
            for key, counts in row.paints.items()
            if counts
        },
        tuple(row.remarks),
        {parse_key(key): tuple(selectors) for key, selectors in stored.get("marks", {}).items()},
        frozenset((parse_key(one), parse_key(other)) for one, other in stored.get("blends", ())),
        stored.get("title", ""),
        stored.get("preview", ""),
        stored.get("slides", 0),
        tuple(_chart(one) for one in stored.get("charts", ())),
        tuple(tuple(map(parse_key, paints)) for paints in stored.get("pictures", ())),
        tuple(parse_key(key) for key, counts in row.paints.items() if not counts),
    )


def _chart_to_json(chart: Chart) -> dict[str, Any]:
    series = [[one.name, one.site.paint.key, one.site.kind, list(one.site.selectors)] for one in chart.series]
    return {"page": chart.page, "series": series, "ring": chart.ring}


def _chart(stored: Mapping[str, Any]) -> Chart:
    series = (
        Series(name, Site(parse_key(paint), Kind(kind), tuple(selectors)))
        for name, paint, kind, selectors in stored["series"]
    )
    return Chart(stored["page"], tuple(series), stored["ring"])


def from_json(stored: Mapping[str, Any]) -> Measured:
    """What was measured, as it was stored."""
    return Measured(
        {parse_key(key): share for key, share in stored.get("areas", {}).items()},
        {(parse_key(one), parse_key(other)): share for one, other, share in stored.get("touching", ())},
        {parse_key(key): share for key, share in stored.get("outline", {}).items()},
        tuple(_text(one) for one in stored.get("texts", ())),
        tuple(Sides(*(_part(*part) for part in one)) for one in stored.get("sides", ())),
        tuple((named, set_in) for named, set_in in stored.get("faces", ())),
    )


def _text_to_json(run: TextRun) -> dict[str, Any]:
    text = run.text
    return {
        "text": text.text,
        "ink": text.ink.key,
        "opacity": text.opacity,
        "size": text.size,
        "bold": text.bold,
        "selectors": list(text.selectors),
        "kind": text.kind,
        "ground": run.ground and run.ground.key,
        "ground_kind": run.kind,
        "ground_selectors": list(run.selectors),
        **({"dark": True} if run.dark else {}),
        **({"page": run.page} if run.page else {}),
        **({"seen": [_seen_to_json(one) for one in run.seen]} if run.seen else {}),
    }


def _seen_to_json(seen: Seen) -> list[Any]:
    return [seen.color.hex, None if seen.parts is None else list(map(_part_to_json, seen.parts))]


def _part_to_json(part: Part) -> list[Any]:
    return [part.paint.key, part.kind, list(part.selectors), part.share, [list(one) for one in part.through]]


def _part(paint: str, kind: str | None, of: list[str], share: float, through: list[list[Any]]) -> Part:
    return Part(
        parse_key(paint), Kind(kind) if kind else None, tuple(of), share, tuple(Transform(*one) for one in through)
    )


def _seen(color: str, parts: list[Any] | None) -> Seen:
    return Seen(parse_key(color).rgb, None if parts is None else tuple(_part(*one) for one in parts))


def _text(stored: Mapping[str, Any]) -> TextRun:
    ink, ground = parse_key(stored["ink"]), stored["ground"]
    size, bold, kind = stored["size"], stored["bold"], Kind(stored.get("kind", Kind.TEXT))
    text = Text(stored["text"], ink, stored["opacity"], size, bold, tuple(stored["selectors"]), kind)
    behind = stored.get("ground_kind")
    return TextRun(
        text,
        parse_key(ground) if ground else None,
        Kind(behind) if behind else None,
        tuple(stored.get("ground_selectors", ())),
        stored.get("dark", False),
        stored.get("page", ""),
        tuple(_seen(*one) for one in stored.get("seen", ())),
    )
