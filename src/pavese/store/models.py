"""The tables."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    BigInteger,
    Boolean,
    DateTime,
    ForeignKey,
    Identity,
    Integer,
    LargeBinary,
    String,
    Text,
    UniqueConstraint,
    func,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship


class Base(DeclarativeBase):
    """Base of all tables."""


class Subject(Base):
    """Something with a history: a kit draft or the plan of a set. `head` is the number of the revision in force."""

    __tablename__ = "subjects"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    head: Mapped[int] = mapped_column(Integer, default=0)


class Revision(Base):
    """One state of a subject; those above the head are what redo would bring back."""

    __tablename__ = "revisions"

    subject_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("subjects.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    label: Mapped[str] = mapped_column(Text)
    body: Mapped[dict[str, Any]] = mapped_column(JSONB)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class KitRow(Base):
    """A kit; its colors are in the history. At most one is the active one, an archived one never."""

    __tablename__ = "kits"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    draft_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("subjects.id"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    active: Mapped[bool] = mapped_column(Boolean, server_default="false")
    archived_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    draft: Mapped[Subject] = relationship(lazy="joined")


class SetRow(Base):
    """A set of files for one kit; its plan is in the history.

    A variant is a set with an original: it has the files of that one, and a plan of its own. A set is for the draft
    of its kit, or for one edition of it.
    """

    __tablename__ = "sets"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id", ondelete="CASCADE"), index=True)
    plan_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("subjects.id"))
    original_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("sets.id", ondelete="CASCADE"), index=True)
    edition_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("editions.id"))
    name: Mapped[str] = mapped_column(String(120))
    channel: Mapped[str] = mapped_column(String(20), server_default="icons")
    purpose: Mapped[str] = mapped_column(Text, server_default="")
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    plan: Mapped[Subject] = relationship(lazy="joined")
    edition: Mapped[EditionRow | None] = relationship()

    @property
    def files_id(self) -> uuid.UUID:
        """The set whose files these are: its own, or those of the original."""
        return self.original_id or self.id


class SourceRow(Base):
    """A source of colors for one kit; what it holds is in the history."""

    __tablename__ = "sources"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id", ondelete="CASCADE"), index=True)
    draft_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("subjects.id"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    draft: Mapped[Subject] = relationship(lazy="joined")


class ContentRow(Base):
    """The bytes of a file, once, under their SHA-256; without it while they still come."""

    __tablename__ = "contents"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    digest: Mapped[str | None] = mapped_column(String(64), unique=True)
    size: Mapped[int] = mapped_column(BigInteger)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class Piece(Base):
    """A part of a content, see `contents.PIECE`."""

    __tablename__ = "pieces"

    content_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("contents.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(Integer, primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class AssetRow(Base):
    """A file in a set: its name, its bytes, and its paints as read, and measured, when it came in."""

    __tablename__ = "assets"
    __table_args__ = (UniqueConstraint("set_id", "name"),)

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    set_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("sets.id", ondelete="CASCADE"), index=True)
    position: Mapped[int] = mapped_column(Integer)
    name: Mapped[str] = mapped_column(String(240))
    digest: Mapped[str] = mapped_column(ForeignKey("contents.digest"), index=True)
    #: How often each is used, by kind; what is not used at all it is only seen with.
    paints: Mapped[dict[str, dict[str, int]]] = mapped_column(JSONB)
    remarks: Mapped[list[str]] = mapped_column(JSONB)
    #: Most of what is known of a file, and only wanted once: see `facts`.
    measured: Mapped[dict[str, Any]] = mapped_column(JSONB, server_default="{}", deferred=True)
    #: `origin`, `author` and `rights`, where they are known.
    rights: Mapped[dict[str, str]] = mapped_column(JSONB, server_default="{}")
    #: The files it refers to, as it names them: path and digest of those that came with it, nothing for the others.
    beside: Mapped[dict[str, list[str]]] = mapped_column(JSONB, server_default="{}", default=dict)

    @property
    def own_paints(self) -> set[str]:
        """Its paints, without those that it is only seen with."""
        return {key for key, counts in self.paints.items() if counts}


class Picture(Base):
    """A drawn PNG under the hash of everything it was drawn from, or (empty) the reason why it cannot be drawn; may be
    thrown away at any time."""

    __tablename__ = "pictures"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    png: Mapped[bytes] = mapped_column(LargeBinary)
    reason: Mapped[str] = mapped_column(Text, server_default="")
    made_at: Mapped[datetime] = mapped_column(
        DateTime(timezone=True), server_default=func.clock_timestamp(), index=True
    )


class UserRow(Base):
    """A person who may sign in; `secret` is an Argon2 hash. Who leaves is made inactive and stays on record."""

    __tablename__ = "users"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    email: Mapped[str] = mapped_column(String(254), unique=True)
    name: Mapped[str] = mapped_column(String(80))
    role: Mapped[str] = mapped_column(String(20))
    secret: Mapped[str] = mapped_column(Text)
    active: Mapped[bool] = mapped_column(Boolean, server_default="true")
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class SignIn(Base):
    """A session of a browser, under the SHA-256 of the token in its cookie."""

    __tablename__ = "sign_ins"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    user_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("users.id", ondelete="CASCADE"), index=True)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    ends_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    user: Mapped[UserRow] = relationship(lazy="joined")


class Attempt(Base):
    """A sign-in that failed, by the hash of whom it was for or where it came from."""

    __tablename__ = "attempts"

    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    of: Mapped[str] = mapped_column(String(64), index=True)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class Record(Base):
    """One change of a kit: who, in which of their windows, what, and each place with what stood there before and
    after. Append-only."""

    __tablename__ = "records"

    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id"), index=True)
    user_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("users.id"))
    who: Mapped[str] = mapped_column(String(80))
    window: Mapped[str] = mapped_column(String(40), server_default="")
    what: Mapped[str] = mapped_column(Text)
    places: Mapped[dict[str, Any]] = mapped_column(JSONB)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class Comment(Base):
    """What someone said about a kit, or about one pair of it. Append-only."""

    __tablename__ = "comments"

    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id"), index=True)
    who: Mapped[str] = mapped_column(String(80))
    about: Mapped[str] = mapped_column(Text)
    text: Mapped[str] = mapped_column(Text)
    at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class EditionRow(Base):
    """A published state of a kit. Never changed."""

    __tablename__ = "editions"
    __table_args__ = (UniqueConstraint("kit_id", "number"),)

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id"), index=True)
    number: Mapped[int] = mapped_column(Integer)
    note: Mapped[str] = mapped_column(Text)
    who: Mapped[str] = mapped_column(String(80))
    body: Mapped[dict[str, Any]] = mapped_column(JSONB)
    digest: Mapped[str] = mapped_column(String(64))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())


class Link(Base):
    """A link to one state of a kit, under the SHA-256 of its token, that works until it ends or is revoked.

    It shows an edition or, without one, the draft as it was when the link was made (`body`); and the sets that were
    chosen for it.
    """

    __tablename__ = "links"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    digest: Mapped[str] = mapped_column(String(64), unique=True)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id"), index=True)
    edition_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("editions.id"), index=True)
    body: Mapped[dict[str, Any] | None] = mapped_column(JSONB)
    who: Mapped[str] = mapped_column(String(80))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    ends_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    revoked_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    edition: Mapped[EditionRow | None] = relationship(lazy="joined")
    sets: Mapped[list[LinkSet]] = relationship(order_by="LinkSet.position")


class LinkSet(Base):
    """A set as a link shows it: its name, its files and the plan that recolors them, as they were when it was made."""

    __tablename__ = "link_sets"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    link_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("links.id", ondelete="CASCADE"), index=True)
    position: Mapped[int] = mapped_column(Integer)
    name: Mapped[str] = mapped_column(String(120))
    plan: Mapped[dict[str, Any]] = mapped_column(JSONB)


class LinkFile(Base):
    """A file that a link shows, as it came; the fields are those of `AssetRow`."""

    __tablename__ = "link_files"

    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    of_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("link_sets.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(String(240))
    digest: Mapped[str] = mapped_column(ForeignKey("contents.digest"), index=True)
    paints: Mapped[dict[str, dict[str, int]]] = mapped_column(JSONB)
    beside: Mapped[dict[str, list[str]]] = mapped_column(JSONB, server_default="{}", default=dict)


class ExportRow(Base):
    """A set ordered in other forms, with the plan and the kit as they were then, so that it is the same whenever it is
    made. `claim` is whoever works on it, `tries` how many have begun to; `digest` names the zip once it is done."""

    __tablename__ = "exports"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    set_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("sets.id", ondelete="CASCADE"), index=True)
    who: Mapped[str] = mapped_column(String(80))
    wanted: Mapped[dict[str, Any]] = mapped_column(JSONB)
    plan: Mapped[dict[str, Any]] = mapped_column(JSONB)
    kit: Mapped[dict[str, Any]] = mapped_column(JSONB)
    state: Mapped[str] = mapped_column(String(12))
    done: Mapped[int] = mapped_column(Integer)
    total: Mapped[int] = mapped_column(Integer)
    notes: Mapped[list[str]] = mapped_column(JSONB)
    claim: Mapped[uuid.UUID | None] = mapped_column()
    tries: Mapped[int] = mapped_column(Integer, server_default="0")
    digest: Mapped[str | None] = mapped_column(ForeignKey("contents.digest"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    ended_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class DropRow(Base):
    """Files on their way into a set: how many are expected, have been read and were taken.

    Of the set's paints `planned` were new and `stood` as they were when its end planned them.
    `claim` is whoever reads them, `tries` how many began to since something was last read; `seen_at` when something
    last arrived.
    """

    __tablename__ = "drops"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    set_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("sets.id", ondelete="CASCADE"), index=True)
    who: Mapped[str] = mapped_column(String(80))
    state: Mapped[str] = mapped_column(String(12))
    expected: Mapped[int] = mapped_column(Integer)
    read: Mapped[int] = mapped_column(Integer)
    taken: Mapped[int] = mapped_column(Integer)
    planned: Mapped[int] = mapped_column(Integer, server_default="0")
    stood: Mapped[int] = mapped_column(Integer, server_default="0")
    claim: Mapped[uuid.UUID | None] = mapped_column()
    tries: Mapped[int] = mapped_column(Integer)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    seen_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    ended_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class Arrival(Base):
    """A file of a drop. `content_id` is where it is put while not all of it has come, `digest` names it when it has;
    `members` is how many files of an archive have been read, `done` that all of it has; `only` names those of its files
    that are wanted, where not all are."""

    __tablename__ = "arrivals"

    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    drop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("drops.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    size: Mapped[int] = mapped_column(BigInteger)
    digest: Mapped[str | None] = mapped_column(ForeignKey("contents.digest"), index=True)
    content_id: Mapped[uuid.UUID | None] = mapped_column(ForeignKey("contents.id"))
    rights: Mapped[dict[str, str]] = mapped_column(JSONB, server_default="{}")
    members: Mapped[int] = mapped_column(Integer)
    done: Mapped[bool] = mapped_column(Boolean)
    only: Mapped[list[str] | None] = mapped_column(JSONB(none_as_null=True))


class RefusedRow(Base):
    """A file of a drop that was not taken, and why; `channel` is that of the sets that would take it, if any."""

    __tablename__ = "refusals"

    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    drop_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("drops.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(Text)
    reason: Mapped[str] = mapped_column(Text)
    channel: Mapped[str] = mapped_column(String(20), server_default="")


class SavedPlan(Base):
    """A plan saved by name, for other sets of its kit whose paints it knows."""

    __tablename__ = "saved_plans"
    __table_args__ = (UniqueConstraint("kit_id", "name"),)

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id", ondelete="CASCADE"), index=True)
    name: Mapped[str] = mapped_column(String(120))
    who: Mapped[str] = mapped_column(String(80))
    body: Mapped[dict[str, Any]] = mapped_column(JSONB)
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
