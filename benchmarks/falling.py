"""Server, worker and database killed again and again while people work: what was answered as done is there, once, and
what was ordered ends.

Not part of `make bench`, since it takes its time: `.venv/bin/python benchmarks/falling.py 200`.
"""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path

import httpx

from corpus import many
from figures import figure
from pavese.demo.load import demo_kit
from pavese.demo.people import COORDINATOR
from pavese.settings import settings

_PORT, _DATABASE_PORT = 24810, 24811
#: How long anything may take to be well again.
_SECONDS = 90.0
_FILES = 30


class Fleet:
    """The application on a data folder that outlives it."""

    def __init__(self, folder: Path) -> None:
        self._environment = {
            **os.environ,
            "PAVESE_PORT": str(_PORT),
            "PAVESE_DATA_DIR": str(folder),
            "PAVESE_DATABASE_PORT": str(_DATABASE_PORT),
            "PAVESE_FONTS_DIR": str(settings().fonts_dir),
            "PAVESE_LOG_LEVEL": "error",
        }
        self._pid_file = folder / "postgres" / "cluster" / "postmaster.pid"
        self.start()
        who = [COORDINATOR.email, COORDINATOR.name, "--password-stdin"]
        command = [sys.executable, "-m", "pavese.cli", "user", *who]
        subprocess.run(command, env=self._environment, input=f"{COORDINATOR.password}\n", text=True, check=True)

    def start(self) -> None:
        """Starts it and waits until it answers."""
        command = [sys.executable, "-m", "pavese.cli", "serve"]
        self._process = subprocess.Popen(command, env=self._environment, stdout=subprocess.PIPE, text=True)
        assert self._process.stdout is not None
        assert any("is ready" in line for line in self._process.stdout)

    def kill_server(self) -> None:
        """Kills the server; somebody starts it again."""
        self._process.kill()
        self._process.wait()
        self.start()

    def kill_worker(self) -> None:
        """Kills the worker; the server starts it again."""
        found = subprocess.run(
            ["pgrep", "-f", f"worker --parent {self._process.pid}"], capture_output=True, text=True, check=False
        )
        for pid in found.stdout.split():
            os.kill(int(pid), signal.SIGKILL)

    def kill_database(self) -> None:
        """Kills PostgreSQL with all its processes; somebody starts it again."""
        from pavese.store.cluster import Cluster

        postmaster = int(self._pid_file.read_text().split()[0])
        os.kill(postmaster, signal.SIGQUIT)
        while Path(f"/proc/{postmaster}").exists():
            time.sleep(0.05)
        Cluster(Path(self._environment["PAVESE_DATA_DIR"]) / "postgres", _DATABASE_PORT).start()

    def stop(self) -> None:
        """Ends it as a person would."""
        self._process.send_signal(signal.SIGINT)
        self._process.wait()


def until(ask: Callable[[], httpx.Response], fits: Callable[[httpx.Response], bool]) -> httpx.Response:
    """Asks again and again, as the interface does."""
    ends = time.monotonic() + _SECONDS
    while time.monotonic() < ends:
        try:
            answer = ask()
            if answer.status_code < 500 and fits(answer):
                return answer
        except httpx.HTTPError:
            pass
        time.sleep(0.2)
    raise AssertionError("it did not get well again")


def falling(kills: int) -> None:
    """So many kills, each in the middle of a drop, of changes and of an export."""
    rng, told = random.Random(7), Counter[str]()
    files = list(many(_FILES).items())
    with tempfile.TemporaryDirectory(prefix="pavese-falling-") as folder:
        Path(folder).chmod(0o755)
        fleet = Fleet(Path(folder))
        web = httpx.Client(base_url=f"http://127.0.0.1:{_PORT}", timeout=30)
        web.post("/api/session", json=COORDINATOR.sign_in).raise_for_status()
        colors = [{"name": color.name, "role": color.role, "code": color.base.hex} for color in demo_kit().colors]
        kit = web.post("/api/kits", json={"name": "Falling", "colors": colors}).json()
        ways = [fleet.kill_server, fleet.kill_worker, fleet.kill_database]
        for number in range(kills):
            try:
                one_round(web, kit, files, rng, ways[number % len(ways)])
            except AssertionError as error:
                told[str(error)] += 1
        fleet.stop()
    for what, count in told.items():
        print(f"  {what}: {count}")
    figure(f"rounds in which something was lost or doubled, of {kills} kills", sum(told.values()), 0, "rounds")


def one_round(
    web: httpx.Client, kit: dict, files: list[tuple[str, bytes]], rng: random.Random, kill: Callable[[], None]
) -> None:
    """A set that is filled, changed and exported, with one kill at any moment of it."""
    at, step = rng.randrange(6), 0

    def perhaps() -> None:
        nonlocal step
        if step == at:
            kill()
        step += 1

    made = until(lambda: web.post(f"/api/kits/{kit['id']}/sets", json={"name": "S"}), lambda a: a.is_success).json()
    path = f"/api/sets/{made['id']}"
    drop = until(lambda: web.post(f"{path}/drops", json={"files": len(files)}), lambda a: a.is_success).json()
    for half in (files[: len(files) // 2], files[len(files) // 2 :]):
        sent = [("files", file) for file in half]
        until(lambda sent=sent: web.post(f"/api/drops/{drop['id']}/files", files=sent), lambda a: a.is_success)
        perhaps()
    until(lambda: web.post(f"/api/drops/{drop['id']}/close"), lambda a: a.is_success)
    perhaps()
    until(lambda: web.get(f"/api/drops/{drop['id']}"), lambda a: bool(a.json()["ended"]))
    view = until(lambda: web.get(path), lambda a: a.is_success).json()
    listed = until(lambda: web.get(f"{path}/files", params={"count": 500}), lambda a: a.is_success).json()["files"]
    assert sorted(file["name"] for file in listed) == sorted(name for name, _ in files), "a drop lost files"
    body = {"paints": [view["paints"][0]["key"]], "color": rng.choice(kit["colors"])["key"]}
    perhaps()
    answered = until(lambda: web.post(f"{path}/aim", json=body), lambda a: a.is_success).json()
    perhaps()
    now = until(lambda: web.get(path), lambda a: a.is_success).json()
    assert now["paints"] == answered["paints"], "a change that was answered is not there"
    order = until(lambda: web.post(f"{path}/exports", json={"forms": ["PNG"]}), lambda a: a.is_success).json()
    perhaps()
    ended = until(lambda: web.get(f"/api/exports/{order['id']}"), lambda a: a.json()["state"] in ("done", "failed"))
    assert ended.json()["state"] == "done", "an export failed"
    assert web.get(f"/api/exports/{order['id']}/result.zip").content.startswith(b"PK"), "an export has no result"


if __name__ == "__main__":
    falling(int(sys.argv[1]) if len(sys.argv) > 1 else 200)
