"""The six steps through the real interface, by mouse and by keyboard, ending with what is in the package."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect

from pavese.core.formats.svg import read_svg
from pavese.core.handoff.plan_file import read_plan_file
from pavese.core.kit.token_file import read_kit_tokens
from pavese.core.recolor.natural import natural_tone
from pavese.demo.icons import icon_files
from pavese.demo.load import CODES
from tests.browser.controls import choose

pytestmark = pytest.mark.browser

FILES = dict(list(icon_files().items())[:8])


def write(folder: Path, files: dict[str, bytes]) -> list[Path]:
    paths = []
    for name, data in files.items():
        (folder / name).write_bytes(data)
        paths.append(folder / name)
    return paths


def stage(page: Page, name: str) -> None:
    page.get_by_role("navigation", name="Stages").get_by_role("link", name=name).click()


def start_kit(page: Page, name: str) -> None:
    page.goto("/new")
    page.get_by_label("Text with color codes").fill(CODES)
    expect(page.get_by_role("heading", name="8 colors recognised")).to_be_visible()
    page.get_by_label("Name of the kit").fill(name)
    page.get_by_role("button", name="Start the kit with 8 colors").click()
    expect(page.get_by_role("heading", name="Ramps")).to_be_visible()


def paint(page: Page, key: str) -> Locator:
    return page.get_by_role("button", name=re.compile(rf" {key}, in "))


def test_codes_to_package_by_mouse(page: Page, tmp_path: Path) -> None:
    # 1 and 2: the demo is there; a new kit comes from pasted codes, one of them unticked.
    page.goto("/")
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()
    expect(page.get_by_role("button", name="look closer")).to_have_count(30)
    page.goto("/new")
    page.get_by_label("Text with color codes").fill(f"{CODES}Order 123456\nSpare #abcdef")
    expect(page.get_by_role("heading", name="10 colors recognised, 9 ticked")).to_be_visible()
    page.get_by_label("Take Spare, #abcdef").uncheck()
    choose(page, "Role of Kelp", "accent")
    page.get_by_role("button", name=re.compile("^Start the kit")).click()
    expect(page.get_by_text("Give the kit a name first.")).to_be_visible()
    page.get_by_label("Name of the kit").fill("Tarnmoor by hand")
    page.get_by_role("button", name="Start the kit with 8 colors").click()
    base = page.get_by_role("button", name="Deep water 700, the base: copy #0b5e6b")
    expect(base).to_be_visible()
    base.click()
    expect(page.get_by_text("Copied #0b5e6b")).to_be_visible()
    assert page.evaluate("navigator.clipboard.readText()") == "#0b5e6b"

    # A color is changed, undone and redone.
    choose(page, "Role", "secondary")
    expect(page.get_by_role("button", name=re.compile("^Deep water, secondary"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile("^Deep water, primary"))).to_be_visible()

    # 3: pairs as real text, filtered by level.
    stage(page, "Prove")
    expect(page.get_by_role("gridcell", name=re.compile("^Fog on Hull, "))).to_be_visible()
    choose(page, "Level", "not readable (32)")
    expect(page.get_by_role("gridcell", name=re.compile("^Fog on Hull, "))).to_be_hidden()
    expect(page.get_by_role("gridcell", name=re.compile("^Kelp on Slipway, "))).to_be_visible()

    # 4: files are dropped, planned, pointed at, changed.
    stage(page, "Apply")
    page.get_by_test_id("files").set_input_files(write(tmp_path, FILES))
    expect(page.get_by_role("button", name="look closer")).to_have_count(8)
    expect(page.get_by_role("heading", name="Set 1")).to_be_visible()
    tile = page.get_by_role("button", name="lifebuoy.svg: look closer")
    red = paint(page, "#e53935")
    red.hover()
    expect(tile.locator(".lit")).to_be_visible()
    page.mouse.move(640, 20)
    expect(tile.locator(".lit")).to_have_count(0)
    before = tile.locator(".main > img").get_attribute("src")
    red.click()
    page.get_by_role("button", name=re.compile("^Kelp, accent: send #e53935 here")).click()
    page.mouse.move(640, 20)
    expect(page.get_by_role("button", name=re.compile("#e53935, in .* goes to Kelp"))).to_be_visible()
    expect(tile.locator(".main > img")).not_to_have_attribute("src", before or "")
    page.get_by_role("button", name="Kelp 800").click()
    expect(page.get_by_text("last change: #e53935 to Kelp 800")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name=re.compile("#e53935, in .* goes to Kelp 800"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile("#e53935, in .* goes to Buoy base"))).to_be_visible()
    page.get_by_role("button", name="Redo").click()

    # 5: a kept paint is found, and remedied in one press.
    paint(page, "#ffe29a").click()
    page.get_by_role("button", name="Keep as it is").click()
    stage(page, "Check")
    expect(page.get_by_role("heading", name="Nothing is off the kit but what is meant to be")).to_be_visible()
    expect(page.get_by_text("2 with paint that was kept or chosen on purpose")).to_be_visible()
    expect(page.get_by_text("kept: may be skin")).to_be_visible()
    page.get_by_role("row", name=re.compile("#ffe29a")).first.get_by_role("button", name=re.compile("^Use ")).click()
    expect(page.get_by_text("on purpose")).to_have_count(0)
    expect(page.get_by_text(re.compile(r"^\d with natural tones"))).to_be_visible()

    # 6: the package holds the recolored files, the kit and the plan that makes the same again.
    stage(page, "Hand over")
    with page.expect_download() as download:
        page.get_by_role("link", name="Download the package").click()
    with zipfile.ZipFile(io.BytesIO(Path(download.value.path()).read_bytes())) as packed:
        inside = {info.filename: packed.read(info) for info in packed.infolist()}
    assert set(inside) == {*FILES, "kit.css", "kit.tokens.json", "plan.json"}
    kit = read_kit_tokens(inside["kit.tokens.json"].decode())
    resolved = read_plan_file(inside["plan.json"].decode()).resolve(kit)
    own = {color for _, color in kit.tokens()}
    for name, original in FILES.items():
        assert inside[name] == read_svg(name, original).write(resolved)
        after = {found.rgb for found in read_svg(name, inside[name]).inventory().paints}
        assert {color for color in after if natural_tone(color) is None} <= own


def test_the_same_walk_by_keyboard(page: Page, tmp_path: Path) -> None:
    page.goto("/new")
    page.get_by_label("Text with color codes").focus()
    page.keyboard.insert_text(CODES)
    expect(page.get_by_role("heading", name="8 colors recognised")).to_be_visible()
    page.get_by_label("Name of the kit").focus()
    page.keyboard.type("Tarnmoor by keys")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Ramps")).to_be_visible()
    for name in ("Prove", "Apply"):
        page.get_by_role("navigation", name="Stages").get_by_role("link", name=name).focus()
        page.keyboard.press("Enter")
    page.get_by_test_id("files").set_input_files(write(tmp_path, FILES))
    # Until all of them have come, the order of the paints may change.
    expect(page.get_by_text("8 files taken")).to_be_visible()
    first = page.locator("button.paint").first
    expect(first).to_be_visible()
    first.focus()
    page.keyboard.press("ArrowDown")
    second = page.locator("button.paint").nth(1)
    expect(second).to_be_focused()
    expect(page.locator(".lit").first).to_be_visible()
    key = (second.get_attribute("aria-label") or "").split(" ")
    code = next(word.strip(",") for word in key if word.startswith("#"))
    page.keyboard.press("Enter")
    page.keyboard.press("5")
    moved = page.get_by_role("button", name=re.compile(rf"{code}, in .* goes to Kelp"))
    expect(moved).to_be_visible()
    page.keyboard.press("Control+z")
    expect(moved).to_be_hidden()
    page.keyboard.press("Control+Shift+z")
    expect(moved).to_be_visible()
    page.get_by_role("button", name="crossing.svg: look closer").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="crossing.svg")).to_be_visible()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("heading", name="lifebuoy.svg")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="lifebuoy.svg")).to_be_hidden()
    link = page.get_by_role("link", name=re.compile("^Hand over"), exact=False).last
    link.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Download the package")).to_be_visible()


def test_bad_files_are_named_and_the_others_taken(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor with trouble")
    stage(page, "Apply")
    bad = {"broken.svg": b"<svg", "empty.svg": b"", "photo.png": b"\x89PNG", "large.svg": b"<svg>" + b" " * 13_000_000}
    page.get_by_test_id("files").set_input_files(write(tmp_path, {**FILES, **bad}))
    note = page.locator(".drop")
    expect(note).to_contain_text("8 taken, 4 refused")
    expect(note).to_contain_text("broken.svg not well-formed XML")
    expect(note).to_contain_text("empty.svg the file is empty.")
    expect(note).to_contain_text("photo.png it is one of the PNG pictures, which are taken in sets of")
    expect(note).to_contain_text("large.svg the file is larger than 12 MB.")
    expect(page.get_by_role("button", name="look closer")).to_have_count(8)


#: Every view of a stage that has several, by the name of its link or choice.
