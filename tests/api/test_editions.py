"""Publishing, comparing, restoring, links, and bringing kits in: over the API, with the database behind it."""

from __future__ import annotations

import io
import json
import re
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image
from sqlalchemy import text

from pavese.core.handoff.forms import FORMS, KitForm
from pavese.core.kit.token_file import read_kit_tokens
from pavese.demo.people import COORDINATOR, READER
from pavese.demo.pictures import logo

Json = dict[str, Any]
COLORS = [
    {"name": "Deep water", "role": "primary", "code": "#0b5e6b"},
    {"name": "Fog", "role": "background", "code": "#eef0ec"},
    {"name": "Hull", "role": "text dark", "code": "#16252b"},
    {"name": "Lamp", "role": "accent", "code": "#efb23a"},
]
HULL_ON_FOG = {"text": "hull.base", "ground": "fog.base"}


@pytest.fixture
def kit(client: TestClient) -> Json:
    """A kit with nothing decided."""
    made: Json = client.post("/api/kits", json={"name": "Ödland 深い", "colors": COLORS}).json()
    return made


def path(kit: Json, rest: str = "") -> str:
    return f"/api/kits/{kit['id']}{rest}"


def approve(client: TestClient, kit: Json, **fields: Any) -> Any:
    body = {"pairs": [HULL_ON_FOG], "status": "approved", **fields}
    return client.post(path(kit, "/decisions"), json=body)


def published(client: TestClient, kit: Json, note: str = "") -> Json:
    answer = client.post(path(kit, "/editions"), json={"note": note})
    assert answer.status_code == 201, answer.text
    made: Json = answer.json()
    return made


def test_nothing_is_published_without_an_approved_body_pair(client: TestClient, kit: Json) -> None:
    asked = client.get(path(kit, "/publish")).json()
    assert [one["text"] for one in asked["unresolved"] if one["blocks"]] == [
        "No pair is approved for body text; approve one that reaches the level."
    ]
    refused = client.post(path(kit, "/editions"), json={})
    assert refused.status_code == 409
    assert "No pair is approved for body text" in refused.json()["detail"]
    approve(client, kit)
    asked = client.get(path(kit, "/publish")).json()
    assert asked["number"] == 1
    assert asked["unresolved"], "what is unresolved is shown, and does not forbid"
    assert not any(one["blocks"] for one in asked["unresolved"])
    first = published(client, kit, "First one.")
    assert (first["number"], first["note"], first["who"]) == (1, "First one.", "Maren Quist")
    assert client.get(path(kit)).json()["edition"] == 1


def test_an_edition_stays_as_it_is_and_comes_back(client: TestClient, kit: Json) -> None:
    approve(client, kit)
    first = published(client, kit)
    client.patch(path(kit, "/colors/hull"), json={"code": "#c0c8cc"})
    client.post(path(kit, "/colors"), json={"colors": [{"name": "Kelp", "role": "accent", "code": "#6b7d3a"}]})
    pairs = client.get(path(kit, "/pairs")).json()
    assert pairs["decisions"][0]["status"] == "open"
    assert "Hull on Fog was approved for body text" in pairs["decisions"][0]["reopened"]
    found = client.get(path(kit, "/compare"), params={"old": 1}).json()["differences"]
    by_kind = {one["kind"]: one for one in found}
    assert by_kind["added"]["text"].startswith("Kelp, accent")
    assert (by_kind["changed"]["before"], by_kind["changed"]["after"]) == ("#16252b", "#c0c8cc")
    assert "Hull on Fog" in [one["text"] for one in found if one["kind"] == "pairs lost"]
    assert client.get(path(kit, "/editions")).json()["draft_differs"] == len(found)
    assert client.post(path(kit, "/editions/1/restore")).status_code == 200
    assert client.get(path(kit, "/compare"), params={"old": 1}).json()["differences"] == []
    again = client.post(path(kit, "/editions"), json={})
    assert again.status_code == 409
    assert "Nothing has changed since edition 1" in again.json()["detail"]
    assert client.get(path(kit, "/editions")).json()["editions"] == [first]
    client.post(path(kit, "/undo"))
    assert "kelp" in [color["key"] for color in client.get(path(kit)).json()["colors"]]


def test_two_publishes_at_once_give_one_edition(client: TestClient, kit: Json) -> None:
    approve(client, kit)
    with ThreadPoolExecutor(2) as pool:
        answers = list(pool.map(lambda _: client.post(path(kit, "/editions"), json={}), range(2)))
    assert sorted(answer.status_code for answer in answers) == [201, 409]
    assert [one["number"] for one in client.get(path(kit, "/editions")).json()["editions"]] == [1]


