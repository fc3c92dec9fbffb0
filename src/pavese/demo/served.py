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
from pathlib import Path

from pavese.demo.people import COORDINATOR
from pavese.settings import settings


@contextmanager
def served(*, demo: bool) -> Iterator[str]:
    """Starts it with the real command and gives its address; stops it with Ctrl-C, as a person would.

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
            address = f"http://127.0.0.1:{port}"
            if not any(f"{address}/" in line for line in process.stdout):
                raise RuntimeError(f"the application did not start (status {process.wait()})")
            try:
                if not demo:
                    one = COORDINATOR
                    user = [sys.executable, "-m", "pavese.cli", "user", one.email, one.name, "--password-stdin"]
                    subprocess.run(
                        user, env=environment, input=f"{one.password}\n", text=True, check=True, capture_output=True
                    )
                yield address
            finally:
                process.send_signal(signal.SIGINT)
                said = process.stdout.read()
                status = process.wait(timeout=60)
        left = (Path(folder) / "postgres" / "cluster" / "postmaster.pid").exists()
        if status != 0 or "everything is saved" not in said or left:
            raise RuntimeError(f"the application did not end cleanly (status {status}, database left: {left})")


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
