"""The same work from a shell: serve the application, recolor files, write the interface's schema."""

from __future__ import annotations

import argparse
import errno
import getpass
import json
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import ExitStack, contextmanager
from dataclasses import replace
from pathlib import Path
from threading import Event, Thread
from typing import Any

import structlog
import uvicorn

from pavese.core.check.checks import CHECKS, Handed, checked
from pavese.core.check.conformance import OffKit
from pavese.core.errors import InvalidPlanError, PaveseError
from pavese.core.formats import made_of_pixels, read, words
from pavese.core.formats.intake import Came, Intake, ReadFile, TakenFile, take
from pavese.core.formats.references import path_beside
from pavese.core.formats.written import written
from pavese.core.gather.kit_file import kit_from_file
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.kit.kit import Kit
from pavese.core.recolor.acts import ACTS, read_act
from pavese.core.recolor.assign import assign
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory, summarize
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.recipe import AllowedColors, Mode, Policy, Recipe
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import resolve_target
from pavese.logs import configure, unforeseen
from pavese.settings import Settings, settings
from pavese.store.errors import StoreError

#: How long a worker may take to end what it is at.
_WORKER_SECONDS = 10.0
#: Pauses before a worker that ended by itself is started again, in seconds; one that lived longer than the last of them
#: begins with the first.
_PAUSES = (0.5, 1.0, 2.0, 5.0, 15.0)
#: What a plan that is brought says already.
_OF_A_NEW_PLAN = ("mode", "policy", "derived", "rule", "act", "choose", "recolor_natural")

#: What lies beside files, by their names: path and bytes by how each names it.
_Besides = Mapping[str, Mapping[str, tuple[str, bytes]]]


def main(arguments: Sequence[str] | None = None) -> int:
    """Runs one command; errors a person can act on are one line on stderr and status 1."""
    parser = argparse.ArgumentParser(prog="pavese", description=__doc__)
    commands = parser.add_subparsers(required=True)

    serve = commands.add_parser("serve", help="start the application, with its private database if none is set")
    serve.add_argument("--demo", action="store_true", help="load the demo data into an empty workspace")
    serve.set_defaults(run=_serve)

    worker = commands.add_parser("worker", help="read drops and make exports for an application, here or elsewhere")
    worker.add_argument("--only", choices=("drops", "exports"), help="one kind of work; others do the rest")
    worker.add_argument("--parent", type=int, help=argparse.SUPPRESS)
    worker.set_defaults(run=_worker)

    user = commands.add_parser("user", help="let somebody in, such as the first coordinator of a new installation")
    user.add_argument("email")
    user.add_argument("name")
    user.add_argument("--role", choices=("coordinator", "reviewer", "reader"), default="coordinator")
    user.add_argument("--password-stdin", action="store_true", help="read the password from standard input")
    user.set_defaults(run=_user)

    recolor = commands.add_parser("recolor", help="recolor files with a kit, by a plan or by an automatic one")
    _takes_files(recolor)
    recolor.add_argument("--plan", type=Path, help="the plan.json of a package; without it, one is made")
    recolor.add_argument("--mode", type=Mode, choices=list(Mode), help=f"{Mode.KIT}, unless said")
    recolor.add_argument("--policy", type=Policy, choices=list(Policy), help=f"{Policy.FAITHFUL}, unless said")
    recolor.add_argument("--derived", action="store_true", help="allow shades between the steps of the kit")
    recolor.add_argument(
        "--rule",
        action="append",
        default=[],
        metavar="KIND=TARGET",
        help="such as text=hull.base: every text goes there",
    )
    recolor.add_argument(
        "--act",
        action="append",
        default=[],
        metavar="ACT[:SETTING=VALUE,…]",
        help=f"such as backing:color=fog.base,shape=circle; there are {', '.join(ACTS)}",
    )
    recolor.add_argument(
        "--choose",
        action="append",
        default=[],
        metavar="[FILE:]PAINT=TARGET",
        help="such as logo.svg:#e53935=keep: what a paint becomes, in one file or in all",
    )
    recolor.add_argument("--recolor-natural", action="store_true", help="recolor skin, hair, wood and food too")
    recolor.add_argument("-o", "--out", required=True, type=Path, help="the folder to write to")
    recolor.set_defaults(run=_recolor)

    check = commands.add_parser("check", help="tell what in files is off a kit, or does not read; status 1 if any is")
    _takes_files(check)
    check.set_defaults(run=_check)

    schema = commands.add_parser("openapi", help="print the schema of the API")
    schema.set_defaults(run=_openapi)

    fonts = commands.add_parser("fonts", help="make the drawing engines' fonts from the interface's packages")
    fonts.add_argument("node_modules", type=Path)
    fonts.set_defaults(run=_fonts)

    parsed = parser.parse_args(arguments)
    try:
        return int(parsed.run(parsed))
    except (PaveseError, StoreError, OSError) as error:
        print(f"pavese: {error}", file=sys.stderr)
        return 1


