"""A drop as the interface sends it."""

from __future__ import annotations

import time

import httpx

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
