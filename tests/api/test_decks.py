"""Sets of decks: told by what comes, worked by their theme, seen slide by slide and handed over."""

from __future__ import annotations

import io
import zipfile
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import Image, ImageDraw
from pptx import Presentation
from pypdf import PdfReader

from pavese.demo.deck import NAME, deck_file
from pavese.settings import Settings
from tests.api.test_exports import made
from tests.api.test_sets import drop, files_of, kit, start
from tests.formats.decks import deck, pointing, shape, solid, text, theme_of
from tests.render.test_slides import BRICK, INK, PAPER

Json = Any
__all__ = ["kit"]
BRIEFING = deck_file()[NAME]
SMALL = deck(
    theme_of(INK, PAPER, INK, PAPER, BRICK, INK),
    [("", shape(2, solid(pointing("accent1")), text("Gangway", pointing("bg1"), 2400)))] * 2,
)


@pytest.fixture
def decks(client: TestClient, kit: Json) -> Json:
    return start(client, kit, (NAME, BRIEFING))


def theme(client: TestClient, decks: Json) -> dict[str, Json]:
    told = client.get(f"/api/sets/{decks['id']}/theme").json()
    return {place["slot"]: place for place in told["places"]}


def written(client: TestClient, decks: Json, name: str = NAME) -> bytes:
    file = next(one for one in files_of(client, decks["id"]) if one["name"] == name)
    return client.get(f"/api/assets/{file['id']}/file", params={"of": decks["id"]}).content


