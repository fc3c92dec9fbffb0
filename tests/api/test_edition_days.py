"""Days of publishing: whatever is changed, restored and undone in between, editions stay and links show one of them."""

from __future__ import annotations

import hashlib
import json
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule, run_state_machine_as_test
from sqlalchemy import text

from pavese.core.kit.edition import Snapshot
from pavese.store import editions
from tests.api.test_editions import COLORS, HULL_ON_FOG
from tests.core.strategies import colors as any_colors

Json = dict[str, Any]


def machine(client: TestClient) -> type[RuleBasedStateMachine]:
    """The machine over one client; Hypothesis makes many of it."""

    class Days(RuleBasedStateMachine):
        """Knows what was published, and holds the application to it."""

        def __init__(self) -> None:
            super().__init__()
            self.kit = client.post("/api/kits", json={"name": "Days", "colors": COLORS}).json()["id"]
            self.published: list[Json] = []
            self.links: dict[str, int] = {}
            self.ended: set[str] = set()

        def ask(self, method: str, rest: str, status: set[int], **fields: Any) -> Any:
            answer = client.request(method, f"/api/kits/{self.kit}{rest}", **fields)
            assert answer.status_code in status, answer.text
            return answer.json()

        @property
        def now(self) -> Json:
            found: Json = self.ask("GET", "", {200})
            return found

        @rule(at=st.integers(0, 3), color=any_colors)
        def rebase(self, at: int, color: Any) -> None:
            key = self.now["colors"][at]["key"]
            self.ask("PATCH", f"/colors/{key}", {200}, json={"code": color.hex})

        @rule(status=st.sampled_from(["approved", "declined", "open"]))
        def decide(self, status: str) -> None:
            self.ask(
                "POST", "/decisions", {200, 422}, json={"pairs": [HULL_ON_FOG], "status": status, "use": "body text"}
            )

        @rule(share=st.integers(0, 100))
        def rules(self, share: int) -> None:
            rules = self.ask("GET", "/rules", {200})["rules"]
            self.ask("PUT", "/rules", {200}, json={**rules, "accent_share": share})

        @rule()
        def undo(self) -> None:
            self.ask("POST", "/undo", {200, 409})

        @rule()
        def redo(self) -> None:
            self.ask("POST", "/redo", {200, 409})

        @rule(note=st.sampled_from(["", "For the winter.", "⛴ für alle"]))
        def publish(self, note: str) -> None:
            look = self.ask("GET", "/publish", {200})
            may = not look["unchanged"] and not any(one["blocks"] for one in look["unresolved"])
            made = self.ask("POST", "/editions", {201 if may else 409}, json={"note": note})
            if may:
                assert made["number"] == look["number"] == len(self.published) + 1
                assert made["note"] == note
                self.published.append(made)
                assert self.now["drafted"] is False

        @rule(at=st.integers(0, 9))
        def restore(self, at: int) -> None:
            if self.published:
                number = self.published[at % len(self.published)]["number"]
                self.ask("POST", f"/editions/{number}/restore", {200})
                same = self.ask("GET", "/compare", {200}, params={"old": number})
                assert same["differences"] == []

        @rule(at=st.integers(0, 9))
        def share(self, at: int) -> None:
            if self.published:
                number = self.published[at % len(self.published)]["number"]
                made = self.ask("POST", f"/editions/{number}/links", {201}, json={"days": 1})
                self.links[made["path"].rpartition("/")[2]] = number

        @rule()
        def revoke(self) -> None:
            works = [one for one in self.ask("GET", "/links", {200}) if one["state"] == "works"]
            if works:
                self.ask("DELETE", f"/links/{works[0]['id']}", {200})
                [token] = [
                    token
                    for token in self.links
                    if token not in self.ended and client.get(f"/api/shared/{token}").status_code == 410
                ]
                self.ended.add(token)

        @invariant()
        def editions_stay(self) -> None:
            listed = self.ask("GET", "/editions", {200})["editions"]
            assert listed == self.published[::-1]

        @invariant()
        def links_show_their_edition(self) -> None:
            for token, number in self.links.items():
                answer = client.get(f"/api/shared/{token}")
                if token in self.ended:
                    assert answer.status_code == 410
                else:
                    assert answer.json()["number"] == number
                    assert answer.json()["digest"] == self.published[number - 1]["digest"]

        def teardown(self) -> None:
            """The hash of every edition is that of what stands in the table, computed here by hand."""
            with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
                query = text("SELECT body, digest FROM editions WHERE kit_id = :kit")
                for body, digest in session.execute(query, {"kit": self.kit}):
                    canonical = json.dumps(body, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
                    assert hashlib.sha256(canonical.encode()).hexdigest() == digest
                    assert Snapshot.model_validate(body).digest == digest

    return Days


def test_days_of_publishing(client: TestClient) -> None:
    few = settings(max_examples=6, stateful_step_count=16, deadline=None, suppress_health_check=list(HealthCheck))
    run_state_machine_as_test(machine(client), settings=few)


def test_a_kit_of_today_reads_what_was_published_with_fewer_fields(client: TestClient) -> None:
    """Editions outlive versions: what an old one does not say takes the usual value."""
    kit = client.post("/api/kits", json={"name": "Old", "colors": COLORS}).json()
    client.post(f"/api/kits/{kit['id']}/decisions", json={"pairs": [HULL_ON_FOG], "status": "approved"})
    client.post(f"/api/kits/{kit['id']}/editions", json={})
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        row = editions.get(session, kit["id"], 1)
        body = dict(row.body["kit"])
        for field in ("rules", "see_through", "states", "logo", "type", "trios", "steps"):
            del body[field]
        read = Snapshot.model_validate({"kit": body})
        assert read.kit == editions.content_of(row).kit
        session.expunge(row)


@pytest.mark.parametrize("number", [-1, 0, 2, 2**31 - 1, 2**31, 10**30])
def test_editions_that_are_not_there(client: TestClient, number: int) -> None:
    kit = client.post("/api/kits", json={"name": "None yet", "colors": COLORS}).json()
    for rest, method in ((f"/editions/{number}/restore", "POST"), (f"/editions/{number}/links", "POST")):
        answer = client.request(method, f"/api/kits/{kit['id']}{rest}", json={})
        if (number, method, rest) == (0, "POST", "/editions/0/links"):
            assert answer.status_code == 201, "a link to the draft as it is"
            continue
        assert answer.status_code in (404, 422)
        assert answer.json()["detail"]
    assert client.get(f"/api/kits/{kit['id']}").json()["edition"] is None
