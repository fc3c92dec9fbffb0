"""Routes for gathering: dropping files, reading pages, boards and their pictures, pins, what stands at a place."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, Depends, File, Query, UploadFile
from fastapi.responses import Response
from sqlalchemy.orm import Session

from pavese.api.context import Db, Drawing, PagePolicy, Pages, PixelStore
from pavese.api.files.zips import attached
from pavese.api.kits.views import candidates_view
from pavese.api.proving import routes as proving
from pavese.api.proving.schemas import Freeing
from pavese.api.schemas import KitView, Refusal
from pavese.api.sources.schemas import (
    AddressSent,
    Dropped,
    Laid,
    LookingSent,
    NewPin,
    PictureChange,
    PictureOrder,
    PinChange,
    Row,
    SourceChange,
    SourceEntry,
    SourceView,
    Spot,
)
from pavese.api.sources.views import entry_view, fingerprint_of, source_view, spot_view, with_palette
from pavese.core.errors import PaveseError, RefusedFileError
from pavese.core.gather.candidates import from_codes
from pavese.core.gather.drop import Sorted
from pavese.core.gather.intake import page_source, picture_source, pin_at, take_pictures
from pavese.core.gather.source import (
    MOST_PICTURES,
    InvalidSourceError,
    Looking,
    Source,
    SourceKind,
    in_rows,
    renumbered,
    with_found,
    with_laid,
    with_order,
    with_picture,
    with_pictures,
    with_pin,
    without_picture,
    without_pin,
)
from pavese.core.handoff.picture_palette import palette_page
from pavese.core.handoff.published import CodeKind
from pavese.core.kit.codes import FoundCode
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo_on_grounds import meant_for_light
from pavese.core.pictures.sample import Reach
from pavese.render.page import WIDTH, LaidOut, PageAsked, saved_page
from pavese.render.pixels import Held, PixelCache, freed_of_box, taken_logo, taken_picture
from pavese.render.pool import DrawingPool
from pavese.render.reading import codes_in, sorted_in
from pavese.store import contents, history, kits, sources
from pavese.store.database import now
from pavese.store.errors import still_named
from pavese.store.models import SourceRow

router = APIRouter(prefix="/api", tags=["sources"])

_FOREVER = "private, max-age=31536000, immutable"
#: Longer side, in pixels, of a picture as it is shown.
_SHOWN = 1600


@dataclass(frozen=True)
class Opened:
    """A source at hand: how it stands, the kit it is for, and its pixels."""

    db: Session
    row: SourceRow
    kit: Kit
    cache: PixelCache

    @property
    def source(self) -> Source:
        """The source as it stands."""
        return sources.source_of(self.db, self.row)

    def held(self, source: Source) -> Held:
        """The source's own picture (the board as it is arranged), decoded once while it is looked at."""
        if source.kind is not SourceKind.BOARD:
            return self.picture(source.pictures[0].digest)
        return self.cache.board(
            fingerprint_of(source), lambda: [self.picture(one.digest) for one in source.pictures], source
        )

    def looked(self, source: Source, looking: Looking) -> Source:
        """The source with its colors found anew."""
        return with_found(source, self.cache.colors(self.held(source), looking.finding()), looking)

    def changed(self, label: str, change: Callable[[Source], Source]) -> SourceView:
        """Carries out a change and shows the source after it."""
        return source_view(self.db, self.row, sources.change(self.db, self.row, label, change), self.kit)

    def shown(self) -> SourceView:
        """The source as it is shown."""
        return source_view(self.db, self.row, self.source, self.kit)

    def picture(self, digest: str) -> Held:
        """One of its pictures."""
        return self.cache.picture(digest, lambda: contents.data(self.db, digest))


def _opened(source_id: uuid.UUID, db: Db, cache: PixelStore) -> Opened:
    row = sources.get(db, source_id)
    return Opened(db, row, kits.kit_of(db, kits.get(db, row.kit_id)), cache)


At = Annotated[Opened, Depends(_opened)]


@router.get("/kits/{kit_id}/sources")
def list_sources(kit_id: uuid.UUID, db: Db) -> list[SourceEntry]:
    """The sources of a kit, oldest first."""
    kits.get(db, kit_id)
    return [entry_view(row, source) for row, source in sources.of_kit(db, kit_id)]


