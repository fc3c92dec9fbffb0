"""Routes for pictures of files that stand in a box of their own: found, shown and mended."""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from enum import StrEnum
from threading import Lock
from typing import Annotated, NamedTuple

from cachetools import LRUCache
from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import BaseModel, Field

from pavese.api.context import Db, Drawing, PagePolicy
from pavese.api.schemas import Sent, Text
from pavese.api.sets.routes import changed, known_file, toggled
from pavese.api.sets.schemas import FileNames, SetView
from pavese.api.sets.views import OpenSet, open_set
from pavese.core.color.contrast import WHITE
from pavese.core.color.difference import difference
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidPlanError
from pavese.core.formats import format_of
from pavese.core.formats.format import Can
from pavese.core.formats.intake import digest
from pavese.core.formats.references import is_remote
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.pictures.motif import Motif
from pavese.core.recolor.pictures import CLEAR, LOGO, PICTURE, PictureGrounds
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import KEEP
from pavese.jobs.again import read_once_more
from pavese.render.pictures_inside import Inside, picture_beside, pictures_inside
from pavese.render.pool import CannotDrawError, DrawingPool
from pavese.render.web import fetched_pictures, host_of, path_of
from pavese.store import belonging, sets
from pavese.store.errors import NotFoundError
from pavese.store.models import AssetRow

router = APIRouter(prefix="/api", tags=["sets"])

#: CIEDE2000 from which on a box is seen on its ground.
_SEEN = 2.0
#: Longer side of a picture as it is shown here, files that are named with one, and pictures that are listed.
_SIDE, _NAMED, _MOST = 320, 5, 60


class Way(StrEnum):
    """What can become of a box."""

    CLEAR = "clear"
    GROUND = "ground"
    LOGO = "logo"


class InsideView(BaseModel):
    """A picture inside of files, `key` for all places that show it: in mails those that are called the same, in decks
    those that show the same thing. The first of its `files`, at how many `places` they show it, and how many of those
    are `mended`; the color of its `box` (None: it has none) and those it stands on as they become. `stands` is whether
    the box shows on any of them, `before` whether it did as they came; `ways` are what can become of it, and `way` what
    does. `kept` is whether it keeps its colors; None where none of them go by the plan, or a rule keeps those of all.
    `reference` and `asset` are one to see it by."""

    key: str
    reference: str
    title: str
    asset: uuid.UUID
    fingerprint: str
    files: list[str]
    of_files: int
    places: int
    mended: int
    box: str | None
    grounds: list[str]
    stands: bool
    before: bool
    ways: list[Way]
    way: Way | None
    kept: bool | None


class RemoteView(BaseModel):
    """A place on the web where pictures of a set lie, and how many of them have not been brought in."""

    host: str
    missing: int


class PicturesView(BaseModel):
    """The pictures inside of the files of a set that can be mended or go by its plan, those first whose box shows; how
    many those are, and how many others are `in_plan`; whether a rule keeps the colors of all (`ruled`); and where
    others lie that are not here."""

    standing: int
    in_plan: int
    ruled: bool
    pictures: list[InsideView]
    remote: list[RemoteView]


class Fetching(Sent):
    """The places from which pictures are to be brought in."""

    hosts: Annotated[list[Annotated[Text, Field(min_length=1, max_length=260)]], Field(min_length=1, max_length=100)]


class FetchedView(BaseModel):
    """What became of it: pictures that are here now, and why others are not, the first few."""

    fetched: int
    failed: int
    reasons: list[str]


class PicturesChange(Sent):
    """What is to become of a picture, by its key, in the files that show it, or in some of them; None leaves it as it
    came."""

    key: Annotated[Text, Field(min_length=1, max_length=2000)]
    way: Way | None
    names: FileNames | None = None


class PictureKept(Sent):
    """Whether a picture, by its key, keeps its colors wherever it is shown."""

    key: Annotated[Text, Field(min_length=1, max_length=2000)]
    kept: bool


class _InFile(NamedTuple):
    """A picture of one file, and what becomes of its box and of the ground below it; None where that is no color."""

    asset: AssetRow
    inside: Inside
    box: Rgb | None
    ground: Rgb | None
    target: str | None

    @property
    def shows(self) -> bool:
        return self.box is not None and self.ground is not None and difference(self.box, self.ground) >= _SEEN

    @property
    def showed(self) -> bool:
        box, below = self.inside.box, self.inside.ground
        return box is not None and below is not None and difference(box.color, below.paint.over(WHITE)) >= _SEEN


