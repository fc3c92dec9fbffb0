"""Routes of Prove: pairs and what is decided on them, see-through, states, rules, logo and type, the record."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, File, Query, UploadFile
from fastapi.responses import Response

from pavese.api.access import Me
from pavese.api.context import Db, Drawing
from pavese.api.kits.views import kit_view
from pavese.api.proving.schemas import (
    CommentSent,
    CommentView,
    DecisionsSent,
    DiagnosisView,
    Freeing,
    LogoSent,
    LogoView,
    NudgeSent,
    NudgesView,
    PairsView,
    RecordView,
    RulesView,
    SamplesSent,
    SeeThroughSent,
    SeeThroughView,
    StatesView,
    StepsSent,
    TokenSent,
    TrioDecisionsSent,
    TrioView,
    VisionView,
)
from pavese.api.proving.views import (
    diagnosis_view,
    logo_view,
    nudges_view,
    pairs_view,
    record_view,
    rules_view,
    see_through_view,
    states_view,
    trio_views,
    vision_view,
)
from pavese.api.schemas import KitView
from pavese.core.color.vision import Vision
from pavese.core.gather.logo import TakenLogo
from pavese.core.kit.deciding import Judgement, decided, decided_trios
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import Logo, LogoPicture
from pavese.core.kit.nudging import nudged, way_that
from pavese.core.kit.rules import Rules, Use
from pavese.core.kit.samples import Samples
from pavese.core.kit.see_through import SeeThrough
from pavese.core.kit.states import Distances
from pavese.core.kit.token import parse_token
from pavese.render.pixels import freed_of_box, taken_logo
from pavese.store import contents, kits, records
from pavese.store.errors import NotFoundError
from pavese.store.models import KitRow

router = APIRouter(prefix="/api/kits/{kit_id}", tags=["prove"])


class At:
    """A kit in a database session; what the routes below stand on."""

    def __init__(self, kit_id: uuid.UUID, db: Db) -> None:
        self.db = db
        self.row: KitRow = kits.get(db, kit_id)

    @property
    def kit(self) -> Kit:
        """The draft in force."""
        return kits.kit_of(self.db, self.row)

    def change(self, label: str, made: Callable[[Kit], Kit]) -> KitView:
        """Records a change and shows the kit with it."""
        return kit_view(self.db, self.row, kits.change(self.db, self.row, label, made))


LogoSide = Literal["light", "dark"]
#: What stands under its own hash never changes.
_FOREVER = "private, max-age=31536000, immutable"
_VERBS = {Status.APPROVED: "Approve", Status.DECLINED: "Decline", Status.OPEN: "Open"}
Here = Annotated[At, Depends(At, scope="function")]
Severity = Annotated[int, Query(ge=0, le=100)]


@router.get("/pairs")
def get_pairs(at: Here, vision: Vision = Vision.USUAL, severity: Severity = 100) -> PairsView:
    """Every ordered pair with its contrast; with a vision, also how each color looks under it."""
    return pairs_view(at.kit, vision, severity / 100)


@router.get("/diagnosis")
def get_diagnosis(at: Here) -> DiagnosisView:
    """How readable the kit is, in words, and what would help."""
    return diagnosis_view(at.kit)


@router.put("/steps")
def choose_steps(at: Here, sent: StepsSent) -> KitView:
    """Which ramp steps take part in pairs beside the bases."""
    count = len(sent.steps)
    return at.change(f"{count} {'step' if count == 1 else 'steps'} in pairs", lambda kit: _with_steps(kit, sent.steps))


@router.post("/decisions")
def decide_pairs(at: Here, sent: DecisionsSent, me: Me) -> KitView:
    """Approves, declines or opens pairs, all in one step."""
    pairs = [(pair.text, pair.ground) for pair in sent.pairs]
    judgement = Judgement(sent.status, sent.use, me.name, datetime.now(UTC), sent.note)
    what = _pair_title(at.kit, pairs[0]) if len(pairs) == 1 else f"{len(pairs)} pairs"
    return at.change(f"{_VERBS[sent.status]} {what}", lambda kit: decided(kit, pairs, judgement))


@router.get("/nudges")
def get_nudges(at: Here, text: TokenSent, ground: TokenSent, use: Use = Use.BODY) -> NudgesView:
    """The smallest changes that make a pair fit for a use."""
    return nudges_view(at.kit, parse_token(text), parse_token(ground), use)


@router.post("/nudges")
def take_nudge(at: Here, sent: NudgeSent) -> KitView:
    """Takes a nudge into the kit, both sides of it in one step."""
    text, ground = parse_token(sent.text), parse_token(sent.ground)

    def made(kit: Kit) -> Kit:
        return nudged(kit, text, ground, way_that(kit, text, ground, sent.use, sent.changes), sent.taken_as)

    return at.change(f"Nudge {_pair_title(at.kit, (sent.text, sent.ground))}", made)


@router.get("/trios")
def get_trios(at: Here) -> list[TrioView]:
    """Grounds with two foregrounds, from the approved pairs, the most different ones first."""
    return trio_views(at.kit)


@router.post("/trios")
def decide_trios(at: Here, sent: TrioDecisionsSent, me: Me) -> KitView:
    """Approves, declines or opens trios."""
    found = [(trio.ground, trio.title, trio.graphic) for trio in sent.trios]
    judgement = Judgement(sent.status, None, me.name, datetime.now(UTC), sent.note)
    what = "a trio" if len(found) == 1 else f"{len(found)} trios"
    return at.change(f"{_VERBS[sent.status]} {what}", lambda kit: decided_trios(kit, found, judgement))


@router.get("/vision")
def get_vision(at: Here, severity: Severity = 100) -> VisionView:
    """The kit as people with a color vision deficiency see it, and in greyscale."""
    return vision_view(at.kit, severity / 100)


@router.get("/rules")
def get_rules(at: Here) -> RulesView:
    """The usage rules."""
    return rules_view(at.kit)


@router.put("/rules")
def change_rules(at: Here, rules: Rules) -> KitView:
    """Other usage rules; approvals they no longer bear are opened again."""
    return at.change("Change the usage rules", lambda kit: kit.with_(rules=rules))


@router.get("/see-through")
def get_see_through(at: Here) -> list[SeeThroughView]:
    """The see-through settings and what they give for the ramps as they are now."""
    kit = at.kit
    return [see_through_view(kit, setting) for setting in kit.see_through]


@router.put("/see-through")
def change_see_through(at: Here, sent: SeeThroughSent) -> KitView:
    """Other see-through settings."""
    kit = at.kit
    for setting in sent.settings:
        see_through_view(kit, setting)
    return at.change("Change the see-through settings", lambda kit: kit.with_(see_through=tuple(sent.settings)))


@router.post("/see-through/preview")
def preview_see_through(at: Here, setting: SeeThrough) -> SeeThroughView:
    """What a setting would give; nothing is changed."""
    return see_through_view(at.kit, setting)


@router.get("/states")
def get_states(at: Here) -> StatesView:
    """Controls in all their states."""
    return states_view(at.kit)


@router.put("/states")
def change_states(at: Here, distances: Distances) -> KitView:
    """Other distances between the states."""
    return at.change("Change the states of controls", lambda kit: kit.with_(states=distances))


@router.put("/samples")
def change_samples(at: Here, sent: SamplesSent) -> KitView:
    """Other words for previews and sheets."""
    words = Samples(**{field: " ".join(text.split()) for field, text in sent.model_dump().items()})
    return at.change("Change the sample words", lambda kit: kit.with_(samples=words))


@router.get("/logo")
def get_logo(at: Here) -> LogoView:
    """The logo, and how it stands on the grounds of the kit."""
    return logo_view(at.kit)


@router.post("/logo/{ground}")
def bring_logo(at: Here, ground: LogoSide, file: Annotated[UploadFile, File()], drawing: Drawing) -> KitView:
    """Takes a picture of the logo for light or for dark ground."""
    data = file.file.read()
    return with_logo_taken(at, ground, taken_logo(drawing, file.filename or "unnamed", data))


@router.post("/logo/{ground}/freed")
def free_logo(at: Here, ground: LogoSide, sent: Freeing, drawing: Drawing) -> KitView:
    """Takes the box of one color from round the logo."""
    picture = getattr(at.kit.logo, f"on_{ground}")
    if picture is None:
        raise NotFoundError("This kit has no such logo.")
    made = freed_of_box(drawing, picture.name, contents.data(at.db, picture.key), inside=sent.inside)
    return with_logo_taken(at, ground, taken_logo(drawing, picture.name, made))


@router.delete("/logo/{ground}")
def remove_logo(at: Here, ground: LogoSide) -> KitView:
    """Takes a picture of the logo out."""
    return at.change(f"No logo on {ground} ground", lambda kit: _with_logo(kit, **{f"on_{ground}": None}))


@router.patch("/logo")
def change_logo(at: Here, sent: LogoSent) -> KitView:
    """Another clear space or backing of the logo."""
    given = sent.model_dump(exclude_none=True, exclude={"no_backing", "backing"})
    if sent.backing is not None or sent.no_backing:
        given["backing"] = None if sent.no_backing else sent.backing
    if sent.backing is not None:
        at.kit.resolve(parse_token(sent.backing.color))
    return at.change("Space and backing of the logo", lambda kit: _with_logo(kit, **given))


@router.get("/logo/{key}/picture", response_class=Response)
def get_logo_picture(at: Here, key: str) -> Response:
    """A picture of the logo as it came in."""
    return logo_response(at.db, at.kit, key)


@router.get("/comments")
def get_comments(at: Here) -> list[CommentView]:
    """What was said about the kit, newest first."""
    found = records.comments(at.db, at.row.id)
    return [CommentView(who=one.who, about=one.about, text=one.text, at=one.at) for one in found]


@router.post("/comments", status_code=201)
def add_comment(at: Here, sent: CommentSent) -> list[CommentView]:
    """Says something about the kit or a pair of it."""
    records.comment(at.db, at.row.id, sent.about, sent.text)
    return get_comments(at)


@router.get("/records")
def get_records(at: Here, before: Annotated[int | None, Query(ge=0, lt=2**63)] = None) -> list[RecordView]:
    """Who changed what, newest first, a hundred at a time."""
    kit = at.kit
    return [record_view(kit, record) for record in records.listed(at.db, at.row.id, before)]


def logo_response(db: Db, kit: Kit, key: str) -> Response:
    """The bytes of a kit's logo picture. Raises NotFoundError for any other key."""
    found: LogoPicture | None = next(
        (one for one in (kit.logo.on_light, kit.logo.on_dark) if one is not None and one.key == key), None
    )
    if found is None:
        raise NotFoundError("This kit has no such logo.")
    return Response(
        contents.data(db, key),
        media_type=found.media_type,
        headers={"Cache-Control": "private, max-age=31536000, immutable"},
    )


def with_logo_taken(at: At, ground: LogoSide, taken: TakenLogo) -> KitView:
    """The kit with a picture of its logo."""
    contents.keep(at.db, taken.files)
    return at.change(f"Logo on {ground} ground", lambda kit: _with_logo(kit, **{f"on_{ground}": taken.picture}))


def _with_steps(kit: Kit, steps: list[str]) -> Kit:
    for step in steps:
        kit.resolve(parse_token(step))
    return kit.with_(steps=tuple(steps))


def _with_logo(kit: Kit, **fields: object) -> Kit:
    held = {name: getattr(kit.logo, name) for name in Logo.model_fields}
    return kit.with_(logo=Logo(**{**held, **fields}))


def _pair_title(kit: Kit, pair: tuple[str, str]) -> str:
    return " on ".join(kit.title(parse_token(token)) for token in pair)
