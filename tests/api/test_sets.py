"""A set's life over HTTP: dropped, planned, changed, undone, checked, handed over."""

from __future__ import annotations

import gzip
import io
import json
import uuid
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image
from sqlalchemy import event, select
from sqlalchemy.orm import Session

from pavese.api.files.at_hand import PicturesAtHand
from pavese.core.color.srgb import Rgba, parse_key
from pavese.core.formats.svg import read_svg
from pavese.core.handoff.plan_file import read_plan_file
from pavese.core.kit.token_file import read_kit_tokens
from pavese.core.recolor.changes import Changes
from pavese.demo.icons import icon_files
from pavese.demo.load import CODES
from pavese.store import facts, sets
from pavese.store.models import Picture, SetRow
from tests.conftest import files_of

RED = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#e53935" d="M0 0h9v9z"/></svg>'
TWO = RED.replace(b"</svg>", b'<path fill="#43a047" d="M0 0h5v9z"/></svg>')

Json = dict[str, Any]


@pytest.fixture
def kit(client: TestClient) -> Json:
    found = client.post("/api/codes", json={"text": CODES}).json()["found"]
    colors = [{"name": code["name"], "role": code["role"], "code": code["hex"]} for code in found]
    return client.post("/api/kits", json={"name": "Tarnmoor Ferries", "colors": colors}).json()


def start(client: TestClient, kit: Json, *files: tuple[str, bytes]) -> Json:
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "Icons"}).json()
    return drop(client, made["id"], *files)["set"] if files else made


def drop(client: TestClient, set_id: str, *files: tuple[str, bytes]) -> Json:
    response = client.post(f"/api/sets/{set_id}/files", files=[("files", file) for file in files])
    assert response.status_code == 200
    return response.json()


def targets(view: Json) -> dict[str, str]:
    return {paint["key"]: paint["target"] for paint in view["paints"]}


def test_a_kit_comes_from_codes_with_ramps_and_pairs(client: TestClient, kit: Json) -> None:
    assert [color["name"] for color in kit["colors"]][:2] == ["Deep water", "Slipway"]
    assert len(kit["colors"]) == 8
    deep = kit["colors"][0]
    assert [step["hex"] for step in deep["steps"] if step["base"]] == [deep["hex"]] == ["#0b5e6b"]
    pairs = client.get(f"/api/kits/{kit['id']}/pairs").json()
    assert sum(pairs["counts"].values()) == 56
    at = [subject["token"] for subject in pairs["subjects"]]
    hull, fog = at.index("hull.base"), at.index("fog.base")
    assert pairs["ratios"][fog][hull] == pairs["ratios"][hull][fog] == "13.73"
    assert pairs["level_names"][pairs["levels"][fog][hull]] == "AAA"


def test_colors_are_changed_undone_and_redone(client: TestClient, kit: Json) -> None:
    path = f"/api/kits/{kit['id']}"
    renamed = client.patch(f"{path}/colors/buoy", json={"name": "Signal", "role": "accent"}).json()
    assert next(c for c in renamed["colors"] if c["key"] == "buoy")["name"] == "Signal"
    replaced = client.patch(f"{path}/colors/buoy", json={"code": "oklch(0.5 0.2 20)"}).json()
    assert replaced["history"]["undo"] == "Replace the base of Signal"
    removed = client.delete(f"{path}/colors/lamp").json()
    assert len(removed["colors"]) == 7
    assert client.post(f"{path}/undo").json()["history"]["redo"] == "Remove Lamp"
    assert len(client.post(f"{path}/redo").json()["colors"]) == 7
    for _ in range(3):
        back = client.post(f"{path}/undo").json()
    assert back["colors"] == kit["colors"]
    assert client.post(f"{path}/undo").status_code == 409
    # A new change takes the place of what could have been redone.
    client.patch(path, json={"name": "Tarnmoor"})
    assert client.post(f"{path}/redo").status_code == 409
    added = client.post(
        f"{path}/colors", json={"colors": [{"name": "Lamp", "role": "accent", "code": "#123456"}]}
    ).json()
    assert [c["key"] for c in added["colors"] if c["name"] == "Lamp"] == ["lamp", "lamp-2"]


