"""From pictures and a page to a complete kit, through the real interface."""

from __future__ import annotations

import io
import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from pavese.demo.pictures import board_pictures, logo
from tests.browser.controls import choose, picked
from tests.browser.test_walk import stage, start_kit, write

pytestmark = pytest.mark.browser


def site_address(page: Page) -> str:
    """Where the demo's stand-in site answers: the demo's own page source tells."""
    kit = page.request.get("/api/kits").json()[0]["id"]
    source = next(one for one in page.request.get(f"/api/kits/{kit}/sources").json() if one["kind"] == "page")
    return str(page.request.get(f"/api/sources/{source['id']}").json()["page"]["address"])


def view(page: Page, name: str) -> None:
    page.get_by_role("radiogroup", name="View of the kit").get_by_text(name, exact=True).click()


def pins(page: Page) -> Locator:
    return page.locator("button.pin")


def tick_only(page: Page, *codes: str) -> None:
    every = page.get_by_role("checkbox", name="All colors")
    every.check()
    every.uncheck()
    for code in codes:
        page.get_by_role("checkbox", name=re.compile(code)).check()


def empty_kit(page: Page, name: str) -> None:
    page.goto("/new")
    page.get_by_label("Name of the kit").fill(name)
    page.get_by_role("button", name="Start the kit empty").click()
    expect(page.get_by_role("button", name=f"Kit: {name}")).to_be_visible()


def open_board(page: Page, name: str, folder: Path) -> None:
    empty_kit(page, name)
    page.get_by_test_id("files").set_input_files(write(folder, board_pictures()))
    expect(page.get_by_role("heading", name="6 colors found")).to_be_visible()


def test_a_kit_comes_from_a_board_a_page_and_a_proposal(page: Page, tmp_path: Path) -> None:
    open_board(page, "Tarnmoor gathered", tmp_path)
    # All found colors are ticked; one is left out, one is named and given a role, all come in one step.
    tick_only(page, "#6b7d3a", "#16252b")
    page.get_by_label("Name of #6b7d3a").fill("Kelp")
    choose(page, "Role of Kelp", "primary")
    page.get_by_label("Name of #16252b").fill("Hull")
    choose(page, "Role of Hull", "text dark")
    page.get_by_role("button", name="Add 2 colors to Tarnmoor gathered").click()
    expect(page.get_by_role("button", name="Kelp primary")).to_be_visible()

    # The stand-in site, by its address; what the kit has already says so.
    stage(page, "Gather")
    page.get_by_label("Address of a page").fill(site_address(page))
    page.get_by_role("button", name="Read", exact=True).click()
    expect(page.get_by_role("heading", name="8 colors in use")).to_be_visible()
    expect(page.get_by_text("in the kit already: Hull base")).to_be_visible()
    tick_only(page, "#eef0ec")
    page.get_by_label("Name of #eef0ec").fill("Fog")
    page.get_by_role("button", name="Add 1 color to Tarnmoor gathered").click()
    expect(page.get_by_role("button", name="Fog background")).to_be_visible()

    # What is missing is proposed, and taken whole.
    view(page, "fill the gaps")
    expect(page.get_by_role("heading", name="9 proposals")).to_be_visible()
    expect(picked(page, "Role of missing color 1")).to_have_text("action")
    choose(page, "Theme of the names", "harbor")
    # The wish comes into the address with its answer: what is read before that is the last one's.
    expect(page).to_have_url(re.compile("theme=harbor"))
    choose(page, "Sorted by", "distance of the action color")
    card = page.get_by_role("listitem", name=re.compile("^Proposal ")).first
    seed = (card.get_attribute("aria-label") or "").removeprefix("Proposal ")
    action = card.get_by_role("button", name=re.compile("^Take only")).first.get_attribute("aria-label") or ""
    page.reload()
    expect(page.get_by_role("listitem", name=f"Proposal {seed}", exact=True)).to_contain_text(
        "action color from all others"
    )
    page.get_by_role("listitem", name=f"Proposal {seed}", exact=True).get_by_role("button", name="Take whole").click()
    expect(page.get_by_role("heading", name="Ramps")).to_be_visible()
    expect(page.get_by_text(f"last change: Take proposal {seed}")).to_be_visible()

    page.reload()
    line = page.get_by_role("region", name="The kit")
    for name in ("Kelp", "Hull", "Fog", action.removeprefix("Take only ").split(",")[0]):
        expect(line.get_by_text(name, exact=True).first).to_be_visible()
    stage(page, "Gather")
    sources = page.get_by_role("navigation", name="Sources")
    expect(sources.get_by_role("link", name="Board of 3 pictures")).to_contain_text("3 without rights")
    sources.get_by_role("link", name=re.compile("^Tarnmoor Ferries")).click()
    expect(page.get_by_role("heading", name="8 colors in use")).to_be_visible()


