"""What is looked at in each file as it is handed over: a table, walked by the interface and by the shell. A further
check is a function and a line here."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import NamedTuple

from pavese.core.check.conformance import Finding, check_paints, left_by_coding
from pavese.core.color.contrast import WHITE, shown
from pavese.core.kit.kit import Kit
from pavese.core.kit.plain import shortened
from pavese.core.recolor.borders import lost_borders
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.reading import Reading, readings


class Handed(NamedTuple):
    """A file as it is handed over: what it held and what was measured of it as it `came`, what becomes of it, and what
    is read `after` from what was written. `on_pixels`: its paints are measured on pixels, and letters are not known."""

    came: Inventory
    measured: Measured
    changes: Changes
    after: Inventory
    on_pixels: bool


@dataclass(frozen=True)
class Unread(Finding):
    """A text that does not read."""

    reading: Reading


class Check(NamedTuple):
    """What is looked for, in a word or two; what a file `has` of which something was found; and how: worst first."""

    title: str
    has: str
    find: Callable[[Handed, Kit], Iterable[Finding]]


def _paints(file: Handed, kit: Kit) -> Iterator[Finding]:
    """Paints that are not of the kit."""
    results = {one for paint in file.came.paints for one in file.changes.recoloring.results(paint)}
    for found in check_paints(file.after, kit):
        if not left_by_coding(found, file.after, results, on_pixels=file.on_pixels):
            yield found


def _texts(file: Handed, kit: Kit) -> Iterator[Finding]:
    """Texts that do not read on what they stand on, seen on white."""
    for one in readings(file.measured.texts, file.changes, WHITE):
        if not one.reads:
            words = f"“{shortened(one.run.text.text)}”: {shown(one.after)}:1, where {one.needed:g}:1 reads."
            yield Unread(words, (one.ink, one.ground), one)


def _charts(file: Handed, kit: Kit) -> Iterator[Finding]:
    """Neighbors in charts that are not told apart."""
    for chart in file.came.charts:
        for one in chart.alike(file.changes.recoloring):
            yield Finding(one.said, one.colors)


def _touching(file: Handed, kit: Kit) -> Iterator[Finding]:
    """Paints that touch and could be told apart, and no longer can."""
    lost = lost_borders(file.measured.touching, file.changes.recoloring)
    for one in sorted(lost, key=lambda one: one.after):
        first, second = (paint.key for paint in one.paints)
        words = f"{first} beside {second} had {shown(one.before)}:1 and has {shown(one.after)}:1."
        yield Finding(words, one.became)


#: By key.
CHECKS: Mapping[str, Check] = {
    "paints": Check("Colors of the kit", "paint that is off the kit", _paints),
    "texts": Check("Texts read", "a text that does not read", _texts),
    "charts": Check("Charts are told apart", "neighbors in a chart that look alike", _charts),
    "touching": Check("What touches is told apart", "shapes that touch and can hardly be told apart now", _touching),
}


def checked(file: Handed, kit: Kit) -> Iterator[tuple[str, Finding]]:
    """Everything that is found in a file, by the key of the check."""
    for key, check in CHECKS.items():
        for found in check.find(file, kit):
            yield key, found