def test_a_drop_is_planned_and_bad_files_are_named(client: TestClient, kit: Json) -> None:
    made = start(client, kit)
    result = drop(
        client, made["id"], ("a.svg", RED), ("a.svg", TWO), ("b.svg", b"<svg"), ("c.png", b"\x89PNG"), ("d.svg", b"")
    )
    assert result["taken"] == 2
    assert {refusal["name"] for refusal in result["refused"]} == {"b.svg", "c.png", "d.svg"}
    assert all(refusal["reason"] for refusal in result["refused"])
    assert [asset["name"] for asset in files_of(client, made["id"])] == ["a.svg", "a-2.svg"]
    assert targets(result["set"]) == {"#e53935": "buoy.base", "#43a047": "kelp.400"}
    assert result["set"]["paints"][0]["files"] == 2


def test_many_small_drops_change_nothing_and_planned_anew_are_like_one_large_one(client: TestClient, kit: Json) -> None:
    files = list(icon_files().items())
    whole = start(client, kit, *files)
    parts = start(client, kit, *files[:10])
    path = f"/api/sets/{parts['id']}"
    for at in range(10, len(files), 5):
        few = [("files", file) for file in files[at : at + 5]]
        answer = client.post(f"{path}/files", files=few).json()
        assert answer["taken"] == len(few)
        before, parts = targets(parts), answer["set"]
        assert {key: targets(parts)[key] for key in before} == before
    assert targets(client.post(f"{path}/plan").json()) == targets(whole)
    assert whole["history"]["undo"] is None


def test_a_target_is_changed_in_every_file_undone_and_redone(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", TWO))
    path = f"/api/sets/{view['id']}"

    def looks() -> list[str]:
        return [file["fingerprint"] for file in files_of(client, view["id"])]

    before = looks()
    changed = client.post(f"{path}/aim", json={"paints": ["#e53935"], "color": "lamp"}).json()
    assert targets(changed)["#e53935"].startswith("lamp.")
    after = looks()
    assert all(new != old for new, old in zip(after, before, strict=True))
    client.post(f"{path}/aim", json={"paints": ["#43a047"], "target": "keep"})
    assert looks()[0] == after[0]
    assert targets(client.post(f"{path}/undo").json()) == targets(changed)
    assert targets(client.post(f"{path}/undo").json()) == targets(view)
    assert client.post(f"{path}/undo").status_code == 409
    assert targets(client.post(f"{path}/redo").json()) == targets(changed)
    # Choices outlive files that come later, and a reload.
    later = drop(client, view["id"], ("c.svg", RED.replace(b"#e53935", b"#1a237e")))["set"]
    assert targets(later)["#e53935"] == targets(changed)["#e53935"]
    assert targets(client.get(path).json()) == targets(later)
    anew = client.post(f"{path}/plan").json()
    assert targets(anew)["#e53935"] == "buoy.base"
    assert targets(client.post(f"{path}/undo").json()) == targets(later)


def test_sets_follow_the_kit(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED))
    client.patch(f"/api/kits/{kit['id']}/colors/buoy", json={"code": "#aa2211"})
    followed = client.get(f"/api/sets/{view['id']}").json()
    assert followed["paints"][0]["target"] == "buoy.base"
    assert followed["paints"][0]["target_hex"] == "#aa2211"
    client.delete(f"/api/kits/{kit['id']}/colors/buoy")
    assert not client.get(f"/api/sets/{view['id']}").json()["paints"][0]["target"].startswith("buoy")


