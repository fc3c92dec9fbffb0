"""The queue's workers, on procrastinate: https://procrastinate.readthedocs.io/

A worker reads drops and makes exports side by side, one of each at a time, and looks after what is kept. It lives
through a database that goes away and comes back.
"""

from __future__ import annotations

import asyncio
import uuid
from collections.abc import Callable, Sequence
from contextlib import suppress
from typing import Any, LiteralString

import procrastinate
import psycopg
import structlog
from procrastinate.exceptions import ConnectorException, ProcrastinateException
from psycopg.conninfo import make_conninfo
from sqlalchemy import Engine, make_url
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session, sessionmaker

from pavese.core.formats import take_in
from pavese.jobs.drop import take_drop
from pavese.jobs.export import make_export
from pavese.render.pool import DrawingPool
from pavese.settings import Settings
from pavese.store import contents, drops, exports, pictures, queue
from pavese.store.database import connect, sessions

log = structlog.get_logger()

#: How often a worker says that it lives; one that has not for so long has fallen, and its work is free again.
_BEAT = 2.0
_FALLEN_AFTER = 10.0
_LOOK_EVERY = 4.0
#: Every how many looks the store is tidied, and after how many seconds a lost connection is tried again.
_TIDY_EVERY = 150
_PAUSE = 1.0
#: What a database that is away makes of any call.
_AWAY = (ProcrastinateException, psycopg.Error, SQLAlchemyError, OSError)


class _Connector(procrastinate.PsycopgConnector):
    """What the queue says to its database. What could not be said may have been that a job has ended, or is to be done
    again: it would be taken for one that is being done for as long as the worker lives."""

    lost = False

    async def execute_query_async(self, query: LiteralString, **arguments: Any) -> None:
        try:
            await super().execute_query_async(query, **arguments)
        except ProcrastinateException:
            self.lost = True
            raise


class Work:
    """One worker: `run` in the main thread of a process of its own, or in a thread that `stop` ends."""

    def __init__(
        self,
        settings: Settings,
        database_url: str,
        *,
        queues: Sequence[str] = queue.ALL,
        fallen_after: float = _FALLEN_AFTER,
    ) -> None:
        self._queues = queues
        take_in(settings.more_formats)
        self._settings = settings
        self._url = database_url
        self._fallen_after = fallen_after
        self._loop: asyncio.AbstractEventLoop | None = None
        self._task: asyncio.Task[None] | None = None

    def run(self, *, wait: bool = True) -> None:
        """Works on what is in the queue until it is stopped or, without `wait`, until nothing is left.

        Work that a fallen worker left behind is put back first, and looked for from time to time.
        """
        engine = connect(self._url)
        pool = DrawingPool(
            self._settings.drawing_workers,
            self._settings.fonts_dir,
            self._settings.more_formats,
            self._settings.kept_dir,
        )
        try:
            made = sessions(engine)
            with suppress(asyncio.CancelledError):
                asyncio.run(self._lived_through(made, pool, engine) if wait else self._once(made, pool))
        finally:
            pool.close()
            engine.dispose()

    def stop(self) -> None:
        """Has `run` come to an end; what is being done is done first. From any thread."""
        if self._loop is not None and self._task is not None:
            with suppress(RuntimeError):
                self._loop.call_soon_threadsafe(self._task.cancel)

    async def _lived_through(self, made: sessionmaker[Session], pool: DrawingPool, engine: Engine) -> None:
        self._loop, self._task = asyncio.get_running_loop(), asyncio.current_task()
        while True:
            try:
                await self._once(made, pool, wait=True)
            except* _AWAY as errors:
                log.warning("worker without its database", error=repr(errors.exceptions[0])[:200])
                engine.dispose()
            await asyncio.sleep(_PAUSE)

    async def _once(self, made: sessionmaker[Session], pool: DrawingPool, *, wait: bool = False) -> None:
        connector = _Connector(conninfo=_connection(self._url))
        app = _app(connector, made, pool)
        async with app.open_async():
            await self._look(app, made)
            async with asyncio.TaskGroup() as group:
                if wait:
                    looking = group.create_task(self._look_after(app, connector, made))
                workers = [
                    group.create_task(
                        app.run_worker_async(
                            queues=[name],
                            wait=wait,
                            concurrency=1,
                            delete_jobs="always",
                            install_signal_handlers=False,
                            update_heartbeat_interval=_BEAT,
                        )
                    )
                    for name in self._queues
                ]
                await asyncio.gather(*workers)
                if wait:
                    looking.cancel()

    async def _look_after(self, app: procrastinate.App, connector: _Connector, made: sessionmaker[Session]) -> None:
        looks = 0
        while True:
            await asyncio.sleep(_LOOK_EVERY)
            if connector.lost:
                raise ConnectorException("What became of a job could not be noted.")
            await self._look(app, made)
            looks += 1
            if looks % _TIDY_EVERY == 0:
                await asyncio.to_thread(_tidy, made)

    async def _look(self, app: procrastinate.App, made: sessionmaker[Session]) -> None:
        """Puts back what fallen workers had, and orders anew what has lost its entry in the queue."""
        for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=self._fallen_after):
            await app.job_manager.retry_job(job)
        await asyncio.to_thread(_order_lost, made)


def _app(connector: _Connector, made: sessionmaker[Session], pool: DrawingPool) -> procrastinate.App:
    app = procrastinate.App(connector=connector)

    def task(name: str, of: str, work: Callable[[sessionmaker[Session], DrawingPool, uuid.UUID], None]) -> None:
        # Sync, so that it runs in a thread beside the loop that keeps the worker's heart beating.
        def carried_out(**ids: str) -> None:
            [id_] = ids.values()
            work(made, pool, uuid.UUID(id_))

        retry = procrastinate.RetryStrategy(max_attempts=4, exponential_wait=2)
        app.task(name=name, queue=of, retry=retry)(carried_out)

    task(exports.TASK, queue.EXPORTS, make_export)
    task(drops.TASK, queue.DROPS, take_drop)
    return app


def _order_lost(made: sessionmaker[Session]) -> None:
    with made.begin() as session:
        lost = exports.order_lost(session) + drops.order_lost(session)
        drops.close_left(session)
    if lost:
        log.warning("ordered again", count=lost)


def _tidy(made: sessionmaker[Session]) -> None:
    """Throws away what nothing points to, and the pictures beyond their bound."""
    with made.begin() as session:
        drops.forget_refusals(session)
        swept, pruned = contents.sweep(session), pictures.prune(session)
    log.info("tidied", contents=swept, pictures=pruned)


def _connection(database_url: str) -> str:
    """The address as psycopg writes it, looking into the queue's schema."""
    url = make_url(database_url)
    return make_conninfo(
        host=url.host,
        port=url.port,
        dbname=url.database,
        user=url.username,
        password=url.password,
        options="-c search_path=queue",
    )
