"""Routes for kits and the codes they come from."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, File, Query, UploadFile

from pavese.api.context import Db, Drawing
from pavese.api.editions.schemas import ImportedView
from pavese.api.kits.views import answers_view, base_preview, codes_view, entry_views, kit_view
from pavese.api.schemas import (
    Answers,
    Archived,
    Base,
    BasePreview,
    Candidates,
    CodesText,
    ColorChange,
    KitChange,
    KitEntry,
    KitView,
    NewColor,
    NewColors,
    NewKit,
    NewTints,
    Order,
    Question,
    Variation,
)
from pavese.core.color.parse import parse_color
from pavese.core.color.variations import variations
from pavese.core.errors import InvalidKitError
from pavese.core.gather.candidates import from_codes
from pavese.core.kit.changes import (
    Arrival,
    changed,
    duplicated,
    reordered,
    with_base,
    with_colors,
    with_pin,
    with_tinted,
    without,
)
from pavese.core.kit.codes import find_codes, untaken_in
from pavese.core.kit.kit import Kit, KitColor
from pavese.render.reading import codes_in, kit_in
from pavese.store import contents, kits

router = APIRouter(prefix="/api", tags=["kits"])

#: What is said of a kit whose file names pictures of its logo, or typefaces, of which the bytes are not here.
_NOT_HERE = "Pictures of the logo, or typefaces, are no part of the file: bring them in under Compose."


@router.get("/kits")
def list_kits(db: Db) -> list[KitEntry]:
    """All kits, oldest first."""
    return entry_views(db)


@router.post("/kits", status_code=201)
def start_kit(new: NewKit, db: Db) -> KitView:
    """Starts a kit, with colors at once if there are some."""
    kit = with_colors(Kit(name=new.name), _arrivals(new.colors))
    return kit_view(db, kits.create(db, kit), kit)


@router.get("/kits/{kit_id}")
def get_kit(kit_id: uuid.UUID, db: Db) -> KitView:
    """A kit with its ramps."""
    row = kits.get(db, kit_id)
    return kit_view(db, row, kits.kit_of(db, row))


@router.patch("/kits/{kit_id}")
def change_kit(kit_id: uuid.UUID, change: KitChange, db: Db) -> KitView:
    """Renames a kit."""
    row = kits.get(db, kit_id)
    kit = kits.change(
        db, row, f"Rename the kit to {change.name}", lambda kit: kit.model_copy(update={"name": change.name})
    )
    return kit_view(db, row, kit)


@router.post("/codes")
def read_codes(sent: CodesText, db: Db, kit_id: uuid.UUID | None = None) -> Candidates:
    """The colors in any text; with a kit, also what it has of them already."""
    kit = kits.kit_of(db, kits.get(db, kit_id)) if kit_id else None
    return codes_view(from_codes(find_codes(sent.text)), kit, untaken_in(sent.text))


@router.post("/code-file")
def read_codes_of_file(
    file: Annotated[UploadFile, File()], db: Db, drawing: Drawing, kit_id: uuid.UUID | None = None
) -> Candidates:
    """The colors in a file: a table, design tokens, a deck's theme, or any text."""
    kit = kits.kit_of(db, kits.get(db, kit_id)) if kit_id else None
    return codes_view(from_codes(codes_in(drawing, file.filename or "unnamed", file.file.read())), kit)


@router.post("/kits/{kit_id}/colors", status_code=201)
def add_colors(kit_id: uuid.UUID, new: NewColors, db: Db) -> KitView:
    """Adds colors, all in one step."""
    row = kits.get(db, kit_id)
    label = f"Add {new.colors[0].name}" if len(new.colors) == 1 else f"Add {len(new.colors)} colors"
    return kit_view(db, row, kits.change(db, row, label, lambda kit: with_colors(kit, _arrivals(new.colors))))


@router.patch("/kits/{kit_id}/colors/{key}")
def change_color(kit_id: uuid.UUID, key: str, change: ColorChange, db: Db) -> KitView:
    """Changes a color; everything that points to it, and every color tinted from it, follows."""
    row = kits.get(db, kit_id)
    label = _label(change, kits.kit_of(db, row).color(key))
    return kit_view(
        db, row, kits.change(db, row, label, lambda kit: changed(kit, key, lambda color: _changed(color, change)))
    )


@router.post("/kits/{kit_id}/colors/{key}/preview")
def preview_base(kit_id: uuid.UUID, key: str, sent: Base, db: Db) -> BasePreview:
    """What would follow if a color got another base; nothing is changed."""
    row = kits.get(db, kit_id)
    kit = kits.kit_of(db, row)
    after = changed(kit, key, lambda color: with_base(color, parse_color(sent.code).rgb))
    return base_preview(db, row, kit, after)


@router.post("/kits/{kit_id}/colors/{key}/duplicate", status_code=201)
def duplicate_color(kit_id: uuid.UUID, key: str, db: Db) -> KitView:
    """A copy of a color, right behind it."""
    row = kits.get(db, kit_id)
    label = f"Duplicate {kits.kit_of(db, row).color(key).name}"
    return kit_view(db, row, kits.change(db, row, label, lambda kit: duplicated(kit, key)))


@router.put("/kits/{kit_id}/order")
def reorder_colors(kit_id: uuid.UUID, sent: Order, db: Db) -> KitView:
    """Puts the colors in another order; the line of pennants has it too."""
    row = kits.get(db, kit_id)
    return kit_view(db, row, kits.change(db, row, "Reorder the colors", lambda kit: reordered(kit, sent.keys)))


