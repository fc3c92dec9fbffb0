"""What can be measured of a typeface, so that one can be found that looks like it.

Everything is told as part of the em (OpenType 1.9, `head.unitsPerEm`). Strokes are measured on the outline of the o,
where it is cut at half of its height and at half of its width; serifs on the foot of the I.
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum
from typing import Any

from fontTools.pens.basePen import BasePen
from fontTools.ttLib import TTFont
from pydantic import BaseModel, ConfigDict

from pavese.core.errors import RefusedFileError


class TypefaceKind(StrEnum):
    """A kind of typeface: the generic families of CSS Fonts 4, 2.1.3, with slabs as the trade tells them apart."""

    SERIF = "serif"
    SLAB = "slab"
    SANS = "sans"
    MONO = "monospace"
    HAND = "handwriting"


class FaceTraits(BaseModel):
    """Mean advance of lower-case letters as English has them, height of the x, width of the o's stroke at its side, and
    how thin it is at the top against that (1: even)."""

    model_config = ConfigDict(frozen=True)

    width: float
    x_height: float
    stroke: float
    evenness: float

    def distance(self, other: FaceTraits) -> float:
        """How unlike two faces look; 1 is what a reader just notices in one of the four."""
        return float(sum(abs(getattr(self, name) - getattr(other, name)) / unit for name, unit in _NOTICED.items()))


#: Differences that are just noticed in running text, judged by eye on the shipped faces.
_NOTICED = {"width": 0.018, "x_height": 0.022, "stroke": 0.012, "evenness": 0.14}
#: Letters by how often they stand in English text, in percent: R. Lewand, Cryptological Mathematics (2000), page 36.
_ENGLISH = dict(
    zip(
        "etaoinshrdlcumwfgypbvkjxqz",
        (
            *(12.7, 9.1, 8.2, 7.5, 7.0, 6.7, 6.3, 6.1, 6.0, 4.3, 4.0, 2.8, 2.8),
            *(2.4, 2.4, 2.2, 2.0, 2.0, 1.9, 1.5, 1.0, 0.8, 0.2, 0.2, 0.1, 0.1),
        ),
        strict=True,
    )
)
#: Foot of the I against its stem from which it has serifs, and the thickness of those against the stem for a slab.
_SERIFED, _SLAB = 1.6, 0.55
#: Parts a curve is cut into.
_PARTS = 12


def traits_of(name: str, font: TTFont) -> FaceTraits:
    """What is measured of a face. Raises RefusedFileError for one without the letters that are measured."""
    em = float(font["head"].unitsPerEm)
    cmap, metrics, glyphs = font.getBestCmap() or {}, font["hmtx"], font.getGlyphSet()
    if any(ord(letter) not in cmap for letter in (*_ENGLISH, "I")):
        raise RefusedFileError(name, "it has not all letters from a to z, so it cannot be measured.")
    advance = sum(metrics[cmap[ord(letter)]][0] * share for letter, share in _ENGLISH.items()) / sum(_ENGLISH.values())
    o = _segments(glyphs, cmap[ord("o")])
    x = _segments(glyphs, cmap[ord("x")])
    if not o or not x:
        raise RefusedFileError(name, "its letters have no outlines that can be measured.")
    left, right = min(p[0] for s in o for p in s), max(p[0] for s in o for p in s)
    low, high = min(p[1] for s in o for p in s), max(p[1] for s in o for p in s)
    side = _first_run(o, 1, (low + high) / 2)
    top = _first_run(o, 0, (left + right) / 2)
    return FaceTraits(
        width=round(advance / em, 4),
        x_height=round(max(p[1] for s in x for p in s) / em, 4),
        stroke=round(side / em, 4),
        evenness=round(min(top / side, 2.0) if side else 1.0, 3),
    )


def kind_of(font: TTFont) -> TypefaceKind:
    """The kind: monospaced and written ones say so themselves (`post`, PANOSE), the others by the foot of the I."""
    panose = getattr(font["OS/2"], "panose", None) if "OS/2" in font else None
    if font["post"].isFixedPitch or (panose is not None and panose.bFamilyType == 2 and panose.bProportion == 9):
        return TypefaceKind.MONO
    if panose is not None and panose.bFamilyType == 3:
        return TypefaceKind.HAND
    segments = _segments(font.getGlyphSet(), (font.getBestCmap() or {}).get(ord("I"), ".notdef"))
    if not segments:
        return TypefaceKind.SANS
    heights = [point[1] for segment in segments for point in segment]
    widths = [point[0] for segment in segments for point in segment]
    tall = max(heights) - min(heights)
    stem = _extent(segments, min(heights) + tall / 2)
    foot = _extent(segments, min(heights) + tall * 0.02)
    if not stem or foot < _SERIFED * stem:
        return TypefaceKind.SANS
    thick = _first_run(segments, 0, min(widths) + (foot - stem) / 4)
    return TypefaceKind.SLAB if thick > _SLAB * stem else TypefaceKind.SERIF


Point = tuple[float, float]
Segment = tuple[Point, Point]


class _Flat(BasePen):  # type: ignore[misc]
    """Writes an outline down as straight segments."""

    def __init__(self, glyphs: Any) -> None:
        super().__init__(glyphs)
        self.segments: list[Segment] = []
        self._start: Point = (0.0, 0.0)

    def _moveTo(self, point: Point) -> None:  # noqa: N802
        self._start = point

    def _lineTo(self, point: Point) -> None:  # noqa: N802
        self.segments.append((self._getCurrentPoint(), point))

    def _curveToOne(self, one: Point, two: Point, end: Point) -> None:  # noqa: N802
        before = start = self._getCurrentPoint()
        for part in range(1, _PARTS + 1):
            t = part / _PARTS
            a, b, c, d = (1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t**3
            x, y = (a * start[i] + b * one[i] + c * two[i] + d * end[i] for i in (0, 1))
            self.segments.append((before, (x, y)))
            before = (x, y)

    def _closePath(self) -> None:  # noqa: N802
        if self._getCurrentPoint() != self._start:
            self.segments.append((self._getCurrentPoint(), self._start))


def _segments(glyphs: Any, glyph: str) -> list[Segment]:
    pen = _Flat(glyphs)
    glyphs[glyph].draw(pen)
    return pen.segments


def _met(segments: Sequence[Segment], across: int, at: float) -> list[float]:
    """Where a line across an outline (1: level, 0: upright) meets it."""
    along = 1 - across
    # Off any point of the outline, where it would be met twice.
    at += 0.137
    return sorted(
        a[along] + (b[along] - a[along]) * (at - a[across]) / (b[across] - a[across])
        for a, b in segments
        if (a[across] > at) != (b[across] > at)
    )


def _extent(segments: Sequence[Segment], at: float) -> float:
    """How wide an outline is at a height."""
    met = _met(segments, 1, at)
    return met[-1] - met[0] if met else 0.0


def _first_run(segments: Sequence[Segment], across: int, at: float) -> float:
    """How thick the outline is where a line across it comes in first; 0 where it misses it."""
    met = _met(segments, across, at)
    return met[1] - met[0] if len(met) > 1 else 0.0
