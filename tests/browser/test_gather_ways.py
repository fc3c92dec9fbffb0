"""The other ways in: by keys alone, from a drop before there is a kit, from saved pages, decks, and the screen."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from pavese.demo.pictures import board_pictures, logo
from pavese.demo.site import PAGES
from tests.browser.controls import choose, picked
from tests.browser.test_gather import empty_kit, open_board, pins, view
from tests.browser.test_walk import stage, start_kit, write

pytestmark = pytest.mark.browser

THEME = """<a:theme xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:themeElements><a:clrScheme>
<a:accent1><a:srgbClr val="0B5E6B"/></a:accent1><a:accent2><a:srgbClr val="EFB23A"/></a:accent2>
</a:clrScheme></a:themeElements></a:theme>"""


def zipped(parts: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for path, data in parts.items():
            archive.writestr(path, data)
    return out.getvalue()


def test_a_board_is_laid_by_hand_and_by_keys(page: Page, tmp_path: Path) -> None:
    open_board(page, "Tarnmoor laid", tmp_path)
    colors = [pin.get_attribute("aria-label") for pin in pins(page).all()]
    page.get_by_role("button", name="Lay by hand…").click()
    expect(page.get_by_role("button", name="Done")).to_be_focused()
    pieces = page.get_by_role("group", name="The board, laid by hand").get_by_role("group")
    expect(pieces).to_have_count(3)
    box = pieces.nth(2).bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 30, box["y"] + 30)
    page.mouse.down()
    page.mouse.move(box["x"] - 70, box["y"] + 90, steps=4)
    page.mouse.up()
    expect(page.get_by_text(re.compile("last change: Lay "))).to_be_visible()
    moved = pieces.nth(2).bounding_box()
    assert moved is not None
    assert (moved["x"], moved["y"]) == pytest.approx((box["x"] - 100, box["y"] + 60), abs=2)
    # The same by keys: moved, cut at its left edge, and laid under the others.
    pieces.nth(2).focus()
    page.keyboard.press("Shift+ArrowDown")
    edge = page.get_by_role("button", name=re.compile("^Left edge"))
    edge.focus()
    for _ in range(3):
        page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_role("button", name="Show all of it")).to_be_enabled()
    cut = pieces.nth(2).bounding_box()
    assert cut is not None
    assert cut["y"] > moved["y"]
    assert cut["width"] < moved["width"] - 20
    assert cut["x"] + cut["width"] == pytest.approx(moved["x"] + moved["width"], abs=2)
    name = pieces.nth(2).get_attribute("aria-label")
    page.get_by_role("button", name="Under them").click()
    expect(pieces.nth(0)).to_have_attribute("aria-label", name or "")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_role("button", name="Lay by hand…")).to_be_focused()
    # Pins stay on what they were set on; those under another picture are not drawn, and keep their colors.
    shown = [pin.get_attribute("aria-label") for pin in pins(page).all()]
    assert 0 < len(shown) < len(colors)
    assert set(shown) < set(colors)
    expect(page.get_by_role("heading", name="6 colors found")).to_be_visible()


def test_a_board_by_keys_alone(page: Page, tmp_path: Path) -> None:
    page.goto("/new")
    page.get_by_label("Name of the kit").focus()
    page.keyboard.type("Tarnmoor by keys alone")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Add files…")).to_be_visible()
    page.get_by_test_id("files").set_input_files(write(tmp_path, board_pictures()))
    expect(pins(page)).to_have_count(6)
    pins(page).nth(0).focus()
    loupe = page.get_by_role("region", name="Under the magnifier")
    place = loupe.locator(".mono").last
    expect(place).to_have_text(re.compile(r"^\d+, \d+$"))
    x, y = (int(part) for part in place.inner_text().split(", "))
    for key in ("ArrowLeft", "Shift+ArrowDown", "ArrowDown"):
        page.keyboard.press(key)
    expect(place).to_have_text(f"{x - 1}, {y + 11}")
    expect(page.get_by_text("last change: Move pin 1")).to_be_visible()
    expect(pins(page).nth(0)).to_be_focused()
    page.keyboard.press("Delete")
    expect(pins(page)).to_have_count(5)
    every = page.get_by_role("checkbox", name="All colors")
    every.focus()
    page.keyboard.press("Space")
    expect(every).not_to_be_checked()
    page.keyboard.press("Tab")
    page.keyboard.press("Space")
    add = page.get_by_role("button", name="Add 1 color to Tarnmoor by keys alone")
    add.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Ramps")).to_be_visible()


def test_what_was_decided_stays_while_pins_move(page: Page, tmp_path: Path) -> None:
    open_board(page, "Tarnmoor decided", tmp_path)
    page.get_by_label("Name of #6b7d3a").fill("Shore")
    choose(page, "Role of Shore", "secondary")
    page.get_by_role("checkbox", name=re.compile("#16252b")).uncheck()
    pins(page).nth(0).focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_text("last change: Move pin 1")).to_be_visible()
    choose(page, "Number of colors", "8")
    expect(page.get_by_text("last change: Find 8 colors, balanced")).to_be_visible()
    expect(page.get_by_label("Name of #6b7d3a")).to_have_value("Shore")
    expect(picked(page, "Role of Shore")).to_have_text("secondary")
    expect(page.get_by_role("checkbox", name=re.compile("#16252b"))).not_to_be_checked()


def test_a_drop_before_there_is_a_kit_starts_one(page: Page, tmp_path: Path) -> None:
    page.goto("/new")
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"mark.svg": logo()}))
    expect(page.get_by_role("heading", name="2 colors found")).to_be_visible()
    expect(page.get_by_label("leave out the ground")).to_be_checked()
    page.get_by_role("button", name="Kit: Unnamed kit").click()
    page.get_by_label("Name of this kit").fill("Tarnmoor named later")
    page.get_by_label("Name of this kit").press("Tab")
    expect(page.get_by_role("button", name="Kit: Tarnmoor named later")).to_be_visible()


def test_a_saved_page_is_read_with_its_parts_and_pinned(page: Page, tmp_path: Path) -> None:
    empty_kit(page, "Tarnmoor saved")
    parts = {
        "index.html": PAGES["/"][1].replace(b'"/style.css"', b'"style.css"').replace(b'"/mark.svg"', b'"mark.svg"'),
        "style.css": PAGES["/style.css"][1],
        "mark.svg": logo(),
    }
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"saved.zip": zipped(parts)}))
    expect(page.get_by_role("heading", name="8 colors in use")).to_be_visible()
    page.get_by_text("page", exact=True).last.click()
    uses = page.get_by_role("region", name="What the page uses")
    expect(uses.get_by_role("row", name=re.compile("^button Book"))).to_contain_text("#d2452d")
    expect(uses).to_contain_text("Commissioner")
    page.get_by_role("button", name="Find colors").click()
    # White and the page's near-white are one color to the eye: the next best takes the free place.
    expect(pins(page)).to_have_count(6)
    page.get_by_text("colors", exact=True).last.click()
    expect(page.get_by_role("checkbox", name=re.compile("#0b5e6b"))).to_be_checked()


def test_codes_of_a_deck_and_of_a_table(page: Page, tmp_path: Path) -> None:
    empty_kit(page, "Tarnmoor decked")
    deck = zipped({"ppt/theme/theme1.xml": THEME.encode(), "ppt/presentation.xml": b"<p/>"})
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"briefing.pptx": deck}))
    expect(page.get_by_role("heading", name="2 colors recognised")).to_be_visible()
    expect(page.get_by_label("Name of #0b5e6b")).to_have_value("Theme accent 1")
    page.get_by_test_id("code-file").set_input_files(write(tmp_path, {"list.csv": b"name,hex\nKelp,#6b7d3a\n"}))
    expect(page.get_by_role("heading", name="1 color recognised")).to_be_visible()
    page.reload()
    expect(page.get_by_text("From list.csv.")).to_be_visible()
    expect(page.get_by_label("Name of #6b7d3a")).to_have_value("Kelp")
    page.get_by_role("button", name="Clear").click()
    expect(page.get_by_role("heading", name="0 colors recognised")).to_be_visible()


def test_more_pictures_than_a_board_holds(page: Page, tmp_path: Path) -> None:
    empty_kit(page, "Tarnmoor crowded")
    files = {}
    for n in range(64):
        out = io.BytesIO()
        Image.new("RGB", (60 + n, 40), (n * 4, 120, 255 - n * 4)).save(out, "PNG")
        files[f"{n:02}.png"] = out.getvalue()
    page.get_by_test_id("files").set_input_files(write(tmp_path, files))
    note = page.locator(".drop")
    expect(note).to_contain_text("60 taken, 4 refused")
    expect(note).to_contain_text("a board holds at most 60 pictures.")
    page.get_by_text("pictures", exact=True).click()
    expect(page.get_by_role("region", name="Pictures").locator("li[aria-label]")).to_have_count(60)


def test_a_color_is_picked_from_the_screen(page: Page) -> None:
    # The browser's own picker needs a person; a stand-in with the same interface answers in its place.
    page.add_init_script("window.EyeDropper = class { open() { return Promise.resolve({ sRGBHex: '#0c6270' }) } }")
    page.goto("/")
    page.get_by_role("button", name="pick", exact=True).click()
    expect(page.get_by_role("status", name="Answer")).to_contain_text("near: use this instead")


def test_proposals_one_color_more_alike_and_others(page: Page) -> None:
    start_kit(page, "Tarnmoor proposed")
    view(page, "fill the gaps")
    cards = page.get_by_role("listitem", name=re.compile("^Proposal "))
    expect(cards).to_have_count(9)
    cards.nth(2).get_by_role("button", name="More like this").click()
    expect(cards.first).to_have_attribute("aria-label", re.compile(r"^Proposal \d+\.1$"))
    page.get_by_role("button", name="Nine others").click()
    expect(cards.first).not_to_have_attribute("aria-label", re.compile(r"\.1$"))
    choose(page, "Sorted by", "family fit")
    fits = [int(text.split(" ")[0]) for text in cards.locator("dd").all_inner_texts() if text.endswith(" %")]
    assert fits == sorted(fits, reverse=True)
    name = (cards.first.get_by_role("button", name=re.compile("^Take only")).first.get_attribute("aria-label") or "")[
        10:
    ]
    cards.first.get_by_role("button", name=re.compile("^Take only")).first.click()
    expect(page.get_by_text(f"last change: Add {name.split(',')[0]}")).to_be_visible()
    expect(page.get_by_role("region", name="The kit").locator(".pennant")).to_have_count(9)
    # A wish that cannot be granted says so, and nothing is lost.
    page.get_by_label("Seed of the first proposal").fill("not a seed")
    page.get_by_role("button", name="Propose", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("is no seed of a proposal")
    stage(page, "Prove")
    expect(page.locator(".pair")).to_have_count(72)
