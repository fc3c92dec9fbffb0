"""Pictures made up: fields of color, saved in every way that a picture can be."""

from __future__ import annotations

import io
import struct
from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
from hypothesis import strategies as st
from PIL import Image

from pavese.core.color.srgb import Rgb
from tests.core.strategies import colors

#: Sides of a field, in pixels: as JPEG has it, an edge stands between blocks.
FIELD = 32
_FIELDS = st.lists(colors, min_size=1, max_size=4, unique=True)


def fields(chosen: Sequence[Rgb]) -> Image.Image:
    """Fields of color beside each other, and the same turned round below."""
    row = np.repeat(np.array(chosen, dtype=np.uint8), FIELD, axis=0)[None].repeat(FIELD, axis=0)
    return Image.fromarray(np.concatenate([row, row[:, ::-1]]))


def saved(picture: Image.Image, kind: str, **options: Any) -> bytes:
    """A picture as a file."""
    target = io.BytesIO()
    picture.save(target, kind, **options)
    return target.getvalue()


def palette(picture: Image.Image) -> Image.Image:
    """A picture of few colors with a palette of just these."""
    codes = [tuple(one) for one in np.unique(np.asarray(picture).reshape(-1, 3), axis=0)]
    made = Image.new("P", picture.size)
    made.putpalette([level for code in codes for level in code])
    number = {code: at for at, code in enumerate(codes)}
    made.putdata([number[tuple(one)] for one in np.asarray(picture).reshape(-1, 3)])
    return made


def _clear(picture: Image.Image) -> Image.Image:
    """A picture that is see-through at its left edge."""
    made = picture.convert("RGBA")
    alpha = np.full((picture.height, picture.width), 255, dtype=np.uint8)
    alpha[:, :6] = 0
    alpha[:, 6:9] = 120
    made.putalpha(Image.fromarray(alpha))
    return made


def _clear_palette(picture: Image.Image) -> Image.Image:
    """One with a palette in which most of each color is not seen, as in sheets of icons: two entries have each code."""
    made = palette(picture)
    codes = made.getpalette() or []
    numbers = np.asarray(made).copy()
    numbers[:, np.arange(made.width) % FIELD >= FIELD // 4] += len(codes) // 3
    clear = Image.fromarray(numbers)
    clear.putpalette(codes * 2)
    clear.info["transparency"] = b"\xff" * (len(codes) // 3) + bytes(len(codes) // 3)
    return clear


def pngs() -> st.SearchStrategy[bytes]:
    """In full color, with alpha, and with a palette."""
    ways = st.sampled_from((lambda one: one, _clear, palette, _clear_palette))
    return st.tuples(_FIELDS, ways).map(lambda both: saved(both[1](fields(both[0])), "PNG"))


def gifs() -> st.SearchStrategy[bytes]:
    """Still ones, and some that move."""

    def made(both: tuple[list[Rgb], bool]) -> bytes:
        first = palette(fields(both[0]))
        more = [palette(fields(both[0][::-1]))] if both[1] else []
        return saved(first, "GIF", save_all=True, append_images=more, duration=120, optimize=False)

    return st.tuples(_FIELDS, st.booleans()).map(made)


def webps() -> st.SearchStrategy[bytes]:
    """Without loss."""
    return _FIELDS.map(lambda chosen: saved(fields(chosen), "WEBP", lossless=True))


def avifs() -> st.SearchStrategy[bytes]:
    """Of fair quality, in whole color."""
    return _FIELDS.map(lambda chosen: saved(fields(chosen), "AVIF", quality=85, subsampling="4:4:4", speed=9))


def tiffs() -> st.SearchStrategy[bytes]:
    """Packed in several ways, some with alpha."""
    packed = st.sampled_from((None, "tiff_lzw", "tiff_adobe_deflate", "packbits"))
    ways = st.sampled_from((lambda one: one, _clear))

    def made(drawn: tuple[list[Rgb], str | None, Callable[[Image.Image], Image.Image]]) -> bytes:
        return saved(drawn[2](fields(drawn[0])), "TIFF", compression=drawn[1])

    return st.tuples(_FIELDS, packed, ways).map(made)


def jpegs() -> st.SearchStrategy[bytes]:
    """Of fair quality, with halved color."""
    return _FIELDS.map(lambda chosen: saved(fields(chosen), "JPEG", quality=88))


def wide_profile() -> bytes:
    """A color profile (ICC.1:2010, matrix and curve) of primaries beyond those of sRGB, with a gamma of 2.2."""

    def fixed(value: float) -> bytes:
        return struct.pack(">i", round(value * 65536))

    def xyz(*values: float) -> bytes:
        return b"XYZ \0\0\0\0" + b"".join(map(fixed, values))

    name = b"Wide for tests"
    curve = b"curv\0\0\0\0" + struct.pack(">IH", 1, round(2.2 * 256)) + b"\0\0"
    said = b"desc\0\0\0\0" + struct.pack(">I", len(name) + 1) + name + b"\0" + bytes(78)
    said += bytes(-len(said) % 4)
    # Columns that add up to the white of the connection space (section 6.3.4.3).
    tags = {
        b"desc": said,
        b"wtpt": xyz(0.9642, 1.0, 0.8249),
        b"rXYZ": xyz(0.5151, 0.2412, -0.0011),
        b"gXYZ": xyz(0.2920, 0.6922, 0.0419),
        b"bXYZ": xyz(0.1571, 0.0666, 0.7841),
        b"rTRC": curve,
        b"gTRC": curve,
        b"bTRC": curve,
    }
    at = 128 + 4 + 12 * len(tags)
    table, body = b"", b""
    for key, value in tags.items():
        table += key + struct.pack(">II", at + len(body), len(value))
        body += value
    head = struct.pack(">I4sI4s4s4s", at + len(body), b"lcms", 0x02400000, b"mntr", b"RGB ", b"XYZ ")
    head += struct.pack(">6H4s", 2026, 1, 1, 0, 0, 0, b"acsp") + bytes(28) + fixed(0.9642) + fixed(1) + fixed(0.8249)
    return head.ljust(128, b"\0") + struct.pack(">I", len(tags)) + table + body