@router.post("/kits/{kit_id}/sources/drop")
def drop(
    kit_id: uuid.UUID,
    files: Annotated[list[UploadFile], File()],
    db: Db,
    cache: PixelStore,
    drawing: Drawing,
    pages: Pages,
) -> Dropped:
    """Takes any files: pictures become one source (several: a board), a page becomes one, lists of codes are read."""
    kit = kits.kit_of(db, kits.get(db, kit_id))
    sorted_ = _sorted(files, drawing, MOST_PICTURES)
    refused = list(sorted_.refused)
    made: SourceView | None = None
    taken = 0
    for name, data in sorted_.pages:
        try:
            made = _keep_page(db, kit_id, pages.read(saved_page(name, data)), cache)
            taken += 1
        except RefusedFileError as error:
            refused.append(error)
        except PaveseError as error:
            refused.append(RefusedFileError(name, str(error)))
    pictures = take_pictures(sorted_.pictures, partial(taken_picture, drawing))
    if pictures.pictures:
        row = sources.create(db, kit_id, picture_source(pictures), pictures.files)
        made = _looked(Opened(db, row, kit, cache))
        taken += len(pictures.pictures)
    codes, bad = _codes(sorted_.codes, drawing)
    return Dropped(
        taken=taken + len(sorted_.codes) - len(bad),
        source=made,
        codes=candidates_view(from_codes(codes), kit),
        refused=[Refusal(name=error.name, reason=error.reason) for error in [*refused, *pictures.refused, *bad]],
    )


@router.post("/kits/{kit_id}/sources/address", status_code=201)
def read_address(
    kit_id: uuid.UUID, sent: AddressSent, db: Db, cache: PixelStore, pages: Pages, policy: PagePolicy
) -> SourceView:
    """Reads a page from its address, where the settings allow it."""
    kits.get(db, kit_id)
    address = sent.address.strip()
    url = address if "://" in address else f"http://{address}"
    return _keep_page(db, kit_id, pages.read(PageAsked(url, policy=policy)), cache)


@router.get("/sources/{source_id}")
def get_source(at: At) -> SourceView:
    """A source with its pins and candidates."""
    return at.shown()


@router.patch("/sources/{source_id}")
def rename_source(sent: SourceChange, at: At) -> SourceView:
    """Renames a source."""

    def renamed(source: Source) -> Source:
        still_named(source.name, sent.was, sent.name)
        return source.model_copy(update={"name": sent.name})

    return at.changed(f"Rename to {sent.name}", renamed)


@router.delete("/sources/{source_id}", status_code=204)
def remove_source(at: At) -> None:
    """Removes a source; colors that came from it stay in the kit."""
    sources.remove(at.db, at.row)


@router.post("/sources/{source_id}/undo")
def undo_source(at: At) -> SourceView:
    """Undoes the last change."""
    history.lock(at.db, at.row.draft)
    history.undo(at.db, at.row.draft)
    return at.shown()


@router.post("/sources/{source_id}/redo")
def redo_source(at: At) -> SourceView:
    """Makes the change again that was undone."""
    history.lock(at.db, at.row.draft)
    history.redo(at.db, at.row.draft)
    return at.shown()


@router.post("/sources/{source_id}/pictures")
def add_pictures(files: Annotated[list[UploadFile], File()], at: At, drawing: Drawing) -> Dropped:
    """Adds pictures to a board; a single picture becomes a board by it."""
    room = MOST_PICTURES - len(at.source.pictures)
    sorted_ = _sorted(files, drawing, room)
    taken = take_pictures(sorted_.pictures, partial(taken_picture, drawing), room)
    refused = [*sorted_.refused, *taken.refused]
    refused += [RefusedFileError(name, "this is no picture.") for name, _ in [*sorted_.pages, *sorted_.codes]]
    contents.keep(at.db, taken.files)

    def filled(source: Source) -> Source:
        source = with_pictures(source, taken.pictures)
        return at.looked(source, source.looking)

    count = len(taken.pictures)
    label = f"Add {count} {'picture' if count == 1 else 'pictures'}"
    return Dropped(
        taken=count,
        source=at.changed(label, filled) if count else at.shown(),
        codes=[],
        refused=[Refusal(name=error.name, reason=error.reason) for error in refused],
    )


@router.put("/sources/{source_id}/order")
def order_pictures(sent: PictureOrder, at: At) -> SourceView:
    """Puts the pictures of a board in another order."""
    return at.changed("Reorder the pictures", lambda source: with_order(source, sent.ids))


