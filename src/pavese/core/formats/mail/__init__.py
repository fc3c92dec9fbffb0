"""Mails and pages in HTML, alone or as they are sent: recolored in place, seen as their readers do."""

from __future__ import annotations

from pavese.core.formats.format import Can, Format
from pavese.core.formats.mail.framed import read_framed
from pavese.core.formats.mail.sent import read_sent
from pavese.core.formats.references import TEMPLATES
from pavese.core.formats.told import is_html, is_sent
from pavese.core.recolor.dark import DarkScheme
from pavese.core.recolor.pictures import PictureGrounds
from pavese.core.recolor.samples import Samples

#: Pictures that they show are taken apart.
_SECONDS = 30.0
_CAN = frozenset((Can.EXACT, Can.LAID_OUT, Can.PAGES, Can.LOOKS, Can.TEXTS, Can.PICTURES, Can.CODE, Can.SOURCE))

MAIL = Format(
    key="mail",
    title="Mail",
    words="mails in HTML",
    endings=(".html", ".htm", ".xhtml"),
    media_type="text/html",
    matches=is_html,
    read=read_framed,
    can=_CAN,
    acts=(DarkScheme.key, PictureGrounds.key, Samples.key),
    channel="email",
    templates=TEMPLATES,
    seconds=_SECONDS,
)
SENT_MAIL = Format(
    key="sent-mail",
    title="Mail as it is sent",
    words="mails as they are sent (.eml)",
    endings=(".eml", ".mht", ".mhtml"),
    media_type="message/rfc822",
    matches=is_sent,
    read=read_sent,
    can=_CAN,
    acts=(DarkScheme.key, PictureGrounds.key, Samples.key),
    channel="email",
    seconds=_SECONDS,
)
