"""Sets of files with their plan, as they are kept."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from sqlalchemy import Select, and_, bindparam, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, aliased

from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.errors import InvalidPlanError
from pavese.core.formats.intake import TakenFile
from pavese.core.handoff.package import free_name
from pavese.core.kit.kit import Kit
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import Inventory, Kind, PaintUse, summarize
from pavese.core.recolor.plan import Choice, Plan, resolve_target
from pavese.store import history
from pavese.store.errors import NotFoundError
from pavese.store.models import AssetRow, Blob, KitRow, Revision, SetRow, Subject


def create(session: Session, kit_id: uuid.UUID, name: str) -> SetRow:
    """An empty set."""
    subject = history.begin(session, "Automatic plan", Plan().model_dump(mode="json"))
    row = SetRow(id=uuid.uuid4(), kit_id=kit_id, plan=subject, name=name)
    session.add(row)
    session.flush()
    return row


def remove(session: Session, row: SetRow) -> None:
    """Removes a set with its files' places in it and its history; the bytes stay, since others may hold them."""
    plan = row.plan
    session.delete(row)
    session.flush()
    session.delete(plan)


def of_kit(session: Session, kit_id: uuid.UUID) -> list[tuple[SetRow, int]]:
    """The sets of a kit with their number of files, oldest first."""
    counted = (
        select(SetRow, func.count(AssetRow.id))
        .outerjoin(AssetRow, AssetRow.set_id == SetRow.id)
        .where(SetRow.kit_id == kit_id)
        .group_by(SetRow.id)
        .order_by(SetRow.made_at, SetRow.id)
    )
    ids = session.execute(counted.with_only_columns(SetRow.id, func.count(AssetRow.id))).all()
    return [(get(session, set_id), files) for set_id, files in ids]


def get(session: Session, set_id: uuid.UUID) -> SetRow:
    """One set. Raises NotFoundError."""
    row = session.get(SetRow, set_id)
    if row is None:
        raise NotFoundError("This set does not exist.")
    return row


def assets(session: Session, row: SetRow) -> Sequence[AssetRow]:
    """The files of a set in their order."""
    return session.scalars(
        select(AssetRow).where(AssetRow.set_id == row.id).order_by(AssetRow.position, AssetRow.id)
    ).all()


def asset(session: Session, asset_id: uuid.UUID) -> AssetRow:
    """One file. Raises NotFoundError."""
    row = session.get(AssetRow, asset_id)
    if row is None:
        raise NotFoundError("This file does not exist.")
    return row


def data(session: Session, digest: str) -> bytes:
    """The bytes of a file."""
    return session.scalars(select(Blob.data).where(Blob.digest == digest)).one()


def inventory(row: AssetRow) -> Inventory:
    """The paints of a file as they were read when it came in."""
    sites = {
        parse_key(key): {Kind(kind): count for kind, count in counts.items()} for key, counts in row.paints.items()
    }
    return Inventory(sites, tuple(row.remarks))


def uses(rows: Iterable[AssetRow]) -> tuple[PaintUse, ...]:
    """The paints of a set, each once."""
    return summarize(inventory(row) for row in rows)


def add_files(session: Session, row: SetRow, files: Sequence[TakenFile], kit: Kit) -> list[AssetRow]:
    """Keeps files and plans for the paints they bring; the plan for paints known before stays.

    While no one has chosen anything yet, the whole plan is made anew, so that ten drops of ten give the same plan
    as one of a hundred.
    """
    history.lock(session, row.plan)
    known = assets(session, row)
    taken = {asset.name.casefold() for asset in known}
    position = max((asset.position for asset in known), default=-1) + 1
    if files:
        blobs = {file.digest: file.data for file in files}
        keep = insert(Blob).values([{"digest": key, "data": value} for key, value in sorted(blobs.items())])
        session.execute(keep.on_conflict_do_nothing())
    added = [
        AssetRow(
            id=uuid.uuid4(),
            set_id=row.id,
            position=position + number,
            name=free_name(file.name, taken),
            digest=file.digest,
            paints={paint.key: dict(counts) for paint, counts in file.inventory.sites.items()},
            remarks=list(file.inventory.remarks),
        )
        for number, file in enumerate(files)
    ]
    session.add_all(added)
    session.flush()
    plan = Plan.model_validate(history.current(session, row.plan))
    held = plan if plan.held() else Plan()
    history.amend(session, row.plan, _complete(uses([*known, *added]), kit, held).model_dump(mode="json"))
    return added


