"""What every request passes: bounds on size, no writes from other sites, and safe headers on every answer."""

from __future__ import annotations

import secrets
import time
from urllib.parse import urlsplit

import structlog
from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from pavese.api.problems import problem, told_path

log = structlog.get_logger()

_SAFE_METHODS = frozenset(("GET", "HEAD", "OPTIONS"))


def page_policy(nonce: str) -> str:
    """The content policy of the interface's page; styles are let in by nonce only."""
    return (
        "default-src 'none'; script-src 'self'; "
        f"style-src-elem 'self' 'nonce-{nonce}'; style-src-attr 'none'; img-src 'self' blob: data:; "
        "font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'self'; "
        "frame-ancestors 'none'; object-src 'none'"
    )


#: For everything that is not the page: files are data and may do nothing.
DATA_POLICY = "default-src 'none'; style-src 'unsafe-inline'; sandbox"


def new_nonce() -> str:
    """A fresh nonce for one page."""
    return secrets.token_urlsafe(16)


class Guard:
    """ASGI middleware around the whole application."""

    def __init__(self, app: ASGIApp, largest_body: int) -> None:
        self._app = app
        self._largest = largest_body

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        started = time.perf_counter()
        status = 0

        async def send_guarded(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                headers = MutableHeaders(scope=message)
                headers.setdefault("Content-Security-Policy", DATA_POLICY)
                headers["X-Content-Type-Options"] = "nosniff"
                headers["Referrer-Policy"] = "no-referrer"
                headers["Cross-Origin-Resource-Policy"] = "same-origin"
                if scope["path"].startswith("/api/"):
                    headers.setdefault("Cache-Control", "no-store")
            await send(message)

        refusal = self._refusal(scope)
        if refusal is None:
            body = _Bounded(receive, self._largest)
            try:
                await self._app(scope, body, body.unless_too_large(send_guarded))
            except Exception:
                if not body.too_large:
                    raise
            refusal = self._too_large(Request(scope)) if body.too_large and not status else None
        if refusal is not None:
            await refusal(scope, receive, send_guarded)
        log.debug(
            "request",
            method=scope["method"],
            path=told_path(scope["path"]),
            status=status,
            milliseconds=round((time.perf_counter() - started) * 1000, 1),
        )

    def _refusal(self, scope: Scope) -> ASGIApp | None:
        request = Request(scope)
        headers = Headers(scope=scope)
        if scope["method"] not in _SAFE_METHODS and _from_elsewhere(headers):
            return problem(request, 403, "Not allowed", "This request comes from another site and was not carried out.")
        length = headers.get("content-length", "0")
        if length.isdigit() and int(length) > self._largest:
            return self._too_large(request)
        return None

    def _too_large(self, request: Request) -> ASGIApp:
        megabytes = self._largest // (1024 * 1024)
        refusal = problem(request, 413, "Too large", f"At most {megabytes} MB are taken at a time. Drop fewer files.")
        # The rest of the body is not read, so that nothing else can come over this connection (RFC 9112, 9.6).
        refusal.headers["Connection"] = "close"
        return refusal


class _Bounded:
    """A body that ends once it is too large, whatever length it said; the application's answer is held back then."""

    def __init__(self, receive: Receive, largest: int) -> None:
        self._receive = receive
        self._largest = largest
        self._seen = 0

    @property
    def too_large(self) -> bool:
        """Whether it went beyond the bound."""
        return self._seen > self._largest

    async def __call__(self) -> Message:
        message = await self._receive()
        self._seen += len(message.get("body", b""))
        return {"type": "http.disconnect"} if self.too_large else message

    def unless_too_large(self, send: Send) -> Send:
        """Sends what the application answers, as long as the body is within its bound."""

        async def sent(message: Message) -> None:
            if not self.too_large:
                await send(message)

        return sent


def _from_elsewhere(headers: Headers) -> bool:
    """Whether a browser says that another site's page made this request (Fetch Metadata, and Origin before it)."""
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none"):
        return True
    origin = headers.get("origin")
    return origin is not None and urlsplit(origin).netloc != headers.get("host")
