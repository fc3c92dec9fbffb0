"""Route for what follows the themes of a set of decks, and what stays a code, with the reason."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from fastapi import APIRouter
from pydantic import BaseModel

from pavese.api.context import Db, Drawing
from pavese.api.sets.views import OpenSet, open_set
from pavese.core.color.srgb import Rgb
from pavese.core.formats import format_of
from pavese.core.formats.format import Can
from pavese.core.kit.deck_theme import PLACES
from pavese.core.kit.kit import members
from pavese.core.recolor.linked import LinkedPaint, Typed
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import resolve_target
from pavese.core.recolor.theme import places_ruled
from pavese.render import rendering
from pavese.store import sets

router = APIRouter(prefix="/api", tags=["sets"])

#: Pages that are named with one, rows that are listed of each sort, and from which difference on no place is near.
_NAMED, _MOST, _FAR = 6, 60, 12.0


class NearPlace(BaseModel):
    """The place that holds the color nearest to one that stays a code: its target, and how far it is in CIEDE2000."""

    title: str
    target: str
    hex: str
    apart: float


class FollowerView(BaseModel):
    """Colors of decks that were typed in, or leave their place of the theme: what they are (`paint`, the key of a paint
    of the set) and become, in words; the place that they follow from then on, else `why` they do not; how many, and
    where, as `file: page`."""

    paint: str
    was: str
    hex: str
    name: str
    kind: Kind
    place: str | None
    left: str | None
    why: Typed | None
    near: NearPlace | None
    sites: int
    where: list[str]
    of_where: int


class FollowersView(BaseModel):
    """What follows the themes of a set from then on, and what does not: how many colors of each, and the first of
    them, those first that stay codes and stand at most places."""

    linked: int
    typed: int
    rows: list[FollowerView]


@router.get("/sets/{set_id}/links")
def get_links(set_id: uuid.UUID, db: Db, drawing: Drawing) -> FollowersView:
    """Which colors of the decks of a set follow their themes after the plan, and which do not, and why."""
    opened = open_set(db, sets.get(db, set_id))
    themed = [one for one in opened.handed if Can.THEME in format_of(one.name).can]
    wanted = sets.each_becoming(db, ((asset, opened.changes(asset)) for asset in themed))
    found: dict[tuple[object, ...], list[LinkedPaint]] = {}
    where: dict[tuple[object, ...], list[str]] = {}
    for asset, links in zip(themed, rendering.links(drawing, wanted), strict=True):
        for one, pages in links:
            key = (one.paint, one.kind, one.color, one.slot, one.was, one.why)
            found.setdefault(key, []).append(one)
            where.setdefault(key, []).extend(f"{asset.name}: {page}" for page in pages or ("its theme",))
    rows = [_row(opened, each, where[key]) for key, each in found.items()]
    rows.sort(key=lambda row: (row.why is None, -row.sites, row.paint))
    linked, typed = ([row for row in rows if (row.why is None) is said] for said in (True, False))
    return FollowersView(
        linked=sum(row.sites for row in linked),
        typed=sum(row.sites for row in typed),
        rows=[*typed[:_MOST], *linked[:_MOST]],
    )


def _row(opened: OpenSet, each: Sequence[LinkedPaint], where: Sequence[str]) -> FollowerView:
    one = each[0]
    return FollowerView(
        paint=one.paint.key,
        was=one.paint.rgb.hex,
        hex=one.color.hex,
        name=_name(opened, one.color),
        kind=one.kind,
        place=PLACES.get(one.slot),
        left=PLACES.get(one.was) if one.why else None,
        why=one.why,
        near=_near(opened, one),
        sites=sum(other.sites for other in each),
        where=list(where[:_NAMED]),
        of_where=len(where),
    )


def _near(opened: OpenSet, one: LinkedPaint) -> NearPlace | None:
    """Only what was typed, and is of one theme, can be sent there."""
    target = places_ruled(opened.plan.part_rules).get(one.near)
    if one.why is not Typed.NO_PLACE or target is None or one.apart >= _FAR:
        return None
    color = resolve_target(target, opened.kit)
    if color is None:
        return None
    return NearPlace(title=PLACES[one.near], target=target, hex=color.hex, apart=round(one.apart, 1))


def _name(opened: OpenSet, color: Rgb) -> str:
    token = members(opened.kit).get(color)
    return opened.kit.title(token) if token else color.hex
