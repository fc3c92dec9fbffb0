"""Style sheets that mails link: read with them, recolored in place, and handed over beside them."""

from __future__ import annotations

import io
import zipfile
from typing import Any
from urllib.parse import urljoin

from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.archive import package
from pavese.core.formats.data_url import data_url
from pavese.core.formats.mail.document import BARE, DESKTOP, read_mail
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.render.marked import texts_marked
from tests.api.test_sets import drop, files_of, kit, start
from tests.render.test_mails import flat

Json = Any
__all__ = ["kit"]
SHEET = b"/* #123456 \xc3\xa5 */\nbody { background: #ffffff }\n.foot { color: #777777; background: #eeeeee }\n"
MAIL = b"""<html><head><title>One</title><link rel="stylesheet" media="screen" href="css/main.css"></head>
<body><p>A letter about the winter timetable, and more</p><div class="foot">Unsubscribe here</div></body></html>"""


def handed(client: TestClient, mails: Json) -> dict[str, bytes]:
    packed = zipfile.ZipFile(io.BytesIO(client.get(f"/api/sets/{mails['id']}/package.zip").content))
    return {name: packed.read(name) for name in packed.namelist()}


def test_a_linked_sheet_is_read_as_if_it_stood_in_the_mail() -> None:
    alone, whole = read_mail("m.html", MAIL), read_mail("m.html", MAIL, {"css/main.css": SHEET})
    assert alone.refers == whole.refers == ("css/main.css",)
    assert {paint.key for paint in whole.inventory().paints} == {"#ffffff", "#777777", "#eeeeee", "#000000"}
    [run] = [run for run in texts_marked(whole, DESKTOP) if run.text.text.startswith("Unsub")]
    assert (run.text.ink.key, run.ground and run.ground.key) == ("#777777", "#eeeeee")
    assert whole.write({}) == MAIL
    assert whole.beside({}) == {}
    blue = whole.inventory().paints[0].rgb
    changes = Changes(Recoloring(dict.fromkeys(whole.inventory().paints, blue)))
    hexed = blue.hex.encode()
    expected = SHEET.replace(b"#777777", hexed).replace(b"#eeeeee", hexed).replace(b"#ffffff", hexed)
    assert whole.beside(changes).get("css/main.css", SHEET) == expected
    assert b"<link" not in whole.preview(changes).content
    assert b'<style media="screen">' in whole.preview(changes).content
    told = {(one.line, one.said) for paint in whole.inventory().paints for one in whole.where(paint)}
    assert (3, "color in the rule .foot, in css/main.css") in told
    # A footer that goes its own way says it in the mail; the sheet, which others may share, stays.
    apart = Recoloring({}, rules={("/footer", Kind.TEXT): blue, ("/footer", Kind.GROUND): blue})
    assert whole.beside(apart) == {}
    assert whole.write(apart).count(hexed) == 2


def test_pictures_that_a_sheet_names_lie_from_where_it_does_and_go_with_the_mail() -> None:
    sheet = (
        b"p { background: url('../img/a.png?1') #ffffff } div { background: url(b.png) } i { background: url(/c.png) }"
    )
    beside = {"css/main.css": sheet}
    assert read_mail("m.html", MAIL, beside).refers == ("img/a.png?1", "css/b.png", "/c.png", "css/main.css")
    hosted = MAIL.replace(b"css/main.css", b"https://post.example/css/main.css?2")
    remote = read_mail("m.html", hosted, {"https://post.example/css/main.css?2": sheet}).remote
    assert [one.removeprefix("https://post.example") for one in remote] == ["/img/a.png?1", "/css/b.png", "/c.png"]
    document = read_mail("m.html", MAIL, {**beside, "img/a.png?1": flat(Rgb(200, 30, 40))})
    to = Recoloring({Rgba(200, 30, 40): Rgb(1, 2, 3)})
    preview = document.preview(to).content
    assert b"url('../img" not in preview
    assert b"url('data:image/png" in preview
    assert list(document.beside(to)) == ["img/a.png?1"]
    # In the look without pictures it is left out of the sheet as of the mail.
    bare = document.preview({}, look=BARE).content
    assert b"p { background: none #ffffff }" in bare
    # One that is written into a sheet is changed in it.
    inside = data_url(flat(Rgb(200, 30, 40))) or ""
    document = read_mail("m.html", MAIL, {"css/main.css": b"p { background: url(%s) }" % inside.encode()})
    changed = document.beside(to)["css/main.css"].decode()
    assert changed.startswith("p { background: url(data:image/png")
    assert changed != f"p {{ background: url({inside}) }}"


