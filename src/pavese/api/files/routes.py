"""Routes that give files: pictures of them, and the files themselves.

An SVG is data: it leaves here as a drawn picture, or under a policy that lets it do nothing.
"""

from __future__ import annotations

import asyncio
import uuid
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from pathlib import PurePosixPath
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field, TypeAdapter
from sqlalchemy.orm import Session, sessionmaker
from starlette.concurrency import run_in_threadpool

from pavese.api.context import Db, Drawing, Readings
from pavese.api.files.at_hand import PicturesAtHand
from pavese.api.files.drawn import FOREVER, drawn, drawn_of, picture_key, png_answer, there
from pavese.api.files.zips import attached, recolored, zip_answer
from pavese.api.sets.choices import alternatives_of, tried
from pavese.api.sets.schemas import AloneView, FrameView, PackageEntry, PackageView, PageFrames, SpotView
from pavese.api.sets.views import OpenSet, file_paints, fingerprint, open_set
from pavese.core.color.srgb import parse_key
from pavese.core.formats import format_of
from pavese.core.formats.format import Can
from pavese.core.formats.intake import Came
from pavese.core.formats.lottie.staging import Motion
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.plan_file import plan_file
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.kit import key_for
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.spotlight import spotlight
from pavese.render import rendering
from pavese.render.pool import DrawingPool
from pavese.render.slides import Framed
from pavese.store import pictures, sets
from pavese.store.errors import NotFoundError
from pavese.store.facts import inventory_of
from pavese.store.models import AssetRow

router = APIRouter(prefix="/api", tags=["files"])

Side = Literal["before", "after"]

#: Paints of one file that are shown by masks; of more, a picture is drawn each.
MOST_MASKS = 48


class PictureWanted(BaseModel):
    """A picture before or after recoloring, or with one paint (`spot`) standing out.

    `of` is the variant whose plan counts (without it the original's), `alternative` one of the plans to choose from,
    `page` one of those in a file that holds several, without what the file is given, `look` the way in which it is
    seen; `kit` and `edition` try the set in another kit. `fingerprint` is the one that the set gave.
    """

    side: Side = "after"
    fingerprint: Annotated[str | None, Field(max_length=64)] = None
    spot: Annotated[str | None, Field(max_length=32)] = None
    size: Annotated[int, Field(ge=8, le=1024)] = 128
    of: uuid.UUID | None = None
    alternative: Annotated[int | None, Field(ge=0, le=11)] = None
    page: Annotated[int | None, Field(ge=0, le=10_000)] = None
    look: Annotated[str, Field(max_length=40)] = ""
    kit: uuid.UUID | None = None
    edition: Annotated[int | None, Field(ge=1)] = None
    anew: bool = False

    @property
    def named(self) -> str | None:
        """The key of the picture where the fingerprint tells it: it names all that the picture depends on."""
        return (
            picture_key(self.fingerprint, self.size, self.page, self.look)
            if self.fingerprint and not self.spot
            else None
        )


@router.get("/assets/{asset_id}/picture.png", response_class=Response)
async def picture(
    request: Request,
    asset_id: uuid.UUID,
    wanted: Annotated[PictureWanted, Query()],
    readings: Readings,
    drawing: Drawing,
) -> Response:
    """A drawn picture of a file. That it cannot be drawn is remembered, and only tried again `anew`. With its
    fingerprint, the browser may keep it for good."""
    at_hand: PicturesAtHand = request.app.state.pictures
    if wanted.named is not None:
        coming = request.app.state.ahead.coming(wanted.named)
        known = at_hand.get(wanted.named) or (await asyncio.wrap_future(coming) if coming else None)
        if known is not None:
            return png_answer(known, FOREVER)
    return await run_in_threadpool(_picture, asset_id, wanted, readings, drawing, at_hand)


