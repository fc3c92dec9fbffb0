"""What is looked at in each file as it is handed over: a table, walked by the interface and by the shell. A further
check is a function and a line here."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import NamedTuple

from pavese.core.check.conformance import Finding, check_paints, left_by_coding
from pavese.core.color.contrast import LARGE, WHITE, contrast_ratio, shown
from pavese.core.kit.kit import Kit
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.charts import said_alike
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.reading import Reading, readings

#: Borders shorter than this part of all in a picture tell nothing of what can be seen there.
_SEEN = 0.002


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
    """What is looked for, in a word or two, and how: worst first."""

    title: str
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
            words = f"“{one.run.text.text}”: {shown(one.after)}:1, where {one.needed:g}:1 reads."
            yield Unread(words, (one.ink, one.ground), one)


def _charts(file: Handed, kit: Kit) -> Iterator[Finding]:
    """Neighbors in charts that are not told apart."""
    for chart in file.came.charts:
        for one, other, how in chart.alike(file.changes.recoloring):
            colors = (file.changes.recoloring.at(*each.site) or each.site.paint.rgb for each in (one, other))
            yield Finding(said_alike(one, other, how), tuple(colors))


def _touching(file: Handed, kit: Kit) -> Iterator[Finding]:
    """Paints that touch and could be told apart (3:1; WCAG 2.2, 1.4.11), and no longer can."""
    lost = []
    for both, share in file.measured.touching.items():
        became = [file.changes.recoloring.results(one) for one in both]
        # What goes several ways is not known where it touches.
        if share < _SEEN or max(map(len, became)) > 1:
            continue
        colors = tuple(one.rgb for (one,) in became)
        before, after = contrast_ratio(*(one.rgb for one in both)), contrast_ratio(*colors)
        if before >= LARGE > after:
            first, second = (one.key for one in both)
            words = f"{first} beside {second} had {shown(before)}:1 and has {shown(after)}:1."
            lost.append((after, words, colors))
    for _, words, colors in sorted(lost):
        yield Finding(words, colors)


#: By key.
CHECKS: Mapping[str, Check] = {
    "paints": Check("Colors of the kit", _paints),
    "texts": Check("Texts read", _texts),
    "charts": Check("Charts are told apart", _charts),
    "touching": Check("What touches is told apart", _touching),
}


def checked(file: Handed, kit: Kit) -> Iterator[tuple[str, Finding]]:
    """Everything that is found in a file, by the key of the check."""
    for key, check in CHECKS.items():
        for found in check.find(file, kit):
            yield key, found
