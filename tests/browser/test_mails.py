"""Mails through the real interface: dropped, seen as whole results, worked by one ground and one ink, handed over."""

from __future__ import annotations

import re
import zipfile
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from pavese.demo.mail import LOGO, mail_files, mail_logo
from tests.browser.test_walk import paint, stage, start_kit, write


def test_from_dropped_mails_to_a_package_in_one_ground_and_one_ink(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor by mail")
    stage(page, "Apply")
    expect(page.locator("main")).to_contain_text("mails in HTML")
    (tmp_path / "images").mkdir()
    dropped = write(tmp_path, {**mail_files(), LOGO: mail_logo()})
    packed = tmp_path / "mails.zip"
    with zipfile.ZipFile(packed, "w") as archive:
        for path in dropped:
            archive.write(path, Path(path).relative_to(tmp_path))
    page.get_by_test_id("files").set_input_files(str(packed))
    # Whole results stand side by side by themselves, and one press takes one.
    plans = page.get_by_role("dialog", name="Other plans")
    quiet = plans.get_by_role("listitem", name=re.compile("^one ground, one ink")).first
    expect(quiet).to_contain_text("every text reads as well as before")
    quiet.get_by_role("button", name="Take this plan").click()
    expect(plans).to_be_hidden()
    plan = page.get_by_role("region", name="Plan")
    expect(plan.get_by_label("Ground and ink of all")).to_have_count(1)
    expect(plan.get_by_role("status").first).to_contain_text(re.compile(r"^(\d+) of (\d+) kinds of text read"))
    # Buttons in another manner, from the keyboard.
    buttons = plan.get_by_label("Buttons")
    buttons.focus()
    page.keyboard.press("Enter")
    page.get_by_role("option", name=re.compile("tone on tone")).click()
    expect(page.get_by_role("contentinfo")).to_contain_text("tone on tone")
    # Seen as its readers do.
    page.get_by_role("button", name="delay.html: look closer").click()
    look = page.get_by_role("dialog", name="delay.html")
    expect(look.get_by_alt_text("delay.html after on a phone")).to_be_visible()
    wide = look.get_by_alt_text("delay.html after", exact=True)
    by_day = wide.get_attribute("src") or ""
    look.get_by_text("in dark mode").click()
    expect(wide).not_to_have_attribute("src", by_day)
    expect(look.get_by_label("Texts on their grounds")).to_contain_text("15:10")
    look.get_by_role("button", name="Close").click()
    stage(page, "Hand over")
    with page.expect_download() as started:
        page.get_by_role("link", name="Download the package").click()
    with zipfile.ZipFile(started.value.path()) as handed:
        # The picture beside them goes by their plan.
        assert handed.read(LOGO).startswith(b"\x89PNG")
        assert handed.read(LOGO) != mail_logo()
        reply = handed.read("reply.html")
        departures = handed.read("departures.html")
    assert reply.startswith(b"<body link=")
    assert reply.count(b"{{ guest.first_name }}") == 1
    assert departures.count(b"<!--[if mso]>") == mail_files()["departures.html"].count(b"<!--[if mso]>")
    assert b"#F5C469" not in departures
    # Where nothing came, nothing opens over the reason.
    stage(page, "Apply")
    for _ in range(2):
        page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_role("button", name="Undo", exact=True)).to_be_disabled()
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"words.html": b"no tag at all"}))
    expect(page.locator("main")).to_contain_text("there is no tag in it")
    expect(plans).to_be_hidden()


def pick(page: Page, field: Locator, option: str) -> None:
    """Chooses one of several from the keyboard."""
    field.focus()
    page.keyboard.press("Enter")
    page.get_by_role("option", name=re.compile(option)).first.click()