def test_a_pair_is_approved_only_for_what_it_bears(client: TestClient, kit: Json) -> None:
    lamp = {"pairs": [{"text": "lamp.base", "ground": "deep-water.base"}]}
    assert approve(client, kit, **lamp, use="body text").status_code == 422
    assert approve(client, kit, **lamp, use="large text").status_code == 200
    both = [HULL_ON_FOG, {"text": "fog.base", "ground": "lamp.base"}]
    refused = approve(client, kit, pairs=both, use="graphics")
    assert refused.status_code == 422
    assert "1 of 2 pairs does not reach it, such as Fog on Lamp at" in refused.json()["detail"]
    assert len(client.get(path(kit, "/pairs")).json()["decisions"]) == 1, "all or nothing"
    assert approve(client, kit, pairs=both).status_code == 200
    uses = {one["use"] for one in client.get(path(kit, "/pairs")).json()["decisions"]}
    assert uses == {"body text", "large text", "decoration"}
    assert approve(client, kit, pairs=[{"text": "gone.base", "ground": "fog.base"}]).status_code == 422


@pytest.mark.parametrize("form", KitForm)
def test_every_form_is_handed_over(client: TestClient, kit: Json, form: KitForm) -> None:
    client.post(path(kit, "/logo/light"), files={"file": ("logo.svg", logo())})
    client.patch(path(kit, "/logo"), json={"backing": {"shape": "pill", "color": "fog.base", "padding": 30}})
    approve(client, kit)
    published(client, kit)
    for number in (0, 1):
        answer = client.get(path(kit, f"/editions/{number}/hand-over/{form}"), params={"codes": ["hex", "CMYK"]})
        assert answer.status_code == 200
        assert answer.headers["content-type"].partition(";")[0] == FORMS[form].media_type.partition(";")[0]
        assert "attachment" in answer.headers["content-disposition"]
        assert len(answer.content) > 300
    if form is KitForm.SHEET:
        text_found = "".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(answer.content)).pages)
        assert "Edition 1" in text_found


def test_tokens_of_an_edition_make_the_same_kit(client: TestClient, kit: Json) -> None:
    approve(client, kit)
    published(client, kit)
    tokens = client.get(path(kit, "/editions/1/hand-over/tokens")).text
    brought = client.post("/api/kit-file", files={"file": ("kit.tokens.json", tokens.encode())})
    assert brought.status_code == 201
    other = client.get(f"/api/kits/{brought.json()['id']}").json()
    assert other["colors"] == client.get(path(kit)).json()["colors"]
    again = client.get(f"/api/kits/{other['id']}/editions/0/hand-over/tokens").text
    assert read_kit_tokens(again) == read_kit_tokens(tokens)


def test_a_kit_from_elsewhere_comes_without_pictures_that_are_not_here(client: TestClient, kit: Json) -> None:
    client.post(path(kit, "/logo/light"), files={"file": ("logo.svg", logo())})
    tokens = client.get(path(kit, "/editions/0/hand-over/tokens")).text
    elsewhere = re.sub('"([0-9a-f]{64})"', lambda found: f'"{found[1][::-1]}"', tokens)
    assert elsewhere != tokens
    for written, here in ((tokens, True), (elsewhere, False)):
        brought = client.post("/api/kit-file", files={"file": ("kit.tokens.json", written.encode())}).json()
        assert bool(client.get(f"/api/kits/{brought['id']}/logo").json()["on_light"]) == here
        assert any("logo" in note for note in brought["notes"]) != here
        for form in ("sheet", "deck"):
            assert client.get(f"/api/kits/{brought['id']}/editions/0/hand-over/{form}").status_code == 200


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "is no JSON"),
        (b"\xff\xfe\x00", "is no text"),
        (b'{"a": {"$type": "color", "$value": "{a}"}}', "circle: a → a"),
        (json.dumps({"a": {"$type": "shadow", "$value": 1}}).encode(), "holds no color tokens"),
    ],
)
def test_tokens_that_are_none_are_refused(client: TestClient, data: bytes, words: str) -> None:
    before = client.get("/api/kits").json()
    answer = client.post("/api/kit-file", files={"file": ("x.json", data)})
    assert answer.status_code == 422
    assert words in answer.json()["detail"]
    assert client.get("/api/kits").json() == before