def test_pictures_show_before_after_and_a_paint_alone(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", TWO))
    asset = files_of(client, view["id"])[0]
    path = f"/api/assets/{asset['id']}/picture.png"

    def colors(query: str) -> set[tuple[int, ...]]:
        response = client.get(f"{path}?{query}")
        assert response.headers["content-type"] == "image/png"
        picture = Image.open(io.BytesIO(response.content)).convert("RGBA")
        return {color[:3] for _, color in picture.getcolors(99_999) or () if color[3] == 255}

    assert (0xE5, 0x39, 0x35) in colors("side=before&size=64")
    after = colors(f"fingerprint={asset['fingerprint']}&size=64")
    assert (0xD2, 0x45, 0x2D) in after
    assert (0xE5, 0x39, 0x35) not in after
    spot = colors("spot=%23e53935&size=64")
    assert (0xD2, 0x45, 0x2D) in spot
    assert all(max(c) - min(c) <= 1 or c == (0xD2, 0x45, 0x2D) or sum(c) > 0 for c in spot)
    assert "immutable" in client.get(f"{path}?fingerprint={asset['fingerprint']}&size=64").headers["cache-control"]
    assert client.get(f"{path}?fingerprint=stale&size=64").headers["cache-control"] == "no-store"
    assert client.get(f"{path}?spot=nonsense").status_code == 422


def test_masks_say_where_each_paint_stands(client: TestClient, kit: Json) -> None:
    colors = ["#e53935", "#ffffff", "#2f3e9e", "#00000080", "#ffca28"]
    bars = "".join(f'<rect x="{n * 2}" width="2" height="10" fill="{one}"/>' for n, one in enumerate(colors))
    drawn = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10">{bars}</svg>'.encode()
    view = start(client, kit, ("bars.svg", drawn))
    asset = files_of(client, view["id"])[0]
    answer = client.get(f"/api/assets/{asset['id']}/masks.png?size=50")
    assert "immutable" in answer.headers["cache-control"]
    strip = np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGBA"))[..., 3]
    assert strip.shape == (250, 50)
    for place, key in enumerate(sorted(asset["paints"])):
        mask = strip[place * 50 : place * 50 + 50]
        at = next(n for n, color in enumerate(colors) if color[:7] == key[:7])
        assert abs(int(mask[:, at * 10 + 1 : at * 10 + 9].min()) - (128 if "/" in key else 255)) <= 1
        assert np.delete(mask, slice(max(at * 10 - 1, 0), at * 10 + 11), axis=1).max() == 0, key
    # On a backing the drawing stands elsewhere, and so do its masks.
    backing = {"shape": "square", "color": "hull.base", "padding": 25}
    client.put(f"/api/sets/{view['id']}/acts/backing", json={"settings": backing})
    moved = client.get(f"/api/assets/{asset['id']}/masks.png?size=50&of={view['id']}")
    assert np.asarray(Image.open(io.BytesIO(moved.content)).convert("RGBA"))[:12, :, 3].max() == 0
    empty = files_of(client, start(client, kit, ("a.svg", b'<svg xmlns="http://www.w3.org/2000/svg"/>'))["id"])[0]
    assert client.get(f"/api/assets/{empty['id']}/masks.png").status_code == 404


def test_files_leave_as_data_that_can_do_nothing(client: TestClient, kit: Json) -> None:
    hostile = RED.replace(b"<path", b"<script>alert(1)</script><path", 1)
    asset = files_of(client, start(client, kit, ("a.svg", hostile))["id"])[0]
    for side in ("before", "after"):
        response = client.get(f"/api/assets/{asset['id']}/file?side={side}")
        assert "sandbox" in response.headers["content-security-policy"]
        assert response.headers["x-content-type-options"] == "nosniff"
        assert response.headers["content-disposition"].startswith("attachment")
    assert client.get(f"/api/assets/{asset['id']}/file?side=before").content == hostile


def test_the_check_finds_what_is_not_of_the_kit(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", TWO))
    path = f"/api/sets/{view['id']}"
    assert client.get(f"{path}/check").json()["clean"] == 2
    client.post(f"{path}/aim", json={"paints": ["#43a047"], "target": "keep"})
    check = client.get(f"{path}/check").json()
    assert {key: check[key] for key in ("files", "clean", "natural", "wanted", "off")} == {
        "files": 2,
        "clean": 1,
        "natural": 0,
        "wanted": 1,
        "off": 0,
    }
    paint = check["findings"][0]["paints"][0]
    assert (check["findings"][0]["name"], paint["key"], paint["severity"], paint["chosen"]) == (
        "b.svg",
        "#43a047",
        "off",
        True,
    )
    assert client.get(f"/api/kits/{kit['id']}").json()["stages"]["check"] == "1 kept on purpose"
    client.post(f"{path}/aim", json={"paints": paint["sources"], "target": paint["nearest"]})
    assert client.get(f"{path}/check").json()["clean"] == 2


def test_the_package_holds_everything_and_repeats_itself(client: TestClient, kit: Json) -> None:
    files = dict(list(icon_files().items())[:6])
    view = start(client, kit, *files.items())
    client.post(f"/api/sets/{view['id']}/aim", json={"paints": ["#ffca28"], "target": "lamp.base"})
    first = client.get(f"/api/sets/{view['id']}/package.zip").content
    assert client.get(f"/api/sets/{view['id']}/package.zip").content == first
    listed = client.get(f"/api/sets/{view['id']}/package").json()
    with zipfile.ZipFile(io.BytesIO(first)) as packed:
        inside = {info.filename: packed.read(info) for info in packed.infolist()}
    names = [file["name"] for file in files_of(client, view["id"], only="handed")]
    assert [entry["path"] for entry in listed["entries"]] + names == list(inside)
    assert listed["files"] == len(names)
    assert set(inside) == {*files, "kit.css", "kit.tokens.json", "plan.json"}
    again = read_kit_tokens(inside["kit.tokens.json"].decode())
    resolved = read_plan_file(inside["plan.json"].decode()).resolve(again)
    own = {color for _, color in again.tokens()}
    for name, original in files.items():
        assert inside[name] == read_svg(name, original).write(resolved)
        assert {paint.rgb for paint in read_svg(name, inside[name]).inventory().paints} <= own
    assert json.loads(inside["plan.json"])["paints"]["#ffca28"]["by"] == "you"
    assert client.get(f"/api/kits/{kit['id']}/editions/0/hand-over/tokens").content == inside["kit.tokens.json"]
    assert client.get(f"/api/kits/{kit['id']}/editions/0/hand-over/css").content == inside["kit.css"]


def test_files_and_sets_are_taken_out(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", TWO))
    first, second = files_of(client, view["id"])
    left = client.delete(f"/api/assets/{second['id']}").json()
    assert [asset["name"] for asset in files_of(client, left["id"])] == ["a.svg"]
    assert list(targets(left)) == ["#e53935"]
    assert client.patch(f"/api/sets/{view['id']}", json={"name": "Signs"}).json()["name"] == "Signs"
    assert client.delete(f"/api/sets/{view['id']}").status_code == 204
    assert client.get(f"/api/sets/{view['id']}").status_code == 404
    assert client.get(f"/api/assets/{first['id']}/picture.png").status_code == 404


def test_paints_with_alpha_keep_it(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED.replace(b"#e53935", b"#e5393580")))
    paint = view["paints"][0]
    assert parse_key(paint["key"]) == Rgba(0xE5, 0x39, 0x35, 0.502)
    assert paint["target_css"] == "#d2452d80"


def test_is_it_ours(client: TestClient, kit: Json) -> None:
    def ask(text: str) -> list[tuple[str, str, str]]:
        answers = client.post(f"/api/kits/{kit['id']}/ours", json={"text": text}).json()["answers"]
        return [(answer["verdict"], answer["name"], answer["nearest"]) for answer in answers]

    assert ask("#0b5e6b") == [("ours", "Deep water base", "#0b5e6b")]
    assert ask(" #0C6270 ") == [("near", "Deep water base", "#0b5e6b")]
    assert ask("magenta")[0][0] == "off"
    assert ask("old blue #2f3e9e, fog eef0ec") == [
        ("off", ask("#2f3e9e")[0][1], ask("#2f3e9e")[0][2]),
        ask("#eef0ec")[0],
    ]
    assert ask("nothing") == []
    empty = client.post("/api/kits", json={"name": "Empty"}).json()
    answer = client.post(f"/api/kits/{empty['id']}/ours", json={"text": "#fff"}).json()["answers"][0]
    assert (answer["verdict"], answer["nearest"]) == ("off", "")


def test_neighbors_of_a_color_and_remarks_on_the_kit(client: TestClient, kit: Json) -> None:
    rows = client.get("/api/variations", params={"code": "#5a6fa8"}).json()
    assert [row["direction"] for row in rows] == ["darker to lighter", "softer to stronger", "cooler to warmer"]
    assert all(row["colors"][row["base"]] == "#5a6fa8" for row in rows)
    assert kit["remarks"] == []
    twin = {"name": "Twin", "role": "primary", "code": rows[0]["colors"][rows[0]["base"] + 1]}
    changed = client.post(f"/api/kits/{kit['id']}/colors", json={"colors": [twin]}).json()
    assert [remark["colors"] for remark in changed["remarks"]] == [["twin", "slipway"], ["deep-water", "twin"]]


def test_archives_folders_and_names_that_collide(client: TestClient, kit: Json) -> None:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as packed:
        packed.writestr("deck/a.svg", RED)
        packed.writestr("deck/../b.svg", RED)
    made = start(client, kit)
    refused = drop(client, made["id"], ("signs.zip", target.getvalue()), ("a.svg", RED))
    assert [entry["name"] for entry in refused["refused"]] == ["signs.zip"]
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as packed:
        packed.writestr("deck/a.svg", RED)
        packed.writestr("quay/a.svg", TWO)
        packed.writestr("quay/c.svgz", gzip.compress(TWO))
    view = drop(client, made["id"], ("signs.zip", target.getvalue()), ("A.svg", TWO))["set"]
    assert [asset["name"] for asset in files_of(client, view["id"])] == [
        "a.svg",
        "deck/a.svg",
        "quay/a.svg",
        "quay/c.svgz",
        "A-2.svg",
    ]
    with zipfile.ZipFile(io.BytesIO(client.get(f"/api/sets/{made['id']}/package.zip").content)) as packed:
        assert {"deck/a.svg", "quay/a.svg", "quay/c.svgz", "a.svg", "A-2.svg"} <= set(packed.namelist())
        assert b"#d2452d" in gzip.decompress(packed.read("quay/c.svgz"))
    squeezed = next(asset for asset in files_of(client, view["id"]) if asset["name"].endswith("svgz"))
    saved = client.get(f"/api/assets/{squeezed['id']}/file")
    assert "c.svgz" in saved.headers["content-disposition"]
    assert b"#d2452d" in gzip.decompress(saved.content)
    assert client.get(f"/api/assets/{squeezed['id']}/picture.png?size=32").content.startswith(b"\x89PNG")


def test_a_file_that_cannot_be_drawn_can_still_be_recolored(client: TestClient, kit: Json) -> None:
    flat = b'<svg xmlns="http://www.w3.org/2000/svg" width="0" height="0"><path fill="#e53935" d="M0 0h9v9z"/></svg>'
    view = start(client, kit, ("flat.svg", flat))
    asset = files_of(client, view["id"])[0]
    answer = client.get(f"/api/assets/{asset['id']}/picture.png")
    assert answer.status_code in (200, 422)
    assert b"#d2452d" in client.get(f"/api/assets/{asset['id']}/file").content


def test_a_large_set_is_read_in_as_many_statements_as_a_small_one(client: TestClient, kit: Json) -> None:
    files = list(icon_files().items())
    counts = []
    for some in (files[:2], files):
        view = start(client, kit, *some)
        facts._known.clear()
        with told(client) as statements:
            assert client.get(f"/api/sets/{view['id']}").json()["paints"] == view["paints"]
        counts.append(len(statements))
    assert counts[0] == counts[1] < 15


def test_many_kits_are_listed_in_as_many_statements_as_few(client: TestClient, kit: Json) -> None:
    start(client, kit, ("red.svg", RED), ("two.svg", TWO))
    before = client.get("/api/kits").json()
    with told(client) as few:
        assert client.get("/api/kits").json() == before
    for name in ("Copy one", "Copy two", "Copy three"):
        client.post(f"/api/kits/{kit['id']}/copy", json={"name": name}).raise_for_status()
    with told(client) as many:
        now = client.get("/api/kits").json()
    assert now[: len(before)] == before
    assert [one["name"] for one in now[len(before) :]] == ["Copy one", "Copy two", "Copy three"]
    own = next(one for one in now if one["id"] == kit["id"])
    assert (own["sets"], own["files"], own["edition"], own["who"]) == (["Icons"], 2, None, now[-1]["who"])
    assert len(few) <= len(many) <= len(few) + 1 < 15, "but for the drafts that nobody has read yet"


@contextmanager
def told(client: TestClient) -> Iterator[list[str]]:
    """The statements that the database is told meanwhile."""
    engine = client.app.state.sessions.kw["bind"]  # type: ignore[attr-defined]
    statements: list[str] = []

    def tell(_connection: object, _cursor: object, statement: str, *_: object) -> None:
        statements.append(statement)

    event.listen(engine, "before_cursor_execute", tell)
    try:
        yield statements
    finally:
        event.remove(engine, "before_cursor_execute", tell)


def test_the_files_of_a_set_are_listed_by_the_page(client: TestClient, kit: Json) -> None:
    names = ["a10.svg", "A2.svg", "plain.svg", "dashes.svg"]
    line = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="none" stroke="#e53935" d="M0 0h9"/></svg>'
    view = start(client, kit, *zip(names, (RED, TWO, TWO, line), strict=True))
    path = f"/api/sets/{view['id']}"
    assert (view["files"], view["handed"]) == (4, 4)
    client.post(f"{path}/file-states", json={"which": {"only": "stroke"}, "kept": True})
    now = client.post(f"{path}/file-states", json={"which": {"text": "LAIN"}, "left_out": True}).json()
    assert (now["files"], now["handed"]) == (4, 3)
    wanted: list[tuple[Json, list[str]]] = [
        ({}, names),
        ({"order": "name"}, ["A2.svg", "a10.svg", "dashes.svg", "plain.svg"]),
        ({"order": "paints"}, ["A2.svg", "plain.svg", "a10.svg", "dashes.svg"]),
        ({"only": "several"}, ["A2.svg", "plain.svg"]),
        ({"only": "one", "order": "name"}, ["a10.svg", "dashes.svg"]),
        ({"only": "stroke"}, ["dashes.svg"]),
        ({"only": "own"}, ["dashes.svg"]),
        ({"only": "out"}, ["plain.svg"]),
        ({"only": "handed", "text": "a"}, ["a10.svg", "A2.svg", "dashes.svg"]),
        ({"only": "moving"}, []),
    ]
    for listing, expected in wanted:
        assert [file["name"] for file in files_of(client, view["id"], **listing)] == expected, listing
    some = client.get(f"{path}/files", params={"start": 1, "count": 2}).json()
    assert (some["total"], some["start"], [file["name"] for file in some["files"]]) == (4, 1, names[1:3])
    assert client.get(f"{path}/files", params={"only": "best"}).status_code == 422
    assert client.get(f"{path}/files", params={"count": 10_000}).status_code == 422
    assert client.post(f"{path}/file-states", json={"which": {"only": "moving"}, "kept": True}).status_code == 422
    assert client.post(f"{path}/file-states", json={"kept": True}).status_code == 422


def test_a_file_knows_those_beside_it_in_what_is_listed(client: TestClient, kit: Json) -> None:
    view = start(client, kit, *[(f"{name}.svg", TWO if name in "bd" else RED) for name in "abcd"])
    ids = {file["name"][0]: file["id"] for file in files_of(client, view["id"])}

    def around(name: str, **listing: str) -> str:
        found = client.get(f"/api/sets/{view['id']}/files/{ids[name]}", params=listing).json()
        return "".join(found[place]["name"][0] for place in ("before", "file", "behind"))

    assert [around(name) for name in "abcd"] == ["dab", "abc", "bcd", "cda"]
    assert around("b", only="several") == "dbd"
    assert around("a", order="paints") == "dac"
    # One that has just left what is listed has its neighbors still.
    assert around("c", only="several") == "bcd"
    assert around("c", text="c.svg") == "ccc"
    other = start(client, kit, ("e.svg", RED))
    assert client.get(f"/api/sets/{other['id']}/files/{ids['a']}").status_code == 404
    assert client.get(f"/api/sets/{other['id']}/files/{ids['a']}/at", params={"x": 0, "y": 0}).status_code == 404


def test_the_key_of_files_changes_with_them(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", TWO))
    grown = drop(client, view["id"], ("d.svg", TWO))["set"]
    assert grown["files_key"] != view["files_key"]
    added = files_of(client, view["id"])[2]["id"]
    assert client.delete(f"/api/assets/{added}").json()["files_key"] == view["files_key"]


def test_pictures_are_kept_behind_the_answers_and_given_again_by_another_process(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED))
    [file] = files_of(client, view["id"])
    url, query = f"/api/assets/{file['id']}/picture.png", {"fingerprint": file["fingerprint"], "of": view["id"]}
    state = client.app.state  # type: ignore[attr-defined]
    first = client.get(url, params={**query, "size": 77})
    state.pictures.keep(state.readings)
    with state.readings() as session:
        assert first.content in session.scalars(select(Picture.png)).all()
    at_hand, state.pictures = state.pictures, PicturesAtHand()
    try:
        assert client.get(url, params={**query, "size": 77}).content == first.content
        state.pictures.keep(state.readings)
    finally:
        state.pictures = at_hand


def test_what_is_remembered_of_a_plan_is_not_that_of_a_change_that_came_between(
    client: TestClient, kit: Json, monkeypatch: pytest.MonkeyPatch
) -> None:
    view = start(client, kit, ("a.svg", RED))
    path, [file] = f"/api/sets/{view['id']}", files_of(client, view["id"])
    get = sets.get

    def changed_meanwhile(session: Session, set_id: uuid.UUID) -> SetRow:
        monkeypatch.setattr(sets, "get", get)
        client.post(f"{path}/aim", json={"paints": ["#e53935"], "target": "kelp.base"})
        return get(session, set_id)

    def becomes() -> Changes:
        with client.app.state.readings() as session:  # type: ignore[attr-defined]
            return sets.with_changes(session, uuid.UUID(file["id"]))[1]

    before = becomes()
    sets._CHANGES.clear()
    monkeypatch.setattr(sets, "get", changed_meanwhile)
    assert becomes() != before
    client.post(f"{path}/undo")
    assert becomes() == before


def test_a_picture_that_is_there_is_given_by_its_fingerprint_alone(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED))
    asset = files_of(client, view["id"])[0]
    url = f"/api/assets/{asset['id']}/picture.png"
    first = client.get(url, params={"fingerprint": asset["fingerprint"], "of": view["id"]})
    again = client.get(url, params={"fingerprint": asset["fingerprint"], "of": view["id"]})
    assert first.content == again.content
    assert "immutable" in again.headers["cache-control"]
    changed = client.post(f"/api/sets/{view['id']}/aim", json={"paints": ["#e53935"], "target": "kelp.base"}).json()
    new = client.get(url, params={"fingerprint": files_of(client, changed["id"])[0]["fingerprint"], "of": view["id"]})
    assert new.content != first.content
    # An address that is kept for good keeps what it showed.
    assert client.get(url, params={"fingerprint": asset["fingerprint"], "of": view["id"]}).content == first.content
