"""Whatever fits the schema gets an answer that fits it too, and never a server error."""

from __future__ import annotations

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import response_schema_conformance, status_code_conformance

from pavese.api.app import create_app
from pavese.settings import Settings

_OPENAPI = create_app(Settings(), "postgresql+psycopg://").openapi()
OPERATIONS = [(method.upper(), path) for path, methods in _OPENAPI["paths"].items() for method in methods]


@pytest.mark.parametrize(("method", "path"), OPERATIONS, ids=lambda value: value)
def test_the_api_keeps_to_its_schema(client: TestClient, method: str, path: str) -> None:
    schema = schemathesis.openapi.from_asgi("/api/openapi.json", client.app)

    @settings(max_examples=15, deadline=None, suppress_health_check=list(HealthCheck), database=None)
    @given(case=schema[path][method].as_strategy())
    def holds(case: schemathesis.Case) -> None:
        case.call_and_validate(checks=[not_a_server_error, status_code_conformance, response_schema_conformance])

    holds()
