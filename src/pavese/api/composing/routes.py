"""Routes for composing a kit: schemes on a wheel, families, names, proposals, proportions, the reference shelf."""

from __future__ import annotations

import io
import uuid
from functools import lru_cache, partial
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from PIL import Image

from pavese.api.composing.schemas import (
    FamiliesView,
    Gallery,
    NamesAsked,
    ProportionsView,
    Pull,
    ReadingView,
    RuleView,
    SchemeAsked,
    SchemeView,
    ShelfView,
    SuggestedName,
    Taking,
    ToneView,
    Wish,
)
from pavese.api.composing.views import (
    families_view,
    gallery_view,
    proportions_view,
    reading_view,
    scheme_view,
    shelf_view,
    tone_view,
)
from pavese.api.context import Db
from pavese.api.kits.views import kit_view
from pavese.api.schemas import KitView
from pavese.core.color.families import HueFamily, pull, same_tone
from pavese.core.color.notations import notations
from pavese.core.color.parse import parse_color
from pavese.core.color.schemes import RULES, Wheel, disc
from pavese.core.errors import InvalidKitError
from pavese.core.kit.changes import changed, with_base, with_colors, with_proposal
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.names import suggest, theme_names
from pavese.core.kit.plain import LONGEST_NAME
from pavese.core.kit.proposals import propose
from pavese.core.kit.samples import Samples
from pavese.core.kit.shelf import ShelfWish
from pavese.store import kits

router = APIRouter(prefix="/api", tags=["composing"])

Code = Annotated[str, Query(min_length=1, max_length=200)]
_FOREVER = "private, max-age=31536000, immutable"


@router.get("/rules")
def list_rules() -> list[RuleView]:
    """The schemes one can choose from."""
    return [RuleView(name=rule.name, spread=rule.spread, most=rule.most) for rule in RULES.values()]


@router.post("/scheme")
def make_scheme(asked: SchemeAsked, db: Db, kit_id: uuid.UUID | None = None) -> SchemeView:
    """A scheme on its wheel, with the colors of a kit beside it; stateless, so that a drag can ask again and again."""
    kit = kits.kit_of(db, kits.get(db, kit_id)) if kit_id else None
    return scheme_view(asked, kit)


@router.get("/wheel.png", response_class=Response)
def wheel_picture(
    lightness: Annotated[int, Query(ge=0, le=100)] = 60,
    wheel: Wheel = Wheel.PERCEPTUAL,
    side: Annotated[int, Query(ge=16, le=720)] = 360,
) -> Response:
    """The colors of a wheel at one lightness (percent), transparent where sRGB has none."""
    return Response(_wheel(lightness, wheel, side), media_type="image/png", headers={"Cache-Control": _FOREVER})


@lru_cache(maxsize=128)
def _wheel(lightness: int, wheel: Wheel, side: int) -> bytes:
    out = io.BytesIO()
    Image.fromarray(disc(lightness / 100, wheel, side)).save(out, "PNG", compress_level=1)
    return out.getvalue()


@router.get("/notations")
def get_notations(code: Code) -> dict[str, str]:
    """A color in all the numbers people write it with."""
    return notations(parse_color(code).rgb)


@router.get("/readings")
def get_reading(code: Code) -> ReadingView:
    """How the hue of a color is often read."""
    return reading_view(parse_color(code).rgb)


@router.get("/themes")
def list_themes() -> list[str]:
    """The themes names are suggested from."""
    return list(theme_names())


@router.get("/kits/{kit_id}/names")
def suggest_names(
    kit_id: uuid.UUID, db: Db, theme: Annotated[str, Query(max_length=40)] = "plain words"
) -> list[SuggestedName]:
    """A name from a theme for every color of the kit."""
    kit = kits.kit_of(db, kits.get(db, kit_id))
    names = suggest([color.base for color in kit.colors], theme)
    return [
        SuggestedName(key=color.key, hex=color.base.hex, old=color.name, name=name)
        for color, name in zip(kit.colors, names, strict=True)
    ]


@router.post("/kits/{kit_id}/names")
def give_names(kit_id: uuid.UUID, sent: NamesAsked, db: Db) -> KitView:
    """Renames colors, all in one step."""

    def renamed(kit: Kit) -> Kit:
        for key, name in sent.names.items():
            kit = changed(kit, key, lambda color, name=name: color.model_copy(update={"name": name}))  # type: ignore[misc]
        return kit

    row = kits.get(db, kit_id)
    count = len(sent.names)
    return kit_view(db, row, kits.change(db, row, f"Rename {count} {'color' if count == 1 else 'colors'}", renamed))


