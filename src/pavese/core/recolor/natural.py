"""Natural tones: skin, and the hair and shadows beside it, which turn strange when they are sent to a brand's hues.

What may be one is told by range in OKLCH (lightness 0 to 1, chroma, hue in degrees); whether it is, by the drawing. The
ranges were set by looking at the tones that illustrations use for people; skin reaches from very light to very dark,
turning from orange towards red as it gets darker. What is more vivid than they allow is a color of the drawing. The
rules about drawings were made by half of the drawings that `benchmarks/natural_tones.py` tells of.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping
from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

from pavese.core.color.difference import ciede2000, cielab
from pavese.core.color.oklab import Array, lch_of
from pavese.core.color.srgb import Rgb

if TYPE_CHECKING:
    from pavese.core.recolor.inventory import FilePaints

SKIN, HAIR = "skin", "hair"


class _Range(NamedTuple):
    name: str
    lightness: tuple[float, float]
    chroma: tuple[float, float]
    hue: tuple[float, float]

    def holds(self, lightness: float, chroma: float, hue: float) -> bool:
        return (
            self.lightness[0] <= lightness <= self.lightness[1]
            and self.chroma[0] <= chroma <= self.chroma[1]
            and self.hue[0] <= hue <= self.hue[1]
        )


_RANGES = (
    _Range(SKIN, (0.72, 0.95), (0.03, 0.115), (28, 78)),
    _Range(SKIN, (0.42, 0.72), (0.025, 0.125), (10, 68)),
    _Range(SKIN, (0.55, 0.72), (0.06, 0.105), (68, 76)),
    _Range("skin or hair", (0.20, 0.42), (0.025, 0.055), (2, 75)),
    _Range(HAIR, (0.20, 0.42), (0.055, 0.085), (42, 75)),
)
#: The darkest skin is as vivid as hair and wood may be. Beside other skin it goes with it; alone it is the skin.
_DARKEST = _Range("skin or hair", (0.30, 0.42), (0.04, 0.11), (30, 58))
#: Pinks that are the skin of many illustrations, and the flowers of as many: skin only beside something dark.
_PINKISH = _Range(SKIN, (0.70, 0.90), (0.04, 0.115), (15, 28))
_DARK, _DARK_AREA = 0.42, 0.005
#: Nearly white, and not bluish: a light on a cheek.
_LIGHT = _Range("light", (0.95, 0.99), (0.0, 0.03), (0, 80))
#: What touches skin and is as it in hue (degrees), no more vivid than this, and as light within this, is its shadow.
_SHADOW_TURN, _SHADOW_CHROMA, _SHADOW_LIGHTNESS = 14.0, 0.145, 0.25
#: A skin has few tones; the shading of a thing has many. Of pixels, what differs less (CIEDE2000) is one, and what
#: covers less of the picture is none.
_MOST_TONES, _ONE_TONE, _LEAST_TONE = 7, 4.0, 0.004
#: What a file counts in its set where a color of it covers nothing that is seen.
_UNSEEN = 0.002
#: A pink that covers more than this of a drawing is no skin.
_MOST_PINK = 0.4


@lru_cache(maxsize=32_768)
def natural_tone(color: Rgb) -> str | None:
    """What a color may be the natural tone of, by itself; None where it is none."""
    lch = lch_of(color)
    return next((one.name for one in (*_RANGES, _DARKEST) if one.holds(*lch)), None)


def natural_tones(file: FilePaints) -> dict[Rgb, str]:
    """The colors of a drawing that are skin or go with it, with what they may be.

    Of a file that was not drawn only its colors are known, and tell.
    """
    colors = sorted({paint.rgb for paint in file.paints})
    areas: dict[Rgb, float] = {}
    for paint, area in file.measured.areas.items():
        areas[paint.rgb] = areas.get(paint.rgb, 0.0) + area
    found = {color: tone for color in colors if (tone := natural_tone(color)) is not None}
    found |= dict.fromkeys(_pinkish(colors, areas), SKIN)
    # What runs into a color that is no natural tone is a sky, or a light on a thing; a face may run into its own light.
    for one, other in ((one.rgb, other.rgb) for one, other in file.blends):
        if (one in found) != (other in found) and not any(_LIGHT.holds(*lch_of(color)) for color in (one, other)):
            found.pop(one, None)
            found.pop(other, None)
    skin = [color for color, tone in found.items() if tone == SKIN]
    if not skin:
        skin = [color for color in found if _DARKEST.holds(*lch_of(color))]
        found |= dict.fromkeys(skin, SKIN)
    if not skin or (_tones_seen(skin, areas) if file.on_pixels else len(skin)) > _MOST_TONES:
        return {}
    return found | dict.fromkeys(_shadows(file, set(skin), areas), "shadow of skin")


def _tones_seen(colors: Iterable[Rgb], areas: Mapping[Rgb, float]) -> int:
    """How many tones colors are that are told from pixels, which are many shades of each, and edges of it."""
    told: list[Array] = []
    seen = (one for one in colors if areas.get(one, 0.0) >= _LEAST_TONE)
    for color in sorted(seen, key=lambda one: (-areas.get(one, 0.0), one)):
        lab = cielab([color])[0]
        if all(float(ciede2000(lab, one)) > _ONE_TONE for one in told):
            told.append(lab)
    return len(told)


def natural_in_set(files: Iterable[FilePaints]) -> dict[Rgb, str]:
    """The colors that are natural tones in more of a set, by area, than they are something else in."""
    votes: defaultdict[Rgb, float] = defaultdict(float)
    names: dict[Rgb, str] = {}
    for file in files:
        found = natural_tones(file)
        names |= found
        for paint in file.paints:
            vote = file.measured.areas.get(paint, 0.0) + _UNSEEN
            votes[paint.rgb] += vote if paint.rgb in found else -vote
    return {color: name for color, name in names.items() if votes[color] >= 0}


def _pinkish(colors: Iterable[Rgb], areas: Mapping[Rgb, float]) -> list[Rgb]:
    pinks = [color for color in colors if _PINKISH.holds(*lch_of(color))]
    dark = sum(area for color, area in areas.items() if lch_of(color)[0] <= _DARK)
    covered = sum(areas.get(color, 0.0) for color in pinks)
    return pinks if dark >= _DARK_AREA and 0 < covered <= _MOST_PINK else []


def _shadows(file: FilePaints, skin: Collection[Rgb], areas: Mapping[Rgb, float]) -> Iterator[Rgb]:
    for one, other in file.measured.touching:
        for own, beside in ((one.rgb, other.rgb), (other.rgb, one.rgb)):
            if own in skin and beside not in skin and areas.get(beside, 0.0) < areas.get(own, 0.0):
                lch, near = lch_of(own), lch_of(beside)
                turn = abs((lch[2] - near[2] + 180) % 360 - 180)
                alike = turn <= _SHADOW_TURN and abs(lch[0] - near[0]) <= _SHADOW_LIGHTNESS
                if alike and lch[1] / 2 <= near[1] <= _SHADOW_CHROMA:
                    yield beside
