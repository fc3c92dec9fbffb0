"""A kit loses its colors one by one, or they become one another: every view of what was made from it still opens, no
text of a mail is lost where the colors are gone, and what was ordered of a file is still made."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pavese.demo.deck import NAME, deck_file
from pavese.demo.mail import mail_files
from tests.api.test_sets import files_of, kit, start

Json = Any
__all__ = ["kit"]
OF_SET = ("files", "grounds-and-inks", "alternatives", "doubts", "weak", "check", "theme", "plan/anew", "plans")
OF_KIT = ("pairs", "trios", "states", "see-through", "vision", "rules", "diagnosis", "proportions", "families", "logo")
VIEWS, KIT_VIEWS = (["", *(f"/{view}" for view in views)] for views in (OF_SET, OF_KIT))


def banner() -> bytes:
    """A photograph that is none: noise about a middle grey."""
    noise = np.random.default_rng(3).integers(90, 150, (90, 160, 3), dtype=np.uint8)
    target = io.BytesIO()
    Image.fromarray(noise).save(target, "PNG")
    return target.getvalue()


@pytest.fixture
def made(client: TestClient, kit: Json) -> list[Json]:
    """A set of mails, of decks and of pictures, each worked by what points to colors of the kit."""
    mails = start(client, kit, *list(mail_files().items())[:3])
    decks = start(client, kit, (NAME, deck_file()[NAME]))
    pictures = start(client, kit, ("banner.png", banner()))
    pair = {"ground": "fog.base", "ink": "hull.base"}
    whole = f"/api/sets/{mails['id']}/ground-and-ink"
    in_the_dark = {"ground": "hull.base", "ink": "fog.base", "part": "/dark"}
    for chosen in (pair, {"ground": "hull.base", "ink": "lamp.base", "part": "/footer"}, in_the_dark):
        client.put(whole, json=chosen).raise_for_status()
    client.put(f"/api/sets/{decks['id']}/theme", json={"places": {"accent1": "buoy.base", "dk1": "hull.base"}})
    [file] = files_of(client, pictures["id"])
    room = {"region": {"left": 0.1, "top": 0.1, "width": 0.5, "height": 0.4}, "ink": "fog.base", "veil": "hull.base"}
    pointed = f"/api/sets/{pictures['id']}/files/{file['id']}/headline"
    client.put(pointed, json={"headline": {**room, "size": "small, 4.5:1"}}).raise_for_status()
    return [mails, decks, pictures]


def opened(client: TestClient, kit: Json, made: list[Json]) -> Json:
    """Opens every view; gives that of the mails."""
    for view in KIT_VIEWS:
        assert client.get(f"/api/kits/{kit['id']}{view}").status_code == 200, view
    for one in made:
        for view in VIEWS:
            answer = client.get(f"/api/sets/{one['id']}{view}")
            assert answer.status_code == 200, (one["name"], view, answer.text[:200])
        for file in files_of(client, one["id"]):
            detail = client.get(f"/api/sets/{one['id']}/files/{file['id']}")
            assert detail.status_code == 200, (file["name"], detail.text[:200])
            handed = client.get(f"/api/assets/{file['id']}/file", params={"of": one["id"]})
            assert handed.status_code == 200, (file["name"], handed.text[:200])
    return client.get(f"/api/sets/{made[0]['id']}").json()


def test_colors_go_one_by_one_and_become_one_another(client: TestClient, kit: Json, made: list[Json]) -> None:
    path, gone = f"/api/kits/{kit['id']}/colors", ("hull", "fog", "buoy", "lamp")
    for key in gone:
        client.delete(f"{path}/{key}").raise_for_status()
        assert opened(client, kit, made)["reading"]["lost"] == 0, key
    for color in kit["colors"]:
        if color["key"] not in gone:
            client.patch(f"{path}/{color['key']}", json={"code": "#7a8086"}).raise_for_status()
    opened(client, kit, made)
