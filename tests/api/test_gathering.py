"""Gathering and composing over the API: what is dropped, pinned, said of pictures, proposed, and found again."""

from __future__ import annotations

import io
from typing import Any

import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pavese.core.color.parse import parse_color
from pavese.core.formats.archive import package
from pavese.core.gather.source import MOST_PICTURES
from pavese.demo.pictures import board_pictures, logo
from pavese.demo.site import PAGES, demo_site
from pavese.render.web import FetchPolicy
from tests.conftest import pages_allowed

Json = dict[str, Any]


@pytest.fixture
def kit(client: TestClient) -> Json:
    colors = [
        {"name": "Deep water", "role": "primary", "code": "#0b5e6b"},
        {"name": "Fog", "role": "background", "code": "#eef0ec"},
        {"name": "Hull", "role": "text dark", "code": "#16252b"},
    ]
    return dict(client.post("/api/kits", json={"name": "Ferries", "colors": colors}).json())


def drop(client: TestClient, kit: Json, files: dict[str, bytes]) -> Json:
    parts = [("files", (name, data)) for name, data in files.items()]
    answer = client.post(f"/api/kits/{kit['id']}/sources/drop", files=parts)
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


@pytest.fixture
def board(client: TestClient, kit: Json) -> Json:
    return dict(drop(client, kit, board_pictures())["source"])


def change(client: TestClient, method: str, path: str, body: Json | None = None) -> Json:
    answer = client.request(method, f"/api/sources/{path}", json=body)
    assert answer.status_code in (200, 201), answer.text
    return dict(answer.json())


def test_a_drop_is_taken_as_what_it_is_and_the_rest_named(client: TestClient, kit: Json) -> None:
    files = {
        **board_pictures(),
        "codes.csv": b"name,hex\nLamp,#efb23a\n",
        "broken.png": b"\x89PNG\r\n\x1a\n",
        "empty.jpg": b"",
        "words.txt": b"nothing here",
    }
    made = drop(client, kit, files)
    assert made["taken"] == 4
    assert {entry["name"]: entry["reason"] for entry in made["refused"]}.keys() == {
        "broken.png",
        "empty.jpg",
        "words.txt",
    }
    assert [(code["hex"], code["name"]) for code in made["codes"]] == [("#efb23a", "Lamp")]
    source = made["source"]
    assert (source["kind"], len(source["pictures"]), source["unstated"]) == ("board", 3, 3)
    [entry] = client.get(f"/api/kits/{kit['id']}/sources").json()
    assert entry["id"] == source["id"]
    assert "1 source" in client.get(f"/api/kits/{kit['id']}").json()["stages"]["gather"]
    nothing = drop(client, kit, {"broken.png": b"\x89PNG\r\n\x1a\n"})
    assert nothing["source"] is None
    assert len(client.get(f"/api/kits/{kit['id']}/sources").json()) == 1


def test_archives_are_opened_apart_and_only_what_there_is_room_for_comes(client: TestClient, kit: Json) -> None:
    def small(number: int) -> bytes:
        target = io.BytesIO()
        Image.new("RGB", (12, 9), (number * 4, 90, 200)).save(target, "PNG")
        return target.getvalue()

    packed = package([(f"in/{number:02}.png", small(number)) for number in range(MOST_PICTURES + 2)])
    made = drop(client, kit, {"many.zip": packed, "codes.txt": b"#0b5e6b", "broken.zip": packed[:200]})
    assert made["taken"] == MOST_PICTURES + 1
    told = {entry["name"]: entry["reason"] for entry in made["refused"]}
    assert told.keys() == {"in/60.png", "in/61.png", "broken.zip"}
    assert told["in/61.png"] == f"a board holds at most {MOST_PICTURES} pictures."
    full = made["source"]["id"]
    answer = client.post(
        f"/api/sources/{full}/pictures", files=[("files", ("more.zip", package([("a.png", small(1))])))]
    )
    assert [entry["name"] for entry in answer.json()["refused"]] == ["a.png"]


