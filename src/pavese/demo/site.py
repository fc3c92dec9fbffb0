"""A small web site of Tarnmoor Ferries that stands in for one of the company's own, served on loopback."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread

from pavese.demo.pictures import logo

HOST = "127.0.0.1"

_STYLE = """
:root { --water: #0b5e6b; --buoy: #d2452d; --hull: #16252b; --fog: #eef0ec; --slip: #5a6fa8; }
* { box-sizing: border-box }
body { margin: 0; background: var(--fog); color: var(--hull); font: 17px/1.5 Commissioner, sans-serif }
header { display: flex; align-items: center; gap: 24px; padding: 20px 48px; background: var(--water); color: #fff }
header img { width: 84px; padding: 6px; background: var(--fog) }
header nav { margin-left: auto; display: flex; gap: 22px }
header a { color: #fff; text-decoration: none }
main { padding: 40px 48px }
h1, h2 { color: var(--water); line-height: 1.15 }
h1 { font-size: 44px; margin: 0 0 12px }
a { color: var(--slip) }
a.press, button { display: inline-block; padding: 12px 22px; border: 0; background: var(--buoy); color: #fff;
  font: 600 17px Commissioner, sans-serif; text-decoration: none }
.cards { display: grid; grid-template-columns: repeat(3, 1fr); gap: 20px; margin: 36px 0 }
.card { padding: 20px; background: #fff; border: 1px solid #7d878c }
.notice { padding: 14px 48px; background: #efb23a; color: var(--hull) }
table { width: 100%; border-collapse: collapse; background: #fff }
td, th { padding: 10px 14px; border: 1px solid #7d878c; text-align: left }
footer { padding: 32px 48px; background: var(--hull); color: var(--fog); font-family: "Spline Sans Mono", monospace }
footer a { color: var(--fog) }
"""


def _page(title: str, body: str) -> bytes:
    return f"""<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>{title}</title><link rel="stylesheet" href="/style.css"></head>
<body>
<header><img src="/mark.svg" alt=""><strong>Tarnmoor Ferries</strong>
<nav><a href="/">Home</a><a href="/departures">Departures</a></nav></header>
<p class="notice" style="margin:0">Strong wind on Thursday: the Skerry call may be left out.</p>
<main>{body}</main>
<footer>Tarnmoor Ferries, Pier 1. <a href="/departures">All departures</a></footer>
</body></html>
""".encode()


_CARDS = "".join(
    f'<div class="card"><h2>{name}</h2><p>{text}</p><a href="/departures">Times and fares</a></div>'
    for name, text in (
        ("Skerry", "Forty minutes, four times a day. Bicycles travel free."),
        ("Northholm", "The long crossing, with a warm kitchen on board."),
        ("Tarn Point", "Twice a week, and a cabin for the night."),
    )
)
_ROWS = "".join(
    f"<tr><td>{time}</td><td>{place}</td><td>{state}</td></tr>"
    for time, place, state in (
        ("07:10", "Skerry", "boarding"),
        ("08:25", "Northholm", "on time"),
        ("11:40", "Skerry", "on time"),
        ("16:05", "Tarn Point", "waiting for the tide"),
    )
)

#: Path to (media type, content).
PAGES: dict[str, tuple[str, bytes]] = {
    "/": (
        "text/html; charset=utf-8",
        _page(
            "Tarnmoor Ferries",
            "<h1>To the islands, every day</h1><p>Three harbors, two ferries, one kitchen that bakes before dawn.</p>"
            f'<p><a class="press" href="/departures">Book a crossing</a></p><div class="cards">{_CARDS}</div>',
        ),
    ),
    "/departures": (
        "text/html; charset=utf-8",
        _page(
            "Departures, Tarnmoor Ferries",
            "<h1>Departures</h1><table><tr><th>Time</th><th>To</th><th>State</th></tr>"
            f"{_ROWS}</table><p><button>Remind me</button></p>",
        ),
    ),
    "/style.css": ("text/css; charset=utf-8", _STYLE.encode()),
    "/mark.svg": ("image/svg+xml", logo()),
}


class _Answers(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        media_type, body = PAGES.get(self.path, ("text/plain", b"There is nothing at this address.\n"))
        self.send_response(200 if self.path in PAGES else 404)
        self.send_header("Content-Type", media_type)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: object) -> None:
        """Its visits are no news."""


@contextmanager
def demo_site(port: int = 0) -> Iterator[tuple[str, int]]:
    """Serves the site on loopback while the context lasts; gives host and port (0: any that is free).

    Raises OSError when the port is in use.
    """
    with ThreadingHTTPServer((HOST, port), _Answers) as server:
        thread = Thread(target=server.serve_forever, daemon=True)
        thread.start()
        try:
            yield HOST, server.server_port
        finally:
            server.shutdown()
            thread.join()
