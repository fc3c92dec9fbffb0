"""The connection, and bringing the tables up to date."""

from __future__ import annotations

import time
from datetime import datetime
from pathlib import Path
from typing import Any

import orjson
from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event, func, select
from sqlalchemy.exc import DisconnectionError
from sqlalchemy.orm import Session, sessionmaker

_MIGRATIONS = Path(__file__).parent / "migrations"
#: Seconds after which a connection is asked whether it still stands; a database takes longer to start again.
_RESTED = 1.0


def connect(url: str) -> Engine:
    """An engine with a small pool; `url` names psycopg as its driver."""
    engine = create_engine(url, pool_size=10, max_overflow=20, json_deserializer=orjson.loads)

    def put_back(_connection: Any, record: Any) -> None:
        record.info["since"] = time.monotonic()

    def taken(connection: Any, record: Any, _proxy: Any) -> None:
        # Asking every time would cost each picture of a large set more than finding it.
        if time.monotonic() - record.info.get("since", time.monotonic()) > _RESTED:
            try:
                engine.dialect.do_ping(connection)
            except engine.dialect.loaded_dbapi.Error as error:
                raise DisconnectionError("the database was started anew") from error

    event.listen(engine, "checkin", put_back)
    event.listen(engine, "checkout", taken)
    return engine


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
