"""A newcomer's walk from a brand manual to what others are given, counted in clicks, and in keys."""

from __future__ import annotations

import io
import re
import zipfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Download, Locator, Page, expect

from pavese.core.formats.document import Notation, Preview
from pavese.demo.icons import icon_files
from pavese.demo.pictures import logo
from pavese.render.draw import draw

pytestmark = pytest.mark.browser

MANUAL = """Our colors
Tide        RGB 11 110 79
Brick       CMYK 0/72/80/12
Chalk       R244 G241 B232
Night       #14213d
Straw       HSB 42 60 94
"""
MOST_CLICKS, MOST_KEYS = 20, 60
COUNT = """
    addEventListener('click', (event) => {
      // A key that presses a button, or a file that is picked, makes a click of its own.
      if (event.detail && event.isTrusted) sessionStorage.clicks = Number(sessionStorage.clicks ?? 0) + 1
    }, true)
"""


@pytest.fixture
def given(tmp_path: Path) -> dict[str, list[Path]]:
    """The logo as a JPEG with a white box round it, and forty drawings."""
    with Image.open(io.BytesIO(draw(Preview(Notation.VECTOR, logo()), 500))) as drawn:
        boxed = Image.new("RGB", drawn.size, "#ffffff")
        boxed.paste(drawn, mask=drawn.getchannel("A"))
    boxed.save(tmp_path / "logo.jpg", quality=88)
    icons = []
    for number, data in zip(range(40), _around(list(icon_files().values())), strict=False):
        icons.append(tmp_path / f"sign-{number}.svg")
        icons[-1].write_bytes(data.replace(b"<svg", b'<svg data-number="%d"' % number, 1))
    return {"logo": [tmp_path / "logo.jpg"], "icons": icons}


def _around(files: list[bytes]) -> Iterator[bytes]:
    while True:
        yield from files


def test_from_a_manual_to_a_shared_page_in_twenty_clicks(
    page: Page, somebody: Page, given: dict[str, list[Path]]
) -> None:
    page.add_init_script(COUNT)
    page.goto("/new")
    page.get_by_label("Text with color codes").click()
    page.keyboard.insert_text(MANUAL)
    page.get_by_label("Name of the kit").click()
    page.keyboard.insert_text("Tide & Co")
    page.get_by_role("button", name="Start the kit with 5 colors").click()
    page.get_by_text("logo", exact=True).click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name="bring a picture").first.click()
    chooser.value.set_files(given["logo"])
    page.get_by_role("button", name="Free logo.jpg of its box", exact=True).click()
    expect(page.get_by_text("stands round it")).to_be_hidden()
    page.get_by_role("link", name=re.compile("Apply")).click()
    with page.expect_file_chooser() as chooser:
        page.get_by_role("button", name=re.compile("Choose files|Add files|Bring files")).first.click()
    chooser.value.set_files(given["icons"])
    expect(page.get_by_role("button", name="look closer").first).to_be_visible()
    page.get_by_role("link", name=re.compile("^Hand over 40")).click()
    with page.expect_download() as package:
        page.get_by_role("link", name="Download the package").click()
    page.get_by_role("link", name="the kit", exact=True).click()
    page.get_by_role("group", name="Sets").get_by_role("checkbox").first.click()
    page.get_by_role("button", name="Make a link and copy it").click()
    expect(page.locator(".fresh")).to_be_visible()
    clicks = int(page.evaluate("sessionStorage.clicks"))
    assert 10 <= clicks <= MOST_CLICKS
    is_handed_over(package.value, page.locator(".fresh"), somebody)


