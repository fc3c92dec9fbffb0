"""Pictures of what is in view are drawn before they are asked for one by one."""

from __future__ import annotations

import time
import uuid
from threading import Event, Timer
from typing import Any

import pytest
from fastapi.testclient import TestClient

from pavese.api.files.ahead import DrawnAhead, Expected
from pavese.api.files.at_hand import PicturesAtHand
from pavese.api.files.drawn import picture_key
from pavese.core.formats.intake import Becoming, Came
from pavese.core.recolor.changes import Changes
from pavese.render import rendering
from tests.api.test_sets import RED, TWO, Json, kit, start
from tests.conftest import files_of

__all__ = ["kit"]

SIZE = 61
GREEN = TWO.replace(b"#e53935", b"#1b5e20")


def drawn_ahead(client: TestClient, file: Json, which: str = "fingerprint") -> bytes | None:
    """The picture of a file once it is at hand without being asked for, or None when it does not come."""
    state = client.app.state  # type: ignore[attr-defined]
    until = time.monotonic() + 10
    while time.monotonic() < until:
        if found := state.pictures.get(picture_key(file[which], SIZE)):
            return bytes(found)
        time.sleep(0.01)
    return None


def seen(client: TestClient, set_id: str, first: int, last: int) -> list[Json]:
    answer = client.get(f"/api/sets/{set_id}/files", params={"size": SIZE, "seen_from": first, "seen_to": last})
    return list(answer.json()["files"])


def asked(client: TestClient, file: Json, **query: Any) -> bytes:
    answer = client.get(f"/api/assets/{file['id']}/picture.png", params={"size": SIZE, **query})
    assert answer.status_code == 200
    return answer.content


def test_what_is_in_view_is_drawn_before_it_is_asked_for_and_again_when_the_set_changes(
    client: TestClient, kit: Json
) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", TWO), ("c.svg", GREEN))
    of, path = view["id"], f"/api/sets/{view['id']}"
    files = seen(client, of, 1, 2)
    for file in files[1:]:
        # Without its fingerprint nothing that is at hand under it is given.
        assert drawn_ahead(client, file) == asked(client, file, of=of)
        assert drawn_ahead(client, file, "came") == asked(client, file, side="before")
        assert asked(client, file, of=of, fingerprint=file["fingerprint"]) == asked(client, file, of=of)
    state = client.app.state  # type: ignore[attr-defined]
    assert state.pictures.get(picture_key(files[0]["fingerprint"], SIZE)) is None

    client.post(f"{path}/aim", json={"paints": ["#43a047"], "target": "kelp.base"})
    now = files_of(client, of)
    assert now[1]["fingerprint"] != files[1]["fingerprint"]
    assert drawn_ahead(client, now[1]) == asked(client, now[1], of=of) != asked(client, files[1], side="before")


def test_a_view_that_reaches_over_two_pages_is_one(client: TestClient, kit: Json) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", TWO), ("c.svg", GREEN))
    page = {"size": SIZE, "seen_from": 0, "seen_to": 2, "start": 1, "count": 1}
    assert len(client.get(f"/api/sets/{view['id']}/files", params=page).json()["files"]) == 1
    for file in files_of(client, view["id"]):
        assert drawn_ahead(client, file)
    client.post(f"/api/sets/{view['id']}/aim", json={"paints": ["#43a047"], "target": "kelp.base"})
    for file in files_of(client, view["id"]):
        assert drawn_ahead(client, file)


def test_one_that_is_large_or_cannot_be_drawn_leaves_the_others_be(client: TestClient) -> None:
    large = RED.replace(b"</svg>", b"<!--" + b"x" * 200_000 + b"--></svg>")
    wanted = [
        Becoming(Came(name, data), Changes())
        for name, data in (("a.svg", RED), ("b.svg", b"<svg"), ("c.svg", large), ("d.svg", TWO))
    ]
    pool = client.app.state.drawing  # type: ignore[attr-defined]
    first, broken, too_large, last = rendering.small_pictures(pool, wanted, SIZE)
    assert broken is too_large is None
    assert first == rendering.picture(pool, wanted[0], SIZE)
    assert last == rendering.picture(pool, wanted[3], SIZE)


