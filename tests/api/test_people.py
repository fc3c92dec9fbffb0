"""Signing in, what each role may do, and that nothing of one person's is lost to another."""

from __future__ import annotations

import re
import uuid
from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import text
from sqlalchemy.exc import DatabaseError

from pavese.api.access import ASKING, COOKIE, COORDINATING, OWN, REVIEWING
from pavese.demo.people import COORDINATOR, READER, REVIEWER, DemoPerson
from pavese.store import people
from pavese.store.people import AccessRole
from tests.conftest import sign_in

Json = dict[str, Any]


def as_person(client: TestClient, person: DemoPerson) -> TestClient:
    """Another browser, signed in as somebody."""
    other = TestClient(client.app)
    sign_in(other, person)
    return other


@pytest.fixture
def kit(client: TestClient) -> Json:
    """A kit of three colors."""
    colors = [
        {"name": "Deep water", "role": "primary", "code": "#0b5e6b"},
        {"name": "Fog", "role": "background", "code": "#eef0ec"},
        {"name": "Hull", "role": "text dark", "code": "#16252b"},
    ]
    made: Json = client.post("/api/kits", json={"name": "Shared kit", "colors": colors}).json()
    return made


@pytest.fixture
def newcomer(client: TestClient) -> DemoPerson:
    """Somebody of whom no attempt is on record."""
    person = DemoPerson(f"{uuid.uuid4().hex}@tarnmoor.example", "Ines Vale", AccessRole.READER, "ten letters long")
    body = {"email": person.email, "name": person.name, "role": "reader", "password": person.password}
    assert client.post("/api/people", json=body).status_code == 201
    return person


def test_nothing_is_told_to_who_is_not_signed_in(client: TestClient, kit: Json) -> None:
    stranger = TestClient(client.app)
    for path in (
        "/api/kits",
        f"/api/kits/{kit['id']}",
        "/api/session",
        "/api/people",
        f"/api/kits/{kit['id']}/editions",
    ):
        answer = stranger.get(path)
        assert answer.status_code == 401, path
        assert answer.json()["detail"].startswith("You are not signed in")


def test_every_route_but_the_open_ones_asks_who_it_is(client: TestClient) -> None:
    stranger = TestClient(client.app)
    known = []
    for path, methods in client.app.openapi()["paths"].items():  # type: ignore[attr-defined]
        known += [operation["operationId"] for operation in methods.values()]
        if path.startswith(("/api/health", "/api/shared/", "/api/typefaces")):
            continue
        for method in methods:
            if (path, method) in (("/api/session", "post"), ("/api/session", "delete")):
                continue
            asked = re.sub(r"\{\w+\}", str(uuid.UUID(int=0)), path)
            assert stranger.request(method, asked).status_code == 401, (method, path)
    for name in ASKING | OWN | REVIEWING | COORDINATING:
        assert any(operation.startswith(f"{name}_") for operation in known), f"there is no route {name}"


def test_the_cookie_is_out_of_reach(client: TestClient) -> None:
    answer = TestClient(client.app).post("/api/session", json=COORDINATOR.sign_in)
    header = answer.headers["set-cookie"]
    assert "HttpOnly" in header
    assert "SameSite=lax" in header
    secure = TestClient(client.app, base_url="https://testserver").post("/api/session", json=COORDINATOR.sign_in)
    assert "Secure" in secure.headers["set-cookie"]


def test_what_each_role_may(client: TestClient, kit: Json) -> None:
    path = f"/api/kits/{kit['id']}"
    decision = {"pairs": [{"text": "hull.base", "ground": "fog.base"}], "status": "approved"}
    reader, reviewer = as_person(client, READER), as_person(client, REVIEWER)
    assert reader.get(path).status_code == 200
    assert reader.post(f"{path}/ours", json={"text": "#0b5e6b"}).status_code == 200
    assert reader.post(f"{path}/decisions", json=decision).status_code == 403
    assert reader.get("/api/people").status_code == 403
    assert reviewer.post(f"{path}/decisions", json=decision).status_code == 200
    assert reviewer.post(f"{path}/comments", json={"text": "Reads well."}).status_code == 201
    refused = reviewer.patch(path, json={"name": "Mine"})
    assert refused.status_code == 403
    assert "for a coordinator" in refused.json()["detail"]
    listed = client.get(f"{path}/pairs").json()["decisions"]
    assert [(one["status"], one["by"]) for one in listed] == [("approved", "Jonas Feld")]


def test_an_unknown_address_and_a_wrong_password_get_the_same_answer(client: TestClient, newcomer: DemoPerson) -> None:
    stranger = TestClient(client.app)
    wrong = stranger.post("/api/session", json={"email": newcomer.email, "password": "not the one"})
    unknown = stranger.post("/api/session", json={"email": "nobody@tarnmoor.example", "password": "not the one"})
    assert wrong.status_code == unknown.status_code == 401
    assert wrong.json()["detail"] == unknown.json()["detail"]
    assert COOKIE not in stranger.cookies


