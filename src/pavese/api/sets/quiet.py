"""Routes for one ground and one ink through a whole set."""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from pavese.api.context import Db
from pavese.api.schemas import Code, Sent, Text
from pavese.api.sets.routes import changed, known_file
from pavese.api.sets.schemas import SetView
from pavese.api.sets.views import OpenSet, open_set
from pavese.core.color.contrast import shown
from pavese.core.errors import InvalidPlanError
from pavese.core.formats import format_of
from pavese.core.formats.mail.places import DARK_PART
from pavese.core.kit.kit import Kit
from pavese.core.kit.token import Token, TokenText, parse_token
from pavese.core.kit.trios import thirds
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.on_pictures import with_pictures_apart, without_pictures_apart
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.quiet import Pressed, Quiet, fitting, grounds_and_inks, kept, pressed_in, quiet, ruled_by
from pavese.core.recolor.site import ON_PICTURES, OUTER, Kind
from pavese.core.recolor.theme import pointing
from pavese.store import sets

#: The parts of files that are told, and what they are called.
_PARTS = {
    OUTER: "Outer ground",
    "/preheader": "Preheaders",
    "/header": "Headers",
    ON_PICTURES: "On pictures",
    "/footer": "Footers",
    DARK_PART: "In the dark",
}
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


class ActionView(BaseModel):
    """A color for what is pressed, of a trio with a ground and an ink; `approved` where that trio is, else its pairs
    are."""

    token: str
    title: str
    hex: str
    ratio: str
    approved: bool


class QuietView(BaseModel):
    """What a set, or a part of its files, stands on and is written in, where that is one ground and one ink; what is
    pressed looks one of the ways, or has a color of its own (`action`)."""

    ground: str
    ink: str
    title: str
    pressed: Pressed | None
    action: str | None


class PartView(BaseModel):
    """A part of files that can go its own way, such as their footers, and in how many files it is found; what it stands
    on and is written in where that is said of it alone, or that it is kept as it came."""

    part: str
    title: str
    files: int
    now: QuietView | None
    kept: bool


class GroundsAndInks(BaseModel):
    """The pairs to choose from, best first, the ways buttons look, the colors that make trios with the pair that all
    stands in, and what is so now: of all, and of parts."""

    pairs: list[GroundAndInkView]
    pressed: list[PressedView]
    actions: list[ActionView]
    now: QuietView | None
    parts: list[PartView]


class GroundAndInkChosen(Sent):
    """One ground and one ink for all, or for a `part` of all files or of one; without them every paint goes its own way
    again, and a part as the rest does, unless it is to be `kept` as it came."""

    ground: TokenText | None = Field(default=None, max_length=90)
    ink: TokenText | None = Field(default=None, max_length=90)
    pressed: Pressed | None = None
    #: A color for what is pressed, in the place of a way.
    action: TokenText | None = Field(default=None, max_length=90)
    part: Annotated[Code, Field(max_length=120, pattern="^/")] | None = None
    file: Annotated[Text, Field(max_length=240)] | None = None
    kept: bool = False


@router.get("/sets/{set_id}/grounds-and-inks")
def get_grounds_and_inks(
    set_id: uuid.UUID, db: Db, file: Annotated[str | None, Query(max_length=240)] = None
) -> GroundsAndInks:
    """What a set can stand on and be written in; with a file, the parts are those that are ruled in it."""
    opened = open_set(db, sets.get(db, set_id))
    kit = opened.kit
    now = ruled_by(opened.plan.rules)
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
        actions=[] if now is None else list(_actions(kit, now)),
        now=_now(kit, now),
        parts=list(_parts(opened) if file is None else _parts_of(opened, file)),
    )


@router.put("/sets/{set_id}/ground-and-ink")
def set_ground_and_ink(set_id: uuid.UUID, sent: GroundAndInkChosen, db: Db) -> SetView:
    """Puts a whole set, or a part of its files, on one ground in one ink, now and when more comes; what was chosen by
    hand stays."""
    opened = open_set(db, sets.get(db, set_id))
    if sent.part is not None:
        return _set_part(db, opened, sent, sent.part)
    chosen = _chosen(opened, sent, lambda: Pressed.ACTION)
    kit, paints = opened.kit, opened.paints

    def made(plan: Plan) -> Plan:
        # What stands on pictures goes its own way where it would not read, unless that was chosen.
        plan = without_pictures_apart(paints, kit, plan)
        if chosen is None:
            return plan.with_(rules={}).by_hand()
        return with_pictures_apart(paints, kit, plan.with_rules(chosen.rules, kit))

    if chosen is None:
        return changed(db, opened, "Every paint its own way", made)
    looks = f"buttons in {kit.title(chosen.button)}" if sent.action else sent.pressed or Pressed.ACTION
    what = f"All in {_title(kit, chosen.ground, chosen.ink)}, {looks}"
    return changed(db, opened, what, made)


