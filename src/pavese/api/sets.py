"""Routes for sets: dropping files, choosing targets, checking."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, File, UploadFile

from pavese.api.context import Db
from pavese.api.schemas import Aim, CheckView, DropResult, NewSet, Refusal, SetView
from pavese.api.set_views import check_view, open_set, replanned, set_view
from pavese.core.color.srgb import parse_key
from pavese.core.errors import InvalidPlanError
from pavese.core.formats.intake import take
from pavese.core.recolor.assign import nearest_step
from pavese.core.recolor.plan import label
from pavese.store import history, kits, sets

router = APIRouter(prefix="/api", tags=["sets"])


@router.post("/kits/{kit_id}/sets", status_code=201)
def start_set(kit_id: uuid.UUID, new: NewSet, db: Db) -> SetView:
    """Starts an empty set."""
    kits.get(db, kit_id)
    return set_view(db, open_set(db, sets.create(db, kit_id, new.name)))


@router.get("/sets/{set_id}")
def get_set(set_id: uuid.UUID, db: Db) -> SetView:
    """A set with its paints, files and plan."""
    return set_view(db, open_set(db, sets.get(db, set_id)))


@router.patch("/sets/{set_id}")
def rename_set(set_id: uuid.UUID, new: NewSet, db: Db) -> SetView:
    """Renames a set."""
    row = sets.get(db, set_id)
    row.name = new.name
    return set_view(db, open_set(db, row))


@router.delete("/sets/{set_id}", status_code=204)
def remove_set(set_id: uuid.UUID, db: Db) -> None:
    """Removes a set with its files."""
    sets.remove(db, sets.get(db, set_id))


@router.post("/sets/{set_id}/files")
def drop_files(set_id: uuid.UUID, files: Annotated[list[UploadFile], File()], db: Db) -> DropResult:
    """Takes files and archives of files; what cannot be taken is named with its reason, the rest is kept."""
    row = sets.get(db, set_id)
    intake = take((upload.filename or "unnamed", upload.file.read()) for upload in files)
    kit = kits.kit_of(db, kits.get(db, row.kit_id))
    added = sets.add_files(db, row, intake.taken, kit)
    return DropResult(
        taken=len(added),
        refused=[Refusal(name=error.name, reason=error.reason) for error in intake.refused],
        set=set_view(db, open_set(db, row)),
    )


@router.delete("/assets/{asset_id}")
def remove_file(asset_id: uuid.UUID, db: Db) -> SetView:
    """Takes a file out of its set."""
    asset = sets.asset(db, asset_id)
    db.delete(asset)
    db.flush()
    return set_view(db, open_set(db, sets.get(db, asset.set_id)))


@router.post("/sets/{set_id}/aim")
def aim(set_id: uuid.UUID, sent: Aim, db: Db) -> SetView:
    """Sends paints to a target; all files of the set follow."""
    row = sets.get(db, set_id)
    opened = open_set(db, row)
    if (sent.target is None) == (sent.color is None):
        raise InvalidPlanError("Give either a target or a color of the kit.")
    targets = {}
    for key in dict.fromkeys(sent.paints):
        if sent.color is not None:
            targets[key] = str(nearest_step(parse_key(key).rgb, opened.kit.color(sent.color)))
        else:
            targets[key] = sent.target or ""
    what = sent.paints[0] if len(targets) == 1 else f"{len(targets)} paints"
    where = opened.kit.color(sent.color).name if sent.color else label(sent.target or "", opened.kit)
    sets.choose(db, row, opened.uses, targets, opened.kit, f"{what} to {where}")
    return set_view(db, replanned(db, opened))


@router.post("/sets/{set_id}/plan")
def plan_anew(set_id: uuid.UUID, db: Db) -> SetView:
    """Plans every paint anew; choices made by hand are dropped (undo brings them back)."""
    opened = open_set(db, sets.get(db, set_id))
    sets.plan_anew(db, opened.row, opened.uses, opened.kit)
    return set_view(db, replanned(db, opened))


@router.post("/sets/{set_id}/undo")
def undo_set(set_id: uuid.UUID, db: Db) -> SetView:
    """Undoes the last choice."""
    row = sets.get(db, set_id)
    history.lock(db, row.plan)
    history.undo(db, row.plan)
    return set_view(db, open_set(db, row))


@router.post("/sets/{set_id}/redo")
def redo_set(set_id: uuid.UUID, db: Db) -> SetView:
    """Makes the choice again that was undone."""
    row = sets.get(db, set_id)
    history.lock(db, row.plan)
    history.redo(db, row.plan)
    return set_view(db, open_set(db, row))


@router.get("/sets/{set_id}/check")
def check_set(set_id: uuid.UUID, db: Db) -> CheckView:
    """Which files would still hold paint that is not of the kit."""
    return check_view(db, open_set(db, sets.get(db, set_id)))
