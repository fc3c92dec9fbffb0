"""Mails as they are sent: the HTML in them is changed in its encoding, and every other byte stays."""

from __future__ import annotations

import email
from email import policy
from email.message import EmailMessage

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.parse import parse_color
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.mail.document import read_mail
from pavese.core.formats.mail.sent import SIGNED, read_sent
from pavese.core.recolor.recoloring import Recoloring
from pavese.demo.mail import mail_logo, sent_mail
from tests.formats.mails import PICTURE, mail_texts, sent, sent_part

BLUE = parse_color("#102030").rgb
RED = parse_color("#c41e3a")


def html_of(data: bytes) -> list[bytes]:
    """What the standard library reads as the HTML parts of a mail."""
    mail = email.message_from_bytes(data, policy=policy.default)
    return [part.get_payload(decode=True) for part in mail.walk() if part.get_content_type() == "text/html"]  # type: ignore[misc]


@settings(max_examples=120)
@given(mail_texts(), st.sampled_from(["quoted-printable", "base64", "8bit"]), st.sampled_from([b"\r\n", b"\n"]))
def test_the_html_is_what_it_would_be_alone_and_all_else_stays(text: str, way: str, end: bytes) -> None:
    html = text.encode().replace(b"\n", end)
    part = sent_part(html, way, end)
    data = sent(end, part)
    [content] = html_of(data)
    alone = read_mail("m.html", content, charset="utf-8")
    wanted = dict.fromkeys(alone.inventory().paints, BLUE)
    written = read_sent("m.eml", data).write(wanted)
    assert html_of(written) == [alone.write(wanted)]
    before, behind = data.split(part)
    assert written.startswith(before)
    assert written.endswith(behind)
    if way != "8bit":
        longest = max(map(len, part.split(end)))
        assert all(len(line) <= max(longest, 78) + 40 for line in written.split(end))


def test_a_soft_break_inside_of_a_code_stays_where_it_was() -> None:
    html = b'<p style=3D"color:#c4=\r\n1e3a;background:#FFFFFF">=C3=85</p>'
    part = b"Content-Type: text/html; charset=utf-8\r\nContent-Transfer-Encoding: quoted-printable\r\n\r\n" + html
    data = sent(b"\r\n", part)
    assert read_sent("m.eml", data).write({RED: BLUE}) == data.replace(b"#c4=\r\n1e3a", b"#10=\r\n2030")


def test_parts_go_their_own_way_and_pictures_are_those_of_the_mail() -> None:
    one = sent_part(b'<body style="background:#c41e3a;color:#fff"><img src="cid:logo@x">one', "base64")
    other = sent_part(b'<body style="background:#c41e3a;color:#fff">other', "quoted-printable")
    document = read_sent("m.eml", sent(b"\r\n", one, other))
    assert [page.title for page in document.pages] == ["Part 1", "Part 2"]
    first, second = html_of(document.write(Recoloring({}, {(RED, "/part-2"): BLUE})))
    assert b"#c41e3a" in first
    assert b"#102030" in second
    shown = document.preview({}).content
    assert b"data:image/png;base64," in shown
    assert PICTURE not in shown
    assert b"other" in document.preview({}, 1).content
    assert document.refers == ()


def test_the_sent_mail_of_the_demo() -> None:
    data = sent_mail()
    document = read_sent("crew-news.eml", data)
    assert document.subject == "Crew news: the new winter timetable – and a party"
    orange = parse_color("#c96f12")
    written = document.write({orange: BLUE})
    mail = email.message_from_bytes(written, policy=policy.default)
    assert isinstance(mail, EmailMessage)
    assert mail["Subject"] == document.subject
    assert "#102030" in mail.get_body(("html",)).get_content()  # type: ignore[union-attr]
    pictures = [part.get_content() for part in mail.walk() if part.get_content_type() == "image/png"]
    assert pictures == [mail_logo()]


def test_a_signature_that_will_not_hold_is_told() -> None:
    signed = sent(b"\r\n", sent_part(b"<p>x</p>", "8bit")).replace(b"multipart/mixed", b"multipart/signed")
    assert SIGNED in read_sent("m.eml", signed).inventory().remarks
    assert SIGNED not in read_sent("m.eml", sent_mail()).inventory().remarks


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        (b"", "empty"),
        (b"From: x\r\n\r\nwords", "no part in HTML"),
        (b"From: x\r\nContent-Type: text/html\r\n\r\n", "no part in HTML"),
        (b"From: x\r\nContent-Type: text/html\r\n\r\nno tag", "no tag"),
        (sent(b"\n", b"Content-Type: multipart/mixed; boundary=y\n\n--y\n" * 40), "no part in HTML"),
        (b"Content-Type: multipart/mixed; boundary=\n\n--\n<p>", "no part in HTML"),
    ],
)
def test_what_holds_no_html_is_refused(data: bytes, reason: str) -> None:
    with pytest.raises(RefusedFileError, match=reason):
        read_sent("m.eml", data)


def test_what_another_program_can_save_otherwise_is_told_how() -> None:
    with pytest.raises(RefusedFileError, match=r"save it as \.eml"):
        read("m.msg", b"\xd0\xcf\x11\xe0")


@pytest.mark.parametrize(
    "data",
    [
        sent(b"\n", *[sent_part(b"<p>x", "8bit")] * 600),
        sent(b"\n", sent_part(b"=" * 300_000 + b"<p>x", "8bit").replace(b"8bit", b"quoted-printable")),
        sent(b"\n", sent_part(b"<p>x", "base64")) * 200,
        b"Content-Type: text/html\nContent-Transfer-Encoding: base64\n\n" + b"PHA+eA" * 50_000,
        *(
            b"Subject: =?utf-8?b?!!?=\nContent-Type: text/html; charset=\"%s\"\n\n<title>x</title><p>x" % charset
            for charset in [b"\0<{", b"base64", b"idna", b"utf-7", b"utf-16", b"undefined", b"unicode_escape", b"nil"]
        ),
        b"a: b\n" * 50_000 + b"Content-Type: text/html\n\n<p>x",
    ],
)  # fmt: skip
def test_hostile_ones_are_read_in_no_time(data: bytes) -> None:
    try:
        document = read_sent("m.eml", data)
    except RefusedFileError:
        return
    assert document.write({}) == data
    assert document.preview({}).content
    assert document.inventory().title is not None
