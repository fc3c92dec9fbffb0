"""Sets of files with their plan, and the variants of them, as they are kept."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from threading import Lock
from typing import Any, TypeVar

from cachetools import LRUCache
from sqlalchemy import Select, String, Uuid, and_, bindparam, cast, func, literal, or_, select
from sqlalchemy.dialects.postgresql import aggregate_order_by
from sqlalchemy.orm import Session, aliased

from pavese.core import limits
from pavese.core.color.srgb import Rgba
from pavese.core.formats import format_of, made_of_pixels
from pavese.core.formats.format import Can
from pavese.core.formats.intake import Becoming, Came, ReadFile
from pavese.core.handoff.package import free_name
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.recolor.act import Act
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import SetPaints, summarize
from pavese.core.recolor.plan import ChangesOf, Choice, PartRules, Plan
from pavese.core.recolor.quiet import rules_left
from pavese.core.recolor.target import is_known
from pavese.core.recolor.traits import apart
from pavese.store import belonging, contents, drops, editions, history, kits
from pavese.store.belonging import KeptFile
from pavese.store.editions import content_of
from pavese.store.errors import NotFoundError
from pavese.store.facts import FileFacts, facts_of, inventory_of, know, measured_of, remember, to_json
from pavese.store.models import AssetRow, DropRow, EditionRow, KitRow, LinkFile, Revision, SetRow, Subject

#: Files whose bytes are held at a time.
_AT_ONCE = 16
#: Names of elements listed beside a paint of a set.
_SELECTORS = 30

OfFile = TypeVar("OfFile", AssetRow, LinkFile, KeptFile)


def create(session: Session, kit_id: uuid.UUID, name: str, channel: str = "icons", purpose: str = "") -> SetRow:
    """An empty set."""
    subject = history.begin(session, "Automatic plan", Plan().model_dump(mode="json"))
    row = SetRow(id=uuid.uuid4(), kit_id=kit_id, plan=subject, name=name, channel=channel, purpose=purpose)
    session.add(row)
    session.flush()
    return row


def vary(session: Session, row: SetRow, name: str, kit_id: uuid.UUID, edition: EditionRow | None) -> SetRow:
    """A variant of a set: the same files, and at first the same plan, for another kit or edition where given.

    What the plan has from a kit that is another one now is planned anew by the same settings.
    """
    body = history.current(session, row.plan)
    subject = history.begin(session, f"Copy of {row.name}", body)
    made = SetRow(
        id=uuid.uuid4(),
        kit_id=kit_id,
        plan=subject,
        name=name,
        channel=row.channel,
        purpose=row.purpose,
        original_id=row.files_id,
        edition_id=edition.id if edition else None,
    )
    session.add(made)
    session.flush()
    settle(session, made)
    return made


def settle(session: Session, row: SetRow) -> None:
    """Completes the stored plan for the files and the kit as they are, so that it need not be done at every look."""
    plan = plan_of(session, row, kit_of(session, row), files_of(session, row).paints)
    history.amend(session, row.plan, plan.model_dump(mode="json"))


def variants(session: Session, row: SetRow) -> list[SetRow]:
    """The original and its variants, oldest first."""
    query = select(SetRow).where(or_(SetRow.id == row.files_id, SetRow.original_id == row.files_id))
    return list(session.scalars(query.order_by(SetRow.made_at, SetRow.id)))


def remove(session: Session, row: SetRow) -> None:
    """Removes a set with its variants, its files' places in it and its history; a variant goes alone.

    The bytes stay, since others may hold them.
    """
    family = [row] if row.original_id else [one for one in reversed(variants(session, row)) if one.id != row.id] + [row]
    for one in family:
        plan = one.plan
        session.delete(one)
        session.flush()
        session.delete(plan)
        session.flush()


def of_kit(session: Session, kit_id: uuid.UUID) -> list[tuple[SetRow, int]]:
    """The sets of a kit with their number of files, oldest first."""
    return of_kits(session, [kit_id])[kit_id]


def of_kits(session: Session, kit_ids: Collection[uuid.UUID]) -> dict[uuid.UUID, list[tuple[SetRow, int]]]:
    """The sets of each kit with their number of files, oldest first."""
    counted = (
        select(SetRow.id, func.count(AssetRow.id))
        .outerjoin(AssetRow, AssetRow.set_id == func.coalesce(SetRow.original_id, SetRow.id))
        .where(SetRow.kit_id.in_(kit_ids))
        .group_by(SetRow.id)
    )
    files = dict(session.execute(counted).all())
    found: dict[uuid.UUID, list[tuple[SetRow, int]]] = {kit_id: [] for kit_id in kit_ids}
    for row in session.scalars(select(SetRow).where(SetRow.kit_id.in_(kit_ids)).order_by(SetRow.made_at, SetRow.id)):
        # One that came between the two queries has no files yet.
        found[row.kit_id].append((row, files.get(row.id, 0)))
    return found


def get(session: Session, set_id: uuid.UUID) -> SetRow:
    """One set. Raises NotFoundError."""
    row = session.get(SetRow, set_id)
    if row is None:
        raise NotFoundError("This set does not exist.")
    return row


def kit_of(session: Session, row: SetRow) -> Kit:
    """The kit a set is made for: the edition it is bound to, or the draft as it is now."""
    if row.edition is not None:
        return content_of(row.edition).kit
    return kits.kit_of(session, kits.get(session, row.kit_id))


def kit_for(session: Session, kit_id: uuid.UUID, edition: int | None) -> Kit:
    """An edition of a kit, or its draft as it is now. Raises NotFoundError."""
    row = kits.get(session, kit_id)
    return kits.kit_of(session, row) if edition is None else content_of(editions.get(session, row.id, edition)).kit


def assets(session: Session, row: SetRow) -> Sequence[AssetRow]:
    """The files of a set in their order."""
    rows = session.scalars(
        select(AssetRow).where(AssetRow.set_id == row.files_id).order_by(AssetRow.position, AssetRow.id)
    ).all()
    remember(session, rows)
    return rows


@dataclass(frozen=True)
class Files:
    """The files of a set in their order, under a key that no other files have, what is known of each (by its id), and
    their paints together."""

    key: str
    rows: Sequence[AssetRow]
    facts: Mapping[uuid.UUID, FileFacts]
    paints: SetPaints

    @cached_property
    def places(self) -> Mapping[uuid.UUID, int]:
        """The place of each file, by its id."""
        return {row.id: at for at, row in enumerate(self.rows)}

    @cached_property
    def names(self) -> frozenset[str]:
        """The names of all of them."""
        return frozenset(row.name for row in self.rows)

    @cached_property
    def can(self) -> frozenset[frozenset[Can]]:
        """What they can, each kind once."""
        return frozenset(format_of(row.name).can for row in self.rows)

    @cached_property
    def apart(self) -> Sequence[float]:
        """How far each is from the others."""
        return apart([known.traits for known in self.facts.values()])

    @cached_property
    def selectors(self) -> Mapping[Rgba, Sequence[str]]:
        """Names of elements by which a paint can be split, the first few of each paint."""
        found: dict[Rgba, dict[str, None]] = {}
        for known in self.facts.values():
            for paint, selectors in known.inventory.selectors.items():
                found.setdefault(paint, {}).update(dict.fromkeys(selectors))
        return {paint: list(selectors)[:_SELECTORS] for paint, selectors in found.items()}


#: Files of the sets that are worked on, by `files_key`; so many files together.
_FILES: LRUCache[str, Files] = LRUCache(60_000, getsizeof=lambda files: len(files.rows) + 1)
_FILES_LOCK = Lock()


def files_of(session: Session, row: SetRow) -> Files:
    """The files of a set, read once as long as none comes or goes."""
    key = f"{row.files_id} {files_key(session, row)}"
    with _FILES_LOCK:
        known = _FILES.get(key)
    if known is not None:
        return known
    rows = assets(session, row)
    facts = {one.id: facts_of(one) for one in rows}
    found = paints(rows)
    for one in rows:
        # They outlive this session, and are never changed.
        session.expunge(one)
    made = Files(key, rows, facts, found)
    with _FILES_LOCK:
        if len(rows) < _FILES.maxsize:
            _FILES[key] = made
    return made


def files_key(session: Session, row: SetRow) -> str:
    """A text that changes whenever the files of a set do."""
    each = cast(AssetRow.id, String) + cast(AssetRow.beside, String)
    ids = func.string_agg(each, aggregate_order_by(literal(","), AssetRow.position, AssetRow.id))
    return session.scalars(select(func.md5(ids)).where(AssetRow.set_id == row.files_id)).one() or ""


def asset(session: Session, asset_id: uuid.UUID) -> AssetRow:
    """One file. Raises NotFoundError."""
    row = session.get(AssetRow, asset_id)
    if row is None:
        raise NotFoundError("This file does not exist.")
    return row


def paints(rows: Iterable[AssetRow]) -> SetPaints:
    """The paints of a set, each once, with what was measured of them."""
    listed = list(rows)
    names = [one.name for one in listed]
    others = {one.name: belonging.templates(one) for one in listed if one.beside}
    return summarize(map(inventory_of, listed), map(measured_of, listed), names, made_of_pixels(names), others)


@dataclass
class Room:
    """What a set has taken already, as far as files that come later depend on it; filled as they come."""

    names: set[str]
    paints: set[str]
    files: int
    position: int

    def refusal(self, file: ReadFile) -> str | None:
        """Why there is no room for a file; None where there is."""
        if self.files >= limits.SET_FILES:
            return f"the set is full: it holds {limits.SET_FILES:,} files."
        if len(self.paints | {paint.key for paint in file.inventory.sites}) > limits.SET_PAINTS:
            return f"with it, the set would have more than {limits.SET_PAINTS:,} colors; start another set for it."
        return None


def room(session: Session, row: SetRow) -> Room:
    """What a set has taken already."""
    found = select(AssetRow.name, AssetRow.position).where(AssetRow.set_id == row.files_id)
    known = session.execute(found).all()
    keys = select(func.jsonb_object_keys(AssetRow.paints)).where(AssetRow.set_id == row.files_id).distinct()
    return Room(
        {name.casefold() for name, _ in known},
        set(session.scalars(keys)),
        len(known),
        max((position for _, position in known), default=-1) + 1,
    )


def add_files(
    session: Session,
    row: SetRow,
    room: Room,
    files: Sequence[ReadFile],
    rights: Mapping[str, str] | None = None,
) -> list[tuple[str, str]]:
    """Adds files whose bytes are kept, with the rights they come with; gives those that there is no room for, each
    with the reason. They are not planned yet, see `plan_arrived`."""
    refused: list[tuple[str, str]] = []
    for file in files:
        reason = room.refusal(file)
        if reason is not None:
            refused.append((file.name, reason))
            continue
        made = uuid.uuid4()
        know(made, file.inventory, file.measured)
        session.add(
            AssetRow(
                id=made,
                set_id=row.files_id,
                position=room.position,
                name=free_name(file.name, room.names),
                rights=dict(rights or {}),
                beside=belonging.come_with(session, file),
                **_read(file, belonging.come_as(file)),
            )
        )
        room.position += 1
        room.files += 1
        room.paints.update(paint.key for paint in file.inventory.sites)
    session.flush()
    return refused


def _read(file: ReadFile, come: Mapping[str, object]) -> dict[str, Any]:
    """What is kept of what was read of a file; `come` is what there is of each reference."""
    return {
        "digest": file.digest,
        "paints": {
            **{paint.key: dict(counts) for paint, counts in file.inventory.sites.items()},
            **{paint.key: {} for paint in file.inventory.around},
        },
        "remarks": belonging.still_so(file.inventory.remarks, come),
        "measured": to_json(file.inventory, file.measured),
    }


def read_anew(session: Session, row: AssetRow, file: ReadFile) -> None:
    """What was read of a file once more, with what has come to it, in its place; what has come may name more."""
    beside = {**{reference: [] for reference in (*file.refers, *file.remote)}, **row.beside}
    made = AssetRow(
        id=uuid.uuid4(),
        set_id=row.set_id,
        position=row.position,
        name=row.name,
        rights=dict(row.rights),
        beside=beside,
        **_read(file, beside),
    )
    session.delete(row)
    session.flush()
    know(made.id, file.inventory, file.measured)
    session.add(made)
    session.flush()


def came(session: Session, row: KeptFile) -> Came:
    """A file as it came, with those that belong to it."""
    [(_, found)] = files(session, [row])
    return found


def becoming(session: Session, row: KeptFile, changes: Changes) -> Becoming:
    """A file as it came, and what becomes of it, with the logo where that is put in."""
    [found] = each_becoming(session, [(row, changes)])
    return found


@dataclass(frozen=True)
class Arrived:
    """Of the paints of a set, how many were planned when files arrived, and how many were there and stayed."""

    planned: int
    stood: int


def plan_arrived(session: Session, row: SetRow) -> Arrived:
    """Plans for the paints that came, in every variant; what stood before stays as it was.

    Where what stood would lose something in a file that came, this file gets an exception. What is told is of this set.
    """
    family = variants(session, row)
    for one in family:
        history.lock(session, one.plan)
    found = paints(assets(session, row))
    told = Arrived(0, 0)
    for one in family:
        plan = history.read(session, one.plan, Plan)
        kit = plan.kit_with_guests(kit_of(session, one))
        valid = _without_gone(plan, kit).ruled(found, kit)
        if one.id == row.id:
            stood = sum(use.paint.key in valid.choices for use in found.uses)
            told = Arrived(len(found.uses) - stood, stood)
        history.amend(session, one.plan, assign(found, kit, valid).model_dump(mode="json"))
    return told


def plan_of(session: Session, row: SetRow, kit: Kit, found: SetPaints) -> Plan:
    """The plan in force, complete for these paints: what it lacks, or what the kit lost since, is planned anew and
    kept, so that it is planned once and not at every look.

    While files are on their way, what they brought so far is not planned yet.
    """
    plan = history.read(session, row.plan, Plan)
    valid = _without_gone(plan, plan.kit_with_guests(kit))
    if _knows(valid, found) or drops.arriving(session, row):
        return valid
    history.lock(session, row.plan)
    planned = complete(found, kit, history.read(session, row.plan, Plan))
    history.amend(session, row.plan, planned.model_dump(mode="json"))
    return planned


def _with_stamps() -> Select[AssetRow, uuid.UUID, str, str, uuid.UUID | None, bool]:
    """A file with a set it is in, what changes with the set's plan and with the draft of its kit, its edition, and
    whether more files are on their way; built once, since every picture asks for it."""
    planned, drafted = aliased(Revision, name="planned"), aliased(Revision, name="drafted")
    plan_subject, kit_subject = aliased(Subject), aliased(Subject)
    coming = select(DropRow.id).where(DropRow.set_id == AssetRow.set_id, DropRow.state.in_(drops.OPEN))
    asked = bindparam("set_id", type_=Uuid())
    return (
        select(
            AssetRow,
            SetRow.id,
            history.stamp("planned"),
            history.stamp("drafted"),
            SetRow.edition_id,
            coming.correlate(AssetRow).exists(),
        )
        .join(SetRow, SetRow.id == func.coalesce(asked, AssetRow.set_id))
        .join(plan_subject, plan_subject.id == SetRow.plan_id)
        .join(planned, and_(planned.subject_id == plan_subject.id, planned.number == plan_subject.head))
        .join(KitRow, KitRow.id == SetRow.kit_id)
        .join(kit_subject, kit_subject.id == KitRow.draft_id)
        .join(drafted, and_(drafted.subject_id == kit_subject.id, drafted.number == kit_subject.head))
        .where(AssetRow.id == bindparam("asset_id"))
    )


_WITH_STAMPS = _with_stamps()

#: Plans of sets that are looked at, and what they make of files, by the set and what they depend on.
_CHANGES: LRUCache[tuple[uuid.UUID, str, str], tuple[Plan, ChangesOf]] = LRUCache(32)
_CHANGES_LOCK = Lock()


def _with_logo(session: Session, changes: Changes) -> Changes:
    """Changes with the files of the logo that they put in."""
    logo = changes.logo
    return changes if logo is None else replace(changes, logo=replace(logo, files=logo_files(session, logo)))


def logo_files(session: Session, logo: KitLogo) -> dict[str, bytes]:
    """The drawn pictures of a logo, by hash."""
    return {key: data for key, data in contents.several(session, logo.drawn).items() if data}


def with_changes(session: Session, asset_id: uuid.UUID, set_id: uuid.UUID | None = None) -> tuple[AssetRow, Changes]:
    """A file, and what becomes of it in a set or a variant of it (None: the set it came into).

    Mostly one query; the set's other files are only read where the stored plan lacks a paint. Raises NotFoundError.
    """
    asked = {"asset_id": asset_id, "set_id": set_id}
    found = session.execute(_WITH_STAMPS, asked).one_or_none()
    if found is None:
        asset(session, asset_id)
        raise NotFoundError("This set does not exist.")
    row, of, planned, drafted, edition, arriving = found
    key = (of, planned, drafted if edition is None else str(edition))
    with _CHANGES_LOCK:
        known = _CHANGES.get(key)
    if known is None:
        owner = get(session, of)
        kit, stored = kit_of(session, owner), history.read(session, owner.plan, Plan)
        plan = _without_gone(stored, stored.kit_with_guests(kit))
        known = plan, plan.changes_by_file(plan.kit_with_guests(kit))
        # What was changed between the two statements would stand here again once that change is undone.
        now = session.execute(_WITH_STAMPS, asked).one_or_none()
        if now is not None and now[1:5] == found[1:5]:
            with _CHANGES_LOCK:
                _CHANGES[key] = known
    plan, changes_of = known
    if not row.own_paints <= plan.choices.keys() and not arriving:
        owner = get(session, of)
        kit = kit_of(session, owner)
        plan = plan_of(session, owner, kit, files_of(session, owner).paints)
        changes_of = plan.changes_by_file(plan.kit_with_guests(kit))
    return row, changes_of(row.name, row.paints, belonging.templates(row))


def change_plan(
    session: Session, row: SetRow, kit: Kit, found: SetPaints, label: str, made: Callable[[Plan], Plan]
) -> Plan:
    """Records the plan that `made` gives for the one in force, completed for the paints; the kit is without guests."""
    arriving = drops.arriving(session, row)

    def changed(before: Plan) -> Plan:
        valid = _without_gone(before, before.kit_with_guests(kit))
        plan = made(valid if arriving or _knows(valid, found) else complete(found, kit, before))
        return _without_gone(plan, plan.kit_with_guests(kit)) if arriving else complete(found, kit, plan)

    return history.change(session, row.plan, label, Plan, changed)


def files(session: Session, rows: Iterable[OfFile]) -> Iterator[tuple[OfFile, Came]]:
    """Each file as it came, a few at a time."""
    listed = list(rows)
    for at in range(0, len(listed), _AT_ONCE):
        some = listed[at : at + _AT_ONCE]
        data = contents.several(session, [row.digest for row in some])
        for row in some:
            beside = ((reference, came) for reference, came in row.beside.items() if came)
            inside = tuple((reference, contents.data(session, digest)) for reference, (_, digest) in beside)
            yield row, Came(row.name, data[row.digest], inside)


def each_becoming(session: Session, wanted: Iterable[tuple[OfFile, Changes]]) -> Iterator[Becoming]:
    """Each file as it came, and what becomes of it, a few at a time."""
    listed = list(wanted)
    for (_, changes), (_, file) in zip(listed, files(session, [row for row, _ in listed]), strict=True):
        yield Becoming(file, _with_logo(session, changes))


def complete(found: SetPaints, kit: Kit, plan: Plan) -> Plan:
    """The plan for these paints in a kit: what it lacks, or what the kit does not have, is planned."""
    kit = plan.kit_with_guests(kit)
    valid = _without_gone(plan, kit).ruled(found, kit)
    return valid if _knows(valid, found) else assign(found, kit, valid)


def _knows(plan: Plan, found: SetPaints) -> bool:
    """Whether every paint has its choice."""
    return all(use.paint.key in plan.choices for use in found.uses)


def _without_gone(plan: Plan, kit: Kit) -> Plan:
    """The plan without choices that name what the kit has no longer."""

    def kept(choices: dict[str, Choice]) -> dict[str, Choice]:
        return {key: choice for key, choice in choices.items() if is_known(choice.target, kit)}

    files = {name: own for name, choices in plan.files.items() if (own := kept(choices))}

    def whole(parts: PartRules) -> PartRules:
        # Of a part half of what is said would be worse than none; what is added for the dark is as its part says.
        return {part: rules for part, rules in parts.items() if rules_left(rules, kit) == rules}

    own_parts = {name: left for name, parts in plan.file_part_rules.items() if (left := whole(parts))}
    return plan.with_(
        choices=kept(plan.choices),
        files=files,
        rules=rules_left(plan.rules, kit),
        part_rules=whole(plan.part_rules),
        file_part_rules=own_parts,
        acts={key: act for key, act in plan.acts.items() if _can_be_done(act, kit)},
        file_acts={
            name: {key: act for key, act in own.items() if act is None or _can_be_done(act, kit)}
            for name, own in plan.file_acts.items()
        },
    )


def _can_be_done(act: Act, kit: Kit) -> bool:
    return all(is_known(target, kit) for target in act.targets)
