"""Mails and pages in HTML: recolored in place, seen as their readers do."""

from __future__ import annotations

from pavese.core.formats.format import Can, Format
from pavese.core.formats.mail.document import read_mail
from pavese.core.formats.told import is_html

MAIL = Format(
    key="mail",
    title="Mail",
    words="mails in HTML",
    endings=(".html", ".htm", ".xhtml"),
    media_type="text/html",
    matches=is_html,
    read=read_mail,
    can=frozenset((Can.EXACT, Can.STILL, Can.LAID_OUT, Can.LOOKS, Can.TEXTS)),
    channel="email",
)