def plan_of(session: Session, row: SetRow, kit: Kit, paints: Sequence[PaintUse]) -> Plan:
    """The plan in force, complete for these paints: what it lacks, or what the kit lost since, is planned anew."""
    return _complete(paints, kit, Plan.model_validate(history.current(session, row.plan)))


def _bodies() -> Select[dict[str, Any], dict[str, Any]]:
    """The plan in force of a set, and the draft in force of its kit; built once, since every picture asks for it."""
    planned, drafted = aliased(Revision), aliased(Revision)
    plan_subject, kit_subject = aliased(Subject), aliased(Subject)
    return (
        select(planned.body, drafted.body)
        .select_from(SetRow)
        .join(plan_subject, plan_subject.id == SetRow.plan_id)
        .join(planned, and_(planned.subject_id == plan_subject.id, planned.number == plan_subject.head))
        .join(KitRow, KitRow.id == SetRow.kit_id)
        .join(kit_subject, kit_subject.id == KitRow.draft_id)
        .join(drafted, and_(drafted.subject_id == kit_subject.id, drafted.number == kit_subject.head))
        .where(SetRow.id == bindparam("set_id"))
    )


_BODIES = _bodies()


def recoloring(session: Session, asset: AssetRow) -> dict[Rgba, Rgb]:
    """What becomes of the paints of one file. One query; the set's other files are only read where the stored plan
    lacks a paint."""
    plan_body, kit_body = session.execute(_BODIES, {"set_id": asset.set_id}).one()
    kit = Kit.model_validate(kit_body)
    choices = {
        key: Choice.model_validate(choice) for key, choice in plan_body["choices"].items() if key in asset.paints
    }
    own = {key: choice for key, choice in choices.items() if _stands(choice, kit)}
    if own.keys() < asset.paints.keys():
        row = get(session, asset.set_id)
        own = dict(plan_of(session, row, kit, uses(assets(session, row))).choices)
    return {paint: color for paint, color in Plan(choices=own).resolve(kit).items() if paint.key in asset.paints}


def choose(
    session: Session, row: SetRow, paints: Sequence[PaintUse], targets: dict[str, str], kit: Kit, label: str
) -> None:
    """Records targets that someone chose for some of the set's paints. Raises InvalidPlanError for any unknown."""
    history.lock(session, row.plan)
    plan = plan_of(session, row, kit, paints).with_targets(targets, kit)
    history.record(session, row.plan, label, plan.model_dump(mode="json"))


def plan_anew(session: Session, row: SetRow, paints: Sequence[PaintUse], kit: Kit) -> None:
    """Records the automatic plan, without anyone's choices."""
    history.lock(session, row.plan)
    history.record(session, row.plan, "Plan everything anew", assign(paints, kit).model_dump(mode="json"))


def files(session: Session, rows: Iterable[AssetRow]) -> Iterator[tuple[AssetRow, bytes]]:
    """Each file with its bytes, a few at a time."""
    for row in rows:
        yield row, data(session, row.digest)


def _complete(paints: Sequence[PaintUse], kit: Kit, plan: Plan) -> Plan:
    standing = {key: choice for key, choice in plan.choices.items() if _stands(choice, kit)}
    wanted = {use.paint.key for use in paints}
    if wanted <= standing.keys():
        return Plan(choices=standing)
    return assign(paints, kit, Plan(choices=standing))


def _stands(choice: Choice, kit: Kit) -> bool:
    try:
        resolve_target(choice.target, kit)
    except InvalidPlanError:
        return False
    return True
