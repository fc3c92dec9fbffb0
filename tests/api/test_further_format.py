"""A format is taken in by name, and taken away again."""

from __future__ import annotations

import pytest
from fastapi.testclient import TestClient

from pavese.core.errors import InvalidPlanError
from pavese.core.formats import FORMATS, leave_out, take_in
from pavese.core.recolor.acts import read_act
from pavese.core.recolor.plan import Plan

NAME = "tests.bunting"


def test_what_is_taken_in_is_told_and_can_be_taken_away(client: TestClient) -> None:
    before = client.get("/api/formats").json()
    usual = list(FORMATS)
    take_in([NAME])
    take_in([NAME])
    try:
        assert len(FORMATS) == len(usual) + 1
        told = client.get("/api/formats").json()
        assert told["words"].endswith("TIFF pictures and buntings")
        assert ".bunting" in told["accepts"]["set"]
        [knots] = [act for act in told["acts"] if act["key"] == "knots"]
        assert [(one["name"], one["kind"], one["least"], one["most"]) for one in knots["fields"]] == [
            ("count", "number", 1, 9)
        ]
        plan = Plan().with_act("knots", read_act("knots", {"count": 4}))
        stored = plan.model_dump(mode="json")
        assert Plan.model_validate(stored) == plan
    finally:
        leave_out([NAME])
    assert usual == FORMATS
    assert client.get("/api/formats").json() == before
    assert Plan.model_validate(stored) == Plan(), "what nobody can do any longer is left out"
    with pytest.raises(InvalidPlanError, match="backing"):
        read_act("knots", {})
