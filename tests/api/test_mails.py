"""Sets of mails: told by what comes, worked by one ground and one ink, and handed over with nothing else moved."""

from __future__ import annotations

import io
from typing import Any

import pytest
from fastapi.testclient import TestClient
from pypdf import PdfReader

from pavese.core.color.parse import parse_color
from pavese.core.formats.mail.document import read_mail
from pavese.demo.mail import mail_files
from pavese.settings import Settings
from tests.api.test_exports import made
from tests.api.test_sets import drop, files_of, kit, start

Json = Any
__all__ = ["kit"]
RED = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#e53935" d="M0 0h9v9z"/></svg>'
MAILS = mail_files()


@pytest.fixture
def mails(client: TestClient, kit: Json) -> Json:
    return start(client, kit, *MAILS.items())


def put(client: TestClient, mails: Json, **body: Any) -> Any:
    return client.put(f"/api/sets/{mails['id']}/ground-and-ink", json=body)


def written(client: TestClient, mails: Json) -> dict[str, bytes]:
    return {
        file["name"]: client.get(f"/api/assets/{file['id']}/file", params={"of": mails["id"]}).content
        for file in files_of(client, mails["id"])
    }


def test_an_empty_set_becomes_one_for_mails_and_others_do_not_take_them(client: TestClient, kit: Json) -> None:
    mails = start(client, kit, ("delay.html", MAILS["delay.html"]))
    assert mails["channel"] == "email"
    icons = start(client, kit, ("a.svg", RED))
    [refused] = drop(client, icons["id"], ("demo.html", MAILS["delay.html"]))["refused"]
    assert refused["name"] == "demo.html"
    assert "channel email" in refused["reason"]
    # A package of drawings with a page about them is one of drawings.
    package = start(client, kit, ("a.svg", RED), ("b.svg", RED), ("index.html", MAILS["delay.html"]))
    assert (package["channel"], package["files"]) == ("icons", 2)


def test_mails_are_told_with_their_texts_and_looks(client: TestClient, kit: Json, mails: Json) -> None:
    assert mails["reading"]["texts"] > 40
    assert mails["reading"]["read"] + mails["reading"]["unknown"] <= mails["reading"]["texts"]
    file = next(one for one in files_of(client, mails["id"]) if one["name"] == "delay.html")
    view = client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()
    assert [(look["key"], look["width"], look["dark"]) for look in view["looks"]] == [
        ("desktop", 900, False),
        ("phone", 375, False),
        ("dark", 900, True),
        ("inverted", 900, False),
    ]
    assert any(text["text"] == "15:10" for text in view["texts"])
    picture = f"/api/assets/{file['id']}/picture.png"
    seen = {
        look: client.get(picture, params={"size": 500, "of": mails["id"], "look": look}).content
        for look in ("desktop", "phone", "dark")
    }
    assert len(set(seen.values())) == 3
    assert start(client, kit, ("a.svg", RED))["reading"] is None


def test_whole_results_stand_beside_the_plan_and_one_is_taken(client: TestClient, mails: Json) -> None:
    path = f"/api/sets/{mails['id']}/alternatives"
    first, light, dark = client.get(path).json()["alternatives"][:3]
    assert first["title"] == "faithful"
    assert light["title"] == "one ground, one ink: Hull on Fog"
    assert dark["title"] == "one ground, one ink: Fog on Hull"
    assert light["lost"] == dark["lost"] == 0
    taken = client.post(f"{path}/1").json()
    assert taken["reading"]["lost"] == 0
    assert taken["reading"]["read"] == taken["reading"]["texts"] - taken["reading"]["unknown"]
    assert taken["rules"]["ground"] == "fog.base"
    assert client.get(path).json()["alternatives"][1]["title"] == "faithful"
    assert client.post(f"/api/sets/{mails['id']}/undo").json()["rules"] == {}


