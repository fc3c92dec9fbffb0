"""Routes that give files: pictures of them, and the files themselves.

An SVG is data: it leaves here as a drawn picture, or under a policy that lets it do nothing.
"""

from __future__ import annotations

import hashlib
import uuid
from functools import lru_cache
from pathlib import PurePosixPath
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, BackgroundTasks, Query
from fastapi.responses import Response
from sqlalchemy.orm import Session, sessionmaker

from pavese.api.context import Db, Drawing, Readings
from pavese.api.schemas import PackageEntry, PackageView
from pavese.api.set_views import look as look_of
from pavese.api.set_views import open_set
from pavese.core.color.srgb import parse_key
from pavese.core.formats import format_of, read
from pavese.core.formats.document import Document
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.package import free_name, package
from pavese.core.handoff.plan_file import plan_file
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.kit import key_for
from pavese.core.recolor.spotlight import spotlight
from pavese.store import pictures, sets

router = APIRouter(prefix="/api", tags=["files"])

Side = Literal["before", "after"]

_FOREVER = "private, max-age=31536000, immutable"
#: Part of every picture's hash; to be raised when the same input is drawn differently.
_DRAWING = "2"
_SMALL = 100_000


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
) -> Response:
    """A drawn picture: before or after recoloring, or with one paint (`spot`) standing out.

    With the `look` that the set gave, the picture may be kept by the browser for good.
    """
    with readings() as db:
        asset = sets.asset(db, asset_id)
        recoloring = sets.recoloring(db, asset) if side == "after" or spot else {}
        current = look_of(asset, recoloring)
        if spot:
            recoloring = spotlight(sets.inventory(asset).paints, recoloring, parse_key(spot))
        key = hashlib.sha256(f"{_DRAWING} {look_of(asset, recoloring)} {size}".encode()).hexdigest()
        png = pictures.get(db, key)
        data = b"" if png else sets.data(db, asset.digest)
    if png is None:
        png = drawing.png(_document(asset.name, data).for_engine(recoloring), size)
        afterwards.add_task(_keep, readings, key, png)
    fresh = side == "before" or look == current
    return Response(png, media_type="image/png", headers={"Cache-Control": _FOREVER if fresh else "no-store"})


@router.get("/assets/{asset_id}/file", response_class=Response)
def file(asset_id: uuid.UUID, db: Db, side: Side = "after") -> Response:
    """The file itself, as it came or recolored, to be saved."""
    asset = sets.asset(db, asset_id)
    data = sets.data(db, asset.digest)
    if side == "after":
        data = read(asset.name, data).apply(sets.recoloring(db, asset))
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
    entries += [PackageEntry(path=asset.name, what="recolored") for asset in opened.assets]
    return PackageView(name=_package_name(opened.row.name), files=len(opened.assets), entries=entries)


@router.get("/sets/{set_id}/package.zip", response_class=Response)
def package_zip(set_id: uuid.UUID, db: Db) -> Response:
    """The recolored files under their own names, with the kit and the plan."""
    opened = open_set(db, sets.get(db, set_id))
    files = [
        ("kit.css", kit_css(opened.kit).encode()),
        ("kit.tokens.json", kit_tokens(opened.kit).encode()),
        ("plan.json", plan_file(opened.plan, opened.kit).encode()),
    ]
    taken = {path for path, _ in files}
    for asset, data in sets.files(db, opened.assets):
        files.append((free_name(asset.name, taken), read(asset.name, data).apply(opened.resolved)))
    name = _package_name(opened.row.name)
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name)}", "Cache-Control": "no-store"}
    return Response(package(files), media_type="application/zip", headers=headers)


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
