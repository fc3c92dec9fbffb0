"""What a file is, told by how it begins; nothing is read or believed beyond that."""

from __future__ import annotations

import re
import zlib

#: Bytes that are looked at.
HEAD = 4096

_GZIP, _ZIP = b"\x1f\x8b", b"PK\x03\x04"
#: The root element behind what may stand before it: a declaration, comments, a document type (XML 1.0, 2.8).
_SVG = re.compile(
    rb"(?:\s|(?><\?.*?\?>)|(?><!--.*?-->)|(?><!DOCTYPE[^>\[]*(?:\[.*?\]\s*)?>))*+<(?:[\w.-]+:)?svg[\s/>]",
    re.DOTALL | re.IGNORECASE,
)
#: What mails and pages begin with, behind comments.
_HTML = re.compile(
    rb"(?:\s|(?><!--.*?-->)|(?><\?.*?>))*+<(?:!doctype\s+html|(?:html|head|body|title|meta|style|link|table|center|div|p|"
    rb"span|font|tr|td|h[1-6]|section|main)[\s/>])",
    re.DOTALL | re.IGNORECASE,
)
#: A header (RFC 5322, 2.2), and those that tell a mail with parts from other texts (RFC 2045, 4 and 5).
_HEADER = re.compile(rb"[!-9;-~]+:[ \t]")
_MIME = re.compile(rb"^(?:MIME-Version|Content-Type|Received|From):[ \t]", re.MULTILINE | re.IGNORECASE)
#: What an animation says of itself (Lottie 1.0, Animation): all that is needed to play it.
_PLAYED = (b'"fr"', b'"ip"', b'"op"', b'"w"', b'"h"')


def is_svg(data: bytes) -> bool:
    """Whether a file begins as an SVG does, plain or compressed."""
    return _SVG.match(_plain(data)) is not None


def is_html(data: bytes) -> bool:
    """Whether a file begins as a mail, a page, or a part of one does."""
    return _HTML.match(_plain(data)) is not None


def is_sent(data: bytes) -> bool:
    """Whether a file begins with the headers of a mail."""
    head = data[:HEAD]
    return _HEADER.match(head) is not None and _MIME.search(head) is not None


def is_lottie(data: bytes) -> bool:
    """Whether a file begins as an animation does. One that says so only further on is told by its name."""
    head = _plain(data).lstrip()
    return head.startswith(b"{") and sum(key in head for key in _PLAYED) >= len(_PLAYED) - 1


def is_dotlottie(data: bytes) -> bool:
    """Whether a file begins as a zip with a manifest in it."""
    return data.startswith(_ZIP) and b"manifest.json" in data[:HEAD]


def is_open_deck(data: bytes) -> bool:
    """Whether a file begins as a package of slides in OpenDocument does: its media type stands first, as it is."""
    return data.startswith(_ZIP) and data[30:].startswith(b"mimetypeapplication/vnd.oasis.opendocument.presentation")


def is_deck(data: bytes) -> bool:
    """Whether a file begins as a package of slides does, or as one with a password and the older kind of decks do."""
    return data.startswith(_ZIP) and b"ppt/" in data[:HEAD]


def _plain(data: bytes) -> bytes:
    """The beginning of a text, unpacked, without a byte order mark, in an encoding that holds ASCII."""
    head = data[:HEAD]
    if head.startswith(_GZIP):
        try:
            head = zlib.decompressobj(wbits=31).decompress(head, HEAD)
        except zlib.error:
            return b""
    if head.startswith((b"\xff\xfe", b"\xfe\xff")):
        head = head.decode("utf-16", errors="ignore").encode()
    return head.removeprefix(b"\xef\xbb\xbf")
