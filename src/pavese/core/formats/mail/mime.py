"""The parts of a mail as it is sent, and how one of them is changed with every other byte as it was.

RFC 2045 (encodings), RFC 2046 (multipart), RFC 2387 (related parts), RFC 2557 (pages with their parts).
"""

from __future__ import annotations

import base64
import binascii
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from email.errors import MessageError
from email.message import Message
from email.parser import BytesHeaderParser

from pavese.core.formats.edits import Edit, splice

#: Deepest nesting of parts, and most of them, that are looked at.
_DEPTH, _PARTS = 12, 500
_BLANK = re.compile(rb"\r?\n\r?\n|\A\r?\n")
_SOFT = re.compile(rb"=[ \t]*\r?\n")
_HEX = re.compile(rb"=([0-9A-Fa-f]{2})")
_QUOTED = re.compile(rb"[^!-<>-~ ]|[ ](?=$)")


@dataclass(frozen=True)
class Part:
    """A part that holds no others: its kind (lower case), its body from `start` to `end` as it stands, its encoding
    (lower case) and what it is called in the mail."""

    kind: str
    start: int
    end: int
    encoding: str
    charset: str | None
    names: tuple[str, ...]
    attached: bool

    def raw(self, data: bytes) -> bytes:
        """Its body as it stands."""
        return data[self.start : self.end]

    def content(self, data: bytes) -> bytes:
        """Its body, decoded; what is broken in it is left out."""
        raw = self.raw(data)
        if self.encoding == "base64":
            return _from_base64(raw)
        return _Quoted(raw).decoded if self.encoding == "quoted-printable" else raw

    def filled(self, data: bytes, content: bytes) -> bytes:
        """Its body with other content, in its encoding; where that is plain, as the content is."""
        raw = self.raw(data)
        if self.encoding == "base64":
            return _to_base64(content, raw)
        return _to_quoted(content, raw) if self.encoding == "quoted-printable" else content

    def changed(self, data: bytes, edits: Iterable[Edit]) -> bytes:
        """Its body with edits of its content made, in its encoding; without any, as it stands."""
        raw, listed = self.raw(data), sorted(edits)
        if not listed:
            return raw
        if self.encoding == "base64":
            return _to_base64(splice(_from_base64(raw), listed), raw)
        return _Quoted(raw).edited(listed) if self.encoding == "quoted-printable" else splice(raw, listed)


def parts_of(data: bytes) -> list[Part]:
    """All parts of a mail in their order, forwarded mails' included."""
    found: list[Part] = []
    for part in _walk(data, 0, len(data), 0):
        found.append(part)
        if len(found) >= _PARTS:
            break
    return found


def is_signed(data: bytes) -> bool:
    """Whether a signature covers what is in it (RFC 1847, DKIM), which a change breaks."""
    head = _BLANK.split(data[:65_536], 1)[0].lower()
    return b"multipart/signed" in head or b"application/pkcs7-mime" in head or b"dkim-signature:" in head


def subject_of(data: bytes) -> str:
    """The subject, "" for none."""
    from email.header import decode_header, make_header

    head, _ = _head(data, 0, len(data))
    try:
        return " ".join(str(make_header(decode_header(str(head.get("subject", ""))))).split())[:200]
    except (LookupError, UnicodeError, ValueError, MessageError):
        return ""


def _head(data: bytes, start: int, end: int) -> tuple[Message, int]:
    """The headers of a part, and where its body begins."""
    blank = _BLANK.search(data, start, end)
    if data[start : start + 2] == b"\r\n" or data[start : start + 1] == b"\n":
        # No headers at all.
        return Message(), start + (2 if data[start : start + 2] == b"\r\n" else 1)
    body = blank.end() if blank else end
    return BytesHeaderParser().parsebytes(data[start:body]), body


def _walk(data: bytes, start: int, end: int, depth: int) -> Iterator[Part]:
    head, body = _head(data, start, end)
    kind = head.get_content_type()
    encoding = str(head.get("content-transfer-encoding", "7bit")).strip().lower()
    if depth < _DEPTH and kind.startswith("multipart/") and (boundary := head.get_boundary()):
        for inner, stop in _inside(data, body, end, boundary.encode("latin-1", "replace")):
            yield from _walk(data, inner, stop, depth + 1)
    elif depth < _DEPTH and kind == "message/rfc822" and encoding in ("7bit", "8bit", "binary"):
        yield from _walk(data, body, end, depth + 1)
    else:
        identity = str(head.get("content-id", "")).strip().strip("<>")
        location = str(head.get("content-location", "")).strip()
        names = tuple(filter(None, (f"cid:{identity}" if identity else "", location)))
        attached = head.get_content_disposition() == "attachment"
        yield Part(kind, body, end, encoding, head.get_content_charset(), names, attached)


