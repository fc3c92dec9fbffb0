"""Routes for plans saved by name: one plan for several sets, and for files that come later."""

from __future__ import annotations

import uuid
from functools import partial
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from pavese.api.context import Db
from pavese.api.schemas import Sent, SetName
from pavese.api.sets.schemas import SetView
from pavese.api.sets.views import OpenSet, open_set, replanned, set_view
from pavese.core.recolor.plan import Plan
from pavese.store import saved_plans, sets

router = APIRouter(prefix="/api", tags=["plans"])


class SavedPlanView(BaseModel):
    """A plan saved by name; `known` is how many of the set's `of` paints it has a choice for."""

    id: uuid.UUID
    name: str
    who: str
    known: int
    of: int


class PlanName(Sent):
    """The name under which a plan is saved."""

    name: SetName


class PlanUse(Sent):
    """The sets that are to follow a saved plan."""

    sets: Annotated[list[uuid.UUID], Field(min_length=1, max_length=50)]


@router.get("/sets/{set_id}/plans")
def get_plans(set_id: uuid.UUID, db: Db) -> list[SavedPlanView]:
    """The saved plans of a set's kit, those that know most of its paints first."""
    opened = open_set(db, sets.get(db, set_id))
    return _listed(db, opened)


@router.post("/sets/{set_id}/plans", status_code=201)
def save_plan(set_id: uuid.UUID, sent: PlanName, db: Db) -> list[SavedPlanView]:
    """Saves the plan in force under a name, in the place of one that has it."""
    opened = open_set(db, sets.get(db, set_id))
    saved_plans.save(db, opened.row.kit_id, sent.name, opened.plan)
    return _listed(db, opened)


@router.post("/plans/{plan_id}/use")
def use_plan(plan_id: uuid.UUID, sent: PlanUse, db: Db) -> list[SetView]:
    """Lets sets follow a saved plan: its settings, and its choices for the paints it knows; the rest is planned."""
    row = saved_plans.get(db, plan_id)
    saved = saved_plans.content_of(row)
    changed = []
    for set_id in dict.fromkeys(sent.sets):
        opened = open_set(db, sets.get(db, set_id))
        follow = partial(Plan.following, saved=saved, name=row.name)
        sets.change_plan(db, opened.row, opened.own_kit, opened.paints, f"Plan: {row.name}", follow)
        changed.append(set_view(db, replanned(db, opened)))
    return changed


@router.delete("/plans/{plan_id}", status_code=204)
def forget_plan(plan_id: uuid.UUID, db: Db) -> None:
    """Forgets a saved plan; sets that follow it keep what they have."""
    db.delete(saved_plans.get(db, plan_id))


def _listed(db: Session, opened: OpenSet) -> list[SavedPlanView]:
    keys = [use.paint.key for use in opened.paints.uses]
    views = [
        SavedPlanView(
            id=row.id, name=row.name, who=row.who, known=saved_plans.content_of(row).knows(keys), of=len(keys)
        )
        for row in saved_plans.of_kit(db, opened.row.kit_id)
    ]
    return sorted(views, key=lambda view: (-view.known, view.name))
