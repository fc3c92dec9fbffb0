"""Draws one file. Runs in a child process only: a hostile file may take the process down with it.

SVG is drawn with resvg, Lottie with rlottie.
"""

from __future__ import annotations

import re
import resource
import signal
from collections.abc import Sequence
from io import BytesIO
from pathlib import Path
from typing import TYPE_CHECKING

from pavese.render.motion import STILL_AT, frame_at, frames, opened, size_within

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt

    from pavese.core.color.srgb import Rgba
    from pavese.core.recolor.measure import Measured

#: Moments of an animation at which its paints are measured.
_MEASURED_AT = (0.15, 0.5, 0.85)
_MEMORY = 1536 * 1024 * 1024
_fonts: list[str] = []


def prepare(fonts_dir: str) -> None:
    """Bounds this process before it sees any file: memory, no core dumps, no written files.

    Ctrl-C goes to the whole group of processes; the application ends its children itself.
    """
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    resource.setrlimit(resource.RLIMIT_AS, (_MEMORY, _MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    _fonts.extend(str(path) for path in sorted(Path(fonts_dir).glob("*.ttf")))


def draw(svg: bytes, side: int) -> bytes:
    """A PNG whose longer side is `side` pixels, the drawing's proportions kept, on a transparent ground.

    An animation is drawn at one moment. Raises ValueError with the engine's words when the file cannot be drawn.
    """
    import resvg_py

    if _moves(svg):
        return _png(_moments(svg, side, (STILL_AT,))[0])
    text = re.sub(r"^\s*<\?xml[^>]*\?>", "", svg.decode())
    return bytes(
        resvg_py.svg_to_bytes(
            svg_string=text,
            width=side,
            height=side,
            skip_system_fonts=True,
            font_files=_fonts or None,
            font_family="Commissioner",
            sans_serif_family="Commissioner",
            serif_family="Commissioner",
            monospace_family="Spline Sans Mono",
        )
    )


def draw_masks(drawings: Sequence[bytes], count: int, side: int) -> bytes:
    """The masks of `count` paints below each other, as a PNG that is see-through where a paint is not.

    Each drawing shows three of them, see `spotlight.mask_recolorings`. Raises ValueError as `draw` does.
    """
    import numpy as np
    from PIL import Image

    masks: list[npt.NDArray[np.uint8]] = []
    for drawing in drawings:
        with Image.open(BytesIO(draw(drawing, side))) as picture:
            pixels = np.asarray(picture.convert("RGBA")).astype(np.uint16)
        masks += [(pixels[..., channel] * pixels[..., 3] // 255).astype(np.uint8) for channel in range(3)]
    strip = np.concatenate(masks[:count])
    return _png(np.stack([np.zeros_like(strip), strip], axis=-1))


def draw_measured(svg: bytes, paints: Sequence[Rgba]) -> Measured:
    """What `measure` finds on a small picture of it. Raises ValueError as `draw` does."""
    import numpy as np
    from PIL import Image

    from pavese.core.recolor.measure import SIDE, combined, measure

    if _moves(svg):
        return combined(measure(pixels, paints) for pixels in _moments(svg, SIDE, _MEASURED_AT))
    with Image.open(BytesIO(draw(svg, SIDE))) as picture:
        return measure(np.asarray(picture.convert("RGBA")), paints)


def _moves(data: bytes) -> bool:
    return data.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"{")


def _moments(data: bytes, side: int, parts: Sequence[float]) -> list[npt.NDArray[np.uint8]]:
    animation = opened(data)
    size, last = size_within(animation, side), frames(animation) - 1
    return [frame_at(animation, round(part * last), size) for part in parts]


def _png(pixels: npt.NDArray[np.uint8]) -> bytes:
    from PIL import Image

    target = BytesIO()
    Image.fromarray(pixels).save(target, "PNG")
    return target.getvalue()
