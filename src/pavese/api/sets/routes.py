"""Routes for sets: dropping files, choosing targets and plans, variants, checking."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Collection, Iterable, Iterator
from dataclasses import replace
from functools import partial
from itertools import chain
from typing import Annotated

from fastapi import APIRouter, Path, Query
from sqlalchemy.orm import Session

from pavese.api.context import Db, Drawing
from pavese.api.files.ahead import Expected, Look, attending
from pavese.api.files.drawn import picture_key
from pavese.api.sets.choices import alternatives_of, tried
from pavese.api.sets.schemas import (
    ActChange,
    Aim,
    Alternatives,
    AlternativeView,
    CheckView,
    ConditionView,
    FaceView,
    FilePageView,
    FilesPage,
    FileStates,
    FilesWanted,
    FileView,
    Joining,
    LookView,
    NewGuests,
    NewSet,
    NewVariant,
    PageWanted,
    PictureSeen,
    RuleChange,
    SelectorKept,
    SetChange,
    SetView,
    ShownFile,
    Splitting,
    TrialView,
    WeakView,
    Which,
)
from pavese.api.sets.views import (
    OpenSet,
    asset_view,
    check_view,
    figures_of,
    figures_view,
    file_paints,
    fingerprint,
    open_set,
    reading_views,
    set_view,
)
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import parse_key
from pavese.core.errors import InvalidPlanError
from pavese.core.formats import format_of
from pavese.core.recolor.act import Act
from pavese.core.recolor.acts import ACTS, read_act
from pavese.core.recolor.assign import nearest_step
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.listing import Listing
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.recipe import Recipe
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import label, resolve_target
from pavese.render import rendering
from pavese.store import belonging, editions, history, kits, sets
from pavese.store.errors import still_named
from pavese.store.models import AssetRow, SetRow

router = APIRouter(prefix="/api", tags=["sets"])

#: Files of a set that an alternative is shown on, and those in view whose pictures are drawn ahead.
_SHOWN, _AHEAD = 12, 120


@router.post("/kits/{kit_id}/sets", status_code=201)
def start_set(kit_id: uuid.UUID, new: NewSet, db: Db) -> SetView:
    """Starts an empty set."""
    kits.get(db, kit_id)
    return _view(db, sets.create(db, kit_id, new.name, new.channel, new.purpose))


@router.get("/sets/{set_id}")
def get_set(set_id: uuid.UUID, db: Db) -> SetView:
    """A set with its paints and plan."""
    return _view(db, sets.get(db, set_id))


@router.patch("/sets/{set_id}")
def change_set(set_id: uuid.UUID, sent: SetChange, db: Db) -> SetView:
    """Renames a set, or says what it is for."""
    row = sets.get(db, set_id)
    if sent.name is not None:
        still_named(row.name, sent.was, sent.name)
    for field, value in sent.model_dump(exclude_none=True, exclude={"was"}).items():
        setattr(row, field, value)
    return _view(db, row)


@router.delete("/sets/{set_id}", status_code=204)
def remove_set(set_id: uuid.UUID, db: Db) -> None:
    """Removes a set with its files and variants; a variant goes alone."""
    sets.remove(db, sets.get(db, set_id))


@router.delete("/assets/{asset_id}")
def remove_file(asset_id: uuid.UUID, db: Db) -> SetView:
    """Takes a file out of its set, and out of the variants of it."""
    asset = sets.asset(db, asset_id)
    db.delete(asset)
    db.flush()
    return _view(db, sets.get(db, asset.set_id))


@router.post("/sets/{set_id}/aim")
def aim(set_id: uuid.UUID, sent: Aim, db: Db) -> SetView:
    """Sends paints to a target, in all files of the set or in one."""
    opened = open_set(db, sets.get(db, set_id))
    if [sent.target, sent.color, sent.targets].count(None) != 2:
        raise InvalidPlanError("Give either a target or a color of the kit.")
    if (sent.paints is None) == (sent.targets is None):
        raise InvalidPlanError("Give the paints that are to go there.")
    known_file(opened, sent.file)
    targets = dict(sent.targets or {})
    for key in dict.fromkeys(sent.paints or ()):
        if sent.color is not None:
            targets[key] = str(nearest_step(parse_key(key.partition("@")[0]).rgb, opened.kit.color(sent.color)))
        else:
            targets[key] = sent.target or ""
    what = next(iter(targets)) if len(targets) == 1 else f"{len(targets)} paints"
    one = set(targets.values())
    if sent.color:
        where = opened.kit.color(sent.color).name
    else:
        where = label(one.pop(), opened.kit) if len(one) == 1 else "targets of their own"
    within = f" in {sent.file}" if sent.file else ""
    return changed(
        db, opened, f"{what} to {where}{within}", lambda plan: plan.with_targets(targets, opened.kit, sent.file)
    )


@router.post("/sets/{set_id}/plan")
def plan_anew(set_id: uuid.UUID, db: Db) -> SetView:
    """Plans every paint anew; choices made by hand are dropped (undo brings them back), exceptions of files stay."""
    opened = open_set(db, sets.get(db, set_id))
    return changed(db, opened, "Plan everything anew", Plan.anew)


@router.put("/sets/{set_id}/recipe")
def set_recipe(set_id: uuid.UUID, recipe: Recipe, db: Db, forget: bool = False) -> SetView:
    """Plans by other settings; what was chosen by hand stays, unless it is to be forgotten."""
    opened = open_set(db, sets.get(db, set_id))
    if recipe.color is not None:
        opened.kit.color(recipe.color)
    for end in filter(None, (recipe.dark, recipe.light)):
        resolve_target(end, opened.kit)

    def made(plan: Plan) -> Plan:
        return (plan.anew() if forget else plan.by_hand()).with_(recipe=recipe)

    return changed(db, opened, f"Plan: {_told(recipe)}", made)


@router.get("/sets/{set_id}/files")
def get_files(
    set_id: uuid.UUID,
    wanted: Annotated[PageWanted, Query()],
    db: Db,
) -> FilesPage:
    """Some of the files of a set, or of those of a kind, in an order."""
    opened = _seen(db, set_id, wanted)
    files = opened.seen_on(parse_color(wanted.ground).rgb)
    places = Listing(wanted.only, wanted.order, wanted.text).of(files)
    some = places[wanted.start : wanted.start + wanted.count]
    views = {at: asset_view(files[at]) for at in some}
    page = FilesPage(total=len(places), start=wanted.start, files=list(views.values()))
    ahead = attending(db)
    if wanted.size is not None and ahead is not None:
        # All of it with each page: a view that reaches over two is one.
        in_view = places[wanted.seen_from : wanted.seen_to + 1][:_AHEAD]
        seen = [views.get(at) or asset_view(files[at]) for at in in_view]
        if not seen:
            return page
        look = Look(wanted.size, tuple(one.id for one in seen))
        if wanted.kit is None:
            ahead.look(set_id, look)
        as_they_came = (Expected(picture_key(one.came, look.size), one.id, Changes()) for one in seen)
        ahead.begin(set_id, look.size, chain(_expected(_looked_at(opened, look), look.size), as_they_came))
    return page


@router.get("/sets/{set_id}/files/{asset_id}")
def get_file(
    set_id: uuid.UUID, asset_id: uuid.UUID, wanted: Annotated[FilesWanted, Query()], db: Db, drawing: Drawing
) -> FileView:
    """One file of a set: its paints with where they go in it, and the files beside it in what is listed."""
    opened, asset = _seen(db, set_id, wanted), sets.asset(db, asset_id)
    at = opened.place_of(asset)
    files = opened.seen_on(parse_color(wanted.ground).rgb)
    before, behind = Listing(wanted.only, wanted.order, wanted.text).beside(files, at)
    views = rendering.views(drawing, sets.came(db, asset))
    return FileView(
        file=asset_view(files[at]),
        before=asset_view(files[before]),
        behind=asset_view(files[behind]),
        pages=[
            FilePageView(
                title=page.title, kind=page.kind, selector=page.selector, paints=[paint.key for paint in found]
            )
            for page, found in views.pages
        ],
        looks=[LookView(key=look.key, words=look.words, width=look.width, dark=look.dark) for look in views.looks],
        codes=list(views.codes),
        conditions=[ConditionView(words=one.words, branches=list(one.branches)) for one in views.conditions],
        faces=[FaceView(named=named, set_in=set_in) for named, set_in in opened.files.facts[asset.id].measured.faces],
        beside=sorted(set(belonging.paths(asset).values())),
        together=sorted(set(belonging.templates(asset).values())),
        lacking=sorted(set(belonging.lacking(asset))),
        texts=reading_views(files[at].readings),
        paints=file_paints(opened, asset, views.pages),
    )


@router.get("/sets/{set_id}/alternatives")
def get_alternatives(set_id: uuid.UUID, db: Db) -> Alternatives:
    """Several plans for the set, best first behind the one in force, each with its figures."""
    opened = open_set(db, sets.get(db, set_id))
    shown = opened.handed
    if opened.paints.lettered:
        # A bare one, such as a frame for mails, shows nothing of a plan.
        written = {file.name for file in opened.paints.files if file.measured.texts}
        shown = sorted(shown, key=lambda asset: asset.name not in written)
    shown = shown[:_SHOWN]
    return Alternatives(
        revision=opened.row.plan.head,
        files=[ShownFile(id=asset.id, name=asset.name) for asset in shown],
        alternatives=[
            AlternativeView(
                index=index,
                title=one.title,
                figures=figures_view(one.figures),
                lost=one.lost,
                fingerprints=[fingerprint(asset, changes(asset)) for asset in shown],
            )
            for index, one in enumerate(alternatives_of(opened))
            for changes in (opened.with_plan(one.plan).changes,)
        ],
    )


@router.get("/sets/{set_id}/trial")
def try_kit(set_id: uuid.UUID, kit: uuid.UUID, db: Db, edition: Annotated[int | None, Query(ge=1)] = None) -> TrialView:
    """The set as it would be in another kit or an edition; nothing is kept."""
    opened = tried(open_set(db, sets.get(db, set_id)), sets.kit_for(db, kit, edition))
    return TrialView(
        kit=opened.own_kit.name,
        figures=figures_view(figures_of(opened)),
    )


@router.post("/sets/{set_id}/alternatives/{index}")
def choose_alternative(set_id: uuid.UUID, index: int, db: Db) -> SetView:
    """Takes one of the alternatives as the plan."""
    opened = open_set(db, sets.get(db, set_id))
    listed = alternatives_of(opened)
    if not 0 <= index < len(listed):
        raise InvalidPlanError(f"There are {len(listed)} plans to choose from.")
    chosen = listed[index]
    return changed(db, opened, f"Plan: {chosen.title}", lambda _: chosen.plan)


@router.post("/sets/{set_id}/split")
def split_paint(set_id: uuid.UUID, sent: Splitting, db: Db) -> SetView:
    """Lets some sites of a paint go their own way."""
    opened = open_set(db, sets.get(db, set_id))
    known_file(opened, sent.file)
    return changed(
        db, opened, f"Split {sent.paint} by {sent.part}", lambda plan: plan.split(sent.paint, sent.part, sent.file)
    )


@router.post("/sets/{set_id}/join")
def join_paint(set_id: uuid.UUID, sent: Joining, db: Db) -> SetView:
    """Lets a part go with its paint again, or a file with its set."""
    opened = open_set(db, sets.get(db, set_id))
    what = f"{sent.file} follows the set in {sent.key}" if sent.file else f"Join {sent.key}"
    return changed(db, opened, what, lambda plan: plan.joined(sent.key, sent.file))


@router.post("/sets/{set_id}/file-states")
def set_file_states(set_id: uuid.UUID, sent: FileStates, db: Db) -> SetView:
    """Leaves files out, keeps them as they came, or lets them follow the set again."""
    opened = open_set(db, sets.get(db, set_id))
    names = _named(opened, sent.names, sent.which)
    count = names[0] if len(names) == 1 else f"{len(names)} files"
    done = [
        *(["left out" if sent.left_out else "handed over again"] if sent.left_out is not None else []),
        *(["kept as they came" if sent.kept else "recolored again"] if sent.kept is not None else []),
        *(["follow the set again"] if sent.reset else []),
    ]
    return changed(
        db, opened, f"{count}: {', '.join(done) or 'nothing'}", partial(_with_states, sent=sent, names=names)
    )


@router.post("/sets/{set_id}/kept-selectors")
def keep_selector(set_id: uuid.UUID, sent: SelectorKept, db: Db) -> SetView:
    """Keeps the paints of elements with an id or a class, or lets them go again."""
    opened = open_set(db, sets.get(db, set_id))
    if not sent.selector.startswith(("#", ".", "~", "/")):
        raise InvalidPlanError(
            "Elements are named by their id (#sail), a class (.sail), a layer's name (~Sail), or a page (/sail)."
        )
    what = f"{'Keep' if sent.kept else 'Recolor'} {sent.selector}"
    return changed(
        db,
        opened,
        what,
        lambda plan: plan.with_(kept_selectors=toggled(plan.kept_selectors, [sent.selector], sent.kept)),
    )


@router.put("/sets/{set_id}/rules/{kind}")
def set_rule(set_id: uuid.UUID, kind: Kind, sent: RuleChange, db: Db) -> SetView:
    """Sends all that does one thing, such as every text, to one target, now and when more comes; what was chosen by
    hand stays."""
    opened = open_set(db, sets.get(db, set_id))
    where = label(sent.target, opened.kit) if sent.target else "where it is planned"
    what = f"Every {kind} to {where}" if sent.target else f"Every {kind} {where}"
    return changed(db, opened, what, lambda plan: plan.with_rule(kind, sent.target, opened.kit))


@router.put("/sets/{set_id}/acts/{key}")
def set_act(set_id: uuid.UUID, key: Annotated[str, Path(max_length=40)], sent: ActChange, db: Db) -> SetView:
    """Gives the files, or some of them, an act; one that changes what they stand on is planned anew."""
    opened = open_set(db, sets.get(db, set_id))
    act = None if sent.settings is None else read_act(key, sent.settings)
    for target in act.targets if act else ():
        resolve_target(target, opened.kit)
    what = f"{ACTS[key].title}: {act.told}" if act else f"No {ACTS[key].title.lower() if key in ACTS else key}"
    if sent.names is None and sent.which is None:
        return changed(db, opened, what, lambda plan: plan.with_act(key, act))
    names = [name for name in _named(opened, sent.names, sent.which) if key in format_of(name).acts]
    where = names[0] if len(names) == 1 else f"{len(names)} files"
    return changed(db, opened, f"{what}, for {where}", lambda plan: plan.with_act(key, act, names))


@router.post("/sets/{set_id}/guests", status_code=201)
def add_guests(set_id: uuid.UUID, sent: NewGuests, db: Db) -> SetView:
    """Gives the set colors of its own beside the kit, and plans anew with them."""
    opened = open_set(db, sets.get(db, set_id))
    arrivals = [(one.name, parse_color(one.hex).rgb) for one in sent.colors]
    what = ", ".join(color.hex for _, color in arrivals)
    return changed(db, opened, f"Guests: {what}", lambda plan: plan.with_guests(arrivals, opened.own_kit))


@router.delete("/sets/{set_id}/guests/{key}")
def remove_guest(set_id: uuid.UUID, key: Annotated[str, Path(max_length=120)], db: Db) -> SetView:
    """Takes a guest color from the set; what was sent to it is planned anew."""
    opened = open_set(db, sets.get(db, set_id))
    return changed(db, opened, f"Without the guest {key}", lambda plan: plan.without_guest(key))


@router.get("/sets/{set_id}/weak")
def count_weak(set_id: uuid.UUID, db: Db, ground: Annotated[str, Query(max_length=40)] = "#ffffff") -> WeakView:
    """How many files of the set do not stand out from a ground."""
    opened = open_set(db, sets.get(db, set_id))
    return WeakView(weak=sum(file.weak for file in opened.seen_on(parse_color(ground).rgb)))


@router.post("/sets/{set_id}/variants", status_code=201)
def add_variant(set_id: uuid.UUID, new: NewVariant, db: Db) -> SetView:
    """A variant of a set: the same files with a plan of their own, for another kit or edition where given."""
    row = sets.get(db, set_id)
    kit_row = kits.get(db, new.kit_id or row.kit_id)
    edition = editions.get(db, kit_row.id, new.edition) if new.edition is not None else None
    return _view(db, sets.vary(db, row, new.name, kit_row.id, edition))


@router.post("/sets/{set_id}/undo")
def undo_set(set_id: uuid.UUID, db: Db) -> SetView:
    """Undoes the last choice."""
    row = sets.get(db, set_id)
    history.lock(db, row.plan)
    history.undo(db, row.plan)
    return _after(db, open_set(db, row))


@router.post("/sets/{set_id}/redo")
def redo_set(set_id: uuid.UUID, db: Db) -> SetView:
    """Makes the choice again that was undone."""
    row = sets.get(db, set_id)
    history.lock(db, row.plan)
    history.redo(db, row.plan)
    return _after(db, open_set(db, row))


@router.get("/sets/{set_id}/check")
def check_set(set_id: uuid.UUID, db: Db, drawing: Drawing) -> CheckView:
    """Which files would still hold paint that is not of the kit."""
    return check_view(db, open_set(db, sets.get(db, set_id)), drawing)


def _view(db: Session, row: SetRow) -> SetView:
    return set_view(db, open_set(db, row))


def changed(db: Session, opened: OpenSet, what: str, made: Callable[[Plan], Plan]) -> SetView:
    """The set after a change of its plan."""
    plan = sets.change_plan(db, opened.row, opened.own_kit, opened.paints, what[:200], made)
    # Whoever waits to change it, too, does not wait for what is said of this change.
    db.commit()
    return _after(db, replace(opened, plan=plan))


def _after(db: Session, opened: OpenSet) -> SetView:
    """A set after a change of its plan; the pictures of it that are looked at are begun before they are asked for."""
    ahead = attending(db)
    look = ahead.looked(opened.row.id) if ahead is not None else None
    if ahead is None or look is None:
        return set_view(db, opened)
    seen = _looked_at(opened, look)
    ahead.begin(opened.row.id, look.size, _expected(seen, look.size))
    told = [PictureSeen(id=asset.id, fingerprint=now) for asset, _, now in seen]
    return set_view(db, opened).model_copy(update={"seen": told})


def _looked_at(opened: OpenSet, look: Look) -> list[tuple[AssetRow, Changes, str]]:
    """The files that are looked at, what becomes of each, and what its picture depends on."""
    places = (opened.files.places.get(one) for one in look.assets)
    rows = [opened.assets[at] for at in places if at is not None]
    return [(row, changes, fingerprint(row, changes)) for row in rows for changes in (opened.changes(row),)]


def _expected(seen: Iterable[tuple[AssetRow, Changes, str]], size: int) -> Iterator[Expected]:
    return (Expected(picture_key(now, size), row.id, changes) for row, changes, now in seen)


def _with_states(plan: Plan, sent: FileStates, names: list[str]) -> Plan:
    if sent.left_out is not None:
        plan = plan.with_(left_out=toggled(plan.left_out, names, sent.left_out))
    if sent.kept is not None:
        plan = plan.with_(kept=toggled(plan.kept, names, sent.kept))
    if sent.reset:
        gone = set(names)
        plan = plan.with_(
            files={name: own for name, own in plan.files.items() if name not in gone},
            file_acts={name: own if name not in gone else _remedies(own) for name, own in plan.file_acts.items()},
            file_part_rules={name: own for name, own in plan.file_part_rules.items() if name not in gone},
            kept=toggled(plan.kept, names, False),
        )
    return plan


def _remedies(acts: dict[str, Act | None]) -> dict[str, Act | None]:
    """What a file keeps of its own when it follows the set again: what it lacks by itself."""
    return {key: act for key, act in acts.items() if act is not None and act.remedies}


def toggled(known: tuple[str, ...], names: Collection[str], on: bool) -> tuple[str, ...]:
    """Names with some more, or without them, in order."""
    return tuple(sorted({*known, *names} if on else set(known) - set(names)))


def _seen(db: Session, set_id: uuid.UUID, wanted: FilesWanted) -> OpenSet:
    """A set, or what it would be in the kit that is wanted."""
    opened = open_set(db, sets.get(db, set_id))
    return opened if wanted.kit is None else tried(opened, sets.kit_for(db, wanted.kit, wanted.edition))


def _named(opened: OpenSet, names: list[str] | None, which: Which | None) -> list[str]:
    """The files that are meant, at least one. Raises InvalidPlanError."""
    if (names is None) == (which is None):
        raise InvalidPlanError("Give either the names of files or which ones are meant.")
    if which is not None:
        listing = Listing(which.only, text=which.text)
        names = [file.name for file in opened.seen_on(parse_color(which.ground).rgb) if listing.holds(file)]
    if not names:
        raise InvalidPlanError("The set has no such file.")
    for name in names:
        known_file(opened, name)
    return names


def known_file(opened: OpenSet, name: str | None) -> None:
    """Raises InvalidPlanError for a file that a set does not have."""
    if name is not None and name not in opened.files.names:
        raise InvalidPlanError(f"The set has no file “{name[:80]}”.")


def _told(recipe: Recipe) -> str:
    words = [recipe.mode.value]
    if recipe.mode.value == "kit":
        words += [recipe.policy.value, recipe.allowed.value]
    if recipe.strength < 1:
        words.append(f"strength {recipe.strength:.0%}")
    return ", ".join(words)
