"""Sections of mails by others, and of the demo, against labels that were set by hand before they were found.

A label names what begins at which text or picture of a mail: the preheader, the header, content on a ground of its own,
a column, the footer. What is counted are the boundaries between them, wherever a section begins or one inside it ends.
"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import NamedTuple

from fetch import LABELLED, MAILS, folder_of, made_mails
from figures import figure
from pavese.core.formats.mail.bands import Contents
from pavese.core.formats.mail.code import codes_in, without
from pavese.core.formats.mail.tags import Tag, Words, scan
from pavese.core.formats.mail.text import MailText
from pavese.core.formats.mail.written import written_colors
from pavese.core.recolor.site import ON_PICTURES, OUTER
from pavese.demo.mail import mail_files

#: Of each mail what begins at which of its texts and pictures, by their numbers (P, H, C, K, F as above).
LABELS = {
    "demo/delay.html": "C0 F5",
    "demo/departures.html": "P0 H3 C4 C6 C9 C19 F22",
    "demo/reply.html": "C0 F8",
    "demo/season.html": "H0 K2 K5 C8 F9",
    "demo/ticket.html": "H1 C2 F12",
    "directus-api/base": "H1 C2 F7",
    "ghost/donation": "H1 C4 C5 F19",
    "ghost/invite-user": "H1 C2 F14",
    "ghost/invite-user-by-api-key": "H1 C2 F11",
    "ghost/mention-report": "C1 C5 C17 F20",
    "ghost/new-comment": "P1 C2 C6 C10 F13",
    "ghost/new-comment-reply": "P1 C2 C4 C8 F11",
    "ghost/new-free-signup": "P1 H2 C5 C6 C16 F18",
    "ghost/new-milestone-received": "P1 H2 C4 F9",
    "ghost/new-paid-cancellation": "P1 H2 C5 C6 C20 F22",
    "ghost/new-paid-started": "P1 H2 C5 C6 C22 F24",
    "ghost/newsletter": "H1 C11 F72",
    "ghost/recommendation-received": "H1 C4 C10 C20 F27",
    "ghost/report": "P1 C2 C6 C10 F13",
    "ghost/reset-password": "H1 C2 F8",
    "ghost/test": "C0 F6",
    "ghost/welcome": "H1 C2 F14",
    "html-email/main": "P1 C2 F7",
    "made-mails/cerberus-greeting.html": "H0 C1 C3 C7 F10",
    "made-mails/cerberus-order.html": "H0 C1 C12 C16 F19",
    "made-mails/default-greeting.html": "H0 C1 F8",
    "made-mails/default-order.html": "H0 C1 F17",
    "made-mails/foundation-basic.html": "H0 C3 C6 F8",
    "made-mails/foundation-drip.html": "H1 C3 F10",
    "made-mails/foundation-hero.html": "H0 C3 C6 C8 C13 K17 F21",
    "made-mails/foundation-marketing.html": "C1 K7 K10 K13 C17 F21",
    "made-mails/foundation-newsletter-2.html": "C2 K7 K10 F13",
    "made-mails/foundation-newsletter.html": "C1 K7 K11 F15",
    "made-mails/foundation-order.html": "C2 K5 K11 C17 F34",
    "made-mails/foundation-password.html": "H2 C4 F10",
    "made-mails/foundation-sidebar-hero.html": "H1 C4 C7 K9 C12 K14 C17 C24 F32",
    "made-mails/foundation-sidebar.html": "H1 K4 C7 K9 C12 C19 F27",
    "made-mails/foundation-welcome.html": "H1 C7 F11",
    "made-mails/neopolitan-greeting.html": "H0 C1 C3 F8",
    "made-mails/neopolitan-order.html": "H0 C1 C12 F17",
    "made-mails/salted-greeting.html": "H0 C1 C3 F6",
    "made-mails/salted-order.html": "H0 C1 C12 F15",
    "responsive-email/index": "P0 H3 C5 C24 C28 C31 F32",
    "responsive-html-email-template/email": "P1 C2 F7",
    "responsive-html-email-template/email-inlined": "P1 C2 F7",
}


class _Read(NamedTuple):
    """A mail with where its texts and pictures begin, and which section each is in, by what that is (a letter)."""

    starts: list[int]
    named: list[tuple[str, str]]
    contents: Contents


def sections() -> None:
    """All figures: over the mails of others that were fetched, and those of the demo."""
    boundaries = found = extra = footers = mails = named = wanted = 0
    for name, text in labelled_mails():
        read = _read(name, text)
        begins = [
            (one[0], bisect_left(read.contents.starts, read.starts[int(one[1:])])) for one in LABELS[name].split()
        ]
        told = [(kind, at) for at, (kind, _) in enumerate(read.named) if not at or read.named[at - 1] != read.named[at]]
        want, have = ({at for _, at in one} - {0} for one in (begins, told))
        boundaries, found, extra = boundaries + len(want), found + len(want & have), extra + len(have - want)
        feet = [next((at for kind, at in one if kind == "F"), None) for one in (begins, told)]
        mails, footers = mails + 1, footers + (feet[0] == feet[1])
        kinds = {at: kind for kind, at in told}
        titled = [(kind, at) for kind, at in begins if kind != "C"]
        wanted, named = wanted + len(titled), named + sum(kinds.get(at) == kind for kind, at in titled)
    print(f"  sections: {mails} of {len(LABELS)} labelled mails, {boundaries} boundaries, {extra} more were found")
    figure("sections of mails: boundaries found", 100 * found / boundaries, 95, "%", at_least=True)
    figure("sections of mails: footers as labelled", 100 * footers / mails, 95, "%", at_least=True)
    figure("sections of mails: named as labelled", 100 * named / wanted, 90, "%", at_least=True)


def labelled_mails() -> Iterator[tuple[str, bytes]]:
    """The mails that are there, by their names in `LABELS`."""
    demo = mail_files()
    for name in LABELS:
        package, _, file = name.partition("/")
        if package == "demo":
            yield name, demo[file]
        elif package == "made-mails":
            yield from ((name, path.read_bytes()) for path in (made_mails() / file,) if path.exists())
        else:
            yield from ((name, path.read_bytes()) for path in _found(package, file)[:1])


def _found(package: str, stem: str) -> Sequence[Path]:
    """The mails of that name in a package, those that lie highest first."""
    folders = (folder_of(one) for one in (*LABELLED, *MAILS))
    folder = next(one for one in folders if one.name.startswith(f"{package}@"))
    files = (path for ending in ("html", "hbs", "liquid") for path in folder.rglob(f"{stem}.{ending}"))
    return sorted(
        (one for one in files if "mail" in str(one.relative_to(folder)) or package.find("mail") >= 0), key=_depth
    )


def _depth(path: Path) -> tuple[int, str]:
    return len(path.parts), str(path)


def _read(name: str, data: bytes) -> _Read:
    text = MailText(name, data, None).text
    codes = codes_in(text)
    plain = without(text, codes)
    pieces = list(scan(plain))
    written = written_colors(plain, pieces, codes)
    elements = [element for element, _ in written.inside]
    contents = Contents(plain, elements, pieces, codes)
    titles = {one.selector: "K" if one.title.startswith("Column") else one.title[0] for one in written.sections}
    named = []
    for run in contents.runs:
        inside = [one for one in written.inside if one[0].tag.start <= run.at < one[0].end and one[1]]
        selector = next((one for one in inside[-1][1] if one != ON_PICTURES), OUTER) if inside else OUTER
        named.append((titles.get(selector, "C"), selector))
    return _Read(list(_starts(text, pieces)), named, contents)


def _starts(text: str, pieces: Sequence[object]) -> Iterator[int]:
    """Where every text and picture begins that one who labels sees in the source, code and spaces by name included."""
    in_head = False
    for piece in pieces:
        if isinstance(piece, Tag):
            in_head = (piece.name not in ("head", "body") and in_head) or (piece.name == "head" and not piece.closes)
            if piece.name == "img" and piece.condition is None and not piece.closes:
                yield piece.start
        elif isinstance(piece, Words) and piece.condition is None and not in_head:
            if re.search(r"\S", text[piece.start : piece.end]):
                yield piece.start
