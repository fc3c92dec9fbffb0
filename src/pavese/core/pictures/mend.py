"""A picture freed of its box (`box`), or with another ground under what it shows, in the format that it came in."""

from __future__ import annotations

import io
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from PIL import Image

from pavese.core.color.contrast import WHITE
from pavese.core.color.extract import Pixels
from pavese.core.color.srgb import Rgb
from pavese.core.errors import RefusedFileError
from pavese.core.pictures.box import MOST_PIXELS, box_of, freed
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.in_place import cut

#: Colors, of 32 a channel, up to which a picture is drawn, and pixels along a side that are looked at for that.
_FEW, _LOOKED_AT = 400, 600
#: Pictures up to this size are remembered.
_SMALL = 500_000
#: Formats, by Pillow's names, that hold what is partly clear; the others get a ground.
_CLEAR = frozenset(("PNG", "WEBP"))


class Box(NamedTuple):
    """The color of the box round what a picture shows, the picture's size in pixels, and whether its format can do
    without a ground."""

    color: Rgb
    width: int
    height: int
    clears: bool


def find_box(data: bytes) -> Box | None:
    """The box of a picture; None for one that has none, moves, is broken or too large."""
    opened = _opened(data)
    if opened is None:
        return None
    pixels, kind = opened
    color = box_of(pixels)
    return None if color is None else Box(color, pixels.shape[1], pixels.shape[0], kind in _CLEAR)


def mended(data: bytes, ground: Rgb | None) -> bytes:
    """The picture on another ground, or without one (None), in its own format; one without a box, or whose format
    always has a ground, stays as it is.

    What a drawing encloses, as the inside of an O, is of the box, too; what is white in a photograph is not.
    """
    # A mail is looked at again and again, mostly with the same small logo.
    return _mended_before(data, ground) if len(data) <= _SMALL else _mended(data, ground)


def _mended(data: bytes, ground: Rgb | None) -> bytes:
    opened = _opened(data)
    if opened is None or box_of(opened[0]) is None or (ground is None and opened[1] not in _CLEAR):
        return data
    pixels, kind = opened
    clear = Image.fromarray(freed(pixels, inside=is_drawn(pixels)))
    if ground is None:
        return _written(clear, kind, data)
    whole = Image.new("RGBA", clear.size, (*ground, 255))
    whole.alpha_composite(clear)
    return _written(whole.convert("RGB"), kind, data)


_mended_before = lru_cache(maxsize=64)(_mended)


def takes_another(data: bytes) -> bool:
    """Whether a picture can be given another drawing in its place: it is of pixels, still, whole and not too large."""
    return _opened(data) is not None


def put_in_place(
    data: bytes, drawn: Pixels, ground: Rgb | None, space: float, least: int = 0, under: Rgb | None = None
) -> bytes:
    """Another drawing (its pixels) in the place of what a picture shows, in the picture's own size and format: as large
    as what it showed, with so much room around it as a part of its height. On a ground, or on none, where the format
    can do without; where it cannot, and the picture had a box, on the color `under` it. A picture whose longer side is
    shorter than `least` is made finer. Raises RefusedFileError for one that cannot be read."""
    opened = _opened(data)
    if opened is None:
        raise RefusedFileError("the picture", "it moves, is broken or too large.")
    pixels, kind = opened
    if ground is None and kind not in _CLEAR and box_of(pixels) is not None:
        ground = under
    finer = max(-(-least // max(pixels.shape[:2])), 1)
    rows, columns = pixels.shape[0] * finer, pixels.shape[1] * finer
    shown = freed(pixels, inside=True)[..., 3] > 0
    box = Image.fromarray(shown.astype(np.uint8)).getbbox()
    place = tuple(at * finer for at in box) if box else (0, 0, columns, rows)
    logo = cut(drawn)
    part = min(
        (place[2] - place[0]) / logo.width,
        (place[3] - place[1]) / logo.height,
        rows / (logo.height * (1 + 2 * space)),
        columns / (logo.width + 2 * space * logo.height),
    )
    size = (max(round(logo.width * part), 1), max(round(logo.height * part), 1))
    logo = logo.resize(size, Image.Resampling.LANCZOS)

    def begin(middle: int, length: int, side: int) -> int:
        # In the middle of what was there, but for the room that it keeps to the edge.
        room = int(min(round(space * size[1]), (side - length) // 2))
        return min(max(middle - length // 2, room), side - room - length)

    clear = ground is None and kind in _CLEAR
    whole = Image.new("RGBA", (columns, rows), (0, 0, 0, 0) if clear else (*(ground or WHITE), 255))
    at = begin((place[0] + place[2]) // 2, size[0], columns), begin((place[1] + place[3]) // 2, size[1], rows)
    whole.alpha_composite(logo, at)
    return _written(whole if clear else whole.convert("RGB"), kind, data)


def is_drawn(pixels: Pixels) -> bool:
    """Whether a picture has few colors, as drawings have."""
    step = max(1, max(pixels.shape) // _LOOKED_AT)
    codes = (pixels[::step, ::step, :3] >> 3).reshape(-1, 3).astype(np.int64) @ (1, 32, 1024)
    return len(np.unique(codes)) <= _FEW


def _opened(data: bytes) -> tuple[Pixels, str] | None:
    """The pixels and the format of a still picture within the bounds."""
    try:
        with Image.open(io.BytesIO(data), formats=("PNG", "JPEG", "WEBP", "GIF")) as image:
            if getattr(image, "is_animated", False) or image.width * image.height > MOST_PIXELS:
                return None
            kind = str(image.format)
        return decode_picture("", data).pixels, kind
    except (RefusedFileError, OSError, SyntaxError, ValueError, EOFError, OverflowError, Image.DecompressionBombError):
        # What cannot be read stays as it came; the page shows whatever its readers' programs make of it.
        return None


def _written(image: Image.Image, kind: str, like: bytes) -> bytes:
    """A picture in a format; JPEG with the tables of the one it was, so that it is as fine as that."""
    target = io.BytesIO()
    if kind == "JPEG":
        with Image.open(io.BytesIO(like)) as before:
            tables = getattr(before, "quantization", None)
        # Half the colors would bleed over the new edges.
        image.save(target, "JPEG", qtables=tables, subsampling=0)
    elif kind == "WEBP":
        image.save(target, "WEBP", lossless=True)
    elif kind == "GIF":
        image.quantize(dither=Image.Dither.NONE).save(target, "GIF")
    else:
        image.save(target, "PNG", optimize=True)
    return target.getvalue()
