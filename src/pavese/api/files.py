"""Routes that give files: pictures of them, and the files themselves.

An SVG is data: it leaves here as a drawn picture, or under a policy that lets it do nothing.
"""

from __future__ import annotations

import hashlib
import uuid
from functools import lru_cache
from io import BytesIO
from pathlib import PurePosixPath
from typing import Annotated, Literal
from urllib.parse import quote

import numpy as np
from fastapi import APIRouter, BackgroundTasks, Query
from fastapi.responses import Response
from PIL import Image
from sqlalchemy.orm import Session, sessionmaker

from pavese.api.choices import alternatives_of, tried
from pavese.api.context import Db, Drawing, Readings
from pavese.api.set_schemas import FileView, PackageEntry, PackageView, SpotView
from pavese.api.set_views import file_paints, open_set
from pavese.api.set_views import look as look_of
from pavese.core.color.contrast import BLACK
from pavese.core.color.srgb import parse_key
from pavese.core.formats import format_of, read
from pavese.core.formats.archive import package
from pavese.core.formats.document import Document
from pavese.core.formats.lottie.staging import Motion
from pavese.core.formats.rendition import animation, rendition
from pavese.core.formats.rendition import drawing as drawn
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.package import free_name
from pavese.core.handoff.plan_file import plan_file
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.kit import key_for
from pavese.core.recolor.dress import Dress
from pavese.core.recolor.measure import paint_at
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.spotlight import mask_recolorings, spotlight
from pavese.store import blobs, pictures, sets
from pavese.store.errors import NotFoundError
from pavese.store.looked_at import inventory_of
from pavese.store.models import AssetRow

router = APIRouter(prefix="/api", tags=["files"])

Side = Literal["before", "after"]

_FOREVER = "private, max-age=31536000, immutable"
#: Part of every picture's hash; to be raised when the same input is drawn differently.
_DRAWING = "4"
#: Paints of one file that are shown by masks; of more, a picture is drawn each.
MOST_MASKS = 48
_SMALL = 100_000
#: Longer side of the picture in which a spot is looked up.
_SPOT_SIDE = 320


@router.get("/assets/{asset_id}/picture.png", response_class=Response)
def picture(
    asset_id: uuid.UUID,
    readings: Readings,
    drawing: Drawing,
    afterwards: BackgroundTasks,
    side: Side = "after",
    look: Annotated[str | None, Query(max_length=64)] = None,
    spot: Annotated[str | None, Query(max_length=32)] = None,
    size: Annotated[int, Query(ge=8, le=1024)] = 128,
    of: uuid.UUID | None = None,
    alternative: Annotated[int | None, Query(ge=0, le=11)] = None,
    part: Annotated[int | None, Query(ge=0, le=10_000)] = None,
    kit: uuid.UUID | None = None,
    edition: Annotated[int | None, Query(ge=1)] = None,
) -> Response:
    """A drawn picture: before or after recoloring, or with one paint (`spot`) standing out.

    `of` is the variant whose plan counts (without it the original's), `alternative` one of the plans to choose from,
    `part` one of the drawings in a file that holds several, without the backing;
    `kit` and `edition` try the set in another kit.
    With the `look` that the set gave, the picture may be kept by the browser for good.
    """
    with readings() as db:
        asset = sets.asset(db, asset_id)
        other = (kit, edition) if kit else None
        dress = _dress(db, asset, of, alternative, other) if side == "after" or spot else Dress()
        current = look_of(asset, dress)
        if spot:
            paints = inventory_of(asset).paints
            dress = Dress(Recoloring(spotlight(paints, dress.recoloring, parse_key(spot))))
        key = hashlib.sha256(f"{_DRAWING} {look_of(asset, dress)} {size} {part}".encode()).hexdigest()
        png = pictures.get(db, key)
        data = b"" if png else blobs.data(db, asset.digest)
    if png is None:
        document = _document(asset.name, data)
        alone = document.for_engine(dress.recoloring, part) if part is not None else drawn(document, dress)
        png = drawing.png(alone, size)
        afterwards.add_task(_keep, readings, key, png)
    fresh = side == "before" or look == current
    return Response(png, media_type="image/png", headers={"Cache-Control": _FOREVER if fresh else "no-store"})


@router.get("/sets/{set_id}/files/{asset_id}")
def get_file(set_id: uuid.UUID, asset_id: uuid.UUID, db: Db) -> FileView:
    """One file of a set: its paints with where they go in it."""
    opened, asset = open_set(db, sets.get(db, set_id)), sets.asset(db, asset_id)
    parts = _document(asset.name, blobs.data(db, asset.digest)).parts
    return FileView(id=asset.id, name=asset.name, parts=list(parts), paints=file_paints(opened, asset))


