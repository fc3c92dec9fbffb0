"""What is felt at the screen, measured in the browser itself: pointing at a paint, and going through a large set."""

from __future__ import annotations

import statistics

from playwright.sync_api import sync_playwright

from figures import figure
from pavese.demo.people import COORDINATOR

_POINT = """async (at) => {
  const row = document.querySelectorAll('button.paint')[at].closest('li')
  const frame = () => new Promise(requestAnimationFrame)
  const started = performance.now()
  row.dispatchEvent(new MouseEvent('mousemove'))
  do await frame(); while (!document.querySelector('.lit'))
  await frame()
  const taken = performance.now() - started
  const lit = document.querySelectorAll('.lit').length
  row.parentElement.dispatchEvent(new MouseEvent('mouseleave'))
  await frame()
  return [taken, lit]
}"""
_CHOOSE = """async (at) => {
  const frame = () => new Promise(requestAnimationFrame)
  const row = document.querySelectorAll('button.paint')[at]
  row.click()
  await frame(); await frame()
  const step = document.querySelector('.ramp button[aria-pressed="false"]')
  const started = performance.now()
  step.click()
  do await frame(); while (!document.querySelector('.laid'))
  const seen = [performance.now() - started, document.querySelectorAll('.laid').length]
  while (document.querySelector('.laid')) await frame()
  const drawn = performance.now() - started
  row.click()
  return [...seen, drawn]
}"""
#: So far a grid is scrolled in each frame: as one flies over it, and as one looks for something.
_FLYING, _LOOKING = 90, 15
_SCROLL = """async ([frames, by]) => {
  const box = document.querySelector('.work .scrolls')
  const frame = () => new Promise(requestAnimationFrame)
  const times = []
  box.scrollTop = 0
  await frame()
  let before = await frame()
  for (let n = 0; n < frames; n++) {
    box.scrollTop += by
    const now = await frame()
    times.push(now - before)
    before = now
  }
  return times
}"""


def at_the_screen(address: str, kit: str, set_id: str) -> None:
    """Opens a set that has its pictures, at 1280x800, and prints what is felt."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
        context.request.post("/api/session", data=COORDINATOR.sign_in)
        page = context.new_page()
        page.goto(f"/kits/{kit}/apply/{set_id}")
        page.locator(".main img").nth(20).wait_for(timeout=60_000)
        page.wait_for_load_state("networkidle", timeout=60_000)
        # The masks come behind the pictures.
        page.wait_for_timeout(3_000)
        points = [page.evaluate(_POINT, at) for at in range(6)]
        seen = max(lit for _, lit in points)
        figure(
            f"pointing at a paint marks it in {seen} pictures in view",
            statistics.median(t for t, _ in points),
            100,
            "ms",
        )
        chosen = []
        for at in range(5):
            chosen.append(page.evaluate(_CHOOSE, at))
            page.wait_for_timeout(1_500)
        count = max(laid for _, laid, _ in chosen)
        seen_after, drawn_after = (statistics.median(one[at] for one in chosen) for at in (0, 2))
        figure(f"a chosen step is seen in {count} pictures in view", seen_after, 100, "ms")
        figure("the same, of a set of 2,000, until they are drawn with it", drawn_after / 1000, 0.35, "s")
        for how, by in (
            ("while its pictures come", _FLYING),
            ("that has its pictures", _FLYING),
            ("looking for something", _LOOKING),
        ):
            times = sorted(page.evaluate(_SCROLL, [240, by]))
            within = times[int(len(times) * 0.95)]
            figure(f"scrolling a grid of 2,000 {how}, 19 of 20 frames", within, 33, "ms")
            page.wait_for_load_state("networkidle", timeout=60_000)
        browser.close()
