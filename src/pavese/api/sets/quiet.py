"""Routes for one ground and one ink through a whole set."""

from __future__ import annotations

import uuid

from fastapi import APIRouter
from pydantic import BaseModel, Field

from pavese.api.context import Db
from pavese.api.sets.routes import changed
from pavese.api.sets.schemas import SetView
from pavese.api.sets.views import open_set
from pavese.core.color.contrast import shown
from pavese.core.kit.kit import Kit
from pavese.core.kit.token import Token, TokenText, parse_token
from pavese.core.recolor.quiet import Pressed, Quiet, grounds_and_inks, quiet, ruled_by
from pavese.store import sets

router = APIRouter(prefix="/api", tags=["sets"])

_WORDS = {
    Pressed.INK: "buttons are filled with the ink, and their labels take the ground",
    Pressed.TONE: "buttons are a little darker or lighter than the ground, in the same ink",
    Pressed.ACTION: "buttons take the kit's color for actions, with a label that reads on it",
}


class GroundAndInkView(BaseModel):
    """A ground with an ink that reads on it, by their tokens."""

    ground: str
    ink: str
    title: str
    ground_hex: str
    ink_hex: str
    ratio: str
    approved: bool


class PressedView(BaseModel):
    """A way in which links and buttons look."""

    pressed: Pressed
    words: str


class QuietView(BaseModel):
    """What a set stands on and is written in, where that is one ground and one ink."""

    ground: str
    ink: str
    title: str
    pressed: Pressed | None


class GroundsAndInks(BaseModel):
    """The pairs to choose from, best first, the ways buttons look, and what is so now."""

    pairs: list[GroundAndInkView]
    pressed: list[PressedView]
    now: QuietView | None


class GroundAndInkChosen(BaseModel):
    """One ground and one ink for all; without them every paint goes its own way again."""

    ground: TokenText | None = Field(default=None, max_length=90)
    ink: TokenText | None = Field(default=None, max_length=90)
    pressed: Pressed = Pressed.ACTION


@router.get("/sets/{set_id}/grounds-and-inks")
def get_grounds_and_inks(set_id: uuid.UUID, db: Db) -> GroundsAndInks:
    """What a set can stand on and be written in."""
    opened = open_set(db, sets.get(db, set_id))
    kit = opened.kit
    return GroundsAndInks(
        pairs=[
            GroundAndInkView(
                ground=str(one.ground),
                ink=str(one.ink),
                title=_title(kit, one.ground, one.ink),
                ground_hex=kit.resolve(one.ground).hex,
                ink_hex=kit.resolve(one.ink).hex,
                ratio=shown(one.ratio),
                approved=one.approved,
            )
            for one in grounds_and_inks(kit)
        ],
        pressed=[PressedView(pressed=one, words=words) for one, words in _WORDS.items()],
        now=_now(kit, ruled_by(opened.plan)),
    )


@router.put("/sets/{set_id}/ground-and-ink")
def set_ground_and_ink(set_id: uuid.UUID, sent: GroundAndInkChosen, db: Db) -> SetView:
    """Puts a whole set on one ground in one ink, now and when more comes; what was chosen by hand stays."""
    opened = open_set(db, sets.get(db, set_id))
    kit = opened.kit
    if sent.ground is None or sent.ink is None:
        return changed(db, opened, "Every paint its own way", lambda plan: plan.with_(rules={}).by_hand())
    chosen = quiet(kit, parse_token(sent.ground), parse_token(sent.ink), sent.pressed)
    what = f"All in {_title(kit, chosen.ground, chosen.ink)}, {sent.pressed}"
    return changed(db, opened, what, lambda plan: plan.with_rules(chosen.rules, kit))


def _title(kit: Kit, ground: Token, ink: Token) -> str:
    return f"{kit.title(ink)} on {kit.title(ground)}"


def _now(kit: Kit, so: Quiet | None) -> QuietView | None:
    if so is None:
        return None
    pressed = next((one for one in Pressed if quiet(kit, so.ground, so.ink, one) == so), None)
    return QuietView(ground=str(so.ground), ink=str(so.ink), title=_title(kit, so.ground, so.ink), pressed=pressed)
