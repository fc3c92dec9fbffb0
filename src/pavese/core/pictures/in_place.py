"""What stands in a frame of a picture, such as a sign, taken out, and another drawing put in its place.

It is told from what it stands on, which has to be even, or to run evenly: the line of the frame shows it. A ground that
runs is a polynomial of the second degree of place in each channel, fitted to that line by least squares.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw
from scipy import ndimage

from pavese.core.color.srgb import Rgb
from pavese.core.pictures.masks import grown
from pavese.core.pictures.mixture import Floats, Levels
from pavese.core.pictures.veil import Rectangle

_Mask = npt.NDArray[np.bool_]

#: By how many levels more than noise what stands on a ground differs from it, its edges and it itself.
_EDGE, _SURE = 3, 24
#: How much of a frame's line has to be ground.
_MOSTLY = 0.7
#: How often it is fitted, each time without what stood out.
_TIMES = 4
#: How far beyond a frame is looked, as a part of its longer side, and how much of a thing has to be in it to be meant.
_AROUND, _WITHIN = 0.25, 0.5
#: By how many pixels more is taken out of what is exact, and of what is coded.
_SOFT, _CODED = 1, 4
#: How much nearer to one side of a picture than to the other is near to it.
_NEARER = 0.6
#: How much finer a backing is drawn before its edges are made soft.
_FINER = 4


class Standing(NamedTuple):
    """What stands in a frame: where is ground that shows what the ground is, shape (rows, columns), and what stands on
    it; `at` is the place of that."""

    ground: _Mask
    things: _Mask
    at: Rectangle


class Backed(NamedTuple):
    """What is laid behind a drawing: a color, how round its corners are, in percent of its height, and by how much it
    is larger on each side, as a part of the drawing's height."""

    color: Rgb
    corners: int
    padding: float


def around(frame: Rectangle, shape: tuple[int, ...]) -> Rectangle:
    """The part of a picture of so many rows and columns that tells what stands in a frame."""
    more = math.ceil(_AROUND * max(frame.bottom - frame.top, frame.right - frame.left)) + 1
    return Rectangle(
        max(frame.top - more, 0),
        min(frame.bottom + more, shape[0]),
        max(frame.left - more, 0),
        min(frame.right + more, shape[1]),
    )


def standing_in(pixels: Levels, frame: Rectangle, noise: float) -> Standing | None:
    """What stands in a frame of such a part, shape (rows, columns, 4); None where it stands on nothing even. What runs
    through the frame stays."""
    seen = _as_seen(pixels)
    inside = np.zeros(seen.shape[:2], dtype=np.bool_)
    inside[frame.top : frame.bottom, frame.left : frame.right] = True
    line = inside & ~ndimage.binary_erosion(inside)
    found = _ground_along(seen, line, noise + _EDGE)
    if found is None:
        return None
    apart = np.abs(seen.astype(np.float32) - found).max(axis=2)
    maybe, sure = apart > noise + _EDGE, apart > noise + _SURE
    ground = line & ~maybe
    if not ground.any():
        return None
    things = _within(maybe, sure, inside, _CODED if noise else _SOFT)
    where = np.argwhere(things & sure)
    if not len(where):
        return Standing(ground, things, frame)
    (top, left), (bottom, right) = where.min(axis=0), where.max(axis=0) + 1
    return Standing(ground, things, Rectangle(int(top), int(bottom), int(left), int(right)))


