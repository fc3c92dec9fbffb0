"""Plans saved by name."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from pavese.core.recolor.plan import Plan
from pavese.store import records
from pavese.store.errors import NotFoundError
from pavese.store.models import SavedPlan


def save(session: Session, kit_id: uuid.UUID, name: str, plan: Plan) -> SavedPlan:
    """Saves the choices and settings of a plan under a name; one of that name is replaced.

    What a plan says of single files belongs to its set and is not saved.
    """
    body = Plan(choices=plan.choices, recipe=plan.recipe, guests=plan.guests).model_dump(mode="json")
    query = select(SavedPlan).where(SavedPlan.kit_id == kit_id, SavedPlan.name == name).with_for_update()
    row = session.scalars(query).first()
    if row is None:
        row = SavedPlan(id=uuid.uuid4(), kit_id=kit_id, name=name, who=records.author(session).name, body=body)
        session.add(row)
    else:
        row.body, row.who = body, records.author(session).name
    session.flush()
    return row


def of_kit(session: Session, kit_id: uuid.UUID) -> Sequence[SavedPlan]:
    """The saved plans of a kit, by name."""
    return session.scalars(select(SavedPlan).where(SavedPlan.kit_id == kit_id).order_by(SavedPlan.name)).all()


def get(session: Session, plan_id: uuid.UUID) -> SavedPlan:
    """One saved plan. Raises NotFoundError."""
    row = session.get(SavedPlan, plan_id)
    if row is None:
        raise NotFoundError("This plan is not saved, or no longer.")
    return row


def content_of(row: SavedPlan) -> Plan:
    """The plan that was saved."""
    return Plan.model_validate(row.body)
