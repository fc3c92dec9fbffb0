"""The same work from a shell: serve the application, recolor files, write the interface's schema."""

from __future__ import annotations

import argparse
import errno
import json
import socket
import sys
from collections.abc import Sequence
from pathlib import Path

import uvicorn

from pavese.core.errors import PaveseError
from pavese.core.formats import read
from pavese.core.formats.intake import take
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.handoff.tokens import read_kit_tokens
from pavese.core.recolor.assign import assign
from pavese.core.recolor.inventory import summarize
from pavese.logs import configure
from pavese.settings import Settings, settings


def main(arguments: Sequence[str] | None = None) -> int:
    """Runs one command; errors a person can act on are one line on stderr and status 1."""
    parser = argparse.ArgumentParser(prog="pavese", description=__doc__)
    commands = parser.add_subparsers(required=True)

    serve = commands.add_parser("serve", help="start the application, with its private database if none is set")
    serve.add_argument("--demo", action="store_true", help="load the demo data into an empty workspace")
    serve.set_defaults(run=_serve)

    recolor = commands.add_parser("recolor", help="recolor files with a kit, by a plan or by an automatic one")
    recolor.add_argument("files", nargs="+", type=Path, help="SVG files, or zip archives of them")
    recolor.add_argument("--kit", required=True, type=Path, help="the kit.tokens.json of a package")
    recolor.add_argument("--plan", type=Path, help="the plan.json of a package; without it, one is made")
    recolor.add_argument("-o", "--out", required=True, type=Path, help="the folder to write to")
    recolor.set_defaults(run=_recolor)

    schema = commands.add_parser("openapi", help="print the schema of the API")
    schema.set_defaults(run=_openapi)

    fonts = commands.add_parser("fonts", help="make the drawing engines' fonts from the interface's packages")
    fonts.add_argument("node_modules", type=Path)
    fonts.set_defaults(run=_fonts)

    parsed = parser.parse_args(arguments)
    try:
        return int(parsed.run(parsed))
    except (PaveseError, OSError) as error:
        print(f"pavese: {error}", file=sys.stderr)
        return 1


def _serve(parsed: argparse.Namespace) -> int:
    from pavese.api.app import create_app
    from pavese.demo.load import load
    from pavese.store.cluster import Cluster, ClusterError
    from pavese.store.database import connect, migrate, sessions

    config = settings()
    if not _free(config):
        print(
            f"pavese: port {config.port} on {config.host} is in use, perhaps by Pavese itself. Stop what uses it, or "
            f"choose another with PAVESE_PORT={config.port + 1}.",
            file=sys.stderr,
        )
        return 1
    configure(config)
    cluster = None
    try:
        if config.database_url is None:
            cluster = Cluster(config.data_dir / "postgres", config.database_port)
            cluster.start()
        url = config.database_url or (cluster.url if cluster else "")
        if parsed.demo:
            engine = connect(url)
            migrate(engine)
            with sessions(engine).begin() as session:
                load(session)
            engine.dispose()
        server = _Server(uvicorn.Config(create_app(config, url), config.host, config.port, log_config=None))
        server.run()
    except ClusterError as error:
        print(f"pavese: the database cannot be started: {error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        pass
    finally:
        if cluster is not None:
            cluster.stop()
    print("Pavese has stopped; everything is saved.", flush=True)
    return 0


class _Server(uvicorn.Server):
    """Says where it is as soon as it answers."""

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        await super().startup(sockets)
        if self.started:
            print(f"\nPavese is ready: http://{self.config.host}:{self.config.port}/  (Ctrl-C stops it)\n", flush=True)


def _recolor(parsed: argparse.Namespace) -> int:
    kit = read_kit_tokens(parsed.kit.read_text())
    intake = take((path.name, path.read_bytes()) for path in parsed.files)
    if parsed.plan:
        plan = read_plan_file(parsed.plan.read_text())
    else:
        plan = assign(summarize(file.inventory for file in intake.taken), kit)
    resolved = plan.resolve(kit)
    parsed.out.mkdir(parents=True, exist_ok=True)
    for file in intake.taken:
        target = parsed.out / file.name
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(read(file.name, file.data).apply(resolved))
    if not parsed.plan:
        (parsed.out / "plan.json").write_text(plan_file(plan, kit))
    for error in intake.refused:
        print(f"pavese: {error}", file=sys.stderr)
    print(f"{len(intake.taken)} files recolored into {parsed.out}")
    return 1 if intake.refused else 0


def _openapi(_parsed: argparse.Namespace) -> int:
    from pavese.api.app import create_app

    print(json.dumps(create_app(settings(), "postgresql+psycopg://").openapi(), indent=1))
    return 0


def _fonts(parsed: argparse.Namespace) -> int:
    from pavese.render.fonts import make_fonts

    make_fonts(parsed.node_modules, settings().fonts_dir)
    return 0


def _free(config: Settings) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((config.host, config.port))
        except OSError as error:
            if error.errno == errno.EADDRINUSE:
                return False
            raise
    return True


if __name__ == "__main__":
    sys.exit(main())
