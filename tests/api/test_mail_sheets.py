"""Style sheets that mails link: read with them, recolored in place, and handed over beside them."""

from __future__ import annotations

import io
import zipfile
from typing import Any

from fastapi.testclient import TestClient

from pavese.core.formats.archive import package
from pavese.core.formats.mail.document import DESKTOP, read_mail
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.render.marked import texts_marked
from tests.api.test_sets import drop, files_of, kit, start

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