def settled(told: Locator) -> str:
    """The text of what follows the hand, once it has been the same for a second."""
    text, same = told.inner_text(), 0
    while same < 10:
        told.page.wait_for_timeout(100)
        now = told.inner_text()
        text, same = now, same + 1 if now == text else 0
    return text


def test_pins_by_mouse_and_by_keys(page: Page, tmp_path: Path) -> None:
    open_board(page, "Tarnmoor pinned", tmp_path)
    loupe = page.get_by_role("region", name="Under the magnifier")
    pin = page.get_by_role("button", name=re.compile("^Pin 1,"))
    pin.focus()
    expect(loupe).to_contain_text("#")
    box = pin.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 10, box["y"] + 10)
    page.mouse.down()
    paper = page.get_by_test_id("paper").bounding_box()
    assert paper is not None
    page.mouse.move(paper["x"] + paper["width"] * 0.2, paper["y"] + paper["height"] * 0.9, steps=5)
    page.mouse.up()
    expect(page.get_by_text("last change: Move pin 1")).to_be_visible()
    place = loupe.locator(".mono").last
    # The magnifier follows the hand one answer at a time; the last is that of the place the pin was let go at.
    x, y = (int(part) for part in settled(place).split(", "))
    for key in ("ArrowRight", "Shift+ArrowRight", "ArrowUp"):
        page.keyboard.press(key)
    expect(place).to_have_text(f"{x + 11}, {y - 1}")
    loupe.get_by_text("5 × 5").click()
    expect(page.get_by_text("last change: Move pin 1")).to_be_visible()
    # A click sets one more, which can be given another number and removed.
    page.get_by_test_id("paper").click(position={"x": paper["width"] * 0.45, "y": paper["height"] * 0.3})
    expect(pins(page)).to_have_count(7)
    choose(loupe, "Number of the pin", "1")
    expect(page.get_by_text("last change: Pin 7 becomes 1")).to_be_visible()
    loupe.get_by_role("button", name="Remove pin").click()
    expect(pins(page)).to_have_count(6)
    page.get_by_role("button", name=re.compile("^Pin 2,")).focus()
    page.keyboard.press("Delete")
    expect(pins(page)).to_have_count(5)
    page.get_by_role("button", name="Undo").click()
    expect(pins(page)).to_have_count(6)
    choose(page, "Number of colors", "3")
    expect(page.get_by_text("last change: Find 3 colors, balanced")).to_be_visible()