@router.get("/assets/{asset_id}/masks.png", response_class=Response)
def masks(
    asset_id: uuid.UUID,
    readings: Readings,
    drawing: Drawing,
    afterwards: BackgroundTasks,
    size: Annotated[int, Query(ge=8, le=600)] = 128,
    of: uuid.UUID | None = None,
) -> Response:
    """Where each paint of a file stands: masks below each other in the order of its paints' keys, at most MOST_MASKS.

    They depend on the file alone, and with `of` on the backing that it has there, so browsers may keep them.
    """
    with readings() as db:
        asset = sets.asset(db, asset_id)
        dress = sets.dress(db, asset, of) if of else Dress()
        paints = [parse_key(key) for key in sorted(asset.paints)][:MOST_MASKS]
        key = hashlib.sha256(f"masks {_DRAWING} {asset.digest} {size} {dress.backing!r}".encode()).hexdigest()
        png = pictures.get(db, key)
        data = b"" if png else blobs.data(db, asset.digest)
    if not paints:
        raise NotFoundError("This file has no paint.")
    if png is None:
        document = _document(asset.name, data)
        behind = BLACK if dress.backing else None
        dresses = [Dress(Recoloring(colors), dress.backing, behind) for colors in mask_recolorings(paints)]
        png = drawing.masks([drawn(document, one) for one in dresses], len(paints), size)
        afterwards.add_task(_keep, readings, key, png)
    return Response(png, media_type="image/png", headers={"Cache-Control": _FOREVER})


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
    asset = sets.asset(db, asset_id)
    if not format_of(asset.name).moves and motion is None:
        raise NotFoundError("This file does not move.")
    dress = sets.dress(db, asset, of) if side == "after" else Dress()
    document = _document(asset.name, blobs.data(db, asset.digest))
    data = animation(asset.name, document, dress, motion, drawing.png)
    return Response(data, media_type="application/json", headers={"Cache-Control": "no-store"})


@router.get("/sets/{set_id}/files/{asset_id}/at")
def paint_at_spot(
    set_id: uuid.UUID,
    asset_id: uuid.UUID,
    db: Db,
    drawing: Drawing,
    x: Annotated[float, Query(ge=0, le=1)],
    y: Annotated[float, Query(ge=0, le=1)],
) -> SpotView:
    """What paint stands at a spot of a file (from its top left, as parts of its picture), where it goes, and why."""
    asset = sets.asset(db, asset_id)
    opened = open_set(db, sets.get(db, set_id))
    png = drawing.png(_document(asset.name, blobs.data(db, asset.digest)).for_engine(Recoloring()), _SPOT_SIDE)
    with Image.open(BytesIO(png)) as picture:
        found = paint_at(np.asarray(picture.convert("RGBA")), inventory_of(asset).paints, x, y)
    views = {view.key: view for view in file_paints(opened, asset)}
    return SpotView(paint=views.get(found.key) if found else None)


@router.get("/assets/{asset_id}/file", response_class=Response)
def file(asset_id: uuid.UUID, db: Db, side: Side = "after", of: uuid.UUID | None = None) -> Response:
    """The file itself, as it came or recolored, to be saved."""
    asset = sets.asset(db, asset_id)
    data = blobs.data(db, asset.digest)
    if side == "after":
        data = rendition(read(asset.name, data), sets.dress(db, asset, of))
    name = PurePosixPath(asset.name).name
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}", "Cache-Control": "no-store"}
    return Response(data, media_type=format_of(asset.name).media_type, headers=headers)


@router.get("/sets/{set_id}/package")
def package_view(set_id: uuid.UUID, db: Db) -> PackageView:
    """What the package of a set holds."""
    opened = open_set(db, sets.get(db, set_id))
    entries = [
        PackageEntry(path="kit.css", what="the kit as CSS custom properties"),
        PackageEntry(path="kit.tokens.json", what="the kit as design tokens (DTCG)"),
        PackageEntry(path="plan.json", what="which paint went where; makes the same result again"),
    ]
    entries += [PackageEntry(path=asset.name, what="recolored") for asset in opened.handed]
    return PackageView(name=_package_name(opened.row.name), files=len(opened.handed), entries=entries)


@router.get("/sets/{set_id}/package.zip", response_class=Response)
def package_zip(set_id: uuid.UUID, db: Db) -> Response:
    """The recolored files under their own names, with the kit and the plan."""
    opened = open_set(db, sets.get(db, set_id))
    files = [
        ("kit.css", kit_css(opened.kit).encode()),
        ("kit.tokens.json", kit_tokens(opened.home).encode()),
        ("plan.json", plan_file(opened.plan, opened.kit).encode()),
    ]
    taken = {path for path, _ in files}
    for asset, data in sets.files(db, opened.handed):
        files.append((free_name(asset.name, taken), rendition(read(asset.name, data), opened.dress(asset))))
    name = _package_name(opened.row.name)
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}", "Cache-Control": "no-store"}
    return Response(package(files), media_type="application/zip", headers=headers)


def _dress(
    db: Session,
    asset: AssetRow,
    of: uuid.UUID | None,
    alternative: int | None,
    other: tuple[uuid.UUID, int | None] | None,
) -> Dress:
    if alternative is None and other is None:
        return sets.dress(db, asset, of)
    opened = open_set(db, sets.get(db, of or asset.set_id))
    if other is not None:
        return tried(opened, sets.kit_for(db, *other)).dress(asset)
    listed = alternatives_of(opened)
    chosen = listed[min(alternative or 0, len(listed) - 1)]
    return chosen.plan.dress(opened.home, asset.name, asset.paints)


def _keep(readings: sessionmaker[Session], key: str, png: bytes) -> None:
    with readings() as db:
        pictures.put(db, key, png)


def _document(name: str, data: bytes) -> Document:
    """A file, read; small ones are remembered, since a changed target asks for the same files again at once."""
    return _remembered(name, data) if len(data) <= _SMALL else read(name, data)


@lru_cache(maxsize=160)
def _remembered(name: str, data: bytes) -> Document:
    return read(name, data)


def _package_name(name: str) -> str:
    return f"{key_for(name)}.zip"
