"""The application's own controls, worked as a person works them."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page


def choose(scope: Page | Locator, label: str, option: str) -> None:
    """Opens the field of that label and presses the first that it offers whose words begin so."""
    # What is pressed is the field around the element of that label.
    field = scope.get_by_label(label, exact=True)
    field.click(force=True)
    if picked(scope, label).and_(scope.locator(".v-autocomplete")).count():
        field.fill(option)
    page = scope if isinstance(scope, Page) else scope.page
    page.get_by_role("option", name=re.compile(f"^{re.escape(option)}")).first.click()


def picked(scope: Page | Locator, label: str) -> Locator:
    """The field of that label, with the words of what is chosen."""
    return scope.locator(".pick", has=scope.get_by_label(label, exact=True))
