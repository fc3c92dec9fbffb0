"""Routes for the themes of a set of decks: which color of the kit goes to which of their places."""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Iterator, Mapping
from enum import StrEnum
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from pavese.api.context import Db
from pavese.api.kits.views import kit_view
from pavese.api.schemas import Code, KitView, Sent
from pavese.api.sets.routes import changed
from pavese.api.sets.schemas import SetView
from pavese.api.sets.views import OpenSet, open_set
from pavese.core.color.srgb import Rgba
from pavese.core.errors import InvalidPlanError
from pavese.core.kit.deck_theme import PLACES, ThemePlace
from pavese.core.kit.kit import Kit
from pavese.core.recolor.inventory import PaintUse
from pavese.core.recolor.proposed_theme import theme_for
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import TargetText, label, resolve_target, token_of
from pavese.core.recolor.theme import most_seen, places_ruled, pointing, theme_title, themes_ruled
from pavese.store import kits, sets

router = APIRouter(prefix="/api", tags=["sets"])

#: Colors of one place that are shown, of decks whose themes differ.
_SHOWN = 6


class ThemePlaceView(BaseModel):
    """A place of the themes of a set: the colors that stand in it now, what it is used for, the target that it goes to,
    and the one that is proposed."""

    slot: str
    title: str
    was: list[str]
    used: list[Kind]
    target: str | None
    target_name: str
    target_hex: str
    proposed: str | None
    proposed_name: str


class OfKit(StrEnum):
    """Whether the places of a set go where the kit's own theme says, elsewhere, or the kit says nothing of them."""

    SAME = "same"
    OTHER = "other"
    NONE = "none"


class BroughtTheme(BaseModel):
    """A theme that stands beside others in a deck, as slides that were pasted in bring them: its key, its name, in how
    many decks it does, and how many of its places go another way than those of all themes."""

    key: str
    title: str
    files: int
    own: int


class ThemeView(BaseModel):
    """The places of the themes of a set, in their order; none where its files have no themes. `themes` are those that
    stand beside others in a deck."""

    places: list[ThemePlaceView]
    as_proposed: bool
    of_kit: OfKit
    themes: list[BroughtTheme]


_ThemeKey = Annotated[Code, Field(max_length=60, pattern=r"^[\w-]+$")]


class ThemeChosen(Sent):
    """Targets for some places, by their names (`accent1`); None lets one go its own way. `proposed` takes what is
    proposed for all others. `theme` says so of that theme alone; its places without a target go as in all."""

    places: dict[Annotated[str, Field(max_length=12)], TargetText | None] = Field(default_factory=dict, max_length=12)
    proposed: bool = False
    theme: _ThemeKey | None = None


class ThemeKept(Sent):
    """Whether the places of a set are to be the kit's own theme; if not, the kit has none."""

    kept: bool


@router.get("/sets/{set_id}/theme")
def get_theme(
    set_id: uuid.UUID, db: Db, theme: Annotated[str, Query(max_length=60, pattern=r"^[\w-]*$")] = ""
) -> ThemeView:
    """Where the places of the themes of a set go, or those of one theme that stands beside others in a deck."""
    opened = open_set(db, sets.get(db, set_id))
    places = list(_places(opened, theme))
    own = {place.slot: place.target for place in _draft(db, opened).theme}
    same = all(own.get(one.slot, one.target) == one.target for one in places)
    return ThemeView(
        places=places,
        as_proposed=all(one.target == one.proposed for one in places),
        of_kit=(OfKit.SAME if same else OfKit.OTHER) if own else OfKit.NONE,
        themes=list(_brought(opened)),
    )


@router.put("/sets/{set_id}/theme")
def set_theme(set_id: uuid.UUID, sent: ThemeChosen, db: Db) -> SetView:
    """Sends places of the themes of all decks of a set to colors, now and when more comes; what was chosen by hand
    stays."""
    opened = open_set(db, sets.get(db, set_id))
    unknown = [slot for slot in sent.places if slot not in PLACES]
    if unknown:
        raise InvalidPlanError(f"A theme has no place “{unknown[0]}”; it has {', '.join(PLACES)}.")
    wanted = {**(_proposed(opened) if sent.proposed else {}), **sent.places}
    if not wanted:
        raise InvalidPlanError("Say which place of the theme goes where.")
    theme = sent.theme or ""
    if theme and all(one.key != theme for one in _brought(opened)):
        raise InvalidPlanError("No deck of the set has that theme beside others.")
    called = f"the theme {theme_title(theme)}".rstrip()
    what = f"{called[0].upper()}{called[1:]} as proposed"
    if sent.places:
        slot, target = next(iter(sent.places.items()))
        own = "as in all" if theme and target is None else f"to {_name(target, opened)}"
        what = f"{PLACES[slot]} of {called} {own}"
    return changed(db, opened, what, lambda plan: plan.with_theme(wanted, opened.own_kit, theme))


