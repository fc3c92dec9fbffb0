"""Prove, editions and hand-over through the real interface, and two people at the same kit."""

from __future__ import annotations

import io
import re
from pathlib import Path
from uuid import uuid4

import pypdf
import pytest
from playwright.sync_api import Page, expect

from pavese.demo.people import COORDINATOR, READER, REVIEWER, DemoPerson
from pavese.demo.pictures import logo
from pavese.settings import settings
from tests.browser.controls import choose
from tests.browser.test_walk import stage, start_kit

pytestmark = pytest.mark.browser

PALE = "Sand #dcc8a0\nFoam #bedcd2\nMist #e1e4e8\n"


def sign_in(page: Page, person: DemoPerson) -> None:
    page.get_by_label("E-mail address").fill(person.email)
    page.get_by_label("Password").fill(person.password)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("button", name=f"Signed in as {person.name}")).to_be_visible()


def view(page: Page, name: str) -> None:
    page.get_by_role("radiogroup", name="View of the proof").get_by_text(name, exact=True).click()


def test_from_a_failing_palette_to_a_link_for_those_outside(page: Page, somebody: Page) -> None:
    page.goto("/new")
    page.get_by_label("Text with color codes").fill(PALE)
    page.get_by_label("Name of the kit").fill("Pale kit")
    page.get_by_role("button", name="Start the kit with 3 colors").click()
    expect(page.get_by_role("heading", name="Ramps")).to_be_visible()

    # Nothing reads; publishing is not possible yet, and says why.
    stage(page, "Prove")
    expect(page.get_by_text("No pair of 6 reads as body text (4.5 to 1).")).to_be_visible()
    view(page, "editions")
    expect(page.get_by_text("No pair is approved for body text")).to_be_visible()
    expect(page.get_by_role("button", name="Publish")).to_have_count(0)

    # What is proposed says what it gains before it is added, and gains it.
    view(page, "pairs")
    proposal = page.get_by_role("listitem").filter(has_text="near-black")
    expect(proposal).to_contain_text("6 pairs more")
    proposal.get_by_role("button", name=re.compile("^Add ")).click()
    expect(page.get_by_text("6 of 12 pairs read as body text (4.5 to 1).")).to_be_visible()

    # All that read are approved in one step; a failing pair can be approved for decoration only.
    choose(page, "Level", "AAA")
    expect(page.get_by_text("6 pairs pass the filter")).to_be_visible()
    page.get_by_role("button", name="Approve", exact=True).click()
    expect(page.get_by_text("6 pairs: approved")).to_be_visible()
    choose(page, "Level", "every level")
    failing = page.get_by_role("gridcell", name=re.compile("^Sand on Mist, "))
    failing.click()
    page.get_by_label("Approve for", exact=True).click(force=True)
    expect(page.get_by_role("option")).to_have_text(["decoration"])
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Decline", exact=True).click()
    expect(failing).to_have_attribute("aria-label", re.compile("declined$"))

    # Published as edition 1; then a color changes, and what it breaks is open again.
    view(page, "editions")
    page.get_by_label("I know, and publish all the same").check()
    page.get_by_label("Note to the edition").fill("For the summer.")
    page.get_by_role("button", name="Publish").click()
    expect(page.get_by_text("Edition 1 is published.")).to_be_visible()
    expect(page.get_by_text("They are the same.")).to_be_visible()
    view(page, "pairs")
    page.get_by_role("gridcell", name=re.compile("near-black on Sand, ")).click()
    panel = page.get_by_role("complementary")
    panel.get_by_label("Note to the decision").fill("Not for small type.")
    panel.get_by_role("button", name="Decline").click()
    stage(page, "Compose")
    page.get_by_role("button", name=re.compile("^Choose Sand")).or_(
        page.get_by_role("row").filter(has_text="Sand")
    ).first.click()
    page.get_by_label("Name of the color").or_(page.get_by_label("Name", exact=True)).first.fill("Dune")
    page.keyboard.press("Tab")
    stage(page, "Prove")
    view(page, "editions")
    expect(page.get_by_text("Sand is now Dune")).to_be_visible()
    expect(page.get_by_text(re.compile("near-black on Sand is no longer approved"))).to_be_visible()

    # Handed over: a sheet whose text is read back, and a link that works for somebody who is not signed in.
    page.get_by_role("link", name="hand over", exact=True).click()
    page.get_by_label("CMYK").check()
    with page.expect_download() as sheet:
        page.get_by_role("link", name="PDF sheet").click()
    read = pypdf.PdfReader(io.BytesIO(Path(sheet.value.path()).read_bytes()))
    words = " ".join(part.extract_text() for part in read.pages)
    assert "Sand" in words
    assert "cmyk(0 9 27 14)" in words
    page.get_by_role("button", name="Make a link and copy it").click()
    link = page.locator(".fresh").inner_text()
    somebody.goto(link)
    expect(somebody.get_by_role("heading", name="Pale kit")).to_be_visible()
    expect(somebody.get_by_text("For the summer.")).to_be_visible()
    expect(somebody.get_by_text("Sand", exact=True).first).to_be_visible()
    with somebody.expect_download() as tokens:
        somebody.get_by_role("link", name="Design tokens").click()
    assert '"Sand"' in Path(tokens.value.path()).read_text()
    page.get_by_role("button", name="revoke").click()
    expect(page.get_by_text("The link works no longer.")).to_be_visible()
    somebody.reload()
    expect(somebody.get_by_text("This link was revoked.")).to_be_visible()


