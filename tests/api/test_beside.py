"""Files that belong to others: pictures that a drawing shows come with it, go by its plan, and go with it."""

from __future__ import annotations

import io
import json
from typing import Any

from fastapi.testclient import TestClient
from PIL import Image
from sqlalchemy.orm import Session, sessionmaker

from pavese.core.formats.archive import package
from pavese.store import contents
from tests.api.test_plans import packaged
from tests.api.test_sets import Json, kit, start
from tests.conftest import files_of

__all__ = ["kit"]

MAP = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10"><rect width="10" height="10" fill="#e53935"/>'
    b'<image href="../pictures/sea%20chart.png?v=2" x="10" width="10" height="10"/></svg>'
)


def png(color: str) -> bytes:
    target = io.BytesIO()
    Image.new("RGB", (20, 20), color).save(target, "PNG")
    return target.getvalue()


def drawn(client: TestClient, view: Json, asset: Json) -> Image.Image:
    wanted = {"fingerprint": asset["fingerprint"], "of": view["id"], "size": 80}
    body = client.get(f"/api/assets/{asset['id']}/picture.png", params=wanted).content
    return Image.open(io.BytesIO(body)).convert("RGBA")


def check(client: TestClient, view: Json, refused: list[Any]) -> Json:
    [asset] = files_of(client, view["id"])
    assert (asset["name"], asset["remarks"], refused) == (
        "maps/route.svg",
        [],
        [],
    )
    assert drawn(client, view, asset).getpixel((20, 20)) != (229, 57, 53, 255)
    file = client.get(f"/api/sets/{view['id']}/files/{asset['id']}").json()
    assert file["beside"] == ["pictures/sea chart.png"]
    inside = packaged(client, view)
    with Image.open(io.BytesIO(inside["pictures/sea chart.png"])) as handed:
        [(_, color)] = handed.convert("RGB").getcolors() or ()
    assert color != (0, 255, 0)
    assert drawn(client, view, asset).getpixel((60, 20)) == (*color, 255)
    assert b"../pictures/sea%20chart.png?v=2" in inside["maps/route.svg"]
    return asset


def test_a_picture_comes_with_its_drawing_in_a_drop_of_files(client: TestClient, kit: Json) -> None:
    view = start(client, kit)
    sent = [("maps/route.svg", MAP), ("pictures/sea chart.png", png("#00ff00"))]
    for one in (sent, sent[::-1]):
        view = start(client, kit)
        files = [("files", file) for file in one]
        dropped = client.post(f"/api/sets/{view['id']}/files", files=files).json()
        check(client, view, dropped["refused"])
    # Nothing that a file shows is thrown away, and it goes when the file goes.
    made: sessionmaker[Session] = client.app.state.sessions  # type: ignore[attr-defined]
    with made.begin() as session:
        contents.sweep(session, seconds=0)
    check(client, view, [])


def test_a_picture_comes_with_its_drawing_in_an_archive(client: TestClient, kit: Json) -> None:
    view = start(client, kit)
    archive = package([("maps/route.svg", MAP), ("pictures/sea chart.png", png("#00ff00"))])
    dropped = client.post(f"/api/sets/{view['id']}/files", files=[("files", ("all.zip", archive))]).json()
    check(client, view, dropped["refused"])


def test_a_picture_that_did_not_come_is_said(client: TestClient, kit: Json) -> None:
    away = MAP.replace(b"../pictures/", b"../../../etc/")
    lottie = {
        "v": "5.7.4", "fr": 30, "ip": 0, "op": 30, "w": 9, "h": 9,
        "assets": [{"id": "p", "u": "images/", "p": "sea.png", "w": 9, "h": 9}],
        "layers": [{"ty": 2, "refId": "p", "ip": 0, "op": 30, "st": 0, "ks": {}}],
    }  # fmt: skip
    view = start(client, kit, ("a.svg", away), ("chart.png", png("#00ff00")), ("b.json", json.dumps(lottie).encode()))
    for asset in files_of(client, view["id"]):
        assert "It refers to another file, which is not fetched." in asset["remarks"]
        assert client.get(f"/api/sets/{view['id']}/files/{asset['id']}").json()["beside"] == []
    assert "chart.png" not in packaged(client, view)


def test_an_animation_shows_the_pictures_that_came_with_it(client: TestClient, kit: Json) -> None:
    lottie = {
        "v": "5.7.4", "fr": 30, "ip": 0, "op": 30, "w": 20, "h": 20,
        "assets": [{"id": "p", "u": "images/", "p": "sea.png", "w": 20, "h": 20}],
        "layers": [{"ty": 2, "refId": "p", "ip": 0, "op": 30, "st": 0, "ks": {}}],
    }  # fmt: skip
    view = start(client, kit, ("waves.json", json.dumps(lottie).encode()), ("images/sea.png", png("#00ff00")))
    [asset] = files_of(client, view["id"])
    assert asset["remarks"] == []
    inside = packaged(client, view)
    assert json.loads(inside["waves.json"]) == lottie, "what is handed over still names it"
    with Image.open(io.BytesIO(inside["images/sea.png"])) as handed:
        [(_, color)] = handed.convert("RGB").getcolors() or ()
    assert color != (0, 255, 0)
    # Its engine rounds opacity.
    *seen, alpha = drawn(client, view, asset).getpixel((40, 40))
    assert max(abs(one - other) for one, other in zip(seen, color, strict=True)) <= 1
    assert alpha > 250


def test_a_part_of_another_file_is_not_fetched_and_that_is_said(client: TestClient, kit: Json) -> None:
    other = b'<svg xmlns="http://www.w3.org/2000/svg"><symbol id="a"><path d="M0 0h9v9z"/></symbol></svg>'
    using = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><use href="other.svg#a"/></svg>'
    view = start(client, kit, ("using.svg", using), ("other.svg", other))
    [asset, _] = files_of(client, view["id"])
    assert asset["remarks"] == ["It uses a part of another file, which is not fetched."]


def test_a_drawing_inside_of_a_drawing_goes_along(client: TestClient, kit: Json) -> None:
    inner = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path fill="#00ff00" d="M0 0h9v9H0z"/></svg>'
    outer = MAP.replace(b"../pictures/sea%20chart.png?v=2", b"inner.svg")
    view = start(client, kit, ("outer.svg", outer), ("inner.svg", inner))
    [asset, own] = files_of(client, view["id"])
    color = drawn(client, view, own).getpixel((40, 20))
    assert color != (0, 255, 0, 255)
    assert drawn(client, view, asset).getpixel((60, 20)) == color


def test_a_new_picture_of_the_same_name_is_another_picture(client: TestClient, kit: Json) -> None:
    seen = []
    for color in ("#00ff00", "#0000ff"):
        view = start(client, kit, ("maps/route.svg", MAP), ("pictures/sea chart.png", png(color)))
        [asset] = files_of(client, view["id"])
        seen.append(drawn(client, view, asset).getpixel((60, 20)))
    assert seen[0] != seen[1]
