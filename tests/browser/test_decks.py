"""Decks through the real interface: dropped, seen slide by slide, worked by their theme, handed over."""

from __future__ import annotations

import io
import re
import zipfile
from pathlib import Path

import pytest
from axe_playwright_python.base import AXE_SCRIPT
from playwright.sync_api import Page, expect
from pptx import Presentation

from pavese.core.formats import read
from pavese.demo.deck import NAME, deck_file
from tests.browser.controls import choose, picked
from tests.browser.test_walk import stage, start_kit, write
from tests.formats.open_decks import graphic, open_deck, page_style, shape, style, words

pytestmark = pytest.mark.browser

TALK = open_deck(
    [
        page_style("dp", 'draw:fill="solid" draw:fill-color="#f2e9da"'),
        style("t", "graphic", graphic('draw:fill="none"')),
        style("ink", "text", words('fo:color="#8a4b08" fo:font-size="40pt"')),
    ],
    [("dp", shape("t", "Timetable talk", "ink", "title")), ("dp", shape("t", "Two boats", "ink"))],
)


def test_from_dropped_decks_to_a_package_in_the_kit_s_theme(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor by deck")
    stage(page, "Apply")
    dropped = write(tmp_path, {**deck_file(), "talk.odp": TALK, "old.ppt": b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"})
    page.get_by_test_id("files").set_input_files(dropped)
    expect(page.get_by_text("save it as .pptx")).to_be_visible()
    # The theme has gone to the kit already, and every slide stands beside its deck.
    theme = page.get_by_role("region", name="Theme of the decks")
    expect(picked(page, "Accent 1 of the theme")).to_contain_text("Deep water")
    expect(theme.get_by_role("status")).to_contain_text(re.compile(r"^\d+ of \d+ kinds of text read"))
    expect(page.get_by_role("button", name="Slide 12 of Crew briefing")).to_be_visible()
    expect(page.get_by_role("button", name="Slide 2 of Timetable talk")).to_be_visible()
    # A place goes elsewhere by its list, another by a pennant.
    choose(page, "Accent 1 of the theme", "Kelp 600")
    expect(page.get_by_role("contentinfo")).to_contain_text("Accent 1 of the theme to Kelp 600")
    theme.get_by_label("Accent 2 of the theme").focus()
    page.get_by_role("button", name=re.compile("^Buoy, ")).click()
    expect(picked(page, "Accent 2 of the theme")).to_contain_text("Buoy")
    # It is kept with the kit, and told what follows it from then on.
    theme.get_by_role("button", name="Keep as the kit's").click()
    expect(theme.get_by_text("the kit's own")).to_be_visible()
    page.get_by_role("button", name="What follows the theme").click()
    follows = page.get_by_role("list", name="What follows the theme")
    expect(follows.get_by_text("stays a code: no place of the theme holds it").first).to_be_visible()
    expect(
        page.get_by_text(re.compile(r"^\d+ typed colors are linked to the theme, \d+ stay codes\.$"))
    ).to_be_visible()
    # The old sign, pasted seven times, is one thing; in its box it takes the ground that it stands on.
    page.get_by_role("button", name="2 pictures inside: 2 by the plan, 1 in a box that shows").click()
    page.get_by_role("list", name="Pictures inside").get_by_role("button", name="lay the ground under it").click()
    expect(page.get_by_role("button", name=re.compile("^2 pictures inside: 2 by the plan$"))).to_be_visible()
    # A slide is looked at large, and one is kept as it came.
    page.get_by_role("button", name="Slide 9 of Crew briefing").click()
    look = page.get_by_role("dialog", name=NAME)
    # Pointing at a paint frames what is in it, on every slide.
    dark = look.get_by_role("list", name="Paints of the file").get_by_role("listitem").filter(has_text="#5a3206").first
    dark.hover()
    expect(look.get_by_role("button", name="Slide 1 of Crew briefing").get_by_test_id("frames")).to_be_attached()
    expect(look.get_by_role("button", name="Slide 2 of Crew briefing").get_by_test_id("frames")).not_to_be_attached()
    expect(look.get_by_role("button", name="Slide 9 of")).to_have_attribute("aria-current", "true")
    ninth = look.get_by_alt_text(f"{NAME} after").get_attribute("src")
    page.keyboard.press("PageUp")
    expect(look.get_by_role("button", name="Slide 8 of")).to_have_attribute("aria-current", "true")
    expect(look.get_by_alt_text(f"{NAME} after")).not_to_have_attribute("src", ninth or "")
    look.get_by_label("Texts on their grounds").get_by_role("button", name="10").first.click()
    expect(look.get_by_role("button", name="Slide 10 of")).to_have_attribute("aria-current", "true")
    page.evaluate(AXE_SCRIPT)
    # Samples are in the colors of the deck, whatever those are.
    what = "{exclude: [['.sample']]}, {resultTypes: ['violations']}"
    found = page.evaluate(f"axe.run({what}).then((told) => told.violations)")
    assert [(one["id"], one["nodes"][0]["html"]) for one in found] == []
    look.get_by_role("button", name="Close").click()
    stage(page, "Hand over")
    with page.expect_download() as started:
        page.get_by_role("link", name="Download the package").click()
    with zipfile.ZipFile(started.value.path()) as handed:
        deck, talk = handed.read(NAME), handed.read("talk.odp")
    titles = [slide.shapes.title.text for slide in Presentation(io.BytesIO(deck)).slides]
    assert titles[0] == "Crew briefing"
    with zipfile.ZipFile(io.BytesIO(deck)) as inside:
        # Steps of the kit stand in the theme, and what was typed points to it now.
        assert b"8A4B08" not in inside.read("ppt/theme/theme1.xml")
        assert b"8B4C09" not in inside.read("ppt/slides/slide7.xml")
        assert b'schemeClr val="accent1"' in inside.read("ppt/slides/slide7.xml")
    paints = {paint.rgb.hex for paint in read("talk.odp", talk).inventory().paints}
    assert paints.isdisjoint({"#f2e9da", "#8a4b08"})
