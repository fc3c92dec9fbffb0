"""Routes for whoever has a link; nothing here asks for a session."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from typing import Annotated

from fastapi import APIRouter, Depends, Path, Query, Request
from fastapi.responses import Response
from sqlalchemy.orm import Session, sessionmaker

from pavese.api.context import Db, Drawing, Readings
from pavese.api.editions.views import Chosen, handed_over, written
from pavese.api.files.at_hand import PicturesAtHand
from pavese.api.files.drawn import FOREVER, drawn, picture_key, png_answer, there
from pavese.api.files.zips import recolored, zip_answer
from pavese.api.proving.routes import logo_response
from pavese.api.sets.views import fingerprint
from pavese.api.shared.schemas import SharedFile, SharedView
from pavese.api.shared.views import changes_of, file_views, link_published, shared_view
from pavese.core.handoff.deck_template import of_each_layout
from pavese.core.handoff.forms import OPEN_DECKS, KitForm, file_name
from pavese.core.handoff.package import free_name
from pavese.core.handoff.published import SheetWishes
from pavese.core.kit.kit import key_for
from pavese.render import rendering
from pavese.render.pool import DrawingPool
from pavese.store import contents, links, sets
from pavese.store.models import Link

open_router = APIRouter(prefix="/api/shared/{token}", tags=["shared"])

Choosing = Annotated[Chosen, Depends()]
Token = Annotated[str, Path(min_length=8, max_length=100)]


def _link(token: Token, db: Db) -> Link:
    return links.shared(db, token)


Shown = Annotated[Link, Depends(_link)]


@open_router.get("")
def shared_state(link: Shown, db: Db) -> SharedView:
    """The state of a kit that a link leads to."""
    return shared_view(db, link)


@open_router.get("/logo", response_class=Response)
def shared_logo(link: Shown, db: Db, key: str) -> Response:
    """A picture of its logo."""
    return logo_response(db, links.content_of(link).kit, key)


@open_router.get("/hand-over/{form}", response_class=Response)
def shared_hand_over(link: Shown, form: KitForm, chosen: Choosing, db: Db, drawing: Drawing) -> Response:
    """It in a form."""
    return handed_over(link_published(db, link), form, chosen.choice, drawing)


@open_router.get("/everything.zip", response_class=Response)
def shared_everything(link: Shown, db: Db, readings: Readings, drawing: Drawing) -> Response:
    """All of it in one zip: every form, the logo, and the sets that are shown."""
    return zip_answer(f"{key_for(links.content_of(link).kit.name)}.zip", _everything(link, db, readings, drawing))


@open_router.get("/sets/{set_id}/files")
def shared_files(
    link: Shown,
    set_id: uuid.UUID,
    db: Db,
    first: Annotated[int, Query(ge=0, lt=2**31)] = 0,
    most: Annotated[int, Query(ge=1, le=200)] = 60,
) -> list[SharedFile]:
    """Files of a set that it shows."""
    shown = links.set_of(link, set_id)
    return file_views(link, shown, links.files(db, shown, first, most))


@open_router.get("/sets/{set_id}/files.zip", response_class=Response)
def shared_set(link: Shown, set_id: uuid.UUID, db: Db, readings: Readings, drawing: Drawing) -> Response:
    """The recolored files of a set that it shows, in one zip."""
    shown = links.set_of(link, set_id)
    rows = links.files(db, shown)
    return zip_answer(f"{key_for(shown.name)}.zip", recolored(rows, changes_of(link, shown), set(), readings, drawing))


@open_router.get("/files/{file_id}/picture.png", response_class=Response)
def shared_picture(
    request: Request,
    link: Shown,
    file_id: int,
    db: Db,
    readings: Readings,
    drawing: Drawing,
    size: Annotated[int, Query(ge=8, le=1024)] = 128,
) -> Response:
    """A picture of a recolored file."""
    shown, row = links.file(db, link, file_id)
    changes = changes_of(link, shown)(row)
    key = picture_key(fingerprint(row, changes), size)
    at_hand: PicturesAtHand = request.app.state.pictures
    png, reason = there(db, at_hand, key)
    if png is None:
        wanted = sets.becoming(db, row, changes)
        png = drawn(readings, key, reason, lambda: rendering.picture(drawing, wanted, size))
        at_hand.put(key, png, drawn=True)
    return png_answer(png, FOREVER)


def _everything(
    link: Link, db: Session, readings: sessionmaker[Session], drawing: DrawingPool
) -> Iterator[tuple[str, bytes]]:
    given = link_published(db, link)
    forms = [form for form in KitForm if form not in OPEN_DECKS]
    made = [(file_name(given, form), written(given, form, SheetWishes(), drawing)) for form in forms]
    logo = given.kit.logo
    for side, picture in (("on-light", logo.on_light), ("on-dark", logo.on_dark)):
        if picture is not None:
            ending = "svg" if "svg" in picture.media_type else "png"
            made.append((f"logo/{side}.{ending}", contents.data(db, picture.key)))
    shown = [(one.name, links.files(db, one), changes_of(link, one)) for one in link.sets]
    decks = [(file_name(given, form), of_each_layout(given, size)) for form, size in OPEN_DECKS.items()]
    folders: set[str] = set()
    yield from made
    # These take some seconds, while the others are sent.
    for name, deck in decks:
        yield name, rendering.open_deck(drawing, deck, given.kit)
    for name, rows, changes in shown:
        folder = free_name(f"sets/{key_for(name)}", folders)
        for path, data in recolored(rows, changes, set(), readings, drawing):
            yield f"{folder}/{path}", data
