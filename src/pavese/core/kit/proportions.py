"""How a kit looks in use: which color takes the large, the middle and the small share, on sample layouts.

The share of 60, 30 and 10 is the interior designers' rule of thumb. Layouts are rectangles whose areas are exactly
the shares; text on them takes the kit's own text colors where they read (WCAG 2.2, 1.4.3).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from textwrap import wrap

from pavese.core.color.contrast import BLACK, TEXT, WHITE, contrast_ratio, luminance
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.kit import Kit
from pavese.core.kit.role import Role
from pavese.core.kit.samples import Samples

#: Share of each slot in percent when no others are given.
USUAL = (60.0, 30.0, 10.0)


@dataclass(frozen=True)
class Slot:
    """A color with its share (percent) and the color of text on it, whose ratio is unrounded."""

    color: Rgb
    share: float
    ink: Rgb
    ratio: float


@dataclass(frozen=True)
class Box:
    """A rectangle of a layout in the unit of its width; `slot` is 0 (large), 1 (middle) or 2 (small)."""

    slot: int
    x: float
    y: float
    width: float
    height: float

    @property
    def area(self) -> float:
        """Width times height."""
        return self.width * self.height


@dataclass(frozen=True)
class Layout:
    """A sample: its name, its height (its width is 1), boxes painted in order, and lines of text on them.

    A line is (slot it stands on, x, y of the baseline, size, words).
    """

    name: str
    height: float
    boxes: tuple[Box, ...]
    lines: tuple[tuple[int, float, float, float, str], ...]


def usual_colors(kit: Kit) -> tuple[Rgb, Rgb, Rgb]:
    """The colors for the large, middle and small share: background, primary, action, or what comes nearest."""

    def first(*roles: Role) -> Rgb | None:
        return next((color.base for role in roles for color in kit.colors if color.role is role), None)

    large = first(Role.BACKGROUND, Role.TEXT_LIGHT) or WHITE
    middle = first(Role.PRIMARY, Role.SECONDARY, Role.ACCENT, Role.NEUTRAL) or BLACK
    small = first(Role.ACTION, Role.ACCENT, Role.SECONDARY) or middle
    return large, middle, small


def slots(colors: Sequence[Rgb], inks: Sequence[Rgb], shares: Sequence[float] = USUAL) -> tuple[Slot, ...]:
    """Three colors with their shares and the ink that reads on each. Raises InvalidKitError for other shares."""
    if len(colors) != 3 or len(shares) != 3 or min(shares) < 1 or abs(sum(shares) - 100) > 0.01:
        raise InvalidKitError("Shares are three numbers of at least 1 that make 100 together.")
    return tuple(Slot(color, share, *_ink(color, inks)) for color, share in zip(colors, shares, strict=True))


def inks_of(kit: Kit) -> tuple[Rgb, ...]:
    """The kit's own text colors, first those meant as text, then any other dark or light one."""
    meant = [color.base for color in kit.colors if color.role in (Role.TEXT_DARK, Role.TEXT_LIGHT)]
    others = [color.base for color in kit.colors if color.role in (Role.BACKGROUND, Role.NEUTRAL)]
    return (*meant, *others)


def dark_ground(kit: Kit) -> Rgb:
    """The ground of the inverted look: the kit's dark text color, else its darkest, else black."""
    meant = next((color.base for color in kit.colors if color.role is Role.TEXT_DARK), None)
    if meant is not None or not kit.colors:
        return meant or BLACK
    return min((color.base for color in kit.colors), key=luminance)


def layouts(words: Samples, shares: Sequence[float] = USUAL) -> tuple[Layout, ...]:
    """Every sample layout in these words, its areas made to the shares."""
    middle, small = shares[1] / 100, shares[2] / 100
    return tuple(make(words, middle, small) for make in _LAYOUTS)


