"""The tables."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Integer, LargeBinary, String, Text, UniqueConstraint, func
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
    """A kit; its colors are in the history."""

    __tablename__ = "kits"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    draft_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("subjects.id"))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    draft: Mapped[Subject] = relationship(lazy="joined")


class SetRow(Base):
    """A set of files for one kit; its plan is in the history."""

    __tablename__ = "sets"

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    kit_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("kits.id", ondelete="CASCADE"), index=True)
    plan_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("subjects.id"))
    name: Mapped[str] = mapped_column(String(120))
    made_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.clock_timestamp())
    plan: Mapped[Subject] = relationship(lazy="joined")


class Blob(Base):
    """The bytes of a file, once, under their SHA-256."""

    __tablename__ = "blobs"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)


class AssetRow(Base):
    """A file in a set: its name, its bytes, and its paints as read when it came in."""

    __tablename__ = "assets"
    __table_args__ = (UniqueConstraint("set_id", "name"),)

    id: Mapped[uuid.UUID] = mapped_column(primary_key=True, default=uuid.uuid4)
    set_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("sets.id", ondelete="CASCADE"), index=True)
    position: Mapped[int] = mapped_column(Integer)
    name: Mapped[str] = mapped_column(String(240))
    digest: Mapped[str] = mapped_column(ForeignKey("blobs.digest"))
    paints: Mapped[dict[str, dict[str, int]]] = mapped_column(JSONB)
    remarks: Mapped[list[str]] = mapped_column(JSONB)


class Picture(Base):
    """A drawn PNG under the hash of everything it was drawn from; may be thrown away at any time."""

    __tablename__ = "pictures"

    digest: Mapped[str] = mapped_column(String(64), primary_key=True)
    png: Mapped[bytes] = mapped_column(LargeBinary)
    made_at: Mapped[datetime] = mapped_column(
        DateTime(timezone=True), server_default=func.clock_timestamp(), index=True
    )