def _picture(
    asset_id: uuid.UUID,
    wanted: PictureWanted,
    readings: sessionmaker[Session],
    drawing: DrawingPool,
    at_hand: PicturesAtHand,
) -> Response:
    why = ""
    with readings() as db:
        if wanted.named is not None:
            known, why = pictures.get(db, wanted.named)
            if known is not None:
                at_hand.put(wanted.named, known)
                return png_answer(known, FOREVER)
        asset, changes = _with_changes(db, asset_id, wanted)
        current = fingerprint(asset, changes)
        if wanted.spot:
            paints = inventory_of(asset).paints
            standing_out = Recoloring(spotlight(paints, changes.recoloring, parse_key(wanted.spot)))
            # Nothing else has a color, but what belongs to the file stays as it is shown.
            acts = tuple(act for act in changes.acts if not (act.offered or act.darkens or act.by_place))
            changes = replace(changes, recoloring=standing_out, acts=acts)
        key = picture_key(fingerprint(asset, changes), wanted.size, wanted.page, wanted.look)
        png, reason = (None, why) if key == wanted.named else there(db, at_hand, key)
        file = None if png else sets.becoming(db, asset, changes)
    if png is None and file is not None:
        reason = "" if wanted.anew else reason
        png = drawn(
            readings, key, reason, lambda: rendering.picture(drawing, file, wanted.size, wanted.page, wanted.look)
        )
        at_hand.put(key, png, drawn=True)
    elif png is not None:
        at_hand.put(key, png)
    assert png is not None
    return png_answer(png, FOREVER if wanted.side == "before" or wanted.fingerprint == current else "no-store")


@router.get("/assets/{asset_id}/masks.png", response_class=Response)
def masks(
    request: Request,
    asset_id: uuid.UUID,
    readings: Readings,
    drawing: Drawing,
    size: Annotated[int, Query(ge=8, le=600)] = 128,
    of: uuid.UUID | None = None,
) -> Response:
    """Where each paint of a file stands: masks below each other in the order of its paints' keys, at most MOST_MASKS.

    They depend on the file alone, and with `of` on the acts that it is given there, so browsers may keep them.
    """

    def wanted(db: Session, asset: AssetRow) -> tuple[str, Callable[[Came], bytes]]:
        acts = sets.with_changes(db, asset_id, of)[1].acts if of else ()
        paints = [parse_key(key) for key in sorted(asset.own_paints)][:MOST_MASKS]
        if not paints:
            raise NotFoundError("This file has no paint.")
        return f"masks {size} {acts!r}", lambda file: rendering.masks(drawing, file, paints, acts, size)

    return png_answer(drawn_of(request, readings, asset_id, wanted), FOREVER)


@router.get("/assets/{asset_id}/frames", response_model=list[PageFrames])
def frames(request: Request, asset_id: uuid.UUID, readings: Readings, drawing: Drawing) -> Response:
    """Where the paints of a deck stand on each of its slides. It depends on the file alone, so browsers may keep it."""

    def wanted(_: Session, asset: AssetRow) -> tuple[str, Callable[[Came], bytes]]:
        if Can.SLIDES not in format_of(asset.name).can:
            raise NotFoundError("This file has no slides.")
        return "frames", lambda file: _told(rendering.frames(drawing, file))

    told = drawn_of(request, readings, asset_id, wanted)
    return Response(told, media_type="application/json", headers={"Cache-Control": FOREVER})


def _told(found: Sequence[Framed]) -> bytes:
    views = [
        PageFrames(
            page=one.page,
            columns=one.columns,
            rows=one.rows,
            paints={paint.key: [FrameView(**box._asdict()) for box in boxes] for paint, boxes in one.boxes.items()},
        )
        for one in found
    ]
    return TypeAdapter(list[PageFrames]).dump_json(views)


@router.get("/assets/{asset_id}/motion.json", response_class=Response)
def motion(
    asset_id: uuid.UUID,
    db: Db,
    drawing: Drawing,
    side: Side = "after",
    of: uuid.UUID | None = None,
    motion: Motion | None = None,
) -> Response:
    """An animation for the player: the (first) one that the file holds, or what a motion makes of a still file.

    Raises 404 for a still file without a motion.
    """
    asset, changes = sets.with_changes(db, asset_id, of) if side == "after" else (sets.asset(db, asset_id), Changes())
    if not format_of(asset.name).moves and motion is None:
        raise NotFoundError("This file does not move.")
    data = rendering.moved(drawing, sets.becoming(db, asset, changes), motion)
    return Response(data, media_type="application/json", headers={"Cache-Control": "no-store"})


