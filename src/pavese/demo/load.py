"""Puts the demo into an empty workspace: the kit and its two sets."""

from __future__ import annotations

from sqlalchemy.orm import Session

from pavese.core.formats.intake import take
from pavese.core.kit.codes import find_codes
from pavese.core.kit.kit import Kit, KitColor, Role, key_for
from pavese.demo.icons import icon_files
from pavese.demo.illustrations import illustration_files
from pavese.store import kits, sets

#: As the company's designer once wrote it down in an e-mail.
CODES = """\
Deep water: #0b5e6b
Slipway: #5a6fa8
Buoy: #d2452d
Lamp: #efb23a
Kelp: #6b7d3a
Fog: #eef0ec
Pewter: #7d878c
Hull: #16252b
"""
_ROLES = (
    Role.PRIMARY,
    Role.SECONDARY,
    Role.ACTION,
    Role.ACCENT,
    Role.ACCENT,
    Role.BACKGROUND,
    Role.NEUTRAL,
    Role.TEXT_DARK,
)


def demo_kit() -> Kit:
    """The kit of Tarnmoor Ferries."""
    colors = [
        KitColor(key=key_for(code.name), name=code.name, role=role, base=code.color)
        for code, role in zip(find_codes(CODES), _ROLES, strict=True)
    ]
    return Kit(name="Tarnmoor Ferries", colors=tuple(colors))


def load(session: Session) -> bool:
    """Loads the demo unless there are kits already; tells whether it did."""
    if kits.listed(session):
        return False
    kit = demo_kit()
    row = kits.create(session, kit)
    for name, files in (("Deck signage", icon_files()), ("Route illustrations", illustration_files())):
        intake = take(files.items())
        if intake.refused:
            raise intake.refused[0]
        sets.add_files(session, sets.create(session, row.id, name), intake.taken, kit)
    return True
