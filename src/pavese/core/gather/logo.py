"""A file as a picture of the logo: what it is, how large, and which colors cover how much of what is drawn."""

from __future__ import annotations

from pavese.core.color.extract import MOST, Finding, find_colors
from pavese.core.errors import RefusedFileError
from pavese.core.gather.drop import is_drawing
from pavese.core.gather.intake import Draw, take_picture
from pavese.core.kit.logo import LogoPicture, LogoShare
from pavese.core.kit.plain import plain_name
from pavese.core.pictures.decode import decode_picture

#: What a logo may be; both are open formats that can be see-through.
_PNG = b"\x89PNG\r\n\x1a\n"


def logo_picture(name: str, data: bytes, draw: Draw) -> LogoPicture:
    """The picture a file holds; its ground, see-through or of one color, is left out of its colors.

    Raises RefusedFileError for what is neither SVG nor PNG, or cannot be read.
    """
    drawing = bool(data) and is_drawing(name, data)
    if not drawing and not data.startswith(_PNG):
        raise RefusedFileError(name, "a logo is an SVG or a PNG.")
    picture, pixels_file, _ = take_picture(name, data, draw)
    pixels = decode_picture(name, pixels_file).pixels
    found = find_colors(pixels, Finding(count=MOST, leave_out_ground=True))
    if not found:
        raise RefusedFileError(name, "nothing is drawn in it.")
    whole = sum(color.share for color in found)
    return LogoPicture(
        key=picture.original,
        name=plain_name(picture.name)[-80:],
        media_type="image/svg+xml" if drawing else "image/png",
        width=picture.width,
        height=picture.height,
        colors=tuple(LogoShare(color=one.color, share=round(100 * one.share / whole, 2)) for one in found),
    )