@router.post("/kits/{kit_id}/tinted", status_code=201)
def add_tinted(kit_id: uuid.UUID, sent: NewTints, db: Db) -> KitView:
    """Adds quiet colors tinted from one of the kit, which follow it."""
    row = kits.get(db, kit_id)
    label = f"Tint {len(sent.shades)} from {kits.kit_of(db, row).color(sent.of).name}"
    strength = sent.strength / 100
    return kit_view(db, row, kits.change(db, row, label, lambda kit: with_tinted(kit, sent.of, sent.shades, strength)))


@router.delete("/kits/{kit_id}/colors/{key}")
def remove_color(kit_id: uuid.UUID, key: str, db: Db) -> KitView:
    """Takes a color out; plans that pointed to it are planned anew for those paints."""
    row = kits.get(db, kit_id)
    label = f"Remove {kits.kit_of(db, row).color(key).name}"
    return kit_view(db, row, kits.change(db, row, label, lambda kit: without(kit, key)))


@router.get("/variations")
def get_variations(code: Annotated[str, Query(max_length=200)]) -> list[Variation]:
    """Colors around a color: lighter and darker, stronger and softer, warmer and cooler."""
    return [
        Variation(direction=direction, colors=[found.hex for found in row], base=base)
        for direction, (row, base) in variations(parse_color(code).rgb).items()
    ]


@router.post("/kits/{kit_id}/ours")
def is_it_ours(kit_id: uuid.UUID, asked: Question, db: Db) -> Answers:
    """Whether a color, or each of a list, is one of ours, and which code to use instead."""
    return answers_view(asked.text, kits.kit_of(db, kits.get(db, kit_id)))


@router.post("/kits/{kit_id}/undo")
def undo_kit(kit_id: uuid.UUID, db: Db) -> KitView:
    """Undoes the last change of the kit."""
    row = kits.get(db, kit_id)
    return kit_view(db, row, kits.undo(db, row))


@router.post("/kits/{kit_id}/redo")
def redo_kit(kit_id: uuid.UUID, db: Db) -> KitView:
    """Does again what was undone."""
    row = kits.get(db, kit_id)
    return kit_view(db, row, kits.redo(db, row))


@router.post("/kits/{kit_id}/copy", status_code=201)
def copy_kit(kit_id: uuid.UUID, sent: KitChange, db: Db) -> KitView:
    """A copy of a kit's draft under another name; editions, sources and sets stay with the original."""
    kit = kits.kit_of(db, kits.get(db, kit_id)).with_(name=sent.name)
    return kit_view(db, kits.create(db, kit, f"Copy as {sent.name}"), kit)


@router.put("/kits/{kit_id}/active")
def activate_kit(kit_id: uuid.UUID, db: Db) -> list[KitEntry]:
    """Makes it the kit everyone starts with."""
    kits.activate(db, kits.get(db, kit_id))
    return list_kits(db)


@router.put("/kits/{kit_id}/archived")
def archive_kit(kit_id: uuid.UUID, sent: Archived, db: Db) -> list[KitEntry]:
    """Puts a kit into the archive, or takes it out again."""
    kits.archive(db, kits.get(db, kit_id), sent.archived)
    return list_kits(db)


@router.post("/kit-file", status_code=201)
def import_kit(file: Annotated[UploadFile, File()], db: Db, drawing: Drawing) -> ImportedView:
    """A kit from a file of design tokens, a style, a table, a deck or any text with codes."""
    found = kit_in(drawing, file.filename or "unnamed", file.file.read())
    kit = found.kit.with_files(contents.known(db, found.kit.files))
    notes = list(found.notes) if kit == found.kit else [*found.notes, _NOT_HERE]
    row = kits.create(db, kit, f"Bring in {kit.name}")
    return ImportedView(id=row.id, name=kit.name, notes=notes)


def _arrivals(new: list[NewColor]) -> list[Arrival]:
    return [Arrival(color.name, color.role, parse_color(color.code).rgb) for color in new]


def _changed(color: KitColor, change: ColorChange) -> KitColor:
    """The color with every field of a change that was given."""
    if change.code is not None:
        color = with_base(color, parse_color(change.code).rgb)
    if change.pin is not None:
        given = change.pin.code
        color = with_pin(color, change.pin.step, parse_color(given).rgb if given is not None else None)
    if change.strength is not None:
        if color.tint is None:
            raise InvalidKitError(f"{color.name} is not tinted from another color.")
        color = color.model_copy(update={"tint": color.tint.model_copy(update={"strength": change.strength / 100})})
    given_words = {"name": change.name, "role": change.role, "note": change.note}
    return color.model_copy(update={field: value for field, value in given_words.items() if value is not None})


def _label(change: ColorChange, old: KitColor) -> str:
    """What a change does, in the words of undo; of several fields the weightiest names it."""
    if change.code is not None:
        return f"Replace the base of {old.name}"
    if change.pin is not None:
        return f"{'Pin' if change.pin.code else 'Let go'} {change.pin.step} of {old.name}"
    if change.strength is not None:
        return f"Tint {old.name} {change.strength} percent"
    if change.role is not None:
        return f"{old.name} becomes {change.role.value}"
    if change.name is not None:
        return f"Rename {old.name} to {change.name}"
    return f"Note on {old.name}"
