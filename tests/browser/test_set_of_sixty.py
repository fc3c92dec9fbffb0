"""A set of sixty from the drop to the export, through the real interface: plans, exceptions, a variant, a backing."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from pavese.core.formats.svg import read_svg
from pavese.core.kit.kit import members
from pavese.demo.icons import icon_files
from pavese.demo.load import demo_kit
from tests.browser.controls import choose, picked
from tests.browser.test_walk import stage, start_kit, write

pytestmark = pytest.mark.browser


def sixty() -> dict[str, bytes]:
    """The thirty deck signs, and each once more under another name."""
    icons = icon_files()
    return {**icons, **{name.replace(".svg", "-door.svg"): data for name, data in icons.items()}}


def test_sixty_files_with_exceptions_a_variant_a_backing_and_an_export(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor sixty")
    stage(page, "Apply")
    expect(page.get_by_role("heading", name="Make files ours")).to_be_visible()
    page.get_by_test_id("files").set_input_files(write(tmp_path, sixty()))
    expect(page.get_by_text(re.compile("^60 files, 15 paints"))).to_be_visible(timeout=60_000)
    expect(page.get_by_role("button", name="look closer").nth(30)).to_be_visible()

    # Another plan, seen on the set before it is taken.
    page.get_by_role("button", name="Other plans…").click()
    plans = page.get_by_role("list", name="Plans").get_by_role("listitem").filter(has=page.get_by_role("heading"))
    expect(plans.nth(3)).to_be_visible()
    plans.nth(1).get_by_role("button", name="Take this plan").click()
    expect(page.get_by_role("list", name="Plans")).to_be_hidden()
    expect(page.get_by_text("The plan is now")).to_be_visible()

    # One file of its own, one as it came, ten left out.
    page.get_by_label("File name").fill("crossing.svg")
    page.get_by_role("button", name="crossing.svg: look closer").click()
    look = page.get_by_role("dialog", name="crossing.svg")
    look.get_by_role("button", name=re.compile("#e53935")).click()
    look.get_by_role("button", name="Keep as it is").click()
    expect(look.get_by_text("here only")).to_be_visible()
    look.get_by_role("button", name="Close").click()
    page.get_by_label("File name").fill("lifebuoy.svg")
    page.get_by_role("button", name="lifebuoy.svg: look closer").click()
    look = page.get_by_role("dialog", name="lifebuoy.svg")
    look.get_by_role("button", name="Keep as it came").click()
    expect(look.get_by_role("button", name="Recolor again")).to_be_visible()
    look.get_by_role("button", name="Close").click()
    page.get_by_label("File name").fill("s-door")
    expect(page.get_by_text(re.compile(r"of 60$"))).to_be_visible()
    shown = page.get_by_role("button", name="look closer").count()
    page.get_by_role("button", name="Leave these out").click()
    expect(page.get_by_role("link", name=f"Hand over {60 - shown}")).to_be_visible()
    page.get_by_label("File name").fill("")
    choose(page, "Which files", "with exceptions")
    expect(page.get_by_role("button", name="look closer")).to_have_count(2)
    choose(page, "Which files", "all files")

    # A variant in one color on a backing; the original stays.
    page.get_by_role("button", name="try another kit or plan on it…").click()
    page.get_by_label("Name of the variant").fill("Night doors")
    page.get_by_role("button", name="Add variant").click()
    expect(page.get_by_role("heading", name="Night doors")).to_be_visible()
    choose(page, "Mode", "single color")
    expect(page.get_by_label("Color of the mode")).to_be_visible()
    page.get_by_role("button", name="Settings").click()
    choose(page, "Backing", "circle")
    choose(page, "Color of the backing", "Hull")
    expect(page.get_by_text("last change").or_(page.get_by_role("status")).first).to_be_visible()
    expect(picked(page, "Color of the backing")).to_have_text("Hull")

    # Exports are made in the background, and hold what was chosen.
    page.get_by_role("link", name=re.compile("^Hand over")).last.click()
    panel = page.get_by_role("region", name="In other forms")
    panel.get_by_label(re.compile("^contact sheet")).check()
    panel.get_by_role("button", name="Make them").click()
    with page.expect_download(timeout=90_000) as downloading:
        panel.get_by_role("link", name="Download").click(timeout=90_000)
    with zipfile.ZipFile(io.BytesIO(Path(downloading.value.path()).read_bytes())) as packed:
        inside = {name: packed.read(name) for name in packed.namelist()}
    assert inside["contact-sheet.pdf"].startswith(b"%PDF")
    picture = Image.open(io.BytesIO(inside["png/crossing-64@1x.png"])).convert("RGBA")
    hull = demo_kit().color("hull").base
    assert picture.getpixel((32, 2)) == (*hull, 255), "the backing is behind it"
    assert picture.getpixel((1, 1))[3] == 0, "a circle leaves the corners open"
    assert len([name for name in inside if name.startswith("png/")]) == 60 - shown

    stage(page, "Apply")
    page.get_by_role("link", name=re.compile("^Set 1")).click()
    expect(page.get_by_role("heading", name="Set 1")).to_be_visible()
    expect(picked(page, "Mode")).to_have_text("kit colors")
    page.get_by_role("link", name=re.compile("^Hand over")).last.click()
    with page.expect_download() as downloading:
        page.get_by_role("link", name="Download the package").click()
    with zipfile.ZipFile(io.BytesIO(Path(downloading.value.path()).read_bytes())) as packed:
        files = {name: packed.read(name) for name in packed.namelist() if name.endswith(".svg")}
    assert files["lifebuoy.svg"] == icon_files()["lifebuoy.svg"]
    assert (229, 57, 53, 1.0) in read_svg("crossing.svg", files["crossing.svg"]).inventory().paints
    own = members(demo_kit())
    ticket = read_svg("ticket.svg", files["ticket.svg"]).inventory().paints
    assert all(paint.rgb in own for paint in ticket)


def test_a_spot_is_pressed_and_a_part_goes_its_own_way(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()
    page.get_by_role("button", name="ticket.svg: look closer").click()
    look = page.get_by_role("dialog", name="ticket.svg")
    after = look.get_by_role("img", name="ticket.svg after")
    expect(after).to_be_visible()
    after.click(position={"x": 60, "y": 150})
    expect(look.get_by_role("status")).to_contain_text("goes to")
    look.get_by_text("in all sizes").click()
    expect(look.get_by_role("img", name="16 pixels on near-black")).to_be_visible()
    look.get_by_text("divider", exact=True).click()
    look.get_by_role("slider", name="Divider between before and after").press("ArrowRight")
    expect(look.get_by_role("img", name="ticket.svg before")).to_be_visible()
    look.get_by_text("in motion", exact=True).click()
    look.get_by_text("ring", exact=True).click()
    expect(look.get_by_role("img", name="ticket.svg, set in motion: ring")).to_be_visible()
    expect(look.get_by_role("slider", name="Frame")).to_have_count(1)
    look.get_by_role("button", name="Close").click()


def test_a_guest_comes_from_a_source_and_stays_in_its_set(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()
    page.get_by_role("button", name="Settings").click()
    guests = page.get_by_role("region", name="Guest colors")
    choose(guests, "Guest colors from a source", "Harbor board")
    found = guests.get_by_role("button", name=re.compile("^Invite .* #")).locator("visible=true")
    expect(found.first).to_be_visible()
    guests.get_by_label("Code of a guest color").fill("not a color")
    guests.get_by_role("button", name="Invite", exact=True).click()
    expect(page.get_by_text("not a color").last).to_be_visible()
    guests.get_by_label("Code of a guest color").fill("#ff6f91")
    guests.get_by_label("Name of the guest color").fill("Regatta coral")
    guests.get_by_role("button", name="Invite", exact=True).click()
    expect(guests.get_by_text("Regatta coral")).to_be_visible()
    page.get_by_role("button", name="Settings").click()
    page.get_by_role("button", name=re.compile(" #e53935, in ")).click()
    page.get_by_role("button", name=re.compile("^Regatta coral, guest of this set: send #e53935 here")).click()
    expect(page.get_by_role("button", name=re.compile("#e53935, in .* goes to Regatta coral"))).to_be_visible()
    # The line of pennants is the kit's alone wherever the set is not.
    page.get_by_role("navigation", name="Sets").get_by_role("link", name=re.compile("^Route")).click()
    expect(page.get_by_role("heading", name="Route illustrations")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Regatta coral"))).to_have_count(0)
    page.get_by_role("navigation", name="Sets").get_by_role("link", name=re.compile("^Deck")).click()
    page.get_by_role("button", name="Settings").click()
    page.get_by_role("button", name="Send Regatta coral away").click()
    expect(page.get_by_role("button", name=re.compile("^Regatta coral"))).to_have_count(0)


def test_animations_play_in_the_focus_view(page: Page) -> None:
    page.goto("/")
    page.get_by_role("navigation", name="Sets").get_by_role("link", name=re.compile("^Boarding")).click()
    page.get_by_role("button", name="light-turns.json: look closer").click()
    look = page.get_by_role("dialog", name="light-turns.json")
    expect(look.get_by_role("slider", name="Frame")).to_have_count(2)
    look.get_by_role("button", name="hold").last.click()
    expect(look.get_by_text("20 / 59")).to_be_visible()
    look.get_by_role("button", name="Play").last.click()
    expect(look.get_by_text("20 / 59")).to_have_count(0)