def test_a_link_works_signed_out_until_it_is_revoked_or_ends(client: TestClient, kit: Json) -> None:
    client.post(path(kit, "/logo/light"), files={"file": ("logo.svg", logo())})
    approve(client, kit)
    published(client, kit, "For the printer.")
    made = client.post(path(kit, "/editions/1/links"), json={"days": 2}).json()
    token = made["path"].rpartition("/")[2]
    stranger = TestClient(client.app)
    seen = stranger.get(f"/api/shared/{token}")
    assert seen.status_code == 200
    assert seen.json()["note"] == "For the printer."
    client.patch(path(kit, "/colors/hull"), json={"code": "#101820"})
    assert stranger.get(f"/api/shared/{token}").json()["colors"][3]["hex"] == "#16252b", "only that edition"
    assert stranger.get(f"/api/shared/{token}/hand-over/css").status_code == 200
    assert stranger.get(f"/api/shared/{token}/logo", params={"key": seen.json()["logo"]["key"]}).status_code == 200
    assert stranger.get(f"/api/shared/{token}/logo", params={"key": "0" * 64}).status_code == 404
    assert stranger.get("/api/shared/not-a-token-of-ours").status_code == 404
    assert client.get(path(kit, "/links")).json()[0]["path"] is None, "the address is told once"
    assert client.delete(path(kit, f"/links/{made['id']}")).json()["state"] == "revoked"
    gone = stranger.get(f"/api/shared/{token}")
    assert gone.status_code == 410
    assert "revoked" in gone.json()["detail"]
    second = client.post(path(kit, "/editions/1/links"), json={}).json()
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        session.execute(text("UPDATE links SET ends_at = now() WHERE id = :id"), {"id": second["id"]})
    expired = stranger.get(f"/api/shared/{second['path'].rpartition('/')[2]}")
    assert expired.status_code == 410
    assert "expired" in expired.json()["detail"]


def test_readers_do_not_see_who_has_links(client: TestClient, kit: Json) -> None:
    reader = TestClient(client.app)
    reader.post("/api/session", json=READER.sign_in)
    assert reader.get(path(kit, "/links")).status_code == 403
    assert reader.get(path(kit, "/editions")).status_code == 200


def test_kits_are_copied_archived_and_made_active(client: TestClient, kit: Json) -> None:
    copy = client.post(path(kit, "/copy"), json={"name": "Winter"}).json()
    assert copy["colors"] == kit["colors"]
    before = next(one["id"] for one in client.get("/api/kits").json() if one["active"])
    listed = client.put(path(copy, "/active")).json()
    assert [one["id"] for one in listed if one["active"]] == [copy["id"]]
    assert client.put(path(copy, "/archived"), json={"archived": True}).status_code == 409
    client.put(f"/api/kits/{before}/active")
    assert client.put(path(copy, "/archived"), json={"archived": True}).status_code == 200
    assert client.put(path(copy, "/active")).status_code == 409
    assert client.get(path(copy)).status_code == 200, "an archived kit is still there"


def test_a_logo_is_a_picture(client: TestClient, kit: Json) -> None:
    for name, data in (
        ("logo.gif", b"GIF89a"),
        ("logo.svg", b"<svg"),
        ("logo.png", b"\x89PNG\r\n\x1a\nbroken"),
        ("x", b""),
    ):
        answer = client.post(path(kit, "/logo/dark"), files={"file": (name, data)})
        assert answer.status_code == 422, name
        assert answer.json()["detail"]
    assert client.get(path(kit, "/logo")).json()["on_dark"] is None
    framed = Image.new("RGB", (60, 60), "#ffffff")
    framed.paste("#0b5e6b", (20, 20, 40, 40))
    jpeg = io.BytesIO()
    framed.save(jpeg, "JPEG", quality=95)
    assert client.post(path(kit, "/logo/light"), files={"file": ("logo.jpg", jpeg.getvalue())}).status_code == 200
    light = client.get(path(kit, "/logo")).json()["on_light"]
    assert light["box"] in ("#ffffff", "#fefefe"), "a box round it is told"
    assert client.get(path(kit, "/editions/0/hand-over/sheet"), params={"parts": "logo"}).status_code == 200
    assert client.post(path(kit, "/logo/light/freed"), json={}).status_code == 200
    assert client.get(path(kit, "/logo")).json()["on_light"]["box"] is None
    assert client.post(path(kit, "/logo/light/freed"), json={}).status_code == 422


def test_a_kit_of_one_color_has_no_pairs_and_says_so(client: TestClient) -> None:
    kit = client.post("/api/kits", json={"name": "One", "colors": COLORS[:1]}).json()
    for rest in ("/pairs", "/diagnosis", "/trios", "/vision", "/states", "/see-through", "/publish"):
        assert client.get(path(kit, rest)).status_code == 200
    assert client.get(path(kit, "/diagnosis")).json()["summary"].startswith("There is no pair yet")
    assert client.post("/api/session", json=COORDINATOR.sign_in).status_code == 200
