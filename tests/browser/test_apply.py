"""Working on a set through the real interface: dragging, looking, dropping, many files, and what can go wrong."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

import pytest
from playwright.sync_api import Page, Route, expect

from pavese.demo.icons import icon_files
from tests.browser.controls import choose
from tests.browser.test_walk import FILES, paint, stage, start_kit, write

pytestmark = pytest.mark.browser


def drop(page: Page, files: dict[str, bytes]) -> None:
    """Drops files on the middle of the screen, as from a folder window."""
    page.evaluate(
        """(files) => {
            const data = new DataTransfer()
            for (const [name, text] of Object.entries(files)) data.items.add(new File([text], name))
            const target = document.querySelector('[data-testid=drop]')
            for (const type of ['dragenter', 'dragover', 'drop'])
              target.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }))
        }""",
        {name: data.decode() for name, data in files.items()},
    )


def open_set(page: Page, name: str) -> None:
    start_kit(page, name)
    stage(page, "Apply")
    expect(page.get_by_role("heading", name="Make files ours")).to_be_visible()
    drop(page, FILES)
    expect(page.get_by_role("button", name="look closer")).to_have_count(len(FILES))
    # Files and paints are seen while the drop still goes on; once all are here, nothing moves in the lists any more.
    expect(page.locator("button.paint").first).to_be_visible()
    expect(page.get_by_role("contentinfo")).to_contain_text(f"{len(FILES)} files taken")


def test_files_are_dropped_and_a_pennant_is_dragged_onto_a_paint(page: Page) -> None:
    open_set(page, "Tarnmoor dragged")
    page.get_by_role("button", name=re.compile("^Kelp, accent")).drag_to(paint(page, "#2f3e9e"))
    expect(page.get_by_role("button", name=re.compile("#2f3e9e, in .* goes to Kelp"))).to_be_visible()
    expect(page.get_by_text("by hand")).to_have_count(1)
    page.get_by_role("button", name="Plan anew").click()
    expect(page.get_by_text("1 chosen by hand would be forgotten")).to_be_visible()
    page.get_by_role("button", name="Take it").click()
    expect(page.get_by_text("by hand")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("by hand")).to_have_count(1)


def test_what_is_doubtful_is_settled_in_one_press_and_choices_by_hand_outlive_another_mode(page: Page) -> None:
    open_set(page, "Tarnmoor doubted")
    expect(page.get_by_text("Nothing in this plan looks doubtful.")).to_be_visible()
    # The kit has nothing near a magenta; what stood stays, and it is said.
    magenta = FILES[next(iter(FILES))].replace(b"#2f3e9e", b"#ff40ff")
    drop(page, {"buoy at night.svg": magenta})
    expect(page.get_by_text(re.compile(r"1 new paint planned, \d+ as they were"))).to_be_visible()
    page.get_by_role("button", name="1 worth a look").click()
    doubts = page.get_by_role("list", name="Worth a look")
    expect(doubts).to_contain_text("a hue could not be kept")
    doubts.get_by_role("button", name="buoy at night.svg").click()
    expect(page.get_by_role("button", name="look closer")).to_have_count(1)
    doubts.get_by_role("button", name="keep as it came").click()
    expect(page.get_by_text("Nothing in this plan looks doubtful.")).to_be_visible()
    # A choice by hand is asked after before another mode plans over it.
    choose(page, "Mode", "greyscale")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("by hand", exact=True)).to_have_count(1)
    choose(page, "Mode", "two-tone")
    page.get_by_role("button", name="Plan it too").click()
    expect(page.get_by_text("by hand", exact=True)).to_have_count(0)


def test_a_code_of_ones_own_and_what_is_no_code(page: Page) -> None:
    open_set(page, "Tarnmoor with codes")
    paint(page, "#2f3e9e").click()
    page.get_by_label("Another color code").fill("12345g")
    page.get_by_role("button", name="Use").click()
    expect(page.get_by_role("alert")).to_contain_text("is no token")
    page.get_by_label("Another color code").fill("123456")
    page.get_by_role("button", name="Use").click()
    expect(page.get_by_role("button", name=re.compile("#2f3e9e, in .* goes to #123456"))).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_label("Another color code")).to_be_hidden()


def test_looking_before_after_and_on_other_grounds(page: Page) -> None:
    open_set(page, "Tarnmoor looked at")
    tile = page.get_by_role("button", name="lifebuoy.svg: look closer")
    picture = tile.locator(".main img")
    expect(picture).to_have_attribute("src", re.compile("fingerprint="))
    page.keyboard.down("b")
    expect(picture).to_have_attribute("src", re.compile("side=before"))
    page.keyboard.up("b")
    expect(picture).to_have_attribute("src", re.compile("fingerprint="))
    page.get_by_text("side by side").click()
    expect(tile.locator("img")).to_have_count(2)
    page.get_by_label("On Hull").check()
    expect(tile.locator(".pictures")).to_have_css("background-color", "rgb(22, 37, 43)")
    page.reload()
    expect(tile.locator("img")).to_have_count(2)


def test_a_file_is_looked_at_closer_downloaded_and_taken_out(page: Page) -> None:
    open_set(page, "Tarnmoor closer")
    page.get_by_role("button", name="caution.svg: look closer").click()
    dialog = page.get_by_role("dialog", name="caution.svg")
    expect(dialog.get_by_alt_text("caution.svg after")).to_be_visible()
    dialog.get_by_role("button", name=re.compile("#ffca28")).hover()
    expect(dialog.get_by_alt_text("caution.svg after")).to_have_attribute("src", re.compile("spot=%23ffca28"))
    with page.expect_download() as download:
        dialog.get_by_role("link", name="Download original").click()
    assert Path(download.value.path()).read_bytes() == FILES["caution.svg"]
    assert download.value.suggested_filename == "caution.svg"
    dialog.get_by_role("button", name="Take out of the set").click()
    expect(page.get_by_role("button", name="look closer")).to_have_count(len(FILES) - 1)
    expect(page.get_by_text("caution.svg taken out")).to_be_visible()


def test_three_hundred_files_in_a_zip_of_folders(page: Page, tmp_path: Path) -> None:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as packed:
        for copy in range(10):
            for name, data in icon_files().items():
                packed.writestr(f"deck {copy}/{name}", data)
        packed.writestr("notes.txt", b"hello")
    (tmp_path / "Deck plan.zip").write_bytes(target.getvalue())
    start_kit(page, "Tarnmoor with many")
    stage(page, "Apply")
    page.get_by_test_id("files").set_input_files(tmp_path / "Deck plan.zip")
    expect(page.get_by_role("heading", name="Deck plan")).to_be_visible()
    expect(page.locator(".drop")).to_contain_text("300 taken, 1 refused")
    expect(page.get_by_text(re.compile("^300 files, "))).to_be_visible()
    expect(page.locator(".drop")).to_contain_text("notes.txt")
    # Only what is in view is asked for.
    assert page.locator(".main img").count() < 80
    tiles = page.get_by_role("button", name="look closer")
    assert tiles.count() < 200
    last = page.get_by_role("button", name="deck 9/crew.svg: look closer")
    for _ in range(20):
        if last.count():
            break
        tiles.last.scroll_into_view_if_needed()
        page.wait_for_timeout(100)
    last.scroll_into_view_if_needed()
    expect(last.locator(".main img")).to_be_visible()


def test_a_file_beyond_all_bounds_does_not_stop_the_others(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor with a giant")
    stage(page, "Apply")
    with (tmp_path / "giant.zip").open("wb") as giant:
        giant.truncate(513 * 1024 * 1024)
    files = write(tmp_path, FILES)
    page.get_by_test_id("files").set_input_files([*files[:4], tmp_path / "giant.zip", *files[4:]])
    expect(page.locator(".drop")).to_contain_text("8 taken, 1 refused")
    expect(page.locator(".drop")).to_contain_text("giant.zip it is larger than 512 MB.")
    expect(page.get_by_role("button", name="look closer")).to_have_count(8)


def test_sets_are_started_switched_and_removed(page: Page) -> None:
    open_set(page, "Tarnmoor of sets")
    page.get_by_role("button", name="new set…").click()
    expect(page.get_by_role("heading", name="This set is empty")).to_be_visible()
    drop(page, {"one.svg": FILES["ticket.svg"]})
    expect(page.get_by_role("button", name="look closer")).to_have_count(1)
    page.get_by_role("link", name="Set 1 8").click()
    expect(page.get_by_role("button", name="look closer")).to_have_count(8)
    page.get_by_role("button", name="Remove set…").click()
    page.get_by_role("button", name="No", exact=True).click()
    page.get_by_role("button", name="Remove set…").click()
    page.get_by_role("button", name="Remove 8 files").click()
    expect(page.get_by_role("heading", name="Set 2")).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("^Set 1"))).to_have_count(0)


def test_when_the_server_is_gone_it_says_so_and_nothing_is_lost(page: Page) -> None:
    open_set(page, "Tarnmoor offline")
    page.route("**/api/**", lambda route: route.abort())
    paint(page, "#2f3e9e").click()
    page.keyboard.press("1")
    expect(page.get_by_role("alert")).to_contain_text("Pavese does not answer")
    page.unroute("**/api/**")
    page.keyboard.press("1")
    expect(page.get_by_role("button", name=re.compile("#2f3e9e, in .* goes to Deep water"))).to_be_visible()


def test_a_kit_that_does_not_exist(page: Page) -> None:
    page.goto("/kits/00000000-0000-0000-0000-000000000000/compose")
    expect(page.get_by_text("This kit does not exist.")).to_be_visible()
    page.get_by_role("link", name="Pavese, start").click()
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()


def test_composing_a_color(page: Page) -> None:
    start_kit(page, "Tarnmoor composed")
    page.get_by_role("button", name="Lamp accent").click()
    panel = page.get_by_role("complementary", name="Lamp")
    expect(panel).to_contain_text("base at step 200")
    panel.get_by_label("Base, any color code").fill("no color")
    expect(panel).to_contain_text("“no color” is not a color code.")
    panel.get_by_label("Base, any color code").fill("hsl(40 90% 40%)")
    # What would follow is shown before it is done.
    expect(panel.get_by_role("status", name="What would follow")).to_contain_text("Before above, after below")
    panel.get_by_role("button", name="Replace base").click()
    expect(page.get_by_text("last change: Replace the base of Lamp")).to_be_visible()
    panel.get_by_label("Name").fill("Lantern")
    panel.get_by_label("Name").press("Enter")
    expect(page.get_by_role("complementary", name="Lantern")).to_be_visible()
    page.get_by_role("button", name="Remove from the kit").click()
    expect(page.get_by_role("button", name="Lantern accent")).to_have_count(0)
    page.get_by_role("heading", name="Ramps").click()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Lantern accent")).to_be_visible()


def test_codes_from_a_file_survive_a_reload(page: Page, tmp_path: Path) -> None:
    (tmp_path / "brand.css").write_text(":root { --tf-sea: #0b5e6b; --tf-sand: #e8d9b5 } #fade { color: teal }")
    page.goto("/new")
    page.get_by_test_id("code-file").set_input_files(tmp_path / "brand.css")
    expect(page.get_by_role("heading", name="3 colors recognised")).to_be_visible()
    expect(page.get_by_label("Name of #0b5e6b")).to_have_value("Sea")
    page.reload()
    expect(page.get_by_role("heading", name="3 colors recognised")).to_be_visible()
    page.get_by_label("Name of #0b5e6b").fill("")
    expect(page.get_by_role("button", name="Start the kit with 3 colors")).to_be_disabled()
    page.get_by_label("Text with color codes").fill("nothing here")
    expect(page.get_by_text("No color code found in this.")).to_be_visible()


def test_is_this_one_of_ours(page: Page) -> None:
    page.goto("/")
    field = page.get_by_label("Is this one of ours?")
    field.fill("#0c6270")
    answer = page.get_by_role("status", name="Answer")
    expect(answer).to_contain_text("near: use this instead")
    expect(answer).to_contain_text("Deep water base, difference 1.4")
    answer.get_by_role("button", name="Copy #0b5e6b").click()
    expect(page.get_by_text("Copied #0b5e6b")).to_be_visible()
    field.fill("old: #2f3e9e, lamp #efb23a and #0c6270")
    expect(answer).to_contain_text("1 ours, 1 near, 1 not ours")
    field.fill("hello")
    expect(answer).to_contain_text("No color code in this.")
    field.press("Escape")
    expect(answer).to_be_hidden()


def test_a_neighbor_is_taken_as_new_and_as_base(page: Page) -> None:
    start_kit(page, "Tarnmoor of neighbors")
    page.get_by_role("button", name="Slipway secondary").click()
    panel = page.get_by_role("complementary", name="Slipway")
    row = panel.get_by_role("group", name="darker to lighter")
    expect(row.get_by_role("button", name="the color itself")).to_have_attribute("aria-pressed", "true")
    row.get_by_role("button").nth(4).click()
    panel.get_by_role("button", name="Take as new").click()
    added = page.get_by_role("complementary", name=re.compile("^Slipway [0-9a-f]{6}$"))
    expect(added).to_be_visible()
    remarks = page.get_by_role("region", name="Worth a second look")
    expect(remarks).to_contain_text("hard to tell apart")
    remarks.get_by_role("button", name="Slipway", exact=True).click()
    row = panel.get_by_role("group", name="cooler to warmer")
    row.get_by_role("button").first.click()
    panel.get_by_role("button", name="Try as base").click()
    panel.get_by_role("button", name="Replace base").click()
    expect(page.get_by_text("last change: Replace the base of Slipway")).to_be_visible()
    for _ in range(2):
        page.get_by_role("button", name="Undo").click()
    expect(remarks).to_be_hidden()


def test_a_chosen_color_is_laid_until_its_pictures_come(page: Page) -> None:
    open_set(page, "Tarnmoor laid")
    tile = page.get_by_role("button", name="lifebuoy.svg: look closer")
    before = tile.locator(".main > img").get_attribute("src")
    paint(page, "#2f3e9e").click()
    # The masks come behind the pictures.
    page.wait_for_load_state("networkidle")
    waiting: list[Route] = []
    page.route("**/picture.png?*", lambda route: waiting.append(route))
    step = page.get_by_role("group", name=re.compile("^Steps of")).locator("button[aria-pressed=false]").first
    color = step.evaluate("(button) => getComputedStyle(button).backgroundColor")
    step.click()
    expect(tile.locator(".laid img")).to_have_css("background-color", color)
    expect(tile.locator(".main > img")).to_have_attribute("src", before or "")
    assert waiting
    # What waits goes on.
    page.unroute("**/picture.png?*")
    expect(page.locator(".laid")).to_have_count(0)
    expect(tile.locator(".main > img")).not_to_have_attribute("src", before or "")
