"""Templates of a set are looked at, and their texts measured, as they are put together; each is handed over alone."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

from pavese.core.formats.archive import package
from pavese.core.formats.mail.document import DESKTOP
from pavese.core.formats.mail.framed import read_framed
from pavese.render.marked import texts_marked
from tests.api.test_mail_sheets import handed
from tests.api.test_sets import drop, files_of, kit, start
from tests.formats.test_framing import BASE, BLUE, CHILD, WHOLE

Json = Any
__all__ = ["kit"]
#: It says nothing of color.
PLAIN = b"{% extends 'base.html' %}{% block body %}<p>Sails at ten</p>{% endblock %}"


def test_texts_of_a_template_stand_on_what_they_are_put_into() -> None:
    runs = texts_marked(read_framed("child.html", CHILD.encode(), WHOLE), DESKTOP)
    assert [(run.text.text, run.text.ink.key, run.ground and run.ground.key) for run in runs] == [
        ("Sails at nine", "#c81020", "#f0e6fa"),
        ("Now", "#c81020", "#f0e6fa"),
    ]


def test_a_sheet_that_code_puts_into_a_mail_is_one_of_the_mail(client: TestClient, kit: Json) -> None:
    base = BASE.replace("p { color: #1020c8 }", "{% include 'css/mails.css' %}").encode()
    sheet = b"p { color: #1020c8 }\n.x { background: {{ ground }} }\n"
    files = [("m/child.html", CHILD.encode()), ("m/plain.html", PLAIN), ("m/base.html", base), ("css/mails.css", sheet)]
    mails = start(client, kit, ("mails.zip", package(files)))
    listed = {file["name"]: file for file in files_of(client, mails["id"])}
    assert "#1020c8" in listed["m/base.html"]["paints"]
    assert listed["m/plain.html"]["paints"] == {}
    assert listed["m/base.html"]["remarks"] == []
    seen = client.get(f"/api/sets/{mails['id']}/files/{listed['m/plain.html']['id']}").json()
    assert [text["text"] for text in seen["texts"]] == ["Sails at ten"]
    for file in listed.values():
        assert client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()["lacking"] == [], file["name"]
    client.post(f"/api/sets/{mails['id']}/aim", json={"paints": ["#1020c8"], "target": "hull.base"})
    inside = handed(client, mails)
    assert inside["css/mails.css"].lower() == sheet.replace(b"#1020c8", b"#16252b")
    assert b"{% include 'css/mails.css' %}" in inside["m/base.html"]
    # In what is seen of it, it stands where the code does.
    whole = read_framed("plain.html", PLAIN, {"template:base.html": base, "sheet:css/mails.css": sheet})
    assert b"<style>.go { color: #c81020 } p { color: #1020c8 }" in whole.preview({}).content
    alone = read_framed("base.html", base, {"sheet:css/mails.css": sheet})
    assert "sheet:css/mails.css" in alone.refers
    assert ("color in the rule p, in css/mails.css", 1) in {(one.said, one.line) for one in alone.where(BLUE)}
    # A part in which such code stands is put there as it is, and no template.
    part = read_framed("m.hbs", b"<style>{{> css}}</style><p>x</p>", {"template:css": sheet, "sheet:css": sheet})
    assert BLUE in part.inventory().sites
    assert part.preview({}).content.count(b"#1020c8") == 1


@pytest.mark.parametrize("how", ["zip", "loose", "later"])
def test_templates_of_a_set_are_put_together_however_they_come(client: TestClient, kit: Json, how: str) -> None:
    files = [("mails/child.html", CHILD.encode()), ("mails/plain.html", PLAIN), ("mails/base.html", BASE.encode())]
    if how == "zip":
        mails = start(client, kit, ("mails.zip", package(files)))
    else:
        mails = start(client, kit, *files[: 2 if how == "later" else 3])
    came = {file["name"]: file["came"] for file in files_of(client, mails["id"])}
    if how == "later":
        [plain] = (file["id"] for file in files_of(client, mails["id"]) if file["name"] == "mails/plain.html")
        assert client.get(f"/api/sets/{mails['id']}/files/{plain}").json()["lacking"] == ["base.html"]
        mails = drop(client, mails["id"], files[2])["set"]
    listed = {file["name"]: file for file in files_of(client, mails["id"])}
    assert sorted(listed) == ["mails/base.html", "mails/child.html", "mails/plain.html"]
    assert (listed["mails/child.html"]["came"] == came["mails/child.html"]) == (how != "later")
    assert listed["mails/child.html"]["paints"] == {"#c81020": 1}
    assert listed["mails/plain.html"]["paints"] == {}
    seen = client.get(f"/api/sets/{mails['id']}/files/{listed['mails/plain.html']['id']}").json()
    assert (seen["together"], seen["lacking"]) == (["mails/base.html"], [])
    assert [text["text"] for text in seen["texts"]] == ["Sails at ten"]
    # How the set reads is how its files do, whichever of them says so.
    client.post(f"/api/sets/{mails['id']}/aim", json={"paints": ["#f0e6fa", "#1020c8"], "target": "hull.base"})
    texts = [
        (text["reads"], text["worse"])
        for file in listed.values()
        for text in client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()["texts"]
    ]
    reading = client.get(f"/api/sets/{mails['id']}").json()["reading"]
    assert (False, True) in texts
    assert (reading["texts"], reading["read"], reading["lost"]) == (len(texts), *map(sum, zip(*texts, strict=True)))
    client.post(f"/api/sets/{mails['id']}/undo")
    # What is around it follows the plan, and its texts with it.
    before = listed["mails/plain.html"]["fingerprint"]
    client.post(f"/api/sets/{mails['id']}/aim", json={"paints": ["#1020c8"], "target": "keep"})
    after = {file["name"]: file["fingerprint"] for file in files_of(client, mails["id"])}
    assert after["mails/plain.html"] != before
    # Where that is kept as it came, or goes its own way, it is seen so.
    path, base = f"/api/sets/{mails['id']}", "mails/base.html"

    def shown() -> bytes:
        return client.get(f"/api/assets/{listed['mails/plain.html']['id']}/picture.png?size=96").content

    planned = shown()
    client.post(f"{path}/file-states", json={"names": [base], "kept": True})
    assert shown() != planned
    client.post(f"{path}/file-states", json={"names": [base], "kept": False})
    assert shown() == planned
    client.post(f"{path}/aim", json={"paints": ["#f0e6fa"], "target": "lamp.base", "file": base})
    assert shown() != planned
    client.post(f"{path}/undo")
    # Each is handed over by itself.
    inside = handed(client, mails)
    assert inside["mails/plain.html"] == PLAIN
    assert inside["mails/child.html"] != CHILD.encode()
    assert b"Dear readers" not in inside["mails/child.html"]
    assert sum(name.startswith("mails/") for name in inside) == 3
