"""Many people, and a set as large as sets may be: what a request costs when others ask as well."""

from __future__ import annotations

import asyncio
import itertools
import random
import statistics
import sys
import time
from urllib.parse import urlencode, urlsplit

import httpx

from corpus import many
from dropping import files_of, set_of
from figures import figure
from pavese.core import limits

_PEOPLE, _EACH = 20, 100


async def _ask(address: str, requests: list[bytes], times: list[float]) -> None:
    """One person's connection, over which requests go one after the other."""
    place = urlsplit(address)
    reader, writer = await asyncio.open_connection(place.hostname, place.port)
    for request in requests:
        started = time.perf_counter()
        writer.write(request)
        head = (await reader.readuntil(b"\r\n\r\n")).lower()
        assert head.split(b" ")[1] == b"200", head
        await reader.readexactly(int(head.split(b"content-length:")[1].split(b"\r\n")[0]))
        times.append(time.perf_counter() - started)
    writer.close()


async def _together(address: str, lists: list[list[bytes]], times: list[float]) -> float:
    started = time.perf_counter()
    await asyncio.gather(*(_ask(address, requests, times) for requests in lists))
    return time.perf_counter() - started


def _request(client: httpx.Client, method: str, path: str, body: dict | None = None) -> bytes:
    sent = client.build_request(method, path, json=body)
    head = "".join(f"{name}: {value}\r\n" for name, value in sent.headers.items())
    return f"{method} {sent.url.raw_path.decode()} HTTP/1.1\r\n{head}\r\n".encode() + sent.read()


def crowd(count: int = 2_000) -> None:
    """Twenty people in a set: looking at pictures that are there, and changing targets."""
    with set_of(list(many(count).items())) as (address, client, kit, view):
        pictures = [
            f"/api/assets/{file['id']}/picture.png?"
            + urlencode({"size": 84, "fingerprint": file["fingerprint"], "of": view["id"]})
            for file in files_of(client, view["id"])[:200]
        ]
        for path in pictures:
            client.get(path).raise_for_status()
        asked = [_request(client, "GET", path) for path in pictures]
        times: list[float] = []
        lists = [list(itertools.islice(itertools.cycle(asked), at * 7, at * 7 + _EACH)) for at in range(_PEOPLE)]
        taken = asyncio.run(_together(address, lists, times))
        figure("20 people looking at pictures that are there", _PEOPLE * _EACH / taken, 300, "1/s", at_least=True)
        figure("the same, 19 of 20 answers", _slow(times), 0.15, "s")
        path, rng = f"/api/sets/{view['id']}", random.Random(7)
        keys = [paint["key"] for paint in view["paints"]]
        colors = [color["key"] for color in kit["colors"]]
        changes = [
            [
                _request(client, "POST", f"{path}/aim", {"paints": [rng.choice(keys)], "color": rng.choice(colors)})
                for _ in range(5)
            ]
            for _ in range(_PEOPLE)
        ]
        times = []
        asyncio.run(_together(address, changes, times))
        figure(f"20 people changing targets in a set of {count:,}, 19 of 20 answers", _slow(times), 1, "s")


def full_set() -> None:
    """A set that is full is opened: the set, and the first page of its files."""
    count = limits.SET_FILES
    with set_of(list(many(count).items())) as (_, client, _, view):
        times = []
        for _ in range(7):
            started = time.perf_counter()
            for path in ("", "/files"):
                client.get(f"/api/sets/{view['id']}{path}").raise_for_status()
            times.append(time.perf_counter() - started)
        figure(f"a set of {count:,} opens", statistics.median(times), 0.5, "s")


def _slow(times: list[float]) -> float:
    return sorted(times)[int(len(times) * 0.95)]


if __name__ == "__main__":
    sys.stdout.reconfigure(line_buffering=True)
    crowd()
    full_set()
