"""Pictures in the place of others: one that stands for a number, and one wrapped as a drawing."""

from __future__ import annotations

import io
from base64 import b64encode

from PIL import Image, UnidentifiedImageError

from pavese.core.color.srgb import Rgb

#: Larger pictures are not opened for their clear parts.
_LARGEST = 4_000_000
_MOST_PIXELS = 20_000_000
#: Pixels along the longer side of an outline.
_FINE = 480


def outline_of(data: bytes) -> Image.Image:
    """Where a picture is not clear, in one channel, no finer than it takes; all of it where that cannot be told."""
    try:
        with Image.open(io.BytesIO(data), formats=("PNG", "GIF")) as image:
            clear = image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info
            if clear and len(data) <= _LARGEST and image.width * image.height <= _MOST_PIXELS:
                alpha = image.convert("RGBA").getchannel("A")
                alpha.thumbnail((_FINE, _FINE), Image.Resampling.NEAREST)
                return alpha.point(lambda level: 255 * (level > 127))
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        pass
    return Image.new("L", (8, 8), 255)


def in_one_color(outline: Image.Image, color: Rgb) -> bytes:
    """A PNG in one color, as clear as an outline is."""
    made = Image.new("RGBA", outline.size, (*color, 255))
    made.putalpha(outline)
    target = io.BytesIO()
    made.save(target, "PNG", compress_level=1)
    return target.getvalue()


def as_drawing(data: bytes) -> bytes:
    """A picture as an SVG that shows it."""
    with Image.open(io.BytesIO(data)) as image:
        width, height, kind = image.width, image.height, (image.format or "PNG").lower()
    address = f"data:image/{kind};base64,{b64encode(data).decode()}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="{width}" '
        f'height="{height}" viewBox="0 0 {width} {height}"><image width="{width}" height="{height}" '
        f'xlink:href="{address}"/></svg>'
    ).encode()