@router.put("/sets/{set_id}/theme/of-kit")
def keep_theme(set_id: uuid.UUID, sent: ThemeKept, db: Db) -> KitView:
    """Makes the places of a set the kit's own theme, which new decks and templates get; or takes that from the kit.
    Guests of the set, and places that are kept as they came, are not of the kit."""
    opened = open_set(db, sets.get(db, set_id))
    row = kits.get(db, opened.row.kit_id)
    known = {color.key for color in kits.kit_of(db, row).colors}
    ruled = places_ruled(opened.plan.part_rules) if sent.kept else {}
    tokens = {slot: token for slot, target in ruled.items() if (token := token_of(target)) and token.color in known}
    if sent.kept and not tokens:
        raise InvalidPlanError("No place of the theme goes to a color of the kit yet.")
    theme = tuple(ThemePlace(slot=slot, target=str(tokens[slot])) for slot in PLACES if slot in tokens)
    label = "Keep the theme for decks" if theme else "No theme for decks"
    return kit_view(db, row, kits.change(db, row, label, lambda kit: kit.with_(theme=theme)))


def _draft(db: Db, opened: OpenSet) -> Kit:
    return kits.kit_of(db, kits.get(db, opened.row.kit_id))


def _proposed(opened: OpenSet) -> Mapping[str, str | None]:
    kit = opened.kit
    if not kit.colors:
        return {}
    return {slot: str(token) for slot, token in theme_for(opened.paints, kit).items()}


def _brought(opened: OpenSet) -> Iterator[BroughtTheme]:
    """The themes that stand beside others in decks, those of most decks first."""
    found = Counter[str]()
    for file in opened.files.facts.values():
        named = {selector for each in file.inventory.selectors.values() for selector in each}
        found.update({place.theme for one in named if (place := pointing(one)) and place.theme})
    ruled = themes_ruled(opened.plan.part_rules)
    everywhere = ruled.get("", {})
    for key, files in sorted(found.items(), key=lambda one: (-one[1], one[0])):
        own = sum(target != everywhere.get(slot) for slot, target in ruled.get(key, {}).items())
        yield BroughtTheme(key=key, title=theme_title(key), files=files, own=own)


def _places(opened: OpenSet, theme: str = "") -> Iterator[ThemePlaceView]:
    stands: dict[str, list[Rgba]] = {}
    used: dict[str, set[Kind]] = {}
    uses: dict[Rgba, PaintUse] = {use.paint: use for use in opened.paints.uses}
    for paint in most_seen(opened.paints):
        for place in filter(None, map(pointing, opened.paints.theme[paint])):
            if not place.transforms and place.theme == theme and Kind.THEME in uses[paint].kinds:
                stands.setdefault(place.slot, []).append(paint)
                used.setdefault(place.slot, set()).update(uses[paint].kinds)
    everywhere, proposed = places_ruled(opened.plan.part_rules), _proposed(opened)
    ruled = places_ruled(opened.plan.part_rules, theme)
    for slot, title in PLACES.items():
        if slot not in stands:
            continue
        target = ruled.get(slot)
        first = stands[slot][0]
        standing = target or everywhere.get(slot) or opened.plan.target(first)
        becomes = resolve_target(standing, opened.kit) or first.rgb
        yield ThemePlaceView(
            slot=slot,
            title=title,
            was=[paint.rgb.hex for paint in stands[slot][:_SHOWN]],
            used=sorted(used[slot] - {Kind.THEME}),
            target=target,
            target_name=_name(target, opened),
            target_hex=becomes.hex,
            proposed=proposed.get(slot),
            proposed_name=_name(proposed.get(slot), opened),
        )


def _name(target: str | None, opened: OpenSet) -> str:
    return "its own way" if target is None else label(target, opened.kit)
