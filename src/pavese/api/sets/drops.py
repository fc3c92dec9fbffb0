"""Routes for drops: begun, received in any number of requests, followed, cancelled."""

from __future__ import annotations

import time
import uuid
from collections.abc import Mapping, Sequence
from typing import Annotated

from fastapi import APIRouter, File, Query, Request, UploadFile
from fastapi.responses import Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session, sessionmaker
from starlette.concurrency import run_in_threadpool

from pavese.api.context import Begin, Db, Drawing, Readings, Working
from pavese.api.problems import problem
from pavese.api.schemas import Refusal, Sent
from pavese.api.sets.schemas import SetView
from pavese.api.sets.views import open_set, set_view
from pavese.core import limits
from pavese.render import rendering
from pavese.store import contents, drops, records, sets
from pavese.store.drops import DropState
from pavese.store.errors import StoreError
from pavese.store.models import DropRow

router = APIRouter(prefix="/api", tags=["drops"])

#: How long a request waits for a small drop to be read and planned, and how often it looks.
_WAIT_SECONDS = 120.0
_LOOK_SECONDS = 0.02
#: How much of the name of a set stands in that of one that begins with what it did not take.
_NAME = 100


class DropResult(BaseModel):
    """What became of a drop, and the set with it."""

    taken: int
    refused: list[Refusal]
    set: SetView


class NewDrop(Sent):
    """A drop to be begun, of so many files as one sees them; an archive is one."""

    files: Annotated[int, Field(ge=1, le=limits.SET_FILES)]


class DropView(BaseModel):
    """How far a drop is: files that are `expected`, have `arrived`, were `read` (with those inside of archives) and
    `taken`; of `refusals` the first are listed. `receiving` ones wait for more, `ended` ones are planned: so many
    paints were new and `planned`, so many had a target before and `stood`. So many of the refused are `left` for sets
    of other channels, by channel, and can be brought to such at once. One is `mine` that who asks began."""

    id: uuid.UUID
    expected: int
    arrived: int
    read: int
    taken: int
    planned: int
    stood: int
    refusals: int
    refused: list[Refusal]
    left: dict[str, int]
    mine: bool
    receiving: bool
    ended: bool


class BroughtSet(BaseModel):
    """A set that was begun with files which another could not take."""

    set_id: uuid.UUID
    name: str
    files: int


@router.post("/sets/{set_id}/drops", status_code=201)
def begin_drop(set_id: uuid.UUID, new: NewDrop, db: Db) -> DropView:
    """Begins a drop of so many files; they are sent next, in any number of requests."""
    return drop_view(db, drops.begin(db, sets.get(db, set_id), new.files))


@router.get("/sets/{set_id}/drops/latest")
def get_latest_drop(set_id: uuid.UUID, db: Db) -> DropView | None:
    """The drop into a set that began last, so that whoever comes back sees where it stands."""
    row = drops.latest(db, sets.get(db, set_id))
    return None if row is None else drop_view(db, row)


@router.get("/drops/{drop_id}")
def get_drop(drop_id: uuid.UUID, db: Db) -> DropView:
    """How far a drop is."""
    return drop_view(db, drops.get(db, drop_id))


@router.post("/drops/{drop_id}/files")
def send_files(drop_id: uuid.UUID, files: Annotated[list[UploadFile], File()], db: Db, drawing: Drawing) -> DropView:
    """Receives files of a drop; what came before under the same name and size is not taken twice."""
    rendering.expect(drawing, map(_name, files))
    row = drops.get(db, drop_id)
    drops.receive(db, row, [(_name(upload), upload.file.read()) for upload in files])
    return drop_view(db, row)


@router.put("/drops/{drop_id}/piece", response_model=DropView)
async def send_piece(
    drop_id: uuid.UUID,
    request: Request,
    working: Working,
    name: Annotated[str, Query(min_length=1, max_length=1000)],
    size: Annotated[int, Query(ge=1, lt=2**53)],
    offset: Annotated[int, Query(ge=0, lt=2**53)],
) -> DropView | Response:
    """Receives one piece of a large file: 1 MiB of it, less only at its end. It may be sent again after a failure.

    A file that is too large is refused with its first piece, and the rest of the drop goes on.
    """
    if size > limits.PACKED_BYTES:
        reason = f"it is larger than {limits.PACKED_BYTES // limits.MEGABYTE} MB."
        await run_in_threadpool(_refused, working, drop_id, name, reason)
        return problem(request, 413, "Too large", f"{name}: {reason}")
    data = bytearray()
    async for chunk in request.stream():
        data += chunk
        if len(data) > contents.PIECE:
            break

    def kept() -> DropView:
        with working() as db:
            row = drops.get(db, drop_id)
            drops.receive_piece(db, row, name, size, offset, bytes(data))
            return drop_view(db, row)

    return await run_in_threadpool(kept)


