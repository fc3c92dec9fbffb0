"""Problems are in the log under their id, and nothing that goes out may run."""

from __future__ import annotations

import json
from typing import Any

import pytest
import structlog
from fastapi import FastAPI
from fastapi.testclient import TestClient

from pavese.api import problems
from pavese.api.guard import DATA_POLICY, Guard, new_nonce, page_policy
from pavese.logs import configure
from pavese.settings import Settings


def small_app() -> FastAPI:
    """An application with one route that fails and one that takes a body, behind the real guard."""
    app = FastAPI()
    problems.install(app)

    @app.get("/fails")
    def fails() -> None:
        raise ZeroDivisionError("secret detail")

    @app.post("/takes")
    async def takes(body: dict[str, Any]) -> int:
        return len(body)

    app.add_middleware(Guard, largest_body=1024 * 1024)
    return app


def test_an_unexpected_error_is_logged_under_the_id_that_is_shown() -> None:
    with structlog.testing.capture_logs() as logged:
        response = TestClient(small_app(), raise_server_exceptions=False).get("/fails")
    body = response.json()
    assert response.status_code == 500
    assert "secret" not in response.text
    event = next(entry for entry in logged if entry["event"] == "problem")
    assert event["id"] == body["id"]
    assert event["log_level"] == "error"
    assert "secret detail" in event["error"]


def test_a_known_problem_is_logged_quietly(client: TestClient) -> None:
    with structlog.testing.capture_logs() as logged:
        body = client.get("/api/kits/00000000-0000-0000-0000-000000000001").json()
    event = next(entry for entry in logged if entry["event"] == "problem")
    assert (event["id"], event["status"], event["log_level"]) == (body["id"], 404, "info")


def test_every_answer_carries_safe_headers(client: TestClient) -> None:
    for path in ("/api/kits", "/api/nothing", "/", "/assets/none.js"):
        headers = client.get(path).headers
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["referrer-policy"] == "no-referrer"
        assert "default-src 'none'" in headers["content-security-policy"]
    assert "sandbox" in DATA_POLICY
    assert new_nonce() != new_nonce()
    assert "unsafe" not in page_policy("n")


def test_a_body_that_does_not_say_its_length_is_bounded() -> None:
    def endless() -> Any:
        for _ in range(64):
            yield b" " * 65536

    taker = TestClient(small_app(), raise_server_exceptions=False)
    response = taker.post("/takes", content=endless(), headers={"content-type": "application/json"})
    assert response.status_code >= 400
    assert taker.post("/takes", json={"a": 1}).json() == 1


@pytest.mark.parametrize("form", ["lines", "json"])
def test_the_log_is_lines_for_people_or_for_machines(form: str, capsys: pytest.CaptureFixture[str]) -> None:
    before = structlog.get_config()
    try:
        configure(Settings(log_format=form, log_level="info"))
        structlog.get_logger().info("kit started", colors=8)
        structlog.get_logger().debug("not said")
        said = capsys.readouterr().err
    finally:
        structlog.configure(**before)
    assert "not said" not in said
    assert "kit started" in said
    if form == "json":
        line = json.loads(said)
        assert (line["event"], line["colors"], line["level"]) == ("kit started", 8, "info")


def test_settings_come_from_the_environment(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("PAVESE_PORT", "9001")
    monkeypatch.setenv("PAVESE_UPLOAD_MEGABYTES", "7")
    assert (Settings().port, Settings().upload_megabytes) == (9001, 7)
    monkeypatch.setenv("PAVESE_PORT", "not a port")
    with pytest.raises(ValueError, match="port"):
        Settings()