@router.patch("/sources/{source_id}/pictures/{picture_id}")
def change_picture(picture_id: str, sent: PictureChange, at: At) -> SourceView:
    """Says where a picture is from, who made it and what may be done with it, or resizes it on its board."""
    given = {field: value for field, value in sent.model_dump().items() if value is not None}

    def changed(source: Source) -> Source:
        return with_picture(source, source.picture(picture_id).model_copy(update=given))

    return at.changed(f"{' and '.join(given) or 'Nothing'} of {at.source.picture(picture_id).name}", changed)


@router.put("/sources/{source_id}/pictures/{picture_id}/place")
def lay_picture(picture_id: str, sent: Laid, at: At) -> SourceView:
    """Lays a picture on its board by hand, showing a part of it; the others stay where they are."""
    name = at.source.picture(picture_id).name
    return at.changed(f"Lay {name}", lambda source: with_laid(source, picture_id, sent.lies, sent.part.part()))


@router.delete("/sources/{source_id}/places")
def set_in_rows(at: At) -> SourceView:
    """Sets the pictures of a board in rows again; what is cut away of them stays so."""
    return at.changed("Set the pictures in rows", in_rows)


@router.get("/sources/{source_id}/pictures/{picture_id}/picture", response_class=Response)
def picture_alone(
    picture_id: str,
    at: At,
    digest: Annotated[str | None, Query(max_length=128)] = None,
    side: Annotated[int, Query(ge=16, le=_SHOWN)] = _SHOWN,
) -> Response:
    """One picture of a board, all of it, its longer side at most `side` pixels."""
    picture = at.source.picture(picture_id)
    data, media_type = at.cache.shown(at.picture(picture.digest), side)
    headers = {"Cache-Control": _FOREVER if digest == picture.digest else "no-store"}
    return Response(data, media_type=media_type, headers=headers)


@router.delete("/sources/{source_id}/pictures/{picture_id}")
def remove_picture(picture_id: str, at: At) -> SourceView:
    """Takes a picture off a board, with the pins on it."""
    label = f"Remove {at.source.picture(picture_id).name}"
    return at.changed(label, lambda source: without_picture(source, picture_id))


@router.post("/sources/{source_id}/pictures/{picture_id}/freed")
def free_picture(picture_id: str, sent: Freeing, at: At, drawing: Drawing) -> SourceView:
    """Takes the box of one color from round what a picture shows, and finds its colors anew."""
    picture = at.source.picture(picture_id)
    made = freed_of_box(drawing, picture.name, contents.data(at.db, picture.original), inside=sent.inside)
    taken = taken_picture(drawing, picture.name, made)
    contents.keep(at.db, {taken.picture.original: made, taken.picture.digest: taken.pixels_file})

    def changed(source: Source) -> Source:
        said = {field: getattr(picture, field) for field in ("id", "scale", "lies", "origin", "author", "rights")}
        source = with_picture(source, taken.picture.model_copy(update=said))
        return at.looked(source, source.looking.model_copy(update={"leave_out_ground": True}))

    return at.changed(f"Free {picture.name} of its box", changed)


@router.post("/sources/{source_id}/pictures/{picture_id}/logo")
def picture_as_logo(picture_id: str, at: At, drawing: Drawing) -> KitView:
    """Makes a picture the logo of the kit, for the ground, light or dark, on which it stands out more."""
    picture = at.source.picture(picture_id)
    taken = taken_logo(drawing, picture.name, contents.data(at.db, picture.original))
    side: proving.LogoSide = "light" if meant_for_light(taken.picture) else "dark"
    return proving.with_logo_taken(proving.At(at.row.kit_id, at.db), side, taken)


@router.post("/sources/{source_id}/find")
def find(sent: LookingSent, at: At) -> SourceView:
    """Finds the colors of the picture anew; pins set by hand stay."""
    looking = Looking(**sent.model_dump())
    return at.changed(f"Find {sent.count} colors, {sent.lean}", lambda source: at.looked(source, looking))


@router.post("/sources/{source_id}/pins", status_code=201)
def set_pin(sent: NewPin, at: At) -> SourceView:
    """Sets a pin."""
    return at.changed(
        f"Set pin {len(at.source.pins) + 1}",
        lambda source: with_pin(source, pin_at(source, at.held(source).pixels, sent.x, sent.y, sent.reach)),
    )


