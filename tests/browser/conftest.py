"""The real start command with the demo in a database of its own, and a real browser in front of it."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, sync_playwright

from pavese.settings import settings

ARGUMENTS = ["--no-sandbox", "--disable-background-networking", "--disable-component-update", "--disable-sync"]


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture(scope="session")
def address() -> Iterator[str]:
    """Where the application answers; it is stopped as a person would, with Ctrl-C, and must end cleanly."""
    with tempfile.TemporaryDirectory(prefix="pavese-test-") as folder:
        Path(folder).chmod(0o755)
        port = free_port()
        environment = {
            **os.environ,
            "PAVESE_PORT": str(port),
            "PAVESE_DATA_DIR": folder,
            "PAVESE_DATABASE_PORT": "54640",
            "PAVESE_FONTS_DIR": str(settings().fonts_dir),
            "PAVESE_LOG_LEVEL": "warning",
        }
        command = [sys.executable, "-m", "pavese.cli", "serve", "--demo"]
        with subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, text=True) as process:
            assert process.stdout is not None
            said = ""
            for line in process.stdout:
                said += line
                if "is ready" in line:
                    break
            assert f"http://127.0.0.1:{port}/" in said
            yield f"http://127.0.0.1:{port}"
            process.send_signal(signal.SIGINT)
            rest = process.stdout.read()
            assert process.wait(timeout=30) == 0
            assert "everything is saved" in rest
        assert not (Path(folder) / "postgres" / "cluster" / "postmaster.pid").exists()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        started = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
        yield started
        started.close()


@pytest.fixture
def page(browser: Browser, address: str) -> Iterator[Page]:
    """A fresh page at 1280x800 on which nothing may go wrong unseen."""
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address, accept_downloads=True)
    context.grant_permissions(["clipboard-read", "clipboard-write"])
    opened = context.new_page()
    wrong: list[str] = []
    opened.on("pageerror", lambda error: wrong.append(str(error)))
    opened.on("console", lambda message: wrong.append(message.text) if message.type == "error" else None)
    yield opened
    context.close()
    assert [text for text in wrong if "status of 4" not in text] == []