def test_candidates_are_numbered_and_say_what_the_kit_has(client: TestClient, board: Json) -> None:
    assert [pin["number"] for pin in board["pins"]] == list(range(1, 7))
    by_hex = {candidate["hex"]: candidate for candidate in board["candidates"]}
    assert by_hex["#16252b"]["known_as"] == "Hull base"
    assert by_hex["#16252b"]["difference"] == "same"
    assert by_hex["#6b7d3a"]["known_as"] is None
    more = change(client, "POST", f"{board['id']}/find", {"count": 12, "lean": "vivid", "leave_out_ground": True})
    assert more["looking"] == {"count": 12, "lean": "vivid", "leave_out_ground": True}
    assert len(more["pins"]) > len(board["pins"])
    now = client.get(f"/api/sources/{board['id']}").json()["pins"]
    assert change(client, "POST", f"{board['id']}/undo")["pins"] == board["pins"]
    assert change(client, "POST", f"{board['id']}/redo")["pins"] == now
    change(client, "POST", f"{board['id']}/undo")


def test_pins_follow_the_pixels(client: TestClient, board: Json) -> None:
    path = board["id"]
    kelp = next(pin for pin in board["pins"] if pin["answer"]["hex"] == "#6b7d3a")
    spot = client.get(f"/api/sources/{path}/spot", params={"x": kelp["x"], "y": kelp["y"], "reach": 5}).json()
    assert spot["answer"]["hex"] == "#6b7d3a"
    assert len(spot["around"]) == len(spot["around"][0]) == 21
    added = change(client, "POST", f"{path}/pins", {"x": kelp["x"], "y": kelp["y"], "reach": 15})
    assert added["pins"][-1] | {"number": 0, "share": None} == {
        **kelp,
        "number": 0,
        "share": None,
        "reach": 15,
        "answer": added["pins"][-1]["answer"],
    }
    count = len(added["pins"])
    first = change(client, "PATCH", f"{path}/pins/{count}", {"number": 1})
    assert first["pins"][0]["reach"] == 15
    moved = change(client, "PATCH", f"{path}/pins/1", {"x": board["pictures"][0]["x"] + 3, "reach": 1})
    assert moved["pins"][0]["answer"]["hex"] != "#6b7d3a"
    assert len(change(client, "DELETE", f"{path}/pins/1")["pins"]) == count - 1
    for _ in range(4):
        back = change(client, "POST", f"{path}/undo")
    assert back["pins"] == board["pins"]
    assert client.post(f"/api/sources/{path}/pins", json={"x": 0, "y": 0}).status_code == 422
    assert client.patch(f"/api/sources/{path}/pins/99", json={"x": 1}).status_code == 422


def test_a_board_is_arranged_said_of_and_downloaded(client: TestClient, kit: Json, board: Json) -> None:
    path = board["id"]
    ids = [picture["id"] for picture in board["pictures"]]
    turned = change(client, "PUT", f"{path}/order", {"ids": ids[::-1]})
    assert [picture["id"] for picture in turned["pictures"]] == ids[::-1]
    assert turned["fingerprint"] != board["fingerprint"]
    said = {"origin": "  the quay ", "author": "Harbor office", "rights": "ours", "scale": 2}
    stated = change(client, "PATCH", f"{path}/pictures/{ids[0]}", said)
    assert stated["unstated"] == 2
    assert next(p for p in stated["pictures"] if p["id"] == ids[0])["origin"] == "the quay"
    more = client.post(
        f"/api/sources/{path}/pictures", files=[("files", ("mark.svg", logo())), ("files", ("a.txt", b"x"))]
    )
    assert more.json()["taken"] == 1
    assert more.json()["refused"][0]["name"] == "a.txt"
    assert len(more.json()["source"]["pictures"]) == 4
    fewer = change(client, "DELETE", f"{path}/pictures/{ids[1]}")
    assert len(fewer["pictures"]) == 3
    assert change(client, "PATCH", path, {"name": "Harbor"})["name"] == "Harbor"
    answer = client.get(f"/api/sources/{path}/picture.png")
    assert "Harbor.png" in answer.headers["content-disposition"]
    with Image.open(io.BytesIO(answer.content)) as image:
        assert image.size == (fewer["width"], fewer["height"])
        assert image.getpixel((0, 0)) == (255, 255, 255)
    shown = client.get(f"/api/sources/{path}/picture", params={"fingerprint": fewer["fingerprint"], "side": 400})
    assert "immutable" in shown.headers["cache-control"]
    with Image.open(io.BytesIO(shown.content)) as image:
        assert max(image.size) == 400
    again = client.get(f"/api/sources/{path}").json()
    assert again["name"] == "Harbor"
    assert client.delete(f"/api/sources/{path}").status_code == 204
    assert client.get(f"/api/kits/{kit['id']}/sources").json() == []
    assert client.get(f"/api/sources/{path}").status_code == 404


