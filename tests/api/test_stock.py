"""The stock library: searched with typos, seen in the kit's colors, taken with its rights."""

from __future__ import annotations

import io

import pytest
from fastapi.testclient import TestClient
from PIL import Image

from pavese.core.formats import read
from pavese.core.gather.stock import StockKind, Wish, search
from pavese.demo.stock import StandIn
from tests.api.test_sets import Json, kit, start
from tests.conftest import files_of

__all__ = ["kit"]

ITEMS = StandIn().items()


def test_the_library_is_large_enough_and_every_drawing_can_be_read() -> None:
    icons = [item for item in ITEMS if item.kind is StockKind.ICON]
    assert len(icons) >= 120
    assert sum(item.kind is StockKind.ILLUSTRATION for item in ITEMS) >= 12
    assert len({item.pack for item in ITEMS}) == 6
    assert all(item.author and item.rights and item.tags for item in ITEMS)
    for item in ITEMS:
        assert read(item.file_name, StandIn().file(item.id)).inventory().paints


@pytest.mark.parametrize(
    ("text", "title"),
    [
        ("ferry", "Crossing"), ("fery", "Crossing"), ("lighthuose", "Harbor light"), ("FIRST aid", "First aid"),
        ("whelchair", "Step free"),
    ],
)  # fmt: skip
def test_words_are_found_with_typos(text: str, title: str) -> None:
    assert search(ITEMS, Wish(text, kind=StockKind.ICON))[0].title == title


def test_what_is_nothing_like_it_is_not_found() -> None:
    assert search(ITEMS, Wish("quasar")) == []
    assert search(ITEMS, Wish("ferry quasar")) == []
    assert len(search(ITEMS, Wish())) == len(ITEMS)


def test_packs_colors_and_manner_are_told_apart() -> None:
    lines = search(ITEMS, Wish(pack="Signal line"))
    assert len(lines) == 30
    assert all(item.traits.stroked and item.traits.paints == 1 for item in lines)
    assert not any(item.traits.stroked for item in search(ITEMS, Wish(stroked=False)))
    assert all(item.traits.paints > 1 for item in search(ITEMS, Wish(several=True)))
    like = tuple(item.traits for item in lines[:5])
    assert {item.pack for item in search(ITEMS, Wish(kind=StockKind.ICON, like=like))[:20]} == {"Signal line"}


def test_drawings_are_added_with_their_rights(client: TestClient, kit: Json) -> None:
    view = start(client, kit)
    found = client.get("/api/stock", params={"text": "ferry", "like": view["id"]}).json()
    assert found["found"] == len([item for item in ITEMS if "ferry" in item.tags])
    ids = ["harbor-flat/crossing", "two-tides/crossing", "signal-line/bell"]
    added = client.post(f"/api/sets/{view['id']}/stock", json={"ids": ids}).json()
    assert [asset["name"] for asset in files_of(client, added["id"])] == [
        "Harbor flat crossing.svg", "Two tides crossing.svg", "bell.svg"
    ]  # fmt: skip
    assert files_of(client, added["id"])[0]["rights"] == {
        "origin": "Quayside Stock (a stand-in), Harbor flat", "author": "Ines Halloran", "rights": "CC BY 4.0"
    }  # fmt: skip
    assert client.post(f"/api/sets/{view['id']}/stock", json={"ids": ["gone/x"]}).status_code == 404


def test_a_drawing_is_shown_in_the_kit_s_colors(client: TestClient, kit: Json) -> None:
    asked = {"id": "two-tides/lifebuoy", "size": 64}
    plain = client.get("/api/stock/picture.png", params=asked)
    ours = client.get("/api/stock/picture.png", params={**asked, "kit_id": kit["id"]})
    assert Image.open(io.BytesIO(plain.content)).size == (64, 64)
    assert plain.content != ours.content
    assert client.get("/api/stock/picture.png", params={"id": "x"}).status_code == 404


def test_without_a_library_it_is_said(client: TestClient) -> None:
    state = client.app.state  # type: ignore[attr-defined]
    usual, state.stock = state.stock, None
    try:
        assert client.get("/api/stock").json()["detail"] == "No stock library is connected."
    finally:
        state.stock = usual
