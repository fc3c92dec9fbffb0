"""Routes for the stock library: searched, looked at in the kit's colors, taken into a set with its rights."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel, Field

from pavese.api.context import Db, Drawing, Readings, Working
from pavese.api.schemas import Code, Sent
from pavese.api.sets.drops import dropped
from pavese.api.sets.schemas import SetView
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.gather.stock import StockItem, StockKind, StockLibrary, Wish, search
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import summarize
from pavese.core.recolor.traits import Traits
from pavese.store import kits, sets
from pavese.store.errors import NotFoundError
from pavese.store.facts import facts_of

router = APIRouter(prefix="/api", tags=["stock"])

#: Drawings that one answer lists.
_SHOWN = 120


class StockItemView(BaseModel):
    """A drawing of the stock library."""

    id: str
    title: str
    pack: str
    kind: StockKind
    author: str
    rights: str


class StockView(BaseModel):
    """What was found in the stock library, at most `shown` of `found`, and the packs it has."""

    library: str
    packs: list[str]
    found: int
    items: list[StockItemView]


class FromStock(Sent):
    """Drawings to be added to a set, by their ids."""

    ids: Annotated[list[Annotated[Code, Field(max_length=120)]], Field(min_length=1, max_length=200)]


async def _library(request: Request) -> StockLibrary:
    library: StockLibrary | None = request.app.state.stock
    if library is None:
        raise NotFoundError("No stock library is connected.")
    return library


Library = Annotated[StockLibrary, Depends(_library)]


@router.get("/stock")
def search_stock(
    library: Library,
    db: Db,
    text: Annotated[str, Query(max_length=200)] = "",
    pack: Annotated[str | None, Query(max_length=80)] = None,
    kind: StockKind | None = None,
    several: bool | None = None,
    stroked: bool | None = None,
    like: uuid.UUID | None = None,
) -> StockView:
    """Searches by words (typos forgiven), pack and look; with `like`, what goes with a set comes first."""
    traits: tuple[Traits, ...] = ()
    if like is not None:
        traits = tuple(facts_of(asset).traits for asset in sets.assets(db, sets.get(db, like)))
    items = library.items()
    found = search(items, Wish(text, pack, kind, several, stroked, traits))
    return StockView(
        library=library.name,
        packs=list(dict.fromkeys(item.pack for item in items)),
        found=len(found),
        items=[
            StockItemView(
                id=item.id, title=item.title, pack=item.pack, kind=item.kind, author=item.author, rights=item.rights
            )
            for item in found[:_SHOWN]
        ],
    )


@router.get("/stock/picture.png", response_class=Response)
def stock_picture(
    library: Library,
    db: Db,
    drawing: Drawing,
    id: Annotated[str, Query(max_length=120)],  # it is the name in the address
    kit_id: uuid.UUID | None = None,
    size: Annotated[int, Query(ge=8, le=512)] = 84,
) -> Response:
    """A drawing as it is, or, with a kit, in its colors."""
    item, data = _item(library, id)
    document = read(item.file_name, data)
    colors = {}
    if kit_id is not None:
        kit = kits.kit_of(db, kits.get(db, kit_id))
        colors = assign(summarize([document.inventory()]), kit).resolve(kit)
    png = drawing.png(document.preview(colors), size)
    return Response(png, media_type="image/png", headers={"Cache-Control": "private, max-age=60"})


@router.post("/sets/{set_id}/stock")
def add_from_stock(
    set_id: uuid.UUID, sent: FromStock, library: Library, working: Working, readings: Readings
) -> SetView:
    """Adds drawings to a set; origin, author and rights come along."""
    chosen = [_item(library, item_id) for item_id in dict.fromkeys(sent.ids)]
    named = [
        (f"{item.pack} {item.file_name}" if _twice(item, chosen) else item.file_name, item, data)
        for item, data in chosen
    ]
    rights = {
        name: {"origin": f"{library.name}, {item.pack}", "author": item.author, "rights": item.rights}
        for name, item, _ in named
    }
    result = dropped(set_id, [(name, data) for name, _, data in named], working, readings, rights)
    if result.refused:
        raise RefusedFileError(result.refused[0].name, result.refused[0].reason)
    return result.set


def _twice(item: StockItem, chosen: list[tuple[StockItem, bytes]]) -> bool:
    return sum(other.file_name == item.file_name for other, _ in chosen) > 1


def _item(library: StockLibrary, item_id: str) -> tuple[StockItem, bytes]:
    for item in library.items():
        if item.id == item_id:
            return item, library.file(item_id)
    raise NotFoundError("The stock library has no such drawing.")