@pytest.mark.parametrize(
    "codes", [("#c8102e",), ("#ffc800", "#5ee0a0", "#7cd3ff"), ("#3a0f2e", "#0f3a2a")], ids=["one", "light", "dark"]
)
def test_whole_results_read_also_in_a_kit_that_has_no_pair_that_does(
    client: TestClient, codes: tuple[str, ...]
) -> None:
    roles = ("primary", "secondary", "accent")
    colors = [{"name": f"Pennant {at}", "role": roles[at], "code": code} for at, code in enumerate(codes)]
    small = client.post("/api/kits", json={"name": "Small", "colors": colors}).json()
    bare = b'<body bgcolor="#ffffff"></body>'
    mails = start(client, small, ("a-frame.html", bare), *MAILS.items())
    assert mails["reading"]["lost"] == 0
    found = client.get(f"/api/sets/{mails['id']}/alternatives").json()
    whole = [one for one in found["alternatives"] if one["title"].startswith("one ground, one ink")]
    assert len(whole) == 2
    assert {one["title"]: one["lost"] for one in found["alternatives"] if one["lost"]} == {}
    assert found["files"][0]["name"] != "a-frame.html", "what has no text shows little of a plan"
    assert len(found["files"]) == len(MAILS) + 1


def test_a_chosen_ground_and_ink_outlive_what_becomes_of_the_kit(client: TestClient, kit: Json, mails: Json) -> None:
    footer, colors = "/footer", f"/api/kits/{kit['id']}/colors"
    put(client, mails, ground="fog.base", ink="hull.base").raise_for_status()
    put(client, mails, ground="hull.base", ink="lamp.base", part=footer).raise_for_status()

    def now() -> tuple[Json, Json]:
        view = client.get(f"/api/sets/{mails['id']}").json()
        return client.get(f"/api/sets/{mails['id']}/grounds-and-inks").json(), view

    # The color of what is pressed goes: that is in the ink then.
    client.delete(f"{colors}/buoy").raise_for_status()
    offered, view = now()
    assert (offered["now"]["title"], offered["now"]["pressed"]) == ("Hull on Fog", "same ink")
    assert view["reading"]["lost"] == 0
    # The ink no longer reads: that is said, and another can be chosen.
    client.patch(f"{colors}/hull", json={"code": "#c0c8cc"}).raise_for_status()
    offered, view = now()
    assert offered["now"]["title"] == "Hull on Fog"
    assert "Hull on Fog" not in [pair["title"] for pair in offered["pairs"]]
    assert view["reading"]["lost"] > 40
    # The ink goes: a ground without it would be as bad as none, so that every paint goes its own way.
    client.delete(f"{colors}/hull").raise_for_status()
    offered, view = now()
    assert (offered["now"], view["rules"], view["reading"]["lost"]) == (None, {}, 0)
    assert [part["now"] for part in offered["parts"] if part["part"] == footer] == [None]


def test_a_ground_and_an_ink_for_all_reach_the_files_and_nothing_else_moves(client: TestClient, mails: Json) -> None:
    offered = client.get(f"/api/sets/{mails['id']}/grounds-and-inks").json()
    assert offered["now"] is None
    assert all(float(pair["ratio"]) >= 4.5 for pair in offered["pairs"])
    toned = put(client, mails, ground="deep-water.base", ink="fog.base", pressed="tone on tone").json()
    assert toned["history"]["undo"] == "All in Fog on Deep water, tone on tone"
    now = client.get(f"/api/sets/{mails['id']}/grounds-and-inks").json()["now"]
    assert now == {
        "ground": "deep-water.base",
        "ink": "fog.base",
        "title": "Fog on Deep water",
        "pressed": "tone on tone",
        "action": None,
    }
    ground = parse_color("#0b5e6b").rgb
    for name, data in written(client, mails).items():
        document = read_mail(name, data)
        grounds = {site.paint.rgb for site in document.sites() if site.kind == "ground"}
        assert grounds == {ground}, name
        assert b"{{" not in MAILS[name] or data.count(b"{{") == MAILS[name].count(b"{{")
    assert put(client, mails, ground="fog.base", ink="lamp.base").status_code == 422
    assert put(client, mails, ground="fog.base", ink="gone.base").status_code == 422
    # What is pressed takes a color of the kit that stands out from the ground, with a label that reads on it.
    buttons = put(client, mails, ground="fog.base", ink="hull.base", action="kelp.800").json()
    assert buttons["history"]["undo"] == "All in Hull on Fog, buttons in Kelp 800"
    told = client.get(f"/api/sets/{mails['id']}/grounds-and-inks").json()
    assert (told["now"]["pressed"], told["now"]["action"], told["actions"]) == (None, "kelp.800", [])
    assert buttons["reading"]["lost"] == 0
    assert put(client, mails, ground="fog.base", ink="hull.base", action="fog.100").status_code == 422
    assert put(client, mails).json()["rules"] == {}


