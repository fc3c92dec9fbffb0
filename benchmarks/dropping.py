"""A drop as the interface sends it."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager

import httpx

from pavese.demo.load import demo_kit
from pavese.demo.people import COORDINATOR
from pavese.demo.served import served

#: Files of a request, and seconds between two looks at how far it is.
_BATCH, _FOLLOW = 40, 0.1


def drop(client: httpx.Client, set_id: str, files: list[tuple[str, bytes]]) -> dict:
    """Sends files that can be taken, waits until they are planned, and gives the set."""
    now = drop_of(client, set_id, files)
    assert now["taken"] == len(files), now["refused"]
    return client.get(f"/api/sets/{set_id}").json()


def drop_of(client: httpx.Client, set_id: str, files: list[tuple[str, bytes]]) -> dict:
    """Sends files, waits until they are planned, and gives the drop."""
    begun = client.post(f"/api/sets/{set_id}/drops", json={"files": len(files)}).json()
    path = f"/api/drops/{begun['id']}"
    for at in range(0, len(files), _BATCH):
        batch = [("files", file) for file in files[at : at + _BATCH]]
        client.post(f"{path}/files", files=batch).raise_for_status()
    client.post(f"{path}/close").raise_for_status()
    while not (now := client.get(path).json())["ended"]:
        time.sleep(_FOLLOW)
    return now


def files_of(client: httpx.Client, set_id: str) -> list[dict]:
    """The files of a set, asked for as the interface does, but all of them."""
    found: list[dict] = []
    while True:
        page = client.get(f"/api/sets/{set_id}/files", params={"start": len(found), "count": 500}).json()
        found += page["files"]
        if len(found) >= page["total"]:
            return found


@contextmanager
def set_of(files: list[tuple[str, bytes]]) -> Iterator[tuple[str, httpx.Client, dict, dict]]:
    """The application with files in a set: its address, somebody who is signed in, the kit and the set."""
    with served(demo=False) as address, httpx.Client(base_url=address, timeout=300) as client:
        kit, made = empty_set(client)
        yield address, client, kit, drop(client, made["id"], files)


def empty_set(client: httpx.Client) -> tuple[dict, dict]:
    """Signs in, and starts a kit and a set."""
    client.post("/api/session", json=COORDINATOR.sign_in).raise_for_status()
    colors = [{"name": color.name, "role": color.role, "code": color.base.hex} for color in demo_kit().colors]
    kit = client.post("/api/kits", json={"name": "Bench", "colors": colors}).json()
    return kit, client.post(f"/api/kits/{kit['id']}/sets", json={"name": "Icons"}).json()
