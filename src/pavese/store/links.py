"""Links that show one state of a kit, and sets in its colors, to whoever has them."""

from __future__ import annotations

import secrets
import uuid
from collections.abc import Iterable, Sequence
from datetime import timedelta

from sqlalchemy import Select, func, insert, select
from sqlalchemy.orm import Session

from pavese.core.kit.edition import Snapshot
from pavese.core.recolor.plan import Plan
from pavese.store import editions, records
from pavese.store.database import now
from pavese.store.errors import GoneError, NotFoundError
from pavese.store.models import AssetRow, EditionRow, KitRow, Link, LinkFile, LinkSet
from pavese.store.people import token_digest


def make(session: Session, row: KitRow, edition: EditionRow | None, days: int) -> tuple[Link, str]:
    """A new link to an edition, or to the draft as it is now, and its token, which is told this once."""
    token = secrets.token_urlsafe(32)
    made = Link(
        id=uuid.uuid4(),
        digest=token_digest(token),
        kit_id=row.id,
        edition=edition,
        body=None if edition else editions.snapshot(session, row).model_dump(mode="json"),
        who=records.author(session).name,
        ends_at=now(session) + timedelta(days=days),
    )
    session.add(made)
    session.flush()
    records.write(session, row.id, f"Link to {title(made)} for {days} days", {})
    return made, token


def title(link: Link) -> str:
    """What a link shows, in words."""
    return f"edition {link.edition.number}" if link.edition else "the draft"


def content_of(link: Link) -> Snapshot:
    """The state of the kit that a link shows."""
    return editions.content_of(link.edition) if link.edition else Snapshot.model_validate(link.body)


def show_set(session: Session, link: Link, name: str, plan: Plan, rows: Iterable[AssetRow]) -> None:
    """Has a link show files with the plan that recolors them, as both are now."""
    shown = LinkSet(
        id=uuid.uuid4(), link_id=link.id, position=len(link.sets), name=name, plan=plan.model_dump(mode="json")
    )
    link.sets.append(shown)
    session.flush()
    files = [
        {"of_id": shown.id, "name": row.name, "digest": row.digest, "paints": row.paints, "beside": row.beside}
        for row in rows
    ]
    if files:
        session.execute(insert(LinkFile), files)


def listed(session: Session, kit_id: uuid.UUID) -> list[Link]:
    """The links to states of a kit, newest first."""
    query = select(Link).where(Link.kit_id == kit_id).order_by(Link.made_at.desc(), Link.id)
    return list(session.scalars(query))


def revoke(session: Session, kit_id: uuid.UUID, link_id: uuid.UUID) -> Link:
    """Ends a link now. Raises NotFoundError."""
    found = session.get(Link, link_id)
    if found is None or found.kit_id != kit_id:
        raise NotFoundError("This link does not exist.")
    if found.revoked_at is None:
        found.revoked_at = now(session)
        session.flush()
        records.write(session, kit_id, f"Revoke a link to {title(found)}", {})
    return found


def shared(session: Session, token: str) -> Link:
    """The link of a token. Raises NotFoundError for no token of ours, GoneError for one that has ended."""
    found = session.scalars(select(Link).where(Link.digest == token_digest(token))).first()
    if found is None:
        raise NotFoundError("This link leads nowhere; perhaps a part of it is missing.")
    if found.revoked_at is not None:
        raise GoneError("This link was revoked. Ask the person who sent it for a new one.")
    if found.ends_at <= now(session):
        raise GoneError("This link has expired. Ask the person who sent it for a new one.")
    return found


def set_of(link: Link, set_id: uuid.UUID) -> LinkSet:
    """A set that a link shows. Raises NotFoundError."""
    found = next((one for one in link.sets if one.id == set_id), None)
    if found is None:
        raise NotFoundError("This page does not show such a set.")
    return found


def count(session: Session, shown: LinkSet) -> int:
    """How many files a set has."""
    return session.scalars(select(func.count()).select_from(LinkFile).where(LinkFile.of_id == shown.id)).one()


def files(session: Session, shown: LinkSet, first: int = 0, most: int | None = None) -> Sequence[LinkFile]:
    """Its files in their order, or some of them."""
    return session.scalars(_files(shown).offset(first).limit(most)).all()


def file(session: Session, link: Link, file_id: int) -> tuple[LinkSet, LinkFile]:
    """A file that a link shows, and the set it is in. Raises NotFoundError."""
    found = session.get(LinkFile, file_id) if 0 < file_id < 2**63 else None
    if found is None:
        raise NotFoundError("This page does not show such a file.")
    return set_of(link, found.of_id), found


def plan_of(shown: LinkSet) -> Plan:
    """The plan that recolors its files."""
    return Plan.model_validate(shown.plan)


def _files(shown: LinkSet) -> Select[LinkFile]:
    return select(LinkFile).where(LinkFile.of_id == shown.id).order_by(LinkFile.id)
