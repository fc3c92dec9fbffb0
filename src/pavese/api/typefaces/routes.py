"""Routes for typefaces: those that ship, and those of a kit."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import FileResponse, Response
from pydantic import Field

from pavese.api.context import Drawing
from pavese.api.proving.routes import Here
from pavese.api.schemas import KitView, Text
from pavese.api.typefaces.schemas import ShippedView, TypeSent, TypeView
from pavese.api.typefaces.views import shipped_views, type_view
from pavese.core.errors import InvalidKitError
from pavese.core.kit.typefaces import SHIPPED
from pavese.render.fonts import SUBSETS
from pavese.render.typefaces import taken_face
from pavese.settings import settings
from pavese.store import contents
from pavese.store.errors import NotFoundError

router = APIRouter(prefix="/api/kits/{kit_id}", tags=["typefaces"])
#: Open to everyone: pages behind a link are set in them.
open_router = APIRouter(prefix="/api/typefaces", tags=["typefaces"])

_FOREVER = "public, max-age=31536000, immutable"
#: Typefaces a kit holds of its own.
_MOST = 12
License = Annotated[Text, Field(min_length=1, max_length=300)]


@open_router.get("")
async def list_typefaces() -> list[ShippedView]:
    """The typefaces that ship."""
    return shipped_views()


@open_router.get("/{slug}-{subset}.woff2", response_class=FileResponse)
async def typeface(slug: str, subset: Literal["latin", "latin-ext"]) -> FileResponse:
    """A part of one of them, for browsers."""
    if slug not in {face.slug for face in SHIPPED} or subset not in SUBSETS:
        raise NotFoundError("No such typeface ships.")
    path = settings().fonts_dir / "web" / f"{slug}-{subset}.woff2"
    return FileResponse(path, media_type="font/woff2", headers={"Cache-Control": _FOREVER})


@router.get("/type")
def get_type(at: Here) -> TypeView:
    """The typefaces of the kit, with what stands in for them, what looks like them, and pairs."""
    return type_view(at.kit)


@router.put("/type")
def change_type(at: Here, sent: TypeSent) -> KitView:
    """Other typefaces, by name."""
    faces = {"headline": " ".join(sent.headline.split()), "text": " ".join(sent.text.split())}
    return at.change("Change the typefaces", lambda kit: kit.with_(type=kit.type.model_copy(update=faces)))


@router.post("/typefaces", status_code=201)
def bring_typeface(
    at: Here, file: Annotated[UploadFile, File()], license: Annotated[License, Form()], drawing: Drawing
) -> KitView:
    """Takes a typeface of the company's own, with what its license allows; one of its name takes its place."""
    taken = taken_face(drawing, file.filename or "unnamed", file.file.read(), " ".join(license.split()))
    kept = [one for one in at.kit.type.own if one.family != taken.face.family]
    if len(kept) >= _MOST:
        raise InvalidKitError(f"A kit holds at most {_MOST} typefaces of its own.")
    contents.keep(at.db, {taken.face.key: taken.data})
    own = (*kept, taken.face)
    return at.change(
        f"Bring the typeface {taken.face.family}",
        lambda kit: kit.with_(type=kit.type.model_copy(update={"own": own})),
    )


@router.delete("/typefaces/{key}")
def remove_typeface(at: Here, key: str) -> KitView:
    """Takes a typeface out of the kit; its name stays where it is said."""
    own = tuple(one for one in at.kit.type.own if one.key != key)
    if len(own) == len(at.kit.type.own):
        raise NotFoundError("This kit has no such typeface.")
    return at.change("Remove a typeface", lambda kit: kit.with_(type=kit.type.model_copy(update={"own": own})))


@router.get("/typefaces/{key}", response_class=Response)
def own_typeface(at: Here, key: str) -> Response:
    """A typeface that was brought along, for browsers."""
    if key not in {one.key for one in at.kit.type.own}:
        raise NotFoundError("This kit has no such typeface.")
    headers = {"Cache-Control": "private, max-age=31536000, immutable"}
    return Response(contents.data(at.db, key), media_type="font/ttf", headers=headers)
