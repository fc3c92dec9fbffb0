"""The colors a page uses, each with what it is used for, from the computed styles of its elements.

Input is what the engine computed (CSSOM, `getComputedStyle`): the cascade is the real one. How much a background covers
is counted on a coarse grid in paint order, so that what lies behind another background does not count.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from enum import StrEnum

import numpy as np
from pydantic import BaseModel, ConfigDict

from pavese.core.color.difference import ciede2000, cielab
from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.role import Role
from pavese.core.kit.token import RgbCode

#: CSS pixels a side of one cell of the grid.
CELL = 4
#: Colors nearer than this (CIEDE2000) in the same use are one; a page's greys would fill the list otherwise.
_SAME = 1.0
_WHITE = Rgba(255, 255, 255)


class PageUse(StrEnum):
    """What a color of a page is used for; in the order in which a role is proposed for it."""

    BUTTON = "button"
    PAGE = "page background"
    BODY = "body text"
    LINK = "link"
    HEADING = "heading"
    SECTION = "section background"
    BUTTON_TEXT = "button text"
    BORDER = "border"


#: The role that a use says; the others are left to the look of the color.
USE_ROLES: dict[PageUse, Role] = {
    PageUse.BUTTON: Role.ACTION,
    PageUse.PAGE: Role.BACKGROUND,
    PageUse.BODY: Role.TEXT_DARK,
    PageUse.BUTTON_TEXT: Role.TEXT_LIGHT,
    PageUse.BORDER: Role.NEUTRAL,
}


class PageElement(BaseModel):
    """An element as the engine laid it out: its parent's place in the list (-1: none), computed colors as CSS text,
    its box in CSS pixels, and what it is."""

    model_config = ConfigDict(frozen=True)

    parent: int
    box: tuple[float, float, float, float]
    background: str
    picture: bool
    color: str
    borders: tuple[str, ...]
    font: str
    words: str
    link: bool
    button: bool
    heading: bool


class UsedColor(BaseModel):
    """A color of a page in one use: how many places, the share (0 to 1) it covers as a background, and an example."""

    model_config = ConfigDict(frozen=True)

    color: RgbCode
    use: PageUse
    places: int
    share: float | None
    example: str


class PageReading(BaseModel):
    """What a page uses; fonts by name, most used first."""

    model_config = ConfigDict(frozen=True)

    address: str
    title: str
    colors: tuple[UsedColor, ...]
    fonts: tuple[tuple[str, int], ...]
    notes: tuple[str, ...] = ()


def read_elements(
    elements: Sequence[PageElement], width: int, height: int
) -> tuple[tuple[UsedColor, ...], tuple[tuple[str, int], ...], tuple[str, ...]]:
    """The colors, the fonts and remarks of a page of this size; elements stand in document order."""
    found: dict[tuple[PageUse, Rgb], _Tally] = {}
    fonts: Counter[str] = Counter()
    grid = np.full((max(height // CELL, 1), max(width // CELL, 1)), -1, dtype=np.int32)
    painted: list[tuple[PageUse, Rgb]] = []
    grounds: list[Rgba] = []
    pictures = 0
    for element in elements:
        under = grounds[element.parent] if element.parent >= 0 else _WHITE
        own = try_color(element.background)
        ground = _over(own, under) if own is not None and own.alpha > 0 else under
        grounds.append(ground)
        pictures += element.picture
        if own is not None and own.alpha > 0:
            use = _ground_use(element)
            painted.append((use, ground.rgb))
            _tally(found, use, ground.rgb, element.words)
            # The page's own background covers the whole canvas (CSS Backgrounds 3, section 2.11.2).
            box = (0.0, 0.0, float(width), float(height)) if use is PageUse.PAGE else element.box
            _paint(grid, box, len(painted) - 1)
        if element.words:
            ink = try_color(element.color)
            if ink is not None and ink.alpha > 0:
                _tally(found, _text_use(element), _over(ink, ground).rgb, element.words)
            fonts[_first_family(element.font)] += 1
        for border in set(element.borders):
            line = try_color(border)
            if line is not None and line.alpha > 0:
                _tally(found, PageUse.BORDER, _over(line, under).rgb, element.words)
    if not any(use is PageUse.PAGE for use, _ in painted):
        # A page that sets no background has the engine's white.
        painted.append((PageUse.PAGE, _WHITE.rgb))
        _tally(found, PageUse.PAGE, _WHITE.rgb, "")
        grid[grid == -1] = len(painted) - 1
    areas = np.bincount(grid[grid >= 0].ravel(), minlength=len(painted)) / grid.size
    shares: Counter[tuple[PageUse, Rgb]] = Counter()
    for key, area in zip(painted, areas.tolist(), strict=True):
        shares[key] += area
    colors = _merged(
        [
            UsedColor(color=color, use=use, places=tally.places, share=shares.get((use, color)), example=tally.example)
            for (use, color), tally in found.items()
        ]
    )
    notes = (f"{pictures} places have a picture or a gradient behind them; set pins to sample those.",)
    return colors, tuple(fonts.most_common(8)), notes if pictures else ()


class _Tally:
    """Places of one color in one use, and the first words seen in it."""

    def __init__(self) -> None:
        self.places = 0
        self.example = ""


def _tally(found: dict[tuple[PageUse, Rgb], _Tally], use: PageUse, color: Rgb, words: str) -> None:
    tally = found.setdefault((use, color), _Tally())
    tally.places += 1
    tally.example = tally.example or words


def _ground_use(element: PageElement) -> PageUse:
    if element.button:
        return PageUse.BUTTON
    return PageUse.PAGE if element.parent <= 0 else PageUse.SECTION


def _text_use(element: PageElement) -> PageUse:
    if element.button:
        return PageUse.BUTTON_TEXT
    if element.link:
        return PageUse.LINK
    return PageUse.HEADING if element.heading else PageUse.BODY


def _over(color: Rgba, ground: Rgba) -> Rgba:
    """A see-through color as it looks on an opaque ground (CSS Compositing 1, section 5.1)."""
    mixed = (round(c * color.alpha + g * (1 - color.alpha)) for c, g in zip(color.rgb, ground.rgb, strict=True))
    return Rgba(*mixed)


def _paint(grid: np.ndarray[tuple[int, ...], np.dtype[np.int32]], box: tuple[float, ...], number: int) -> None:
    x, y, width, height = box
    rows = slice(max(round(y / CELL), 0), max(round((y + height) / CELL), 0))
    columns = slice(max(round(x / CELL), 0), max(round((x + width) / CELL), 0))
    grid[rows, columns] = number


def _first_family(font: str) -> str:
    return font.split(",")[0].strip().strip("\"'")[:60] or "unnamed"


def _merged(colors: Sequence[UsedColor]) -> tuple[UsedColor, ...]:
    """By use, then by weight; colors of one use that cannot be told apart are one."""
    order = list(PageUse)
    kept: list[UsedColor] = []
    for color in sorted(colors, key=lambda used: (order.index(used.use), -(used.share or 0.0), -used.places)):
        same = [
            i
            for i, known in enumerate(kept)
            if known.use is color.use and float(ciede2000(cielab([known.color]), cielab([color.color]))[0]) < _SAME
        ]
        if same:
            known = kept[same[0]]
            share = None if known.share is None and color.share is None else (known.share or 0) + (color.share or 0)
            kept[same[0]] = known.model_copy(update={"places": known.places + color.places, "share": share})
        else:
            kept.append(color)
    return tuple(kept)
