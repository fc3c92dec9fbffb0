"""Mails as other programs write them, or might: tables and boxes, colors said in every manner, code anywhere."""

from __future__ import annotations

import base64
import quopri

from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb
from tests.core.strategies import colors

_CODE = st.sampled_from(
    ["{{ name }}", "{% if a > '1' %}", "<% x > 1 %>", "[[ row ]]", "${total}", "*|W|*", "%%word%%", '{{ "#123456" }}']
)
_WORDS = st.sampled_from(["Red shoes", "vip #1", "navy", "Å &amp; o", "1 < 2", "order #1001", ""])


def _written(color: Rgb, way: int) -> str:
    return [
        color.hex,
        color.hex.upper(),
        f"rgb({color.r}, {color.g}, {color.b})",
        f"rgba({color.r},{color.g},{color.b},.5)",
        f"rgb({color.r} {color.g} {color.b} / 40%)",
    ][way]


_said = st.builds(_written, colors, st.integers(0, 4))


@st.composite
def _tags(draw: st.DrawFn) -> str:
    """An element with colors of its own, and what stands in it."""
    first, second, third, inside = draw(_said), draw(_said), draw(_said), draw(_WORDS)
    plain = draw(colors).hex
    code = draw(_CODE)
    return draw(
        st.sampled_from(
            [
                f'<div style="background:{first};color:{second}">{inside}</div>',
                f"<td bgcolor={plain[1:]} style='color:{first}'>{inside}{code}</td>",
                f'<a href="?c=#ff0000" style="color:{first} !important">{inside}</a>',
                f'<a href="u" class="pressed" style="background-color:{first};border:1px solid {second}">{inside}</a>',
                f'<font color="{plain.upper()}">{inside}</font>',
                f'<p style="color: {code};background:{first};box-shadow:0 1px 2px {third}">{inside}</p>',
                f"<!-- old: {plain} -->",
                f'<!--[if mso]><v:roundrect fillcolor="{plain}"><center style="color:{first}">x</center></v:roundrect>'
                f'<![endif]--><!--[if !mso]><!--><a style="background:{second};color:{third}">x</a><!--<![endif]-->',
                f"<style>.pressed{{color:{first}}} a:hover{{color:{second}}} "
                f"@media (prefers-color-scheme:dark){{body{{background:{third} !important}}}}</style>",
                f'<table style="background:linear-gradient({first}, {second})"><tr><td>{inside}</td></tr></table>',
                f'<tr {code} bgcolor="{plain}"><td>{code}{inside}',
                f"<span title='{plain}' data-color=\"{plain}\">{inside}</span>",
                code,
                f"<script>var c = '{plain}'</script>",
            ]
        )
    )


@st.composite
def mail_texts(draw: st.DrawFn) -> str:
    """A whole mail or a part of one."""
    inside = "\n".join(draw(st.lists(_tags(), min_size=1, max_size=6)))
    whole = draw(
        st.sampled_from(
            [
                inside,
                f"<div>{inside}</div>",
                f"<!DOCTYPE html><html><head><title>x</title></head><body>{inside}</body></html>",
                f'<html><body bgcolor="#fafafa" text=black link=navy>{inside}',
                f'<body style="margin:0">{inside}</body>',
                f"<body style=>{inside}",
            ]
        )
    )
    return f"<p>{whole}"


def mails() -> st.SearchStrategy[bytes]:
    """Mails in one of several encodings."""
    return st.builds(str.encode, mail_texts(), st.sampled_from(["utf-8", "cp1252", "utf-16"]))


_WAYS = st.sampled_from(["quoted-printable", "base64", "8bit"])
PICTURE = b"\x89PNG not read here \xff\x00"


@st.composite
def sent_mails(draw: st.DrawFn) -> bytes:
    """Mails as they are sent, in one of several encodings: words beside the HTML, a picture, a forwarded mail."""
    html = draw(mail_texts()).encode()
    way, end = draw(_WAYS), draw(st.sampled_from([b"\r\n", b"\n"]))
    part = sent_part(html, way, end)
    parts = [part]
    if draw(st.booleans()):
        parts.append(end.join([b"Content-Type: message/rfc822", b"", b"Subject: x", part]))
    return sent(end, *parts)


def sent_part(html: bytes, way: str, end: bytes = b"\r\n") -> bytes:
    """A part in HTML, encoded."""
    coded = {
        "quoted-printable": lambda: quopri.encodestring(html).replace(b"\r\n", b"\n").replace(b"\n", end),
        "base64": lambda: base64.encodebytes(html).replace(b"\n", end),
        "8bit": lambda: html,
    }[way]()
    head = [b"Content-Type: text/html; charset=utf-8", b"Content-Transfer-Encoding: " + way.encode(), b""]
    return end.join([*head, coded])


def sent(end: bytes, *parts: bytes) -> bytes:
    """A mail of parts."""
    head = [b"From: quay@tarnmoor.example", b"Subject: =?utf-8?q?=C3=85_news?=", b"MIME-Version: 1.0"]
    kind = b'Content-Type: multipart/mixed; boundary="=_x"'
    words = end.join([b"Content-Type: text/plain", b"", b"color: #123456"])
    picture = end.join([b"Content-Type: image/png", b"Content-ID: <logo@x>", b"", PICTURE])
    body = b"".join(b"--=_x" + end + part + end for part in (words, *parts, picture))
    return end.join([*head, kind, b"", b"A mail with parts."]) + end + body + b"--=_x--" + end
