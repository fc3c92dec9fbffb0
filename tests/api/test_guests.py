"""Guest colors: of one set only, with ramps like the kit's, handed over with it."""

from __future__ import annotations

import io
import zipfile

from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.kit.kit import members
from pavese.core.kit.token_file import read_kit_tokens
from pavese.core.recolor.plan import MOST_GUESTS, Plan
from pavese.demo.icons import icon_files
from pavese.demo.load import demo_kit
from tests.api.test_sets import Json, kit, start
from tests.core.strategies import colors

__all__ = ["kit"]

CORAL = "#ff6f91"


def paint(view: Json, key: str) -> Json:
    return next(one for one in view["paints"] if one["key"] == key)


def test_a_guest_is_ours_in_its_set_only(client: TestClient, kit: Json) -> None:
    view = start(client, kit, *list(icon_files().items())[:6])
    other = start(client, kit, *list(icon_files().items())[:6])
    url = f"/api/sets/{view['id']}"
    key = view["paints"][0]["key"]
    view = client.post(f"{url}/guests", json={"colors": [{"hex": CORAL, "name": "Regatta coral"}]}).json()
    [guest] = view["guests"]
    assert (guest["name"], guest["key"], len(guest["steps"])) == ("Regatta coral", "guest-regatta-coral", 11)
    view = client.post(f"{url}/aim", json={"paints": [key], "target": "guest-regatta-coral.base"}).json()
    assert (paint(view, key)["target_hex"], paint(view, key)["guest"]) == (CORAL, True)
    assert client.get(f"{url}/check").json()["clean"] == 6
    # Elsewhere it is a stranger, as a token and as a color.
    elsewhere = f"/api/sets/{other['id']}"
    refused = client.post(f"{elsewhere}/aim", json={"paints": [key], "target": "guest-regatta-coral.base"})
    assert refused.status_code == 422
    client.post(f"{elsewhere}/aim", json={"paints": [key], "target": CORAL})
    assert client.get(f"{elsewhere}/check").json()["clean"] < 6
    # What is handed over makes the same again, from a kit that knows nothing of it.
    packed = zipfile.ZipFile(io.BytesIO(client.get(f"{url}/package.zip").content))
    own = read_kit_tokens(packed.read("kit.tokens.json").decode())
    assert "guest-regatta-coral" not in {color.key for color in own.colors}
    assert b"guest-regatta-coral" in packed.read("kit.css")
    assert read_plan_file(packed.read("plan.json").decode()).resolve(own)
    # Sent away, what went to it is planned anew; undo brings both back.
    gone = client.delete(f"{url}/guests/guest-regatta-coral").json()
    assert gone["guests"] == []
    assert not paint(gone, key)["guest"]
    assert paint(client.post(f"{url}/undo").json(), key)["target_hex"] == CORAL


def test_guests_that_cannot_be(client: TestClient, kit: Json) -> None:
    view = start(client, kit, *list(icon_files().items())[:1])
    url = f"/api/sets/{view['id']}/guests"
    for color, said in (("#0b5e6b", "it is Deep water"), ("puce-ish", "puce-ish")):
        refused = client.post(url, json={"colors": [{"hex": color}]})
        assert (refused.status_code, said in refused.json()["detail"]) == (422, True)
    twelve = [{"hex": f"#ff{number:02x}91"} for number in range(MOST_GUESTS)]
    named = client.post(url, json={"colors": twelve}).json()["guests"]
    assert len({guest["name"] for guest in named}) == MOST_GUESTS
    assert client.post(url, json={"colors": [{"hex": "#12ff34"}]}).status_code == 422
    assert client.delete(f"{url}/guest-nobody").status_code == 422


@given(st.lists(st.tuples(st.text(max_size=60), colors), max_size=5, unique_by=lambda one: one[1]))
def test_a_plan_brings_its_guests_along(arrivals: list[tuple[str, Rgb]]) -> None:
    ours = demo_kit()
    arrivals = [(name, color) for name, color in arrivals if color not in members(ours)]
    plan = Plan().with_guests(arrivals, ours)
    both = plan.kit_with_guests(ours)
    assert both.colors[: len(ours.colors)] == ours.colors
    assert [color.base for color in both.colors[len(ours.colors) :]] == [color for _, color in arrivals]
    assert plan.kit_with_guests(both) is both
    assert read_plan_file(plan_file(plan, ours)).guests == plan.guests
