"""Prove over the API: steps, nudges, trios, vision, rules, see-through, states, type, logo, comments, the record."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.parse import parse_color
from pavese.core.color.vision import Vision, seen
from pavese.core.kit.kit import Kit
from pavese.core.kit.places import touched
from pavese.demo.pictures import logo
from pavese.store import kits, records
from tests.core.strategies import proven_kits

Json = dict[str, Any]
COLORS = [
    {"name": "Deep water", "role": "primary", "code": "#0b5e6b"},
    {"name": "Buoy", "role": "action", "code": "#d2452d"},
    {"name": "Fog", "role": "background", "code": "#eef0ec"},
    {"name": "Pewter", "role": "neutral", "code": "#7d878c"},
    {"name": "Hull", "role": "text dark", "code": "#16252b"},
]


@pytest.fixture
def kit(client: TestClient) -> Json:
    """A kit with nothing decided."""
    made: Json = client.post("/api/kits", json={"name": "Proof", "colors": COLORS}).json()
    return made


def path(kit: Json, rest: str = "") -> str:
    return f"/api/kits/{kit['id']}{rest}"


def approve(client: TestClient, kit: Json, *pairs: tuple[str, str]) -> None:
    sent = [{"text": f"{text}.base", "ground": f"{ground}.base"} for text, ground in pairs]
    assert client.post(path(kit, "/decisions"), json={"pairs": sent, "status": "approved"}).status_code == 200


def decisions(client: TestClient, kit: Json) -> dict[str, str]:
    found = client.get(path(kit, "/pairs")).json()
    name = [subject["name"] for subject in found["subjects"]]
    return {f"{name[one['text']]} on {name[one['ground']]}": one["status"] for one in found["decisions"]}


def test_the_matrix_says_what_the_colors_say(client: TestClient, kit: Json) -> None:
    client.put(path(kit, "/steps"), json={"steps": ["deep-water.800", "fog.base", "deep-water.800", "pewter.100"]})
    found = client.get(path(kit, "/pairs"), params={"vision": "deutan", "severity": 60}).json()
    subjects = found["subjects"]
    assert [one["token"] for one in subjects] == [
        "deep-water.base", "deep-water.800", "buoy.base", "fog.base", "pewter.base", "pewter.100", "hull.base"
    ]  # fmt: skip
    colors = [parse_color(one["hex"]).rgb for one in subjects]
    assert [one["seen"] for one in subjects] == [color.hex for color in seen(colors, Vision.DEUTAN, 0.6)]
    for ground, row in enumerate(found["ratios"]):
        for text, shown in enumerate(row):
            ratio = contrast_ratio(colors[text], colors[ground])
            assert float(shown) <= ratio < float(shown) + 0.011
            level = found["level_names"][found["levels"][ground][text]]
            least = {"none": 0, "large": 3, "AA": 4.5, "AAA": 7}
            assert text == ground or level == max((one for one in least if least[one] <= ratio), key=least.get)
            use = found["use_names"][found["uses"][ground][text]]
            assert use == ("body text" if ratio >= 4.5 else "large text" if ratio >= 3 else "decoration")
    assert sum(found["counts"].values()) == 7 * 6


def test_steps_that_are_none_are_refused(client: TestClient, kit: Json) -> None:
    for steps in (["gone.500"], ["deep-water.550"], ["deep-water"]):
        answer = client.put(path(kit, "/steps"), json={"steps": steps})
        assert answer.status_code == 422
        assert steps[0].partition(".")[0] in answer.json()["detail"]
    assert client.get(path(kit)).json()["history"]["revision"] == 0


@pytest.mark.parametrize("use", ["body text", "large text"])
@pytest.mark.parametrize("changes", ["text", "ground", "both"])
@pytest.mark.parametrize("taken_as", ["step", "new", "base"])
def test_a_nudge_is_taken_in_one_step(client: TestClient, kit: Json, use: str, changes: str, taken_as: str) -> None:
    asked = {"text": "pewter.base", "ground": "fog.base", "use": use}
    found = client.get(path(kit, "/nudges"), params=asked).json()
    sent = {**asked, "changes": changes, "taken_as": taken_as}
    if use == "large text":
        assert found["ways"] == []
        assert client.post(path(kit, "/nudges"), json=sent).status_code == 422
        return
    way = next(way for way in found["ways"] if way["changes"] == changes)
    before = client.get(path(kit)).json()
    after = client.post(path(kit, "/nudges"), json=sent).json()
    assert after["history"]["undo"] == "Nudge Pewter on Fog"
    moved = {"text": ["text"], "ground": ["ground"], "both": ["text", "ground"]}[changes]
    if taken_as == "base":
        assert client.get(path(kit, "/nudges"), params=asked).json()["ways"] == []
    elif taken_as == "new":
        assert {color["hex"] for color in after["colors"]} >= {way[side] for side in moved}
        assert len(after["colors"]) == len(before["colors"]) + len(moved)
    else:
        keys = {"text": "pewter", "ground": "fog"}
        tokens = {side: f"{keys[side]}.{way[f'{side}_step']}" if side in moved else asked[side] for side in keys}
        pairs = client.get(path(kit, "/pairs")).json()
        at = {one["token"]: number for number, one in enumerate(pairs["subjects"])}
        assert float(pairs["ratios"][at[tokens["ground"]]][at[tokens["text"]]]) >= 4.5
    assert client.post(path(kit, "/undo")).json()["colors"] == before["colors"]


def test_trios_are_found_decided_and_opened_with_their_pairs(client: TestClient, kit: Json) -> None:
    assert client.get(path(kit, "/trios")).json() == []
    approve(client, kit, ("hull", "fog"), ("deep-water", "fog"), ("fog", "hull"))
    found = client.get(path(kit, "/trios")).json()
    assert {one["ground"]["token"] for one in found} == {"fog.base"}
    sent = [{"ground": "fog.base", "title": "hull.base", "graphic": "deep-water.base"}]
    body = {"trios": sent, "status": "approved"}
    assert client.post(path(kit, "/trios"), json=body).status_code == 200
    by_title = {one["title"]["token"]: one["status"] for one in client.get(path(kit, "/trios")).json()}
    assert by_title == {"hull.base": "approved", "deep-water.base": "open"}
    client.patch(path(kit, "/colors/deep-water"), json={"code": "#a0c8d0"})
    assert decisions(client, kit)["Deep water on Fog"] == "open"
    refused = client.post(path(kit, "/trios"), json=body)
    assert refused.status_code == 422
    assert "only while both of its pairs are approved" in refused.json()["detail"]


def test_stricter_rules_open_what_they_no_longer_bear(client: TestClient, kit: Json) -> None:
    approve(client, kit, ("hull", "fog"), ("deep-water", "fog"))
    rules = client.get(path(kit, "/rules")).json()["rules"]
    assert client.put(path(kit, "/rules"), json={**rules, "least_body": 7}).status_code == 200
    assert decisions(client, kit) == {"Hull on Fog": "approved", "Deep water on Fog": "open"}
    assert "body text 7" in " ".join(client.get(path(kit, "/rules")).json()["words"])
    for wrong in ({"least_body": 4}, {"accent_share": 101}, {"same": 6, "near": 5}, {"body_text": ["nobody"]}):
        assert client.put(path(kit, "/rules"), json={**rules, **wrong}).status_code == 422
    client.post(path(kit, "/undo"))
    assert decisions(client, kit)["Deep water on Fog"] == "approved"


def test_what_counts_as_ours_is_the_kit_s_own_rule(client: TestClient, kit: Json) -> None:
    rules = client.get(path(kit, "/rules")).json()["rules"]

    def verdict() -> str:
        answer = client.post(path(kit, "/ours"), json={"text": "#0c6270"}).json()
        return str(answer["answers"][0]["verdict"])

    assert verdict() == "near"
    client.put(path(kit, "/rules"), json={**rules, "same": 4})
    assert verdict() == "ours"
    client.put(path(kit, "/rules"), json={**rules, "same": 0.5, "near": 1})
    assert verdict() == "off"


def test_see_through_settings_are_kept_and_replayed(client: TestClient, kit: Json) -> None:
    setting = {"of": "deep-water", "base": "fog.base", "vividness": {"shape": "late", "strength": 50, "begins": 80}}
    preview = client.post(path(kit, "/see-through/preview"), json=setting).json()
    assert client.get(path(kit, "/see-through")).json() == [], "trying changes nothing"
    assert client.put(path(kit, "/see-through"), json={"settings": [setting]}).status_code == 200
    [kept] = client.get(path(kit, "/see-through")).json()
    assert kept == preview
    assert kept["steps"][0]["exact"]
    assert not kept["steps"][-1]["exact"]
    assert {ground["name"] for ground in kept["grounds"]} == {"White", "Black", "Pewter", "Hull"}
    client.patch(path(kit, "/colors/deep-water"), json={"code": "#7a2048"})
    [replayed] = client.get(path(kit, "/see-through")).json()
    assert replayed["setting"] == setting
    assert replayed["steps"] != kept["steps"]
    for wrong in ({"of": "gone"}, {"of": "fog", "base": "gone.base"}, {"of": "fog", "base": "red"}):
        assert client.put(path(kit, "/see-through"), json={"settings": [wrong]}).status_code == 422
    client.delete(path(kit, "/colors/deep-water"))
    assert client.get(path(kit, "/see-through")).json() == []


def test_sample_words_are_those_of_the_kit_until_there_are_others(client: TestClient, kit: Json) -> None:
    said = {"headline": "  Across   at noon ", "sentence": "", "action": "Board"}
    now = client.put(path(kit, "/samples"), json=said).json()
    assert (now["samples"]["headline"], now["samples"]["action"]) == ("Across at noon", "Board")
    assert client.put(path(kit, "/samples"), json={"headline": "x" * 61}).status_code == 422
    assert client.get(f"/api/kits/{kit['id']}").json()["samples"] == now["samples"]
    assert client.post(f"/api/kits/{kit['id']}/undo").json()["samples"] == kit["samples"]


def test_states_move_by_the_distances(client: TestClient, kit: Json) -> None:
    names = [look["name"] for look in client.get(path(kit, "/states")).json()["controls"][0]["looks"]]
    assert names == ["Buoy", "Buoy 600", "Buoy 700", "Buoy 100", "Buoy"]
    client.put(path(kit, "/states"), json={"hover": 2, "pressed": 3, "disabled": 4})
    names = [look["name"] for look in client.get(path(kit, "/states")).json()["controls"][0]["looks"]]
    assert names[1:3] == ["Buoy 700", "Buoy 800"]
    assert client.put(path(kit, "/states"), json={"hover": 0}).status_code == 422


def test_logo_and_type_are_of_the_kit(client: TestClient, kit: Json) -> None:
    sent = client.post(path(kit, "/logo/light"), files={"file": ("Signet ⛴.svg", logo())})
    assert sent.status_code == 200
    found = client.get(path(kit, "/logo")).json()
    assert found["on_light"]["name"] == "Signet ⛴.svg"
    by_name = {one["name"]: one for one in found["grounds"]}
    assert by_name["Fog"]["enough"]
    assert not by_name["Hull"]["enough"]
    picture = client.get(path(kit, f"/logo/{found['on_light']['key']}/picture"))
    assert picture.content == logo()
    assert "sandbox" in picture.headers["content-security-policy"], "a drawing may do nothing"
    backing = {"shape": "circle", "color": "fog.base", "padding": 40}
    client.patch(path(kit, "/logo"), json={"backing": backing, "clear_space": 75})
    found = client.get(path(kit, "/logo")).json()
    assert (found["backing"], found["clear_space"]) == (backing, 75)
    assert all(one["enough"] and one["behind"] == "#eef0ec" for one in found["grounds"])
    assert client.patch(path(kit, "/logo"), json={"backing": {"color": "gone.base"}}).status_code == 422
    client.delete(path(kit, "/colors/fog"))
    assert client.get(path(kit, "/logo")).json()["backing"] is None, "its color is gone"
    client.put(path(kit, "/type"), json={"headline": "  Quay   Antiqua ", "text": ""})
    assert client.get(path(kit, "/type")).json()["headline"]["wanted"] == "Quay Antiqua"
    assert client.get(path(kit, "/type")).json()["text"] is None


def test_comments_stay(client: TestClient, kit: Json) -> None:
    for about, words in (("", "A fine kit. 🛟"), ("Hull on Fog", "Our best pair.")):
        client.post(path(kit, "/comments"), json={"about": about, "text": words})
    found = client.get(path(kit, "/comments")).json()
    assert [(one["who"], one["about"], one["text"]) for one in found] == [
        ("Maren Quist", "Hull on Fog", "Our best pair."),
        ("Maren Quist", "", "A fine kit. 🛟"),
    ]
    assert client.post(path(kit, "/comments"), json={"text": ""}).status_code == 422


@settings(max_examples=20, suppress_health_check=list(HealthCheck))
@given(states=st.lists(proven_kits(), min_size=1, max_size=4))
def test_the_record_leads_from_the_first_state_to_the_last(client: TestClient, states: list[Kit]) -> None:
    """Each place's values chain up, and together they tell all that differs between the ends."""
    first = Kit(name="A kit")
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        row = kits.create(session, first)
        for state in states:
            kits.change(session, row, "Something", lambda _, state=state: state)
        kits.undo(session, row)
        last = kits.kit_of(session, row)
        told: dict[str, Any] = {}
        for record in reversed(records.listed(session, row.id)):
            for place, change in record.places.items():
                assert told.get(place, {"after": change["before"]})["after"] == change["before"]
                told[place] = {"before": told.get(place, change)["before"], "after": change["after"]}
    moved = {place: one for place, one in told.items() if one["before"] != one["after"]}
    assert moved == {place: one._asdict() for place, one in touched(first, last).items()}
