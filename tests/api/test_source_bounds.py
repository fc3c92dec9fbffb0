"""Sources at their bounds: too many, too large, gone, changed by two at once, and where fetching is switched off."""

from __future__ import annotations

import io
import uuid
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pavese.core.gather.source import MOST_PICTURES, MOST_PINS
from pavese.demo.pictures import logo
from pavese.render.web import FetchPolicy
from pavese.settings import Settings
from tests.conftest import pages_allowed

Json = dict[str, Any]
NOWHERE = str(uuid.UUID(int=9))


def png(color: tuple[int, int, int], side: int = 24) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (side, side), color).save(out, "PNG")
    return out.getvalue()


@pytest.fixture
def kit_id(client: TestClient) -> str:
    return str(client.post("/api/kits", json={"name": "Bounds"}).json()["id"])


def drop(client: TestClient, kit_id: str, files: list[tuple[str, bytes]]) -> Json:
    answer = client.post(f"/api/kits/{kit_id}/sources/drop", files=[("files", file) for file in files])
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def test_a_board_holds_so_many_pictures_and_names_the_rest(client: TestClient, kit_id: str) -> None:
    many = [(f"{n}.png", png((n, n, 255 - n))) for n in range(MOST_PICTURES + 2)]
    made = drop(client, kit_id, many)
    assert made["taken"] == MOST_PICTURES
    assert [entry["name"] for entry in made["refused"]] == ["60.png", "61.png"]
    path = f"/api/sources/{made['source']['id']}/pictures"
    more = client.post(path, files=[("files", ("one-more.png", png((1, 2, 3))))]).json()
    assert (more["taken"], more["refused"][0]["name"]) == (0, "one-more.png")
    assert "at most 60" in more["refused"][0]["reason"]
    assert len(more["source"]["pictures"]) == MOST_PICTURES
    answer = client.get(f"/api/sources/{made['source']['id']}/picture.png")
    with Image.open(io.BytesIO(answer.content)) as image:
        assert image.height == made["source"]["height"]


def test_pins_have_a_bound(client: TestClient, kit_id: str) -> None:
    source = drop(client, kit_id, [("a.png", png((9, 9, 9)))])["source"]
    path = f"/api/sources/{source['id']}/pins"
    for n in range(MOST_PINS - len(source["pins"])):
        assert client.post(path, json={"x": n % 24, "y": 3}).status_code == 201
    refused = client.post(path, json={"x": 1, "y": 1})
    assert (refused.status_code, "at most 60 pins" in refused.json()["detail"]) == (422, True)
    assert len(client.get(f"/api/sources/{source['id']}").json()["pins"]) == MOST_PINS


def test_a_picture_of_one_color_says_that_there_is_no_more(client: TestClient, kit_id: str) -> None:
    source = drop(client, kit_id, [("a.png", png((11, 94, 107)))])["source"]
    asked = {"count": 8, "lean": "balanced", "leave_out_ground": False}
    found = client.post(f"/api/sources/{source['id']}/find", json=asked).json()
    assert [pin["answer"]["hex"] for pin in found["pins"]] == ["#0b5e6b"]
    assert found["note"] == "8 were asked for; the picture holds 1 color that can be told apart."
    for bad in ({**asked, "count": 2}, {**asked, "count": 13}, {**asked, "lean": "loud"}):
        assert client.post(f"/api/sources/{source['id']}/find", json=bad).status_code == 422


def test_clear_pixels_have_no_color_but_say_how_clear_they_are(client: TestClient, kit_id: str) -> None:
    pixels = np.zeros((40, 40, 4), dtype=np.uint8)
    pixels[:, :20] = (210, 69, 45, 128)
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, "PNG")
    source = drop(client, kit_id, [("half.png", out.getvalue())])["source"]
    assert source["looking"]["leave_out_ground"] is True
    spot = client.get(f"/api/sources/{source['id']}/spot", params={"x": 5, "y": 5}).json()
    assert (spot["answer"]["hex"], spot["alpha"]) == ("#d2452d", "50 %")
    clear = client.get(f"/api/sources/{source['id']}/spot", params={"x": 35, "y": 5}).json()
    assert clear["alpha"] == "0 %"
    assert clear["around"][10][10] is None
    beyond = client.get(f"/api/sources/{source['id']}/spot", params={"x": 9000, "y": 9000}).json()
    assert (beyond["x"], beyond["y"]) == (39, 39)
    shown = client.get(f"/api/sources/{source['id']}/picture")
    assert (shown.headers["content-type"], shown.headers["cache-control"]) == ("image/png", "no-store")


