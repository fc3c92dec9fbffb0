"""Plans over HTTP: settings, alternatives, exceptions, parts, keeps, backings and variants."""

from __future__ import annotations

import io
import json
import zipfile

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb
from pavese.core.formats import read
from pavese.core.formats.archive import package
from pavese.demo.animations import animation_files
from pavese.demo.icons import icon_files
from tests.api.test_sets import RED, TWO, Json, drop, kit, start, targets
from tests.conftest import files_of

__all__ = ["kit"]

STROKED = RED.replace(b"/></svg>", b' stroke="#e53935"/><g class="sail"><path fill="#e53935" d="M1 1h3v3z"/></g></svg>')


def picture(client: TestClient, view: Json, at: int = 0, **query: object) -> Image.Image:
    asset = files_of(client, view["id"])[at]
    answer = client.get(f"/api/assets/{asset['id']}/picture.png", params={"of": view["id"], "size": 48, **query})
    assert answer.status_code == 200, answer.text
    return Image.open(io.BytesIO(answer.content)).convert("RGBA")


def packaged(client: TestClient, view: Json) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(client.get(f"/api/sets/{view['id']}/package.zip").content)) as packed:
        return {name: packed.read(name) for name in packed.namelist()}


def test_a_set_is_measured_when_it_is_dropped(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("two.svg", TWO))
    areas = {paint["key"]: paint["area"] for paint in view["paints"]}
    assert all(areas.values())
    assert view["figures"] == {"kit": 100, "order": 100, "contrast": 100, "distinct": 100, "remarks": []}
    assert files_of(client, view["id"])[0]["traits"]["paints"] == 2


def test_modes_and_policies_are_settings_that_can_be_undone(client: TestClient, kit: Json) -> None:
    view = start(client, kit, *list(icon_files().items())[:6])
    path = f"/api/sets/{view['id']}"
    chosen = client.post(f"{path}/aim", json={"paints": ["#ffca28"], "target": "kelp.base"}).json()
    grey = client.put(f"{path}/recipe", json={"mode": "greyscale", "color": "deep-water", "tint": 0.2}).json()
    assert grey["recipe"]["mode"] == "greyscale"
    assert grey["history"]["undo"] == "Plan: greyscale"
    assert targets(grey)["#ffca28"] == "kelp.base", "what was chosen by hand stays"
    others = [paint for paint in grey["paints"] if paint["key"] != "#ffca28"]
    assert all(paint["derived"] and paint["target"].startswith("deep-water~") for paint in others)
    back = client.post(f"{path}/undo").json()
    assert targets(back) == targets(chosen)
    two = client.put(f"{path}/recipe", json={"mode": "two-tone", "dark": "hull.base", "light": "lamp.100"}).json()
    assert all("hull.base+lamp.100~" in paint["target"] for paint in two["paints"] if paint["by"] == "plan")
    assert client.put(f"{path}/recipe", json={"color": "gone"}).status_code == 422
    assert client.put(f"{path}/recipe", json={"dark": "gone.base"}).status_code == 422
    assert client.put(f"{path}/recipe", json={"low": 0.9, "high": 0.2}).status_code == 422


def test_alternatives_are_shown_on_the_set_and_taken(client: TestClient, kit: Json) -> None:
    view = start(client, kit, *list(icon_files().items())[:8])
    path = f"/api/sets/{view['id']}"
    listed = client.get(f"{path}/alternatives").json()["alternatives"]
    assert len(listed) >= 3
    assert len({json.dumps(one["fingerprints"], sort_keys=True) for one in listed}) == len(listed)
    second = listed[1]
    shown = picture(client, view, alternative=1, fingerprint=second["fingerprints"][0])
    taken = client.post(f"{path}/alternatives/1").json()
    assert picture(client, taken).tobytes() == shown.tobytes()
    assert [file["fingerprint"] for file in files_of(client, taken["id"])] == second["fingerprints"]
    # It was chosen, so files that come later do not change it.
    later = drop(client, view["id"], ("red.svg", RED))["set"]
    assert targets(taken).items() <= targets(later).items()
    assert client.post(f"{path}/alternatives/11").status_code == 422