def test_parts_the_dark_and_pictures_of_mails_go_their_own_way(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor in parts")
    stage(page, "Apply")
    packed = tmp_path / "mails.zip"
    with zipfile.ZipFile(packed, "w") as archive:
        for name, data in {**mail_files(), LOGO: mail_logo()}.items():
            archive.writestr(name, data)
    page.get_by_test_id("files").set_input_files(str(packed))
    plans = page.get_by_role("dialog", name="Other plans")
    plans.get_by_role("listitem", name=re.compile("^one ground, one ink")).first.get_by_role("button").click()
    expect(plans).to_be_hidden()
    plan = page.get_by_role("region", name="Plan")
    expect(plan.get_by_label("Ground and ink of all")).to_have_count(1)
    plan.locator("summary").click()
    status = page.get_by_role("contentinfo")
    pick(page, plan.get_by_label("Footers", exact=True), " on ")
    expect(status).to_contain_text("Footers in")
    pick(page, plan.get_by_label("In the dark", exact=True), " on ")
    expect(status).to_contain_text("In the dark in")
    expect(plan.locator("summary")).to_have_text(re.compile("Footers: .+; In the dark: .+"))
    # A picture goes along with the ground; where it keeps its colors its box shows, with what can be made of it.
    plan.get_by_text("1 picture inside: 1 by the plan").click()
    boxes = plan.get_by_label("Pictures inside")
    expect(boxes.get_by_alt_text("logo.png")).to_be_visible()
    expect(boxes).to_contain_text("is that of what is below it. Its colors go by the plan.")
    boxes.get_by_role("button", name="keep its colors").click()
    expect(boxes).to_contain_text("It keeps its colors.")
    expect(status).to_contain_text("logo.png keeps its colors")
    expect(plan).to_contain_text("1 in a box that shows")
    boxes.get_by_role("button", name="clear its ground").click()
    expect(boxes).to_contain_text("is clear")
    boxes.get_by_role("button", name="keep its colors").click()
    expect(boxes).to_contain_text("Its colors go by the plan.")
    expect(plan).to_contain_text("1 picture inside: 1 by the plan")
    # One mail keeps its footer as it came; a code shows a value.
    page.get_by_role("button", name="departures.html: look closer").click()
    look = page.get_by_role("dialog", name="departures.html")
    look.get_by_role("button", name=re.compile("^Footer")).click()
    pick(page, look.get_by_label("Ground and ink of this part"), "kept as it came")
    expect(status).to_contain_text("Footers of departures.html kept as it came")
    look.get_by_label("Paints of the file").get_by_text("#22303a").click()
    expect(look.get_by_label("Where it stands in the source")).to_contain_text("of td")
    look.get_by_role("button", name="Close").click()
    page.get_by_role("button", name="ticket.html: look closer").click()
    look = page.get_by_role("dialog", name="ticket.html")
    look.get_by_text("Sample values").click()
    look.get_by_label("Sample for name").fill("Ines")
    look.get_by_label("Sample for name").press("Tab")
    expect(status).to_contain_text("Sample values for 1 code")
    pick(page, look.get_by_label("Shown of count > 1"), "otherwise")
    expect(status).to_contain_text("Sample values for 1 code and 1 branch")
    look.get_by_role("button", name="Close").click()
    stage(page, "Hand over")
    with page.expect_download() as started:
        page.get_by_role("link", name="Download the package").click()
    with zipfile.ZipFile(started.value.path()) as handed:
        departures, reply, logo = (handed.read(name) for name in ("departures.html", "reply.html", LOGO))
        ticket = handed.read("ticket.html")
        assert b"Ines" not in ticket
        assert b"{% if count > 1 %}places{% else %}place{% endif %}" in ticket
    assert b"#22303A" in departures.upper()
    assert b"prefers-color-scheme: dark" in reply
    assert logo != mail_logo()


TWO_CARDS = b"""<body style="margin:0"><style>.card{background:#0b6e4f;color:#fff;height:120px}</style>
<div class=card>The first card</div><div style="height:40px"></div><div class=card>The second card</div></body>"""


def test_mails_in_which_a_text_reads_less_well_stand_by_themselves_in_one_press(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor unread")
    stage(page, "Apply")
    gate = b'<html><body style="background:#fdf6e3"><p style="color:#5b1f4a">Gate 4 is open</p></body></html>'
    plain = gate.replace(b"#5b1f4a", b"#1b1f3a")
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"gate.html": gate, "plain.html": plain}))
    page.get_by_role("dialog", name="Other plans").get_by_role("button", name="Close").click()
    plan = page.get_by_role("region", name="Plan")
    expect(plan.get_by_text("2 of 2 kinds of text read.")).to_be_visible()
    # Of the color that it has, the palest step.
    paint(page, "#5b1f4a").click()
    page.get_by_role("group", name=re.compile("^Steps of")).get_by_role("button").first.click()
    plan.get_by_role("button", name="1 read less well than before").click()
    tiles = page.get_by_role("button", name="look closer")
    expect(tiles).to_have_count(1)
    expect(tiles).to_have_accessible_name("gate.html: look closer")


def test_one_element_of_a_mail_goes_its_own_way(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor alone")
    stage(page, "Apply")
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"cards.html": TWO_CARDS}))
    page.get_by_role("dialog", name="Other plans").get_by_role("button", name="Close").click()
    page.get_by_role("button", name="cards.html: look closer").click()
    look = page.get_by_role("dialog", name="cards.html")
    shown = look.get_by_alt_text("cards.html after", exact=True)
    expect(shown).to_have_js_property("complete", True)
    width = shown.bounding_box()
    assert width is not None
    scale = width["width"] / 900
    # The ground of the second card: what is chosen counts for it alone.
    shown.click(position={"x": 600 * scale, "y": 220 * scale})
    look.get_by_role("button", name=re.compile("^choose for this one alone .div “The second card”")).click()
    expect(look.get_by_text("counts for div “The second card” in this file only")).to_be_visible()
    paints = look.get_by_role("list", name="Paints of the file")
    expect(paints.get_by_role("listitem")).to_have_count(1)
    paints.get_by_role("button", name="Keep as it is").click()
    expect(paints).to_contain_text("one element of #0b6e4f")
    # Seen without it, both are there: the paint of the file, and the element that goes its own way.
    look.get_by_role("button", name="chosen for this one alone").click()
    expect(paints).to_contain_text("one element of #0b6e4f")
    assert paints.get_by_role("listitem").count() > 1
    with page.expect_download() as started:
        look.get_by_role("link", name="Download recolored").click()
    written = started.value.path().read_text()
    first, second = re.findall(r"<div[^>]*class=card[^>]*>", written)
    assert first == "<div class=card>"
    assert "background-color:#0b6e4f" in second
    assert ".card{background:#0b6e4f" not in written


def test_a_page_among_drawings_is_told_and_left_out(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor mixed")
    stage(page, "Apply")
    square = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path fill="#e53935" d="M0 0h9v9z"/></svg>'
    dropped = write(tmp_path, {"a.svg": square, "b.svg": square, "demo.html": mail_files()["reply.html"]})
    page.get_by_test_id("files").set_input_files(dropped)
    expect(page.locator("main")).to_contain_text("taken in sets of the channel email")
    expect(page.get_by_role("button", name="a.svg: look closer")).to_be_visible()
