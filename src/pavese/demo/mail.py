"""Mails of Tarnmoor Ferries, written in five manners: tables with parts for some programs only, columns that fall below
each other by themselves, plain words, one that knows the dark, and a template with code.

They are HTML files in the folder `mails`; the picture that one of them shows is made here.
"""

from __future__ import annotations

from pathlib import Path

from pavese.core.formats.document import Notation, Preview
from pavese.demo.pictures import logo
from pavese.render.draw import draw

#: Where the mails name their picture.
LOGO = "images/logo.png"


def mail_files() -> dict[str, bytes]:
    """Name to content."""
    folder = Path(__file__).with_name("mails")
    return {path.name: path.read_bytes() for path in sorted(folder.glob("*.html"))}


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
