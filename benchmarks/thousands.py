"""A set as large as sets get, over the real API with two drawing workers; and films."""

from __future__ import annotations

import time
from concurrent.futures import ThreadPoolExecutor

import httpx
import orjson

from corpus import many
from dropping import drop, empty_set, files_of
from figures import figure, seconds
from in_browser import at_the_screen
from pavese.demo.animations import animation_files
from pavese.demo.served import served
from pavese.render.film import film

_COUNT = 2_000


def two_thousand() -> None:
    """From the drop of 2,000 icons to every thumbnail, then pointing and scrolling."""
    files = list(many(_COUNT).items())
    with served(demo=False) as address, httpx.Client(base_url=address, timeout=300) as client:
        kit, made = empty_set(client)
        started = time.perf_counter()
        view = drop(client, made["id"], files)
        figure("2,000 icons from drop to the planned grid", time.perf_counter() - started, 12, "s")
        _pictures(client, view, files_of(client, view["id"]))
        figure("2,000 icons recolored, every thumbnail ready", time.perf_counter() - started, 35, "s")
        at_the_screen(address, kit["id"], made["id"])


def films() -> None:
    """Five seconds at 1280x720."""
    animation = orjson.loads(animation_files()["light-turns.json"])
    animation.update({"op": 150, "w": 1280, "h": 720})
    for layer in animation["layers"]:
        layer["op"] = 150
    data = orjson.dumps(animation)
    figure("MP4 of 5 s at 1280x720", seconds(lambda: film(data, "mp4", 1280, (255, 255, 255)), 1), 20, "s")


def _pictures(client: httpx.Client, view: dict, assets: list[dict]) -> None:
    wanted = [
        (
            f"/api/assets/{asset['id']}/picture.png",
            {"size": "84", "fingerprint": asset["fingerprint"], "of": view["id"]},
        )
        for asset in assets
    ]
    with ThreadPoolExecutor(6) as pool:
        for response in pool.map(lambda ask: client.get(ask[0], params=ask[1]), wanted):
            assert response.status_code == 200, response.text
