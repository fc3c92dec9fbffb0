"""The database cluster and the shell: made, repaired, stopped; the same bytes as the interface."""

from __future__ import annotations

import io
import shutil
import socket
import tempfile
import time
import uuid
from collections.abc import Iterator
from contextlib import ExitStack
from pathlib import Path

import pytest
from sqlalchemy import select, text

from pavese.cli import main
from pavese.core.formats import read
from pavese.core.formats.mail.document import read_mail
from pavese.core.formats.svg import read_svg
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.token import parse_token
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.pictures import CLEAR, PictureGrounds
from pavese.core.recolor.quiet import Pressed, quiet
from pavese.core.recolor.site import Kind
from pavese.demo.icons import icon_files
from pavese.demo.load import demo_kit, load
from pavese.demo.mail import LOGO, mail_files, mail_logo
from pavese.demo.site import demo_site
from pavese.settings import settings
from pavese.store import kits, people, pictures, sources
from pavese.store.cluster import Cluster
from pavese.store.database import connect, migrate, sessions
from pavese.store.models import SignIn


@pytest.fixture
def folder() -> Iterator[Path]:
    with tempfile.TemporaryDirectory(prefix="pavese-test-") as made:
        Path(made).chmod(0o755)
        yield Path(made) / "postgres"


def test_a_cluster_is_made_started_again_and_repaired(folder: Path) -> None:
    cluster = Cluster(folder, 24700)
    # What an interrupted start leaves behind: a folder that was never finished.
    (folder / "cluster").mkdir(parents=True)
    (folder / "cluster" / "PG_VERSION").write_text("15\n")
    cluster.start()
    engine = connect(cluster.url)
    migrate(engine)
    with demo_site() as site, sessions(engine).begin() as session:
        assert session.scalar(text("SHOW fsync")) == "on", "what is stored outlasts a power cut"
        assert load(session, site)
        assert not load(session, site)
        [(row, kit)] = kits.listed(session)
        assert kit.colors == demo_kit().colors, "the demo's kit is what its sources give"
        assert [source.kind for _, source in sources.of_kit(session, row.id)] == ["picture", "board", "page"]
    engine.dispose()
    again = Cluster(folder, 24700)
    again.start()
    assert again.url == cluster.url, "a running cluster is used as it is"
    cluster.stop()
    cluster.stop()
    # A process file left by a crash, and a port that someone else has taken meanwhile.
    (folder / "cluster" / "postmaster.pid").write_text("999999\n/x\n0\n24700\n\n127.0.0.1\n\n")
    with socket.socket() as other:
        # The cluster that stood there has just gone, and the system keeps its last connections for a minute.
        other.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        other.bind(("127.0.0.1", 24700))
        other.listen()
        moved = Cluster(folder, 24700)
        moved.start()
        try:
            engine = connect(moved.url)
            with sessions(engine).begin() as session:
                assert [kit.name for _, kit in kits.listed(session)] == ["Tarnmoor Ferries"]
            engine.dispose()
            assert ":24701/" in moved.url
        finally:
            moved.stop()


def test_migrations_make_what_the_models_say(database_url: str) -> None:
    from alembic.autogenerate import compare_metadata
    from alembic.migration import MigrationContext

    from pavese.store.models import Base

    engine = connect(database_url)
    migrate(engine)
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
        assert connection.scalar(text("SELECT 1")) == 1
    with sessions(engine).begin() as session:
        for n in range(5):
            pictures.put(session, {f"{n:064}": b"x" * 100})
        assert pictures.prune(session, 250) >= 3
        assert [bool(pictures.get(session, f"{n:064}")[0]) for n in range(5)] == [False, False, False, True, True]
        pictures.put(session, {"f" * 64: b""}, "too dark")
        assert pictures.get(session, "f" * 64) == (None, "too dark")
    engine.dispose()


