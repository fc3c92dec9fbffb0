"""What tests share: a real PostgreSQL cluster and the real application over it, started once a run."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from threading import Thread
from typing import Any

import httpx
import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from sqlalchemy import text

from pavese.api.app import create_app
from pavese.demo.people import COORDINATOR, DemoPerson, let_in
from pavese.demo.stock import StandIn
from pavese.jobs.worker import Work
from pavese.logs import UNFORESEEN, configure
from pavese.render.web import FetchPolicy
from pavese.settings import Settings
from pavese.store.cluster import Cluster
from pavese.store.queue import DROPS, EXPORTS

# The gate tries the same examples everywhere, so that what passes here passes there; `make search` looks further.
settings.register_profile(
    "gate", deadline=None, derandomize=True, max_examples=40, suppress_health_check=[HealthCheck.too_slow]
)
settings.register_profile("search", settings.get_profile("gate"), derandomize=False, max_examples=1000)
settings.load_profile("gate")

# The databases of tests are thrown away, also those of applications that tests start in processes of their own.
os.environ["PAVESE_DATABASE_DURABLE"] = "false"


def pytest_make_parametrize_id(val: object, argname: str) -> str | None:
    """Tests are called alike by every process that collects them, so no name is made of the bytes of a file.

    What a packer writes may hold the time of day (RFC 1952, MTIME), and then two processes would not agree.
    """
    return argname if isinstance(val, bytes | bytearray) else None


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    """A cluster of its own in a temporary folder."""
    with tempfile.TemporaryDirectory(prefix="pavese-test-") as folder:
        Path(folder).chmod(0o755)
        # Two test processes have a cluster each, at ports that outgoing connections are never given.
        number = os.environ.get("PYTEST_XDIST_WORKER", "gw0").removeprefix("gw")
        cluster = Cluster(Path(folder) / "postgres", 24600 + int(number), durable=False)
        cluster.start()
        yield cluster.url
        cluster.stop()


@pytest.fixture(scope="session")
def app_settings() -> Settings:
    """The settings of the application under test."""
    return Settings(log_level="info", upload_megabytes=4)


@contextmanager
def pages_allowed(client: TestClient, policy: FetchPolicy) -> Iterator[None]:
    """Fetches pages under another policy for a while."""
    state = client.app.state  # type: ignore[attr-defined]
    usual, state.page_policy = state.page_policy, policy
    try:
        yield
    finally:
        state.page_policy = usual


@contextmanager
def working(settings: Settings, database_url: str) -> Iterator[None]:
    """A worker that reads drops beside the application, as `pavese worker` does in a process of its own."""
    worker = Work(settings, database_url, queues=[DROPS])
    thread = Thread(target=worker.run, name="worker")
    thread.start()
    try:
        yield
    finally:
        worker.stop()
        thread.join(60)
        assert not thread.is_alive()


def work(settings: Settings, database_url: str, fallen_after: float = 30.0) -> None:
    """Makes the exports that are ordered."""
    Work(settings, database_url, queues=[EXPORTS], fallen_after=fallen_after).run(wait=False)


@pytest.fixture(autouse=True)
def _nothing_unforeseen() -> Iterator[None]:
    """An error that nobody foresaw refuses a file or a picture and is logged; here it fails the test as well."""
    UNFORESEEN.clear()
    yield
    assert [*UNFORESEEN] == []


@pytest.fixture(scope="session")
def client(database_url: str, app_settings: Settings) -> Iterator[TestClient]:
    """A client of the whole application: real database, real drawing processes."""
    configure(app_settings)
    with TestClient(create_app(app_settings, database_url, StandIn())) as started, working(app_settings, database_url):
        with started.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
            let_in(session)
        sign_in(started, COORDINATOR)
        yield started


def sign_in(client: TestClient, person: DemoPerson) -> None:
    """Signs somebody in, whatever failed before from here; the client keeps the cookie."""
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        session.execute(text("DELETE FROM attempts"))
    answer = client.post("/api/session", json=person.sign_in)
    assert answer.status_code == 200, answer.text


def files_of(client: TestClient | httpx.Client, set_id: str, **listing: str | int) -> list[dict[str, Any]]:
    """The files of a set, or of those that are asked for, page by page."""
    found: list[dict[str, Any]] = []
    while True:
        answer = client.get(f"/api/sets/{set_id}/files", params={**listing, "start": len(found), "count": 3})
        assert answer.status_code == 200, answer.text
        page = answer.json()
        found += page["files"]
        if len(found) >= page["total"]:
            return found


def pytest_terminal_summary(terminalreporter: Any) -> None:
    """What is tried a second time says why, also where that went well: it is looked into."""
    for report in terminalreporter.stats.get("rerun", []):
        terminalreporter.section(f"first try of {report.nodeid}", sep="-")
        terminalreporter.write_line(report.longreprtext)