@router.get("/sets/{set_id}/pictures")
def get_pictures(set_id: uuid.UUID, db: Db, drawing: Drawing) -> PicturesView:
    """The pictures of a set that can be mended or go by its plan: that have a ground of their own or paints, or are
    drawn in decks."""
    opened = open_set(db, sets.get(db, set_id))
    found = _grouped(_inside(db, opened, drawing, opened.handed))
    views = [_view(opened, key, group) for key, group in found.items()]
    views.sort(key=lambda one: (not one.stands, one.box is None, -one.of_files, -one.places, one.title))
    missing = Counter(host_of(address) for address in _missing(opened))
    remote = [RemoteView(host=host, missing=count) for host, count in missing.most_common()]
    standing, in_plan = sum(one.stands for one in views), sum(one.kept is False for one in views)
    return PicturesView(standing=standing, in_plan=in_plan, ruled=_ruled(opened), pictures=views[:_MOST], remote=remote)


@router.post("/sets/{set_id}/pictures/fetch")
def fetch_pictures(set_id: uuid.UUID, sent: Fetching, db: Db, policy: PagePolicy, drawing: Drawing) -> FetchedView:
    """Brings in the pictures of a set that lie at some places on the web, as many as there is time for; the addresses
    in the files stay, and their colors go by the plan."""
    opened = open_set(db, sets.get(db, set_id))
    wanted = _missing(opened)
    addresses = [address for address in wanted if host_of(address) in sent.hosts]
    fetched, failed = fetched_pictures(addresses, policy)
    told: dict[uuid.UUID, AssetRow] = {}
    for address, data in fetched.items():
        for asset_id in wanted[address]:
            told[asset_id] = sets.asset(db, asset_id)
            belonging.lay(db, told[asset_id], address, path_of(address), data)
    read_once_more(db, drawing, list(told.values()))
    reasons = [f"{address[:120]}: {reason}" for address, reason in failed.items()]
    return FetchedView(fetched=len(fetched), failed=len(failed), reasons=reasons[:_NAMED])


@router.put("/sets/{set_id}/pictures")
def mend_pictures(set_id: uuid.UUID, sent: PicturesChange, db: Db, drawing: Drawing) -> SetView:
    """Makes the box of a picture clear, lays the ground it stands on under it, or puts the kit's logo in its place."""
    opened = open_set(db, sets.get(db, set_id))
    for name in sent.names or ():
        known_file(opened, name)
    meant = [one for one in opened.handed if sent.names is None or one.name in sent.names]
    every = _grouped(_inside(db, opened, drawing, opened.handed)).get(sent.key, [])
    names, logo = {one.name for one in meant}, KitLogo.of(opened.own_kit)
    found = [one for one in every if one.asset.name in names and (sent.way is None or sent.way in _ways(one, logo))]
    if not found:
        raise InvalidPlanError(f"No file has a picture “{sent.key[:80]}” of which that can be made.")
    targets: dict[str, dict[str, str | None]] = {}
    for one in found:
        targets.setdefault(one.asset.name, {})[one.inside.reference] = _target(one, sent.way)

    def made(plan: Plan) -> Plan:
        for name, own_targets in targets.items():
            own = plan.acts_of(name).get(PictureGrounds.key)
            grounds: dict[str, str | None] = {**(own.grounds if isinstance(own, PictureGrounds) else {}), **own_targets}
            kept = {reference: target for reference, target in grounds.items() if target is not None}
            plan = plan.with_act(PictureGrounds.key, PictureGrounds(grounds=kept) if kept else None, [name])
        return plan

    title = _title(found[0])
    how = {Way.CLEAR: "without its ground", Way.GROUND: "on the ground below it", Way.LOGO: "is the kit's logo"}
    return changed(db, opened, f"{title} {how[sent.way] if sent.way else 'as it came'}", made)


