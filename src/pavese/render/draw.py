"""Draws one file. Runs in a child process only: a hostile file may take the process down with it.

Each notation has its engine: SVG is drawn with resvg, Lottie with rlottie, HTML by Chromium (`browser`), decks by
LibreOffice (`office`).
"""

from __future__ import annotations

import os
import resource
import signal
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from functools import cache
from io import BytesIO
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pavese.core.errors import RefusedFileError
from pavese.core.formats import take_in
from pavese.core.formats.document import Notation, Preview
from pavese.core.formats.svg.size import sized
from pavese.core.kit.typefaces import BASIC
from pavese.core.pictures.kept import keep_on
from pavese.render import browser, office
from pavese.render.motion import STILL_AT, frame_at, frames, opened, size_within
from pavese.render.shelf import FolderShelf

if TYPE_CHECKING:
    import numpy as np
    import numpy.typing as npt
    from PIL import Image

    from pavese.core.color.srgb import Rgba
    from pavese.core.recolor.measure import Measured

#: Moments of an animation at which its paints are measured.
_MEASURED_AT = (0.15, 0.5, 0.85)
_MEMORY = 1536 * 1024 * 1024
_WRITTEN = 320 * 1024 * 1024
#: How wide a page is shown whose look does not say so; up to which width a picture of it is a small one, how high that
#: is for its width; and how wide it is when it is measured.
_PAGE_WIDE, _SMALL, _HEAD, _MEASURED_WIDE = 900, 400, 1.25, 225
#: How hard pictures are packed that are looked at once.
_QUICKLY = 3
#: No scaling or turning: the drawing has the wanted size already.
_AS_IT_IS = (1.0, 0.0, 0.0, 0.0, 1.0, 0.0)
#: How far a child stands behind those that wait for nothing but the processor, as `nice` counts.
_BEHIND = 2
_fonts: list[str] = []


def prepare(fonts_dir: str, formats: Sequence[str] = (), keeps: str | None = None) -> None:
    """Bounds this process before it sees any file: memory, no core dumps, no file larger than a decoded picture. It
    `keeps` what it makes of pictures in that folder.

    Ctrl-C goes to the whole group of processes; the application ends its children itself. What answers requests goes
    before what draws.
    """
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(_BEHIND)
    browser.start()
    resource.setrlimit(resource.RLIMIT_AS, (_MEMORY, _MEMORY))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_FSIZE, (_WRITTEN, _WRITTEN))
    load_fonts(fonts_dir)
    take_in(formats)
    if keeps is not None:
        keep_on(FolderShelf(Path(keeps)))


def load_fonts(fonts_dir: str) -> None:
    """The typefaces that the engine of drawings may use, which knows no others; the office program shows decks in them
    beside those of the machine."""
    _fonts[:] = [str(path) for path in sorted(Path(fonts_dir).glob("*.ttf"))]
    _options.cache_clear()
    office.use_fonts(Path(fonts_dir))


@dataclass(frozen=True)
class Engine:
    """What draws a notation: its picture as a PNG whose longer side is so many pixels, and the pictures (shape
    (height, width, 4), RGBA with straight alpha) by which it is measured. Both raise ValueError with the engine's words
    when the content cannot be drawn."""

    picture: Callable[[Preview, int], bytes]
    measured: Callable[[Preview, int], Iterable[npt.NDArray[np.uint8]]]


def draw(preview: Preview, side: int) -> bytes:
    """A PNG whose longer side is `side` pixels, the proportions kept, on a transparent ground.

    An animation is drawn at one moment. Raises ValueError with the engine's words when the file cannot be drawn.
    """
    return ENGINES[preview.notation].picture(preview, side)


def _vector(preview: Preview, side: int) -> bytes:
    from resvg import render, usvg

    try:
        tree = usvg.Tree.from_str(sized(preview.content, side).decode(), _options())
        return bytes(render(tree, _AS_IT_IS))
    except RefusedFileError as error:
        raise ValueError(error.reason) from error
    except BaseException as panic:
        # The engine's own failures are of a class that no other process knows.
        if type(panic).__module__ == "pyo3_runtime":
            raise ValueError(f"the drawing engine gave up on it ({panic})") from None
        raise


@cache
def _options() -> Any:
    """What the engine is told of typefaces, read once in each process."""
    from resvg import usvg

    options = usvg.Options.default()
    options.font_family = BASIC
    for path in _fonts:
        options.load_font_file(path)
    return options