def _takes_files(command: argparse.ArgumentParser) -> None:
    command.add_argument("files", nargs="+", type=Path, help=f"{words()}, or zip archives of them")
    command.add_argument(
        "--kit",
        required=True,
        type=Path,
        help="the kit.tokens.json of a package, or any design tokens, style, table or text with colors",
    )


def _serve(parsed: argparse.Namespace) -> int:
    from pavese.api.app import create_app
    from pavese.demo.load import load
    from pavese.demo.people import in_words, let_in
    from pavese.demo.site import HOST, demo_site
    from pavese.demo.stock import StandIn
    from pavese.store import people
    from pavese.store.cluster import ClusterError
    from pavese.store.database import connect, migrate, sessions

    config = settings()
    ports = [(config.host, config.port, "PAVESE_PORT")]
    ports += [(HOST, config.demo_site_port, "PAVESE_DEMO_SITE_PORT")] if parsed.demo else []
    for host, port, setting in ports:
        if not _free(host, port):
            print(
                f"pavese: port {port} on {host} is in use, perhaps by Pavese itself. Stop what uses it, or "
                f"choose another with {setting}={port + 2}.",
                file=sys.stderr,
            )
            return 1
    configure(config)
    # What a service manager sends ends it as Ctrl-C does, with everything stopped that was started here.
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    closing = ExitStack()
    try:
        url = closing.enter_context(_database(config))
        engine = connect(url)
        migrate(engine)
        with sessions(engine).begin() as session:
            if parsed.demo:
                host, port = closing.enter_context(demo_site(config.demo_site_port))
                config.page_hosts.append(f"{host}:{port}")
                load(session, (host, port))
                let_in(session)
                print(f"\nIn the demo you sign in as one of:\n{in_words()}", flush=True)
            elif not people.listed(session):
                print("Nobody may sign in yet. Let the first person in: pavese user ADDRESS NAME", flush=True)
        engine.dispose()
        for _ in range(config.export_workers):
            closing.enter_context(_export_worker(url))
        _Server(server_config(config, create_app(config, url, StandIn()))).run()
    except ClusterError as error:
        print(f"pavese: the database cannot be started: {error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    finally:
        for hurry in (signal.SIGINT, signal.SIGTERM):
            signal.signal(hurry, signal.SIG_IGN)
        closing.close()
    print("Pavese has stopped; everything is saved.", flush=True)
    return 0


def server_config(config: Settings, app: Callable[..., Any]) -> uvicorn.Config:
    """How the application is served. `X-Forwarded-For` is believed of the proxies that the settings name, and of nobody
    else."""
    proxies = config.trusted_proxies
    return uvicorn.Config(
        app, config.host, config.port, log_config=None, proxy_headers=bool(proxies), forwarded_allow_ips=proxies
    )


@contextmanager
def _export_worker(url: str) -> Iterator[None]:
    """A worker in a process of its own, started again whenever it ends; Ctrl-C is the application's to hear, which then
    ends it for good."""
    ending = Event()
    process = _started(url)

    def watch() -> None:
        nonlocal process
        falls = 0
        while True:
            since = time.monotonic()
            status = process.wait()
            if ending.is_set():
                return
            falls = 0 if time.monotonic() - since > _PAUSES[-1] else falls
            structlog.get_logger().error("worker ended", status=status, falls=falls)
            if ending.wait(_PAUSES[min(falls, len(_PAUSES) - 1)]):
                return
            falls += 1
            process = _started(url)

    watching = Thread(target=watch, name="worker's watch", daemon=True)
    watching.start()
    try:
        yield
    finally:
        ending.set()
        process.terminate()
        watching.join(_WORKER_SECONDS)
        if watching.is_alive():
            # What it was at is free again after a while, and made anew by whoever comes next.
            process.kill()
            watching.join()


def _started(url: str) -> subprocess.Popen[bytes]:
    command = [sys.executable, "-m", "pavese.cli", "worker", "--parent", str(os.getpid())]
    return subprocess.Popen(command, env={**os.environ, "PAVESE_DATABASE_URL": url}, start_new_session=True)


def _worker(parsed: argparse.Namespace) -> int:
    from pavese.jobs.worker import Work
    from pavese.store.queue import ALL

    config = settings()
    if config.database_url is None:
        print("pavese: say with PAVESE_DATABASE_URL which database to work for.", file=sys.stderr)
        return 1
    configure(config)
    if parsed.parent:
        Thread(target=_end_with, args=(parsed.parent,), daemon=True).start()
    worker = Work(config, config.database_url, queues=[parsed.only] if parsed.only else ALL)
    for told in (signal.SIGINT, signal.SIGTERM):
        signal.signal(told, lambda *_: worker.stop())
    worker.run()
    return 0


def _end_with(parent: int) -> None:
    """Ends this process when the one that started it is gone."""
    while os.getppid() == parent:
        time.sleep(1)
    os.kill(os.getpid(), signal.SIGTERM)


def _user(parsed: argparse.Namespace) -> int:
    from pavese.store import people
    from pavese.store.cluster import ClusterError
    from pavese.store.database import connect, migrate, sessions

    password = sys.stdin.readline().rstrip("\n") if parsed.password_stdin else getpass.getpass("Password: ")
    try:
        with _database(settings(), leave_running=True) as url:
            engine = connect(url)
            migrate(engine)
            with sessions(engine).begin() as session:
                user = people.add(session, parsed.email, parsed.name, people.AccessRole(parsed.role), password)
            engine.dispose()
    except ClusterError as error:
        print(f"pavese: the database cannot be started: {error}", file=sys.stderr)
        return 1
    print(f"{user.name} may sign in as {user.email}, {user.role}.")
    return 0


@contextmanager
def _database(config: Settings, *, leave_running: bool = False) -> Iterator[str]:
    """The address of the database: the one that is set, or the private cluster, started where need be.

    It is stopped again by whoever has it alone. Raises ClusterError when another has it, unless it is only to be used
    as well and `leave_running`.
    """
    from pavese.store.cluster import Cluster, ClusterError

    if config.database_url is not None:
        yield config.database_url
        return
    cluster = Cluster(config.data_dir / "postgres", config.database_port, durable=config.database_durable)
    with cluster.alone() as alone:
        if not alone and not leave_running:
            raise ClusterError(
                f"Pavese is running on {config.data_dir} already. Stop it first, or choose another folder with "
                "PAVESE_DATA_DIR"
            )
        cluster.start()
        try:
            yield cluster.url
        finally:
            if alone:
                cluster.stop()


class _Server(uvicorn.Server):
    """Says where it is as soon as it answers."""

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        await super().startup(sockets)
        if self.started:
            print(f"\nPavese is ready: http://{self.config.host}:{self.config.port}/  (Ctrl-C stops it)\n", flush=True)


def _recolor(parsed: argparse.Namespace) -> int:
    from pavese.render.remembered import pictures_after
    from pavese.render.rendering import drawn

    if parsed.plan and (more := [name for name in _OF_A_NEW_PLAN if getattr(parsed, name)]):
        said = ", ".join(f"--{name.replace('_', '-')}" for name in more)
        raise InvalidPlanError(
            f"{said} are of a plan that is made; {parsed.plan.name} says already what becomes of all."
        )
    kit, intake, besides = _brought(parsed)
    plan = read_plan_file(parsed.plan.read_text()) if parsed.plan else _planned(parsed, intake, besides, kit)
    parsed.out.mkdir(parents=True, exist_ok=True)
    handed = [file for file in intake.taken if file.name not in plan.left_out]
    for file in handed:
        beside = besides[file.name]
        document = read(file.name, file.data, {reference: data for reference, (_, data) in beside.items()})
        changes = plan.changes(kit, file.name)
        if changes.logo is not None:
            print(f"pavese: {file.name}: {parsed.kit.name} holds no logo; the old one stays", file=sys.stderr)
        changed = pictures_after(document, file.name, changes)
        made = {path: changed.get(reference, data) for reference, (path, data) in beside.items()}
        for name, data in {**made, file.name: written(file.name, document, changes, drawn)}.items():
            target = parsed.out / name
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(data)
    if not parsed.plan:
        (parsed.out / "plan.json").write_text(plan_file(plan, kit))
    print(f"{len(handed)} files recolored into {parsed.out}")
    return 1 if intake.refused else 0


def _check(parsed: argparse.Namespace) -> int:
    """Every file as it lies there, by all checks; natural tones are told and are no fault."""
    kit, intake, besides = _brought(parsed)
    off = set()
    pixels = set(made_of_pixels([file.name for file in intake.taken]))
    for file, (inventory, measured) in zip(intake.taken, _seen(intake, besides), strict=True):
        as_it_is = Handed(inventory, measured, Changes(), inventory, file.name in pixels)
        for key, found in checked(as_it_is, kit):
            natural = found.natural(inventory) if isinstance(found, OffKit) else None
            print(f"{file.name}: {CHECKS[key].title}: {found.text}{f' It may be {natural}.' if natural else ''}")
            off |= set() if natural else {file.name}
    print(f"{len(off)} of {len(intake.taken)} files are off")
    return 1 if off or intake.refused else 0


def _brought(parsed: argparse.Namespace) -> tuple[Kit, Intake, _Besides]:
    """The kit and the files that a command was given, with what lies beside them; what is refused is told."""
    found = kit_from_file(parsed.kit.name, parsed.kit.read_bytes())
    for note in found.notes:
        print(f"pavese: {parsed.kit.name}: {note}", file=sys.stderr)
    configure(settings())
    intake = _of_their_own(take(((path.name, path.read_bytes()) for path in parsed.files), unforeseen))
    for error in intake.refused:
        print(f"pavese: {error}", file=sys.stderr)
    folders = {path.name: path.parent for path in parsed.files}
    return found.kit, intake, {file.name: _lying_beside(folders.get(file.name), file) for file in intake.taken}


def _of_their_own(intake: Intake) -> Intake:
    """A drop without the files that others in it show: these are handed over with them."""
    shown = {path_beside(file.name, one) for file in intake.taken for one in file.document.refers}
    return replace(intake, taken=tuple(file for file in intake.taken if file.name not in shown))


def _lying_beside(folder: Path | None, file: TakenFile) -> dict[str, tuple[str, bytes]]:
    """The files in a folder, or below it, that another in it shows, and those that its style sheets name: by how it
    names them, path and bytes."""
    from pavese.render.reading import FOLLOWED

    found: dict[str, tuple[str, bytes]] = {}
    document = file.document
    for _ in range(FOLLOWED if folder is not None else 0):
        named = ((one, path) for one in document.refers if one not in found and (path := path_beside("", one)))
        came = {
            one: (path, (folder / path).read_bytes()) for one, path in named if folder and (folder / path).is_file()
        }
        if not came:
            break
        found |= came
        document = read(file.name, file.data, {one: data for one, (_, data) in found.items()})
    return found


def _planned(parsed: argparse.Namespace, intake: Intake, besides: _Besides, kit: Kit) -> Plan:
    """The plan that the interface would make: by the same settings, with the same look at the drawings."""
    recipe = Recipe(
        mode=parsed.mode or Mode.KIT,
        policy=parsed.policy or Policy.FAITHFUL,
        allowed=AllowedColors.DERIVED if parsed.derived else AllowedColors.STEPS,
        natural=not parsed.recolor_natural,
    )
    plan = _with_acts(_with_rules(Plan(recipe=recipe), parsed.rule, kit), parsed.act, kit)
    found = _seen(intake, besides)
    names = [file.name for file in intake.taken]
    paints = summarize([one for one, _ in found], [one for _, one in found], names, made_of_pixels(names))
    return _with_choices(assign(paints, kit, plan), parsed.choose, names, kit)


def _seen(intake: Intake, besides: _Besides) -> list[tuple[Inventory, Measured]]:
    """What files hold and what is measured of them, as they are drawn."""
    from pavese.render.pool import DrawingPool
    from pavese.render.reading import read_again

    workers = min(settings().drawing_workers, max(len(intake.taken), 1))
    pool = DrawingPool(workers, settings().fonts_dir, settings().more_formats)
    try:
        seen = read_again(
            pool,
            [
                Came(file.name, file.data, tuple((said, data) for said, (_, data) in besides[file.name].items()))
                for file in intake.taken
            ],
        )
    finally:
        pool.close()
    return [
        (read.inventory, read.measured) if isinstance(read, ReadFile) else (file.inventory, Measured())
        for file, read in zip(intake.taken, seen, strict=True)
    ]


def _with_rules(plan: Plan, rules: list[str], kit: Kit) -> Plan:
    for rule in rules:
        kind, _, target = rule.partition("=")
        if kind not in set(Kind):
            raise InvalidPlanError(f"“{kind[:40]}” is nothing that a paint does; there are {', '.join(Kind)}.")
        plan = plan.with_rule(Kind(kind), target, kit)
    return plan


def _with_acts(plan: Plan, acts: list[str], kit: Kit) -> Plan:
    for said in acts:
        key, _, settings_text = said.partition(":")
        pairs = (one.partition("=") for one in settings_text.split(",") if one)
        act = read_act(key, {name: value for name, _, value in pairs})
        for target in act.targets:
            resolve_target(target, kit)
        plan = plan.with_act(key, act)
    return plan


def _with_choices(plan: Plan, choices: list[str], files: Sequence[str], kit: Kit) -> Plan:
    for said in choices:
        where, _, target = said.rpartition("=")
        file, _, paint = where.rpartition(":")
        if file and file not in files:
            raise InvalidPlanError(f"There is no file “{file[:80]}” among those that were given.")
        plan = plan.with_targets({paint: target}, kit, file or None)
    return plan


def _openapi(_parsed: argparse.Namespace) -> int:
    from pavese.api.app import create_app

    print(json.dumps(create_app(settings(), "postgresql+psycopg://").openapi(), indent=1))
    return 0


def _fonts(parsed: argparse.Namespace) -> int:
    from pavese.render.fonts import make_fonts

    make_fonts(parsed.node_modules, settings().fonts_dir)
    return 0


def _free(host: str, port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as error:
            if error.errno == errno.EADDRINUSE:
                return False
            raise
    return True


if __name__ == "__main__":
    sys.exit(main())
