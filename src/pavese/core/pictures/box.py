"""A picture with a box of one color round what it shows, as logos are often sent; and the same freed of it.

Where the box meets the drawing, pixels are blends of both. Each is taken apart as the compositing of the drawing's
nearest full color over the box (Porter and Duff, *source over*): alpha is its part, the color what was drawn.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.color.extract import Pixels
from pavese.core.color.srgb import Rgb
from pavese.core.pictures.mixture import levels_apart

#: What counts as the box's own color, in a channel: what JPEG makes of white beside an edge.
_NEAR = 10
#: Part of the border that has to be of one color, and how much of the picture may be drawn at least.
_BORDER, _DRAWN = 0.98, 0.002
#: Pixels along a side that are looked at for what is drawn.
_LOOKED_AT = 1200
#: Largest picture that is freed, in pixels.
MOST_PIXELS = 16_000_000
#: Pixels from the box in which blends with it are looked for.
_FRINGE = 3

_Mask = npt.NDArray[np.bool_]


def box_of(pixels: Pixels) -> Rgb | None:
    """The color of the box round what a picture (rows, columns, 4) shows; None where it has none."""
    edge = np.concatenate([pixels[0], pixels[-1], pixels[:, 0], pixels[:, -1]])
    color = np.median(edge[:, :3], axis=0).astype(np.uint8)
    same = _alike(edge, color) & (edge[:, 3] >= 250)
    if same.mean() < _BORDER:
        return None
    step = max(1, max(pixels.shape) // _LOOKED_AT)
    drawn = ~_alike(pixels[::step, ::step], color)
    return Rgb(*map(int, color)) if drawn.mean() >= _DRAWN else None


def freed(pixels: Pixels, *, inside: bool = False) -> Pixels:
    """The picture with its box made clear, also (`inside`) where what is drawn encloses parts of it, as in an O.

    A picture that has none stays as it is.
    """
    found = box_of(pixels)
    if found is None:
        return pixels
    color = np.array(found, dtype=np.uint8)
    box = _alike(pixels, color)
    if not inside:
        box = _from_border(box)
    made = pixels.copy()
    made[box] = 0
    fringe = ndimage.binary_dilation(box, iterations=_FRINGE) & ~box
    full = ~box & ~fringe
    if full.any():
        _take_apart(made, color.astype(np.float64), fringe, full)
    return made


def _alike(pixels: Pixels, color: Pixels) -> _Mask:
    found: _Mask = levels_apart(pixels[..., :3], color) <= _NEAR
    return found


def _from_border(box: _Mask) -> _Mask:
    labels, _ = ndimage.label(box)
    edge = np.concatenate([labels[0], labels[-1], labels[:, 0], labels[:, -1]])
    touching: _Mask = np.isin(labels, np.unique(edge[edge > 0]))
    return touching


def _take_apart(made: Pixels, box: npt.NDArray[np.float64], fringe: _Mask, full: _Mask) -> None:
    """Sets the pixels of the fringe to the nearest full color, as see-through as they hold of the box."""
    places: Any = ndimage.distance_transform_edt(~full, return_distances=False, return_indices=True)
    rows, columns = places[0][fringe], places[1][fringe]
    drawn, blend = made[rows, columns, :3].astype(np.float64), made[fringe][:, :3].astype(np.float64)
    way = drawn - box
    alpha = np.clip(((blend - box) * way).sum(axis=1) / np.maximum((way * way).sum(axis=1), 1), 0, 1)
    made[fringe] = np.column_stack([drawn, np.rint(255 * alpha)]).astype(np.uint8)