def _inside(data: bytes, start: int, end: int, boundary: bytes) -> Iterator[tuple[int, int]]:
    """Where the parts between boundaries begin and end; the line end before a boundary is part of it."""
    delimiter = re.compile(rb"(?:\A|\r?\n)--" + re.escape(boundary) + rb"(--)?[ \t]*(?:\r?\n|\Z)")
    begun: int | None = None
    at = max(start - 1, 0)
    while (found := delimiter.search(data, at, end)) is not None:
        if begun is not None:
            yield begun, max(found.start(), begun)
        if found[1]:
            return
        begun = found.end()
        # The line end behind one boundary may be that before the next.
        at = max(found.end() - 1, found.start() + 1)
    if begun is not None:
        yield begun, end


def _from_base64(raw: bytes) -> bytes:
    plain = re.sub(rb"[^A-Za-z0-9+/]", b"", raw)
    try:
        return base64.b64decode(plain + b"=" * (-len(plain) % 4))
    except binascii.Error:
        # One character too many says nothing.
        return base64.b64decode(plain[: len(plain) // 4 * 4])


def _to_base64(content: bytes, like: bytes) -> bytes:
    """In lines as long as they were, with the line ends they had."""
    first = re.search(rb"[A-Za-z0-9+/=]+", like)
    width = len(first[0]) if first else 76
    line_end = b"\r\n" if b"\r\n" in like else b"\n"
    code = base64.b64encode(content)
    lines = [code[at : at + width] for at in range(0, len(code), width)]
    lead = like[: first.start()] if first else b""
    tail = re.search(rb"[^A-Za-z0-9+/=]*\Z", like)
    return lead + line_end.join(lines) + (tail[0] if tail else b"")


def _to_quoted(content: bytes, like: bytes) -> bytes:
    """In lines that end as they did; the line ends of the content itself are coded, since it may be no text (RFC 2045,
    6.7, rule 4)."""
    coded = binascii.b2a_qp(content, istext=False)
    tail = re.search(rb"\s*\Z", like)
    return coded.replace(b"\n", b"\r\n" if b"\r\n" in like else b"\n") + (tail[0] if tail else b"")


class _Quoted:
    """Quoted-printable text with the way back: for each byte, where it stands."""

    def __init__(self, raw: bytes) -> None:
        self._raw = raw
        self._line_end = b"\r\n" if b"\r\n" in raw else b"\n"
        decoded = bytearray()
        starts: list[int] = []
        at = 0
        while at < len(raw):
            sign = raw.find(b"=", at)
            plain = len(raw) if sign < 0 else sign
            decoded += raw[at:plain]
            starts += range(at, plain)
            at = plain
            if sign < 0:
                break
            if soft := _SOFT.match(raw, at):
                at = soft.end()
            elif code := _HEX.match(raw, at):
                decoded.append(int(code[1], 16))
                starts.append(at)
                at = code.end()
            else:
                # A sign that begins nothing stands for itself.
                decoded += b"="
                starts.append(at)
                at += 1
        self.decoded = bytes(decoded)
        self._starts = [*starts, len(raw)]

    def _end(self, at: int) -> int:
        """Where the byte before that number ends."""
        start = self._starts[at - 1]
        return start + (3 if _HEX.match(self._raw, start) else 1)

    def edited(self, edits: Iterable[Edit]) -> bytes:
        """The raw text with edits of the decoded one made; breaks of lines stay where they fell."""
        return splice(self._raw, map(self._edit, edits))

    def _edit(self, edit: Edit) -> Edit:
        start, end, text = edit
        new = _QUOTED.sub(lambda found: b"=%02X" % found[0][0], text)
        if start == end:
            # What is inserted gets a line of its own, so that none grows too long.
            at = self._starts[start] if start == 0 else self._end(start)
            return Edit(at, at, b"=" + self._line_end + new + b"=" + self._line_end)
        first, last = self._starts[start], self._end(end)
        soft = _SOFT.search(self._raw, first, last)
        if soft is not None:
            before = sum(one < soft.start() for one in self._starts[start:end])
            new = new[:before] + soft[0] + new[before:]
        return Edit(first, last, new)