def test_a_choice_by_hand_stays_when_all_get_a_ground(client: TestClient, mails: Json) -> None:
    path = f"/api/sets/{mails['id']}"
    client.post(f"{path}/aim", json={"paints": ["#f5c469"], "target": "lamp.base"})
    put(client, mails, ground="fog.base", ink="hull.base", pressed="same ink")
    assert b"#EFB23A" in written(client, mails)["departures.html"]


def test_what_is_no_mail_is_refused_and_the_rest_is_taken(client: TestClient, kit: Json) -> None:
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "Mails", "channel": "email"}).json()
    drops = [
        ("empty.html", b""),
        ("words.html", b"no tag at all"),
        ("zero.html", b"<p>\0</p>"),
        ("deep.html", b"<div>" * 600),
        ("good.html", MAILS["season.html"]),
    ]
    answer = drop(client, made["id"], *drops)
    assert answer["set"]["files"] == 1
    assert [one["name"] for one in answer["refused"]] == ["empty.html", "words.html", "zero.html", "deep.html"]


def test_the_proof_tells_every_text_with_its_level(
    client: TestClient, app_settings: Settings, database_url: str, mails: Json
) -> None:
    put(client, mails, ground="fog.base", ink="hull.base")
    forms = ["proof of mails", "contact sheet", "PNG", "favicon and app icons"]
    inside = made(client, app_settings, database_url, mails, forms=forms)
    assert {name for name in inside if name.startswith("proof/")} == {f"proof/{name[:-5]}.pdf" for name in MAILS}
    # What is made of drawings is not made of mails.
    assert not any(name.startswith(("png/", "favicon/")) for name in inside)
    proof = PdfReader(io.BytesIO(inside["proof/delay.pdf"]))
    said = " ".join(page.extract_text() for page in proof.pages)
    assert proof.metadata is not None
    assert proof.metadata.title == "Your crossing is delayed"
    assert "reads on its ground" in said
    assert "In dark mode" in said
    assert "#16252b #eef0ec" in " ".join(said.split())
    assert "below AA" not in said
    put(client, mails)
    aimed = {"paints": ["#2b2540"], "target": "fog.base"}
    assert client.post(f"/api/sets/{mails['id']}/aim", json=aimed).status_code == 200
    for which, left_out in (({}, True), ({"text": "ticket"}, False)):
        states = {"which": which, "left_out": left_out}
        assert client.post(f"/api/sets/{mails['id']}/file-states", json=states).status_code == 200
    inside = made(client, app_settings, database_url, mails, forms=["proof of mails"])
    said = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(inside["proof/ticket.pdf"])).pages)
    assert "do not read at level AA" in said


def test_footers_of_all_mails_go_their_own_way_and_one_mail_another(client: TestClient, mails: Json) -> None:
    put(client, mails, ground="fog.base", ink="hull.base", pressed="same ink")
    path = f"/api/sets/{mails['id']}/grounds-and-inks"
    parts = {one["part"]: one for one in client.get(path).json()["parts"]}
    assert [(one["title"], one["now"]) for one in parts.values()] == [
        ("Outer ground", None),
        ("Preheaders", None),
        ("Headers", None),
        ("Footers", None),
        ("In the dark", None),
    ]
    assert parts["/dark"]["files"] == len(MAILS)
    dark = put(client, mails, part="/footer", ground="hull.base", ink="fog.base").json()
    assert dark["history"]["undo"] == "Footers in Fog on Hull"
    assert dark["reading"]["lost"] == 0
    hull, fog = parse_color("#16252b").rgb, parse_color("#eef0ec").rgb

    def grounds() -> dict[str, set[Any]]:
        after = ((name, read_mail(name, data).sites()) for name, data in written(client, mails).items())
        return {name: {site.paint.rgb for site in sites if site.kind == "ground"} for name, sites in after}

    assert grounds()["departures.html"] == {fog, hull}
    file = next(one for one in files_of(client, mails["id"]) if one["name"] == "departures.html")
    view = client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()
    told = {one["key"]: (one["target"], one["by"]) for one in view["paints"] if one["part"] == "/footer"}
    assert told["#22303a@/footer"] == ("hull.base", "rule")
    assert ("fog.base", "rule") in told.values()
    put(client, mails, part="/footer", file="departures.html", kept=True)
    assert client.get(path, params={"file": "departures.html"}).json()["parts"][0]["kept"] is True
    assert parse_color("#22303a").rgb in grounds()["departures.html"]
    assert grounds()["season.html"] == {fog, hull}
    put(client, mails, part="/footer", file="departures.html")
    assert grounds()["departures.html"] == {fog, hull}
    assert put(client, mails, part="/footer", file="none.html").status_code == 422
    assert put(client, mails, part="footer").status_code == 422
    assert put(client, mails, part="/footer", ground="fog.base", ink="lamp.base").status_code == 422


