"""Moving about: surrounds, kits, stages with their notes, levels, checks and what is handed over of the kit alone."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from pavese.core.kit.token_file import read_kit_tokens
from tests.browser.controls import choose
from tests.browser.test_walk import paint, stage, start_kit, write

pytestmark = pytest.mark.browser

PHOTO = (
    b'<svg xmlns="http://www.w3.org/2000/svg"><image href="data:image/png;base64,AA=="/>'
    b'<path fill="#e53935" d="M0 0h9v9z"/></svg>'
)


def test_the_surround_is_chosen_and_kept(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()
    grounds = []
    for label in ("Mid grey surround", "Near black surround"):
        page.get_by_label(label).check()
        grounds.append(page.evaluate("getComputedStyle(document.body).backgroundColor"))
    page.reload()
    expect(page.get_by_label("Near black surround")).to_be_checked()
    grounds.append(page.evaluate("getComputedStyle(document.body).backgroundColor"))
    page.get_by_label("Paper white surround").check()
    grounds.append(page.evaluate("getComputedStyle(document.body).backgroundColor"))
    assert grounds == ["rgb(142, 142, 142)", "rgb(21, 21, 21)", "rgb(21, 21, 21)", "rgb(233, 233, 233)"]


def test_the_interface_itself_has_no_color(page: Page) -> None:
    page.goto("/new")
    expect(page.get_by_role("heading", name="Start a kit")).to_be_visible()
    for surround in ("paper", "mid", "dark"):
        page.evaluate("(s) => document.documentElement.dataset.surround = s", surround)
        hued = page.evaluate(
            """() => [...document.querySelectorAll('body *')].flatMap((element) => {
                const style = getComputedStyle(element)
                return ['color', 'backgroundColor', 'borderTopColor', 'outlineColor', 'fill'].filter((name) => {
                  const [r, g, b, a] = (style[name].match(/[\\d.]+/g) ?? ['0', '0', '0']).map(Number)
                  return a !== 0 && style[name].startsWith('rgb') && Math.max(r, g, b) - Math.min(r, g, b) > 0
                }).map((name) => `${element.tagName} ${element.className} ${name} ${style[name]}`)
            })"""
        )
        assert hued == []


def test_kits_are_switched_and_the_stages_tell_of_each(page: Page) -> None:
    start_kit(page, "Tarnmoor switched")
    stages = page.get_by_role("navigation", name="Stages")
    expect(stages.get_by_role("link", name="Apply")).to_contain_text("no files yet")
    expect(stages.get_by_role("link", name="Check")).to_contain_text("nothing to check yet")
    for name, hint in (("Check", "Nothing to check yet"), ("Hand over", "No files to hand over")):
        stage(page, name)
        expect(page.get_by_role("heading", name=hint)).to_be_visible()
    page.get_by_role("button", name="Kit: Tarnmoor switched").click()
    page.get_by_role("link", name="Tarnmoor Ferries").click()
    expect(page.get_by_role("button", name="Kit: Tarnmoor Ferries")).to_be_visible()
    expect(stages.get_by_role("link", name="Apply")).to_contain_text("6 sets, 54 files")
    stage(page, "Apply")
    page.get_by_role("link", name="Route illustrations 4").click()
    # The set at hand goes along.
    stage(page, "Hand over")
    expect(page.get_by_role("heading", name="route-illustrations.zip")).to_be_visible()
    stage(page, "Check")
    expect(page.get_by_role("heading", name="Nothing is off the kit but what is meant to be")).to_be_visible()


@pytest.mark.parametrize(("level", "count"), [("AAA", 4), ("AA text", 2), ("large", 18), ("not readable", 32)])
def test_pairs_are_filtered_by_level(page: Page, level: str, count: int) -> None:
    start_kit(page, f"Tarnmoor {count}")
    stage(page, "Prove")
    expect(page.locator(".pair")).to_have_count(56)
    choose(page, "Level", level)
    expect(page.locator(".pair")).to_have_count(count)
    page.get_by_text("list", exact=True).click()
    expect(page.get_by_text(f"{count} pairs pass the filter")).to_be_visible()
    choose(page, "Level", "every level")
    page.get_by_text("matrix", exact=True).click()
    expect(page.locator(".pair")).to_have_count(56)


def test_a_check_remarks_on_what_cannot_be_recolored(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor remarked")
    stage(page, "Apply")
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"photo.svg": PHOTO}))
    expect(paint(page, "#e53935")).to_be_visible()
    stage(page, "Check")
    expect(page.get_by_text("It holds a picture that cannot be read here, which keeps its colors.")).to_be_visible()
    expect(page.get_by_role("heading", name="The file holds only colors of the kit")).to_be_visible()


def test_the_kit_alone_is_handed_over(page: Page) -> None:
    start_kit(page, "Tarnmoor alone")
    stage(page, "Hand over")
    page.get_by_role("button", name=re.compile("^pavese recolor")).click()
    expect(page.get_by_text("Copied pavese recolor")).to_be_visible()
    page.get_by_role("link", name="the kit", exact=True).click()
    expect(page.get_by_text("Nothing is published yet")).to_be_visible()
    with page.expect_download() as tokens:
        page.get_by_role("link", name="Design tokens").click()
    text = Path(tokens.value.path()).read_text()
    assert json.loads(text)["deep-water"]["base"]["$value"]["hex"] == "#0b5e6b"
    assert read_kit_tokens(text).name == "Tarnmoor alone"
    with page.expect_download() as css:
        page.get_by_role("link", name="CSS", exact=True).click()
    assert "--deep-water: #0b5e6b;" in Path(css.value.path()).read_text()
