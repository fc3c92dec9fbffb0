"""A web page as Chromium lays it out, script off: its elements with their computed styles, and its picture.

The engine runs in a child process under a time limit, and fetches nothing itself: every request of the page is
answered from the saved files or by `web.Fetcher`, or not at all.
"""

from __future__ import annotations

import mimetypes
import posixpath
import re
from concurrent.futures import TimeoutError as PageTimeoutError
from dataclasses import dataclass, field
from functools import partial
from typing import Any
from urllib.parse import quote, unquote, urlsplit

from pebble import ProcessExpired, ProcessPool

from pavese.core.errors import PaveseError, RefusedFileError
from pavese.core.formats.archive import is_archive, members
from pavese.core.gather.web_page import PageElement
from pavese.render import children
from pavese.render.browser import ARGUMENTS, CHROMIUM, Watch, first_line
from pavese.render.web import AddressRefusedError, Fetched, Fetcher, FetchPolicy

WIDTH = 1280
_TALLEST = 6_000
_SECONDS = 45.0
#: What the engine's processes may hold together.
_MEGABYTES = 2_000
_MOST_ELEMENTS = 20_000
#: A host that no name server knows (RFC 6761, section 6.4); saved pages live there.
_SAVED = "http://saved.invalid/"
_HTML = re.compile(rb"<\s*(!doctype\s+html|html|head|body|main|section|div|table|p|h1|style|title)\b", re.IGNORECASE)

#: Every element with a box, in document order. No color is computed here; what the engine says is only collected.
_COLLECT = """
most => {
  const all = [...document.querySelectorAll('html, body, body *')].slice(0, most)
  const at = new Map(all.map((element, index) => [element, index]))
  const clear = ['rgba(0, 0, 0, 0)', 'transparent']
  const wordless = ['SCRIPT', 'STYLE', 'NOSCRIPT', 'TEMPLATE', 'OPTION']
  const own = element => [...element.childNodes].filter(node => node.nodeType === 3)
    .map(node => node.data.trim()).filter(Boolean).join(' ') || (element.tagName === 'INPUT' ? element.value : '')
  // A link with a ground of its own is pressed like a button.
  const pressed = element => {
    if (element.closest('button, [role=button], input[type=submit], input[type=button]')) return true
    const link = element.closest('a[href]')
    const style = link && getComputedStyle(link)
    return !!link && style.display !== 'inline' && !clear.includes(style.backgroundColor)
  }
  const lines = style => ['Top', 'Right', 'Bottom', 'Left'].filter(side =>
    parseFloat(style[`border${side}Width`]) > 0 && !['none', 'hidden'].includes(style[`border${side}Style`])
  ).map(side => style[`border${side}Color`])
  return all.map(element => {
    const style = getComputedStyle(element)
    const box = element.getBoundingClientRect()
    const seen = style.visibility !== 'hidden' && Number(style.opacity) > 0.02 && box.width > 0 && box.height > 0
    return {
      parent: at.get(element.parentElement) ?? -1,
      box: [box.x + scrollX, box.y + scrollY, box.width, box.height],
      background: seen ? style.backgroundColor : clear[0],
      picture: seen && style.backgroundImage !== 'none',
      color: style.color,
      borders: seen ? lines(style) : [],
      font: style.fontFamily,
      words: seen && !wordless.includes(element.tagName) ? own(element).slice(0, 60) : '',
      link: !!element.closest('a[href]'),
      button: pressed(element),
      heading: !!element.closest('h1, h2, h3, h4, h5, h6, [role=heading]'),
    }
  })
}
"""


class PageNotReadError(PaveseError):
    """A page that the engine could not lay out, with the reason."""


@dataclass(frozen=True)
class PageAsked:
    """What to lay out: an address under a policy, or files with the path of the page among them."""

    url: str
    files: dict[str, bytes] = field(default_factory=dict)
    policy: FetchPolicy = field(default_factory=partial(FetchPolicy, public=False))


@dataclass(frozen=True)
class LaidOut:
    """A page laid out at WIDTH: where it came from, its elements, its picture as PNG, what was left out."""

    url: str
    title: str
    elements: list[PageElement]
    height: int
    png: bytes
    notes: tuple[str, ...]


def saved_page(name: str, data: bytes) -> PageAsked:
    """A page from a file: HTML, or a zip with its parts. Raises RefusedFileError when there is no page in it."""
    if not data:
        raise RefusedFileError(name, "the file is empty.")
    files = dict(members(name, data)) if is_archive(name, data) else {"index.html": data}
    pages = [path for path, part in files.items() if _is_page(path, part) or len(files) == 1]
    if not pages or not _HTML.search(files[pages[0]][:200_000]):
        raise RefusedFileError(name, "this is no web page (HTML).")
    # The page nearest to the top, and there the one that is usually the entry.
    entry = min(pages, key=lambda path: (path.count("/"), "index." not in path.lower(), path))
    return PageAsked(_SAVED + quote(entry), files)