@router.patch("/sources/{source_id}/pins/{number}")
def move_pin(number: int, sent: PinChange, at: At) -> SourceView:
    """Moves a pin, samples more or fewer pixels under it, or gives it another number."""

    def moved(source: Source) -> Source:
        pin = source.pin(number)
        if sent.x is not None or sent.y is not None or sent.reach is not None:
            if (sent.x is None or sent.y is None) and not source.shows(pin):
                raise InvalidSourceError(f"What is under pin {number} is cut away or covered; move the pin first.")
            x, y = source.spot(pin)
            x, y = (x if sent.x is None else sent.x), (y if sent.y is None else sent.y)
            source = with_pin(source, pin_at(source, at.held(source).pixels, x, y, sent.reach or pin.reach), number)
        return source if sent.number is None else renumbered(source, number, sent.number)

    return at.changed(f"Move pin {number}" if sent.number is None else f"Pin {number} becomes {sent.number}", moved)


@router.delete("/sources/{source_id}/pins/{number}")
def remove_pin(number: int, at: At) -> SourceView:
    """Removes a pin; those behind it move up."""
    return at.changed(f"Remove pin {number}", lambda source: without_pin(source, number))


@router.get("/sources/{source_id}/spot")
def look_at_spot(at: At, x: Annotated[Row, Query()], y: Annotated[Row, Query()], reach: Reach = Reach.POINT) -> Spot:
    """What stands at a place of the picture, and whether the kit has it; nothing is changed."""
    source = at.source
    return spot_view(at.held(source).pixels, x, y, reach, at.kit)


@router.get("/sources/{source_id}/picture", response_class=Response)
def picture(
    at: At,
    fingerprint: Annotated[str | None, Query(max_length=64)] = None,
    side: Annotated[int, Query(ge=16, le=_SHOWN)] = _SHOWN,
) -> Response:
    """The source's own picture to be looked at, its longer side at most `side` pixels."""
    source = at.source
    data, media_type = at.cache.shown(at.held(source), side)
    headers = {"Cache-Control": _FOREVER if fingerprint == fingerprint_of(source) else "no-store"}
    return Response(data, media_type=media_type, headers=headers)


@router.get("/sources/{source_id}/picture.png", response_class=Response)
def picture_file(at: At) -> Response:
    """The board or picture on white, to be saved."""
    source = at.source
    png = at.cache.on_white(at.held(source))
    headers = {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(source.name)}.png"}
    return Response(png, media_type="image/png", headers=headers)


@router.get("/sources/{source_id}/palette.{kind}", response_class=Response)
def picture_with_palette(at: At, kind: Literal["png", "pdf"], drawing: Drawing) -> Response:
    """The board or picture with its pins, and beside it their swatches with names and codes, to be handed over."""
    source = at.source
    made = palette_page(with_palette(source, at.kit, at.cache.on_white(at.held(source))), (CodeKind.HEX, CodeKind.RGB))
    body = drawing.page(made) if kind == "png" else drawing.pdf(made, now(at.db).date())
    media_type = "image/png" if kind == "png" else "application/pdf"
    return Response(body, media_type=media_type, headers=attached(f"{source.name} with its palette.{kind}"))


def _sorted(files: list[UploadFile], drawing: DrawingPool, room: int) -> Sorted:
    found = Sorted()
    for upload in files:
        found.add(sorted_in(drawing, upload.filename or "unnamed", upload.file.read(), room))
    return found


def _looked(at: Opened) -> SourceView:
    """A new source with its colors found; that is not a step one would undo."""
    source = at.source
    found = at.looked(source, source.looking)
    history.amend(at.db, at.row.draft, found.model_dump(mode="json"))
    return at.shown()


def _keep_page(db: Session, kit_id: uuid.UUID, page: LaidOut, cache: PixelCache) -> SourceView:
    source, kept = page_source(page.url, page.title, page.elements, (WIDTH, page.height), page.png, page.notes)
    row = sources.create(db, kit_id, source, kept)
    return Opened(db, row, kits.kit_of(db, kits.get(db, kit_id)), cache).shown()


def _codes(files: list[tuple[str, bytes]], drawing: DrawingPool) -> tuple[list[FoundCode], list[RefusedFileError]]:
    found: list[FoundCode] = []
    bad: list[RefusedFileError] = []
    for name, data in files:
        try:
            codes = codes_in(drawing, name, data)
        except RefusedFileError as error:
            bad.append(error)
            continue
        if codes:
            found += codes
        else:
            bad.append(RefusedFileError(name, "no color code is in it, and it is no picture and no page."))
    return found, bad
