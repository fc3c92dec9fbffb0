"""Drops: whatever comes, in whatever pieces, whoever falls meanwhile, every file is taken or refused, once."""

from __future__ import annotations

import io
import os
import signal
import subprocess
import sys
import time
import uuid
import zipfile
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from alembic import command
from alembic.config import Config
from fastapi.testclient import TestClient
from sqlalchemy import create_engine, make_url, text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from pavese.core import limits
from pavese.core.formats.intake import digest
from pavese.demo.icons import icon_files
from pavese.demo.load import demo_kit
from pavese.demo.pictures import logo as tarnmoor_logo
from pavese.jobs import drop as drop_work
from pavese.jobs.worker import Work
from pavese.render import reading
from pavese.render.pool import ChildFailedError, DrawingPool
from pavese.render.reading import Refused, read_files
from pavese.settings import Settings
from pavese.store import contents, drops, kits, queue, sets
from pavese.store.database import _MIGRATIONS, connect, migrate, sessions
from tests.api.test_beside import png
from tests.api.test_sets import RED, TWO, Json, kit, start
from tests.conftest import files_of
from tests.hostile import drawing, drawings, entities, zipped
from tests.stuck import reading_but_stuck

__all__ = ["kit"]

Named = tuple[str, bytes]


def begin(client: TestClient, set_id: str, files: int) -> Json:
    answer = client.post(f"/api/sets/{set_id}/drops", json={"files": files})
    assert answer.status_code == 201, answer.text
    return dict(answer.json())


def send(client: TestClient, drop: Json, *files: Named) -> Json:
    answer = client.post(f"/api/drops/{drop['id']}/files", files=[("files", file) for file in files])
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def ended(client: TestClient, drop: Json, seconds: float = 60) -> Json:
    return until(client, drop, lambda now: bool(now["ended"]), seconds)


def until(client: TestClient, drop: Json, fits: Callable[[Json], bool], seconds: float = 60) -> Json:
    deadline = time.monotonic() + seconds
    while True:
        now: Json = client.get(f"/api/drops/{drop['id']}").json()
        if fits(now):
            return now
        assert time.monotonic() < deadline, now
        time.sleep(0.03)


def names(client: TestClient, set_id: str) -> list[str]:
    return [asset["name"] for asset in files_of(client, set_id)]


def pieces(client: TestClient, drop: Json, name: str, data: bytes, at: list[int]) -> None:
    for number in at:
        offset = number * contents.PIECE
        params = {"name": name, "size": len(data), "offset": offset}
        body = data[offset : offset + contents.PIECE]
        answer = client.put(f"/api/drops/{drop['id']}/piece", params=params, content=body)
        assert answer.status_code == 200, answer.text


def test_the_first_files_are_seen_while_the_rest_comes_and_it_is_planned_once(client: TestClient, kit: Json) -> None:
    made = start(client, kit)
    drop = begin(client, made["id"], 3)
    send(client, drop, ("a.svg", RED), ("broken.svg", b"<svg"))
    now = until(client, drop, lambda now: now["read"] == 2)
    assert (now["taken"], now["refusals"], now["receiving"], now["ended"]) == (1, 1, True, False)
    assert now["refused"][0]["name"] == "broken.svg"
    seen = client.get(f"/api/sets/{made['id']}").json()
    assert [asset["name"] for asset in files_of(client, seen["id"])] == ["a.svg"]
    assert seen["paints"] == [], "nothing is planned before all has come"
    asset = files_of(client, seen["id"])[0]["id"]
    after, before = (client.get(f"/api/assets/{asset}/picture.png?side={side}").content for side in ("after", "before"))
    assert after == before
    # A request whose answer was lost is sent again.
    send(client, drop, ("a.svg", RED), ("b.svg", TWO))
    assert client.get(f"/api/sets/{made['id']}/drops/latest").json()["id"] == drop["id"]
    assert client.post(f"/api/drops/{drop['id']}/close").json()["receiving"] is False
    assert client.post(f"/api/drops/{drop['id']}/close").status_code == 200
    now = ended(client, drop)
    assert (now["expected"], now["read"], now["taken"], now["refusals"]) == (3, 3, 2, 1)
    seen = client.get(f"/api/sets/{made['id']}").json()
    assert [asset["name"] for asset in files_of(client, seen["id"])] == ["a.svg", "b.svg"]
    assert len(seen["paints"]) == 2
    assert seen["history"]["undo"] is None
    late = client.post(f"/api/drops/{drop['id']}/files", files=[("files", ("c.svg", RED))])
    assert late.status_code == 409
    assert "has ended" in late.json()["detail"]


