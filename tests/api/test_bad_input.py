"""What the API answers to input it cannot take: a problem with an id, and nothing changed."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import files_of
from tests.hostile import pictures

NOWHERE = str(uuid.UUID(int=7))


def problem(response: Any, status: int) -> dict[str, Any]:
    assert response.status_code == status, response.text
    assert response.headers["content-type"] == "application/problem+json"
    body = response.json()
    assert body["detail"]
    assert len(body["id"]) == 12
    return dict(body)


@pytest.mark.parametrize(
    ("body", "hint"),
    [
        ({}, "name"),
        ({"name": ""}, "name"),
        ({"name": " \t "}, "visible"),
        ({"name": "x" * 500}, "name"),
        ({"name": "a", "unknown": 1}, "unknown"),
        ({"name": "a", "colors": [{"name": "b", "role": "boss", "code": "#fff"}]}, "role"),
        ({"name": "a", "colors": [{"name": "b", "role": "accent", "code": "blurple"}]}, "blurple"),
        ({"name": "a", "colors": [{"name": "b", "role": "accent", "code": "#fff\x00"}]}, "NUL"),
        ({"name": "a", "colors": [{"name": "b", "role": "accent", "code": "#fff"}] * 201}, "200"),
        ([], "valid"),
    ],
)
def test_kits_that_cannot_be_started(client: TestClient, body: Any, hint: str) -> None:
    before = len(client.get("/api/kits").json())
    assert hint in problem(client.post("/api/kits", json=body), 422)["detail"]
    assert len(client.get("/api/kits").json()) == before


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("GET", f"/api/kits/{NOWHERE}"),
        ("POST", f"/api/kits/{NOWHERE}/undo"),
        ("GET", f"/api/sets/{NOWHERE}"),
        ("GET", f"/api/sets/{NOWHERE}/package.zip"),
        ("GET", f"/api/assets/{NOWHERE}/picture.png"),
        ("GET", "/api/nothing"),
    ],
)
def test_what_does_not_exist(client: TestClient, method: str, path: str) -> None:
    problem(client.request(method, path), 404)


def test_requests_that_are_not_for_us(client: TestClient) -> None:
    problem(client.get("/api/kits/not-an-id"), 422)
    problem(client.post("/api/kits", content=b"{", headers={"content-type": "application/json"}), 422)
    problem(client.put("/api/kits", json={}), 405)
    problem(client.post("/api/codes", json={"text": "x" * 2_000_001}), 422)
    assert client.get("/api/kits", headers={"host": "evil.example"}).status_code == 400


@pytest.mark.parametrize("text", ["\\ud800 #fff", "#fff \\udfff", "a\\u0000b"])
@pytest.mark.parametrize("path", ["/api/codes", "/api/kits"])
def test_text_that_no_file_can_hold(client: TestClient, path: str, text: str) -> None:
    body = f'{{"{"text" if path.endswith("codes") else "name"}": "{text}"}}'
    answer = client.post(path, content=body, headers={"content-type": "application/json"})
    if path.endswith("codes") or "ud" in text:
        problem(answer, 422)
    else:
        # White space and control characters in a name are folded, not refused.
        assert answer.json()["name"] == "a b"


@pytest.mark.parametrize("headers", [{"sec-fetch-site": "cross-site"}, {"origin": "http://evil.example"}])
def test_other_sites_cannot_change_anything(client: TestClient, headers: dict[str, str]) -> None:
    problem(client.post("/api/kits", json={"name": "Evil"}, headers=headers), 403)
    assert client.get("/api/kits", headers=headers).status_code == 200


def test_a_body_beyond_the_bound_is_not_read(client: TestClient) -> None:
    kit = client.post("/api/kits", json={"name": "Large"}).json()
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "S"}).json()
    huge = b"<svg>" + b" " * (5 * 1024 * 1024)
    detail = problem(client.post(f"/api/sets/{made['id']}/files", files=[("files", ("a.svg", huge))]), 413)["detail"]
    assert "4 MB" in detail
    assert files_of(client, made["id"]) == []


@pytest.mark.parametrize(
    "body",
    [
        {"paints": []},
        {"paints": ["#ff0000"]},
        {"paints": ["#ff0000"], "target": "keep", "color": "sea"},
        {"paints": ["#ff0000"], "color": "gone"},
        {"paints": ["red"], "color": "sea"},
        {"paints": ["#ff0000"], "target": "sea.601"},
        {"paints": ["#123456"], "target": "keep"},
    ],
)
def test_aims_that_lead_nowhere_change_nothing(client: TestClient, body: dict[str, Any]) -> None:
    color = {"name": "Sea", "role": "primary", "code": "#0b5e6b"}
    kit = client.post("/api/kits", json={"name": "K", "colors": [color]}).json()
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "S"}).json()
    svg = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#ff0000" d="M0 0"/></svg>'
    before = client.post(f"/api/sets/{made['id']}/files", files=[("files", ("a.svg", svg))]).json()["set"]
    problem(client.post(f"/api/sets/{made['id']}/aim", json=body), 422)
    assert client.get(f"/api/sets/{made['id']}").json() == before


def test_the_page_and_its_policy(client: TestClient) -> None:
    page = client.get("/kits/anything/apply")
    assert page.status_code == 200
    policy = page.headers["content-security-policy"]
    nonce = policy.split("'nonce-")[1].split("'")[0]
    assert nonce in page.text
    assert "script-src 'self'" in policy
    assert client.get("/").headers["content-security-policy"] != policy
    assert client.get("/mark.svg").headers["content-type"] == "image/svg+xml"
    assert client.get("/api/health").json() == {"status": "ok"}


def test_a_body_that_does_not_say_its_length_is_bounded_too(client: TestClient) -> None:
    kit = client.post("/api/kits", json={"name": "Large"}).json()
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "S"}).json()

    def endless() -> Iterator[bytes]:
        yield b'--x\r\nContent-Disposition: form-data; name="files"; filename="a.svg"\r\n\r\n'
        for _ in range(80):
            yield b" " * 65536

    headers = {"content-type": "multipart/form-data; boundary=x"}
    answer = client.post(f"/api/sets/{made['id']}/files", content=endless(), headers=headers)
    assert "4 MB" in problem(answer, 413)["detail"]
    assert answer.headers["connection"] == "close"


def test_answers_are_not_kept_and_problems_are_documented_as_what_they_are(client: TestClient) -> None:
    assert client.get("/api/kits").headers["cache-control"] == "no-store"
    assert client.get(f"/api/kits/{NOWHERE}").headers["cache-control"] == "no-store"
    schema = client.get("/api/openapi.json").json()
    for methods in schema["paths"].values():
        for operation in methods.values():
            for status, response in operation["responses"].items():
                kinds = list(response.get("content", {}))
                assert kinds == ["application/problem+json"] if int(status) >= 400 else True, (operation, status)
    assert set(schema["components"]["schemas"]["Problem"]["properties"]) == {
        "title",
        "status",
        "detail",
        "id",
        "clashes",
    }


def test_trios_of_colors_that_the_kit_does_not_have(client: TestClient) -> None:
    color = {"name": "Sea", "role": "primary", "code": "#0b5e6b"}
    kit = client.post("/api/kits", json={"name": "K", "colors": [color]}).json()
    for ground in ("gone.base", "sea.base"):
        trio = {"ground": ground, "title": "gone.500", "graphic": "sea.base"}
        for status in ("declined", "approved", "open"):
            sent = client.post(f"/api/kits/{kit['id']}/trios", json={"trios": [trio], "status": status})
            assert "no trio of this kit" in problem(sent, 422)["detail"]


def test_layers_of_an_animation_can_be_kept_by_name(client: TestClient) -> None:
    kit = client.post("/api/kits", json={"name": "K"}).json()
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "S"}).json()
    kept = client.post(f"/api/sets/{made['id']}/kept-selectors", json={"selector": "~Sail", "kept": True})
    assert kept.json()["kept_selectors"] == ["~Sail"]


def test_pictures_that_claim_to_be_large_or_are_cut(client: TestClient) -> None:
    kit = client.post("/api/kits", json={"name": "Pictures"}).json()
    files = [*pictures()]
    sent = [("files", (f"{n}-{one.name}", one.data)) for n, one in enumerate(files)]
    answer = client.post(f"/api/kits/{kit['id']}/sources/drop", files=sent)
    assert answer.status_code == 200
    reasons = {refused["name"]: refused["reason"] for refused in answer.json()["refused"]}
    for number, one in enumerate(files):
        assert one.reason in reasons[f"{number}-{one.name}"]  # type: ignore[operator]


def test_a_drawing_without_a_namespace_is_given_one_in_one_press(client: TestClient) -> None:
    kit = client.post("/api/kits", json={"name": "K"}).json()
    made = client.post(f"/api/kits/{kit['id']}/sets", json={"name": "S"}).json()
    bare = b'<svg viewBox="0 0 9 9"><path fill="#e53935" d="M0 0h9v9z"/></svg>'
    client.post(f"/api/sets/{made['id']}/files", files=[("files", ("a.svg", bare))])
    taken = files_of(client, made["id"])[0]
    assert taken["acts"] == {"namespace": None, "backing": None}
    path = f"/api/assets/{taken['id']}/file"
    assert client.get(path).content == bare
    act = f"/api/sets/{made['id']}/acts/namespace"
    changed = client.put(act, json={"settings": {}, "names": ["a.svg"]}).json()
    assert files_of(client, changed["id"])[0]["acts"]["namespace"] == {}
    assert client.get(path).content == bare.replace(b"<svg", b'<svg xmlns="http://www.w3.org/2000/svg"')
    [finding] = client.get(f"/api/sets/{made['id']}/check").json()["findings"]
    assert finding["remarks"] == [], "what is handed over says what it is"
    client.post(f"/api/sets/{made['id']}/undo")
    assert client.get(path).content == bare
