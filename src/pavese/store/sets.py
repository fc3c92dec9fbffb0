"""Sets of files with their plan, and the variants of them, as they are kept."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any

from sqlalchemy import Select, and_, bindparam, func, or_, select
from sqlalchemy.orm import Session, aliased

from pavese.core.errors import InvalidPlanError
from pavese.core.formats.intake import TakenFile
from pavese.core.handoff.package import free_name
from pavese.core.kit.kit import Kit
from pavese.core.recolor.assign import assign
from pavese.core.recolor.dress import Dress
from pavese.core.recolor.inventory import SetPaints, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Choice, Plan
from pavese.core.recolor.target import resolve_target
from pavese.store import blobs, editions, history, kits
from pavese.store.editions import content_of
from pavese.store.errors import NotFoundError
from pavese.store.looked_at import inventory_of, measured_of, remember, to_json
from pavese.store.models import AssetRow, EditionRow, KitRow, Revision, SetRow, Subject


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
    plan = plan_of(session, row, kit_of(session, row), paints(assets(session, row)))
    history.amend(session, row.plan, plan.model_dump(mode="json"))


def variants(session: Session, row: SetRow) -> list[SetRow]:
    """The original and its variants, oldest first."""
    query = select(SetRow.id).where(or_(SetRow.id == row.files_id, SetRow.original_id == row.files_id))
    return [get(session, set_id) for set_id in session.scalars(query.order_by(SetRow.made_at, SetRow.id))]


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
    counted = (
        select(SetRow.id, func.count(AssetRow.id))
        .outerjoin(AssetRow, AssetRow.set_id == func.coalesce(SetRow.original_id, SetRow.id))
        .where(SetRow.kit_id == kit_id)
        .group_by(SetRow.id)
        .order_by(SetRow.made_at, SetRow.id)
    )
    return [(get(session, set_id), files) for set_id, files in session.execute(counted).all()]


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


def asset(session: Session, asset_id: uuid.UUID) -> AssetRow:
    """One file. Raises NotFoundError."""
    row = session.get(AssetRow, asset_id)
    if row is None:
        raise NotFoundError("This file does not exist.")
    return row


def paints(rows: Iterable[AssetRow]) -> SetPaints:
    """The paints of a set, each once, with what was measured of them."""
    listed = list(rows)
    return summarize(map(inventory_of, listed), map(measured_of, listed))


def add_files(
    session: Session,
    row: SetRow,
    files: Sequence[TakenFile],
    measured: Sequence[Measured],
    rights: Mapping[str, Mapping[str, str]] | None = None,
) -> list[AssetRow]:
    """Keeps files with what was measured of each, and the rights of those (by name) that have any; gives all files.

    Plans for the paints they bring, in every variant; the plan for paints known before stays. While no one has chosen
    anything yet, the whole plan is made anew, so that ten drops of ten give the same plan as one of a hundred.
    """
    family = variants(session, row)
    for one in family:
        history.lock(session, one.plan)
    known = assets(session, row)
    taken = {asset.name.casefold() for asset in known}
    position = max((asset.position for asset in known), default=-1) + 1
    blobs.keep(session, {file.digest: file.data for file in files})
    added = [
        AssetRow(
            id=uuid.uuid4(),
            set_id=row.files_id,
            position=position + number,
            name=free_name(file.name, taken),
            digest=file.digest,
            paints={paint.key: dict(counts) for paint, counts in file.inventory.sites.items()},
            remarks=list(file.inventory.remarks),
            measured=to_json(file.inventory, seen),
            rights=dict((rights or {}).get(file.name, {})),
        )
        for number, (file, seen) in enumerate(zip(files, measured, strict=True))
    ]
    session.add_all(added)
    session.flush()
    files_now = [*known, *added]
    found = paints(files_now)
    for one in family:
        plan = Plan.model_validate(history.current(session, one.plan))
        untouched = not plan.held() and not plan.parts() and not plan.settled
        held = plan.with_(choices={}) if untouched else plan
        history.amend(session, one.plan, complete(found, kit_of(session, one), held).model_dump(mode="json"))
    return files_now


def plan_of(session: Session, row: SetRow, kit: Kit, found: SetPaints) -> Plan:
    """The plan in force, complete for these paints: what it lacks, or what the kit lost since, is planned anew."""
    return complete(found, kit, Plan.model_validate(history.current(session, row.plan)))


def _bodies() -> Select[dict[str, Any], dict[str, Any], dict[str, Any] | None]:
    """The plan in force of a set, the draft in force of its kit, and its edition; built once, since every picture
    asks for it."""
    planned, drafted = aliased(Revision), aliased(Revision)
    plan_subject, kit_subject = aliased(Subject), aliased(Subject)
    return (
        select(planned.body, drafted.body, EditionRow.body)
        .select_from(SetRow)
        .join(plan_subject, plan_subject.id == SetRow.plan_id)
        .join(planned, and_(planned.subject_id == plan_subject.id, planned.number == plan_subject.head))
        .join(KitRow, KitRow.id == SetRow.kit_id)
        .join(kit_subject, kit_subject.id == KitRow.draft_id)
        .join(drafted, and_(drafted.subject_id == kit_subject.id, drafted.number == kit_subject.head))
        .outerjoin(EditionRow, EditionRow.id == SetRow.edition_id)
        .where(SetRow.id == bindparam("set_id"))
    )


_BODIES = _bodies()


def dress(session: Session, asset: AssetRow, set_id: uuid.UUID | None = None) -> Dress:
    """What becomes of one file in a set or a variant of it (None: the set it came into).

    One query; the set's other files are only read where the stored plan lacks a paint. Raises NotFoundError when
    the file is not of the set.
    """
    found = session.execute(_BODIES, {"set_id": set_id or asset.set_id}).one_or_none()
    if found is None:
        raise NotFoundError("This set does not exist.")
    plan_body, kit_body, edition_body = found
    kit = Kit.model_validate(edition_body["kit"] if edition_body else kit_body)
    files = plan_body.get("files", {})
    stored = Plan.model_validate(
        {
            **plan_body,
            "choices": {key: one for key, one in plan_body["choices"].items() if key.partition("@")[0] in asset.paints},
            "files": {asset.name: files[asset.name]} if asset.name in files else {},
            "backings": {name: one for name, one in plan_body.get("backings", {}).items() if name == asset.name},
        }
    )
    host = stored.host(kit)
    plan = _standing(stored, host)
    if not asset.paints.keys() <= plan.choices.keys():
        row = get(session, set_id or asset.set_id)
        plan = plan_of(session, row, kit, paints(assets(session, row)))
    return plan.dress(host, asset.name, asset.paints)


def change_plan(
    session: Session, row: SetRow, kit: Kit, found: SetPaints, label: str, made: Callable[[Plan], Plan]
) -> Plan:
    """Records the plan that `made` gives for the one in force, completed for the paints; the kit is without guests."""
    history.lock(session, row.plan)
    plan = complete(found, kit, made(plan_of(session, row, kit, found)))
    history.record(session, row.plan, label, plan.model_dump(mode="json"))
    return plan


def files(session: Session, rows: Iterable[AssetRow]) -> Iterator[tuple[AssetRow, bytes]]:
    """Each file with its bytes, a few at a time."""
    for row in rows:
        yield row, blobs.data(session, row.digest)


def complete(found: SetPaints, kit: Kit, plan: Plan) -> Plan:
    """The plan for these paints in a kit: what it lacks, or what the kit does not have, is planned."""
    kit = plan.host(kit)
    standing = _standing(plan, kit)
    wanted = {use.paint.key for use in found.uses}
    return standing if wanted <= standing.choices.keys() else assign(found, kit, standing)


def _standing(plan: Plan, kit: Kit) -> Plan:
    """The plan without choices that name what the kit has no longer."""

    def kept(choices: dict[str, Choice]) -> dict[str, Choice]:
        return {key: choice for key, choice in choices.items() if _stands(choice, kit)}

    files = {name: own for name, choices in plan.files.items() if (own := kept(choices))}
    return plan.with_(choices=kept(plan.choices), files=files)


def _stands(choice: Choice, kit: Kit) -> bool:
    try:
        resolve_target(choice.target, kit)
    except InvalidPlanError:
        return False
    return True
