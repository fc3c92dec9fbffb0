"""A format that was added by name, in the running interface: pages, looks, texts, a file beside it, and an act."""

from __future__ import annotations

import io
import zipfile
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Browser, expect

from pavese.demo.people import COORDINATOR
from pavese.demo.served import running
from tests.browser.test_walk import stage, start_kit, write

LINE = b"""bunting 1
page Fore
flag #e53935
text #ffffff Quay
crest crest.png
page Aft
flag #2f3e9e
text #ffca28 Mole
night #101820
"""


def test_a_format_that_was_added_by_name_is_worked_like_the_others(
    browser: Browser, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("PAVESE_MORE_FORMATS", '["tests.bunting"]')
    crest = io.BytesIO()
    Image.new("RGB", (8, 8), "#00ff00").save(crest, "PNG")
    with running(demo=False) as run:
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=run.address)
        context.request.post("/api/session", data=COORDINATOR.sign_in)
        page = context.new_page()
        page.goto("/")
        start_kit(page, "Tarnmoor of lines")
        stage(page, "Apply")
        expect(page.locator("main")).to_contain_text("buntings")
        dropped = write(tmp_path, {"line.bunting": LINE, "crest.png": crest.getvalue()})
        page.get_by_test_id("files").set_input_files(dropped)
        page.get_by_role("button", name="line.bunting: look closer").click()
        look = page.get_by_role("dialog")
        expect(look).to_contain_text("With it came crest.png")
        expect(look).not_to_contain_text("not fetched")
        texts = look.get_by_label("Texts on their grounds")
        expect(texts).to_contain_text("Quay")
        expect(texts).to_contain_text("Mole")
        # By night other grounds show: another picture of the same file.
        by_day = look.get_by_alt_text("line.bunting after").get_attribute("src")
        look.get_by_text("by night").click()
        expect(look.get_by_alt_text("line.bunting after")).not_to_have_attribute("src", by_day or "")
        # One page alone.
        look.get_by_label("Aft: choose for it alone").click()
        expect(look.get_by_label("Paints of the file").get_by_role("listitem")).to_have_count(3)
        look.get_by_label("Fore: choose for it alone").click()
        look.locator("button.paint", has_text="#e53935").click()
        look.get_by_label("Another color code").fill("#116655")
        look.get_by_label("Another color code").press("Enter")
        expect(look.locator("button.paint", has_text="here only")).to_contain_text("/Fore")
        look.get_by_label("Tie knots into the line").check()
        expect(look.get_by_label("Tie knots into the line")).to_be_checked()
        look.get_by_role("button", name="Close").click()
        stage(page, "Hand over")
        with page.expect_download() as started:
            page.get_by_role("link", name="Download the package").click()
        with zipfile.ZipFile(started.value.path()) as packed:
            written = packed.read("line.bunting")
            assert packed.read("crest.png") == crest.getvalue()
        assert b"flag #116655\n" in written
        assert written.endswith(b"knots 3\n")
        context.close()
