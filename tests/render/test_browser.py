"""The helper that shows pages: one that falls is replaced, and it goes with the process that started it."""

from __future__ import annotations

import subprocess
import sys
import time
from contextlib import suppress

import psutil
import pytest

from pavese.render import browser
from pavese.render.browser import Asked, show

PAGE = b"<style>p{color:#fedcba}</style><body style='background:#123456'><p>x</p>"
LOOKS = b"<style>@media(prefers-color-scheme:dark){p{color:#111}}@media(max-width:400px){p{color:#222}}</style>"


def helpers(process: psutil.Process) -> list[psutil.Process]:
    return [one for one in process.children() if "pavese.render.browser" in " ".join(one.cmdline())]


@pytest.mark.parametrize(
    ("width", "dark", "ink"),
    [(900, False, "rgb(254, 220, 186)"), (900, True, "rgb(17, 17, 17)"), (375, False, "rgb(34, 34, 34)")],
)
def test_a_page_is_shown_in_its_width_and_scheme(width: int, dark: bool, ink: str) -> None:
    [text] = show(Asked(PAGE + LOOKS, width, dark, texts=True)).texts
    assert (text["ink"], text["grounds"]) == (ink, ["rgb(18, 52, 86)"])


def test_when_the_helper_falls_it_is_told_and_the_next_page_is_shown() -> None:
    assert show(Asked(PAGE, 300, dark=False, picture=True)).png
    for one in helpers(psutil.Process()):
        browser.end([*one.children(recursive=True), one])
    with pytest.raises(ValueError, match="gave up"):
        show(Asked(PAGE, 300, dark=False, picture=True))
    assert show(Asked(PAGE, 300, dark=False, picture=True)).png


def test_a_page_that_leads_elsewhere_at_once_leaves_the_next_one_alone() -> None:
    away = b'<meta http-equiv="refresh" content="0;url=about:srcdoc">' + PAGE
    with suppress(ValueError):
        show(Asked(away, 300, dark=False, picture=True, texts=True))
    assert [one["text"] for one in show(Asked(PAGE, 300, dark=False, texts=True)).texts] == ["x"]


def test_the_helper_and_the_engine_go_with_the_process_that_asked() -> None:
    script = "from pavese.render.browser import Asked, show; show(Asked(b'<p>x', 300, False, texts=True)); input()"
    asking = subprocess.Popen([sys.executable, "-c", script], stdin=subprocess.PIPE)
    process = psutil.Process(asking.pid)
    below: list[psutil.Process] = []
    for _ in range(300):
        below = process.children(recursive=True)
        if any("chromium" in one.name() for one in below):
            break
        time.sleep(0.1)
    assert any("chromium" in one.name() for one in below)
    asking.kill()
    asking.wait()
    _, left = psutil.wait_procs(below, timeout=15)
    assert not left