@router.put("/sets/{set_id}/pictures/kept")
def keep_picture(set_id: uuid.UUID, sent: PictureKept, db: Db, drawing: Drawing) -> SetView:
    """Keeps the colors of a picture wherever it is shown in a set, or lets them go by the plan again."""
    opened = open_set(db, sets.get(db, set_id))
    found = _grouped(_inside(db, opened, drawing, opened.handed)).get(sent.key, [])
    selectors = {one.inside.selector for one in found if one.inside.selector}
    if not selectors:
        raise InvalidPlanError(f"No file has a picture “{sent.key[:80]}” with colors that go by the plan.")
    what = f"{_title(found[0])} {'keeps its colors' if sent.kept else 'goes by the plan'}"
    return changed(
        db,
        opened,
        what,
        lambda plan: plan.with_(kept_selectors=toggled(plan.kept_selectors, selectors, sent.kept)),
    )


@router.get("/assets/{asset_id}/beside.png", response_class=Response)
def get_beside(
    asset_id: uuid.UUID,
    reference: Annotated[str, Query(max_length=2000)],
    of: Annotated[uuid.UUID, Query()],
    fingerprint: Annotated[str, Query(max_length=80)],
    db: Db,
    drawing: Drawing,
) -> Response:
    """A picture of a file as it becomes."""
    asset, changes = sets.with_changes(db, asset_id, of)
    png = None
    if Can.PICTURES in format_of(asset.name).can:
        png = picture_beside(drawing, sets.becoming(db, asset, changes), reference, _SIDE)
    if png is None:
        raise NotFoundError("There is no such picture in this file.")
    return Response(png, media_type="image/png", headers={"Cache-Control": "private, max-age=86400"})


def _missing(opened: OpenSet) -> dict[str, list[uuid.UUID]]:
    """The addresses of pictures that are not here, with the files that name them."""
    found: dict[str, list[uuid.UUID]] = {}
    for asset in opened.handed:
        for reference, came in asset.beside.items():
            if not came and is_remote(reference):
                found.setdefault(reference, []).append(asset.id)
    return found


_KNOWN: LRUCache[str, tuple[Inside, ...]] = LRUCache(20_000)
_LOCK = Lock()


def _key(asset: AssetRow) -> str:
    beside = sorted(f"{reference} {came[1]}" for reference, came in asset.beside.items() if came)
    return digest("\n".join((asset.name, asset.digest, *beside)).encode())


def _inside(db: Db, opened: OpenSet, drawing: DrawingPool, assets: Sequence[AssetRow]) -> Iterator[_InFile]:
    """The pictures inside of files; what was found in a file once is remembered."""
    pictured = {_key(one): one for one in assets if Can.PICTURES in format_of(one.name).can}
    with _LOCK:
        known = {key: _KNOWN[key] for key in pictured if key in _KNOWN}
    new = [key for key in pictured if key not in known]
    known.update(zip(new, _looked_at(db, drawing, [pictured[key] for key in new]), strict=True))
    with _LOCK:
        _KNOWN.update(known)
    for key, asset in pictured.items():
        to = opened.changes(asset).recoloring
        for one in known[key]:
            box = one.box.color if one.box is not None else None
            if one.box_paint is not None:
                box = to.at(one.box_paint, Kind.PICTURE, (one.selector, *one.pages)) or box
            site = one.ground
            if site is None:
                yield _InFile(asset, one, box, None, None)
                continue
            color = to.at(site.paint, site.kind, site.selectors) or site.paint.rgb
            token = to.token_at(site.paint, site.kind, site.selectors)
            yield _InFile(asset, one, box, color, token or color.hex)


def _grouped(found: Iterable[_InFile]) -> dict[str, list[_InFile]]:
    """Pictures by what they show, where that is told; others by what they are called and the color of their box."""
    groups: dict[str, list[_InFile]] = {}
    motifs: list[tuple[Motif, str]] = []
    for one in found:
        motif = one.inside.motif
        if motif is None:
            box = one.inside.box
            groups.setdefault(f"{one.inside.name} {box.color.hex if box else one.inside.selector}", []).append(one)
            continue
        key = next((key for other, key in motifs if motif.same(other)), None)
        if key is None:
            key = digest(repr(motif).encode())[:24]
            motifs.append((motif, key))
        groups.setdefault(key, []).append(one)
    return {key: list(_on_grounds(group)) for key, group in groups.items()}


