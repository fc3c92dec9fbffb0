"""Draws the main views into docs/screenshots, from the demo data in a database of its own."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from pavese.demo.served import served

TARGET = Path(__file__).parent / "screenshots"
CODES = """\
From the new brochure:
Deep water: #0b5e6b
Sea mist #dfe8e6, Rope #b08d57
--harbor-night: oklch(0.28 0.05 265);
Order 123456
"""


def main() -> None:
    """Takes every picture."""
    with served(demo=True) as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])

        def shot(name: str, view: Callable[[Page], None], surround: str = "paper") -> None:
            context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
            page = context.new_page()
            page.add_init_script(f"localStorage.setItem('pavese-surround', '{surround}')")
            page.goto("/")
            page.get_by_role("heading", name="Deck signage").wait_for()
            view(page)
            page.wait_for_load_state("networkidle")
            page.wait_for_timeout(500)
            page.screenshot(path=TARGET / f"{name}.png")
            context.close()

        shot("apply", lambda page: None)
        shot("apply-pointing", choose_amber)
        shot("apply-illustrations", illustrations, "dark")
        shot("closer-look", closer)
        shot("gather", gather)
        shot("compose", lambda page: stage(page, "Compose"))
        shot("compose-mid", lambda page: stage(page, "Compose"), "mid")
        shot("prove", lambda page: stage(page, "Prove"))
        shot("ours", ours)
        shot("check", check, "dark")
        shot("hand-over", lambda page: stage(page, "Hand over"))
        browser.close()


def stage(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Stages").get_by_role("link", name=name).click()


def ours(page: Page) -> None:
    stage(page, "Compose")
    page.get_by_role("group", name="cooler to warmer").get_by_role("button").nth(1).click()
    page.get_by_label("Is this one of ours?").fill("Header #0c6270, button #d2452d, footer #2f3e9e")
    page.get_by_role("status", name="Answer").wait_for()


def choose_amber(page: Page) -> None:
    page.locator("button.paint").nth(1).click()


def illustrations(page: Page) -> None:
    page.get_by_role("link", name="Route illustrations").click()
    page.get_by_text("side by side").click()


def closer(page: Page) -> None:
    page.get_by_role("link", name="Route illustrations").click()
    page.get_by_role("button", name="island-route.svg: look closer").click()


def gather(page: Page) -> None:
    stage(page, "Gather")
    page.get_by_label("Text with color codes").fill(CODES)
    page.get_by_role("heading", name="5 colors recognised").wait_for()


def check(page: Page) -> None:
    for key in ("#d9a37e", "#8d5a3b"):
        page.locator("button.paint", has_text=key).click()
        page.get_by_role("button", name="Keep as it is").click()
        page.get_by_text(f"{key} to kept").wait_for()
    stage(page, "Check")
    page.get_by_role("heading", name="not of the kit").wait_for()


if __name__ == "__main__":
    main()
