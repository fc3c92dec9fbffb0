"""The queue and its workers, on procrastinate: https://procrastinate.readthedocs.io/"""

from __future__ import annotations

import asyncio
import uuid
from contextlib import suppress

import procrastinate
from psycopg.conninfo import make_conninfo
from sqlalchemy import make_url

from pavese.jobs.export import make_export
from pavese.render.pool import DrawingPool
from pavese.settings import Settings
from pavese.store.database import connect, sessions
from pavese.store.exports import QUEUE, TASK

#: A worker says that it lives every 10 seconds; one that has not for so long has fallen, and its work is free again.
_FALLEN_AFTER = 30.0
_LOOK_EVERY = 10.0


def work(settings: Settings, database_url: str, *, wait: bool = True, fallen_after: float = _FALLEN_AFTER) -> None:
    """Works on what is in the queue until it is told to stop or, without `wait`, until nothing is left.

    Work that a fallen worker left behind is put back first, and looked for from time to time.
    """
    engine = connect(database_url)
    pool = DrawingPool(settings.drawing_workers, settings.fonts_dir)
    made = sessions(engine)
    app = procrastinate.App(connector=procrastinate.PsycopgConnector(conninfo=_connection(database_url)))

    # Sync, so that it runs in a thread beside the loop that keeps the worker's heart beating.
    @app.task(name=TASK, queue=QUEUE, retry=procrastinate.RetryStrategy(max_attempts=4, exponential_wait=2))
    def export(export_id: str) -> None:
        make_export(made, pool, uuid.UUID(export_id))

    async def run() -> None:
        async with app.open_async():
            await _free(app, fallen_after)
            looking = asyncio.create_task(_look(app, fallen_after)) if wait else None
            try:
                await app.run_worker_async(queues=[QUEUE], wait=wait, concurrency=1, delete_jobs="successful")
            finally:
                if looking is not None:
                    looking.cancel()
                    with suppress(asyncio.CancelledError):
                        await looking

    try:
        asyncio.run(run())
    finally:
        pool.close()
        engine.dispose()


async def _look(app: procrastinate.App, fallen_after: float) -> None:
    while True:
        await asyncio.sleep(_LOOK_EVERY)
        await _free(app, fallen_after)


async def _free(app: procrastinate.App, fallen_after: float) -> None:
    """Puts back the work of workers that have fallen."""
    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=fallen_after):
        await app.job_manager.retry_job(job)


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