def test_a_board_is_arranged_and_downloaded(page: Page, tmp_path: Path) -> None:
    open_board(page, "Tarnmoor arranged", tmp_path)
    page.get_by_text("pictures", exact=True).click()
    listed = page.get_by_role("region", name="Pictures").locator("li[aria-label]")
    expect(listed.nth(0)).to_contain_text("harbor-morning.jpg")
    page.get_by_role("button", name="Move harbor-morning.jpg back").click()
    expect(listed.nth(1)).to_contain_text("harbor-morning.jpg")
    page.get_by_label("rights of kelp-shore.png").fill("own work")
    page.get_by_label("rights of kelp-shore.png").press("Enter")
    expect(page.get_by_role("link", name="Board of 3 pictures")).to_contain_text("2 without rights")
    page.get_by_label("Size of harbor-lamp.png, number").fill("200")
    page.get_by_label("Name of the source").fill("Quay")
    page.get_by_label("Name of the source").press("Enter")
    expect(page.get_by_role("link", name="Quay")).to_be_visible()
    page.get_by_test_id("more-pictures").set_input_files(write(tmp_path, {"mark.svg": logo(), "words.txt": b"x"}))
    expect(page.locator(".drop")).to_contain_text("words.txt")
    expect(listed).to_have_count(4)
    with page.expect_download() as download:
        page.get_by_role("button", name="Save…").click()
        page.get_by_role("link", name="The picture alone, PNG").click()
    with Image.open(io.BytesIO(Path(download.value.path()).read_bytes())) as image:
        assert image.width == 1600
    assert download.value.suggested_filename == "Quay.png"
    page.reload()
    expect(page.get_by_label("Name of the source")).to_have_value("Quay")
    page.get_by_role("button", name="Remove…").click()
    page.get_by_role("button", name="Remove it").click()
    expect(page.get_by_label("Text with color codes")).to_be_visible()


def test_a_drop_that_is_bad_names_each_file_and_keeps_the_rest(page: Page, tmp_path: Path) -> None:
    empty_kit(page, "Tarnmoor with bad pictures")
    files = {
        "lamp.png": board_pictures()["harbor-lamp.png"],
        "broken.png": b"\x89PNG\r\n\x1a\n",
        "empty.jpg": b"",
        "empty.png": b"",
        "notes.txt": b"nothing in it",
    }
    page.get_by_test_id("files").set_input_files(write(tmp_path, files))
    note = page.locator(".drop")
    expect(note).to_contain_text("1 taken, 4 refused")
    expect(note).to_contain_text("broken.png")
    expect(note).to_contain_text(re.compile("2 files the file is empty. *empty.jpg, empty.png"))
    expect(note).to_contain_text("notes.txt no color code is in it")
    expect(page.get_by_role("link", name="lamp picture")).to_be_visible()
    page.get_by_label("Address of a page").fill("http://localhost:1/")
    page.get_by_role("button", name="Read", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text(re.compile("private network"))


def test_the_shelf_gives_single_colors_and_whole_kits(page: Page) -> None:
    start_kit(page, "Tarnmoor shelved")
    stage(page, "Gather")
    page.get_by_role("link", name="Reference shelf").click()
    cards = page.locator(".cards li")
    expect(cards).to_have_count(48)
    cards.last.scroll_into_view_if_needed()
    expect(cards).not_to_have_count(48)
    page.get_by_label("Near a color").fill("#7b1e3a")
    choose(page, "Family", "jewel")
    # Both have been answered: fewer palettes, and each with its distance.
    expect(page.get_by_text(re.compile(r"^(\d+) of (?!\1\b)\d+, press a color"))).to_be_visible()
    first = cards.first
    expect(first).to_contain_text("nearest differs by")
    first.get_by_role("button", name=re.compile("^Take #")).nth(1).click()
    expect(page.get_by_role("heading", name="1 color taken from the shelf")).to_be_visible()
    name = first.locator("strong").inner_text()
    first.get_by_role("button", name="More like").click()
    expect(page.get_by_text("Most like")).to_contain_text(name)
    page.get_by_role("button", name="all of them again").click()
    page.get_by_role("listitem", name=name, exact=True).get_by_role("button", name="Start a kit from").click()
    expect(page.get_by_role("button", name=f"Kit: {name}")).to_be_visible()
    expect(page.get_by_role("heading", name="Ramps")).to_be_visible()


def test_a_scheme_on_the_wheel_by_hand_and_by_numbers(page: Page) -> None:
    start_kit(page, "Tarnmoor wheeled")
    view(page, "wheel")
    choose(page, "Scheme", "triad")
    # With the base let go, the scheme turns with the partner.
    page.get_by_label("lock the base").uncheck()
    points = page.locator("button.point")
    expect(points).to_have_count(3)
    second = points.nth(1)
    before = second.get_attribute("aria-label")
    second.focus()
    page.keyboard.press("Shift+ArrowUp")
    expect(second).not_to_have_attribute("aria-label", before or "")
    box = page.get_by_test_id("wheel").bounding_box()
    at = second.bounding_box()
    assert box is not None
    assert at is not None
    page.mouse.move(at["x"] + 13, at["y"] + 13)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] * 0.4, steps=6)
    page.mouse.up()
    # The last place is answered after the hand has let go.
    page.wait_for_load_state("networkidle")
    moved = second.bounding_box()
    assert moved is not None
    assert abs(moved["x"] + 13 - box["x"] - box["width"] * 0.6) < 3
    points.nth(0).click()
    page.get_by_label("hex of the point").fill("#8a5a3c")
    page.get_by_label("hex of the point").press("Enter")
    expect(points.nth(0)).to_have_attribute("aria-label", re.compile("^Base, #8a5a3c"))
    page.get_by_label("let the rule go").check()
    expect(page.get_by_label("Scheme", exact=True)).to_be_disabled()
    expect(page.get_by_role("checkbox", name=re.compile("#8a5a3c"))).to_be_visible()
    page.get_by_role("checkbox", name="All colors").check()
    page.get_by_role("button", name="Add 3 colors to Tarnmoor wheeled").click()
    expect(page.get_by_text("3 colors added to Tarnmoor wheeled")).to_be_visible()


