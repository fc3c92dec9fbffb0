"""Whatever fits the schema gets an answer that fits it too, and never a server error."""

from __future__ import annotations

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.schemas import BaseSchema
from schemathesis.specs.openapi.checks import response_schema_conformance, status_code_conformance

from pavese.api.access import COOKIE
from pavese.api.app import create_app
from pavese.demo.people import COORDINATOR
from pavese.settings import Settings
from tests.conftest import sign_in

_OPENAPI = create_app(Settings(), "postgresql+psycopg://").openapi()
OPERATIONS = [(method.upper(), path) for path, methods in _OPENAPI["paths"].items() for method in methods]


@pytest.fixture(scope="module")
def schema(client: TestClient) -> BaseSchema:
    """The schema, read once as it is served."""
    return schemathesis.openapi.from_asgi("/api/openapi.json", client.app)


def signed_in(client: TestClient) -> dict[str, str]:
    """The cookie of a new session."""
    own = TestClient(client.app)
    sign_in(own, COORDINATOR)
    cookie = {"Cookie": f"{COOKIE}={own.cookies[COOKIE]}"}
    assert own.get("/api/kits", headers=cookie).status_code == 200
    return cookie


@pytest.fixture(scope="module")
def session(client: TestClient) -> dict[str, str]:
    """A session for all operations but those that end one."""
    return signed_in(client)


@pytest.mark.parametrize(("method", "path"), OPERATIONS, ids=lambda value: value)
def test_the_api_keeps_to_its_schema(
    client: TestClient, schema: BaseSchema, session: dict[str, str], method: str, path: str
) -> None:
    cookie = signed_in(client) if path.startswith("/api/session") else session

    @settings(max_examples=6, deadline=None, suppress_health_check=list(HealthCheck), database=None)
    @given(case=schema[path][method].as_strategy())
    def holds(case: schemathesis.Case) -> None:
        checks = [not_a_server_error, status_code_conformance, response_schema_conformance]
        case.call_and_validate(checks=checks, headers=cookie)

    holds()
    assert TestClient(client.app).get("/api/kits", headers=session).status_code == 200, "it was asked as somebody"
