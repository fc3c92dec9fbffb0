"""Pictures of several frames or pages: set below each other they are taken apart as one, so that a paint is one in all
of them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from PIL import Image

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats.picture.container import pixels_of, remarks_on, turn_of
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.profile import Profile
from pavese.core.recolor.pixels import MOVES

#: Rows between frames, so that none is an edge of another; frames of one file.
_BETWEEN, _MOST = 6, 2_000


class Stack(NamedTuple):
    """Frames below each other, shape (rows, columns, 4), clear around them, and where each of them lies."""

    pixels: Levels
    places: tuple[tuple[slice, slice], ...]

    @property
    def first_rows(self) -> int:
        """How many rows the first of them has."""
        return int(self.places[0][0].stop)

    def each(self, colors: Levels) -> list[Levels]:
        """The frames in other colors, shape (rows, columns, 3), as these lie in the whole; each (rows, columns, 4), as
        clear as it was."""
        return [np.dstack([colors[place], self.pixels[place][..., 3]]) for place in self.places]


class Box(NamedTuple):
    """Where a piece lies in its frame, in pixels."""

    left: int
    top: int
    width: int
    height: int


class Piece(NamedTuple):
    """What a file holds of a frame: a rectangle of its own pixels, shape (rows, columns, 4), which takes the place of
    what was there, or is laid over it."""

    left: int
    top: int
    pixels: Levels
    over: bool

    def changed(self, before: Levels, after: Levels) -> Levels:
        """It in the colors of the whole frame, shape (rows, columns, 4), as this was and as it becomes."""
        rows, columns = self.pixels.shape[:2]
        part = np.s_[self.top : self.top + rows, self.left : self.left + columns]
        was, becomes, alpha = before[part], after[part], self.pixels[..., 3]
        made = self.pixels.copy()
        drawn = alpha > 0 if self.over else (was != becomes).any(axis=2)
        made[drawn, :3] = becomes[drawn, :3]
        # What lay half over old colors would now lie over new ones: it is there as it is seen.
        mixed = drawn & self.over & (alpha < 255) & (was[..., 3] == 255)
        made[mixed, 3] = 255
        return made


class MovingPicture:
    """What containers of pictures that move have in common, see `container.Container`."""

    clears = True
    square = 0

    def __init__(self, name: str, image: Image.Image) -> None:
        """Reads the frames of an opened file. Raises RefusedFileError."""
        self.profile, self.turn = Profile(image.info.get("icc_profile")), turn_of(image)
        self.remarks: tuple[str, ...] = (*remarks_on(image), MOVES)
        self.stack = stacked(frames_of(name, image))
        self.pixels, self.seen_rows = self.stack.pixels, self.stack.first_rows

    def check(self, name: str, boxes: Sequence[Box]) -> None:
        """Raises RefusedFileError where the pieces that a file holds are not what its frames are made of; before any of
        them is decoded."""
        rows, columns = self.stack.pixels[self.stack.places[0]].shape[:2]
        beyond = any(box.left + box.width > columns or box.top + box.height > rows for box in boxes)
        if beyond or len(boxes) != len(self.stack.places):
            raise RefusedFileError(name, "the picture is broken: it does not hold the frames that it says.")

    def changed(self, pieces: Sequence[Piece], colors: Levels) -> list[Levels]:
        """The pieces in other colors of the whole."""
        before = self.stack.each(self.pixels[..., :3])
        frames = zip(pieces, before, self.stack.each(colors), strict=True)
        return [piece.changed(was, becomes) for piece, was, becomes in frames]


def stacked(frames: Sequence[Levels]) -> Stack:
    """Frames of shape (rows, columns, 4), of any sizes."""
    columns = max(frame.shape[1] for frame in frames)
    rows = sum(frame.shape[0] + _BETWEEN for frame in frames) - _BETWEEN
    pixels = np.zeros((rows, columns, 4), dtype=np.uint8)
    places: list[tuple[slice, slice]] = []
    top = 0
    for frame in frames:
        place = np.s_[top : top + frame.shape[0], 0 : frame.shape[1]]
        pixels[place] = frame
        places.append(place)
        top += frame.shape[0] + _BETWEEN
    return Stack(pixels, tuple(places))


def frames_of(name: str, image: Image.Image) -> list[Levels]:
    """All frames of a picture as they are seen, each (rows, columns, 4). Raises RefusedFileError for too many, or too
    many pixels together."""
    count = int(getattr(image, "n_frames", 1))
    check_frames(name, count, count * image.width * (image.height + _BETWEEN))
    found: list[Levels] = []
    for number in range(count):
        image.seek(number)
        image.load()
        found.append(with_all(pixels_of(image)))
    return found


def check_frames(name: str, count: int, pixels: int) -> None:
    """Raises RefusedFileError for too many frames, or too many pixels of all of them."""
    if count > _MOST:
        raise RefusedFileError(name, f"it has {count:,} frames; at most {_MOST:,} are recolored.")
    if pixels > limits.PICTURE_PIXELS:
        most = limits.PICTURE_PIXELS // 1_000_000
        raise RefusedFileError(
            name, f"its {count} frames have {pixels / 1e6:.0f} million pixels together; at most {most} are recolored."
        )


def with_all(pixels: Levels) -> Levels:
    """Pixels with an alpha, shape (rows, columns, 4)."""
    if pixels.shape[2] == 4:
        return pixels
    return np.dstack([pixels, np.full(pixels.shape[:2], 255, dtype=np.uint8)])
