"""Routes for kits and the codes they come from."""

from __future__ import annotations

import uuid

from fastapi import APIRouter
from fastapi.responses import Response

from pavese.api.context import Db
from pavese.api.kit_views import answers_view, candidates_view, kit_view, pairs_view
from pavese.api.schemas import (
    Answers,
    Candidates,
    CodesText,
    ColorChange,
    KitChange,
    KitEntry,
    KitView,
    NewColor,
    NewColors,
    NewKit,
    Pairs,
    Question,
    Variation,
)
from pavese.core.color.parse import parse_color
from pavese.core.color.variations import variations
from pavese.core.errors import InvalidKitError
from pavese.core.handoff.css import kit_css
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.codes import find_codes
from pavese.core.kit.kit import MOST_COLORS, Kit, KitColor, key_for
from pavese.store import history, kits

router = APIRouter(prefix="/api", tags=["kits"])


@router.get("/kits")
def list_kits(db: Db) -> list[KitEntry]:
    """All kits, oldest first."""
    return [
        KitEntry(id=row.id, name=kit.name, colors=[color.base.hex for color in kit.in_line()])
        for row, kit in kits.listed(db)
    ]


@router.post("/kits", status_code=201)
def start_kit(new: NewKit, db: Db) -> KitView:
    """Starts a kit, with colors at once if there are some."""
    kit = _with_colors(Kit(name=new.name), new.colors)
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
    return candidates_view(find_codes(sent.text), kit)


@router.post("/kits/{kit_id}/colors", status_code=201)
def add_colors(kit_id: uuid.UUID, new: NewColors, db: Db) -> KitView:
    """Adds colors, all in one step."""
    row = kits.get(db, kit_id)
    label = f"Add {new.colors[0].name}" if len(new.colors) == 1 else f"Add {len(new.colors)} colors"
    return kit_view(db, row, kits.change(db, row, label, lambda kit: _with_colors(kit, new.colors)))


@router.patch("/kits/{kit_id}/colors/{key}")
def change_color(kit_id: uuid.UUID, key: str, change: ColorChange, db: Db) -> KitView:
    """Changes a color's name, role or base; everything that points to it follows."""
    row = kits.get(db, kit_id)
    old = kits.kit_of(db, row).color(key)
    update: dict[str, object] = {}
    label = f"Change {old.name}"
    if change.name is not None:
        update["name"], label = change.name, f"Rename {old.name} to {change.name}"
    if change.role is not None:
        update["role"], label = change.role, f"{old.name} becomes {change.role.value}"
    if change.code is not None:
        update["base"], label = parse_color(change.code).rgb, f"Replace the base of {old.name}"

    def changed(kit: Kit) -> Kit:
        kit.color(key)
        colors = tuple(c.model_copy(update=update) if c.key == key else c for c in kit.colors)
        return kit.model_copy(update={"colors": colors})

    return kit_view(db, row, kits.change(db, row, label, changed))


@router.delete("/kits/{kit_id}/colors/{key}")
def remove_color(kit_id: uuid.UUID, key: str, db: Db) -> KitView:
    """Takes a color out; plans that pointed to it are planned anew for those paints."""
    row = kits.get(db, kit_id)
    name = kits.kit_of(db, row).color(key).name

    def without(kit: Kit) -> Kit:
        return kit.model_copy(update={"colors": tuple(color for color in kit.colors if color.key != key)})

    return kit_view(db, row, kits.change(db, row, f"Remove {name}", without))


@router.get("/kits/{kit_id}/colors/{key}/variations")
def get_variations(kit_id: uuid.UUID, key: str, db: Db) -> list[Variation]:
    """Colors around a kit color: lighter and darker, stronger and softer, warmer and cooler."""
    color = kits.kit_of(db, kits.get(db, kit_id)).color(key)
    return [
        Variation(direction=direction, colors=[found.hex for found in row], base=base)
        for direction, (row, base) in variations(color.base).items()
    ]


@router.post("/kits/{kit_id}/ours")
def is_it_ours(kit_id: uuid.UUID, asked: Question, db: Db) -> Answers:
    """Whether a color, or each of a list, is one of ours, and which code to use instead."""
    return answers_view(asked.text, kits.kit_of(db, kits.get(db, kit_id)))


@router.post("/kits/{kit_id}/undo")
def undo_kit(kit_id: uuid.UUID, db: Db) -> KitView:
    """Undoes the last change of the kit."""
    row = kits.get(db, kit_id)
    history.lock(db, row.draft)
    history.undo(db, row.draft)
    return kit_view(db, row, kits.kit_of(db, row))


@router.post("/kits/{kit_id}/redo")
def redo_kit(kit_id: uuid.UUID, db: Db) -> KitView:
    """Does again what was undone."""
    row = kits.get(db, kit_id)
    history.lock(db, row.draft)
    history.redo(db, row.draft)
    return kit_view(db, row, kits.kit_of(db, row))


@router.get("/kits/{kit_id}/pairs")
def get_pairs(kit_id: uuid.UUID, db: Db) -> Pairs:
    """Every ordered pair of the kit's colors with its contrast."""
    return pairs_view(kits.kit_of(db, kits.get(db, kit_id)))


@router.get("/kits/{kit_id}/kit.css", response_class=Response)
def get_css(kit_id: uuid.UUID, db: Db) -> Response:
    """The kit as CSS custom properties."""
    text = kit_css(kits.kit_of(db, kits.get(db, kit_id)))
    return Response(text, media_type="text/css", headers=_attached("kit.css"))


@router.get("/kits/{kit_id}/kit.tokens.json", response_class=Response)
def get_tokens(kit_id: uuid.UUID, db: Db) -> Response:
    """The kit as design tokens."""
    text = kit_tokens(kits.kit_of(db, kits.get(db, kit_id)))
    return Response(text, media_type="application/design-tokens+json", headers=_attached("kit.tokens.json"))


def _with_colors(kit: Kit, new: list[NewColor]) -> Kit:
    if len(kit.colors) + len(new) > MOST_COLORS:
        raise InvalidKitError(f"A kit holds at most {MOST_COLORS} colors.")
    colors = list(kit.colors)
    for color in new:
        key = key_for(color.name, (known.key for known in colors))
        colors.append(KitColor(key=key, name=color.name, role=color.role, base=parse_color(color.code).rgb))
    return kit.model_copy(update={"colors": tuple(colors)})


def _attached(name: str) -> dict[str, str]:
    return {"Content-Disposition": f'attachment; filename="{name}"'}