def draw_masks(drawings: Sequence[Preview], count: int, side: int) -> bytes:
    """The masks of `count` paints below each other, as a PNG that is see-through where a paint is not.

    Each drawing shows three of them, see `spotlight.mask_recolorings`. Raises ValueError as `draw` does.
    """
    import numpy as np

    masks: list[npt.NDArray[np.uint8]] = []
    for drawing in drawings:
        pixels = pixels_of(draw(drawing, side)).astype(np.uint16)
        masks += [(pixels[..., channel] * pixels[..., 3] // 255).astype(np.uint8) for channel in range(3)]
    return strip_png(np.concatenate(masks[:count]))


def strip_png(strip: npt.NDArray[np.uint8]) -> bytes:
    """Masks below each other as a PNG that is see-through where they are 0."""
    import numpy as np

    return png_of(np.stack([np.zeros_like(strip), strip], axis=-1))


def draw_measured(preview: Preview, paints: Sequence[Rgba]) -> Measured:
    """What `measure` finds on small pictures of it. Raises ValueError as `draw` does."""
    from pavese.core.recolor.measure import SIDE, combined, measure

    return combined(measure(pixels, paints) for pixels in ENGINES[preview.notation].measured(preview, SIDE))


def picture_png(data: bytes, side: int) -> bytes:
    """A picture file as a PNG within a square. Raises ValueError for what cannot be read."""
    from PIL import Image

    from pavese.core.pictures.decode import decode_picture

    try:
        picture = Image.fromarray(decode_picture("", data).pixels)
    except RefusedFileError as error:
        raise ValueError(error.reason) from error
    picture.thumbnail((side, side))
    return _png_of(picture)


def _pixels(preview: Preview, side: int) -> bytes:
    """A picture in another size; small ones are made larger as other programs do."""
    from PIL import Image

    with Image.open(BytesIO(preview.content)) as picture:
        part = side / max(picture.size)
        size = (max(round(picture.width * part), 1), max(round(picture.height * part), 1))
        return _png_of(picture if size == picture.size else picture.resize(size, Image.Resampling.LANCZOS))


def pixels_of(png: bytes) -> npt.NDArray[np.uint8]:
    """The pixels of a picture, shape (height, width, 4), RGBA with straight alpha."""
    import numpy as np
    from PIL import Image

    with Image.open(BytesIO(png)) as picture:
        return np.asarray(picture.convert("RGBA"))


def _moments(preview: Preview, side: int, parts: Sequence[float]) -> list[npt.NDArray[np.uint8]]:
    animation = opened(preview.content)
    size, last = size_within(animation, side), frames(animation) - 1
    return [frame_at(animation, round(part * last), size) for part in parts]


def _page_measured(preview: Preview, _side: int) -> Iterable[npt.NDArray[np.uint8]]:
    """Every so-manieth pixel of a page: mixtures would be no paints."""
    pixels = pixels_of(_page_shown(preview))
    step = max(pixels.shape[1] // _MEASURED_WIDE, 1)
    return (pixels[::step, ::step],)


def _page_shown(preview: Preview) -> bytes:
    width = preview.look.width or _PAGE_WIDE
    return browser.show(browser.Asked(preview.content, width, preview.look.dark, picture=True, part=preview.part)).png


def _page(preview: Preview, side: int) -> bytes:
    """A page `side` wide, or as wide as it is shown. A small picture holds its head only: whole, it tells nothing."""
    from PIL import Image

    with Image.open(BytesIO(_page_shown(preview))) as picture:
        width = min(side, picture.width)
        high = picture.height if side > _SMALL else min(picture.height, round(picture.width * _HEAD))
        seen = picture.convert("RGB").crop((0, 0, picture.width, high))
        target = BytesIO()
        seen.resize((width, max(round(high * width / picture.width), 1)), Image.Resampling.LANCZOS).save(target, "PNG")
    return target.getvalue()


def _slides_measured(preview: Preview, side: int, kind: office.Kind = "pdf") -> Iterable[npt.NDArray[np.uint8]]:
    import numpy as np

    for pixels in office.pixels(preview.content, side, kind):
        yield np.dstack([pixels, np.full(pixels.shape[:2], 255, dtype=np.uint8)])


def png_of(pixels: npt.NDArray[np.uint8]) -> bytes:
    """Pixels as a PNG."""
    from PIL import Image

    return _png_of(Image.fromarray(pixels))


def _png_of(picture: Image.Image) -> bytes:
    target = BytesIO()
    picture.save(target, "PNG", compress_level=_QUICKLY)
    return target.getvalue()


ENGINES: dict[Notation, Engine] = {
    Notation.VECTOR: Engine(_vector, lambda preview, side: (pixels_of(_vector(preview, side)),)),
    Notation.MOTION: Engine(
        lambda preview, side: png_of(_moments(preview, side, (STILL_AT,))[0]),
        lambda preview, side: _moments(preview, side, _MEASURED_AT),
    ),
    Notation.PAGE: Engine(_page, _page_measured),
    Notation.OFFICE: Engine(
        lambda preview, side: office.picture(preview.content, preview.page, side),
        _slides_measured,
    ),
    Notation.NOTES: Engine(
        lambda preview, side: office.picture(preview.content, preview.page, side, "notes"),
        lambda preview, side: _slides_measured(preview, side, "notes"),
    ),
    Notation.PICTURE: Engine(_pixels, lambda preview, _: (pixels_of(preview.content),)),
}
