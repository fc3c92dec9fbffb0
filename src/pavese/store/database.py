"""The connection, and bringing the tables up to date."""

from __future__ import annotations

from datetime import datetime
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, func, select
from sqlalchemy.orm import Session, sessionmaker

_MIGRATIONS = Path(__file__).parent / "migrations"


def connect(url: str) -> Engine:
    """An engine with a small pool; `url` names psycopg as its driver."""
    return create_engine(url, pool_size=10, max_overflow=20, pool_pre_ping=True)


def sessions(engine: Engine) -> sessionmaker[Session]:
    """Makes sessions whose objects stay readable after commit."""
    return sessionmaker(engine, expire_on_commit=False)


def migrate(engine: Engine) -> None:
    """Brings the tables to the newest version; does nothing when they are."""
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def now(session: Session) -> datetime:
    """The time by the database's clock, so that all times compare."""
    moment: datetime = session.scalars(select(func.clock_timestamp())).one()
    return moment
