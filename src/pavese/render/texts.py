"""What texts stand on, measured on two drawings: the texts alone, each in a color of its own, and all else."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np
import numpy.typing as npt

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import PLAIN, Lettered, Look
from pavese.core.recolor.measure import grounds_under, under_texts
from pavese.core.recolor.texts import Seen, TextRun
from pavese.render.draw import ENGINES
from pavese.render.mixed import blended

#: Pixels that the smallest text gets, and bounds on the longer side of the picture.
_HIGH, _LEAST, _MOST = 12.0, 160, 1400
#: Inks lie so far apart in each channel that one seen through a veil is still known.
_STEP, _LEVELS, _TOLERANCE = 32, 7, 12
#: Pixels of letters count from this alpha on: what is clearer has lost its color.
_SEEN = 40
#: Pixels from this alpha on hide what lies below.
_SOLID = 250


def texts_measured(document: Lettered, paints: Sequence[Rgba], look: Look = PLAIN) -> tuple[TextRun, ...]:
    """Each text of a file on what it stands on in a look. Raises ValueError as `draw.draw` does."""
    texts = document.texts()
    if not any(texts):
        return ()
    smallest = min((text.size for text in texts if text and text.size > 0), default=_HIGH)
    page = document.pages[0]
    side = round(min(max(_HIGH / smallest * max(page.width, page.height), _LEAST), _MOST))
    inks = [_ink(number) for number in range(len(texts))]
    letters, rest = document.inked(inks, look), document.unlettered(look)
    runs: dict[TextRun, None] = {}
    blends = document.inventory().blends
    for drawn, below in zip(
        ENGINES[letters.notation].measured(letters, side),
        ENGINES[rest.notation].measured(rest, side),
        strict=True,
    ):
        numbers = _numbers(drawn, len(inks))
        found = grounds_under(numbers, len(inks), below, paints)
        pixels = under_texts(below, numbers, len(inks))
        for text, grounds, own in zip(texts, found, pixels, strict=True):
            if text is None:
                continue
            for ground in grounds:
                runs[TextRun(text, ground, seen=() if ground else _seen(own, blends))] = None
    return tuple(runs)


def _seen(below: npt.NDArray[np.uint8], blends: Collection[tuple[Rgba, Rgba]]) -> tuple[Seen, ...]:
    """What is seen below a text where it is no one paint, on pixels of shape (count, 4)."""
    solid = below[below[:, 3] > _SOLID, :3].astype(float)
    return blended(solid, blends) if len(solid) else ()


def _ink(number: int) -> Rgb:
    """A color that no two of some 340 texts have in common."""
    digits = (number // _LEVELS**place % _LEVELS for place in range(3))
    return Rgb(*(_STEP // 2 + _STEP * digit for digit in digits))


def _numbers(drawn: npt.NDArray[np.uint8], count: int) -> npt.NDArray[np.int64]:
    """The number of the text that each pixel shows, -1 for none; shape (height, width)."""
    levels = drawn[..., :3].astype(np.int64)
    digits = np.clip((levels - _STEP // 2 + _STEP // 2) // _STEP, 0, _LEVELS - 1)
    near = np.abs(levels - (_STEP // 2 + _STEP * digits)).max(axis=-1) <= _TOLERANCE
    number = digits[..., 0] + _LEVELS * digits[..., 1] + _LEVELS**2 * digits[..., 2]
    return np.where(near & (drawn[..., 3] >= _SEEN) & (number < count), number, -1)
