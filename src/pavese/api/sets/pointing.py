"""Routes for what is done where a person points in a picture: things in other colors, parts that go their own way, and
room for a headline."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Annotated, TypeVar

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field, ValidationError
from sqlalchemy.orm import Session

from pavese.api.context import Db, Drawing, Readings
from pavese.api.files.drawn import FOREVER, drawn_of, png_answer
from pavese.api.schemas import Sent
from pavese.api.sets.routes import changed
from pavese.api.sets.schemas import SetView
from pavese.api.sets.views import OpenSet, acts_for, open_set
from pavese.core.color.contrast import shown
from pavese.core.errors import InvalidPlanError
from pavese.core.formats.intake import Came
from pavese.core.formats.picture.pointing import region_of
from pavese.core.recolor.act import Act
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.pointed import (
    MOST_PARTS,
    HeadlineRoom,
    ObjectColors,
    PartWay,
    PicturePart,
    PictureParts,
    PointedAt,
    PointedObject,
    Region,
)
from pavese.core.recolor.target import label, resolve_target
from pavese.render import pointed
from pavese.store import sets
from pavese.store.errors import NotFoundError
from pavese.store.models import AssetRow

_Told = TypeVar("_Told", bound=BaseModel)

#: Pictures that are looked through in one request; how much two regions share from which on they are the same.
_AT_ONCE, _THE_SAME = 4, 0.5

router = APIRouter(prefix="/api", tags=["sets"])


class ThingView(BaseModel):
    """A thing that was pointed at, with the color that it gets."""

    thing: PointedObject
    hex: str
    name: str


class HeadroomView(BaseModel):
    """How well the ink of a headline reads where it reads worst, before and after, and how thick the veil is, in
    percent; None where the ink does not read on the veil itself."""

    before: str
    after: str
    reads: bool
    percent: float | None


class PointedView(BaseModel):
    """What is done to a file where someone pointed; of each part, why the kit's logo does not stand there ("": it does,
    or is not to)."""

    things: list[ThingView]
    parts: list[PicturePart]
    without_logo: list[str]
    headline: HeadlineRoom | None
    headroom: HeadroomView | None


class Things(Sent):
    """All things of a file that get a color."""

    objects: Annotated[list[PointedObject], Field(max_length=8)]


class Parts(Sent):
    """All parts of a file that go their own way."""

    parts: Annotated[list[PicturePart], Field(max_length=MOST_PARTS)]


class PartElsewhere(BaseModel):
    """Where a part of one picture stands in another one; if not `sure`, it perhaps does."""

    asset: uuid.UUID
    name: str
    region: Region
    sure: bool


class PartsElsewhere(BaseModel):
    """What was found of a part in some of the other pictures of a set: `looked` of `total` are looked through now, and
    of these some last ones `failed`, by name."""

    looked: int
    total: int
    found: list[PartElsewhere]
    failed: list[str]


class SamePart(Sent):
    """What becomes of a part wherever it was found."""

    way: PartWay
    found: Annotated[dict[uuid.UUID, Region], Field(min_length=1, max_length=10_000)]


class Headline(Sent):
    """Where a headline will stand on a file, and in what; None for no room."""

    headline: HeadlineRoom | None


def _opened(db: Db, set_id: uuid.UUID, asset_id: uuid.UUID) -> tuple[OpenSet, AssetRow]:
    opened, asset = open_set(db, sets.get(db, set_id)), sets.asset(db, asset_id)
    opened.place_of(asset)
    if ObjectColors.key not in acts_for(asset):
        raise InvalidPlanError(f"{asset.name} is not made of pixels that can be pointed at.")
    return opened, asset


@router.get("/sets/{set_id}/files/{asset_id}/pointed")
def get_pointed(set_id: uuid.UUID, asset_id: uuid.UUID, db: Db, drawing: Drawing) -> PointedView:
    """What is done to a picture where someone pointed, and what comes of it."""
    opened, asset = _opened(db, set_id, asset_id)
    acts = opened.plan.acts_of(asset.name)
    things, headline = acts.get(ObjectColors.key), acts.get(HeadlineRoom.key)
    views = [
        ThingView(thing=one, hex=color.hex, name=label(one.color, opened.kit))
        for one in (things.objects if isinstance(things, ObjectColors) else ())
        if (color := resolve_target(one.color, opened.kit)) is not None
    ]
    own = list(_parts_of(opened.plan, asset.name))
    wanted = sets.becoming(db, asset, opened.changes(asset))
    parts = acts.get(PictureParts.key)
    stays = pointed.logos_that_stay(drawing, wanted) if parts is not None and parts.with_logo else ()
    view = PointedView(things=views, parts=own, without_logo=list(stays), headline=None, headroom=None)
    if not isinstance(headline, HeadlineRoom):
        return view
    found = pointed.headroom(drawing, wanted)
    room = found and HeadroomView(
        before=shown(found.before),
        after=shown(found.after),
        reads=found.after >= headline.size.level,
        percent=None if found.thick is None else round(100 * found.thick, 1),
    )
    return view.model_copy(update={"headline": headline, "headroom": room})


@router.put("/sets/{set_id}/files/{asset_id}/things")
def set_things(set_id: uuid.UUID, asset_id: uuid.UUID, sent: Things, db: Db) -> SetView:
    """Gives things of a picture colors of the kit; without any, it has them as it came."""
    act = ObjectColors(objects=tuple(sent.objects)) if sent.objects else None
    return _given(db, set_id, asset_id, ObjectColors, act)


@router.put("/sets/{set_id}/files/{asset_id}/parts")
def set_parts(set_id: uuid.UUID, asset_id: uuid.UUID, sent: Parts, db: Db) -> SetView:
    """Lets parts of a picture go their own way; without any, it goes by the plan everywhere."""
    act = PictureParts(parts=tuple(sent.parts)) if sent.parts else None
    return _given(db, set_id, asset_id, PictureParts, act)


@router.get("/sets/{set_id}/files/{asset_id}/parts/{number}/elsewhere")
def get_part_elsewhere(
    set_id: uuid.UUID,
    asset_id: uuid.UUID,
    number: int,
    db: Db,
    drawing: Drawing,
    start: Annotated[int, Query(ge=0)] = 0,
) -> PartsElsewhere:
    """Where a part of a picture, by its number, stands in the other pictures of a set: in some of them, from `start`
    on."""
    opened, asset = _opened(db, set_id, asset_id)
    parts = _parts_of(opened.plan, asset.name)
    if not 0 <= number < len(parts):
        raise NotFoundError(f"{asset.name} has no part {number + 1}.")
    others = [one for one in opened.handed if one.id != asset.id and PictureParts.key in acts_for(one)]
    some = others[start : start + _AT_ONCE]
    came = [file for _, file in sets.files(db, some)]
    looked = pointed.found_again(drawing, sets.came(db, asset), parts[number].region, came)
    found = [
        PartElsewhere(asset=other.id, name=other.name, region=region_of(one.found), sure=one.found.sure)
        for other, one in zip(some, looked, strict=True)
        if one.found is not None
    ]
    failed = [other.name for other, one in zip(some, looked, strict=True) if one.failed]
    return PartsElsewhere(looked=start + len(some), total=len(others), found=found, failed=failed)


@router.put("/sets/{set_id}/parts")
def set_same_part(set_id: uuid.UUID, sent: SamePart, db: Db) -> SetView:
    """Lets the same part of several pictures go its own way, in one change; what it lies upon there gives way to it."""
    opened = open_set(db, sets.get(db, set_id))
    names = {one.id: one.name for one in opened.assets if PictureParts.key in acts_for(one)}
    if not sent.found.keys() <= names.keys():
        raise InvalidPlanError("One of the files is not of this set, or not made of pixels.")

    def with_all(plan: Plan) -> Plan:
        for asset_id, region in sent.found.items():
            name = names[asset_id]
            others = [one for one in _parts_of(plan, name) if one.region.shared(region) < _THE_SAME]
            if len(others) == MOST_PARTS:
                raise InvalidPlanError(f"{name} has {MOST_PARTS} parts already, and no more fit.")
            act = PictureParts(parts=(*others, PicturePart(region=region, way=sent.way)))
            plan = plan.with_act(PictureParts.key, act, [name])
        return plan

    count = len(sent.found)
    return changed(db, opened, f"Parts: the same in {count} {'file' if count == 1 else 'files'}", with_all)


def _parts_of(plan: Plan, name: str) -> tuple[PicturePart, ...]:
    act = plan.acts_of(name).get(PictureParts.key)
    return act.parts if isinstance(act, PictureParts) else ()


@router.put("/sets/{set_id}/files/{asset_id}/headline")
def set_headline(set_id: uuid.UUID, asset_id: uuid.UUID, sent: Headline, db: Db) -> SetView:
    """Makes room for a headline on a picture, or takes it away."""
    return _given(db, set_id, asset_id, HeadlineRoom, sent.headline)


def _given(db: Db, set_id: uuid.UUID, asset_id: uuid.UUID, kind: type[Act], act: Act | None) -> SetView:
    opened, asset = _opened(db, set_id, asset_id)
    for target in act.targets if act else ():
        resolve_target(target, opened.kit)
    what = f"{kind.title}: {act.told}" if act else f"No {kind.title.lower()}"
    return changed(db, opened, f"{what}, for {asset.name}", lambda plan: plan.with_act(kind.key, act, [asset.name]))


@router.get("/assets/{asset_id}/thing.png", response_class=Response)
def thing(
    request: Request,
    asset_id: uuid.UUID,
    readings: Readings,
    drawing: Drawing,
    thing: Annotated[str, Query(max_length=60_000)],
    size: Annotated[int, Query(ge=64, le=1024)] = 640,
) -> Response:
    """What belongs to a thing, told as `PointedAt` in JSON: a picture that covers all else."""
    wanted = _read(PointedAt, "Thing", thing)
    what = f"thing {size} {wanted.model_dump_json()}"
    return _cover(request, readings, asset_id, what, lambda file: pointed.thing(drawing, file, wanted, size))


@router.get("/assets/{asset_id}/photograph.png", response_class=Response)
def photograph(
    request: Request,
    asset_id: uuid.UUID,
    readings: Readings,
    drawing: Drawing,
    parts: Annotated[str, Query(max_length=8_000)] = "{}",
    size: Annotated[int, Query(ge=64, le=1024)] = 640,
) -> Response:
    """What of a picture is taken for a photograph, with parts told as `PictureParts` in JSON: a picture that covers all
    else."""
    wanted = _read(PictureParts, "Parts", parts)
    what = f"photograph {size} {wanted.model_dump_json()}"
    return _cover(request, readings, asset_id, what, lambda file: pointed.photograph(drawing, file, wanted, size))


def _read(kind: type[_Told], called: str, text: str) -> _Told:
    try:
        return kind.model_validate_json(text)
    except ValidationError as error:
        first = error.errors()[0]
        raise InvalidPlanError(f"{called}: {'.'.join(map(str, first['loc']))}: {first['msg']}.") from error


def _cover(
    request: Request,
    readings: Readings,
    asset_id: uuid.UUID,
    what: str,
    draw: Callable[[Came], bytes],
) -> Response:
    """A picture that covers some of a file; `what` tells what, and is all that it depends on beside the file."""

    def wanted(_: Session, asset: AssetRow) -> tuple[str, Callable[[Came], bytes]]:
        if ObjectColors.key not in acts_for(asset):
            raise NotFoundError("This file is not made of pixels that can be pointed at.")
        return what, draw

    return png_answer(drawn_of(request, readings, asset_id, wanted), FOREVER)