def test_the_shell_takes_any_kit_rules_and_acts(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    drawing = (
        b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 90"><path fill="#e53935" d="M0 0h90v90z"/>'
        b'<text x="9" y="50" fill="#222222">Quay</text></svg>'
    )
    (tmp_path / "label.svg").write_bytes(drawing)
    (tmp_path / "brand.css").write_text(":root { --sea: #0b5e6b; --sand: #eef0ec; --night: #16252b; }")
    out = tmp_path / "out"
    base = ["recolor", "--kit", str(tmp_path / "brand.css"), str(tmp_path / "label.svg"), "-o", str(out)]
    told = ["--rule", "text=night.base", "--act", "backing:color=sand.base,shape=circle,padding=5"]
    assert main([*base, *told]) == 0
    assert "proposed" in capsys.readouterr().err
    written = read_svg("label.svg", (out / "label.svg").read_bytes()).inventory()
    paints = {paint.rgb.hex: kinds for paint, kinds in written.sites.items()}
    assert Kind.TEXT in paints["#16252b"]
    assert "#eef0ec" in paints, "the backing"
    plan = read_plan_file((out / "plan.json").read_text())
    assert (plan.rules, [*plan.acts]) == ({Kind.TEXT: "night.base"}, ["backing"])
    capsys.readouterr()
    brought = ["check", "--kit", str(tmp_path / "brand.css")]
    assert main([*brought, str(out / "label.svg")]) == 0
    assert capsys.readouterr().out == "0 of 1 files are off\n"
    assert main([*brought, str(tmp_path / "label.svg")]) == 1
    assert "label.svg: Colors of the kit: #e53935 is off: " in capsys.readouterr().out
    # One file goes its own way.
    (tmp_path / "other.svg").write_bytes(drawing)
    both = [*base[:4], str(tmp_path / "other.svg"), *base[4:], "--choose", "other.svg:#e53935=keep"]
    assert main(both) == 0
    after = {name: read_svg(name, (out / name).read_bytes()).inventory() for name in ("label.svg", "other.svg")}
    kept = {name: "#e53935" in {paint.rgb.hex for paint in one.paints} for name, one in after.items()}
    assert kept == {"label.svg": False, "other.svg": True}
    for wrong, words in (
        (["--rule", "rigging=night.base"], "rigging"),
        (["--rule", "text=gone.base"], "gone"),
        (["--act", "bunting"], "bunting"),
        (["--act", "backing:color=sand.base,padding=900"], "padding"),
        (["--act", "backing:color=gone.base"], "gone"),
        (["--choose", "gone.svg:#e53935=keep"], "gone.svg"),
        (["--choose", "#123456=keep"], "no paint"),
        (["--plan", str(out / "plan.json"), "--recolor-natural"], "--recolor-natural"),
    ):
        assert main([*base, *wrong]) == 1
        assert words in capsys.readouterr().err
    (tmp_path / "brand.css").write_text("no colors at all")
    assert main(base) == 1
    assert "holds no colors" in capsys.readouterr().err


def test_the_shell_recolors_like_the_interface(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    kit = demo_kit()
    (tmp_path / "kit.tokens.json").write_text(kit_tokens(kit))
    originals = dict(list(icon_files().items())[:5])
    for name, data in originals.items():
        (tmp_path / name).write_bytes(data)
    files = [str(tmp_path / name) for name in originals]
    base = ["recolor", "--kit", str(tmp_path / "kit.tokens.json"), *files]
    assert main([*base, "-o", str(tmp_path / "first")]) == 0
    resolved = read_plan_file((tmp_path / "first" / "plan.json").read_text()).resolve(kit)
    assert main([*base, "--plan", str(tmp_path / "first" / "plan.json"), "-o", str(tmp_path / "second")]) == 0
    for name, data in originals.items():
        expected = read_svg(name, data).write(resolved)
        assert (tmp_path / "first" / name).read_bytes() == expected != data
        assert (tmp_path / "second" / name).read_bytes() == expected
    capsys.readouterr()
    (tmp_path / "broken.svg").write_text("<svg")
    assert main([*base, str(tmp_path / "broken.svg"), "-o", str(tmp_path / "third")]) == 1
    assert "broken.svg: not well-formed" in capsys.readouterr().err
    assert main([*base, str(tmp_path / "missing.svg"), "-o", str(tmp_path / "x")]) == 1
    (tmp_path / "half.json").write_text('{"sea": ')
    assert main(["recolor", files[0], "--kit", str(tmp_path / "half.json"), "-o", str(tmp_path / "x")]) == 1
    assert "half.json is no JSON" in capsys.readouterr().err


def test_the_shell_does_mails_with_their_pictures(tmp_path: Path) -> None:
    kit = demo_kit()
    (tmp_path / "kit.tokens.json").write_text(kit_tokens(kit))
    (tmp_path / "images").mkdir()
    (tmp_path / LOGO).write_bytes(mail_logo())
    mail = tmp_path / "departures.html"
    mail.write_bytes(mail_files()["departures.html"])
    base = ["recolor", "--kit", str(tmp_path / "kit.tokens.json"), str(mail)]
    assert main([*base, "--rule", "ground=fog.base", "-o", str(tmp_path / "plain")]) == 0
    # The logo goes by the plan of the mail: its white where that of the mail does, its red to what reads on that.
    plain = read(LOGO, (tmp_path / "plain" / LOGO).read_bytes()).inventory().paints
    assert {paint.rgb for paint in plain} <= {color for _, color in kit.tokens()}
    assert kit.color("fog").base in {paint.rgb for paint in plain}
    assert main([*base, "--rule", "ground=fog.base", "--rule", "picture=keep", "-o", str(tmp_path / "plain")]) == 0
    assert (tmp_path / "plain" / LOGO).read_bytes() == mail_logo()
    dark = quiet(kit, parse_token("hull.base"), parse_token("fog.base"), Pressed.INK)
    plan = read_plan_file((tmp_path / "plain" / "plan.json").read_text())
    plan = plan.with_part_rules("/footer", dark.rules, kit).with_act(DarkScheme.key, dark.in_the_dark)
    plan = plan.with_act(PictureGrounds.key, PictureGrounds(grounds={LOGO: CLEAR}), ["departures.html"])
    (tmp_path / "plan.json").write_text(plan_file(plan, kit))
    assert main([*base, "--plan", str(tmp_path / "plan.json"), "-o", str(tmp_path / "own")]) == 0
    written = (tmp_path / "own" / "departures.html").read_bytes()
    assert written == read_mail("departures.html", mail.read_bytes()).write(plan.changes(kit, "departures.html"))
    assert b"prefers-color-scheme: dark" in written
    assert (tmp_path / "own" / LOGO).read_bytes() not in (mail_logo(), b"")


def test_exceptions_that_planning_makes_are_written_from_the_shell(tmp_path: Path) -> None:
    """Many blues and a kit of one: what one target for each would make one in a file is planned apart there."""
    (tmp_path / "brand.css").write_text(":root { --sea: #1f5fa8 }")
    blues = [f"#{at * 3:02x}{60 + at * 4:02x}{120 + at * 3:02x}" for at in range(36)]
    files = []
    for at in range(12):
        some = [blues[(at * 5 + step * (7 + at)) % 36] for step in range(7)]
        stripes = "".join(f'<path fill="{code}" d="M0 {row}h9v1H0z"/>' for row, code in enumerate(some))
        files.append(tmp_path / f"{at}.svg")
        files[-1].write_text(f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 7">{stripes}</svg>')
    out = tmp_path / "out"
    assert main(["recolor", "--kit", str(tmp_path / "brand.css"), *map(str, files), "-o", str(out)]) == 0
    plan = read_plan_file((out / "plan.json").read_text())
    assert plan.files.keys() & {file.name for file in files}, "some file has an exception, by its name"
    for file in files:
        before, after = (read_svg(file.name, one.read_bytes()).inventory() for one in (file, out / file.name))
        lost = len({paint.rgb for paint in before.paints}) - len({paint.rgb for paint in after.paints})
        assert lost <= 2, "near-equals aside, what was two is two"


def test_the_first_person_is_let_in_from_the_shell(
    database_url: str, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("PAVESE_DATABASE_URL", database_url)
    settings.cache_clear()
    address = f"{uuid.uuid4().hex}@tarnmoor.example"
    command = ["user", address, "Iris Holm", "--role", "reader", "--password-stdin"]
    try:
        for password, status in (("short", 1), ("long enough it is", 0), ("long enough it is", 1)):
            monkeypatch.setattr("sys.stdin", io.StringIO(f"{password}\n"))
            assert main(command) == status
    finally:
        settings.cache_clear()
    said = capsys.readouterr()
    assert said.out == f"Iris Holm may sign in as {address}, reader.\n"
    assert "at least 10 characters" in said.err
    assert "already" in said.err
    engine = connect(database_url)
    with sessions(engine).begin() as session:
        found = people.signed_in(session, address.upper(), "long enough it is", "here")
        assert found is not None
        assert found[0].secret.startswith("$argon2id$")
        assert found[1] not in [row.digest for row in session.scalars(select(SignIn))], "tokens are kept as hashes"
    engine.dispose()


def test_a_port_in_use_is_said_in_a_line(monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        monkeypatch.setenv("PAVESE_PORT", str(other.getsockname()[1]))
        settings.cache_clear()
        try:
            assert main(["serve"]) == 1
        finally:
            settings.cache_clear()
    assert "is in use" in capsys.readouterr().err


def test_a_missing_server_program_is_named(monkeypatch: pytest.MonkeyPatch, folder: Path) -> None:
    from pavese.store import cluster

    monkeypatch.setattr(cluster, "_DEBIAN", Path("/nonexistent"))
    monkeypatch.setattr(shutil, "which", lambda _: None)
    with pytest.raises(cluster.ClusterError, match="install Debian's package postgresql"):
        Cluster(folder, 54800)


def test_connections_that_were_cut_are_replaced_when_they_have_rested(database_url: str) -> None:
    engine, other = connect(database_url), connect(database_url)
    mine = text("SELECT pg_backend_pid()")
    with ExitStack() as stack:
        held = [stack.enter_context(engine.connect()) for _ in range(4)]
        pids = {connection.scalar(mine) for connection in held}
    with other.begin() as connection:
        for pid in pids:
            connection.execute(text("SELECT pg_terminate_backend(:pid)"), {"pid": pid})
    time.sleep(1.2)
    with ExitStack() as stack:
        again = [stack.enter_context(engine.connect()) for _ in range(4)]
        assert not pids & {connection.scalar(mine) for connection in again}
    engine.dispose()
    other.dispose()
