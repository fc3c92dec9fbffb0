"""Pages of HTML as Chromium shows them, script off and nothing fetched.

The engine gives no page within a bound on its address space, which the children of `pool` have. So each child has a
helper of its own beside it, started before its bounds are set: a small process that does nothing until it is asked,
starts the engine then, keeps it while it is asked again, and goes when its child goes. What the engine holds is
watched.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from collections.abc import Mapping, Sequence
from contextlib import suppress
from multiprocessing import Pipe
from multiprocessing.connection import Connection
from pathlib import Path
from queue import Empty, SimpleQueue
from threading import Event, Thread
from typing import Any, NamedTuple

import psutil

#: Chromium without windows starts in a third of the time and holds half of what the whole one does; where Debian's
#: package of it is not there, the whole one shows the same.
_WITHOUT_WINDOWS, _WHOLE = Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium")
CHROMIUM = str(_WITHOUT_WINDOWS if _WITHOUT_WINDOWS.exists() else _WHOLE)
ARGUMENTS = (
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    # One picture and its numbers on every machine.
    "--force-color-profile=srgb",
    "--font-render-hinting=none",
    "--hide-scrollbars",
)
#: What the engine's processes may hold together, in megabytes, and how often that is looked at.
MEGABYTES = 1_200
_LOOK_SECONDS = 0.1
#: How long the engine is kept when nobody asks, and what one page may take, in seconds.
_IDLE, _PAGE_SECONDS = 300.0, 6.0
#: How long after its start the helper gets ready for the first.
_AT_LEISURE = 3.0
#: Pages higher than this are shown as far as that.
TALLEST = 6_000
_MOST_NODES, _MOST_TEXTS = 20_000, 400
_BLANK = "about:blank"
#: How often one page is used, how high it is, and how it shows what it is usually given.
_MOST_USED, _HIGH, _USUAL = 400, 800, (900, False)
_SCHEME = {False: "light", True: "dark"}

#: The grounds behind an element from the nearest on ('mixed': a picture or a gradient; null: a picture that is not
#: there): `groundsOf`.
_GROUNDS = """
  const clear = color => color === 'transparent' || /^rgba\\(.*,\\s*0\\)$/.test(color)
  // Of an element of a line nothing is painted behind the blocks in it; of one without a box nothing at all.
  const behind = [new Map(), new Map()]
  const groundsOf = (element, fromBlock) => {
    const known = behind[Number(fromBlock)]
    if (known.has(element)) return known.get(element)
    const style = getComputedStyle(element)
    const inLine = style.display === 'inline'
    const outer = element.parentElement ? groundsOf(element.parentElement, fromBlock || !inLine) : []
    let grounds = outer
    if (style.display !== 'contents' && !(inLine && fromBlock)) {
      const image = style.backgroundImage
      if (image !== 'none') grounds = [/^(?!.*url\\("(?!data:))/.test(image.slice(0, 400)) ? 'mixed' : null, ...outer]
      else if (!clear(style.backgroundColor)) grounds = [style.backgroundColor, ...outer].slice(0, 8)
    }
    known.set(element, grounds)
    return grounds
  }
"""
#: The texts of a page that are meant to be read, with the nodes and elements that they are of: `textsOf`.
_WORDS = """
  const textsOf = function* (most) {
    const walker = document.createTreeWalker(document.body || document.documentElement, NodeFilter.SHOW_TEXT)
    let node
    for (let seen = 0; seen < most && (node = walker.nextNode()); seen++) {
      const element = node.parentElement
      const text = node.data.replace(/\\s+/g, ' ').trim()
      if (text && element && !/^(SCRIPT|STYLE|NOSCRIPT|TITLE|TEXTAREA)$/.test(element.tagName)) {
        yield [node, element, text]
      }
    }
  }
"""
#: Every text that is seen, once for each manner in which it is painted: its ink, the grounds behind it from the nearest
#: on, its size, weight, veil and box. What the engine computes
#: is only collected here.
_TEXTS = (
    """
([mostNodes, mostTexts]) => {
  const found = new Map()
"""
    + _GROUNDS
    + _WORDS
    + """
  const veilOf = element => {
    let veil = 1
    for (let at = element; at; at = at.parentElement) veil *= Number(getComputedStyle(at).opacity)
    return veil
  }
  for (const [node, element, text] of textsOf(mostNodes)) {
    if (found.size >= mostTexts) break
    const style = getComputedStyle(element)
    const size = parseFloat(style.fontSize)
    const ink = style.webkitTextFillColor || style.color
    if (style.visibility === 'hidden' || size < 2 || clear(ink)) continue
    const range = document.createRange()
    range.selectNodeContents(node)
    const box = range.getBoundingClientRect()
    // Text for the list of mails is often there and not seen: no room, or no height.
    if (box.width < 1 || box.height < 1) continue
    let hidden = false
    for (let at = element; at && !hidden; at = at.parentElement) {
      const own = getComputedStyle(at)
      const room = own.overflowX === 'visible' ? null : at.getBoundingClientRect()
      hidden = (room && (room.width < 1 || room.height < 1)) || Number(own.opacity) < 0.05
    }
    if (hidden) continue
    const grounds = groundsOf(element, false)
    const bold = Number(style.fontWeight) >= 700
    const key = [ink, grounds.join(), size, bold].join('|')
    if (found.has(key)) continue
    found.set(key, {
      text: text.slice(0, 60), ink, grounds, size, bold, veil: veilOf(element),
      box: [box.x + scrollX, box.y + scrollY, box.width, box.height],
    })
  }
  return [...found.values()]
}
"""
)
#: Gives one element of each manner of naming faces the attribute by which it is asked for, and the first name of each.
_FACES = (
    """
([mostNodes, most]) => {
  const found = new Map()
"""
    + _WORDS
    + """
  for (const [, element] of textsOf(mostNodes)) {
    if (found.size >= most) break
    const named = getComputedStyle(element).fontFamily
    if (found.has(named)) continue
    element.setAttribute('data-face', String(found.size))
    const first = named.match(/^\\s*(?:"([^"]*)"|([^,]+))/)
    found.set(named, first ? (first[1] || first[2]).trim() : named)
  }
  return [...found.values()]
}
"""
)
#: Manners that are asked for, and texts that are gone through for them.
_MOST_FACES, _MOST_TOLD = 8, 4_000
#: The computed inks, grounds and lines at a place of the page (in its pixels), from the uppermost element outwards.
_UNDER = """
([x, y]) => {
  scrollTo(0, Math.max(y - innerHeight / 2, 0))
  const found = []
  for (let at = document.elementFromPoint(x - scrollX, y - scrollY); at && found.length < 40; at = at.parentElement) {
    const style = getComputedStyle(at)
    const sides = ['Top', 'Right', 'Bottom', 'Left'].map(side => style[`border${side}Color`])
    found.push(style.webkitTextFillColor || style.color, style.backgroundColor, style.color, ...sides)
  }
  scrollTo(0, 0)
  return found
}
"""
#: What each picture that bears a number stands on, and how large it is shown.
_PICTURES = (
    """
(bears) => {
"""
    + _GROUNDS
    + """
  return [...document.querySelectorAll(`[${bears}]`)].map(picture => {
    const box = picture.getBoundingClientRect()
    const grounds = groundsOf(picture, false)
    return { number: Number(picture.getAttribute(bears)), grounds, width: box.width, height: box.height }
  }).filter(one => one.width >= 2 && one.height >= 2)
}
"""
)


class Asked(NamedTuple):
    """A page (HTML), how wide it is shown, in which scheme, and what is wanted of it: its picture, or that of a part of
    it (by a selector), its texts, its pictures (by the attribute that bears their numbers), the colors under a place
    (as parts of its picture's width and height), and the faces that it names with those that it is set in."""

    html: bytes
    width: int
    dark: bool
    picture: bool = False
    texts: bool = False
    part: str = ""
    pictures: str = ""
    under: tuple[float, float] | None = None
    faces: bool = False


class Shown(NamedTuple):
    """A page as it was shown: its picture as PNG, and its texts and pictures, and the colors `under` a place, from the
    uppermost on, as the engine computes them; `problem` says why there is nothing."""

    png: bytes = b""
    texts: Sequence[Mapping[str, Any]] = ()
    pictures: Sequence[Mapping[str, Any]] = ()
    problem: str = ""
    under: Sequence[str] = ()
    faces: Sequence[tuple[str, str]] = ()


_helper: list[Connection] = []


def start() -> None:
    """Starts the helper of this process; before its bounds are set."""
    ours, theirs = Pipe()
    with theirs:
        subprocess.Popen(
            [sys.executable, "-m", __name__, str(theirs.fileno())],
            pass_fds=[theirs.fileno()],
            start_new_session=True,
        )
    _helper[:] = [ours]


def show(asked: Asked) -> Shown:
    """A page as it is shown. Raises ValueError with the reason when it cannot be."""
    if not _helper:
        start()
    try:
        _helper[0].send(asked)
        shown: Shown = _helper[0].recv()
    except (EOFError, OSError):
        _helper.clear()
        raise ValueError("the browser engine gave up on it") from None
    if shown.problem:
        raise ValueError(shown.problem)
    return shown


def warm() -> None:
    """Has the engine of this process started, without waiting for it: a page is about to come."""
    if not _helper:
        start()
    try:
        _helper[0].send(None)
    except OSError:
        _helper.clear()


class Watch:
    """Ends the processes below this one when they hold more than so many megabytes together."""

    def __init__(self, megabytes: int) -> None:
        self.exceeded = False
        self._most = megabytes * 1024 * 1024
        self._over = Event()
        self._thread = Thread(target=self._look, daemon=True)

    def __enter__(self) -> Watch:
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._over.set()
        self._thread.join()

    def _look(self) -> None:
        while not self._over.wait(_LOOK_SECONDS):
            below = psutil.Process().children(recursive=True)
            if sum(map(_held, below)) > self._most:
                self.exceeded = True
                end(below)
                return


def end(processes: Sequence[psutil.Process]) -> None:
    """Ends processes at once."""
    for process in processes:
        with suppress(psutil.Error):
            process.kill()


def _held(process: psutil.Process) -> int:
    """What a process holds by itself: what it shares with others would count for each of them."""
    try:
        memory = process.memory_info()
        return int(memory.rss - memory.shared)
    except psutil.Error:
        return 0


def _around(boxes: Sequence[Mapping[str, float]]) -> dict[str, float]:
    """What holds all of some boxes, as high as a picture may be."""
    x, y = (min(one[side] for one in boxes) for side in ("x", "y"))
    width = max(one["x"] + one["width"] for one in boxes) - x
    height = max(one["y"] + one["height"] for one in boxes) - y
    return {"x": x, "y": y, "width": width, "height": min(height, TALLEST)}


def _faces(page: Any) -> list[tuple[str, str]]:
    """The face that is named first in each manner, and that in which most of an element in it is set."""
    named = page.evaluate(_FACES, [_MOST_TOLD, _MOST_FACES])
    engine = page.context.new_cdp_session(page)
    try:
        engine.send("DOM.enable")
        engine.send("CSS.enable")
        root = engine.send("DOM.getDocument", {"depth": 0})["root"]["nodeId"]
        found: list[tuple[str, str]] = []
        for number, name in enumerate(named):
            node = engine.send("DOM.querySelector", {"nodeId": root, "selector": f'[data-face="{number}"]'})["nodeId"]
            fonts = engine.send("CSS.getPlatformFontsForNode", {"nodeId": node})["fonts"] if node else ()
            if fonts:
                found.append((name, max(fonts, key=lambda one: one["glyphCount"])["familyName"]))
    finally:
        engine.detach()
    return list(dict.fromkeys(found))


def first_line(error: Exception) -> str:
    """What an error of the engine says, in short."""
    return str(error).splitlines()[0][:160]


class _Engine:
    """Chromium, started when it is first needed and again after it fell."""

    def __init__(self) -> None:
        self._playwright: Any = None
        self._browser: Any = None
        #: The page that is kept open, how it shows what it is given, and how often it was used.
        self._page: Any = None
        self._shows: tuple[int, bool] = (0, False)
        self._used = 0

    def show(self, asked: Asked) -> Shown:
        from playwright.sync_api import Error

        with Watch(MEGABYTES) as watch:
            try:
                return self._shown(asked)
            except ValueError as error:
                return Shown(problem=str(error))
            except Error as error:
                self.close()
                if watch.exceeded:
                    return Shown(problem=f"showing it needs more than {MEGABYTES:,} MB")
                return Shown(problem=f"the browser engine cannot show it: {first_line(error)}")

    def _shown(self, asked: Asked) -> Shown:
        page = self._opened(asked.width, asked.dark)
        page.set_content(asked.html.decode("utf-8-sig"), wait_until="load")
        texts = page.evaluate(_TEXTS, [_MOST_NODES, _MOST_TEXTS]) if asked.texts else ()
        pictures = page.evaluate(_PICTURES, asked.pictures) if asked.pictures else ()
        faces = _faces(page) if asked.faces else ()
        png, under = b"", ()
        tall = int(page.evaluate("document.documentElement.scrollHeight")) if asked.picture or asked.under else 0
        if asked.under is not None:
            across, down = asked.under
            under = page.evaluate(_UNDER, [across * asked.width, down * min(max(tall, 1), TALLEST)])
        if asked.picture:
            clip = {"x": 0.0, "y": 0.0, "width": float(asked.width), "height": float(min(max(tall, 1), TALLEST))}
            found = (one.bounding_box() for one in page.locator(asked.part).all()) if asked.part else ()
            if boxes := [one for one in found if one is not None and min(one["width"], one["height"]) >= 1]:
                clip = _around(boxes)
            png = page.screenshot(full_page=True, animations="disabled", clip=clip)
        if page.url != _BLANK:
            # It wanted to lead elsewhere; that is not there, and what is shown now is not what was asked.
            self._leave()
            raise ValueError("it leads to another page at once")
        return Shown(png, texts, pictures, under=under, faces=faces)

    def _opened(self, width: int, dark: bool) -> Any:
        """A page of that width in that scheme. One is kept for all: to open another takes longer than to show most
        mails. Without script, and with nothing fetched, nothing stays of one mail for the next."""
        if self._page is not None and (self._used >= _MOST_USED or self._page.url != _BLANK):
            self._leave()
        if self._page is None:
            context = self._started().new_context(
                java_script_enabled=False,
                viewport={"width": width, "height": _HIGH},
                color_scheme=_SCHEME[dark],
                service_workers="block",
                accept_downloads=False,
                reduced_motion="reduce",
                offline=True,
            )
            context.set_default_timeout(_PAGE_SECONDS * 1000)
            context.route("**/*", lambda route: route.abort())
            self._page, self._used = context.new_page(), 0
        elif self._shows != (width, dark):
            # What was shown last is not laid out anew for it.
            self._page.set_content("")
            self._page.set_viewport_size({"width": width, "height": _HIGH})
            self._page.emulate_media(color_scheme=_SCHEME[dark])
        self._shows = width, dark
        self._used += 1
        return self._page

    def _leave(self) -> None:
        page, self._page = self._page, None
        page.context.close()

    def _started(self) -> Any:
        from playwright.sync_api import sync_playwright

        if self._browser is None:
            self._playwright = sync_playwright().start()
            self._browser = self._playwright.chromium.launch(executable_path=CHROMIUM, args=list(ARGUMENTS))
        return self._browser

    def warm(self) -> None:
        """Starts it, if it is not there; what keeps it from that is told to whoever asks for a page."""
        with suppress(Exception):
            self._opened(*_USUAL)

    def close(self) -> None:
        """Lets the engine go."""
        browser, playwright, self._browser, self._playwright = self._browser, self._playwright, None, None
        self._page = None
        for one in (browser and browser.close, playwright and playwright.stop):
            if one:
                with suppress(Exception):
                    one()
        end(psutil.Process().children(recursive=True))


def _asking(channel: Connection, to: SimpleQueue[Asked | None]) -> None:
    """Hands on what is asked; when whoever asks is gone, so is this process, whatever it does just then."""
    with suppress(EOFError, OSError):
        while True:
            to.put(channel.recv())
    end(psutil.Process().children(recursive=True))
    os._exit(0)


def serve(channel: Connection) -> None:
    """Answers until nobody can ask any more."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    questions: SimpleQueue[Asked | None] = SimpleQueue()
    Thread(target=_asking, args=(channel, questions), daemon=True).start()
    engine = _Engine()
    with suppress(Empty):
        # Once all has started and nobody asks yet, half of what the first mail would wait for is done.
        questions.put(questions.get(timeout=_AT_LEISURE))
    import playwright.sync_api  # noqa: F401

    while True:
        try:
            asked = questions.get(timeout=_IDLE)
        except Empty:
            engine.close()
            asked = questions.get()
        if asked is None:
            engine.warm()
        else:
            channel.send(engine.show(asked))


if __name__ == "__main__":
    # What goes to and fro must be of the module that the other side knows.
    from pavese.render import browser

    browser.serve(Connection(int(sys.argv[1])))
