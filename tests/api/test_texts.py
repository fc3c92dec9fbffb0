"""Texts on their grounds over HTTP: shown with a file, listed, and checked."""

from __future__ import annotations

from fastapi.testclient import TestClient

from tests.api.test_sets import RED, Json, kit, start
from tests.conftest import files_of

__all__ = ["kit"]

LABEL = (
    b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100"><rect width="200" height="100" fill="#fdf6e3"/>'
    b'<text id="gate" x="9" y="60" font-size="20" fill="#1b1f3a">Gate 4</text></svg>'
)


def test_a_text_that_no_longer_reads_is_listed_and_found(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("label.svg", LABEL), ("plain.svg", RED))
    path = f"/api/sets/{view['id']}"
    label, plain = files_of(client, view["id"])

    def shown() -> Json:
        [text] = client.get(f"{path}/files/{label['id']}").json()["texts"]
        return dict(text)

    assert client.get(f"{path}/files/{plain['id']}").json()["texts"] == []
    text = shown()
    assert (text["text"], text["size"], text["bold"], text["bare"]) == ("Gate 4", "20", False, False)
    assert (text["reads"], text["worse"], text["needed"]) == (True, False, "4.5")
    assert client.get(f"{path}/check").json()["unread"] == 0
    assert files_of(client, view["id"], only="unread") == []

    ground = next(paint for paint in view["paints"] if paint["key"] == "#fdf6e3")
    client.post(f"{path}/aim", json={"paints": ["#1b1f3a"], "target": ground["target"], "file": "label.svg"})
    text = shown()
    assert (text["after"], text["worse"], text["ink"]) == ("1.00", True, text["ground"])
    for only in ("unread", "worse"):
        assert [file["name"] for file in files_of(client, view["id"], only=only)] == ["label.svg"]
    check = client.get(f"{path}/check").json()
    assert check["unread"] == 1
    assert [(one["name"], [row["text"] for row in one["texts"]]) for one in check["findings"] if one["texts"]] == [
        ("label.svg", ["Gate 4"])
    ]
    # A choice for the element alone counts for its text, and undo takes everything back.
    client.post(f"{path}/aim", json={"paints": ["#1b1f3a@#gate"], "target": "deep-water.900", "file": "label.svg"})
    assert shown()["reads"]
    client.post(f"{path}/undo")
    client.post(f"{path}/undo")
    assert shown()["reads"]
    assert client.get(f"{path}/check").json()["unread"] == 0
