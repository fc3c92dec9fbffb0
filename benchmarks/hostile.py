"""Four hundred files that were made, or damaged, to bring a reader down, over both ways in, while others work."""

from __future__ import annotations

import random
import statistics
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from threading import Event, Thread

import httpx
import psutil

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tests.hostile import codes, drawings, entities, pictures

from dropping import drop_of
from figures import figure
from pavese.demo.animations import animation_files
from pavese.demo.icons import icon_files
from pavese.demo.illustrations import illustration_files
from pavese.demo.people import COORDINATOR
from pavese.demo.pictures import board_pictures
from pavese.demo.served import Running, running

_COUNT = 400
_MEGABYTE = 1024 * 1024


def hostile() -> None:
    """What becomes of them, of the processes, and of everybody else's requests."""
    crafted = [*drawings(), *entities(), *pictures(), *codes()]
    files = [(f"{n:03}-{one.name}", one.data) for n, one in enumerate(crafted)]
    files += [(f"{len(files) + n:03}-{name}", data) for n, (name, data) in enumerate(_damaged(_COUNT - len(files)))]
    with running(demo=False) as run, httpx.Client(base_url=run.address, timeout=120) as client:
        client.post("/api/session", json=COORDINATOR.sign_in).raise_for_status()
        kit = client.post("/api/kits", json={"name": "Bench"}).json()
        made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "Hostile"}).json()
        with _Watched(run, client.cookies) as watched:
            started = time.perf_counter()
            ended = drop_of(client, made["id"], files)
            figure("400 hostile files dropped in Apply", time.perf_counter() - started, 120, "s")
            figure("of them taken or refused by name", ended["read"], len(files), "files", at_least=True)
            errors, slowest = 0, 0.0
            for file in files:
                started = time.perf_counter()
                answer = client.post(f"/api/kits/{kit['id']}/sources/drop", files=[("files", file)])
                slowest = max(slowest, time.perf_counter() - started)
                errors += answer.status_code >= 500
        figure("server errors over the same files in Gather", errors, 0, "answers")
        figure("slowest of these answers", slowest, 2, "s")
        figure("other people's requests meanwhile, 95th of 100", watched.slow(), 0.5, "s")
        figure("largest the web process got", watched.web, 400, "MB")
        figure("largest a child got", watched.child, 1000, "MB")


class _Watched:
    """Somebody else who looks at the kits all the while, and how large the processes get."""

    def __init__(self, run: Running, cookies: httpx.Cookies) -> None:
        self._run, self._cookies = run, cookies
        self._over = Event()
        self._times: list[float] = []
        self.web = self.child = 0.0
        self._threads = [Thread(target=self._ask), Thread(target=self._weigh)]

    def __enter__(self) -> _Watched:
        for thread in self._threads:
            thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._over.set()
        for thread in self._threads:
            thread.join()

    def slow(self) -> float:
        """The 95th of a hundred waits, in seconds."""
        return statistics.quantiles(self._times, n=20)[-1]

    def _ask(self) -> None:
        with httpx.Client(base_url=self._run.address, cookies=self._cookies, timeout=60) as client:
            while not self._over.wait(0.05):
                started = time.perf_counter()
                client.get("/api/kits")
                self._times.append(time.perf_counter() - started)

    def _weigh(self) -> None:
        web = psutil.Process(self._run.process.pid)
        while not self._over.wait(0.05):
            self.web = max(self.web, web.memory_info().rss / _MEGABYTE)
            for process in web.children(recursive=True):
                try:
                    if "chromium" not in process.name():
                        self.child = max(self.child, process.memory_info().rss / _MEGABYTE)
                except psutil.Error:
                    continue


def _damaged(count: int) -> Iterator[tuple[str, bytes]]:
    """Files of the demo with a few bytes changed, cut out or doubled."""
    rng = random.Random(11)
    whole = [
        *icon_files().items(),
        *illustration_files().items(),
        *animation_files().items(),
        *board_pictures().items(),
    ]
    for _ in range(count):
        name, data = rng.choice(whole)
        for _ in range(rng.randrange(1, 4)):
            at, length = rng.randrange(len(data)), rng.randrange(1, 40)
            put = rng.choice([b"", rng.randbytes(length), data[at : at + length] * 2])
            data = data[:at] + put + data[at + length :]
        yield name, data


if __name__ == "__main__":
    hostile()