def _ink(ground: Rgb, inks: Sequence[Rgb]) -> tuple[Rgb, float]:
    """The first of the kit's inks that reads on the ground; failing that, white or black, whichever reads better."""
    for ink in inks:
        ratio = contrast_ratio(ink, ground)
        if ratio >= TEXT:
            return ink, ratio
    best = max((WHITE, BLACK), key=lambda ink: contrast_ratio(ink, ground))
    return best, contrast_ratio(best, ground)


def _lines(text: str, most: int, characters: int) -> list[str]:
    """A text in at most so many lines of about so many characters; what is left over is not shown."""
    return wrap(text, characters, max_lines=most, placeholder="…") or [""]


def _email(words: Samples, middle: float, small: float) -> Layout:
    """A head band, and a button below the text."""
    height = 1.3
    area = height
    band = middle * area
    button_height = 0.6 * small**0.5
    return Layout(
        "email",
        height,
        (Box(0, 0, 0, 1, height), Box(1, 0, 0, 1, band), *_rows(2, small * area, 0.08, height, button_height)),
        (
            (1, 0.08, band * 0.6, 0.085, _lines(words.headline, 1, 22)[0]),
            *((0, 0.08, band + 0.1 + 0.07 * at, 0.05, line) for at, line in enumerate(_lines(words.sentence, 2, 34))),
        ),
    )


def _slide(words: Samples, middle: float, small: float) -> Layout:
    """A panel at the left, a strip along the foot."""
    height = 0.5625
    foot = small * height
    panel = middle * height / (height - foot)
    return Layout(
        "slide",
        height,
        (Box(0, 0, 0, 1, height), Box(1, 0, 0, panel, height - foot), Box(2, 0, height - foot, 1, foot)),
        (
            (1, 0.03, 0.12, 0.055, "1"),
            (0, panel + 0.05, 0.15, 0.06, _lines(words.headline, 1, 20)[0]),
            *((0, panel + 0.05, 0.24 + 0.055 * at, 0.035, one) for at, one in enumerate(_lines(words.sentence, 3, 34))),
        ),
    )


def _poster(words: Samples, middle: float, small: float) -> Layout:
    """A sea at the foot, a sun over it."""
    height = 1.414
    sea = middle * height
    side = (small * height) ** 0.5
    return Layout(
        "poster",
        height,
        (
            Box(0, 0, 0, 1, height),
            Box(1, 0, height - sea, 1, sea),
            Box(2, 0.9 - side, max(height - sea - side - 0.08, 0.0), side, side),
        ),
        (
            *((0, 0.08, 0.18 + 0.12 * at, 0.115, line) for at, line in enumerate(_lines(words.headline, 2, 14))),
            (1, 0.08, height - 0.1, 0.05, words.action),
        ),
    )


def _social(words: Samples, middle: float, small: float) -> Layout:
    """A square with a band, and a patch on its ground."""
    return Layout(
        "social picture",
        1.0,
        (Box(0, 0, 0, 1, 1), Box(1, 0, 1 - middle, 1, middle), *_patch(small, middle)),
        ((0, 0.07, 0.17, 0.1, _lines(words.headline, 1, 18)[0]), (1, 0.07, 1 - middle / 2, 0.07, words.action)),
    )


def _patch(small: float, middle: float) -> tuple[Box, ...]:
    """The small share in the free height under the title, as wide as it then has to be."""
    free = max(1 - middle - 0.28, 0.12)
    height = min(max(small / 0.9, 0.2), free)
    wide = min(small / height, 1.0)
    return (Box(2, (1 - wide) if wide < 0.9 else 0.0, 1 - middle - small / wide, wide, small / wide),)


def _rows(slot: int, area: float, margin: float, height: float, high: float) -> tuple[Box, ...]:
    """A box of an area near the foot: a button if it is small, a full band once it is too wide for one."""
    width = area / high
    if width <= 1 - 2 * margin:
        return (Box(slot, margin, height - high - 0.06, width, high),)
    return (Box(slot, 0, height - area, 1, area),)


_LAYOUTS: tuple[Callable[[Samples, float, float], Layout], ...] = (_email, _slide, _poster, _social)