def test_a_file_has_its_own_colors_and_follows_again(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", RED))
    path = f"/api/sets/{view['id']}"
    own = client.post(f"{path}/aim", json={"paints": ["#e53935"], "color": "kelp", "file": "a.svg"}).json()
    assert [asset["exceptions"] for asset in files_of(client, own["id"])] == [1, 0]
    assert targets(own) == targets(view)
    client.post(f"{path}/plan")
    inside = packaged(client, own)
    assert inside["a.svg"] != inside["b.svg"]
    file = client.get(f"{path}/files/{files_of(client, own['id'], only='own')[0]['id']}").json()
    assert [paint["exception"] for paint in file["paints"]] == [True]
    again = client.post(f"{path}/join", json={"key": "#e53935", "file": "a.svg"}).json()
    assert packaged(client, again)["a.svg"] == inside["b.svg"]
    assert (
        client.post(f"{path}/aim", json={"paints": ["#e53935"], "target": "keep", "file": "c.svg"}).status_code == 422
    )


def test_parts_of_a_paint_are_split_and_joined(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", STROKED))
    path = f"/api/sets/{view['id']}"
    assert view["paints"][0]["selectors"] == [".sail"]
    client.post(f"{path}/split", json={"paint": "#e53935", "part": "stroke"})
    client.post(f"{path}/split", json={"paint": "#e53935", "part": ".sail"})
    aimed = client.post(f"{path}/aim", json={"paints": ["#e53935@stroke"], "target": "hull.base"}).json()
    aimed = client.post(f"{path}/aim", json={"paints": ["#e53935@.sail"], "target": "keep"}).json()
    assert [paint["part"] for paint in aimed["paints"]] == [None, ".sail", "stroke"]
    written = packaged(client, aimed)["a.svg"].decode()
    assert 'stroke="#16252b"' in written
    assert '<g class="sail"><path fill="#e53935"' in written
    check = client.get(f"{path}/check").json()
    assert check["clean"] == 0
    assert check["findings"][0]["paints"][0]["sources"] == ["#e53935"]
    joined = client.post(f"{path}/join", json={"key": "#e53935@.sail"}).json()
    assert [paint["part"] for paint in joined["paints"]] == [None, "stroke"]
    kept = client.post(f"{path}/kept-selectors", json={"selector": ".sail", "kept": True}).json()
    assert kept["kept_selectors"] == [".sail"]
    assert '<g class="sail"><path fill="#e53935"' in packaged(client, kept)["a.svg"].decode()
    assert client.post(f"{path}/kept-selectors", json={"selector": "sail", "kept": True}).status_code == 422


def test_files_are_left_out_and_kept_as_they_came(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", RED), ("c.svg", RED))
    path = f"/api/sets/{view['id']}"
    client.post(f"{path}/file-states", json={"names": ["a.svg"], "left_out": True})
    now = client.post(f"{path}/file-states", json={"names": ["b.svg"], "kept": True}).json()
    inside = packaged(client, now)
    assert "a.svg" not in inside
    assert inside["b.svg"] == RED
    assert inside["c.svg"] != RED
    assert client.get(f"{path}/package").json()["files"] == 2
    assert client.get(f"{path}/check").json()["files"] == 2
    undone = client.post(f"{path}/undo").json()
    assert [asset["kept"] for asset in files_of(client, undone["id"])] == [False, False, False]
    reset = client.post(f"{path}/file-states", json={"names": ["a.svg"], "left_out": False, "reset": True}).json()
    assert not any(asset["left_out"] for asset in files_of(client, reset["id"]))
    assert client.post(f"{path}/file-states", json={"names": ["gone.svg"], "kept": True}).status_code == 422


@pytest.mark.parametrize("shape", ["circle", "rounded square", "square", "flag"])
def test_a_backing_is_drawn_and_written_and_the_figure_stands_out(client: TestClient, kit: Json, shape: str) -> None:
    ink = RED.replace(b"<svg ", b'<svg viewBox="0 0 9 9" ').replace(b"#e53935", b"#1b2958")
    view = start(client, kit, ("a.svg", ink), ("b.svg", ink))
    path = f"/api/sets/{view['id']}"
    backing = {"shape": shape, "color": "deep-water.base", "padding": 20}
    backed = client.put(f"{path}/acts/backing", json={"settings": backing}).json()
    assert picture(client, backed).getpixel((24, 44)) == (0x0B, 0x5E, 0x6B, 255)
    written = packaged(client, backed)["a.svg"]
    assert set(read("a.svg", written).inventory().paints) >= {(0x0B, 0x5E, 0x6B, 1.0)}
    figure = parse_color(backed["paints"][0]["target_hex"]).rgb
    assert contrast_ratio(figure, Rgb(0x0B, 0x5E, 0x6B)) >= 3
    on_itself = files_of(client, view["id"], ground="#0b5e6b")
    stand = [one["contrast"]["stands"] for one in on_itself]
    assert stand == [True, True], "figures stand before their backing, not the ground"
    assert client.get(f"{path}/weak", params={"ground": "#0b5e6b"}).json() == {"weak": 0}
    small = client.put(f"{path}/acts/backing", json={"settings": {**backing, "size": 60}, "names": ["a.svg"]}).json()
    assert picture(client, small).getpixel((24, 44))[3] == 0
    assert picture(client, small).getpixel((24, 36)) == (0x0B, 0x5E, 0x6B, 255)
    bare = client.put(f"{path}/acts/backing", json={"settings": None, "names": ["b.svg"]}).json()
    assert [asset["acts"]["backing"] is None for asset in files_of(client, bare["id"])] == [False, True]
    assert picture(client, bare, 1).getpixel((24, 44))[3] == 0 or shape == "square"
    for wrong in ({"color": "gone.base"}, {}, {"color": "fog.base", "padding": 900}, {"color": "fog.base", "bows": 1}):
        assert client.put(f"{path}/acts/backing", json={"settings": wrong}).status_code == 422
    assert client.put(f"{path}/acts/bunting", json={"settings": {}}).status_code == 422


def test_a_rule_holds_for_what_comes_later_until_it_is_let_go(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", TWO))
    path = f"/api/sets/{view['id']}"
    before = {paint["key"]: paint["target"] for paint in view["paints"]}
    ruled = client.put(f"{path}/rules/fill", json={"target": "fog.base"}).json()
    assert ruled["rules"] == {"fill": "fog.base"}
    assert ruled["history"]["undo"] == "Every fill to Fog base"
    drop(client, view["id"], ("b.svg", RED))
    now = client.get(path).json()
    fills = [paint for paint in now["paints"] if paint["kinds"] == ["fill"]]
    assert fills
    assert {(paint["target"], paint["by"]) for paint in fills} == {("fog.base", "rule")}
    key = fills[0]["key"]
    chosen = client.post(f"{path}/aim", json={"paints": [key], "target": "hull.base"}).json()
    assert [paint["target"] for paint in chosen["paints"] if paint["key"] == key] == ["hull.base"]
    for wrong in ("gone.base", "#12", ""):
        assert client.put(f"{path}/rules/fill", json={"target": wrong}).status_code == 422
    assert client.put(f"{path}/rules/rigging", json={"target": "fog.base"}).status_code == 422
    for _ in range(2):
        back = client.post(f"{path}/undo").json()
    assert back["rules"] == {}
    assert {paint["key"]: paint["target"] for paint in back["paints"] if paint["key"] in before} == before


def test_a_backing_in_a_color_that_is_gone_goes_with_it(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED))
    path = f"/api/sets/{view['id']}"
    client.put(f"{path}/acts/backing", json={"settings": {"color": "fog.base"}})
    client.put(f"{path}/acts/backing", json={"settings": {"color": "kelp.base"}, "names": ["a.svg"]})
    for key in ("fog", "kelp"):
        assert client.delete(f"/api/kits/{kit['id']}/colors/{key}").status_code == 200
    now = client.get(path).json()
    assert now["acts"] == {}
    assert files_of(client, view["id"])[0]["acts"] == {"backing": None}
    assert picture(client, now).size == (48, 48)


def test_variants_keep_the_original_and_share_its_files(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", TWO))
    path = f"/api/sets/{view['id']}"
    other = client.post(
        "/api/kits", json={"name": "Harbor", "colors": [{"name": "Rust", "role": "primary", "code": "#a04020"}]}
    ).json()
    made = client.post(f"{path}/variants", json={"name": "In rust", "kit_id": other["id"]})
    assert made.status_code == 201
    variant = made.json()
    assert variant["original"] == view["id"]
    assert [one["name"] for one in variant["variants"]] == ["Icons", "In rust"]
    assert all(target.startswith("rust.") for target in targets(variant).values())
    assert targets(client.get(path).json()) == targets(view)
    assert picture(client, variant).tobytes() != picture(client, view).tobytes()
    more = drop(client, variant["id"], ("b.svg", RED))["set"]
    assert [asset["name"] for asset in files_of(client, more["id"])] == ["a.svg", "b.svg"]
    assert [asset["name"] for asset in files_of(client, view["id"])] == ["a.svg", "b.svg"]
    changed = client.put(f"/api/sets/{variant['id']}/recipe", json={"mode": "single color"}).json()
    assert client.get(path).json()["recipe"]["mode"] == "kit"
    assert client.delete(f"/api/sets/{changed['id']}").status_code == 204
    assert len(client.get(path).json()["variants"]) == 1
    client.post(f"{path}/variants", json={"name": "Again"})
    assert client.delete(path).status_code == 204


def test_a_variant_can_be_bound_to_an_edition(client: TestClient, kit: Json) -> None:
    pair = {"text": "hull.base", "ground": "fog.base"}
    client.post(f"/api/kits/{kit['id']}/decisions", json={"pairs": [pair], "status": "approved"}).raise_for_status()
    client.post(f"/api/kits/{kit['id']}/editions", json={}).raise_for_status()
    view = start(client, kit, ("a.svg", RED))
    bound = client.post(f"/api/sets/{view['id']}/variants", json={"name": "As published", "edition": 1}).json()
    before = picture(client, bound).tobytes()
    client.patch(f"/api/kits/{kit['id']}/colors/buoy", json={"code": "#7a1fa2"}).raise_for_status()
    assert picture(client, bound).tobytes() == before
    assert picture(client, client.get(f"/api/sets/{view['id']}").json()).tobytes() != before
    assert client.get(f"/api/sets/{bound['id']}").json()["edition"] == 1
    assert client.post(f"/api/sets/{view['id']}/variants", json={"name": "x", "edition": 9}).status_code == 404


def test_animations_are_taken_drawn_played_and_packed(client: TestClient, kit: Json) -> None:
    view = start(client, kit, *animation_files().items(), ("a.svg", RED))
    assert ["animated" in asset["can"] for asset in files_of(client, view["id"])] == [True] * 4 + [False]
    moving = files_of(client, view["id"])[0]["id"]
    before = client.get(f"/api/assets/{moving}/motion.json?side=before")
    after = client.get(f"/api/assets/{moving}/motion.json?of={view['id']}")
    assert before.content == animation_files()["ferry-on-waves.json"]
    assert after.json()["layers"] != before.json()["layers"]
    assert len(picture(client, view).getcolors(99999) or []) > 3
    inside = packaged(client, view)
    assert inside["ferry-on-waves.json"] == after.content
    with zipfile.ZipFile(io.BytesIO(inside["all-aboard.lottie"])) as packed:
        assert packed.namelist() == ["manifest.json", "a/all-aboard.json"]
    assert client.get(f"/api/assets/{files_of(client, view['id'])[4]['id']}/motion.json").status_code == 404


def test_a_set_is_tried_in_another_kit_and_nothing_is_kept(client: TestClient, kit: Json) -> None:
    plum = [{"name": name, "role": role, "code": code} for name, role, code in (
        ("Plum", "primary", "#6b2a5b"), ("Chalk", "background", "#f4f1ec"), ("Coal", "text dark", "#1d1a1c")
    )]  # fmt: skip
    other = client.post("/api/kits", json={"name": "Plum kit", "colors": plum}).json()
    view = start(client, kit, ("a.svg", TWO))
    before = client.get(f"/api/sets/{view['id']}").json()
    trial = client.get(f"/api/sets/{view['id']}/trial", params={"kit": other["id"]}).json()
    assert trial["kit"] == "Plum kit"
    asset = files_of(client, view["id"])[0]
    seen = files_of(client, view["id"], kit=other["id"])[0]
    assert seen["fingerprint"] != asset["fingerprint"]
    shown = {color[:3] for _, color in picture(client, view, kit=other["id"]).getcolors(9_999) or () if color[3] == 255}
    ramps = {step["hex"] for color in other["colors"] for step in color["steps"]} | {one["code"] for one in plum}
    assert {Rgb(*color).hex for color in shown} & ramps
    assert client.get(f"/api/sets/{view['id']}").json() == before
    # What is kept as a variant looks as it was tried.
    made = client.post(f"/api/sets/{view['id']}/variants", json={"name": "In plum", "kit_id": other["id"]}).json()
    assert files_of(client, made["id"])[0]["fingerprint"] == seen["fingerprint"]
    gone = client.get(f"/api/sets/{view['id']}/trial", params={"kit": other["id"], "edition": 3})
    assert gone.status_code == 404


def test_a_file_of_several_drawings_shows_each(client: TestClient, kit: Json) -> None:
    square = '<symbol id="{}" viewBox="0 0 4 4"><path fill="{}" d="M0 0h4v4H0z"/></symbol>'
    symbols = square.format("red", "#e53935") + square.format("blue", "#2f3e9e")
    sprite = f'<svg xmlns="http://www.w3.org/2000/svg">{symbols}</svg>'.encode()
    lottie = {f"a/{name}": data for name, data in animation_files().items() if name.endswith(".json")}
    several = package([("manifest.json", b"{}"), *lottie.items()])
    view = start(client, kit, ("sprite.svg", sprite), ("several.lottie", several), ("plain.svg", RED))
    files = files_of(client, view["id"])
    pages = [client.get(f"/api/sets/{view['id']}/files/{one['id']}").json()["pages"] for one in files]
    names = sorted(name.removesuffix(".json") for name in animation_files() if name.endswith(".json"))
    assert [page["title"] for page in pages[0]] == ["red", "blue"]
    assert [page["paints"] for page in pages[0]] == [["#e53935"], ["#2f3e9e"]]
    assert sorted(page["title"] for page in pages[1]) == names
    assert pages[2] == []
    targets = {paint["key"]: paint["target_hex"] for paint in view["paints"]}
    for at, key in enumerate(("#e53935", "#2f3e9e")):
        shown = picture(client, view, 0, page=at)
        assert (Rgb(*shown.getpixel((24, 24))[:3]).hex, shown.size) == (targets[key], (48, 48))
    looks = {picture(client, view, 1, page=at).tobytes() for at in range(len(names))}
    assert len(looks) == len(names)


def test_a_spot_tells_its_paint(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", TWO.replace(b"<svg ", b'<svg viewBox="0 0 9 9" ')))
    path = f"/api/sets/{view['id']}/files/{files_of(client, view['id'])[0]['id']}/at"
    assert client.get(path, params={"x": 0.9, "y": 0.5}).json()["paint"]["key"] == "#e53935"
    assert client.get(path, params={"x": 0.05, "y": 0.95}).json()["paint"] is None
    assert client.get(path, params={"x": 2, "y": 0}).status_code == 422


def test_a_plan_is_saved_and_used_on_several_sets(client: TestClient, kit: Json) -> None:
    first = start(client, kit, ("a.svg", TWO))
    path = f"/api/sets/{first['id']}"
    client.post(f"{path}/aim", json={"paints": ["#e53935"], "target": "kelp.base"})
    client.put(f"{path}/recipe", json={"policy": "branded"})
    saved = client.post(f"{path}/plans", json={"name": "Doors"}).json()
    assert [(one["name"], one["known"], one["of"]) for one in saved] == [("Doors", 2, 2)]
    others = [
        start(client, kit, ("b.svg", RED)),
        start(client, kit, ("c.svg", STROKED.replace(b"#e53935", b"#2f3e9e"))),
    ]
    assert client.get(f"/api/sets/{others[1]['id']}/plans").json()[0]["known"] == 0
    changed = client.post(f"/api/plans/{saved[0]['id']}/use", json={"sets": [one["id"] for one in others]}).json()
    assert targets(changed[0])["#e53935"] == "kelp.base"
    assert changed[0]["paints"][0]["reason"] == "as in the plan “Doors”"
    assert changed[1]["recipe"]["policy"] == "branded"
    assert client.post(f"/api/sets/{others[0]['id']}/undo").json()["paints"][0]["target"] == "buoy.base"
    # Saved again under its name, it is replaced; forgotten, it is gone, and the sets keep what they have.
    client.post(f"{path}/aim", json={"paints": ["#e53935"], "target": "lamp.base"})
    assert len(client.post(f"{path}/plans", json={"name": "Doors"}).json()) == 1
    assert client.delete(f"/api/plans/{saved[0]['id']}").status_code == 204
    assert client.get(f"{path}/plans").json() == []
    assert client.post(f"/api/plans/{saved[0]['id']}/use", json={"sets": [first["id"]]}).status_code == 404