def test_colors_are_reordered_pinned_tinted_pulled_and_named(page: Page) -> None:
    start_kit(page, "Tarnmoor tuned")
    page.get_by_role("button", name="Move Deep water down").click()
    expect(page.locator(".line .pennant").first).to_have_attribute("aria-label", re.compile("^Slipway"))
    panel = page.get_by_role("complementary", name="Deep water")
    choose(panel, "Step to pin", "100")
    panel.get_by_label("Color for the step").fill("#d9f2f2")
    panel.get_by_role("button", name="Pin", exact=True).click()
    expect(page.get_by_role("button", name="Deep water 100, pinned: copy #d9f2f2")).to_be_visible()
    panel.get_by_label("near-white").uncheck()
    panel.get_by_role("button", name="Add 2 tinted").click()
    expect(page.get_by_role("button", name="Deep water neutral neutral")).to_be_visible()
    panel.get_by_label("Note on the color").fill("The fleet, never a warning.")
    panel.get_by_role("heading", name="Meaning").click()
    expect(page.get_by_text("last change: Note on Deep water")).to_be_visible()
    panel.locator("summary").click()
    panel.get_by_role("button", name="Duplicate").click()
    expect(page.get_by_role("complementary", name="Deep water 2")).to_be_visible()

    view(page, "tone families")
    page.get_by_role("button", name=re.compile("^Pull Lamp into earth")).click()
    expect(page.get_by_text("last change: Pull Lamp into earth")).to_be_visible()
    choose(page, "Family for all", "pastel")
    page.get_by_role("button", name="Pull them").click()
    expect(page.get_by_text("into pastel").last).to_be_visible()

    view(page, "names")
    before = page.get_by_label("New name of Buoy").input_value()
    choose(page, "Theme", "spice")
    expect(page.get_by_label("New name of Buoy")).not_to_have_value(before)
    rename = page.get_by_role("button", name=re.compile("^Rename [0-9]+$"))
    page.get_by_label("New name of Buoy").fill("Beacon")
    rename.click()
    expect(page.get_by_text(re.compile("colors renamed"))).to_be_visible()
    expect(page.get_by_role("region", name="The kit").get_by_text("Beacon", exact=True)).to_be_visible()

    view(page, "proportions")
    choose(page, "Color with the large share", "Beacon")
    expect(page.get_by_role("img", name="poster, the wrong way round")).to_be_visible()
    page.get_by_role("heading", name="Proportions").click()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("region", name="The kit").get_by_text("Beacon", exact=True)).to_be_hidden()
