"""A kit as a table: one line a color and step (RFC 4180, with a byte order mark for spreadsheets)."""

from __future__ import annotations

import csv
import io

from pavese.core.color.ramp import STEPS
from pavese.core.handoff.published import Published, SheetWishes, code
from pavese.core.handoff.words import role_word

#: Cells that begin like this are formulas to a spreadsheet; an apostrophe keeps them text.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def kit_table(published: Published, choice: SheetWishes) -> bytes:
    """Name, role, step and codes; the base first, then the steps of its ramp."""
    target = io.StringIO()
    writer = csv.writer(target)
    writer.writerow(["name", "role", "step", *(kind.value for kind in choice.codes), "note"])
    for color in published.kit.colors:
        words = [_plain(color.name), role_word(color.role, choice.language)]
        writer.writerow([*words, "base", *(code(color.base, kind) for kind in choice.codes), _plain(color.note)])
        for step in STEPS:
            writer.writerow([*words, step, *(code(color.ramp.at(step), kind) for kind in choice.codes), ""])
    return target.getvalue().encode("utf-8-sig")


def _plain(text: str) -> str:
    return f"'{text}" if text.startswith(_FORMULA) else text
