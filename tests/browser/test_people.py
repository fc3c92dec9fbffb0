"""People, kits and their conflicts through the real interface."""

from __future__ import annotations

import json
import re
from pathlib import Path
from uuid import uuid4

import pytest
from playwright.sync_api import Page, expect

from tests.browser.controls import choose
from tests.browser.test_walk import stage, start_kit

pytestmark = pytest.mark.browser


def enter(page: Page, email: str, password: str) -> None:
    page.get_by_label("E-mail address").fill(email)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()


def test_somebody_is_let_in_given_a_password_and_put_out(page: Page, somebody: Page) -> None:
    # Somebody else at each try.
    name = f"Orla {uuid4().hex[:6]}"
    email = f"{name[5:]}@tarnmoor.example"
    page.goto("/")
    expect(page.get_by_role("heading", name="Deck signage")).to_be_visible()
    page.get_by_role("button", name="Signed in as Maren Quist").click()
    page.get_by_text("People…").click()
    form = page.locator("form", has_text="Let somebody in")
    form.get_by_label("Name").fill(name)
    form.get_by_label("E-mail address").fill(email)
    form.get_by_label("First password").fill("first of all 1")
    choose(form, "Role", "reader")
    form.get_by_role("button", name="Let in").click()
    expect(page.get_by_text(f"{name} may sign in.")).to_be_visible()

    somebody.goto("/")
    enter(somebody, email, "first of all 1")
    somebody.get_by_role("button", name=f"Signed in as {name}, reader").click()
    somebody.get_by_text("Change your password…").click()
    somebody.get_by_label("The one you have").fill("something else")
    somebody.get_by_label("The new one").fill("my own words 2")
    somebody.get_by_role("button", name="Change it").click()
    expect(somebody.get_by_text("This is not the password you have.")).to_be_visible()
    somebody.get_by_label("The one you have").fill("first of all 1")
    somebody.get_by_role("button", name="Change it").click()
    expect(somebody.get_by_text("Your password is another one now")).to_be_visible()

    # A reader may look, and is told when something is not for them.
    stage(somebody, "Compose")
    somebody.get_by_label("Name", exact=True).fill("Mine")
    somebody.keyboard.press("Enter")
    expect(somebody.get_by_text(f"This is for a coordinator; you are signed in as {name}, reader.")).to_be_visible()

    row = page.get_by_role("row").filter(has_text=name)
    with page.expect_response(lambda answer: "/api/people/" in answer.url and answer.ok):
        choose(row, f"Role of {name}", "reviewer")
    somebody.reload()
    expect(somebody.get_by_role("button", name=f"Signed in as {name}, reviewer")).to_be_visible()
    row.get_by_role("button", name="put out").click()
    expect(row).to_contain_text("may not sign in")
    somebody.reload()
    expect(somebody.get_by_role("button", name="Sign in")).to_be_visible()
    enter(somebody, email, "my own words 2")
    expect(somebody.get_by_text("Address and password do not belong together.")).to_be_visible()
    mine = page.get_by_role("row").filter(has_text="Maren Quist")
    mine.get_by_role("button", name="put out").click()
    expect(page.get_by_text("At least one active coordinator has to stay.")).to_be_visible()


def test_kits_come_in_are_copied_and_archived(page: Page, tmp_path: Path) -> None:
    page.goto("/kits")
    expect(page.get_by_role("listitem", name="Tarnmoor Ferries", exact=True)).to_contain_text("opened first")
    tokens = {
        "tide": {"$type": "color", "$value": "#0b5e6b"},
        "glow": {"$type": "color", "$value": {"colorSpace": "display-p3", "components": [1, 0.2, 0.1]}},
        "gap": {"$type": "dimension", "$value": "4px"},
    }
    circle = {"a": {"$type": "color", "$value": "{b}"}, "b": {"$type": "color", "$value": "{a}"}}
    (tmp_path / "circle.json").write_text(json.dumps(circle))
    (tmp_path / "agency.tokens.json").write_text(json.dumps(tokens))
    page.get_by_test_id("files").set_input_files(tmp_path / "circle.json")
    expect(page.get_by_text("these tokens point to each other in a circle: a → b → a.")).to_be_visible()
    page.get_by_test_id("files").set_input_files(tmp_path / "agency.tokens.json")
    notes = page.get_by_role("status").filter(has_text="left out: 1 dimension")
    expect(notes).to_contain_text("outside of sRGB, such as glow")
    row = page.get_by_role("listitem", name="agency", exact=True)
    row.get_by_role("button", name="Copy agency").click()
    copy = page.get_by_role("listitem", name="agency 2", exact=True)
    copy.get_by_role("button", name="Archive agency 2").click()
    expect(copy).to_contain_text("in the archive")
    page.get_by_role("button", name=re.compile("^Kit: ")).click()
    menu = page.get_by_role("group", name="Kits")
    expect(menu.get_by_role("link", name="agency", exact=True)).to_be_visible()
    expect(menu.get_by_role("link", name="agency 2", exact=True)).to_have_count(0)
    menu.get_by_role("link", name="agency", exact=True).click()
    expect(page.get_by_role("region", name="The kit").get_by_text("Tide")).to_be_visible()


@pytest.mark.parametrize(("choice", "left"), [("Use mine", "9"), ("Keep theirs", "7")])
def test_a_conflict_is_decided(page: Page, somebody: Page, choice: str, left: str) -> None:
    start_kit(page, f"Tarnmoor {choice}")
    kit = page.url.split("/kits/")[1].split("/")[0]
    stage(page, "Prove")
    page.get_by_role("radiogroup", name="View of the proof").get_by_text("rules", exact=True).click()
    share = page.get_by_label("Accents cover at most")
    expect(share).to_have_value("15")

    email = f"{choice.split()[-1]}@tarnmoor.example"
    body = {"email": email, "name": "Nell Garrow", "role": "coordinator", "password": "second harbor"}
    made = page.context.request.post("/api/people", data=body)
    somebody.context.request.post("/api/session", data={"email": email, "password": "second harbor"})
    rules = somebody.context.request.get(f"/api/kits/{kit}/rules").json()["rules"]
    theirs = somebody.context.request.put(f"/api/kits/{kit}/rules", data={**rules, "accent_share": 7})
    assert theirs.ok

    share.fill("9")
    page.keyboard.press("Tab")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Nell Garrow changed the same meanwhile: Usage rules, accent share")
    expect(dialog.get_by_role("row").last).to_contain_text("accent share 7 9")
    dialog.get_by_role("button", name=choice).click()
    expect(dialog).to_be_hidden()
    expect(share).to_have_value(left)
    page.reload()
    expect(share).to_have_value(left)
    page.context.request.patch(f"/api/people/{made.json()['id']}", data={"active": False})