@router.get("/kits/{kit_id}/families")
def get_families(kit_id: uuid.UUID, db: Db) -> FamiliesView:
    """Which tone family each color is in, and where it would go in each."""
    return families_view(kits.kit_of(db, kits.get(db, kit_id)))


@router.post("/kits/{kit_id}/families")
def pull_into_family(kit_id: uuid.UUID, sent: Pull, db: Db) -> KitView:
    """Pulls colors into a family, at their own hue; greys stay as they are."""

    def pulled(color: KitColor) -> KitColor:
        target = pull(color.base, sent.family)
        return color if target is None or target == color.base else with_base(color, target)

    def all_pulled(kit: Kit) -> Kit:
        for key in sent.keys:
            kit = changed(kit, key, pulled)
        return kit

    row = kits.get(db, kit_id)
    what = kits.kit_of(db, row).color(sent.keys[0]).name if len(sent.keys) == 1 else f"{len(sent.keys)} colors"
    return kit_view(db, row, kits.change(db, row, f"Pull {what} into {sent.family}", all_pulled))


@router.get("/kits/{kit_id}/colors/{key}/same-tone")
def get_same_tone(kit_id: uuid.UUID, key: str, db: Db) -> list[ToneView]:
    """Colors around the circle of hues with the lightness and chroma of a kit color."""
    color = kits.kit_of(db, kits.get(db, kit_id)).color(key)
    return [tone_view(found, held) for found, held in same_tone(color.base)]


@router.post("/kits/{kit_id}/proposals")
def get_proposals(kit_id: uuid.UUID, wish: Wish, db: Db) -> Gallery:
    """Nine complete kits that keep some colors and fill the gaps."""
    return gallery_view(kits.kit_of(db, kits.get(db, kit_id)), wish)


@router.post("/kits/{kit_id}/proposals/take")
def take_proposal(kit_id: uuid.UUID, sent: Taking, db: Db) -> KitView:
    """Takes a proposal whole, or one color of it; found again by its seed."""
    row = kits.get(db, kit_id)
    proposal = propose(kits.kit_of(db, row), sent.keep, sent.roles, sent.first, sent.theme)
    if sent.only is None:
        label = f"Take proposal {sent.first}"
        return kit_view(db, row, kits.change(db, row, label, lambda kit: with_proposal(kit, sent.keep, proposal.new)))
    if sent.only >= len(proposal.new):
        raise InvalidKitError(f"Proposal {sent.first} has {len(proposal.new)} new colors.")
    one = proposal.new[sent.only]
    return kit_view(db, row, kits.change(db, row, f"Add {one.name}", partial(with_colors, arrivals=[one])))


@router.get("/kits/{kit_id}/proportions")
def get_proportions(
    kit_id: uuid.UUID,
    db: Db,
    large: str | None = None,
    middle: str | None = None,
    small: str | None = None,
    shares: Annotated[list[float] | None, Query(max_length=3)] = None,
) -> ProportionsView:
    """Sample layouts with three colors of the kit at their shares: normal, inverted, and the wrong way round."""
    kit = kits.kit_of(db, kits.get(db, kit_id))
    return proportions_view(kit, (large, middle, small), tuple(shares) if shares else None)


@router.get("/shelf")
def search_shelf(
    db: Db,
    near: Annotated[list[str], Query(max_length=2)] = [],  # noqa: B006
    family: HueFamily | None = None,
    count: Annotated[int | None, Query(ge=1, le=200)] = None,
    mood: Annotated[str | None, Query(max_length=40)] = None,
    trade: Annotated[str | None, Query(max_length=40)] = None,
    like: Annotated[str | None, Query(max_length=LONGEST_NAME)] = None,
    kit_id: uuid.UUID | None = None,
) -> ShelfView:
    """Palettes to start from, and the kits of this workspace; nearest to one color or two first, or most like another
    palette. The layouts they are seen in say what a kit says."""
    own = [(row.id, kit) for row, kit in kits.listed(db)]
    asked = tuple(parse_color(text).rgb for text in near if text.strip())
    kit = next((kit for of, kit in own if of == kit_id), None)
    words = kit.samples.of(kit.name) if kit else Samples().of("A company")
    return shelf_view(own, ShelfWish(asked, family, count, mood, trade), like, words)
