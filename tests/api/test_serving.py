"""The application as a process: started twice, told to end, without its database or a worker."""

from __future__ import annotations

import os
import signal
import subprocess
import time
from collections.abc import Callable, Iterator

import httpx
import pytest
import uvicorn
from fastapi import FastAPI
from uvicorn.middleware.proxy_headers import ProxyHeadersMiddleware

from pavese.cli import server_config
from pavese.demo.icons import icon_files
from pavese.demo.people import COORDINATOR
from pavese.demo.served import Running, running
from pavese.settings import Settings
from pavese.store.cluster import Cluster
from tests.api.test_sets import Json
from tests.conftest import files_of


@pytest.fixture(scope="module")
def run() -> Iterator[Running]:
    """Ended by what a service manager sends; that it ends cleanly then is looked at where it is started."""
    with running(demo=False, end_by=signal.SIGTERM) as started:
        yield started


@pytest.fixture(scope="module")
def web(run: Running) -> Iterator[httpx.Client]:
    with httpx.Client(base_url=run.address, timeout=60) as client:
        client.post("/api/session", json=COORDINATOR.sign_in).raise_for_status()
        yield client


@pytest.fixture(scope="module")
def set_id(web: httpx.Client) -> str:
    kit = web.post(
        "/api/kits", json={"name": "Served", "colors": [{"name": "Sea", "role": "primary", "code": "#0b5e6b"}]}
    )
    return str(web.post(f"/api/kits/{kit.json()['id']}/sets", json={"name": "Signs"}).json()["id"])


def workers(run: Running) -> list[int]:
    """The processes of workers that the application has started."""
    found = subprocess.run(["pgrep", "-f", f"worker --parent {run.process.pid}"], capture_output=True, text=True)
    return [int(pid) for pid in found.stdout.split()]


def waited(fits: Callable[[], bool], seconds: float = 60) -> None:
    deadline = time.monotonic() + seconds
    while not fits():
        assert time.monotonic() < deadline
        time.sleep(0.1)


def test_a_second_one_on_the_same_data_refuses_to_start(run: Running, web: httpx.Client) -> None:
    other = Running(run.address, run.process, {**run.environment, "PAVESE_PORT": "24790"}, run.folder)
    refused = other.command("serve")
    assert refused.returncode == 1
    assert "is running on" in refused.stderr
    assert web.get("/api/kits").status_code == 200, "the first one has kept its database"


def test_a_worker_that_is_killed_is_started_again(run: Running, web: httpx.Client, set_id: str) -> None:
    waited(lambda: len(workers(run)) == 1)
    for number in range(2):
        drop: Json = web.post(f"/api/sets/{set_id}/drops", json={"files": 30}).json()
        [worker] = workers(run)
        files = [("files", (f"{number}/{name}", data)) for name, data in icon_files().items()]
        assert web.post(f"/api/drops/{drop['id']}/files", files=files).status_code == 200
        os.kill(worker, signal.SIGKILL)
        assert web.post(f"/api/drops/{drop['id']}/close").status_code == 200
        path = f"/api/drops/{drop['id']}"
        waited(lambda fallen=worker: workers(run) not in ([], [fallen]))
        waited(lambda path=path: web.get(path).json()["ended"])
    names = [asset["name"] for asset in files_of(web, set_id)]
    assert sorted(names) == sorted(f"{number}/{name}" for number in range(2) for name in icon_files())


def test_a_database_that_is_away_is_told_truly_and_found_again(run: Running, web: httpx.Client, set_id: str) -> None:
    cluster = Cluster(run.folder / "postgres", int(run.environment["PAVESE_DATABASE_PORT"]), durable=False)
    drop: Json = web.post(f"/api/sets/{set_id}/drops", json={"files": 1}).json()
    cluster.stop()
    for answer in (web.get("/api/kits"), web.get(f"/api/sets/{set_id}"), web.get("/api/health")):
        assert answer.status_code == 503
        assert int(answer.headers["retry-after"]) > 0
        assert answer.headers["content-type"] == "application/problem+json"
        assert "does not answer" in answer.json()["detail"]
    changing = web.post(f"/api/sets/{set_id}/plan")
    assert changing.status_code == 503
    assert "known" in changing.json()["detail"] or "Nothing was changed" in changing.json()["detail"]
    cluster.start()
    waited(lambda: web.get("/api/kits").status_code == 200)
    [(name, data), *_] = icon_files().items()
    assert web.post(f"/api/drops/{drop['id']}/files", files=[("files", (f"late/{name}", data))]).status_code == 200
    assert web.post(f"/api/drops/{drop['id']}/close").status_code == 200
    waited(lambda: web.get(f"/api/drops/{drop['id']}").json()["ended"], 90)


def test_where_a_request_comes_from_is_only_believed_of_proxies_that_are_named() -> None:
    app = FastAPI()

    def wrapped(settings: Settings) -> bool:
        config: uvicorn.Config = server_config(settings, app)
        config.load()
        return isinstance(config.loaded_app, ProxyHeadersMiddleware)

    assert not wrapped(Settings())
    assert wrapped(Settings(trusted_proxies=["10.0.0.7"]))