def without(pixels: Levels, standing: Standing) -> tuple[Levels, Rgb | None]:
    """Pixels, shape (rows, columns, 4), without what stands in a frame, which may have come to stand on another ground;
    and that ground in the middle of it, None where it is clear."""
    made = pixels.copy()
    ground = _fitted(_as_seen(made), standing.ground)
    made[standing.things] = ground[standing.things]
    middle = ground[ground.shape[0] // 2, ground.shape[1] // 2]
    return made, Rgb(*map(int, middle[:3])) if middle[3] > 127 else None


def laid(
    pixels: Levels, drawing: Levels, at: Rectangle, frame: Rectangle, backed: Backed | None, beside: tuple[int, int]
) -> Levels:
    """Pixels, shape (rows, columns, 4), with a drawing on them that covers as much as what stood `at` a place, but
    stays within a frame: in the middle of what stood there, or at that side of it which stood near to the picture's,
    which goes on `beside` them by so many columns, left and right. What is laid behind it stays within the frame,
    too."""
    drawn = cut(drawing)
    more = 2 * backed.padding if backed is not None else 0.0
    room = frame.right - frame.left, frame.bottom - frame.top
    part = min(
        math.sqrt((at.right - at.left) * (at.bottom - at.top) / (drawn.width * drawn.height)),
        room[0] / (drawn.width + more * drawn.height),
        room[1] / (drawn.height * (1 + more)),
    )
    size = max(round(drawn.width * part), 1), max(round(drawn.height * part), 1)
    beyond = round(backed.padding * size[1]) if backed is not None else 0
    whole = Image.fromarray(pixels)
    box = size[0] + 2 * beyond, size[1] + 2 * beyond
    to_left, to_right = beside[0] + at.left, whole.width - at.right + beside[1]
    begin = (at.left + at.right - box[0]) // 2
    if min(to_left, to_right) < _NEARER * max(to_left, to_right):
        begin = at.left if to_left < to_right else at.right - box[0]
    left, top = (
        min(max(wanted, edge), edge + space - length) + beyond
        for wanted, length, edge, space in (
            (begin, box[0], frame.left, room[0]),
            ((at.top + at.bottom - box[1]) // 2, box[1], frame.top, room[1]),
        )
    )
    if backed is not None:
        shape = Image.new("L", (box[0] * _FINER, box[1] * _FINER), 0)
        corners = backed.corners / 100 * box[1] * _FINER
        ImageDraw.Draw(shape).rounded_rectangle((0, 0, shape.width - 1, shape.height - 1), corners, fill=255)
        behind = Image.new("RGBA", box, (*backed.color, 255))
        behind.putalpha(shape.reduce(_FINER))
        whole.alpha_composite(behind, (left - beyond, top - beyond))
    whole.alpha_composite(drawn.resize(size, Image.Resampling.LANCZOS), (left, top))
    return np.asarray(whole)


def cut(drawing: Levels) -> Image.Image:
    """A drawing, shape (rows, columns, 4), without the clear edges about it."""
    drawn = Image.fromarray(drawing)
    return drawn.crop(drawn.getchannel("A").getbbox() or (0, 0, *drawn.size))


def covered(pixels: Levels, frame: Rectangle, color: Rgb) -> Levels:
    """Pixels, shape (rows, columns, 4), with a frame filled with a color."""
    made = pixels.copy()
    frame.of(made)[:] = (*color, 255)
    return made


def _as_seen(pixels: Levels) -> Levels:
    """Pixels of which those that are clear are alike."""
    return np.where(pixels[..., 3:] == 0, np.uint8(0), pixels)


def _ground_along(seen: Levels, line: _Mask, most: float) -> Floats | None:
    """The ground that the line of a frame shows, everywhere; None where it is not even and does not run evenly."""
    rows, columns = np.nonzero(line)
    there = seen[rows, columns].astype(np.float32)
    taken = np.abs(there - np.median(there, axis=0)).max(axis=1) <= most
    if taken.mean() < _MOSTLY:
        # It may run; what stands out of that is left out, and the rest tells it again.
        taken = np.ones(len(there), dtype=np.bool_)
        for _ in range(_TIMES):
            fitted = _polynomial(rows[taken], columns[taken], there[taken], seen.shape)[rows, columns]
            off = np.abs(there - fitted).max(axis=1)
            taken = off <= max(most, 2 * float(np.median(off)))
        taken = off <= most
        if taken.mean() < _MOSTLY:
            return None
    mask = np.zeros(line.shape, dtype=np.bool_)
    mask[rows[taken], columns[taken]] = True
    return _fitted(seen, mask).astype(np.float32)


def _fitted(seen: Levels, ground: _Mask) -> Levels:
    """The ground that some pixels show, everywhere: the color of most of them where they hardly differ."""
    rows, columns = np.nonzero(ground)
    there = seen[rows, columns]
    colors, counts = np.unique(there, axis=0, return_counts=True)
    if counts.max() >= _MOSTLY * len(there) or np.ptp(there, axis=0).max() <= 2:
        made = np.empty_like(seen)
        made[:] = colors[counts.argmax()]
        return made
    fitted = _polynomial(rows, columns, there.astype(np.float32), seen.shape)
    return np.clip(np.rint(fitted), 0, 255).astype(np.uint8)


def _polynomial(
    rows: npt.NDArray[np.intp], columns: npt.NDArray[np.intp], values: Floats, shape: tuple[int, ...]
) -> Floats:
    """What runs through values at some places, at all places of a shape."""

    def terms(y: Floats, x: Floats) -> Floats:
        return np.stack([np.ones_like(x), x, y, x * y, x * x, y * y], axis=-1)

    down, across = (np.linspace(-1, 1, size, dtype=np.float32) for size in shape[:2])
    found, *_ = np.linalg.lstsq(terms(down[rows], across[columns]), values, rcond=None)
    return np.asarray(terms(*np.meshgrid(down, across, indexing="ij")) @ found.astype(np.float32))


def _within(maybe: _Mask, sure: _Mask, inside: _Mask, more: int) -> _Mask:
    """What stands in a frame for the most part and ends near it, with what is soft around it, and all that is in it
    alone."""
    square = np.ones((3, 3), dtype=np.bool_)
    of, count = ndimage.label(maybe, square)
    everywhere = np.bincount(of.ravel(), minlength=count + 1)
    share = np.bincount(of[inside], minlength=count + 1) / np.maximum(everywhere, 1)
    stands = np.bincount(of[sure], minlength=count + 1) > 0
    stands[0] = False
    goes_on = np.zeros(count + 1, dtype=np.bool_)
    for edge in (of[0], of[-1], of[:, 0], of[:, -1]):
        goes_on[edge] = True
    meant = ((stands & (share >= _WITHIN)) | (share == 1)) & ~goes_on
    meant[0] = False
    return np.asarray(grown(meant[of], more) & ~(stands & ~meant)[of])
