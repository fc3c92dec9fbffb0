"""Draws the main views into docs/screenshots, from the demo data in a database of its own."""

from __future__ import annotations

import re
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from pavese.demo.people import COORDINATOR
from pavese.demo.served import served

TARGET = Path(__file__).parent / "screenshots"


def main() -> None:
    """Takes every picture."""
    with served(demo=True) as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])

        def shot(name: str, view: Callable[[Page], None], surround: str = "paper") -> None:
            context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
            context.request.post("/api/session", data=COORDINATOR.sign_in)
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
        shot("apply-mails", whole_results)
        shot("mail", mail)
        shot("apply-decks", decks)
        shot("apply-pictures", pictures, "mid")
        shot("closer-look", closer, "dark")
        shot("gather-board", board)
        shot("gather-page", site, "mid")
        shot("compose", lambda page: stage(page, "Compose"))
        shot("compose-wheel", wheel, "mid")
        shot("compose-type", lambda page: compose(page, "type"))
        shot("prove", lambda page: stage(page, "Prove"))
        shot("prove-pair", pair)
        shot("prove-editions", lambda page: proof(page, "editions"), "mid")
        shot("check", check, "dark")
        shot("hand-over", lambda page: stage(page, "Hand over"))
        shot("hand-over-kit", kit)
        shot("apply-pointed", pointed)
        shot("shared", shared)
        browser.close()


def choose(page: Page, label: str, option: str) -> None:
    page.get_by_label(label, exact=True).click(force=True)
    chosen = page.get_by_role("option", name=option)
    chosen.click()
    # A list that is just closing would take the next press.
    chosen.wait_for(state="hidden")


def stage(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Stages").get_by_role("link", name=name).click()


def mails(page: Page) -> None:
    page.get_by_role("link", name="Mails to travellers").click()
    page.get_by_role("button", name="departures.html: look closer").wait_for()


def whole_results(page: Page) -> None:
    mails(page)
    page.get_by_role("button", name="Other plans…").click()
    page.get_by_role("dialog").get_by_alt_text("departures.html").first.wait_for()
    page.wait_for_timeout(4000)


def mail(page: Page) -> None:
    mails(page)
    page.get_by_role("button", name="season.html: look closer").click()
    page.get_by_alt_text("season.html after on a phone").wait_for()
    page.wait_for_timeout(2500)


def pictures(page: Page) -> None:
    page.get_by_role("link", name=re.compile("^Posts and posters")).click()
    page.get_by_role("button", name="departures-board.png: look closer").wait_for()
    page.wait_for_timeout(9000)


def pointed(page: Page) -> None:
    pictures(page)
    page.get_by_role("button", name="harbor-wall.jpg").first.click()
    page.get_by_text("things, parts, headline, tones").click()
    seen = page.get_by_test_id("pointed")
    seen.get_by_alt_text("harbor-wall.jpg after").wait_for()
    page.wait_for_timeout(2500)
    box = seen.bounding_box()
    assert box is not None
    seen.click(position={"x": 0.68 * box["width"], "y": 0.6 * box["height"]})
    choose(page, "Color of the thing", "Buoy")
    page.get_by_role("list", name="Things with a color").wait_for()
    page.get_by_text("Show what belongs to it").click()
    page.wait_for_timeout(4000)


def decks(page: Page) -> None:
    page.get_by_role("link", name="Crew decks").click()
    page.get_by_role("button", name="Slide 12 of Crew briefing").wait_for()
    page.wait_for_timeout(9000)


def closer(page: Page) -> None:
    page.get_by_role("link", name="Route illustrations").click()
    page.get_by_role("button", name="island-route.svg: look closer").click()


def source(page: Page, name: str) -> None:
    stage(page, "Gather")
    page.get_by_role("navigation", name="Sources").get_by_role("link", name=name).click()


def board(page: Page) -> None:
    source(page, "Harbor board")
    page.get_by_role("button", name="Pin 3, #6b7d3a").focus()


def site(page: Page) -> None:
    source(page, "Tarnmoor Ferries page")
    page.get_by_text("page", exact=True).last.click()
    page.get_by_test_id("paper").hover(position={"x": 160, "y": 150})


def compose(page: Page, view: str) -> None:
    stage(page, "Compose")
    page.get_by_role("radiogroup", name="View of the kit").get_by_text(view, exact=True).click()


def proof(page: Page, view: str) -> None:
    stage(page, "Prove")
    page.get_by_role("radiogroup", name="View of the proof").get_by_text(view, exact=True).click()


def pair(page: Page) -> None:
    stage(page, "Prove")
    page.get_by_role("gridcell", name=re.compile("^Buoy on Fog, ")).click()
    page.get_by_text("both by").wait_for()


def kit(page: Page) -> None:
    stage(page, "Hand over")
    page.get_by_role("link", name="the kit", exact=True).click()
    page.get_by_alt_text("The swatch card").wait_for()


def shared(page: Page) -> None:
    kit(page)
    for box in page.get_by_role("group", name="Sets").get_by_role("checkbox").all()[:2]:
        box.check()
    page.get_by_role("button", name="Make a link and copy it").click()
    page.goto(page.locator(".fresh").inner_text())
    page.get_by_role("heading", name="Approved pairs").wait_for()
    page.get_by_role("heading", name="Ramps").scroll_into_view_if_needed()


def wheel(page: Page) -> None:
    compose(page, "wheel")
    choose(page, "Scheme", "split complementary")


def check(page: Page) -> None:
    for key in ("#5c6bc0", "#ffe29a"):
        page.locator("button.paint", has_text=key).click()
        page.get_by_role("button", name="Keep as it is").click()
        page.get_by_text(f"{key} to kept").wait_for()
    stage(page, "Check")
    page.get_by_role("columnheader", name="not of the kit").wait_for()


if __name__ == "__main__":
    main()