def test_a_board_is_laid_by_hand(client: TestClient, board: Json) -> None:
    path = board["id"]
    ids = [picture["id"] for picture in board["pictures"]]
    # The hill over the ship: what is pinned under it is not seen, and does not change its color.
    ship, place = board["pictures"][0], f"{path}/pictures/{ids[1]}/place"
    lies = {key: ship[key] for key in ("x", "y", "width")}
    laid = change(client, "PUT", place, {"lies": lies, "part": {"bottom": 0.5}})
    assert (laid["by_hand"], laid["history"]["undo"]) == (True, "Lay kelp-shore.png")
    assert laid["fingerprint"] != board["fingerprint"]
    moved = laid["pictures"][1]
    assert ({key: moved[key] for key in lies}, moved["part"]["bottom"]) == (lies, 0.5)
    assert [pin["answer"]["hex"] for pin in laid["pins"]] == [pin["answer"]["hex"] for pin in board["pins"]]
    hidden = [pin["number"] for pin in laid["pins"] if not pin["seen"]]
    assert hidden
    refused = client.patch(f"/api/sources/{path}/pins/{hidden[0]}", json={"reach": 5})
    assert (refused.status_code, "cut away or covered" in refused.json()["detail"]) == (422, True)
    spot = client.get(f"/api/sources/{path}/spot", params={"x": moved["x"] + 9, "y": moved["y"] + 9}).json()
    alone = client.get(f"/api/sources/{path}/pictures/{ids[1]}/picture", params={"digest": moved["digest"]})
    assert "immutable" in alone.headers["cache-control"]
    with Image.open(io.BytesIO(alone.content)) as image:
        near = image.convert("RGB").getpixel((10, 10))
    there = tuple(int(spot["answer"]["hex"][at : at + 2], 16) for at in (1, 3, 5))
    assert max(abs(a - b) for a, b in zip(near, there, strict=True)) <= 6
    for bad in ({"x": 1590, "y": 0, "width": 400}, {"x": -1, "y": 0, "width": 400}, {"x": 0, "y": 0, "width": 0}):
        assert client.put(f"/api/sources/{place}", json={"lies": bad}).status_code == 422
    assert (
        client.put(f"/api/sources/{place}", json={"lies": lies, "part": {"left": 0.6, "right": 0.4}}).status_code == 422
    )
    rows = change(client, "DELETE", f"{path}/places")
    assert (rows["by_hand"], rows["pictures"][1]["part"]["bottom"]) == (False, 0.5)
    assert change(client, "POST", f"{path}/undo")["pictures"] == laid["pictures"]


def test_pages_come_from_files_and_allowed_addresses(client: TestClient, kit: Json) -> None:
    made = drop(client, kit, {"saved.html": PAGES["/departures"][1]})["source"]
    assert made["kind"] == "page"
    assert "style.css" in made["page"]["notes"][0]
    url = f"/api/kits/{kit['id']}/sources/address"
    with demo_site() as site:
        refused = client.post(url, json={"address": f"http://{site[0]}:{site[1]}/"})
        assert (refused.status_code, "private network" in refused.json()["detail"]) == (422, True)
        with pages_allowed(client, FetchPolicy(False, frozenset({site}))):
            read = client.post(url, json={"address": f"{site[0]}:{site[1]}/departures"}).json()
            bare = client.post(url, json={"address": f" {site[0]}:{site[1]}#top "}).json()
            missing = client.post(url, json={"address": f"http://{site[0]}:{site[1]}/nowhere"})
            assert "404" in missing.json()["detail"]
    assert bare["page"]["title"] == "Tarnmoor Ferries"
    assert read["page"]["title"] == "Departures, Tarnmoor Ferries"
    roles = {candidate["hex"]: candidate["role"] for candidate in read["candidates"]}
    assert roles["#d2452d"] == "action"
    found = change(client, "POST", f"{read['id']}/find", read["looking"])
    assert len(found["pins"]) == read["looking"]["count"]
    assert client.post(f"/api/sources/{read['id']}/pictures", files=[("files", ("a.svg", logo()))]).status_code == 422