@router.post("/drops/{drop_id}/close")
def close_drop(drop_id: uuid.UUID, db: Db) -> DropView:
    """Says that all files have been sent; once they are read, the set is planned."""
    row = drops.get(db, drop_id)
    drops.close(db, row)
    return drop_view(db, row)


@router.post("/drops/{drop_id}/cancel")
def cancel_drop(drop_id: uuid.UUID, db: Db) -> DropView:
    """Leaves out what has not been read yet; what was taken stays."""
    row = drops.get(db, drop_id)
    drops.cancel(db, row)
    return drop_view(db, row)


@router.post("/drops/{drop_id}/left", status_code=201)
def bring_left(drop_id: uuid.UUID, db: Db) -> list[BroughtSet]:
    """Begins a set for each channel whose files came with a drop into a set that does not take them, and brings them
    there; they are read as if they had just been dropped."""
    row = drops.get(db, drop_id, hold=True)
    left = drops.left(db, row)
    if not left:
        raise StoreError("These files are no longer at hand; drop them again.")
    origin = sets.get(db, row.set_id)
    made = []
    for channel, files in left.items():
        new = sets.create(db, origin.kit_id, f"{origin.name[:_NAME]}, {channel}", channel)
        drops.bring(db, row, channel, new)
        made.append(BroughtSet(set_id=new.id, name=new.name, files=files))
    drops.forget_left(db, row)
    return made


@router.delete("/drops/{drop_id}/refusals", status_code=204)
def forget_refusals(drop_id: uuid.UUID, db: Db) -> None:
    """Puts away what a drop that has ended was refused: it is read, and not told again."""
    drops.forget_refusals(db, drops.get(db, drop_id, hold=True))


@router.post("/sets/{set_id}/files")
def drop_files(
    set_id: uuid.UUID,
    files: Annotated[list[UploadFile], File()],
    working: Working,
    readings: Readings,
    drawing: Drawing,
) -> DropResult:
    """A small drop in one request: received, read and planned when it answers."""
    rendering.expect(drawing, map(_name, files))
    return dropped(set_id, [(_name(upload), upload.file.read()) for upload in files], working, readings)


def dropped(
    set_id: uuid.UUID,
    files: Sequence[tuple[str, bytes]],
    begin: Begin,
    readings: sessionmaker[Session],
    rights: Mapping[str, Mapping[str, str]] | None = None,
) -> DropResult:
    """Has files read into a set and waits until it is planned. Raises StoreError when that takes too long."""
    with begin() as db:
        row = drops.begin(db, sets.get(db, set_id), len(files))
        drops.receive(db, row, files, rights)
        drops.close(db, row)
        drop_id = row.id
    ends = time.monotonic() + _WAIT_SECONDS
    while True:
        with readings() as db:
            view = drop_view(db, drops.get(db, drop_id))
        if view.ended:
            break
        if time.monotonic() > ends:
            raise StoreError("The files have come and are still being read; they will be in the set once that is done.")
        time.sleep(_LOOK_SECONDS)
    with begin() as db:
        return DropResult(taken=view.taken, refused=view.refused, set=set_view(db, open_set(db, sets.get(db, set_id))))


def _refused(working: Begin, drop_id: uuid.UUID, name: str, reason: str) -> None:
    with working() as db:
        drops.refuse(db, drops.get(db, drop_id), name, reason)


def drop_view(db: Session, row: DropRow) -> DropView:
    """A drop as it is shown."""
    count, listed = drops.refusals(db, row)
    return DropView(
        id=row.id,
        expected=row.expected,
        arrived=max(drops.arrived(db, row), row.read) if row.state in drops.OPEN else row.expected,
        read=row.read,
        taken=row.taken,
        planned=row.planned,
        stood=row.stood,
        refusals=count,
        refused=[Refusal(name=one.name, reason=one.reason) for one in listed],
        left=drops.left(db, row),
        mine=row.who == records.author(db).name,
        receiving=row.state == DropState.RECEIVING,
        ended=row.ended_at is not None,
    )


def _name(upload: UploadFile) -> str:
    return upload.filename or "unnamed"
