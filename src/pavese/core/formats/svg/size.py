"""How large a drawing is, and the drawing made as large as is wanted.

SVG 2, section 8.2 (the initial viewport) and CSS Images 3, section 5 (sizing): what the root does not say of its
width or height follows from its viewBox. Lengths: CSS Values 4, section 6.2.
"""

from __future__ import annotations

import re
from math import floor

from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.xml_source import Element, read_root

_NUMBER = r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?"
_LENGTH = re.compile(rf"\s*({_NUMBER})\s*(px|in|cm|mm|q|pt|pc)?\s*", re.IGNORECASE)
_NUMBERS = re.compile(_NUMBER)
_PIXELS = {"px": 1.0, "in": 96.0, "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6, "pt": 96 / 72, "pc": 16.0}
#: For a drawing that says nothing of its size.
_SIDE = 100.0
#: Sizes beyond these are not meant, and engines compute with numbers of 32 bits.
_LEAST, _MOST = 1e-6, 1e9


def length(text: str | None) -> float | None:
    """A length in user units (CSS pixels); None for what depends on something else, such as `50%`, `2em` or `auto`."""
    match = _LENGTH.fullmatch(text or "")
    if match is None:
        return None
    pixels = float(match[1]) * _PIXELS[(match[2] or "px").lower()]
    return pixels if abs(pixels) <= _MOST else None


def box(text: str | None) -> tuple[float, float, float, float] | None:
    """A viewBox as x, y, width and height; None where there is none that counts."""
    numbers = [float(one) for one in _NUMBERS.findall(text or "")]
    if len(numbers) != 4 or not all(_LEAST <= one <= _MOST for one in numbers[2:]):
        return None
    return (numbers[0], numbers[1], numbers[2], numbers[3])


def extent(root: Element) -> tuple[float, float]:
    """Width and height of a drawing in its own units; 100 each where nothing says them."""
    width, height = (max(length(root.attributes.get(name)) or 0.0, 0.0) for name in ("width", "height"))
    if width and height:
        return width, height
    view = box(root.attributes.get("viewBox"))
    if view is None:
        return (width or height or _SIDE), (height or width or _SIDE)
    across, along = view[2:]
    if width or height:
        return (width or height * across / along), (height or width * along / across)
    return across, along


def sized(svg: bytes, side: int) -> bytes:
    """A drawing (UTF-8) whose longer side is `side` pixels, its proportions kept; what stands before it is left out.

    Raises RefusedFileError when it cannot be read.
    """
    source = read_root("drawing.svg", svg)
    width, height = extent(source.root)
    scale = side / max(width, height)
    wanted = {name: str(max(1, floor(one * scale + 0.5))) for name, one in (("width", width), ("height", height))}
    if box(source.root.attributes.get("viewBox")) is None:
        wanted["viewBox"] = f"0 0 {width:g} {height:g}"
    return splice(source.utf8, [Edit(0, source.root.start, b""), *source.setting(source.root, wanted)])
