"""A file as a picture of the logo: what it is, how large, which colors cover how much of it, and whether a box of one
color stands round it."""

from __future__ import annotations

import io
from typing import NamedTuple

from PIL import Image

from pavese.core.color.extract import MOST, Finding, Pixels, find_colors
from pavese.core.errors import RefusedFileError
from pavese.core.formats.document import Notation, Preview
from pavese.core.formats.edits import splice
from pavese.core.formats.intake import digest
from pavese.core.formats.xml_source import read_xml
from pavese.core.gather.drop import is_drawing
from pavese.core.gather.intake import DRAWN_SIDE, Draw, take_picture
from pavese.core.kit.logo import LogoPicture, LogoShare
from pavese.core.kit.plain import plain_name
from pavese.core.pictures.box import MOST_PIXELS, box_of, freed
from pavese.core.pictures.decode import decode_picture

_PNG = b"\x89PNG\r\n\x1a\n"
_SHAPES = ("rect", "path", "polygon", "circle", "ellipse")
#: Longer side of a logo as it is drawn for being put into files.
LOGO_SIDE = 1200
#: Shapes of a drawing that are looked at, the hindmost first, and the side of the picture in which it shows.
_HINDMOST, _TRIED_SIDE = 6, 96


class TakenLogo(NamedTuple):
    """A picture of the logo, and the bytes to keep of it: those that came, or a PNG of a picture of another format; and
    a PNG of it that is no larger than files need it."""

    picture: LogoPicture
    data: bytes
    drawn: bytes

    @property
    def files(self) -> dict[str, bytes]:
        """What is to be kept of it, by hash."""
        return {digest(data): data for data in (self.data, self.drawn)}


def take_logo(name: str, data: bytes, draw: Draw) -> TakenLogo:
    """The picture a file holds; its ground, see-through or of one color, is left out of its colors.

    Raises RefusedFileError for what is no picture, or cannot be read.
    """
    drawing = bool(data) and is_drawing(name, data)
    picture, pixels_file, _ = take_picture(name, data, draw)
    pixels = decode_picture(name, pixels_file).pixels
    found = find_colors(pixels, Finding(count=MOST, leave_out_ground=True))
    if not found:
        raise RefusedFileError(name, "nothing is drawn in it.")
    whole = sum(color.share for color in found)
    kept = data if drawing or data.startswith(_PNG) else _png(pixels)
    drawn = draw(Preview(Notation.VECTOR, data), LOGO_SIDE) if drawing else _png_within(pixels, LOGO_SIDE)
    taken = LogoPicture(
        key=digest(kept),
        name=plain_name(picture.name)[-80:],
        media_type="image/svg+xml" if drawing else "image/png",
        width=picture.width,
        height=picture.height,
        colors=tuple(LogoShare(color=one.color, share=round(100 * one.share / whole, 2)) for one in found),
        box=box_of(pixels),
        drawn=digest(drawn),
    )
    return TakenLogo(taken, kept, drawn)


def freed_picture(name: str, data: bytes, draw: Draw, *, inside: bool = False) -> bytes:
    """The file without the box round what it shows: a drawing without the shape that is the box, or a PNG whose box
    is clear. Raises RefusedFileError for one that has none."""
    drawing = is_drawing(name, data)
    pixels_file = draw(Preview(Notation.VECTOR, data), DRAWN_SIDE) if drawing else data
    pixels = decode_picture(name, pixels_file).pixels
    if box_of(pixels) is None:
        raise RefusedFileError(name, "no box of one color stands round what it shows.")
    made = _without_hindmost(name, data, draw) if drawing and not inside else None
    if made is not None:
        return made
    if pixels.shape[0] * pixels.shape[1] > MOST_PIXELS:
        raise RefusedFileError(name, f"only pictures of up to {MOST_PIXELS // 1_000_000} million pixels are freed.")
    return _png(freed(pixels, inside=inside))


def _without_hindmost(name: str, data: bytes, draw: Draw) -> bytes | None:
    """A drawing without the one of its hindmost shapes whose going clears all of its border; None where none does."""
    source = read_xml(name, data)
    for shape in source.named(*_SHAPES)[:_HINDMOST]:
        tried = splice(source.utf8, source.setting(shape, {"style": "display:none"}))
        alpha = decode_picture(name, draw(Preview(Notation.VECTOR, tried), _TRIED_SIDE)).pixels[..., 3]
        edge = (alpha[0], alpha[-1], alpha[:, 0], alpha[:, -1])
        if alpha.any() and not any(side.any() for side in edge):
            return source.pack(tried)
    return None


def _png(pixels: Pixels) -> bytes:
    return _saved(Image.fromarray(pixels))


def _png_within(pixels: Pixels, side: int) -> bytes:
    """A PNG whose longer side has no more than so many pixels."""
    image = Image.fromarray(pixels)
    image.thumbnail((side, side), Image.Resampling.LANCZOS)
    return _saved(image)


def _saved(image: Image.Image) -> bytes:
    target = io.BytesIO()
    image.save(target, "PNG")
    return target.getvalue()