def test_signing_in_and_what_a_reader_sees(somebody: Page) -> None:
    somebody.goto("/people")
    somebody.get_by_label("E-mail address").fill(READER.email)
    somebody.get_by_label("Password").fill("not the one")
    somebody.keyboard.press("Enter")
    expect(somebody.get_by_text("Address and password do not belong together.")).to_be_visible()
    sign_in(somebody, READER)
    expect(somebody.get_by_text("This is for a coordinator")).to_be_visible()
    somebody.goto("/")
    expect(somebody.get_by_role("heading", name="Deck signage")).to_be_visible()
    stage(somebody, "Prove")
    somebody.get_by_role("gridcell", name=re.compile("^Hull on Fog, ")).click()
    expect(somebody.get_by_text("by Jonas Feld")).to_be_visible()
    expect(somebody.get_by_role("button", name="Approve")).to_have_count(0)
    expect(somebody.get_by_role("button", name="Undo")).to_have_count(0)
    somebody.get_by_role("button", name="Signed in as Ada Brook").click()
    somebody.get_by_text("Sign out").click()
    expect(somebody.get_by_role("button", name="Sign in")).to_be_visible()
    somebody.reload()
    expect(somebody.get_by_role("button", name="Sign in")).to_be_visible()


def test_a_reviewer_decides_and_comments(page: Page, somebody: Page) -> None:
    start_kit(page, "Tarnmoor reviewed")
    somebody.goto(page.url.split("/kits/")[0] + "/kits/" + page.url.split("/kits/")[1].split("/")[0] + "/prove")
    sign_in(somebody, REVIEWER)
    somebody.get_by_role("gridcell", name=re.compile("^Hull on Fog, ")).click()
    somebody.get_by_role("button", name="Approve", exact=True).click()
    expect(somebody.get_by_text("approved, body text").first).to_be_visible()
    somebody.get_by_label("Comment", exact=True).fill("Our best pair.")
    somebody.get_by_role("button", name="Send").click()
    expect(somebody.get_by_text("Jonas Feld Our best pair.")).to_be_visible()
    stage(page, "Prove")
    view(page, "editions")
    expect(page.get_by_text("Our best pair.").first).to_be_visible()
    expect(page.get_by_text("Approve Hull on Fog", exact=True)).to_be_visible()


def test_two_coordinators_change_one_color_and_take_both(page: Page, somebody: Page) -> None:
    start_kit(page, "Tarnmoor twice")
    somebody.goto(page.url)
    sign_in(somebody, COORDINATOR)
    # Somebody else, in the same role: what one's own other window did is no surprise and not asked about.
    email = f"{uuid4().hex[:6]}@tarnmoor.example"
    body = {"email": email, "name": "Nell Garrow", "role": "coordinator", "password": "second harbor"}
    made = page.context.request.post("/api/people", data=body)
    assert made.status == 201
    somebody.get_by_role("button", name="Signed in as").click()
    somebody.get_by_text("Sign out").click()
    somebody.get_by_label("E-mail address").fill(email)
    somebody.get_by_label("Password").fill("second harbor")
    somebody.get_by_role("button", name="Sign in").click()
    expect(somebody.get_by_role("heading", name="Ramps")).to_be_visible()
    # Everything is in view before the other one changes it: nothing that is asked for later can bring the change along.
    stage(page, "Prove")
    page.get_by_role("gridcell", name=re.compile("^Pewter on Hull, ")).click()
    take = (
        page.get_by_role("listitem").filter(has_text="the ground by").get_by_role("button", name="instead of the color")
    )
    expect(take).to_be_visible()
    # What is asked for behind a change comes later than a network is called idle.
    page.wait_for_timeout(1_000)
    page.wait_for_load_state("networkidle")
    kit = page.url.split("/kits/")[1].split("/")[0]
    theirs = somebody.context.request.patch(f"/api/kits/{kit}/colors/hull", data={"code": "#1c2f38"})
    assert theirs.ok
    take.click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Nell Garrow changed the same meanwhile: Base of Hull")
    dialog.get_by_role("button", name="Take both").click()
    expect(page.get_by_text("Both are in the kit.")).to_be_visible()
    line = page.get_by_role("region", name="The kit")
    expect(line.get_by_role("button", name="Copy the code of Hull, #1c2f38")).to_be_visible()
    expect(line.get_by_text("Hull, other")).to_be_visible()
    page.context.request.patch(f"/api/people/{made.json()['id']}", data={"active": False})


