"""Pictures through the real interface: dropped, told as what they are, pointed at, toned, handed over."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, Route, expect

from pavese.demo.banners import banner_files
from pavese.render.draw import load_fonts
from pavese.settings import settings
from tests.browser.controls import choose
from tests.browser.test_walk import stage, start_kit, write

pytestmark = pytest.mark.browser


def test_from_dropped_pictures_to_a_package(page: Page, tmp_path: Path) -> None:
    load_fonts(str(settings().fonts_dir))
    banners = banner_files()
    broken = {"cut.png": banners["departures-board.png"][:900], "empty.jpg": b"", "words.png": b"no picture"}
    start_kit(page, "Tarnmoor in pictures")
    stage(page, "Apply")
    page.get_by_test_id("files").set_input_files(write(tmp_path, {**banners, **broken}))
    for said in ("it is cut short", "the file is empty", "it is no PNG picture"):
        expect(page.get_by_text(said).first).to_be_visible()
    expect(page.get_by_role("button", name="boarding-now.gif")).to_be_visible()
    # While files come, paints move in their list.
    expect(page.get_by_role("contentinfo")).to_contain_text("8 files taken, 3 refused")
    # A paint of banners, a table and a GIF is one row; it goes elsewhere in all of them.
    paints = page.get_by_role("list", name="Paints of the set")
    red = paints.get_by_role("button", name=re.compile("#e53935"))
    expect(red).to_contain_text(re.compile(r"[4-9] files"))
    red.click()
    expect(red).to_have_attribute("aria-expanded", "true")
    page.get_by_role("button", name=re.compile("^Kelp, ")).click()
    expect(paints.get_by_role("button", name=re.compile("#e53935.*goes to Kelp"))).to_be_visible()
    page.keyboard.press("Escape")
    # A photograph is told as one, and goes into two tones.
    page.get_by_role("button", name="harbor-wall.jpg").click()
    look = page.get_by_role("dialog", name="harbor-wall.jpg")
    expect(look.get_by_text("It is a photograph: nothing in it is flat.")).to_be_visible()
    choose(page, "Photograph of this file", "two tones")
    expect(page.get_by_role("contentinfo")).to_contain_text("Photograph: two tones")
    # Its hull alone gets a color, by a pin that is moved there with the keys; a headline gets room.
    look.get_by_text("things, parts, headline, tones").click()
    look.get_by_role("button", name="Pin in the middle").click()
    pin = look.get_by_role("button", name=re.compile("^Place 1 of the thing"))
    for key in ("Shift+ArrowRight", "Shift+ArrowRight", "Shift+ArrowRight", "Shift+ArrowDown", "Shift+ArrowDown"):
        pin.press(key)
    expect(look.get_by_role("img", name="What belongs to the thing")).to_be_visible()
    choose(page, "Color of the thing", "Buoy")
    expect(look.get_by_role("list", name="Things with a color")).to_contain_text("Buoy")
    expect(page.get_by_role("contentinfo")).to_contain_text("Things: 1 in kit colors")
    look.get_by_text("a headline", exact=True).click()
    look.get_by_role("button", name="Make room for a headline").click()
    expect(look.get_by_text(re.compile(r"With a veil of [\d.]+ % it reads with|It reads as it is"))).to_be_visible()
    look.get_by_role("group", name=re.compile("^Where the headline stands")).press("Shift+ArrowDown")
    expect(page.get_by_role("contentinfo")).to_contain_text("Headline: room for one")
    look.get_by_role("button", name="Close").click()
    # A sign that is framed keeps its colors, and what becomes of it can be said otherwise.
    page.get_by_role("button", name="summer-timetable.png").click()
    table = page.get_by_role("dialog", name="summer-timetable.png")
    table.get_by_text("things, parts, headline, tones").click()
    table.get_by_text("parts", exact=True).click()
    expect(table.get_by_alt_text("summer-timetable.png after", exact=True)).to_have_js_property("complete", True)
    paper = table.get_by_test_id("pointed")
    paper.hover(position={"x": 10, "y": 10})
    page.mouse.down()
    paper.hover(position={"x": 90, "y": 70})
    page.mouse.up()
    expect(page.get_by_role("contentinfo")).to_contain_text("Parts: 1 their own way")
    framed = table.get_by_role("group", name=re.compile("^Part 1"))
    framed.press("ArrowRight")
    choose(page, "What becomes of this part", "all of it stays as it came")
    table.get_by_label("Show what is taken for a photograph").check()
    expect(table.get_by_role("img", name="What is taken for a photograph")).to_be_visible()
    table.get_by_role("button", name="Find it in the other pictures").click()
    expect(table.get_by_text(re.compile(r"^It is in (none|\d) of 6 others"))).to_be_visible()
    choose(page, "What becomes of this part", "the kit’s logo takes its place")
    expect(table.get_by_text("The old logo stays. The kit has no logo that can be put into pictures.")).to_be_visible()
    table.get_by_role("button", name="As the rest").click()
    expect(framed).to_have_count(0)
    table.get_by_role("button", name="Close").click()
    # In a banner what is flat is recolored, and letters are told with how they read. A picture that takes its time says
    # so in its place.
    held: list[Route] = []
    page.route("**/picture.png*", lambda one: held.append(one))
    page.get_by_role("button", name="foot-passengers.jpg").click()
    banner = page.get_by_role("dialog", name="foot-passengers.jpg")
    after = banner.get_by_alt_text("foot-passengers.jpg after", exact=True)
    expect(after).to_have_attribute("aria-busy", "true")
    # They go on from where they were held.
    page.unroute("**/picture.png*")
    expect(after).not_to_have_attribute("aria-busy", "true")
    expect(banner.get_by_text(re.compile(r"A photograph fills \d+% of it"))).to_be_visible()
    expect(banner.get_by_text("lettering or thin lines").first).to_be_visible()
    banner.get_by_role("button", name="Close").click()
    # One that moves is seen moving, before and after.
    page.get_by_role("button", name="boarding-now.gif").click()
    moving = page.get_by_role("dialog", name="boarding-now.gif")
    for side in ("before", "after"):
        shown = moving.get_by_alt_text(f"boarding-now.gif {side}", exact=True)
        expect(shown).to_have_attribute("src", re.compile(f"/file.*side={side}"))
        expect(shown).to_have_js_property("naturalWidth", 360)
    expect(moving.get_by_text("It moves: its colors change in every frame")).to_be_visible()
    moving.get_by_role("button", name="Close").click()
    stage(page, "Hand over")
    with page.expect_download() as coming:
        page.get_by_role("link", name="Download the package").click()
    with zipfile.ZipFile(coming.value.path()) as package:
        assert banners.keys() <= set(package.namelist())
        board = package.read("summer-timetable.png")
    with Image.open(io.BytesIO(board)) as image:
        assert image.size == (1200, 628)
        assert not (np.asarray(image.convert("RGB")) == (229, 57, 53)).all(axis=2).any()
