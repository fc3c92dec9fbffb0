"""Every view: axe finds nothing in any surround, and nothing is wider than its window."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from axe_playwright_python.base import AXE_SCRIPT
from playwright.sync_api import Page, expect

from tests.browser.test_walk import stage

pytestmark = pytest.mark.browser

VIEWS = {
    "Gather": ["Harbor board", "Tarnmoor Ferries page", "Reference shelf", "Codes"],
    "Compose": ["wheel", "tone families", "fill the gaps", "names", "proportions", "logo", "type", "ramps"],
    "Prove": ["trios", "color vision", "see-through", "states", "rules", "editions", "pairs"],
    "Hand over": ["the kit", "recolored files"],
}
_CHOOSERS = {"Compose": "View of the kit", "Prove": "View of the proof"}
_LINKS = {"Gather": "Sources", "Hand over": "What is handed over"}


def views(page: Page, name: str) -> Iterator[str]:
    """Opens a stage, then every view of it, and gives its name when it is quiet."""
    stage(page, name)
    for view in VIEWS.get(name, [""]):
        if name in _LINKS:
            page.get_by_role("navigation", name=_LINKS[name]).get_by_role("link", name=view).click()
        elif view:
            page.get_by_role("radiogroup", name=_CHOOSERS[name]).get_by_text(view, exact=True).click()
        # What a view asks for comes after it; there is no event for its having arrived.
        page.wait_for_timeout(250)
        page.wait_for_load_state("networkidle")
        yield f"{name} {view}"


def test_axe_finds_nothing(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()
    page.locator("button.paint").first.click()
    found = {"Apply": problems(page)}
    page.get_by_role("button", name="crossing.svg: look closer").click()
    expect(page.get_by_role("heading", name="crossing.svg")).to_be_visible()
    found["Closer look"] = problems(page)
    page.get_by_role("button", name="Close", exact=True).click()
    for name in ("Gather", "Compose", "Prove", "Check", "Hand over"):
        for view in views(page, name):
            if view == "Gather Codes":
                page.get_by_label("Text with color codes").fill("Sea #123abc, 123456")
                expect(page.get_by_role("heading", name="2 colors recognised")).to_be_visible()
            if view == "Gather Harbor board":
                page.get_by_role("button", name="Pin 3, #6b7d3a").focus()
                page.get_by_text("pictures", exact=True).click()
            found[view] = problems(page) + too_wide(page, name)
    page.get_by_role("button", name=re.compile("^Kit: ")).click()
    expect(page.get_by_role("link", name="Start a new kit…")).to_be_visible()
    found["Kits"] = problems(page)
    page.keyboard.press("Escape")
    page.get_by_role("button", name="shapes").click()
    expect(page.get_by_text("swallowtail")).to_be_visible()
    found["Shapes"] = problems(page)
    assert "\n".join(f"{view}: {text}" for view, list_ in found.items() for text in list_) == ""


def problems(page: Page) -> list[str]:
    """What axe finds on a view in every surround; they change colors and nothing else."""
    # What is shown of the user's own pairs is as readable as their colors are: that is the point of showing it.
    context = {"exclude": [[".pair"], [".step"], [".pin"], [".point"], [".points"], [".layout"]]}
    found = []
    for surround in ("mid", "dark", "paper"):
        page.evaluate("(name) => document.querySelector(`input[name=surround][value=${name}]`).click()", surround)
        page.wait_for_function("(name) => document.documentElement.dataset.surround === name", arg=surround)
        options = {"resultTypes": ["violations"]} | ({} if surround == "paper" else {"runOnly": ["color-contrast"]})
        wrong = page.evaluate(
            """async ([script, context, options]) => {
                if (!window.axe) new Function(script)()
                const { violations } = await axe.run(context, options)
                return violations.map((one) => `${one.id}: ${one.nodes[0].html.slice(0, 160)}`)
            }""",
            [AXE_SCRIPT if surround == "mid" else "", context, options],
        )
        found += [f"{surround}: {one}" for one in wrong]
    return found


def test_no_view_is_wider_than_a_small_window(page: Page) -> None:
    page.set_viewport_size({"width": 1024, "height": 800})
    page.goto("/")
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()
    for name in ("Gather", "Compose", "Prove", "Apply", "Check", "Hand over"):
        for view in views(page, name):
            assert too_wide(page, name) == [], view


def too_wide(page: Page, name: str) -> list[str]:
    """What of a view is wider than the window, or than the region it stands in."""
    found: list[str] = page.evaluate(
        """(tables) => {
            const root = document.documentElement
            const wide = root.scrollWidth > innerWidth || root.scrollHeight > innerHeight ? ['the page'] : []
            // Tables of pairs, ramps and grids of files may scroll sideways inside their own region.
            const tabled = (box) => box.matches('[role=grid]') || box.querySelector('[role=table], [role=grid]')
            const boxes = tables ? [] : [...document.querySelectorAll('.scrolls')].filter(
              (box) => box.scrollWidth > box.clientWidth + 1 && !tabled(box))
            return [...wide, ...boxes.map((box) => `${box.className} ${box.scrollWidth} > ${box.clientWidth}`)]
        }""",
        name not in VIEWS,
    )
    return found