def test_attempts_are_limited_for_one_person(client: TestClient, newcomer: DemoPerson) -> None:
    stranger = TestClient(client.app)
    for _ in range(people.FREE_FOR_ONE):
        guess = stranger.post("/api/session", json={"email": newcomer.email, "password": "a guess"})
        assert guess.status_code == 401
    held_up = stranger.post("/api/session", json=newcomer.sign_in)
    assert held_up.status_code == 429
    assert 0 < int(held_up.headers["retry-after"]) <= 2, "the first pause is short"
    elsewhere = TestClient(client.app, client=("10.1.2.3", 50000))
    assert elsewhere.post("/api/session", json=newcomer.sign_in).status_code == 200, "nobody else is locked out"
    assert stranger.post("/api/session", json=READER.sign_in).status_code == 200


def test_a_session_is_rotated_and_ends(client: TestClient) -> None:
    browser = as_person(client, READER)
    first = browser.cookies[COOKIE]
    sessions = client.app.state.sessions  # type: ignore[attr-defined]
    with sessions.begin() as session:
        session.execute(
            text("UPDATE sign_ins SET made_at = now() - interval '2 hours' WHERE digest = :d"),
            {"d": people.token_digest(first)},
        )
    assert browser.get("/api/session").json()["name"] == READER.name
    second = browser.cookies[COOKIE]
    assert second != first
    old = TestClient(client.app, cookies={COOKIE: first})
    assert old.get("/api/kits").status_code == 200, "requests under way with the old token are still let through"
    with sessions.begin() as session:
        session.execute(
            text("UPDATE sign_ins SET ends_at = now() WHERE digest = :d"), {"d": people.token_digest(first)}
        )
    # What is changed past the application is heard of some seconds later; these are not waited for here.
    client.app.state.bearers.forget()  # type: ignore[attr-defined]
    assert old.get("/api/kits").status_code == 401
    assert browser.delete("/api/session").status_code == 204
    assert TestClient(client.app, cookies={COOKIE: second}).get("/api/kits").status_code == 401


def test_who_is_put_out_is_out_at_once_and_one_coordinator_stays(client: TestClient, newcomer: DemoPerson) -> None:
    browser = as_person(client, newcomer)
    user = browser.get("/api/session").json()
    assert client.patch(f"/api/people/{user['id']}", json={"active": False}).status_code == 200
    assert browser.get("/api/kits").status_code == 401
    assert TestClient(client.app).post("/api/session", json=newcomer.sign_in).status_code == 401
    me = client.get("/api/session").json()
    refused = client.patch(f"/api/people/{me['id']}", json={"role": "reader"})
    assert refused.status_code == 409
    assert "one active coordinator" in refused.json()["detail"].lower()
    assert client.get("/api/session").json()["role"] == "coordinator"


def test_changes_of_two_people_in_different_places_both_stay(client: TestClient, kit: Json) -> None:
    path, seen = f"/api/kits/{kit['id']}", {"If-Match": f'"{kit["record"]}"'}
    other = TestClient(client.app)
    other.post("/api/session", json=REVIEWER.sign_in)
    decision = {"pairs": [{"text": "hull.base", "ground": "fog.base"}], "status": "approved"}
    assert other.post(f"{path}/decisions", json=decision, headers=seen).status_code == 200
    renamed = client.patch(f"{path}/colors/deep-water", json={"name": "Deep sound"}, headers=seen)
    assert renamed.status_code == 200
    assert renamed.json()["colors"][0]["name"] == "Deep sound"
    assert len(client.get(f"{path}/pairs").json()["decisions"]) == 1


def test_changes_of_two_people_in_one_place_are_asked_about(
    client: TestClient, kit: Json, newcomer: DemoPerson
) -> None:
    user = next(one for one in client.get("/api/people").json() if one["email"] == newcomer.email)
    client.patch(f"/api/people/{user['id']}", json={"role": "coordinator"})
    other = as_person(client, newcomer)
    path, seen = f"/api/kits/{kit['id']}", {"If-Match": f'"{kit["record"]}"'}
    assert other.patch(f"{path}/colors/hull", json={"code": "#101820"}, headers=seen).status_code == 200
    clash = client.patch(f"{path}/colors/hull", json={"code": "#202830"}, headers=seen)
    assert clash.status_code == 409
    problem = clash.json()
    assert problem["detail"].startswith("Ines Vale changed the same meanwhile: Base of Hull")
    assert problem["clashes"] == [{"place": "Base of Hull", "theirs": "#101820", "mine": "#202830"}]
    assert client.post(f"{path}/undo", headers=seen).status_code == 409, "what was not seen is not undone"
    now = client.get(path).json()
    assert now["colors"][2]["hex"] == "#101820"
    mine = client.patch(f"{path}/colors/hull", json={"code": "#202830"}, headers={"If-Match": f'"{now["record"]}"'})
    assert mine.status_code == 200
    client.patch(f"/api/people/{user['id']}", json={"active": False})


