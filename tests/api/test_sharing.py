"""What a link shows to whoever has it: over the API, with the database behind it."""

from __future__ import annotations

import io
import zipfile

import pypdf
from fastapi.testclient import TestClient

from pavese.demo.pictures import logo
from pavese.settings import settings
from pavese.store import contents
from tests.api.test_editions import Json, kit, path
from tests.api.test_sets import drop

__all__ = ["kit"]


def drawing(fill: str) -> bytes:
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path fill="{fill}" d="M1 1h6v6z"/></svg>'.encode()
    )


def unpacked(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def test_a_link_shows_the_draft_as_it_was_with_sets_that_were_chosen(client: TestClient, kit: Json) -> None:
    client.post(path(kit, "/logo/light"), files={"file": ("logo.svg", logo())})
    made_set = client.post(path(kit, "/sets"), json={"name": "Deck signage"}).json()
    given = [("bell.svg", drawing("#0b6e4f")), ("lamp.svg", drawing("#d94f04")), ("buoy.svg", drawing("#123456"))]
    drop(client, made_set["id"], *given)
    client.post(f"/api/sets/{made_set['id']}/file-states", json={"names": ["buoy.svg"], "left_out": True})
    made = client.post(path(kit, "/editions/0/links"), json={"sets": [made_set["id"]]})
    assert made.status_code == 201, "no pair is approved, and nothing is published"
    assert (made.json()["edition"], made.json()["sets"]) == (0, ["Deck signage"])
    at = f"/api/shared/{made.json()['path'].rpartition('/')[2]}"
    stranger = TestClient(client.app)
    seen = stranger.get(at).json()
    assert [(one["name"], one["files"]) for one in seen["sets"]] == [("Deck signage", 2)], (
        "what is left out is not shown"
    )
    assert seen["logo"]["behind"] == "#eef0ec", "on the lightest ground of the kit on which it stands out"
    within = f"{at}/sets/{seen['sets'][0]['id']}"
    listed = stranger.get(f"{within}/files").json()
    before = unpacked(stranger.get(f"{within}/files.zip").content)
    assert sorted(before) == sorted(one["name"] for one in listed) == ["bell.svg", "lamp.svg"]
    drawn = stranger.get(f"{at}/files/{listed[0]['id']}/picture.png", params={"size": 32})
    assert drawn.content.startswith(b"\x89PNG")
    everything = unpacked(stranger.get(f"{at}/everything.zip").content)
    assert {name.rpartition(".")[2] for name in everything} >= {
        "pdf",
        "svg",
        "png",
        "json",
        "css",
        "csv",
        "potx",
        "txt",
    }
    assert everything["sets/deck-signage/bell.svg"] == before["bell.svg"]
    assert everything["logo/on-light.svg"] == logo()

    client.patch(path(kit, "/colors/deep-water"), json={"code": "#701c45"})
    client.delete(f"/api/sets/{made_set['id']}")
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        contents.sweep(session, seconds=0)
    assert unpacked(stranger.get(f"{within}/files.zip").content) == before, "it shows what it showed when it was made"
    other = client.post(path(kit, "/editions/0/links"), json={}).json()["path"].rpartition("/")[2]
    for where in (f"sets/{seen['sets'][0]['id']}/files", f"files/{listed[0]['id']}/picture.png"):
        assert stranger.get(f"/api/shared/{other}/{where}").status_code == 404, "another link does not"
    assert client.post(path(kit, "/editions/0/links"), json={"sets": [made_set["id"]]}).status_code == 404


def test_a_typeface_that_was_brought_is_in_sheets_and_not_given_on(client: TestClient, kit: Json) -> None:
    lora = (settings().fonts_dir / "Lora-Regular.ttf").read_bytes()
    refused = client.post(path(kit, "/typefaces"), data={"license": ""}, files={"file": ("lora.ttf", lora)})
    assert refused.status_code == 422, "what its license allows is said"
    brought = client.post(path(kit, "/typefaces"), data={"license": "ours"}, files={"file": ("lora.ttf", lora)})
    assert brought.status_code == 201
    client.put(path(kit, "/type"), json={"headline": "Lora"})
    faces = client.get(path(kit, "/type")).json()
    [own] = faces["own"]
    assert (own["family"], own["license"], faces["headline"]["why"]) == ("Lora", "ours", "brought along")
    assert client.get(path(kit, f"/typefaces/{own['key']}")).content.startswith(b"\x00\x01\x00\x00")
    sheet = client.get(path(kit, "/editions/0/hand-over/sheet"), params={"parts": "logo"})
    fonts = {font["/BaseFont"] for page in pypdf.PdfReader(io.BytesIO(sheet.content)).pages for font in _fonts(page)}
    assert any("Lora" in font for font in fonts), fonts
    token = client.post(path(kit, "/editions/0/links"), json={}).json()["path"].rpartition("/")[2]
    seen = TestClient(client.app).get(f"/api/shared/{token}").json()["type"]["headline"]
    assert (seen["same"], seen["why"]) == (False, "the face itself is not given on")
    for slug, status in (("lora", 200), ("nothing", 404)):
        assert TestClient(client.app).get(f"/api/typefaces/{slug}-latin.woff2").status_code == status
    assert client.delete(path(kit, f"/typefaces/{own['key']}")).status_code == 200
    assert client.get(path(kit, f"/typefaces/{own['key']}")).status_code == 404


def _fonts(page: pypdf.PageObject) -> list[Json]:
    return [font.get_object() for font in page["/Resources"]["/Font"].values()]  # type: ignore[index]
