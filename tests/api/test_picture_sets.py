"""Sets of pictures: told by what comes, planned with drawings, given tones and grounds, handed over."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pavese.demo.banners import banner_files
from pavese.demo.mail import LOGO, mail_files, mail_logo
from pavese.render.draw import load_fonts
from pavese.settings import Settings, settings
from tests.api.test_exports import made
from tests.api.test_sets import drop, files_of, kit, start
from tests.core.test_again import with_sign
from tests.formats.rasters import fields, saved

Json = Any
FORMS = ["as it came", "PNG", "JPEG", "WebP", "AVIF", "PDF", "contact sheet"]
FILES = ("wall.jpg", "now.gif")
__all__ = ["kit"]
RED = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#e53935" d="M0 0h9v9z"/></svg>'


@pytest.fixture(scope="module")
def banners() -> dict[str, bytes]:
    load_fonts(str(settings().fonts_dir))
    return banner_files()


def zipped(files: dict[str, bytes]) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w") as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return target.getvalue()


def test_an_empty_set_becomes_one_for_pictures_and_drawings_keep_theirs(client: TestClient, kit: Json) -> None:
    flat = saved(fields([(47, 62, 158), (255, 255, 255)]), "PNG")  # type: ignore[list-item]
    pictures = start(client, kit, ("a.png", flat), ("b.svg", RED), ("c.png", flat))
    assert (pictures["channel"], pictures["files"]) == ("images", 3)
    icons = start(client, kit, ("a.svg", RED), ("a.png", flat), ("b.svg", RED))
    assert (icons["channel"], icons["files"]) == ("icons", 2)
    [refused] = drop(client, icons["id"], ("late.png", b"not even a picture"))["refused"]
    assert "channel images" in refused["reason"], "it is not opened"


def test_pictures_that_belong_to_a_mail_are_none_of_the_set(client: TestClient, kit: Json) -> None:
    package = zipped({"departures.html": mail_files()["departures.html"], LOGO: mail_logo(), "spare.png": mail_logo()})
    mails = start(client, kit, ("mails.zip", package))
    assert (mails["channel"], mails["files"]) == ("email", 1)
    file = files_of(client, mails["id"])[0]
    assert client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()["beside"] == [LOGO]


def test_pictures_are_planned_toned_and_handed_over(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json, banners: dict[str, bytes]
) -> None:
    row = start(client, kit, *banners.items())
    assert row["channel"] == "images"
    by_name = {file["name"]: file for file in files_of(client, row["id"])}
    assert by_name["harbor-wall.jpg"]["remarks"] == ["It is a photograph: nothing in it is flat."]
    wall = by_name["harbor-wall.jpg"]["id"]
    tones = {"tones": "two tones", "dark": f"{kit['colors'][0]['key']}.900", "light": f"{kit['colors'][0]['key']}.50"}
    asked = {"settings": tones, "names": ["harbor-wall.jpg"]}
    answer = client.put(f"/api/sets/{row['id']}/acts/photograph", json=asked)
    assert answer.status_code == 200, answer.text
    changed = client.get(f"/api/assets/{wall}/file", params={"of": row["id"]}).content
    with Image.open(io.BytesIO(banners["harbor-wall.jpg"])) as before, Image.open(io.BytesIO(changed)) as after:
        assert after.size == before.size
        spread = [np.asarray(one.convert("HSV"))[..., 0].std() for one in (before, after)]
        assert spread[1] < spread[0] / 2, "one hue is left"
    package = made(client, app_settings, database_url, row, forms=FORMS)
    assert banners.keys() <= package.keys()
    assert {"png/harbor-wall-64@1x.png", "pdf/harbor-wall.pdf", "contact-sheet.pdf"} <= package.keys()
    with Image.open(io.BytesIO(package["png/departures-board-64@1x.png"])) as plain:
        sent = np.asarray(plain.convert("RGB")).astype(int)
    for path, most in (("webp-still/{}.webp", 0), ("jpg/{}.jpg", 40), ("avif/{}.avif", 40)):
        with Image.open(io.BytesIO(package[path.format("departures-board-64@1x")])) as coded:
            assert np.abs(np.asarray(coded.convert("RGB")).astype(int) - sent).max() <= most
    assert package["boarding-now.gif"][:6] == b"GIF89a"


def test_things_and_a_headline_are_pointed_at(client: TestClient, kit: Json, banners: dict[str, bytes]) -> None:
    row = start(client, kit, ("wall.jpg", banners["harbor-wall.jpg"]), ("now.gif", banners["boarding-now.gif"]))
    wall, moving = (next(one["id"] for one in files_of(client, row["id"]) if one["name"] == name) for name in FILES)
    at = f"/api/sets/{row['id']}/files/{wall}"
    hull = {"spots": [{"x": 0.68, "y": 0.6}], "hue": 22, "light": 40}
    cover = client.get(f"/api/assets/{wall}/thing.png", params={"thing": json.dumps(hull), "size": 400})
    assert cover.headers["cache-control"].startswith("private, max-age")
    with Image.open(io.BytesIO(cover.content)) as image:
        clear = np.asarray(image)[..., 3] == 0
    assert 0.03 < clear.mean() < 0.12, "the hull is uncovered"
    for wrong, said in (("{", "Thing"), ('{"spots":[]}', "spots"), ('{"spots":[{"x":2,"y":0}]}', "less than or equal")):
        refused = client.get(f"/api/assets/{wall}/thing.png", params={"thing": wrong})
        assert (refused.status_code, said in refused.json()["detail"]) == (422, True)
    color = kit["colors"][0]
    token = f"{color['key']}.base"
    changed = client.put(f"{at}/things", json={"objects": [{**hull, "color": token}]})
    assert changed.json()["history"]["undo"] == "Things: 1 in kit colors, for wall.jpg"
    assert client.get(f"{at}/pointed").json()["things"][0]["hex"] == color["hex"]
    for token_, status in (("gone.base", 422), ("nothing", 422)):
        sent = {"objects": [{**hull, "color": token_}]}
        assert client.put(f"{at}/things", json=sent).status_code == status
    pairs = client.get(f"/api/sets/{row['id']}/grounds-and-inks").json()["pairs"]
    region = {"left": 0.05, "top": 0.05, "width": 0.5, "height": 0.3}
    room = {"region": region, "ink": pairs[0]["ink"], "veil": pairs[0]["ground"], "size": "small, 4.5:1"}
    assert client.put(f"{at}/headline", json={"headline": room}).status_code == 200
    told = client.get(f"{at}/pointed").json()
    assert told["headline"]["spread"] == "fading out"
    assert told["headroom"]["reads"]
    assert 0 <= told["headroom"]["percent"] < 100
    wide = {**room, "region": {**region, "left": 0.8}}
    assert client.put(f"{at}/headline", json={"headline": wide}).status_code == 422
    itself = client.put(f"{at}/headline", json={"headline": {**room, "veil": room["ink"]}})
    assert itself.status_code == 200
    assert client.get(f"{at}/pointed").json()["headroom"]["percent"] is None, "it does not read on itself"
    refused = client.put(f"/api/sets/{row['id']}/files/{moving}/things", json={"objects": []})
    assert "now.gif is not made of pixels that can be pointed at" in refused.json()["detail"]
    client.put(f"{at}/headline", json={"headline": None})
    client.put(f"{at}/things", json={"objects": []})
    assert client.get(f"{at}/pointed").json() == {
        "things": [],
        "parts": [],
        "without_logo": [],
        "headline": None,
        "headroom": None,
    }
    assert client.get(f"/api/assets/{wall}/file", params={"of": row["id"]}).content == banners["harbor-wall.jpg"]


def test_a_part_keeps_its_colors_and_check_says_that_it_is_wanted(client: TestClient, kit: Json) -> None:
    drawn = np.full((120, 200, 3), (70, 140, 40), dtype=np.uint8)
    drawn[40:80, 20:60] = drawn[40:80, 120:160] = (250, 120, 10)
    row = start(client, kit, ("signs.png", saved(Image.fromarray(drawn), "PNG")))
    [file] = files_of(client, row["id"])
    at = f"/api/sets/{row['id']}/files/{file['id']}"
    sign = {"left": 0.05, "top": 0.25, "width": 0.3, "height": 0.5}
    changed = client.put(f"{at}/parts", json={"parts": [{"region": sign}]})
    assert changed.json()["history"]["undo"] == "Parts: 1 their own way, for signs.png"
    [told] = client.get(f"{at}/pointed").json()["parts"]
    assert told == {"region": sign, "way": "what stands in it keeps its colors"}
    with Image.open(
        io.BytesIO(client.get(f"/api/assets/{file['id']}/file", params={"of": row["id"]}).content)
    ) as image:
        made = np.asarray(image.convert("RGB"))
    assert (made[40:80, 20:60] == (250, 120, 10)).all()
    assert not (made[40:80, 120:160] == (250, 120, 10)).all(axis=2).any()
    assert (made[30:38, 15:65] == made[5, 195]).all(), "its ground goes along"
    checked = client.get(f"/api/sets/{row['id']}/check").json()
    assert (checked["wanted"], checked["off"]) == (1, 0)
    assert "1 kept on purpose" in client.get(f"/api/kits/{kit['id']}").json()["stages"]["check"]
    # What is taken for a photograph is shown, with what was said of parts.
    cover = f"/api/assets/{file['id']}/photograph.png"
    shares = []
    for way in ("it is drawn", "it is a photograph"):
        asked = {"parts": json.dumps({"parts": [{"region": sign, "way": way}]}), "size": 200}
        with Image.open(io.BytesIO(client.get(cover, params=asked).content)) as image:
            shares.append(float((np.asarray(image)[..., 3] == 0).mean()))
    assert shares == [0, pytest.approx(0.15, abs=0.02)]
    for wrong, status in (({"parts": "{"}, 422), ({"size": 4}, 422)):
        assert client.get(cover, params=wrong).status_code == status
    beyond = {"region": {**sign, "left": 0.9}}
    assert client.put(f"{at}/parts", json={"parts": [beyond]}).status_code == 422
    assert client.put(f"{at}/parts", json={"parts": [{"region": sign}] * 13}).status_code == 422
    client.put(f"{at}/parts", json={"parts": []})
    assert client.get(f"{at}/pointed").json()["parts"] == []


def test_the_logo_of_the_kit_takes_the_place_of_a_part_and_follows_the_kit(
    client: TestClient, app_settings: Settings, database_url: str, kit: Json
) -> None:
    drawn = np.full((120, 200, 3), 255, dtype=np.uint8)
    drawn[40:80, 20:100] = (120, 10, 80)
    row = start(client, kit, ("post.png", saved(Image.fromarray(drawn), "PNG")))
    [file] = files_of(client, row["id"])
    at, of = f"/api/sets/{row['id']}/files/{file['id']}", {"of": row["id"]}
    part = {"region": {"left": 0.05, "top": 0.2, "width": 0.6, "height": 0.6}, "way": "the kit's logo is in its place"}

    def laid() -> set[tuple[int, ...]]:
        """The colors of which much is in the part."""
        found = client.get(f"/api/assets/{file['id']}/file", params=of)
        with zipfile.ZipFile(io.BytesIO(client.get(f"/api/sets/{row['id']}/package.zip").content)) as package:
            assert package.read("post.png") == found.content
        with Image.open(io.BytesIO(found.content)) as image:
            colors, counts = np.unique(
                np.asarray(image.convert("RGB"))[24:96, 10:130].reshape(-1, 3), axis=0, return_counts=True
            )
        return {tuple(map(int, color)) for color in colors[counts > 1000]}

    changed = client.put(f"{at}/parts", json={"parts": [part]})
    assert changed.status_code == 200
    [why] = client.get(f"{at}/pointed").json()["without_logo"]
    assert "no logo" in why
    [ground] = laid() - (kept := {color for color in laid() if sum(color) < 500})
    assert kept
    seen = set()
    for color in ((20, 60, 70), (150, 0, 200)):
        logo = Image.new("RGBA", (120, 80))
        logo.paste((*color, 255), (20, 20, 100, 60))
        client.post(f"/api/kits/{kit['id']}/logo/light", files={"file": ("l.png", saved(logo, "PNG"), "image/png")})
        assert client.get(f"{at}/pointed").json()["without_logo"] == [""]
        assert laid() == {ground, color}
        seen.add(files_of(client, row["id"])[0]["fingerprint"])
        checked = client.get(f"/api/sets/{row['id']}/check").json()
        assert checked["off"] == 0, "its own colors are wanted"
    assert checked["wanted"] == 1
    assert len(seen) == 2
    # An export, which knows the kit as it was ordered, has it, too.
    exported = made(client, app_settings, database_url, row, forms=["as it came"])
    assert exported["post.png"] == client.get(f"/api/assets/{file['id']}/file", params=of).content


def test_a_part_is_found_in_the_other_pictures_and_goes_the_same_way_there(
    client: TestClient, kit: Json, banners: dict[str, bytes]
) -> None:
    def post(ground: tuple[int, ...], wide: int, left: int) -> bytes:
        return saved(with_sign(Image.new("RGB", (600, 400), ground), wide, left, 60), "PNG")

    posts = {"a.png": post((238, 240, 236), 220, 60), "b.png": post((20, 70, 90), 120, 400)}
    row = start(
        client, kit, *posts.items(), ("wall.jpg", banners["harbor-wall.jpg"]), ("now.gif", banners["boarding-now.gif"])
    )
    ids = {one["name"]: one["id"] for one in files_of(client, row["id"])}
    at = f"/api/sets/{row['id']}/files/{ids['a.png']}"
    assert client.get(f"{at}/parts/0/elsewhere").status_code == 404
    sign = {"left": 0.09, "top": 0.13, "width": 0.39, "height": 0.45}
    way = "it stays as it came"
    client.put(f"{at}/parts", json={"parts": [{"region": sign, "way": way}]})
    looked = client.get(f"{at}/parts/0/elsewhere").json()
    assert (looked["looked"], looked["total"], looked["failed"]) == (2, 2, []), "one that moves is not looked through"
    [found] = looked["found"]
    # Half of it is hardly seen on that ground.
    assert (found["name"], found["sure"]) == ("b.png", False)
    assert found["region"]["left"] + found["region"]["width"] / 2 == pytest.approx((400 + 60) / 600, abs=0.02)
    assert client.get(f"{at}/parts/0/elsewhere", params={"start": 2}).json()["found"] == []
    wanted = {"way": way, "found": {found["asset"]: found["region"]}}
    for _ in range(2):
        changed = client.put(f"/api/sets/{row['id']}/parts", json=wanted)
    assert changed.json()["history"]["undo"] == "Parts: the same in 1 file"
    told = client.get(f"/api/sets/{row['id']}/files/{ids['b.png']}/pointed").json()["parts"]
    assert told == [{"region": found["region"], "way": way}], "what was there already is not there twice"
    full = [{"region": {"left": 0.07 * n, "top": 0.9, "width": 0.05, "height": 0.05}} for n in range(12)]
    client.put(f"/api/sets/{row['id']}/files/{ids['b.png']}/parts", json={"parts": full})
    refused = client.put(f"/api/sets/{row['id']}/parts", json=wanted)
    assert (refused.status_code, "12 parts already" in refused.json()["detail"]) == (422, True)
    strange = {"way": way, "found": {ids["now.gif"]: sign}}
    assert client.put(f"/api/sets/{row['id']}/parts", json=strange).status_code == 422
