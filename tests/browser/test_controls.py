"""What all views share: regions by a key, tables that are one stop, codes in every field, and a line that breaks."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.controls import choose, picked
from tests.browser.test_apply import open_set
from tests.browser.test_gather import view
from tests.browser.test_walk import stage, start_kit

pytestmark = pytest.mark.browser


def test_a_change_is_sent_again_until_it_is_answered_and_not_called_saved_before(page: Page) -> None:
    open_set(page, "Tarnmoor cut off")
    expect(page.get_by_text(re.compile("^Saved "))).to_be_visible()
    refused: list[str] = []

    def cut(route: Route) -> None:
        if len(refused) < 3:
            refused.append(route.request.method)
            route.abort()
        else:
            route.continue_()

    page.route("**/recipe*", cut)
    choose(page, "Policy", "branded")
    expect(page.get_by_text("No answer from Pavese: the last change is kept here and sent again")).to_be_visible()
    expect(page.get_by_text(re.compile("^Saved "))).to_have_count(0)
    expect(page.get_by_label("Policy", exact=True)).to_have_attribute("aria-busy", "true")
    expect(page.get_by_text("last change: Plan: kit, branded")).to_be_visible()
    expect(page.get_by_text(re.compile("^Saved "))).to_be_visible()
    expect(picked(page, "Policy")).to_have_text("branded")
    assert refused == ["PUT"] * 3


def test_a_choice_that_is_refused_is_what_it_was_again(page: Page) -> None:
    open_set(page, "Tarnmoor refused")
    page.route("**/recipe*", lambda route: route.fulfill(status=422, json={"detail": "Not today."}))
    choose(page, "Policy", "branded")
    expect(page.get_by_text("Not today.")).to_be_visible()
    expect(picked(page, "Policy")).to_have_text("faithful")


def test_regions_by_a_key_and_lists_that_are_one_stop(page: Page) -> None:
    open_set(page, "Tarnmoor by keys")
    page.get_by_role("navigation", name="Stages").get_by_role("link", name="Gather").focus()
    for _ in range(3):
        page.keyboard.press("F6")
    expect(page.get_by_label("Mode", exact=True)).to_be_focused()
    page.locator("button.paint").first.focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator("button.paint").nth(1)).to_be_focused()
    page.keyboard.press("F6")
    for _ in range(12):
        if page.get_by_role("link", name=re.compile("^Hand over 8")).evaluate(
            "(one) => one === document.activeElement"
        ):
            break
        page.keyboard.press("Tab")
    expect(page.get_by_role("link", name=re.compile("^Hand over 8"))).to_be_focused()


def test_a_step_of_a_ramp_becomes_a_color_of_its_own(page: Page) -> None:
    start_kit(page, "Tarnmoor stepped")
    page.get_by_role("grid", name="Ramps").get_by_role("button", name="Deep water", exact=False).first.focus()
    for key in ("ArrowDown", "ArrowRight", "ArrowRight", "ArrowRight"):
        page.keyboard.press(key)
    expect(page.get_by_role("button", name=re.compile("^Slipway 200: copy"))).to_be_focused()
    page.keyboard.press("+")
    expect(page.get_by_role("complementary", name="Slipway 200")).to_be_visible()
    page.get_by_role("button", name="Make Kelp 800 a color of its own").click(force=True)
    expect(page.get_by_role("complementary", name="Kelp 800")).to_be_visible()


def test_a_locked_base_stays_while_a_partner_is_moved(page: Page) -> None:
    start_kit(page, "Tarnmoor locked")
    view(page, "wheel")
    choose(page, "Scheme", "split complementary")
    base, second = page.locator("button.point").nth(0), page.locator("button.point").nth(1)
    expect(page.locator("button.point")).to_have_count(3)
    of_kit, was = base.get_attribute("aria-label") or "", second.get_attribute("aria-label") or ""
    second.focus()
    page.keyboard.press("Shift+ArrowUp")
    expect(second).not_to_have_attribute("aria-label", was)
    expect(base).to_have_attribute("aria-label", of_kit)
    page.get_by_role("group", name="darker to lighter").get_by_role("button").last.click()
    expect(base).not_to_have_attribute("aria-label", of_kit)
    expect(page.get_by_label("lock the base")).not_to_be_checked()


def test_codes_of_a_manual_start_a_kit_and_the_rest_is_told(page: Page) -> None:
    page.goto("/new")
    teal = "Harbor Teal\nRGB 11 110 79\nCMYK 90/0/28/57\nSPOT 3425 C\n"
    others = "\nSignal red: R210 G69 B45\nLamp 0xEFB23A\nRGB 300 0 0"
    page.get_by_label("Text with color codes").fill(teal + others)
    expect(page.get_by_role("heading", name="3 colors recognised")).to_be_visible()
    expect(page.get_by_label("Name of #0b6e4f")).to_have_value("Harbor Teal")
    page.get_by_text("2 more look like codes").click()
    expect(page.get_by_text("not taken: R is 0 to 255, here 300")).to_be_visible()
    page.get_by_label("Name of the kit").fill("Tarnmoor by the book")
    page.get_by_role("button", name="Start the kit with 3 colors").click()
    stage(page, "Compose")
    page.get_by_label("Is this one of ours?").fill("lamp, Signal red 300, RGB 11/110/79, #333")
    answers = page.get_by_role("status", name="Answer")
    expect(answers.get_by_role("listitem")).to_have_count(4)
    expect(answers).to_contain_text("3 ours")
