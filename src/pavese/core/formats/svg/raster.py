"""A picture inside of a drawing, for what places drawings only."""

from __future__ import annotations

import io
from base64 import b64encode

from PIL import Image

from pavese.core.formats.svg.properties import SVG


def svg_of_png(png: bytes) -> bytes:
    """A drawing of a picture's size in pixels that holds nothing but the picture."""
    with Image.open(io.BytesIO(png)) as picture:
        width, height = picture.size
    data = b64encode(png).decode()
    return (
        f'<svg xmlns="{SVG}" width="{width}" height="{height}" viewBox="0 0 {width} {height}">'
        f'<image width="{width}" height="{height}" href="data:image/png;base64,{data}"/></svg>'
    ).encode()
