"""What is done to a picture where somebody pointed, as it is shown: things, parts, headline.

The functions named with an underscore run in a child.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple, cast

import numpy as np
import numpy.typing as npt
from PIL import Image

from pavese.core.errors import PaveseError
from pavese.core.formats.intake import Becoming, Came
from pavese.core.formats.picture.document import PictureDocument
from pavese.core.formats.picture.pointing import Headroom, rectangle, sought_of
from pavese.core.pictures.again import Again
from pavese.core.pictures.again import found_again as again
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.objects import covering, object_in
from pavese.core.recolor.pointed import PictureParts, PointedAt, Region
from pavese.render.draw import png_of
from pavese.render.pool import DrawingPool
from pavese.render.remembered import document_of, seconds_for

#: The longer side of a picture from which a piece is taken that is looked for in others.
_PIECE_SIDE = 1600


def headroom(pool: DrawingPool, wanted: Becoming) -> Headroom | None:
    """What the headline of a picture has under it; None where it has none. Raises CannotDrawError."""
    found: Headroom | None = pool.done(_headroom, wanted, seconds=seconds_for(wanted.file))
    return found


def logos_that_stay(pool: DrawingPool, wanted: Becoming) -> tuple[str, ...]:
    """Of each framed part of a picture why the kit's logo does not stand there (`PictureDocument.logos`). Raises
    CannotDrawError."""
    found: tuple[str, ...] = pool.done(_logos_that_stay, wanted, seconds=seconds_for(wanted.file))
    return found


def thing(pool: DrawingPool, file: Came, wanted: PointedAt, side: int) -> bytes:
    """A PNG that covers all of a picture but a thing in it. Raises CannotDrawError."""
    made: bytes = pool.done(_thing, file, wanted, side, seconds=seconds_for(file))
    return made


def photograph(pool: DrawingPool, file: Came, parts: PictureParts, side: int) -> bytes:
    """A PNG that covers all of a picture but what is taken for a photograph. Raises CannotDrawError."""
    made: bytes = pool.done(_photograph, file, parts, side, seconds=seconds_for(file))
    return made


class LookedThrough(NamedTuple):
    """Where a part of another picture stands in one, None where it does not; `failed` says why it is not known."""

    found: Again | None
    failed: str = ""


def found_again(pool: DrawingPool, file: Came, region: Region, others: Sequence[Came]) -> list[LookedThrough]:
    """Where a part of a picture stands in others, in their order; one that cannot be read leaves the others be."""
    started = [pool.begin(_again, file, region, other, seconds=seconds_for(other)) for other in others]
    looked = []
    for ticket in started:
        try:
            looked.append(LookedThrough(pool.ended(ticket)))
        except PaveseError as error:
            looked.append(LookedThrough(None, str(error)))
    return looked


def _logos_that_stay(wanted: Becoming) -> tuple[str, ...]:
    return cast(PictureDocument, document_of(wanted.file)).logos(wanted.changes)


def _headroom(wanted: Becoming) -> Headroom | None:
    return cast(PictureDocument, document_of(wanted.file)).headroom(wanted.changes)


def _thing(file: Came, wanted: PointedAt, side: int) -> bytes:
    pixels = _small(file, side)
    found = object_in(pixels, sought_of(wanted))
    parts = np.zeros(pixels.shape[:2], dtype=np.float32) if found is None else found.whole(pixels.shape)
    return png_of(covering(parts))


def _photograph(file: Came, parts: PictureParts, side: int) -> bytes:
    taken = cast(PictureDocument, document_of(file)).photograph(parts)
    shown = Image.fromarray(taken.astype(np.uint8) * 255)
    shown.thumbnail((side, side))
    return png_of(covering(np.asarray(shown, dtype=np.float32) / np.float32(255)))


def _again(file: Came, region: Region, other: Came) -> Again | None:
    pixels = _small(file, _PIECE_SIDE)
    return again(rectangle(region, pixels.shape).of(pixels), _small(other, _PIECE_SIDE))


@lru_cache(maxsize=8)
def _small(file: Came, side: int) -> npt.NDArray[np.uint8]:
    """The pixels of a picture as it is seen, with a longer side of so many at most."""
    pixels = decode_picture(file.name, file.data).pixels[..., :3]
    by = max(-(-max(pixels.shape[:2]) // side), 1)
    return np.asarray(Image.fromarray(np.ascontiguousarray(pixels)).reduce(by))
