"""Routes for what stands in the source of files: where a color is said, and what is shown in the place of code."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from pavese.api.context import Db, Drawing
from pavese.api.schemas import Sent, Text
from pavese.api.sets.routes import changed
from pavese.api.sets.schemas import SetView
from pavese.api.sets.views import open_set
from pavese.core.color.srgb import parse_key
from pavese.core.recolor import samples
from pavese.core.recolor.samples import Samples
from pavese.core.recolor.site import Kind
from pavese.render import rendering
from pavese.store import sets

router = APIRouter(prefix="/api", tags=["sets"])


class PlaceView(BaseModel):
    """Where a paint stands in the source of a file: the line, what says it, what it does there, and what it becomes."""

    line: int
    said: str
    kind: Kind
    becomes: str


class SamplesChange(Sent):
    """What is shown in the place of code, by what the code says, and which branch of what it asks; what is left out
    shows its name again, or all of its branches."""

    values: Annotated[
        dict[Annotated[Text, Field(max_length=80)], Annotated[Text, Field(max_length=samples.LONGEST)]],
        Field(max_length=samples.MOST),
    ]
    branches: Annotated[
        dict[Annotated[Text, Field(max_length=80)], Annotated[Text, Field(max_length=80)]],
        Field(max_length=samples.MOST, default_factory=dict),
    ]


@router.get("/sets/{set_id}/files/{asset_id}/places")
def get_places(
    set_id: uuid.UUID, asset_id: uuid.UUID, paint: Annotated[str, Query(max_length=40)], db: Db, drawing: Drawing
) -> list[PlaceView]:
    """Where a paint stands in the source of a file, as far as its format tells."""
    opened, asset = open_set(db, sets.get(db, set_id)), sets.asset(db, asset_id)
    opened.place_of(asset)
    to = opened.changes(asset).recoloring
    views = []
    for site, line, said in rendering.places(drawing, sets.came(db, asset), parse_key(paint)):
        color = to.at(site.paint, site.kind, site.selectors) or site.paint.rgb
        views.append(PlaceView(line=line, said=said, kind=site.kind, becomes=color.hex))
    return views


@router.put("/sets/{set_id}/samples")
def set_samples(set_id: uuid.UUID, sent: SamplesChange, db: Db) -> SetView:
    """Shows values in the place of code, and one branch of what it asks; nothing of it is handed over."""
    opened = open_set(db, sets.get(db, set_id))
    given = {name: value for name, value in sent.values.items() if value.strip()}
    act = Samples(values=given, branches=sent.branches) if given or sent.branches else None
    what = f"Sample values {act.told}" if act else "No sample values"
    return changed(db, opened, what, lambda plan: plan.with_act(Samples.key, act))