def _chosen(opened: OpenSet, sent: GroundAndInkChosen, looks: Callable[[], Pressed]) -> Quiet | None:
    """What was chosen, None for none; where nothing is said of what is pressed, it `looks` so."""
    if sent.ground is None or sent.ink is None:
        return None
    pressed = parse_token(sent.action) if sent.action else sent.pressed or looks()
    return quiet(opened.kit, parse_token(sent.ground), parse_token(sent.ink), pressed)


def _set_part(db: Db, opened: OpenSet, sent: GroundAndInkChosen, part: str) -> SetView:
    kit = opened.kit
    known_file(opened, sent.file)
    if part == DARK_PART and sent.file is not None:
        raise InvalidPlanError("What mails are in the dark is chosen for all of a set.")

    def as_the_rest() -> Pressed:
        now = _now(kit, ruled_by(opened.plan.rules))
        return (now.pressed if now else None) or fitting(opened.paints)

    chosen = _chosen(opened, sent, as_the_rest)
    rules = chosen.rules if chosen is not None else kept() if sent.kept else None
    how = "kept as it came" if sent.kept else "as the rest"
    if chosen is not None:
        how = f"in {_title(kit, chosen.ground, chosen.ink)}"

    def made(plan: Plan) -> Plan:
        plan = plan.with_part_rules(part, rules, kit, sent.file)
        if part != DARK_PART:
            return plan
        return plan.with_act(DarkScheme.key, chosen.in_the_dark if chosen is not None else None)

    return changed(db, opened, f"{_PARTS.get(part, part)}{f' of {sent.file}' if sent.file else ''} {how}", made)


def _parts(opened: OpenSet) -> Iterator[PartView]:
    """The parts that can go their own way in all files; the dark can be added to what does not know it."""
    found = Counter[str]()
    for file in opened.files.facts.values():
        found.update({selector for named in file.inventory.selectors.values() for selector in named})
    found[DARK_PART] = sum(DarkScheme.key in format_of(asset.name).acts for asset in opened.assets)
    for part, title in _PARTS.items():
        if found[part]:
            yield _part(opened, part, title, found[part], opened.plan.part_rules.get(part))


def _parts_of(opened: OpenSet, file: str) -> Iterator[PartView]:
    known_file(opened, file)
    for part, rules in opened.plan.part_rules_of(file).items():
        if pointing(part) is not None:
            # Places of a theme have a panel of their own.
            continue
        yield _part(opened, part, _PARTS.get(part, part), 1, rules)


def _part(opened: OpenSet, part: str, title: str, files: int, rules: Mapping[Kind, str] | None) -> PartView:
    now = None if rules is None else _now(opened.kit, ruled_by(rules))
    return PartView(part=part, title=title, files=files, now=now, kept=rules == kept())


def _title(kit: Kit, ground: Token, ink: Token) -> str:
    return f"{kit.title(ink)} on {kit.title(ground)}"


def _now(kit: Kit, so: Quiet | None) -> QuietView | None:
    if so is None:
        return None
    pressed = pressed_in(kit, so)
    title = _title(kit, so.ground, so.ink)
    action = None if pressed else str(so.button)
    return QuietView(ground=str(so.ground), ink=str(so.ink), title=title, pressed=pressed, action=action)


def _actions(kit: Kit, so: Quiet) -> Iterator[ActionView]:
    """The colors that what is pressed can take beside a ground and an ink."""
    for trio, approved in thirds(kit, so.ground, so.ink):
        try:
            quiet(kit, so.ground, so.ink, trio.graphic)
        except InvalidPlanError:
            # It takes no label.
            continue
        yield ActionView(
            token=str(trio.graphic),
            title=kit.title(trio.graphic),
            hex=kit.resolve(trio.graphic).hex,
            ratio=shown(trio.graphic_ratio),
            approved=approved,
        )