def test_what_is_not_begun_gives_way_to_what_is_looked_at_now_and_nobody_waits_in_vain(
    client: TestClient, kit: Json, monkeypatch: pytest.MonkeyPatch
) -> None:
    view = start(client, kit, ("a.svg", RED), ("b.svg", TWO))
    state = client.app.state  # type: ignore[attr-defined]
    go_on, at_hand = Event(), PicturesAtHand()
    ahead = DrawnAhead(at_hand, state.readings, state.drawing)
    small_pictures = rendering.small_pictures

    def held_up(*asked: Any) -> Any:
        assert go_on.wait(20)
        return small_pictures(*asked)

    monkeypatch.setattr(rendering, "small_pictures", held_up)
    a, b = (uuid.UUID(file["id"]) for file in files_of(client, view["id"]))
    one, other, gone = (uuid.uuid4() for _ in range(3))
    ahead.begin(one, SIZE, [Expected("a", a, Changes())])
    ahead.begin(other, SIZE, [Expected("b", b, Changes()), Expected("stale", b, Changes())])
    stale = ahead.coming("stale")
    ahead.begin(other, SIZE, [Expected("b", b, Changes()), Expected("gone", gone, Changes())])
    coming = {key: ahead.coming(key) for key in ("a", "b", "gone")}
    assert stale is not None
    assert stale.result(0) is None
    go_on.set()
    results = {key: one.result(20) for key, one in coming.items() if one is not None}
    assert results == {"a": at_hand.get("a"), "b": at_hand.get("b"), "gone": None}
    assert results["a"]
    assert results["b"] != results["a"]
    assert ahead.coming("a") is None
    ahead.close()


def test_at_the_end_nobody_is_left_waiting(client: TestClient, kit: Json, monkeypatch: pytest.MonkeyPatch) -> None:
    view = start(client, kit, ("a.svg", RED))
    [a] = (uuid.UUID(file["id"]) for file in files_of(client, view["id"]))
    state = client.app.state  # type: ignore[attr-defined]
    begun, go_on = Event(), Event()

    def held_up(*_: Any) -> Any:
        begun.set()
        assert go_on.wait(20)
        return iter([b"drawn"])

    monkeypatch.setattr(rendering, "small_pictures", held_up)
    ahead = DrawnAhead(PicturesAtHand(), state.readings, state.drawing)
    ahead.begin(uuid.uuid4(), SIZE, [Expected("begun", a, Changes())])
    ahead.begin(uuid.uuid4(), SIZE, [Expected("never", a, Changes())])
    coming = [ahead.coming("begun"), ahead.coming("never")]
    assert begun.wait(20)
    Timer(0.05, go_on.set).start()
    ahead.close()
    assert [one and one.result(0) for one in coming] == [b"drawn", None]


def test_one_that_did_not_come_can_be_expected_again_while_others_still_come(
    client: TestClient, kit: Json, monkeypatch: pytest.MonkeyPatch
) -> None:
    view = start(client, kit, ("a.svg", RED))
    [a] = (uuid.UUID(file["id"]) for file in files_of(client, view["id"]))
    state = client.app.state  # type: ignore[attr-defined]
    again, of = Event(), uuid.uuid4()

    def failed_first(_pool: Any, files: list[Becoming], _side: int) -> Any:
        if len(files) == 1:
            yield b"drawn"
            return
        yield None
        assert again.wait(20)
        yield b"drawn"

    monkeypatch.setattr(rendering, "small_pictures", failed_first)
    ahead = DrawnAhead(PicturesAtHand(), state.readings, state.drawing)
    ahead.begin(of, SIZE, [Expected("one", a, Changes()), Expected("other", a, Changes())])
    first = ahead.coming("one")
    assert first is not None
    assert first.result(20) is None
    ahead.begin(of, SIZE, [Expected("one", a, Changes())])
    second = ahead.coming("one")
    again.set()
    assert second is not None
    assert second.result(20) == b"drawn"
    ahead.close()