def test_an_archive_in_pieces_out_of_order_and_twice(client: TestClient, kit: Json) -> None:
    filler = os.urandom(2 * contents.PIECE)
    files = [(f"{n % 7}/{n}.svg", drawing(f'<path fill="#{n:06x}" d="M0 0h9v9z"/>')) for n in range(130)]
    archive = zipped(*files[:60], ("notes.bin", filler), *files[60:])
    made = start(client, kit)
    drop = begin(client, made["id"], 1)
    count = -(-len(archive) // contents.PIECE)
    assert count >= 3
    pieces(client, drop, "signs.zip", archive, [*range(1, count), 1])
    assert client.get(f"/api/drops/{drop['id']}").json()["arrived"] == 0
    pieces(client, drop, "signs.zip", archive, [0, 0])
    for offset, body in ((5, b"x"), (0, b""), (0, b"x" * (contents.PIECE + 1)), (contents.PIECE, b"short")):
        params = {"name": "other.zip", "size": 9 * contents.PIECE, "offset": offset}
        assert client.put(f"/api/drops/{drop['id']}/piece", params=params, content=body).status_code == 409
    client.post(f"/api/drops/{drop['id']}/close")
    now = ended(client, drop)
    assert (now["read"], now["taken"]) == (131, 130)
    assert [(one["name"], "kind of file" in one["reason"]) for one in now["refused"]] == [("notes.bin", True)]
    assert names(client, made["id"]) == [name for name, _ in files]
    with client.app.state.sessions() as session:  # type: ignore[attr-defined]
        assert b"".join(contents.pieces(session, digest(archive))) == archive


def test_what_has_not_come_whole_is_said_and_a_cancelled_drop_keeps_what_it_took(client: TestClient, kit: Json) -> None:
    made = start(client, kit)
    drop = begin(client, made["id"], 2)
    send(client, drop, ("a.svg", RED))
    pieces(client, drop, "cut.zip", b"x" * (3 * contents.PIECE), [0, 2])
    client.post(f"/api/drops/{drop['id']}/close")
    now = ended(client, drop)
    assert [(one["name"], "not all of it" in one["reason"]) for one in now["refused"]] == [("cut.zip", True)]
    huge = {"name": "huge.zip", "size": limits.PACKED_BYTES + 1, "offset": 0}
    second = begin(client, made["id"], 5)
    for _ in range(2):
        assert client.put(f"/api/drops/{second['id']}/piece", params=huge, content=b"x").status_code == 413
    send(client, second, ("b.svg", TWO))
    until(client, second, lambda now: now["taken"] == 1)
    client.post(f"/api/drops/{second['id']}/cancel")
    now = ended(client, second)
    assert (now["taken"], [one["name"] for one in now["refused"]]) == (1, ["huge.zip"])
    view = client.get(f"/api/sets/{made['id']}").json()
    assert [asset["name"] for asset in files_of(client, view["id"])] == ["a.svg", "b.svg"]
    assert len(view["paints"]) == 2


def test_many_requests_one_after_another_are_no_failures(client: TestClient, kit: Json) -> None:
    """Each has an entry in the queue, and most find that all has been read already."""
    made = start(client, kit)
    drop = begin(client, made["id"], 30)
    for number in range(30):
        send(client, drop, (f"{number}.svg", RED))
    client.post(f"/api/drops/{drop['id']}/close")
    now = ended(client, drop)
    assert (now["taken"], now["refusals"]) == (30, 0)


def test_a_drop_whose_sender_went_away_ends_with_what_has_come(client: TestClient, kit: Json) -> None:
    made = start(client, kit)
    drop = begin(client, made["id"], 9)
    send(client, drop, ("a.svg", RED))
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        session.execute(text("UPDATE drops SET seen_at = now() - interval '1 hour' WHERE id = :id"), {"id": drop["id"]})
        drops.close_left(session)
    assert ended(client, drop)["taken"] == 1


def test_a_set_has_a_bound_on_files_and_on_paints(
    client: TestClient, kit: Json, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = start(client, kit, ("a.svg", RED))
    monkeypatch.setattr(limits, "SET_FILES", 2)
    answer = client.post(f"/api/sets/{made['id']}/files", files=[("files", (f"{n}.svg", RED)) for n in range(3)]).json()
    assert (answer["taken"], len(answer["refused"])) == (1, 2)
    assert "the set is full" in answer["refused"][0]["reason"]
    monkeypatch.setattr(limits, "SET_FILES", 100)
    monkeypatch.setattr(limits, "SET_PAINTS", 2)
    answer = client.post(
        f"/api/sets/{made['id']}/files", files=[("files", ("c.svg", TWO)), ("files", ("d.svg", RED))]
    ).json()
    assert answer["taken"] + len(answer["refused"]) == 2
    assert all("more than 2 colors" in one["reason"] for one in answer["refused"])


def test_crafted_files_are_refused_by_name_and_the_rest_goes_on(client: TestClient, kit: Json) -> None:
    made = start(client, kit)
    files = [(f"{n:03}-{one.name}", one) for n, one in enumerate([*drawings(), *entities()])]
    drop = begin(client, made["id"], len(files))
    for name, one in files:
        if len(one.data) < 3_500_000:
            send(client, drop, (name, one.data))
        else:
            pieces(client, drop, name, one.data, [*range(-(-len(one.data) // contents.PIECE))])
        assert client.get("/api/kits").status_code == 200
    client.post(f"/api/drops/{drop['id']}/close")
    now = ended(client, drop, seconds=120)
    assert now["read"] == len(files)
    reasons = {entry["name"]: entry["reason"] for entry in now["refused"]}
    for name, one in files:
        if one.reason is None:
            assert name not in reasons, (one.title, reasons[name])
        else:
            assert one.reason in reasons[name], (one.title, reasons[name])
    assert client.get(f"/api/sets/{made['id']}/check").status_code == 200


@pytest.fixture(scope="module")
def pool(app_settings: Settings) -> Iterator[DrawingPool]:
    children = DrawingPool(2, app_settings.fonts_dir)
    yield children
    children.close()


def test_a_child_that_falls_is_replaced_and_what_it_did_is_told(pool: DrawingPool) -> None:
    # Only what is to take too long has little time: how soon a fallen child is noticed is the machine's to say.
    falls = [(os._exit, 3, 60.0, "down"), (time.sleep, 300, 1.0, "longer"), (bytearray, 1 << 34, 60.0, "memory")]
    for work, argument, seconds, words in falls:
        with pytest.raises(ChildFailedError, match=words):
            pool.result(pool.begin(work, argument, seconds=seconds))
    assert pool.result(pool.begin(len, "abc", seconds=5.0)) == 3


def test_one_file_that_fails_leaves_the_others_be(pool: DrawingPool, monkeypatch: pytest.MonkeyPatch) -> None:
    files = [*list(icon_files().items())[:5], ("broken.svg", b"<svg"), ("stuck.svg", RED), ("last.svg", RED)]
    monkeypatch.setattr(reading, "read_group", reading_but_stuck)
    monkeypatch.setattr(reading, "SECONDS", 4.0)
    found = read_files(pool, files)
    assert [one.name for one in found] == [name for name, _ in files]
    assert [isinstance(one, Refused) for one in found] == [False] * 5 + [True, True, False]
    assert "took longer than 4 seconds" in found[6].reason  # type: ignore[union-attr]


def test_a_file_that_fells_every_worker_is_refused_in_the_end(client: TestClient, kit: Json) -> None:
    """A worker that falls cannot say over what; whoever comes after the last try refuses what was next."""
    made = start(client, kit)
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        row = drops.begin(session, sets.get(session, uuid.UUID(made["id"])), 1)
        row.tries = queue.MOST_TRIES + 1
        session.flush()
        drops.receive(session, row, [("a.svg", RED)])
        drops.close(session, row)
        drop = {"id": str(row.id)}
    now = ended(client, drop)
    assert (now["taken"], "has failed" in now["refused"][0]["reason"]) == (0, True)


def test_a_worker_killed_in_the_middle_of_a_drop_loses_and_doubles_nothing(
    database_url: str, app_settings: Settings
) -> None:
    """A drop into a database of its own, with workers that are killed again and again while they read it."""
    url = other_database(database_url, "killed")
    engine = connect(url)
    migrate(engine)
    made = sessions(engine)
    files = {f"{n}/{name}": data for n in range(7) for name, data in icon_files().items()}
    archive = zipped(*[(f"z{name}", data) for name, data in list(files.items())[:90]])
    with made.begin() as session:
        row = kits.create(session, demo_kit())
        set_row = sets.create(session, row.id, "Signs")
        drop_row = drops.begin(session, set_row, len(files) + 1)
        drops.receive(session, drop_row, [("z.zip", archive), *files.items()])
        drops.close(session, drop_row)
        set_id, drop_id = set_row.id, drop_row.id
    worker_command = [sys.executable, "-m", "pavese.cli", "worker"]
    environment = {**os.environ, "PAVESE_DATABASE_URL": url, "PAVESE_LOG_LEVEL": "error"}

    def read() -> tuple[int, str]:
        with made() as session:
            now = drops.get(session, drop_id)
            return now.read, now.state

    def freed() -> None:
        """What a fallen worker had is free after 30 seconds without a heartbeat; the test does not wait for them."""
        with made.begin() as session:
            session.execute(text("SET LOCAL search_path TO queue"))
            session.execute(text("UPDATE procrastinate_jobs SET status = 'todo' WHERE status = 'doing'"))

    for kill_at in (1, 150):
        freed()
        with subprocess.Popen(worker_command, env=environment, start_new_session=True) as worker:
            deadline = time.monotonic() + 60
            while read()[0] < kill_at:
                assert time.monotonic() < deadline, "the worker does not get on"
                time.sleep(0.005)
            os.killpg(worker.pid, signal.SIGKILL)
    freed()
    Work(app_settings, url).run(wait=False)
    assert read() == (len(files) + 90, "done")
    with made() as session:
        found = sets.assets(session, sets.get(session, set_id))
        assert sorted(asset.name for asset in found) == sorted([*files, *(f"z{name}" for name in list(files)[:90])])
        plan = sets.plan_of(session, sets.get(session, set_id), demo_kit(), sets.paints(found))
        assert {key for asset in found for key in asset.paints} <= plan.choices.keys()
    engine.dispose()


def other_database(url: str, name: str) -> str:
    """A database beside the one of the tests, empty."""
    engine = create_engine(url, isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        connection.execute(text(f"DROP DATABASE IF EXISTS {name} WITH (FORCE)"))
        connection.execute(text(f"CREATE DATABASE {name}"))
    engine.dispose()
    return make_url(url).set(database=name).render_as_string(hide_password=False)


def test_connections_that_are_cut_do_not_stop_the_work(client: TestClient, kit: Json) -> None:
    made = start(client, kit)
    for number in range(4):
        drop = begin(client, made["id"], 1)
        send(client, drop, (f"{number}.svg", drawing(f'<path fill="#00{number}" d="M0 0h9v9z"/>')))
        with client.app.state.sessions() as session:  # type: ignore[attr-defined]
            of_workers = "query ~* 'procrastinate' AND pid <> pg_backend_pid()"
            session.execute(text(f"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE {of_workers}"))
        client.post(f"/api/drops/{drop['id']}/close")
        assert ended(client, drop)["taken"] == 1
    assert names(client, made["id"]) == ["0.svg", "1.svg", "2.svg", "3.svg"]


def test_work_whose_end_could_not_be_noted_is_taken_up_again(
    client: TestClient, kit: Json, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Work fails since the database is away, and so does the word that it is to be done again: the worker lives, and
    nobody waits for its death."""
    made = client.app.state.sessions  # type: ignore[attr-defined]
    reading, failed = drop_work.begin_reading, []
    again = "ALTER FUNCTION queue.{} (bigint, timestamptz, integer, varchar, varchar) RENAME TO {}"

    def failing_once(*given: Any, **named: Any) -> Any:
        if failed:
            return reading(*given, **named)
        failed.append(True)
        with made.begin() as session:
            session.execute(text(again.format("procrastinate_retry_job_v2", "away")))
        raise OperationalError("SELECT", {}, Exception("the server closed the connection"))

    monkeypatch.setattr(drop_work, "begin_reading", failing_once)
    drop = begin(client, start(client, kit)["id"], 1)
    send(client, drop, ("a.svg", RED))
    client.post(f"/api/drops/{drop['id']}/close")
    until(client, drop, lambda _: bool(failed))
    time.sleep(1)
    with made.begin() as session:
        session.execute(text(again.format("away", "procrastinate_retry_job_v2")))
    assert ended(client, drop)["taken"] == 1


def test_what_nothing_points_to_is_thrown_away_and_nothing_else(client: TestClient, kit: Json) -> None:
    made = start(client, kit, ("a.svg", RED), ("b.svg", TWO))
    unused, logo = os.urandom(3 * contents.PIECE), tarnmoor_logo()
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        gone, size = contents.write(session, [unused[:100], unused[100:]])
        assert (gone, size) == (digest(unused), len(unused))
        assert b"".join(contents.pieces(session, gone)) == unused
    brought = client.post(f"/api/kits/{kit['id']}/logo/light", files={"file": ("logo.svg", logo)})
    assert brought.status_code == 200, brought.text
    # What only a step that was undone knows of can still be done again.
    assert client.post(f"/api/kits/{kit['id']}/undo").status_code == 200
    with client.app.state.sessions.begin() as session:  # type: ignore[attr-defined]
        assert contents.sweep(session, seconds=3600) == 0, "what is new may be pointed to in a moment"
        assert contents.sweep(session, seconds=0) >= 1
        assert list(contents.several(session, [digest(RED), digest(TWO), digest(logo)]).values()) == [RED, TWO, logo]
        with pytest.raises(Exception, match="No row"):
            contents.size(session, gone)
    assert client.post(f"/api/kits/{kit['id']}/redo").status_code == 200
    with zipfile.ZipFile(io.BytesIO(client.get(f"/api/sets/{made['id']}/package.zip").content)) as packed:
        assert {"a.svg", "b.svg"} <= set(packed.namelist())


def test_blobs_of_before_are_contents_now(database_url: str) -> None:
    """The way there and back, with a file of several pieces and an empty one."""
    engine = connect(other_database(database_url, "blobs"))
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    large = os.urandom(2 * contents.PIECE + 7)
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0007")
        for data in (large, b"", b"x" * contents.PIECE):
            connection.execute(text("INSERT INTO blobs VALUES (:d, :b)"), {"d": digest(data), "b": data})
        command.upgrade(config, "head")
        with Session(connection) as session:
            for data in (large, b"", b"x" * contents.PIECE):
                assert b"".join(contents.pieces(session, digest(data))) == data
                assert contents.size(session, digest(data)) == len(data)
        command.downgrade(config, "0007")
        kept = dict(connection.execute(text("SELECT digest, data FROM blobs")).all())
    assert {key: bytes(data) for key, data in kept.items()} == {
        digest(data): data for data in (large, b"", b"x" * contents.PIECE)
    }
    engine.dispose()


def test_what_sets_of_other_channels_take_is_brought_to_such(client: TestClient, kit: Json) -> None:
    def whole(set_id: str, *files: Named) -> Json:
        drop = begin(client, set_id, len(files))
        send(client, drop, *files)
        client.post(f"/api/drops/{drop['id']}/close")
        return ended(client, drop)

    sign, mail = (
        next(iter(icon_files().values())),
        b"<!doctype html><table><tr><td>At noon</td></tr></table>",
    )
    packed = zipped(("exports/tall.png", png("#117755")), ("anchor.svg", sign), ("mail.html", mail), ("a.bin", b"?"))
    first = start(client, kit)["id"]
    now = whole(first, ("ferry.svg", sign), ("flat.png", png("#cc3300")), ("all.zip", packed), ("notes.bin", b"?"))
    assert (now["taken"], now["refusals"], now["left"]) == (2, 5, {"email": 1, "images": 2})
    brought = client.post(f"/api/drops/{now['id']}/left")
    assert brought.status_code == 201
    assert [(one["name"], one["files"]) for one in brought.json()] == [("Icons, email", 1), ("Icons, images", 2)]
    for one, files in zip(brought.json(), (["mail.html"], ["exports/tall.png", "flat.png"]), strict=True):
        drop = client.get(f"/api/sets/{one['set_id']}/drops/latest").json()
        came = ended(client, drop)
        assert (came["taken"], came["refusals"], came["read"], came["left"]) == (len(files), 0, len(files), {})
        assert sorted(names(client, one["set_id"])) == files
    # What was refused is told until one puts it away; there is nothing to put away of a drop that is still read.
    again = client.get(f"/api/sets/{first}/drops/latest").json()
    assert (again["mine"], [one["name"] for one in again["refused"]]) == (True, ["a.bin", "notes.bin"])
    assert (
        client.delete(f"/api/drops/{begin(client, brought.json()[0]['set_id'], 1)['id']}/refusals").status_code == 409
    )
    assert client.delete(f"/api/drops/{now['id']}/refusals").status_code == 204
    assert client.get(f"/api/sets/{first}/drops/latest").json()["refused"] == []
    # Once is enough, and there is nothing to bring of a drop of which nothing belongs elsewhere.
    for drop in (now, whole(first, ("other.svg", sign), ("notes.bin", b"?"))):
        assert client.get(f"/api/drops/{drop['id']}").json()["left"] == {}
        assert client.post(f"/api/drops/{drop['id']}/left").status_code == 409