def _on_grounds(group: Sequence[_InFile]) -> Iterator[_InFile]:
    """Places of which it is not told what they stand on stand on what most others of the same thing do."""
    usual = Counter((one.ground, one.target) for one in group if one.ground is not None).most_common(1)
    for one in group:
        if one.ground is None and one.inside.motif is not None and usual:
            yield one._replace(ground=usual[0][0][0], target=usual[0][0][1])
        else:
            yield one


def _looked_at(db: Db, drawing: DrawingPool, assets: Sequence[AssetRow]) -> list[tuple[Inside, ...]]:
    """What is found in files; one that takes too much has nothing, and leaves the others be."""
    try:
        return list(pictures_inside(drawing, (came for _, came in sets.files(db, assets))))
    except CannotDrawError:
        if len(assets) == 1:
            return [()]
        return [found for asset in assets for found in _looked_at(db, drawing, [asset])]


def _view(opened: OpenSet, key: str, group: Sequence[_InFile]) -> InsideView:
    first = group[0]
    logo = KitLogo.of(opened.own_kit)
    possible = {way for one in group for way in _ways(one, logo)}
    ways = {_way(opened, one) for one in group}
    way = next(iter(ways)) if len(ways) == 1 else None
    grounds = dict.fromkeys(one.ground.hex for one in group if one.ground is not None)
    files = list(dict.fromkeys(one.asset.name for one in group))
    box = next((one.box for one in group if one.box is not None), None)
    named = {one.inside.selector for one in group if one.inside.selector}
    return InsideView(
        key=key,
        reference=first.inside.reference,
        title=_title(first),
        asset=first.asset.id,
        fingerprint=digest(repr(opened.changes(first.asset).parts).encode())[:24],
        files=files[:_NAMED],
        of_files=len(files),
        places=len(group),
        mended=sum(_way(opened, one) is not None for one in group),
        box=box.hex if box else None,
        grounds=list(grounds)[:_NAMED],
        stands=any(_stands(opened, one) for one in group),
        before=any(one.showed for one in group),
        ways=[one for one in Way if one in possible],
        way=way,
        kept=named.issubset(opened.plan.kept_selectors) if named and not _ruled(opened) else None,
    )


def _ruled(opened: OpenSet) -> bool:
    """Whether a rule keeps the colors of every picture."""
    return opened.plan.rules.get(Kind.PICTURE) == KEEP


def _given(opened: OpenSet, one: _InFile) -> str | None:
    """What is said of a picture."""
    act = opened.plan.acts_of(one.asset.name).get(PictureGrounds.key)
    return act.grounds.get(one.inside.reference) if isinstance(act, PictureGrounds) else None


def _way(opened: OpenSet, one: _InFile) -> Way | None:
    given = _given(opened, one)
    if given is None:
        return None
    return Way.CLEAR if given == CLEAR else Way.LOGO if given.startswith((LOGO, PICTURE)) else Way.GROUND


def _stands(opened: OpenSet, one: _InFile) -> bool:
    """Whether a box shows: its own, or one that was laid there while the ground was another."""
    given = _given(opened, one)
    if given is None:
        return one.shows
    laid = opened.changes(one.asset).resolved.get(given)
    return laid is not None and one.ground is not None and difference(laid, one.ground) >= _SEEN


def _ways(one: _InFile, logo: KitLogo) -> Iterable[Way]:
    box = one.inside.box
    if box is not None and box.clears:
        yield Way.CLEAR
    if box is not None and one.target is not None:
        yield Way.GROUND
    if one.ground is not None and one.inside.takes_another and logo.on(one.ground) is not None:
        yield Way.LOGO


def _target(one: _InFile, way: Way | None) -> str | None:
    """What a picture is to become, as its act says it."""
    if way is None or way is Way.CLEAR:
        return CLEAR if way else None
    if way is Way.GROUND:
        return one.target
    return f"{LOGO}{one.target}"


def _title(one: _InFile) -> str:
    """What a picture is called in few words."""
    called = one.inside.name
    if called.startswith("data:"):
        return "a picture inside"
    return called.removeprefix("cid:").split("?")[0].rstrip("/").rsplit("/", 1)[-1][:60] or called[:60]
