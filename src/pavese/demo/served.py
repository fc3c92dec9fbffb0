"""The application in a process of its own over a temporary database: for browser tests, measurements and pictures."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from pavese.demo.people import COORDINATOR
from pavese.settings import settings


@dataclass(frozen=True)
class Running:
    """The application as it runs: its address, its process, the environment it was started with, and its data."""

    address: str
    process: subprocess.Popen[str]
    environment: dict[str, str]
    folder: Path

    def command(self, *arguments: str, said: str = "") -> subprocess.CompletedProcess[str]:
        """Another command of the shell, in the same environment."""
        command = [sys.executable, "-m", "pavese.cli", *arguments]
        return subprocess.run(
            command, env=self.environment, input=said, text=True, capture_output=True, check=False, timeout=60
        )


@contextmanager
def served(*, demo: bool) -> Iterator[str]:
    """Starts it with the real command and gives its address, see `running`."""
    with running(demo=demo) as run:
        yield run.address


@contextmanager
def running(*, demo: bool, end_by: signal.Signals = signal.SIGINT) -> Iterator[Running]:
    """Starts it with the real command and stops it with Ctrl-C, as a person would, or with another signal.

    The coordinator of the demo may sign in either way.

    Raises RuntimeError when it does not start, or does not end cleanly with its database stopped.
    """
    with tempfile.TemporaryDirectory(prefix="pavese-served-") as folder:
        # The database's own user has to get in.
        Path(folder).chmod(0o755)
        port = _free_port()
        environment = {
            **os.environ,
            "PAVESE_PORT": str(port),
            "PAVESE_DEMO_SITE_PORT": str(_free_port()),
            "PAVESE_DATA_DIR": folder,
            "PAVESE_DATABASE_PORT": str(_free_port()),
            "PAVESE_FONTS_DIR": str(settings().fonts_dir),
            "PAVESE_LOG_LEVEL": "warning",
        }
        command = [sys.executable, "-m", "pavese.cli", "serve", *(["--demo"] if demo else [])]
        with subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, text=True) as process:
            assert process.stdout is not None
            run = Running(f"http://127.0.0.1:{port}", process, environment, Path(folder))
            if not any(f"{run.address}/" in line for line in process.stdout):
                raise RuntimeError(f"the application did not start (status {process.wait()})")
            try:
                if not demo:
                    one = COORDINATOR
                    run.command(
                        "user", one.email, one.name, "--password-stdin", said=f"{one.password}\n"
                    ).check_returncode()
                yield run
            finally:
                process.send_signal(end_by)
                said = process.stdout.read()
                status = process.wait(timeout=60)
        left = (Path(folder) / "postgres" / "cluster" / "postmaster.pid").exists()
        if status != 0 or "everything is saved" not in said or left:
            raise RuntimeError(f"the application did not end cleanly (status {status}, database left: {left})")


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