@given(
    st.lists(st.sampled_from(["css", "a", "theme"]), max_size=3),
    st.lists(st.sampled_from([".", "..", "img", "b"]), max_size=5),
    st.sampled_from(["", "https://post.example/", "//post.example/x/"]),
)
def test_what_a_sheet_names_is_what_a_browser_would_ask_for(folders: list[str], steps: list[str], host: str) -> None:
    sheet = host + "/".join([*folders, "s.css"])
    named = "/".join([*steps, "pic.png"])
    mail = f'<link rel="stylesheet" href="{sheet}"><p>words'.encode()
    document = read_mail("m.html", mail, {sheet: b"p { background: url(%s) }" % named.encode()})
    (found,) = {*document.refers, *document.remote} - {sheet}
    # From a page far down, so that no step up leads beyond the beginning of the address.
    page = "https://here.example/1/2/3/4/5/6/"
    assert urljoin(page, found) == urljoin(urljoin(page, sheet), named)


def test_pictures_of_sheets_come_in_a_zip_or_one_by_one_and_are_handed_over(client: TestClient, kit: Json) -> None:
    sheet, red = b".foot { background: url(../img/a.png) }", Rgb(200, 30, 40)
    files = [("one.html", MAIL), ("css/main.css", sheet), ("img/a.png", flat(red))]
    zipped = start(client, kit, ("mails.zip", package([(f"x/{name}", data) for name, data in files])))
    loose = start(client, kit, *files)
    for mails, path in ((zipped, "x/img/a.png"), (loose, "img/a.png")):
        [file] = files_of(client, mails["id"])
        assert file["remarks"] == []
        assert "#c81e28" in file["paints"]
        made = handed(client, mails)
        assert set(made) >= {path, path.replace("img/a.png", "css/main.css")}
        with Image.open(io.BytesIO(made[path])) as picture:
            assert picture.convert("RGB").getpixel((5, 5)) != red


def test_what_stands_on_pictures_is_a_part_that_is_put_apart_where_it_must(client: TestClient, kit: Json) -> None:
    mail = b"<body><p>A letter about the winter timetable, and more</p><div class=hero style='color:#fff'>Sail</div>"
    sheet, night = b".hero { background: url(night.png) }", io.BytesIO()
    Image.effect_noise((300, 200), 40).point(lambda level: level // 4).convert("RGB").save(night, "PNG")
    files = (
        ("m.html", b'<link rel=stylesheet href="m.css">' + mail),
        ("m.css", sheet),
        ("night.png", night.getvalue()),
    )
    mails = start(client, kit, *files)
    path = f"/api/sets/{mails['id']}"

    def part() -> Json:
        parts = client.get(f"{path}/grounds-and-inks").json()["parts"]
        return next(one for one in parts if one["part"] == "/on-pictures")

    assert part() == {"part": "/on-pictures", "title": "On pictures", "files": 1, "now": None, "kept": False}
    made = client.put(f"{path}/ground-and-ink", json={"ground": "fog.base", "ink": "hull.base"}).json()
    assert made["reading"]["lost"] == 0
    assert part()["now"]["title"] == "Fog on Hull"
    # One step takes it back, and so does another choice for all.
    client.post(f"{path}/undo")
    assert part()["now"] is None
    client.post(f"{path}/redo")
    client.put(f"{path}/ground-and-ink", json={"ground": "hull.base", "ink": "fog.base"})
    assert part()["now"] is None
    # What is chosen by hand stays.
    client.put(f"{path}/ground-and-ink", json={"part": "/on-pictures", "kept": True})
    client.put(f"{path}/ground-and-ink", json={"ground": "fog.base", "ink": "hull.base"})
    assert part()["kept"]


def test_sheets_come_with_a_zip_or_one_by_one(client: TestClient, kit: Json) -> None:
    zipped = package([("mails/one.html", MAIL), ("mails/css/main.css", SHEET), ("mails/two.html", MAIL)])
    first = start(client, kit, ("mails.zip", zipped))
    loose = start(client, kit, ("one.html", MAIL), ("css/main.css", SHEET))
    # One that lies elsewhere in the package is known by its name.
    moved = start(client, kit, ("moved.zip", package([("a/one.html", MAIL), ("dist/main.css", SHEET)])))
    for mails, path in ((first, "mails/css/main.css"), (loose, "css/main.css"), (moved, "dist/main.css")):
        client.put(f"/api/sets/{mails['id']}/ground-and-ink", json={"ground": "hull.base", "ink": "fog.base"})
        inside = handed(client, mails)
        assert inside[path] == SHEET.replace(b"#ffffff", b"#16252B").replace(b"#eeeeee", b"#16252B").replace(
            b"#777777", b"#EEF0EC"
        ) or inside[path].lower() == SHEET.replace(b"#ffffff", b"#16252b").replace(b"#eeeeee", b"#16252b").replace(
            b"#777777", b"#eef0ec"
        )
        for file in files_of(client, mails["id"]):
            assert {"#777777", "#eeeeee"} <= set(file["paints"])
            assert file["remarks"] == []
        # What is checked is what is handed over, the sheet with it.
        assert client.get(f"/api/sets/{mails['id']}/check").json()["off"] == 0
    assert drop(client, loose["id"], ("words.css", SHEET))["refused"], "a sheet that no mail links is none of a set"
