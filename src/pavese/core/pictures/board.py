"""A board: pictures set in justified rows, every row as wide as the board, or where a person laid them; and the one
picture they make together."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from PIL import Image

from pavese.core.color.extract import Pixels

#: Width of a board, and the gap between pictures, in pixels.
WIDTH = 1600
GAP = 12
#: Height of a row before it is justified, at scale 1.
_ROW = 340
_TALLEST_ROW = 620


@dataclass(frozen=True)
class Part:
    """The part of a picture that is shown, its edges as shares (0 to 1) of the picture's width and height."""

    left: float = 0.0
    top: float = 0.0
    right: float = 1.0
    bottom: float = 1.0

    @property
    def across(self) -> float:
        """How much of the width is shown, 0 to 1."""
        return self.right - self.left

    @property
    def down(self) -> float:
        """How much of the height is shown, 0 to 1."""
        return self.bottom - self.top


WHOLE = Part()


@dataclass(frozen=True)
class Placed:
    """Where a picture lies on the board, in pixels."""

    x: int
    y: int
    width: int
    height: int

    def holds(self, x: float, y: float) -> bool:
        """Whether a column and row of the board lie in it."""
        return self.x <= x < self.x + self.width and self.y <= y < self.y + self.height


def arrange(shapes: Sequence[tuple[float, float]], top: int = GAP) -> tuple[list[Placed], int]:
    """The places of pictures given as (aspect: width by height, scale: how large beside the others), from the row of
    pixels `top` downwards, and the height of the board that holds them.

    Pictures keep their order and their aspect. Rows are filled until they are as wide as the board, then justified:
    all pictures of a row have one height, and the row ends at the board's edge.
    """
    placed: list[Placed] = []
    rows = _rows(shapes)
    for row in rows:
        # The last row is not blown up to be as wide as those above it; a row that is alone is.
        short = _is_short(row) and len(rows) > 1
        room = WIDTH - GAP * (len(row) + 1)
        high = room / sum(aspect for aspect, _ in row)
        wanted = _ROW * max(scale for _, scale in row)
        height = round(min(high, max(wanted, 1) if short else _TALLEST_ROW))
        left = GAP
        for at, (aspect, _) in enumerate(row):
            width = max(round(height * aspect), 1)
            if at == len(row) - 1 and not short and height == round(high):
                width = WIDTH - GAP - left
            placed.append(Placed(left, top, max(width, 1), max(height, 1)))
            left += width + GAP
        top += height + GAP
    return placed, top


def compose(
    pictures: Iterable[Pixels], places: Sequence[Placed], height: int, parts: Sequence[Part] | None = None
) -> Pixels:
    """The board as one picture of shape (height, WIDTH, 4); between the pictures it is see-through.

    Later pictures lie over earlier ones; of each the part in `parts` is shown, or all of it. Pictures are taken one
    after another, so that only one is held at its full size.
    """
    board = Image.new("RGBA", (WIDTH, max(height, GAP * 2)), (0, 0, 0, 0))
    for pixels, place, part in zip(pictures, places, parts or [WHOLE] * len(places), strict=True):
        rows, columns = pixels.shape[:2]
        shown = (part.left * columns, part.top * rows, part.right * columns, part.bottom * rows)
        image = Image.fromarray(pixels).resize((place.width, place.height), Image.Resampling.LANCZOS, box=shown)
        board.alpha_composite(image, (place.x, place.y))
    return np.asarray(board)


def on_white(pixels: Pixels) -> Pixels:
    """A picture laid on white, shape (rows, columns, 4)."""
    paper = Image.new("RGBA", (pixels.shape[1], pixels.shape[0]), (255, 255, 255, 255))
    paper.alpha_composite(Image.fromarray(pixels))
    return np.asarray(paper)


def _rows(shapes: Sequence[tuple[float, float]]) -> list[list[tuple[float, float]]]:
    """Filled row by row; a picture at scale 2 counts twice as wide, so that its row gets higher."""
    rows: list[list[tuple[float, float]]] = []
    row: list[tuple[float, float]] = []
    for aspect, scale in shapes:
        row.append((aspect, scale))
        if _width(row) >= WIDTH:
            rows.append(row)
            row = []
    return [*rows, row] if row else rows


def _is_short(row: Sequence[tuple[float, float]]) -> bool:
    return _width(row) < WIDTH


def _width(row: Sequence[tuple[float, float]]) -> float:
    return sum(aspect * scale * _ROW for aspect, scale in row) + GAP * (len(row) + 1)