def test_the_record_says_who_what_before_and_after_and_cannot_be_changed(client: TestClient, kit: Json) -> None:
    path = f"/api/kits/{kit['id']}"
    client.patch(f"{path}/colors/hull", json={"code": "#101820"})
    client.post(f"{path}/undo")
    undone, done, _ = client.get(f"{path}/records").json()
    assert (done["who"], done["what"]) == ("Maren Quist", "Replace the base of Hull")
    assert done["changes"] == [{"place": "Base of Hull", "before": "#16252b", "after": "#101820"}]
    assert undone["what"] == "Undo: Replace the base of Hull"
    assert undone["changes"] == [{"place": "Base of Hull", "before": "#101820", "after": "#16252b"}]
    sessions = client.app.state.sessions  # type: ignore[attr-defined]
    for statement in (
        f"UPDATE records SET who = 'Nobody' WHERE id = {done['id']}",
        f"DELETE FROM records WHERE id = {done['id']}",
        "DELETE FROM editions",
        "TRUNCATE comments",
    ):
        with pytest.raises(DatabaseError, match="never changed"), sessions.begin() as session:
            session.execute(text(statement))


def test_a_password_is_changed_and_other_browsers_are_signed_out(client: TestClient, newcomer: DemoPerson) -> None:
    browser, other = as_person(client, newcomer), as_person(client, newcomer)
    wrong = browser.put("/api/session/password", json={"old": "not the one", "password": "another ten letters"})
    assert wrong.status_code == 422
    assert "not the password you have" in wrong.json()["detail"]
    short = browser.put("/api/session/password", json={"old": newcomer.password, "password": "short"})
    assert short.status_code == 409
    body = {"old": newcomer.password, "password": "another ten letters"}
    assert browser.put("/api/session/password", json=body).status_code == 200
    assert browser.get("/api/kits").status_code == 200
    assert other.get("/api/kits").status_code == 401
    assert TestClient(client.app).post("/api/session", json=newcomer.sign_in).status_code == 401
    changed = newcomer._replace(password="another ten letters")
    assert as_person(client, changed).get("/api/session").json()["name"] == "Ines Vale"
    user = browser.get("/api/session").json()
    client.patch(f"/api/people/{user['id']}", json={"password": "set by Maren 1"})
    assert browser.get("/api/kits").status_code == 401
    assert as_person(client, newcomer._replace(password="set by Maren 1")).get("/api/kits").status_code == 200


@pytest.mark.parametrize(
    ("email", "password", "words"),
    [
        ("no address", "ten letters long", "is no e-mail address"),
        ("two@signs@tarnmoor.example", "ten letters long", "is no e-mail address"),
        ("dots..in@tarnmoor.example", "ten letters long", "two periods in a row"),
        ("x@tarnmoor.example", "short", "at least 10 characters"),
        (COORDINATOR.email.upper(), "ten letters long", "already"),
    ],
)
def test_who_cannot_be_let_in(client: TestClient, email: str, password: str, words: str) -> None:
    body = {"email": email, "name": "X", "role": "reader", "password": password}
    answer = client.post("/api/people", json=body)
    assert answer.status_code == 409
    assert words in answer.json()["detail"]


def test_two_windows_of_one_person_do_not_overwrite_each_other_unseen(client: TestClient, kit: Json) -> None:
    path, seen = f"/api/kits/{kit['id']}", f'"{kit["record"]}"'
    first, second = ({"If-Match": seen, "Pavese-Window": window} for window in ("one", "two"))
    assert client.patch(path, json={"name": "North"}, headers=first).status_code == 200
    assert client.patch(path, json={"name": "North Sea"}, headers=first).status_code == 200, "its own are no others'"
    clash = client.patch(path, json={"name": "South"}, headers=second)
    assert clash.status_code == 409
    assert clash.json()["detail"].startswith("You, in another window, changed the same meanwhile")
    assert client.get(path).json()["name"] == "North Sea"
    made = client.post(f"{path}/sets", json={"name": "Icons"}).json()
    rename = f"/api/sets/{made['id']}"
    assert client.patch(rename, json={"name": "Signs", "was": "Icons"}).status_code == 200
    late = client.patch(rename, json={"name": "Symbols", "was": "Icons"})
    assert late.status_code == 409
    assert "renamed to “Signs” meanwhile" in late.json()["detail"]
    assert client.get(rename).json()["name"] == "Signs"