class PageReader:
    """Lays pages out, one at a time, in a child process that is replaced when it falls."""

    def __init__(self, megabytes: int = _MEGABYTES) -> None:
        self._pool = ProcessPool(max_workers=1, context=children.context())
        self._megabytes = megabytes

    def read(self, asked: PageAsked) -> LaidOut:
        """The page. Raises PageNotReadError or AddressRefusedError with the reason."""
        try:
            future = self._pool.schedule(lay_out, args=(asked, self._megabytes), timeout=_SECONDS)
            made: LaidOut = future.result()
        except PageTimeoutError as error:
            raise PageNotReadError(f"The page took longer than {_SECONDS:g} seconds to lay out.") from error
        except ProcessExpired as error:
            raise PageNotReadError("The browser engine gave up on this page.") from error
        return made

    def close(self) -> None:
        """Stops the child."""
        self._pool.stop()  # type: ignore[no-untyped-call]
        self._pool.join()


def lay_out(asked: PageAsked, megabytes: int) -> LaidOut:
    """Runs in the child process."""
    with Watch(megabytes) as watch:
        try:
            return _laid_out(asked)
        except Exception as error:
            if watch.exceeded:
                raise PageNotReadError(f"The page needs more than {megabytes:,} MB to be laid out.") from error
            raise


def _laid_out(asked: PageAsked) -> LaidOut:
    from playwright.sync_api import Error, sync_playwright

    fetcher = Fetcher(asked.policy)
    parts = _Parts(asked, fetcher)
    page_url = parts.first()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(ARGUMENTS))
            context = browser.new_context(
                java_script_enabled=False,
                viewport={"width": WIDTH, "height": 800},
                service_workers="block",
                accept_downloads=False,
                reduced_motion="reduce",
            )
            context.route("**/*", parts.answer)
            page = context.new_page()
            page.goto(page_url, wait_until="load", timeout=30_000)
            tall = int(page.evaluate("document.documentElement.scrollHeight"))
            height = min(max(tall, 1), _TALLEST)
            png = page.screenshot(
                full_page=True,
                animations="disabled",
                clip={"x": 0, "y": 0, "width": WIDTH, "height": height},
            )
            elements = [PageElement.model_validate(entry) for entry in page.evaluate(_COLLECT, _MOST_ELEMENTS)]
            title = page.title()[:120]
            browser.close()
    except Error as error:
        raise PageNotReadError(f"The browser engine cannot lay this page out: {first_line(error)}") from error
    notes = list(parts.notes())
    if tall > height:
        notes.append(f"The page is {tall:,} pixels tall; the first {height:,} are in its picture.")
    url = "" if asked.files else page_url
    return LaidOut(url, title, elements, height, png, tuple(notes))


class _Parts:
    """Answers what a page asks for: from its files, or by fetching under the policy."""

    def __init__(self, asked: PageAsked, fetcher: Fetcher) -> None:
        self._asked = asked
        self._fetcher = fetcher
        self._page: Fetched | None = None
        self._missing: list[str] = []

    def first(self) -> str:
        """Makes sure that the page itself is there, before the engine is started; gives its address."""
        page = self._saved(self._asked.url) if self._asked.files else self._fetcher.get(self._asked.url)
        if page is None or ("html" not in page.media_type and not _HTML.search(page.body[:200_000])):
            kind = page.media_type if page else ""
            raise AddressRefusedError(f"At this address is no web page but {kind or 'something else'}.")
        self._page = page
        return page.url

    def answer(self, route: Any) -> None:
        """Fulfils one request, or lets it fail."""
        request = route.request
        if request.is_navigation_request() and request.frame.parent_frame is None:
            # The page is opened once; where it wants to lead later (a refresh), “no content” leaves the engine here.
            page, self._page = self._page, None
            if page is None:
                route.fulfill(status=204)
            else:
                _fulfil(route, page)
            return
        url = request.url.partition("#")[0]
        found = self._saved(url) if self._asked.files else self._fetched(url)
        if found is None:
            self._missing.append(url)
            route.abort()
        else:
            _fulfil(route, found)

    def notes(self) -> tuple[str, ...]:
        """What could not be had."""
        if not self._missing:
            return ()
        names = ", ".join(posixpath.basename(urlsplit(url).path)[:40] or url[:40] for url in self._missing[:3])
        more = f" and {len(self._missing) - 3} more" if len(self._missing) > 3 else ""
        return (f"Not available, so the page may look different: {names}{more}.",)

    def _saved(self, url: str) -> Fetched | None:
        if not url.startswith(_SAVED):
            return None
        path = posixpath.normpath(unquote(urlsplit(url).path)).lstrip("/")
        body = self._asked.files.get(path)
        if body is None:
            return None
        kind = "text/html" if url == self._asked.url else mimetypes.guess_type(path)[0] or "application/octet-stream"
        return Fetched(url, kind, body, _charset(body))

    def _fetched(self, url: str) -> Fetched | None:
        try:
            return self._fetcher.get(url)
        except AddressRefusedError:
            return None


def _fulfil(route: Any, found: Fetched) -> None:
    # Only the bytes and their kind go on: a page may not bring a policy of its own that keeps its styles out.
    route.fulfill(body=found.body, content_type=f"{found.media_type}; charset={found.charset}")


def _is_page(path: str, part: bytes) -> bool:
    return path.lower().endswith((".html", ".htm", ".xhtml")) and bool(_HTML.search(part[:200_000]))


def _charset(body: bytes) -> str:
    declared = re.search(rb"""charset\s*=\s*["']?([\w-]+)""", body[:2048], re.IGNORECASE)
    return declared[1].decode("ascii", "ignore") if declared else "utf-8"