class Keys:
    """The keys that are pressed on a page."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self.count = 0

    def press(self, *keys: str) -> None:
        for key in keys:
            self._page.keyboard.press(key)
        self.count += len(keys)

    def choose(self, files: list[Path]) -> None:
        """Presses a button that asks for files, and gives these."""
        with self._page.expect_file_chooser() as chooser:
            # Keys overtake the word to the page that what it asks for comes to us, but for one that was answered.
            self._page.evaluate("0")
            self.press("Enter")
        chooser.value.set_files(files)

    def reach(self, target: Locator, *first: str, by: str = "Tab") -> None:
        """Goes to a region or two, and on until something has the focus."""
        target.wait_for(state="attached")
        self.press(*first)
        for _ in range(8):
            if target.evaluate("it => it.contains(document.activeElement)"):
                return
            self.press(by)
        expect(target).to_be_focused()


def test_the_same_in_sixty_keys(page: Page, somebody: Page, given: dict[str, list[Path]]) -> None:
    keys = Keys(page)
    stages = page.get_by_role("navigation", name="Stages")
    page.goto("/new")
    expect(page.get_by_role("heading", level=1).first).to_be_attached()
    keys.reach(page.get_by_label("Text with color codes"), "F6")
    page.keyboard.insert_text(MANUAL)
    expect(page.get_by_role("button", name="Start the kit with 5 colors")).to_be_visible()
    # What a region ends with is a region of its own: the last one here.
    keys.reach(page.get_by_label("Name of the kit"), "Shift+F6")
    page.keyboard.insert_text("Tide & Co")
    keys.press("Enter")
    views = page.get_by_role("radiogroup", name="View of the kit")
    keys.reach(views)
    bring = page.get_by_role("button", name="bring a picture").first
    named = [one.evaluate("it => it.value") for one in views.get_by_role("radio").all()]
    for at in range(1, named.index("logo") + 1):
        keys.press("ArrowRight")
        expect(views.get_by_role("radio").nth(at)).to_be_checked()
    keys.reach(bring)
    keys.choose(given["logo"])
    keys.reach(page.get_by_role("button", name="Free logo.jpg of its box", exact=True))
    keys.press("Enter")
    expect(page.get_by_text("stands round it")).to_be_hidden()
    # A stage that is gone to by its link is gone on in at once.
    keys.reach(stages.get_by_role("link", name=re.compile("Apply")), "Shift+F6", by="Shift+Tab")
    keys.press("Enter")
    expect(page.locator("#stage")).to_be_focused()
    add = page.get_by_role("button", name=re.compile("Choose files|Add files|Bring files")).first
    keys.reach(add)
    keys.choose(given["icons"])
    expect(page.get_by_role("button", name="look closer").first).to_be_visible()
    keys.reach(stages.get_by_role("link", name=re.compile("Hand over")), "Shift+F6", by="Shift+Tab")
    keys.press("Enter")
    expect(page.locator("#stage")).to_be_focused()
    package = page.get_by_role("link", name="Download the package")
    keys.reach(package, "F6")
    with page.expect_download() as started:
        keys.press("Enter")
    keys.reach(page.get_by_role("link", name="the kit", exact=True), by="Shift+Tab")
    keys.press("Enter")
    keys.reach(page.get_by_role("group", name="Sets").get_by_role("checkbox").first, "F6", "F6", "F6", by="Shift+Tab")
    keys.press("Space")
    keys.reach(page.get_by_role("button", name="Make a link and copy it"))
    keys.press("Enter")
    expect(page.locator(".fresh")).to_be_visible()
    assert keys.count <= MOST_KEYS
    is_handed_over(started.value, page.locator(".fresh"), somebody)


def is_handed_over(package: Download, link: Locator, somebody: Page) -> None:
    with zipfile.ZipFile(package.path()) as archive:
        assert sum(name.startswith("sign-") for name in archive.namelist()) == 40
    somebody.goto(link.inner_text())
    expect(somebody.get_by_role("heading", name="Tide & Co")).to_be_visible()
    expect(somebody.get_by_role("img", name="The logo of Tide & Co")).to_be_visible()
    expect(somebody.get_by_text("40 files in these colors")).to_be_visible()
    with somebody.expect_download() as everything:
        somebody.get_by_role("link", name="Download everything").click()
    with zipfile.ZipFile(everything.value.path()) as archive:
        assert sum(name.startswith("sets/") for name in archive.namelist()) == 40
