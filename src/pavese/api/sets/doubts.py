"""Routes for what deserves a look in a plan, and for what planning anew would change."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from pavese.api.context import Db
from pavese.api.schemas import Code
from pavese.api.sets.views import OpenSet, open_set
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.recolor.doubts import MOST, DoubtKind, Remedy, doubts
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.target import label, resolve_target
from pavese.store import sets

router = APIRouter(prefix="/api", tags=["sets"])

#: Files that are named with a doubt, and paints that are listed with what would change.
_PLACES, _LISTED = 5, 40


class Swatch(BaseModel):
    """A paint with what it becomes."""

    key: str
    css: str
    target_css: str
    target_name: str


class RemedyView(BaseModel):
    """What would help: some paints each to a target, in one file or in all; `css` is the color, none for keeping and
    for several."""

    title: str
    targets: dict[str, str]
    file: str | None
    css: str | None


class DoubtView(BaseModel):
    """Something in a plan that deserves a look: what it is, why, the first of the `files` it is in, and remedies."""

    kind: DoubtKind
    reason: str
    paints: list[Swatch]
    files: list[str]
    of_files: int
    remedies: list[RemedyView]


class DoubtsView(BaseModel):
    """What deserves a look, worst first, the first few of `total`."""

    total: int
    doubts: list[DoubtView]


class AnewView(BaseModel):
    """What planning anew would change: `changed` paints of `total`, the first of them; `by_hand` choices would go."""

    total: int
    changed: int
    by_hand: int
    paints: list[Swatch]


@router.get("/sets/{set_id}/plan/anew")
def see_plan_anew(set_id: uuid.UUID, db: Db) -> AnewView:
    """What planning anew would change; nothing is kept."""
    opened = open_set(db, sets.get(db, set_id))
    return _anew_view(opened, sets.complete(opened.paints, opened.own_kit, opened.plan.anew()))


@router.get("/sets/{set_id}/doubts")
def get_doubts(set_id: uuid.UUID, db: Db, ground: Annotated[Code, Query(max_length=40)] = "#ffffff") -> DoubtsView:
    """What in the plan deserves a look, on a ground, worst first, with remedies."""
    return _doubts_view(open_set(db, sets.get(db, set_id)), parse_color(ground).rgb)


def _color(opened: OpenSet, remedy: Remedy) -> str | None:
    """The color to which all paints of a remedy go."""
    [first, *more] = set(remedy.targets.values())
    color = None if more else resolve_target(first, opened.kit)
    return color.hex if color else None


def _doubts_view(opened: OpenSet, shown_on: Rgb) -> DoubtsView:
    """What deserves a look in the plan of a set."""
    found = doubts(opened.paints, opened.plan, opened.kit, shown_on)
    return DoubtsView(
        total=len(found),
        doubts=[
            DoubtView(
                kind=one.kind,
                reason=one.reason,
                paints=[_swatch(opened, key, opened.plan, one.files[0]) for key in one.paints],
                files=list(one.files[:_PLACES]),
                of_files=len(one.files),
                remedies=[
                    RemedyView(
                        title=remedy.title,
                        targets=dict(remedy.targets),
                        file=remedy.file,
                        css=_color(opened, remedy),
                    )
                    for remedy in one.remedies
                ],
            )
            for one in found[:MOST]
        ],
    )


def _anew_view(opened: OpenSet, anew: Plan) -> AnewView:
    """What a plan that is made anew would change, what covers most first."""
    kit, plan = opened.kit, opened.plan
    before, after = plan.resolve(kit), anew.resolve(kit)
    uses = sorted(opened.paints.uses, key=lambda use: (-use.area, -use.sites, use.paint))
    changed = [use.paint for use in uses if before.get(use.paint) != after.get(use.paint)]
    return AnewView(
        total=len(uses),
        changed=len(changed),
        by_hand=sum("@" not in key for key in plan.held()),
        paints=[
            _swatch(opened, paint.key, anew).model_copy(update={"css": _css(paint, before.get(paint))})
            for paint in changed[:_LISTED]
        ],
    )


def _swatch(opened: OpenSet, key: str, plan: Plan, file: str | None = None) -> Swatch:
    paint = parse_key(key)
    own = plan.files.get(file, {}) if file else {}
    choice = own.get(key) or plan.choices[key]
    became = plan.color_of(paint, choice, opened.kit)
    return Swatch(key=key, css=paint.css, target_css=_css(paint, became), target_name=label(choice.target, opened.kit))


def _css(paint: Rgba, color: Rgb | None) -> str:
    return paint.css if color is None else Rgba(*color, paint.alpha).css