def test_mails_are_given_a_scheme_for_the_dark_and_can_lose_it_again(client: TestClient, mails: Json) -> None:
    before = written(client, mails)
    put(client, mails, part="/dark", ground="hull.base", ink="fog.base", pressed="same ink")
    assert all(data.count(b"prefers-color-scheme") > 0 for data in written(client, mails).values())
    file = next(one for one in files_of(client, mails["id"]) if one["name"] == "reply.html")
    seen = {
        look: client.get(
            f"/api/assets/{file['id']}/picture.png", params={"size": 500, "of": mails["id"], "look": look}
        ).content
        for look in ("desktop", "dark")
    }
    assert seen["desktop"] != seen["dark"]
    # It is no act that is chosen field by field, and for one mail alone it is not chosen.
    assert "dark-scheme" not in [act["key"] for act in client.get("/api/formats").json()["acts"]]
    assert put(client, mails, part="/dark", file="reply.html", kept=True).status_code == 422
    assert put(client, mails, part="/dark").json()["acts"] == {}
    assert written(client, mails) == before


def test_a_paint_is_told_where_it_stands_in_the_source_and_what_it_becomes(client: TestClient, mails: Json) -> None:
    put(client, mails, ground="fog.base", ink="hull.base", pressed="same ink")
    file = next(one for one in files_of(client, mails["id"]) if one["name"] == "departures.html")
    path = f"/api/sets/{mails['id']}/files/{file['id']}/places"
    lines = MAILS["departures.html"].decode().split("\n")
    told = client.get(path, params={"paint": "#e67e22"}).json()
    assert {one["kind"] for one in told} == {"button"}
    assert any("fillcolor of v:roundrect, in the part [if mso]" in one["said"] for one in told)
    for paint in file["paints"]:
        for one in client.get(path, params={"paint": paint}).json():
            if not one["said"].startswith("nothing"):
                assert paint[1:7].lower() in lines[one["line"] - 1].lower() or "#fff" in lines[one["line"] - 1].lower()
            assert one["becomes"].startswith("#")
    assert client.get(path, params={"paint": "none"}).status_code == 422
    svg = start(client, {"id": mails["kit_id"]}, ("a.svg", RED))
    [drawing] = files_of(client, svg["id"])
    assert client.get(f"/api/sets/{svg['id']}/files/{drawing['id']}/places", params={"paint": "#e53935"}).json() == []


def test_samples_stand_for_code_in_pictures_and_nowhere_else(client: TestClient, mails: Json) -> None:
    file = next(one for one in files_of(client, mails["id"]) if one["name"] == "ticket.html")
    view = client.get(f"/api/sets/{mails['id']}/files/{file['id']}").json()
    assert view["codes"]
    before = written(client, mails)
    picture = f"/api/assets/{file['id']}/picture.png"
    shown = client.get(picture, params={"size": 500, "of": mails["id"]}).content
    path = f"/api/sets/{mails['id']}/samples"
    values = dict.fromkeys(view["codes"], "Skerry <b> & Holm")
    made = client.put(path, json={"values": values}).json()
    assert made["samples"] == values
    assert client.get(picture, params={"size": 500, "of": mails["id"]}).content != shown
    assert written(client, mails) == before
    assert client.put(path, json={"values": {view["codes"][0]: " "}}).json()["samples"] == {}
    assert client.put(path, json={"values": {"x": "y" * 401}}).status_code == 422
    # So does one branch of what the code asks; what else is chosen stays beside it.
    assert view["conditions"] == [{"words": "count > 1", "branches": ["count > 1", "otherwise"]}]
    made = client.put(path, json={"values": values, "branches": {"count > 1": "otherwise"}}).json()
    assert (made["samples"], made["branches"]) == (values, {"count > 1": "otherwise"})
    assert written(client, mails) == before
    assert client.put(path, json={"values": {}}).json()["branches"] == {}