def test_see_through_states_rules_and_logo_are_kept(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor dressed")
    stage(page, "Prove")
    view(page, "see-through")
    page.get_by_role("button", name="Add a ramp").click()
    expect(page.get_by_text("exact", exact=True)).to_have_count(11)
    handle = page.get_by_role("slider", name="How much chroma is taken at the dark end")
    handle.focus()
    for wanted in ("10", "20", "30"):
        page.keyboard.press("Shift+ArrowDown")
        expect(handle).to_have_attribute("aria-valuenow", wanted)
    page.get_by_text("rgb", exact=True).click()
    code = page.get_by_role("button", name=re.compile(r"^rgb\(")).first
    code.click()
    assert re.fullmatch(r"rgb\(\d+ \d+ \d+ / \d+%\)", page.evaluate("navigator.clipboard.readText()"))
    view(page, "states")
    page.get_by_label("hover").fill("2")
    page.keyboard.press("Tab")
    expect(page.get_by_text("hover Buoy 700")).to_be_visible()
    view(page, "rules")
    page.get_by_label("Accents cover at most").fill("8")
    page.keyboard.press("Tab")
    expect(page.get_by_text("Accents cover at most 8 % of an area.")).to_be_visible()
    stage(page, "Compose")
    page.get_by_role("radiogroup", name="View of the kit").get_by_text("logo", exact=True).click()
    (tmp_path / "logo.svg").write_bytes(logo())
    (tmp_path / "notes.txt").write_text("no logo")
    page.get_by_test_id("logo-file").set_input_files(tmp_path / "notes.txt")
    expect(page.get_by_text("this is no picture that can be read here")).to_be_visible()
    page.get_by_test_id("logo-file").set_input_files(tmp_path / "logo.svg")
    expect(page.get_by_alt_text("Logo for light ground")).to_be_visible()
    page.reload()
    expect(page.get_by_alt_text("Logo for light ground")).to_be_visible()
    page.get_by_role("radiogroup", name="View of the kit").get_by_text("type", exact=True).click()
    page.get_by_label("Typeface for headlines").fill("Pier Antiqua")
    page.keyboard.press("Tab")
    expect(page.get_by_text("Pier Antiqua is not here. Shown in EB Garamond")).to_be_visible()
    page.get_by_label("What the license allows").fill("for 5 desks")
    lora = settings().fonts_dir / "Lora-Regular.ttf"
    page.get_by_test_id("typeface-file").set_input_files(
        {"name": "x.ttf", "mimeType": "", "buffer": lora.read_bytes()[:99]}
    )
    expect(page.get_by_text("this typeface is broken")).to_be_visible()
    page.get_by_test_id("typeface-file").set_input_files(lora)
    own = page.get_by_role("region", name="Your own typefaces")
    expect(own).to_contain_text("serif, for 5 desks")
    page.get_by_role("button", name=re.compile("^Use .* over ")).first.click()
    expect(page.get_by_text("Pier Antiqua is not here")).to_be_hidden()
    stage(page, "Prove")
    view(page, "see-through")
    expect(handle).to_have_attribute("aria-valuenow", "30")


def test_two_hundred_colors_are_moved_through_by_keyboard(page: Page) -> None:
    codes = "\n".join(f"C{i} #{i:02x}{(255 - i):02x}{(i * 7 % 256):02x}" for i in range(200))
    page.goto("/new")
    page.get_by_label("Text with color codes").fill(codes)
    page.get_by_label("Name of the kit").fill("Two hundred")
    started = page.get_by_role("button", name="Start the kit with 200 colors")
    expect(started).to_be_visible()
    rows = page.locator("tbody tr")
    expect(rows).to_have_count(40)
    rows.last.scroll_into_view_if_needed()
    expect(rows).not_to_have_count(40)
    started.click()
    expect(page.get_by_role("heading", name="Ramps")).to_be_visible()
    stage(page, "Prove")
    matrix = page.get_by_role("grid")
    expect(page.get_by_text("39,800 pairs in all")).to_be_visible()
    assert page.get_by_role("gridcell").count() < 600, "only what is in sight is drawn"
    matrix.focus()
    for _ in range(20):
        page.keyboard.press("ArrowRight")
    for _ in range(20):
        page.keyboard.press("ArrowDown")
    chosen = page.locator("[role=gridcell][aria-selected=true]")
    expect(chosen).to_be_in_viewport()