def test_files_with_codes(client: TestClient, kit: Json) -> None:
    sent = {"file": ("list.csv", b"name;hex\nSea;#0b5e6b\nLamp;#efb23a\n")}
    found = client.post("/api/code-file", params={"kit_id": kit["id"]}, files=sent).json()["found"]
    assert [(one["name"], one["known_as"]) for one in found] == [("Sea", "Deep water base"), ("Lamp", None)]
    assert client.post("/api/code-file", files={"file": ("a.bin", b"\0\1")}).status_code == 422


def test_a_kit_is_completed_by_a_proposal_that_can_be_found_again(client: TestClient, kit: Json) -> None:
    url = f"/api/kits/{kit['id']}"
    wish = {"keep": [color["key"] for color in kit["colors"]], "roles": ["action", "neutral"], "theme": "harbor"}
    gallery = client.post(f"{url}/proposals", json=wish).json()
    assert len(gallery["proposals"]) == 9
    one = gallery["proposals"][3]
    assert one["action_distance"] >= 20
    assert client.post(f"{url}/proposals", json={**wish, "first": one["seed"]}).json()["proposals"][0] == one
    part = client.post(f"{url}/proposals/take", json={**wish, "first": one["seed"], "only": 0}).json()
    assert len(part["colors"]) == 4
    assert client.post(f"{url}/undo").json()["colors"] == kit["colors"]
    whole = client.post(f"{url}/proposals/take", json={**wish, "first": one["seed"]}).json()
    assert {color["hex"] for color in whole["colors"]} == {color["hex"] for color in one["line"]}
    assert whole["history"]["undo"] == f"Take proposal {one['seed']}"
    assert client.post(f"{url}/proposals/take", json={**wish, "first": "1", "only": 7}).status_code == 422


def test_colors_are_tinted_pinned_pulled_named_and_ordered(client: TestClient, kit: Json) -> None:
    url = f"/api/kits/{kit['id']}"
    tinted = client.post(f"{url}/tinted", json={"of": "deep-water", "shades": ["neutral"], "strength": 80}).json()
    key = next(color["key"] for color in tinted["colors"] if color["tint"])
    preview = client.post(f"{url}/colors/deep-water/preview", json={"code": "#6b2d0b"}).json()
    assert [color["key"] for color in preview["after"]] == ["deep-water", key]
    followed = client.patch(f"{url}/colors/deep-water", json={"code": "#6b2d0b"}).json()
    assert next(c["hex"] for c in followed["colors"] if c["key"] == key) == preview["after"][1]["hex"]
    # A stronger tint is nearer to its color; a color that is none has no strength.
    grey, near = (
        next(color for color in changed["colors"] if color["key"] == key)
        for share in (5, 90)
        for changed in [client.patch(f"{url}/colors/{key}", json={"strength": share}).json()]
    )
    assert [saturation(one["hex"]) for one in (grey, near)] == sorted(saturation(one["hex"]) for one in (grey, near))
    assert (grey["tint"]["strength"], near["tint"]["strength"]) == (5, 90)
    assert client.get(url).json()["history"]["undo"].endswith("90 percent")
    assert client.patch(f"{url}/colors/deep-water", json={"strength": 40}).status_code == 422
    keys = [color["key"] for color in client.post(f"{url}/colors/{key}/duplicate").json()["colors"]]
    assert keys[keys.index(key) + 1] not in [color["key"] for color in followed["colors"]], "a copy, right behind it"
    assert client.post(f"{url}/undo").json()["history"]["redo"].startswith("Duplicate")
    pinned = client.patch(f"{url}/colors/deep-water", json={"pin": {"step": 100, "code": "#ffe9d6"}}).json()
    [step] = [step for step in pinned["colors"][0]["steps"] if step["pinned"]]
    assert (step["step"], step["hex"]) == (100, "#ffe9d6")
    families = client.get(f"{url}/families").json()
    member = families["members"][0]
    pulled = client.post(f"{url}/families", json={"keys": ["deep-water"], "family": "pastel"}).json()
    assert pulled["colors"][0]["hex"] == member["pulled"]["pastel"]
    assert pulled["colors"][0]["family"] == "pastel"
    names = client.get(f"{url}/names", params={"theme": "spice"}).json()
    renamed = client.post(f"{url}/names", json={"names": {row["key"]: row["name"] for row in names}}).json()
    assert [color["name"] for color in renamed["colors"]] == [row["name"] for row in names]
    assert [color["key"] for color in renamed["colors"]] == [row["key"] for row in names]
    keys = [color["key"] for color in renamed["colors"]][::-1]
    assert [c["key"] for c in client.put(f"{url}/order", json={"keys": keys}).json()["colors"]] == keys
    noted = client.patch(f"{url}/colors/deep-water", json={"note": "Only for the fleet."}).json()
    assert next(c["note"] for c in noted["colors"] if c["key"] == "deep-water") == "Only for the fleet."
    assert len(client.get(f"{url}/colors/deep-water/same-tone").json()) == 12


