"""The real start command with the demo in a database of its own, and a real browser in front of it."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, StorageState, expect, sync_playwright

from pavese.demo.people import COORDINATOR
from pavese.demo.served import served

# A machine that is busy with other things answers later, and is not wrong for that: it may be three to five times as
# slow for minutes, and then the first mails or slides, for which an engine is started, take more than half of this.
expect.set_options(timeout=60_000)

ARGUMENTS = ["--no-sandbox", "--disable-background-networking", "--disable-component-update", "--disable-sync"]


@pytest.fixture(scope="session")
def address() -> Iterator[str]:
    """Where the application answers."""
    with served(demo=True) as where:
        yield where


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        started = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
        yield started
        started.close()


@pytest.fixture(scope="session")
def signed_in(browser: Browser, address: str) -> StorageState:
    """The coordinator's cookies, got once."""
    context = _context(browser, address)
    context.request.post("/api/session", data=COORDINATOR.sign_in)
    state = context.storage_state()
    context.close()
    return state


@pytest.fixture
def page(browser: Browser, address: str, signed_in: StorageState) -> Iterator[Page]:
    """A fresh page at 1280x800 on which nothing may go wrong unseen."""
    context = _context(browser, address)
    context.add_cookies(signed_in["cookies"])
    if not context.request.get("/api/session").ok:
        context.request.post("/api/session", data=COORDINATOR.sign_in)
    context.grant_permissions(["clipboard-read", "clipboard-write"])
    opened = context.new_page()
    wrong: list[str] = []
    opened.on("pageerror", lambda error: wrong.append(str(error)))
    opened.on("console", lambda message: wrong.append(message.text) if message.type == "error" else None)
    yield opened
    context.close()
    # That a request failed is said by the interface, and the tests look at how.
    assert [text for text in wrong if "Failed to load resource" not in text] == []


@pytest.fixture
def somebody(browser: Browser, address: str) -> Iterator[Page]:
    """A page of another browser, in which nobody is signed in."""
    context = _context(browser, address)
    yield context.new_page()
    context.close()


def _context(browser: Browser, address: str) -> BrowserContext:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address, accept_downloads=True)
    context.set_default_timeout(60_000)
    return context
