"""A drop at the screen: found again after a reload, sent again after a lost connection."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page, Route, expect

from pavese.demo.icons import icon_files
from tests.browser.test_walk import stage, start_kit, write


def test_a_drop_outlives_the_page_and_goes_on_where_it_was(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor of drops")
    stage(page, "Apply")
    files = write(tmp_path, dict(list(icon_files().items())[:6]))
    page.get_by_test_id("files").set_input_files(files[:1])
    expect(page.get_by_role("button", name="look closer")).to_have_count(1)
    set_id = page.url.rpartition("/")[2]
    # Another page began a drop of three, sent one file of them, and was closed.
    begun = page.request.post(f"/api/sets/{set_id}/drops", data={"files": 3}).json()
    sent = {"name": files[1].name, "mimeType": "image/svg+xml", "buffer": files[1].read_bytes()}
    page.request.post(f"/api/drops/{begun['id']}/files", multipart={"files": sent})
    page.reload()
    note = page.locator(".drop")
    expect(note).to_contain_text("1 of 3 files have arrived")
    expect(page.get_by_role("button", name="look closer")).to_have_count(2)
    expect(page.locator(".paints")).to_contain_text("planned once all of them are here")
    # The same files again: what is there already is not taken twice.
    page.get_by_test_id("files").set_input_files(files[1:4])
    expect(page.get_by_role("button", name="look closer")).to_have_count(4)
    expect(note).to_have_count(0)
    expect(page.locator(".paints")).not_to_contain_text("planned once")
    # What is of another channel goes to a set of that one, in one press.
    page.get_by_test_id("files").set_input_files(write(tmp_path, {"noon.html": b"<!doctype html><p>At noon</p>"}))
    expect(note).to_contain_text("0 taken, 1 refused")
    page.reload()
    page.get_by_role("button", name="Bring 1 to a new set of email").click()
    expect(page.get_by_role("heading", name="Set 1, email")).to_be_visible()
    expect(page.get_by_role("button", name="look closer")).to_have_count(1)


def test_what_did_not_get_through_is_sent_again(page: Page, tmp_path: Path) -> None:
    start_kit(page, "Tarnmoor of storms")
    stage(page, "Apply")
    failed: list[str] = []

    def storm(route: Route) -> None:
        if len(failed) < 2:
            failed.append(route.request.url)
            route.abort("connectionreset")
        else:
            route.fallback()

    page.route("**/api/drops/*/files", storm)
    page.get_by_test_id("files").set_input_files(write(tmp_path, dict(list(icon_files().items())[:3])))
    expect(page.locator(".drop")).to_contain_text("Trying again")
    expect(page.get_by_role("button", name="look closer")).to_have_count(3)
    assert len(failed) == 2