def saturation(code: str) -> int:
    levels = parse_color(code).rgb
    return max(levels) - min(levels)


def test_a_scheme_is_dragged_and_set_by_numbers(client: TestClient, kit: Json) -> None:
    def ask(**more: Any) -> Json:
        answer = client.post(
            "/api/scheme", params={"kit_id": kit["id"]}, json={"code": "#0b5e6b", "rule": "triad", **more}
        )
        assert answer.status_code == 200, answer.text
        return dict(answer.json())

    plain = ask()
    assert plain["points"][0]["hex"] == "#0b5e6b"
    assert {spot["key"] for spot in plain["spots"]} == {"deep-water", "fog", "hull"}
    moved = ask(move={"point": 2, "x": 0.2, "y": 0.1})
    assert (moved["points"][2]["x"], moved["points"][2]["y"]) == pytest.approx((0.2, 0.1), abs=1e-6)
    put = ask(put={"point": 1, "code": "hsl(20 40% 40%)"})
    assert put["points"][1]["notations"]["hex"] == "#8f583d"
    free = ask(
        rule=None, points=[{"lightness": 0.6, "chroma": 0.1, "hue": 30}] * 2, put={"point": 1, "code": "#d2452d"}
    )
    assert free["points"][1]["hex"] == "#d2452d"
    # With the base held, a partner that is dragged takes the spread with it, and the base is what it was.
    split = {"rule": "split complementary", "locked": True}
    for held in (
        ask(**split, move={"point": 1, "x": -0.4, "y": 0.1}),
        ask(**split, put={"point": 1, "code": "#d2452d"}),
    ):
        assert held["points"][0]["hex"] == "#0b5e6b"
        assert held["spread"] != ask(**split)["spread"]
    assert ask(**split, move={"point": 9, "x": 0.1, "y": 0.1})["points"] == ask(**split)["points"]
    assert client.post("/api/scheme", json={"rule": "star", "code": "#fff"}).status_code == 422
    assert client.post("/api/scheme", json={"rule": "triad"}).status_code == 422


def test_the_shelf_is_searched_and_holds_every_kit_of_the_workspace(client: TestClient, kit: Json) -> None:
    found = client.get("/api/shelf", params={"near": "#0b5e6b"}).json()
    assert found["found"][0]["difference"] == "0.0"
    assert any(entry["kit_id"] == kit["id"] for entry in found["found"])
    few = client.get("/api/shelf", params={"family": "pastel", "count": 4}).json()["found"]
    assert few
    assert all(entry["family"] == "pastel" and len(entry["colors"]) == 4 for entry in few)
    assert client.get("/api/shelf", params={"near": "blurple"}).status_code == 422


def test_proportions_and_their_wrong_way_round(client: TestClient, kit: Json) -> None:
    url = f"/api/kits/{kit['id']}/proportions"
    shown = client.get(url).json()
    assert [look["name"] for look in shown["looks"]] == ["as meant", "inverted", "the wrong way round"]
    assert [slot["share"] for slot in shown["looks"][0]["slots"]] == [60, 30, 10]
    chosen = client.get(url, params={"large": "hull", "small": "fog", "shares": [50, 30, 20]}).json()
    assert (chosen["large"], chosen["small"]) == ("hull", "fog")
    assert client.get(url, params={"shares": [50, 30, 30]}).status_code == 422
    assert client.get(url, params={"large": "nobody"}).status_code == 422


@pytest.mark.parametrize("kind", ["png", "pdf"])
def test_a_board_is_handed_over_with_its_palette(client: TestClient, board: Json, kind: str) -> None:
    made = client.get(f"/api/sources/{board['id']}/palette.{kind}")
    assert made.status_code == 200
    if kind == "png":
        with Image.open(io.BytesIO(made.content)) as page:
            assert page.width > 1500
            assert len(page.convert("RGB").resize((200, 120)).getcolors(30_000) or ()) > 60, "the picture is on it"
    else:
        text = "".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(made.content)).pages)
        for found in board["candidates"]:
            assert found["hex"] in text