@router.get("/sets/{set_id}/files/{asset_id}/at")
def paint_at_spot(
    set_id: uuid.UUID,
    asset_id: uuid.UUID,
    db: Db,
    drawing: Drawing,
    x: Annotated[float, Query(ge=0, le=1)],
    y: Annotated[float, Query(ge=0, le=1)],
    look: Annotated[str, Query(max_length=40)] = "",
    page: Annotated[int | None, Query(ge=0, le=10_000)] = None,
) -> SpotView:
    """What paint stands at a spot of a file (from its top left, as parts of its picture in a look, or of that of one of
    its pages), where it goes, and why."""
    asset = sets.asset(db, asset_id)
    opened = open_set(db, sets.get(db, set_id))
    opened.place_of(asset)
    found = rendering.paint_at_spot(drawing, sets.came(db, asset), inventory_of(asset).paints, (x, y), look, page)
    views = {view.key: view for view in file_paints(opened, asset)}
    return SpotView(
        paint=views.get(found.paint.key) if found.paint else None,
        alone=AloneView(**found.alone._asdict()) if found.alone else None,
    )


@router.get("/assets/{asset_id}/file", response_class=Response)
def file(asset_id: uuid.UUID, db: Db, drawing: Drawing, side: Side = "after", of: uuid.UUID | None = None) -> Response:
    """The file itself, as it came or recolored, to be saved."""
    asset, changes = sets.with_changes(db, asset_id, of) if side == "after" else (sets.asset(db, asset_id), Changes())
    one = sets.becoming(db, asset, changes)
    data = one.file.data
    if side == "after":
        [made] = rendering.renditions(drawing, [one])
        data = made.data
    name = PurePosixPath(asset.name).name
    return Response(data, media_type=format_of(asset.name).media_type, headers=attached(name))


@router.get("/sets/{set_id}/package")
def package_view(set_id: uuid.UUID, db: Db) -> PackageView:
    """What the package of a set holds."""
    opened = open_set(db, sets.get(db, set_id))
    entries = [
        PackageEntry(path="kit.css", what="the kit as CSS custom properties"),
        PackageEntry(path="kit.tokens.json", what="the kit as design tokens (DTCG)"),
        PackageEntry(path="plan.json", what="which paint went where; makes the same result again"),
    ]
    return PackageView(name=_package_name(opened.row.name), files=len(opened.handed), entries=entries)


@router.get("/sets/{set_id}/package.zip", response_class=Response)
def package_zip(set_id: uuid.UUID, db: Db, readings: Readings, drawing: Drawing) -> Response:
    """The recolored files under their own names, with the kit and the plan; made while it is sent."""
    opened = open_set(db, sets.get(db, set_id))
    return zip_answer(_package_name(opened.row.name), _packaged(opened, readings, drawing))


def _packaged(opened: OpenSet, readings: sessionmaker[Session], drawing: DrawingPool) -> Iterator[tuple[str, bytes]]:
    kit = [
        ("kit.css", kit_css(opened.kit).encode()),
        ("kit.tokens.json", kit_tokens(opened.own_kit).encode()),
        ("plan.json", plan_file(opened.plan, opened.kit).encode()),
    ]
    yield from kit
    yield from recolored(opened.handed, opened.changes, {path for path, _ in kit}, readings, drawing)


def _with_changes(db: Session, asset_id: uuid.UUID, wanted: PictureWanted) -> tuple[AssetRow, Changes]:
    """A file, and what becomes of it in the picture that is wanted of it, but for a paint that stands out."""
    if wanted.side == "before" and not wanted.spot:
        return sets.asset(db, asset_id), Changes()
    if wanted.alternative is None and wanted.kit is None:
        return sets.with_changes(db, asset_id, wanted.of)
    asset = sets.asset(db, asset_id)
    opened = open_set(db, sets.get(db, wanted.of or asset.set_id))
    if wanted.kit is not None:
        return asset, tried(opened, sets.kit_for(db, wanted.kit, wanted.edition)).changes(asset)
    listed = alternatives_of(opened)
    chosen = listed[min(wanted.alternative or 0, len(listed) - 1)]
    return asset, opened.with_plan(chosen.plan).changes(asset)


def _package_name(name: str) -> str:
    return f"{key_for(name)}.zip"
