"""Mails of Tarnmoor Ferries, written in five manners: tables with parts for some programs only, columns that fall below
each other by themselves, plain words, one that knows the dark, and a template with code. One more is as it is sent.

They are HTML files in the folder `mails`; the picture that they show, and the sent one, are made here.
"""

from __future__ import annotations

from email.message import EmailMessage
from pathlib import Path

from pavese.core.formats.document import Notation, Preview
from pavese.demo.pictures import logo
from pavese.render.draw import draw

#: Where the mails name their picture.
LOGO = "images/logo.png"
_NEWS = """\
<html><body style="margin:0;background:#F2E9DA"><table width="100%" cellpadding="0" cellspacing="0"><tr><td align="center">
<table width="600" cellpadding="0" cellspacing="0" style="background:#FFFFFF">
<tr><td style="padding:18px 28px;background:#8A4B08"><img src="cid:logo@tarnmoor.example" width="180" height="60" alt="Tarnmoor Ferries"></td></tr>
<tr><td style="padding:26px 28px;font:15px/22px Arial,sans-serif;color:#3B2A14">
<h1 style="margin:0 0 10px;font:bold 24px Georgia,serif;color:#8A4B08">Winter timetable – and a party</h1>
<p>From the ninth on we sail by the winter timetable. The first boat waits for the school bus.</p>
<p style="color:#A0522D">On Friday at six there is soup on the quay, for all crews and whoever belongs to them.</p>
<p><a href="https://tarnmoor.example/crew" style="display:inline-block;padding:10px 22px;background:#C96F12;color:#FFFFFF;text-decoration:none">Say that you come</a></p>
</td></tr>
<tr><td style="padding:14px 28px;background:#3B2A14;font:12px Arial,sans-serif;color:#D9C3A0">For crews only. <a href="https://tarnmoor.example/crew/leave" style="color:#F0D9A8">Leave this list</a></td></tr>
</table></td></tr></table></body></html>
"""  # noqa: E501


def mail_files() -> dict[str, bytes]:
    """Name to content of those in HTML."""
    folder = Path(__file__).with_name("mails")
    return {path.name: path.read_bytes() for path in sorted(folder.glob("*.html"))}


def sent_mail() -> bytes:
    """A mail as a mail program keeps it: words, HTML in quoted-printable, and its picture."""
    mail = EmailMessage()
    mail["From"] = "Tarnmoor Ferries <quay@tarnmoor.example>"
    mail["To"] = "Maren Quist <maren.quist@tarnmoor.example>"
    mail["Subject"] = "Crew news: the new winter timetable – and a party"
    mail["Date"] = "Mon, 02 Nov 2026 08:15:00 +0000"
    mail["Message-ID"] = "<crew-news-44@tarnmoor.example>"
    mail.set_content("The winter timetable is out, and on Friday there is a party on the quay.\n", cte="7bit")
    mail.add_alternative(_NEWS, subtype="html", cte="quoted-printable")
    html = mail.get_payload(1)
    assert isinstance(html, EmailMessage)
    html.add_related(mail_logo(), "image", "png", cid="<logo@tarnmoor.example>", filename="logo.png")
    mail.set_boundary("=_tarnmoor_outer")
    html.set_boundary("=_tarnmoor_inner")
    return mail.as_bytes(policy=mail.policy.clone(linesep="\r\n"))


def mail_logo() -> bytes:
    """The logo as an agency hands it over: a PNG on white, whatever it will stand on."""
    from io import BytesIO

    from PIL import Image

    with Image.open(BytesIO(draw(Preview(Notation.VECTOR, logo()), 360))) as picture:
        ground = Image.new("RGB", (360, 120), "#ffffff")
        seen = picture.convert("RGBA")
        seen.thumbnail((320, 96))
        ground.paste(seen, ((360 - seen.width) // 2, (120 - seen.height) // 2), seen)
        target = BytesIO()
        ground.save(target, "PNG")
    return target.getvalue()
