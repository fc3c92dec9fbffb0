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
_SCROLL = """async (frames) => {
  const box = document.querySelector('.work .scrolls')
  const frame = () => new Promise(requestAnimationFrame)
  const times = []
  let before = await frame()
  for (let n = 0; n < frames; n++) {
    box.scrollTop += 90
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
        times = sorted(page.evaluate(_SCROLL, 240))
        figure("scrolling through 2,000, 19 of 20 frames within", times[int(len(times) * 0.95)], 25, "ms")
        browser.close()