def test_changes_made_at_the_same_time_are_all_kept(client: TestClient, kit_id: str) -> None:
    source = drop(client, kit_id, [("a.png", png((9, 9, 9), 64))])["source"]
    path = f"/api/sources/{source['id']}/pins"
    before = len(source["pins"])
    with ThreadPoolExecutor(6) as pool:
        answers = list(pool.map(lambda n: client.post(path, json={"x": n, "y": n}).status_code, range(12)))
    assert answers == [201] * 12
    assert len(client.get(f"/api/sources/{source['id']}").json()["pins"]) == before + 12


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("GET", f"/api/sources/{NOWHERE}", None),
        ("GET", f"/api/sources/{NOWHERE}/picture", None),
        ("GET", f"/api/sources/{NOWHERE}/spot?x=1&y=1", None),
        ("DELETE", f"/api/sources/{NOWHERE}", None),
        ("POST", f"/api/sources/{NOWHERE}/undo", None),
        ("POST", f"/api/sources/{NOWHERE}/pins", {"x": 1, "y": 1}),
        ("GET", f"/api/kits/{NOWHERE}/sources", None),
        ("POST", f"/api/kits/{NOWHERE}/sources/address", {"address": "http://ferries.example/"}),
        ("GET", f"/api/kits/{NOWHERE}/families", None),
        ("POST", f"/api/kits/{NOWHERE}/proposals", {"roles": ["accent"]}),
    ],
)
def test_what_does_not_exist_is_said(client: TestClient, method: str, path: str, body: Json | None) -> None:
    answer = client.request(method, path, json=body)
    assert answer.status_code == 404
    assert "does not exist" in answer.json()["detail"]


def test_a_drop_beyond_the_bound_changes_nothing(client: TestClient, kit_id: str) -> None:
    files = [("files", ("large.png", b"\x89PNG\r\n\x1a\n" + b"\0" * (5 * 1024 * 1024)))]
    answer = client.post(f"/api/kits/{kit_id}/sources/drop", files=files)
    assert (answer.status_code, "4 MB" in answer.json()["detail"]) == (413, True)
    assert client.get(f"/api/kits/{kit_id}/sources").json() == []


def test_addresses_where_none_may_be_fetched(client: TestClient, kit_id: str) -> None:
    off = Settings(page_addresses="none", page_hosts=["127.0.0.1:8461"])
    assert off.listed_hosts == frozenset()
    assert Settings(page_addresses="listed", page_hosts=["127.0.0.1:8461"]).listed_hosts == {("127.0.0.1", 8461)}
    with pages_allowed(client, FetchPolicy(False, off.listed_hosts)):
        for address in ("http://ferries.example/", "ferries.example", "127.0.0.1:8461"):
            answer = client.post(f"/api/kits/{kit_id}/sources/address", json={"address": address})
            assert (answer.status_code, "not on the list" in answer.json()["detail"]) == (422, True), address
    assert client.get(f"/api/kits/{kit_id}/sources").json() == []


def test_a_removed_source_leaves_the_kit_and_other_sources_alone(client: TestClient, kit_id: str) -> None:
    first = drop(client, kit_id, [("mark.svg", logo())])["source"]
    second = drop(client, kit_id, [("mark again.svg", logo())])["source"]
    colors = [{"name": "Mark", "role": "primary", "code": first["pins"][0]["answer"]["hex"]}]
    client.post(f"/api/kits/{kit_id}/colors", json={"colors": colors})
    assert client.delete(f"/api/sources/{first['id']}").status_code == 204
    assert client.delete(f"/api/sources/{first['id']}").status_code == 404
    # Both held the same bytes; the other one still shows its picture.
    assert client.get(f"/api/sources/{second['id']}/picture").status_code == 200
    assert [color["name"] for color in client.get(f"/api/kits/{kit_id}").json()["colors"]] == ["Mark"]
    again = client.get(f"/api/sources/{second['id']}").json()
    assert again["candidates"][0]["known_as"] == "Mark base"