def test_decks_are_told_and_their_theme_goes_to_the_kit_at_once(client: TestClient, kit: Json, decks: Json) -> None:
    assert (decks["channel"], decks["themed"]) == ("slides", True)
    assert decks["reading"]["lost"] == 0
    assert decks["reading"]["texts"] > 30
    places = theme(client, decks)
    assert list(places) == ["dk1", "lt1", "dk2", "lt2", *(f"accent{n}" for n in range(1, 7)), "hlink", "folHlink"]
    assert all(place["target"] == place["proposed"] for place in places.values())
    assert places["accent1"]["was"][0] == "#8a4b08"
    assert "text" in places["dk1"]["used"]
    colors = {color["key"]: color["role"] for color in kit["colors"]}
    assert colors[places["accent1"]["target"].partition(".")[0]] == "primary"
    [refused] = drop(client, decks["id"], ("old.ppt", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"))["refused"]
    assert "save it as .pptx" in refused["reason"]


def test_a_place_goes_where_it_is_sent_and_back_and_holds_for_decks_that_come(
    client: TestClient, kit: Json, decks: Json
) -> None:
    path = f"/api/sets/{decks['id']}"
    chosen = client.put(f"{path}/theme", json={"places": {"accent1": "#123456"}}).json()
    assert chosen["history"]["undo"] == "Accent 1 of the theme to #123456"
    assert theme(client, decks)["accent1"]["target_hex"] == "#123456"
    drop(client, decks["id"], ("small.pptx", SMALL))
    for name in (NAME, "small.pptx"):
        with zipfile.ZipFile(io.BytesIO(written(client, decks, name))) as archive:
            assert b'<a:accent1><a:srgbClr val="123456"/></a:accent1>' in archive.read("ppt/theme/theme1.xml")
    client.post(f"{path}/undo")
    assert theme(client, decks)["accent1"]["target_hex"] != "#123456"
    assert client.put(f"{path}/theme", json={"proposed": True}).json()["history"]["undo"] == "The theme as proposed"
    for wrong in ({}, {"places": {"accent9": None}}, {"places": {"accent1": "sea.500"}}, {"places": {"accent1": 3}}):
        assert client.put(f"{path}/theme", json=wrong).status_code == 422
    icons = start(client, kit, ("a.svg", b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#e53935"/></svg>'))
    assert client.get(f"/api/sets/{icons['id']}/theme").json()["places"] == []


def test_a_theme_that_pasted_slides_brought_goes_its_own_way(client: TestClient, kit: Json) -> None:
    signal = shape(2, solid(pointing("accent1")), "") + shape(3, solid(pointing("accent1", ("lumMod", 60_000))), "")
    own, brought = theme_of(INK, PAPER, INK, PAPER, BRICK, INK), theme_of(INK, PAPER, INK, PAPER, BRICK, PAPER)
    decks = start(client, kit, ("sales.pptx", deck(own, [("", signal)] * 2, pasted=brought)), ("plain.pptx", SMALL))
    path = f"/api/sets/{decks['id']}/theme"
    themes = client.get(path).json()["themes"]
    assert {(one["title"], one["files"], one["own"]) for one in themes} == {("Quay", 1, 0), ("Sales more", 1, 0)}
    sales = next(one["key"] for one in themes if one["title"] == "Sales more")

    def accents(name: str = "sales.pptx") -> list[str]:
        with zipfile.ZipFile(io.BytesIO(written(client, decks, name))) as archive:
            found = (archive.read(one).decode() for one in archive.namelist() if "theme/theme" in one)
            return [one.partition("<a:accent1>")[2].partition('val="')[2][:6] for one in found]

    def slide(number: int) -> str:
        with zipfile.ZipFile(io.BytesIO(written(client, decks, "sales.pptx"))) as archive:
            return archive.read(f"ppt/slides/slide{number}.xml").decode()

    # One color in two themes goes one way, until it is said that one of them goes another.
    assert len(accents()) == 2
    assert len(set(accents())) == 1
    before, at_first = accents(), slide(2)
    chosen = client.put(path, json={"places": {"accent1": "lamp.base"}, "theme": sales}).json()
    assert chosen["history"]["undo"] == "Accent 1 of the theme Sales more to Lamp base"
    lamp = next(color["hex"] for color in kit["colors"] if color["key"] == "lamp")[1:].upper()
    assert accents() == [before[0], lamp]
    assert accents("plain.pptx") == before[:1]
    # What points to it stays linked; what is made from it goes to a step of the same color.
    assert pointing("accent1") in slide(2)
    assert slide(2) != at_first
    told = client.get(path, params={"theme": sales}).json()
    assert [place["target"] for place in told["places"] if place["target"]] == ["lamp.base"]
    assert {one["title"]: one["own"] for one in told["themes"]} == {"Quay": 0, "Sales more": 1}
    back = client.put(path, json={"places": {"accent1": None}, "theme": sales}).json()
    assert back["history"]["undo"] == "Accent 1 of the theme Sales more as in all"
    assert (accents(), slide(2)) == (before, at_first)
    for wrong in ("Nobody-s-0000", "a b"):
        assert client.put(path, json={"places": {"accent1": None}, "theme": wrong}).status_code == 422


def test_a_theme_is_kept_with_the_kit_for_decks_that_come_and_for_templates(
    client: TestClient, kit: Json, decks: Json
) -> None:
    path = f"/api/sets/{decks['id']}/theme"

    def said() -> str:
        return str(client.get(path).json()["of_kit"])

    proposed = theme(client, decks)["accent2"]["proposed"]
    other = next(color["key"] for color in kit["colors"] if not proposed.startswith(color["key"])) + ".700"
    client.put(path, json={"places": {"accent2": other, "accent3": "keep"}})
    assert said() == "none"
    after = client.put(f"{path}/of-kit", json={"kept": True}).json()
    assert after["history"]["undo"] == "Keep the theme for decks"
    assert said() == "same"
    later = start(client, kit, ("small.pptx", SMALL))
    places = theme(client, later)
    assert places["accent2"]["target"] == other
    assert places["accent3"]["target"] not in (None, "keep"), "what stays as it came is not of the kit"
    template = client.get(f"/api/kits/{kit['id']}/editions/0/hand-over/deck").content
    color = next(one for one in kit["colors"] if other.startswith(one["key"]))
    step = next(one["hex"] for one in color["steps"] if one["step"] == 700)
    with zipfile.ZipFile(io.BytesIO(template)) as archive:
        assert f'<a:accent2><a:srgbClr val="{step[1:].upper()}"/>'.encode() in archive.read("ppt/theme/theme1.xml")
    client.put(path, json={"places": {"accent2": proposed}})
    assert said() == "other"
    client.put(f"{path}/of-kit", json={"kept": False})
    assert said() == "none"
    # A place whose color is gone from the kit is proposed anew.
    client.put(f"{path}/of-kit", json={"kept": True})
    client.delete(f"/api/kits/{kit['id']}/colors/{proposed.partition('.')[0]}")
    assert client.get(path).status_code == 200


def test_it_is_told_what_follows_the_theme_and_what_stays_a_code(client: TestClient, decks: Json) -> None:
    path = f"/api/sets/{decks['id']}/links"
    told = client.get(path).json()
    assert told["linked"] > 0
    assert told["typed"] > 0
    # What stays a code is told first, with the reason and where it stands.
    whys = [row["why"] is None for row in told["rows"]]
    assert whys == sorted(whys)
    typed, linked = told["rows"][0], told["rows"][-1]
    reasons = {row["why"] for row in told["rows"] if row["left"] is None and row["why"]}
    assert "no place of the theme holds it" in reasons
    assert "it is seen under several masters, whose themes may differ" not in reasons
    assert typed["where"][0].startswith(f"{NAME}: ")
    assert linked["place"].startswith(("Accent", "Dark", "Light", "Links"))
    near = next(row for row in told["rows"] if row["near"])
    client.post(f"/api/sets/{decks['id']}/aim", json={"paints": [near["paint"]], "target": near["near"]["target"]})
    after = client.get(path).json()
    assert after["typed"] < told["typed"]
    assert near["paint"] not in {row["paint"] for row in after["rows"] if row["why"]}
    client.put(f"/api/sets/{decks['id']}/acts/typed-codes", json={"settings": {}})
    assert client.get(path).json()["linked"] == 0


def test_the_old_sign_is_found_everywhere_and_the_logo_of_the_kit_takes_its_place(
    client: TestClient, kit: Json, decks: Json
) -> None:
    path = f"/api/sets/{decks['id']}/pictures"
    sign, harbor = client.get(path).json()["pictures"]
    assert (harbor["places"], harbor["ways"], harbor["kept"], sign["kept"]) == (1, [], False, False)
    # Clear, smaller, and in a box that shows on the dark slide: one thing.
    assert (sign["places"], sign["of_files"], sign["stands"], sign["way"]) == (7, 1, True, None)
    assert sign["ways"] == ["ground"], "the kit has no logo yet"
    for ground, color in (("light", (22, 37, 43)), ("dark", (238, 240, 236))):
        logo = io.BytesIO()
        image = Image.new("RGBA", (90, 30))
        ImageDraw.Draw(image).ellipse((2, 2, 87, 27), fill=(*color, 255))
        image.save(logo, "PNG")
        sent = {"file": ("logo.png", logo.getvalue(), "image/png")}
        assert client.post(f"/api/kits/{kit['id']}/logo/{ground}", files=sent).status_code == 200
    assert "logo" in client.get(path).json()["pictures"][0]["ways"]
    changed = client.put(path, json={"key": sign["key"], "way": "logo"}).json()
    assert changed["history"]["undo"].endswith("is the kit's logo")
    after = client.get(path).json()["pictures"][0]
    assert (after["way"], after["stands"]) == ("logo", False)
    deck = Presentation(io.BytesIO(written(client, decks)))
    pictures = {
        at: shape.image for at, slide in enumerate(deck.slides, 1) for shape in slide.shapes if hasattr(shape, "image")
    }
    assert sorted(pictures) == [2, 3, 4, 5, 8, 9, 10, 11]
    middles = {}
    for at in (2, 3, 9):
        with Image.open(io.BytesIO(pictures[at].blob)) as picture:
            assert max(picture.size) >= 800, "fine enough for a slide"
            middles[at] = picture.convert("RGB").getpixel((picture.width // 2, picture.height // 2))
    assert middles[2] == middles[9] == (22, 37, 43)
    assert max(abs(one - two) for one, two in zip(middles[3], (238, 240, 236), strict=True)) < 4, "on the dark slide"
    shown = {"reference": after["reference"], "of": decks["id"], "fingerprint": after["fingerprint"]}
    assert client.get(f"/api/assets/{after['asset']}/beside.png", params=shown).status_code == 200
    client.post(f"/api/sets/{decks['id']}/undo")
    assert client.get(path).json()["pictures"][0]["way"] is None
    assert client.put(path, json={"key": "none", "way": "logo"}).status_code == 422


def test_the_typefaces_of_the_kit_are_followed_by_one_switch(client: TestClient, kit: Json, decks: Json) -> None:
    def face() -> bytes:
        with zipfile.ZipFile(io.BytesIO(written(client, decks))) as archive:
            theme = archive.read("ppt/theme/theme1.xml")
        return theme.partition(b"<a:majorFont>")[2].partition(b"/>")[0]

    assert b"Calibri" in face()
    faces = {"headline": "Besley", "text": "Commissioner"}
    assert client.put(f"/api/kits/{kit['id']}/type", json=faces).status_code == 200
    client.put(f"/api/sets/{decks['id']}/acts/typefaces", json={"settings": {}})
    assert face() == b'<a:latin typeface="Besley"'
    client.put(f"/api/kits/{kit['id']}/type", json={**faces, "headline": "Aleo"})
    assert face() == b'<a:latin typeface="Aleo"'
    client.put(f"/api/sets/{decks['id']}/acts/typefaces", json={"settings": None})
    assert b"Calibri" in face()


def test_a_slide_stays_as_it_came_and_goes_along_again(client: TestClient, decks: Json) -> None:
    path = f"/api/sets/{decks['id']}"

    def slide() -> bytes:
        with zipfile.ZipFile(io.BytesIO(written(client, decks))) as archive:
            return archive.read("ppt/slides/slide9.xml")

    along = slide()
    assert b'schemeClr val="accent1"' in along
    body = {"part": "/slide9", "file": NAME, "kept": True}
    assert client.put(f"{path}/ground-and-ink", json=body).status_code == 200
    [part] = client.get(f"{path}/grounds-and-inks", params={"file": NAME}).json()["parts"]
    assert (part["part"], part["kept"]) == ("/slide9", True)
    kept = slide()
    # What pointed to the theme says its old color itself now.
    assert b'srgbClr val="8A4B08"' in kept
    assert b'schemeClr val="accent1"' not in kept
    client.put(f"{path}/ground-and-ink", json={**body, "kept": False})
    assert slide() == along


def test_slides_are_seen_each_and_texts_are_told_by_slide(client: TestClient, decks: Json) -> None:
    [file] = files_of(client, decks["id"])
    view = client.get(f"/api/sets/{decks['id']}/files/{file['id']}").json()
    assert [page["kind"] for page in view["pages"]].count("content") == file["slides"] == 12
    assert {text["page"] for text in view["texts"]} <= {page["selector"] for page in view["pages"]}
    seen = []
    for page in (0, 3, 7):
        wanted = {"size": 400, "of": decks["id"], "page": page}
        found = client.get(f"/api/assets/{file['id']}/picture.png", params=wanted)
        with Image.open(io.BytesIO(found.content)) as picture:
            assert picture.size == (400, 225)
        seen.append(found.content)
    assert len(set(seen)) == 3
    masks = client.get(f"/api/assets/{file['id']}/masks.png", params={"size": 160, "of": decks["id"]})
    with Image.open(io.BytesIO(masks.content)) as strip:
        assert strip.size == (160, 90 * min(len(file["paints"]), 48))
        at = sorted(file["paints"]).index("#5a3206")
        # The ground of the first slide is of that paint, and its title is not.
        assert strip.getpixel((10, 90 * at + 80))[1] == 255
    frames = client.get(f"/api/assets/{file['id']}/frames")
    assert "immutable" in frames.headers["cache-control"]
    framed = frames.json()
    content = [page["selector"] for page in view["pages"] if page["kind"] == "content"]
    assert [page["page"] for page in framed] == content
    # The ground of the first slide is framed as a whole, and not on the second, which stands on another.
    whole = {"left": 0, "top": 0, "width": framed[0]["columns"], "height": framed[0]["rows"]}
    assert framed[0]["paints"]["#5a3206"][0] == whole
    assert "#5a3206" not in framed[1]["paints"]
    # A press on another slide than the first tells what stands there.
    at_table = {"x": 0.2, "y": 0.28, "page": 3}
    header = client.get(f"/api/sets/{decks['id']}/files/{file['id']}/at", params=at_table).json()["paint"]
    assert header["key"] == "#8a4b08"


def test_decks_are_handed_over_with_what_is_in_them(
    client: TestClient, app_settings: Settings, database_url: str, decks: Json
) -> None:
    data = written(client, decks)
    before, after = (Presentation(io.BytesIO(one)) for one in (BRIEFING, data))
    assert [slide.shapes.title.text for slide in after.slides] == [slide.shapes.title.text for slide in before.slides]
    assert after.slides[11].notes_slide.notes_text_frame.text == "Not shown to crews."
    assert client.get(f"/api/sets/{decks['id']}/check").json()["off"] == 0
    forms = ["as it came", "PDF of slides", "PNG of slides", "proof of slides", "contact sheet"]
    package = made(client, app_settings, database_url, decks, forms=forms, sizes=[320])
    assert package[NAME] == data
    # The small picture in the file is one of the new look.
    small = [zipfile.ZipFile(io.BytesIO(one)).read("docProps/thumbnail.jpeg") for one in (BRIEFING, data)]
    pictures = [Image.open(io.BytesIO(one)) for one in small]
    assert {picture.format for picture in pictures} == {"JPEG"}
    sought = (0x03, 0x46, 0x50)
    [red, green, blue] = pictures[1].convert("RGB").getpixel((20, 20))
    assert max(abs(red - sought[0]), abs(green - sought[1]), abs(blue - sought[2])) < 12
    assert len(PdfReader(io.BytesIO(package["pdf/crew-briefing.pdf"])).pages) == 11, "one is hidden"
    assert sum(name.startswith("png/crew-briefing/") for name in package) == 11
    proof = PdfReader(io.BytesIO(package["proof/crew-briefing.pdf"]))
    words = " ".join(page.extract_text() for page in proof.pages)
    assert "12. For the purser (hidden)" in words
    assert "Tickets are sold on the quay" in words
