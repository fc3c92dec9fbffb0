"""Routes for exports: ordered, followed, cancelled, fetched."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from datetime import datetime

from fastapi import APIRouter
from fastapi.responses import Response, StreamingResponse
from pydantic import BaseModel

from pavese.api.context import Db, Readings
from pavese.api.files.zips import attached
from pavese.api.sets.views import open_set
from pavese.core.errors import InvalidPlanError
from pavese.core.formats import format_of
from pavese.core.formats.format import Can
from pavese.core.formats.lottie.staging import MOTIONS, Motion
from pavese.core.handoff.export import OUTPUTS, Export, ExportForm
from pavese.core.kit.kit import key_for
from pavese.core.recolor.target import resolve_target
from pavese.store import exports, sets
from pavese.store.exports import State
from pavese.store.models import ExportRow

router = APIRouter(prefix="/api", tags=["exports"])

#: One that can be chosen: what is made of files in motion is offered whichever it is.
_ANY_MOTION = next(iter(MOTIONS))


class ExportFormView(BaseModel):
    """A form that a set can be handed over in; `needs` is what a file must be able to, for it to be made of it (with
    `in_motion`, or be set in motion); `sized` ones are made in the wanted sizes."""

    form: ExportForm
    words: str
    needs: list[Can]
    in_motion: bool
    sized: bool


class ExportView(BaseModel):
    """An export: how far it is, what could not be made, and, when it is done, its size."""

    id: uuid.UUID
    wanted: Export
    state: State
    done: int
    total: int
    notes: list[str]
    who: str
    made_at: datetime
    ended_at: datetime | None


class MotionView(BaseModel):
    """A motion that a still drawing can be set in."""

    motion: Motion
    words: str


class Exports(BaseModel):
    """The exports of a set, newest first, and the forms and motions there are."""

    motions: list[MotionView]

    forms: list[ExportFormView]
    exports: list[ExportView]


@router.get("/sets/{set_id}/exports")
def get_exports(set_id: uuid.UUID, db: Db) -> Exports:
    """The exports of a set, and the forms that can be ordered: those that something in it is made into."""
    row = sets.get(db, set_id)
    there = sets.files_of(db, row).can
    forms = [
        ExportFormView(
            form=form,
            words=output.words,
            needs=sorted(output.needs),
            in_motion=output.in_motion,
            sized=output.sized,
        )
        for form, output in OUTPUTS.items()
        if not there or any(output.of(can, _ANY_MOTION) for can in there)
    ]
    motions = [MotionView(motion=motion, words=score.words) for motion, score in MOTIONS.items()]
    return Exports(motions=motions, forms=forms, exports=[_view(one) for one in exports.listed(db, row.id)])


@router.post("/sets/{set_id}/exports", status_code=201)
def order_export(set_id: uuid.UUID, wanted: Export, db: Db) -> ExportView:
    """Orders a set in other forms, as its plan and kit are now; a worker makes it."""
    opened = open_set(db, sets.get(db, set_id))
    if wanted.ground is not None:
        resolve_target(wanted.ground, opened.kit)
    total = wanted.steps(format_of(asset.name).can for asset in opened.handed)
    if not total or not opened.handed:
        raise InvalidPlanError("The set has no files that these forms are made of.")
    return _view(exports.order(db, opened.row, opened.plan, opened.own_kit, wanted, total))


@router.get("/exports/{export_id}")
def get_export(export_id: uuid.UUID, db: Db) -> ExportView:
    """How far an export is."""
    return _view(exports.get(db, export_id))


@router.post("/exports/{export_id}/cancel")
def cancel_export(export_id: uuid.UUID, db: Db) -> ExportView:
    """Ends an export before it is done; what was made of it is thrown away."""
    return _view(exports.cancel(db, export_id))


@router.get("/exports/{export_id}/result.zip", response_class=Response)
def export_result(export_id: uuid.UUID, db: Db, readings: Readings) -> Response:
    """What was ordered, in one zip."""
    row = exports.get(db, export_id)
    size = exports.result_size(db, export_id)
    name = f"{key_for(sets.get(db, row.set_id).name)}-export.zip"
    headers = attached(name) | {"Content-Length": str(size)}

    def sent() -> Iterator[bytes]:
        with readings() as session:
            yield from exports.result(session, export_id)

    return StreamingResponse(sent(), media_type="application/zip", headers=headers)


def _view(row: ExportRow) -> ExportView:
    return ExportView(
        id=row.id,
        wanted=Export.model_validate(row.wanted),
        state=exports.State(row.state),
        done=row.done,
        total=row.total,
        notes=row.notes,
        who=row.who,
        made_at=row.made_at,
        ended_at=row.ended_at,
    )
