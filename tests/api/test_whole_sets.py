"""Plans of whole sets over HTTP: what comes later, what deserves a look, planning anew, and choices by hand."""

from __future__ import annotations

from fastapi.testclient import TestClient

from tests.api.test_sets import Json, kit, start
from tests.conftest import files_of

__all__ = ["kit"]


def svg(*codes: str) -> bytes:
    stripes = "".join(f'<rect y="{at * 20}" width="100" height="20" fill="{code}"/>' for at, code in enumerate(codes))
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 {20 * len(codes)}">{stripes}</svg>'.encode()


FIRST = ("quay.svg", svg("#2f3e9e", "#ffffff", "#e53935"))


def targets(view: Json) -> dict[str, str]:
    return {paint["key"]: paint["target"] for paint in view["paints"]}


def test_files_that_come_later_are_planned_around_what_stands_and_it_is_said(client: TestClient, kit: Json) -> None:
    view = start(client, kit, FIRST)
    stood = targets(view)
    assert client.get(f"/api/sets/{view['id']}/drops/latest").json()["stood"] == 0
    sent = {"files": ("mole.svg", svg("#2f3e9e", "#43a047", "#ffca28"), "image/svg+xml")}
    later = client.post(f"/api/sets/{view['id']}/files", files=sent).json()["set"]
    assert {key: targets(later)[key] for key in stood} == stood
    drop = client.get(f"/api/sets/{view['id']}/drops/latest").json()
    assert (drop["planned"], drop["stood"]) == (2, 3)


def test_planning_anew_is_shown_before_it_is_taken(client: TestClient, kit: Json) -> None:
    view = start(client, kit, FIRST)
    path = f"/api/sets/{view['id']}"
    assert client.get(f"{path}/plan/anew").json() == {"total": 3, "changed": 0, "by_hand": 0, "paints": []}
    chosen = client.post(f"{path}/aim", json={"paints": ["#e53935"], "target": "kelp.base"}).json()
    seen = client.get(f"{path}/plan/anew").json()
    assert (seen["changed"], seen["by_hand"]) == (1, 1)
    [paint] = seen["paints"]
    assert (paint["key"], paint["css"]) == ("#e53935", "#6b7d3a")
    assert client.get(path).json()["paints"] == chosen["paints"], "nothing was kept"
    anew = client.post(f"{path}/plan").json()
    assert next(one for one in anew["paints"] if one["key"] == "#e53935")["target_css"] == paint["target_css"]
    assert targets(client.post(f"{path}/undo").json()) == targets(chosen)


def test_another_mode_keeps_what_was_chosen_by_hand_or_forgets_it(client: TestClient, kit: Json) -> None:
    view = start(client, kit, FIRST)
    path = f"/api/sets/{view['id']}"
    chosen = client.post(f"{path}/aim", json={"paints": ["#e53935"], "target": "kelp.base"}).json()
    grey = {**chosen["recipe"], "mode": "greyscale"}
    assert targets(client.put(f"{path}/recipe", json=grey).json())["#e53935"] == "kelp.base"
    forgotten = client.put(f"{path}/recipe", json=grey, params={"forget": True}).json()
    assert targets(forgotten)["#e53935"] != "kelp.base"
    assert targets(client.post(f"{path}/undo").json())["#e53935"] == "kelp.base"


def test_what_deserves_a_look_is_listed_with_remedies_that_can_be_taken(client: TestClient, kit: Json) -> None:
    # The demo's kit has nothing near a magenta.
    view = start(client, kit, ("mast.svg", svg("#ff40ff", "#ffffff", "#00d05a")))
    path = f"/api/sets/{view['id']}"
    found = client.get(f"{path}/doubts").json()
    assert found["total"] == len(found["doubts"]) > 0
    doubt = found["doubts"][0]
    assert doubt["kind"] == "a hue could not be kept"
    assert doubt["files"] == ["mast.svg"]
    [paint] = doubt["paints"]
    assert paint["target_css"] == next(one for one in view["paints"] if one["key"] == paint["key"])["target_css"]
    keep = next(remedy for remedy in doubt["remedies"] if remedy["targets"] == {paint["key"]: "keep"})
    assert keep["css"] is None
    client.post(f"{path}/aim", json={"targets": keep["targets"]})
    for bad in ({}, {"paints": [paint["key"]]}, {"targets": keep["targets"], "target": "keep"}, {"target": "keep"}):
        assert client.post(f"{path}/aim", json=bad).status_code == 422
    assert paint["key"] not in {
        one["key"] for left in client.get(f"{path}/doubts").json()["doubts"] for one in left["paints"]
    }
    assert client.get(f"{path}/doubts", params={"ground": "no color"}).status_code == 422


def test_an_exception_that_planning_makes_is_seen_with_its_file(client: TestClient, kit: Json) -> None:
    """Two greens that never met, and a file in which they do that comes later: planned apart there."""
    view = start(client, kit, ("one.svg", svg("#43a047", "#ffffff")), ("two.svg", svg("#2f9a43", "#e53935")))
    path = f"/api/sets/{view['id']}"
    same = targets(view)["#43a047"] == targets(view)["#2f9a43"]
    sent = {"files": ("both.svg", svg("#43a047", "#2f9a43"), "image/svg+xml")}
    later = client.post(f"{path}/files", files=sent).json()["set"]
    assert targets(later)["#43a047"] == targets(view)["#43a047"]
    both = next(file for file in files_of(client, view["id"]) if file["name"] == "both.svg")
    shown = client.get(f"{path}/files/{both['id']}").json()["paints"]
    assert len({paint["target_css"] for paint in shown}) == 2
    if same:
        [own] = [paint for paint in shown if paint["exception"]]
        assert "in this file only" in own["reason"]
