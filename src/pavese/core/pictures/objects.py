"""One object of a picture: what belongs to the places that were pointed at, and the same in another color.

What belongs to a place is told by color, in OKLab: shading moves a color along the line through black, so hue and
saturation hold where lightness does not; and by what hangs together with the place. It is looked for in a small copy of
the picture, and told exactly where its border runs in the picture itself.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw
from scipy import ndimage
from scipy.interpolate import PchipInterpolator

from pavese.core.color.gamut import max_chroma
from pavese.core.color.oklab import Array, decode, encode, linear_to_oklab, oklab_to_linear, oklch_of
from pavese.core.color.srgb import Rgb
from pavese.core.pictures.masks import grown, shrunk
from pavese.core.pictures.mixture import Floats, Levels, codes_of, colors_of

_Mask = npt.NDArray[np.bool_]
_Places = npt.NDArray[np.int64]

#: The longer side of the small copy, and of the square round a place whose middle color counts, as a part of it.
_SMALL, _SQUARE = 480, 1 / 110
#: Beyond how many degrees of hue, and how much of lightness, what belongs fades out.
_FEATHER_HUE, _FEATHER_LIGHT = 14.0, 0.12
#: Up to this chroma a color has no hue to go by; how far from it a grey may be, and noise may bring any.
_GREY, _NEAR_GREY, _NOISE = 0.035, 0.028, 0.012
#: From which part on a pixel belongs.
_BELONGS = 0.5
#: Holes up to this part of an object are its own, and cracks of so many pixels of the small copy: lights, folds.
_HOLE, _CRACK = 0.04, 2
#: Pixels at the border of an object that can be mixes, at least; one more for each time that a side holds so many.
_BAND, _SIDE_OF_BAND = 2, 2000
#: How many pixels of the small copy on both sides of its border are told in the picture itself; what is a mix.
_UNSURE, _MIXED = 2, 2
#: Colors of object and rest that are nearer than this (OKLab) tell nothing of what is mixed of them.
_APART = 0.05
#: How opaque a cover is.
_COVER = 165
#: How much of the differences of hue within an object is kept.
_HUES_KEPT = 0.5
#: How suddenly lights of a thing become as light as they were when it gets darker.
_SHINE = 3
#: How far from white in lightness the middle of a thing is at least on which all of what is lightest shines.
_ROOM_TO_SHINE = 0.4
#: Pixels that are worked on at a time.
_AT_ONCE = 400_000
_LINEAR = decode(np.arange(256) / 255)


class Stroke(NamedTuple):
    """A stroke of a brush along some places (x, y), as parts of width and height, of a width that is a part of the
    picture's longer side: what it covers belongs, or does not."""

    points: tuple[tuple[float, float], ...]
    width: float
    adds: bool


class Sought(NamedTuple):
    """What belongs to places (x, y), as parts of width and height: colors up to `hue` degrees away, that have no less
    than 1 - `faint` of its saturation, and are up to `light` (of 1) lighter or darker; if `together`, only what hangs
    together with a place."""

    places: tuple[tuple[float, float], ...]
    hue: float = 22.0
    faint: float = 0.6
    light: float = 0.4
    together: bool = True
    strokes: tuple[Stroke, ...] = ()


class FoundObject(NamedTuple):
    """An object in a picture: how much of each pixel is it, shape (rows, columns) from `top`, `left` on, 0 to 1; and of
    pixels that are partly it, the nearest that is wholly it (flat position in that part), itself for all others."""

    top: int
    left: int
    parts: Floats
    nearest: npt.NDArray[np.int32]

    def whole(self, shape: tuple[int, ...]) -> Floats:
        """The parts in the whole picture (rows, columns)."""
        made = np.zeros(shape[:2], dtype=np.float32)
        rows, columns = self.parts.shape
        made[self.top : self.top + rows, self.left : self.left + columns] = self.parts
        return made


def covering(parts: Floats) -> Levels:
    """A picture, shape (rows, columns, 4), that covers what is no part of an object, with a line around the object that
    is seen on anything."""
    made = np.zeros((*parts.shape, 4), dtype=np.uint8)
    made[..., 3] = np.rint(_COVER * (1 - parts))
    inside = parts >= _BELONGS
    made[grown(inside, 2) & ~inside] = (0, 0, 0, 255)
    made[grown(inside, 1) & ~inside] = 255
    return made


def object_in(pixels: Levels, sought: Sought) -> FoundObject | None:
    """What belongs to some places of a picture in sRGB, shape (rows, columns, 3); None where nothing does."""
    rows, columns = pixels.shape[:2]
    by = max(-(-max(rows, columns) // _SMALL), 1)
    small = pixels if by == 1 else np.asarray(Image.fromarray(np.ascontiguousarray(pixels)).reduce(by))
    lab = _oklab(small)
    likes = [_color_at(lab, place) for place in sought.places]
    region = _region(lab, likes, sought)
    if len(likes) == 1 and region.any():
        # The place may be in the shade, or in a light: what hangs together with it tells better what it is.
        own = np.median(lab[region], axis=0)
        wider = _region(lab, [likes[0], own], sought)
        likes, region = [likes[0], own], wider
    region = _brushed(_filled(region, lab, likes), sought.strokes)
    if not region.any():
        return None
    return _exactly(pixels, region, by, likes, sought)


def _oklab(pixels: Levels) -> Array:
    """Pixels in OKLab, shape (..., 3), a part at a time."""
    flat = pixels.reshape(-1, 3)
    made = np.empty(flat.shape, dtype=np.float64)
    for start in range(0, len(flat), _AT_ONCE):
        made[start : start + _AT_ONCE] = linear_to_oklab(_LINEAR[flat[start : start + _AT_ONCE]])
    return made.reshape(pixels.shape)


def _at(shape: tuple[int, ...], place: tuple[float, float]) -> tuple[int, int]:
    """The row and column of a place."""
    return min(int(place[1] * shape[0]), shape[0] - 1), min(int(place[0] * shape[1]), shape[1] - 1)


def _color_at(lab: Array, place: tuple[float, float]) -> Array:
    """The middle color around a place."""
    row, column = _at(lab.shape, place)
    half = max(round(max(lab.shape[:2]) * _SQUARE / 2), 1)
    around = lab[max(row - half, 0) : row + half + 1, max(column - half, 0) : column + half + 1].reshape(-1, 3)
    # The one of them that is nearest to their middle, so that a border makes no third color.
    found: Array = around[np.abs(around - np.median(around, axis=0)).sum(axis=1).argmin()]
    return found


def likeness(lab: Array, like: Array, sought: Sought) -> Floats:
    """How much colors, shape (..., 3), belong to another by hue, saturation and lightness, 0 to 1."""
    lightness, a, b = np.moveaxis(lab.astype(np.float32), -1, 0)
    chroma = float(np.hypot(*like[1:]))
    fading = min(_FEATHER_LIGHT, sought.light)
    light = _falling(np.abs(lightness - like[0]), sought.light, sought.light + fading)
    if chroma < _GREY:
        near = np.hypot(a - like[1], b - like[2])
        wide = _NEAR_GREY * sought.hue / Sought(()).hue
        alike: Floats = light * _falling(near, wide, 2 * wide)
        return alike
    along = (a * like[1] + b * like[2]) / chroma
    across = np.abs(a * like[2] - b * like[1]) / chroma
    inner, outer = (np.tan(np.radians(min(hue, 80.0))) for hue in (sought.hue, sought.hue + _FEATHER_HUE))
    hue = _falling(across, inner * along + _NOISE / 2, outer * along + _NOISE)
    # In the shade chroma falls as lightness does; a light takes it away.
    least = max((1 - sought.faint) * chroma / max(float(like[0]), 1e-3), 0.0)
    has = along / np.maximum(np.minimum(lightness, float(like[0])), 1e-3)
    faint = 1 - _falling(has, 0.6 * least, least)
    found: Floats = np.asarray(light * hue * faint * (along > 0), dtype=np.float32)
    return found


def _falling(value: Floats, inner: object, outer: object) -> Floats:
    """1 up to a bound, 0 from another on, and evenly between."""
    low, high = np.asarray(inner, dtype=np.float32), np.asarray(outer, dtype=np.float32)
    found: Floats = np.clip((high - value) / np.maximum(high - low, 1e-6), 0, 1)
    return found


def _belonging(lab: Array, likes: Sequence[Array], sought: Sought) -> Floats:
    """How much colors belong to any of some."""
    made: Floats = np.zeros(lab.shape[:-1], dtype=np.float32)
    for like in likes:
        np.maximum(made, likeness(lab, like, sought), out=made)
    return made


def _region(lab: Array, likes: Sequence[Array], sought: Sought) -> _Mask:
    """Where colors belong, and hang together with a place."""
    # Single pixels of noise neither part nor join.
    belongs = ndimage.uniform_filter(_belonging(lab, likes, sought), 3) >= _BELONGS
    if not sought.together:
        return np.asarray(belongs)
    numbers, _ = ndimage.label(belongs)
    wanted = {int(numbers[_nearest_of(belongs, _at(lab.shape, place))]) for place in sought.places}
    return np.isin(numbers, sorted(wanted - {0}))


def _nearest_of(belongs: _Mask, at: tuple[int, int]) -> tuple[int, int]:
    """The pixel nearest to a place, of those around it, that belongs."""
    half = max(round(max(belongs.shape) * _SQUARE / 2), 1)
    top, left = max(at[0] - half, 0), max(at[1] - half, 0)
    rows, columns = np.nonzero(belongs[top : at[0] + half + 1, left : at[1] + half + 1])
    if not len(rows):
        return at
    first = int(((rows + top - at[0]) ** 2 + (columns + left - at[1]) ** 2).argmin())
    return int(rows[first]) + top, int(columns[first]) + left


def _filled(region: _Mask, lab: Array, likes: Sequence[Array]) -> _Mask:
    """A region with its small holes and cracks, which are lights on it, folds and seams."""
    if not region.any():
        return region
    closed = shrunk(grown(region, _CRACK), _CRACK)
    holes, count = ndimage.label(ndimage.binary_fill_holes(closed) & ~closed)
    if not count:
        return np.asarray(closed)
    sizes = np.bincount(holes.ravel())
    light = ndimage.mean(lab[..., 0], holes, np.arange(count + 1))
    # A light on a thing is lighter than the thing; anything else shows through only where it is small.
    lights = light > max(float(like[0]) for like in likes)
    own = sizes <= np.where(lights, _HOLE, _HOLE / 8) * region.sum()
    own[0] = False
    return np.asarray(closed | own[holes])


def _brushed(region: _Mask, strokes: Sequence[Stroke]) -> _Mask:
    """A region with what strokes add to it and take from it, one after the other."""
    made = region
    for stroke in strokes:
        made = made | covered(region.shape, stroke) if stroke.adds else made & ~covered(region.shape, stroke)
    return made


def covered(shape: tuple[int, ...], stroke: Stroke) -> _Mask:
    """What a stroke covers in a picture of a shape (rows, columns)."""
    drawn = Image.new("1", (shape[1], shape[0]))
    pen = ImageDraw.Draw(drawn)
    width = max(stroke.width * max(shape[:2]), 1.0)
    points = [(x * shape[1] - 0.5, y * shape[0] - 0.5) for x, y in stroke.points]
    pen.line(points, fill=1, width=round(width))
    for x, y in points:
        pen.ellipse((x - width / 2, y - width / 2, x + width / 2, y + width / 2), fill=1)
    return np.array(drawn)


def _exactly(pixels: Levels, region: _Mask, by: int, likes: Sequence[Array], sought: Sought) -> FoundObject:
    """A region of a copy that is `by` times as small, in the picture itself; its border pixels with what they are mixed
    of."""
    rows, columns = pixels.shape[:2]
    band = _BAND + max(rows, columns) // _SIDE_OF_BAND
    around = ndimage.find_objects(region.astype(np.uint8))[0]
    # As wide as the nearest of all pixels are looked for.
    margin = 3 * band + 2 * by
    top, left = (max(one.start * by - margin, 0) for one in around)
    bottom, right = (min(one.stop * by + margin, size) for one, size in zip(around, (rows, columns), strict=True))
    cut = np.ascontiguousarray(pixels[top:bottom, left:right])
    flat = cut.reshape(-1, 3)
    here = _enlarged(region, by, (top, left), cut.shape[:2])
    unsure = grown(region, _UNSURE) ^ shrunk(region, _UNSURE)
    border = np.flatnonzero(_enlarged(unsure, by, (top, left), cut.shape[:2]))
    if by > 1 and len(border):
        # Where the copy has its border, each pixel is told by its own color.
        drawn = _brushed_at(border, here.shape, (top, left), (rows, columns), sought.strokes)
        alike = _belonging(_oklab(flat[border]), likes, sought) >= _BELONGS
        here.ravel()[border] = np.where(drawn, here.ravel()[border], alike)
    mixed = border[_differs(here, border, band)]
    parts = here.astype(np.float32)
    nearest = np.arange(here.size, dtype=np.int32)
    state = here.astype(np.uint8)
    state.ravel()[mixed] = _MIXED
    of, rest = (_nearest_in(state == wanted, mixed, 3 * band) for wanted in (1, 0))
    both = (of >= 0) & (rest >= 0)
    mixed, of, rest = mixed[both], of[both], rest[both]
    ours, theirs, own = (flat[at].astype(np.float32) for at in (of, rest, mixed))
    way = ours - theirs
    share = np.clip(((own - theirs) * way).sum(axis=1) / np.maximum((way**2).sum(axis=1), 1), 0, 1)
    told = np.linalg.norm(_oklab(flat[of]) - _oklab(flat[rest]), axis=1) >= _APART
    parts.ravel()[mixed] = np.where(told, share, parts.ravel()[mixed])
    nearest[mixed] = of
    return FoundObject(top, left, parts, nearest)


def _enlarged(region: _Mask, by: int, at: tuple[int, int], shape: tuple[int, ...]) -> _Mask:
    """A part of a region, from row and column `at` of the picture on, `by` times as large."""
    rows = np.minimum((np.arange(shape[0]) + at[0]) // by, region.shape[0] - 1)
    columns = np.minimum((np.arange(shape[1]) + at[1]) // by, region.shape[1] - 1)
    return np.asarray(region[np.ix_(rows, columns)])


def _brushed_at(
    places: _Places,
    shape: tuple[int, ...],
    at: tuple[int, int],
    whole: tuple[int, int],
    strokes: Sequence[Stroke],
) -> _Mask:
    """Whether a brush decides of pixels (flat positions of a part of a picture), and not their color."""
    made = np.zeros(len(places), dtype=np.bool_)
    for stroke in strokes:
        drawn = covered((_BRUSHED, _BRUSHED), stroke._replace(width=stroke.width * 1.1))
        rows, columns = np.divmod(places, shape[1])
        made |= drawn[(rows + at[0]) * _BRUSHED // whole[0], (columns + at[1]) * _BRUSHED // whole[1]]
    return made


#: The side of the square in which strokes are drawn.
_BRUSHED = 512


def _differs(mask: _Mask, places: _Places, within: int) -> _Mask:
    """Of some places (flat positions), whether others stand within a square that reaches so far which are not as they
    are."""
    padded = np.pad(mask, within, mode="edge")
    at, width = _padded(places, mask.shape[1], within)
    own, flat = mask.ravel()[places], padded.ravel()
    made = np.zeros(len(places), dtype=np.bool_)
    for down in range(1 - within, within):
        for right in range(1 - within, within):
            made |= flat[at + down * width + right] != own
    return made


def _nearest_in(mask: _Mask, places: _Places, within: int) -> _Places:
    """Of some places (flat positions), the nearest in a mask, within a distance; -1 where there is none."""
    padded = np.pad(mask, within)
    at, width = _padded(places, mask.shape[1], within)
    flat = padded.ravel()
    found = np.full(len(places), -1, dtype=np.int64)
    left = np.arange(len(places))
    steps = [(down, right) for down in range(-within, within + 1) for right in range(-within, within + 1)]
    for down, right in sorted(steps, key=lambda step: step[0] ** 2 + step[1] ** 2):
        if not len(left) or down**2 + right**2 > within**2:
            break
        hits = flat[at[left] + down * width + right]
        found[left[hits]] = places[left[hits]] + down * mask.shape[1] + right
        left = left[~hits]
    return found


def _padded(places: _Places, width: int, by: int) -> tuple[_Places, int]:
    """Places (flat positions) in a picture that is wider on all sides, and its width."""
    rows, columns = np.divmod(places, width)
    return (rows + by) * (width + 2 * by) + columns + by, width + 2 * by


def in_another_color(pixels: Levels, under: Levels, found: FoundObject, color: Rgb) -> Levels:
    """A picture with an object in another color. `pixels` are those in which it was found, `under` what the picture has
    become, both in sRGB, shape (rows, columns, 3). What is middling of the object becomes the color; lights, shades and
    folds stay what they are to it. Pixels that are no part of it have the very values of `under`."""
    part = slice(found.top, found.top + found.parts.shape[0]), slice(found.left, found.left + found.parts.shape[1])
    had = np.ascontiguousarray(pixels[part]).reshape(-1, 3)
    parts = found.parts.ravel()
    sure = parts == 1
    if not sure.any():
        return under
    codes = codes_of(had)
    here = codes[sure]
    middle = np.median(_oklab(colors_of(here[:: max(len(here) // _AT_ONCE, 1)])), axis=0)
    table = _table(here, middle, oklch_of([color])[0])
    made = under.copy()
    target = made[part].reshape(-1, 3)
    np.copyto(target, table[codes], where=sure[:, None])
    mixed = np.flatnonzero((parts > 0) & ~sure)
    if len(mixed):
        # A mix keeps its parts, and over what is as it was also what it has of its own beside them.
        of, weight = found.nearest[mixed], parts[mixed, None]
        below, own, old, new = (
            one.astype(np.float32) for one in (target[mixed], had[mixed], had[of], table[codes[of]])
        )
        as_it_was = (below == own).all(axis=1, keepdims=True)
        blended = below + weight * (new - np.where(as_it_was, old, below))
        target[mixed] = np.clip(np.rint(blended), 0, 255).astype(np.uint8)
    made[part] = target.reshape(made[part].shape)
    return made


def _table(codes: npt.NDArray[np.int32], middle: Array, goal: Array) -> Levels:
    """What each of some colors is when their middle one, in OKLab, is another, in OKLCH: by its number."""
    there = np.zeros(1 << 24, dtype=np.bool_)
    there[codes] = True
    each = np.flatnonzero(there)
    table = np.zeros((1 << 24, 3), dtype=np.uint8)
    for start in range(0, len(each), _AT_ONCE):
        some = each[start : start + _AT_ONCE]
        table[some] = _shaded(colors_of(some), middle, goal)
    return table


def _shaded(colors: Levels, middle: Array, goal: Array) -> Levels:
    """Colors, shape (n, 3), as they are when their middle one, in OKLab, is another, in OKLCH."""
    lab = linear_to_oklab(_LINEAR[colors])
    lightness, chroma = lab[:, 0], np.hypot(lab[:, 1], lab[:, 2])
    new_light = _relit(lightness, float(middle[0]), float(goal[0]))
    had = float(np.hypot(middle[1], middle[2]))
    hue = np.full(len(lab), goal[2])
    if had >= _GREY:
        turn = np.arctan2(lab[:, 2] * middle[1] - lab[:, 1] * middle[2], lab[:, 1] * middle[1] + lab[:, 2] * middle[2])
        hue += _HUES_KEPT * np.degrees(turn) * np.minimum(chroma / had, 1)
        new_chroma = chroma / had * goal[1]
    else:
        # A grey thing says nothing of its chroma: the light that falls on it does.
        shade = np.minimum(new_light / max(goal[0], 1e-3), (1 - new_light) / max(1 - goal[0], 1e-3))
        new_chroma = shade * goal[1]
    new_chroma = np.minimum(new_chroma, _largest(new_light, hue))
    angle = np.radians(hue)
    made = np.stack([new_light, new_chroma * np.cos(angle), new_chroma * np.sin(angle)], axis=-1)
    return np.rint(encode(oklab_to_linear(made)) * 255).astype(np.uint8)


def _relit(lightness: Array, middle: float, goal: float) -> Array:
    """Lightnesses when the middle one is another; black and white stay. A darker thing takes all light in proportion,
    but for what shines; a lighter one has its lights nearer to each other."""
    middle, goal = (min(max(one, 1e-3), 1 - 1e-3) for one in (middle, goal))
    if goal <= middle:
        # On what is nearly white nothing shines that could be told from light.
        much = min((1 - middle) / _ROOM_TO_SHINE, 1)
        shine = much * np.clip((lightness - middle) / (1 - middle), 0, 1) ** _SHINE
        darker: Array = lightness * goal / middle + (1 - goal / middle) * shine
        return darker
    lighter: Array = PchipInterpolator([0, middle, 1], [0, goal, 1])(np.clip(lightness, 0, 1))
    return lighter


@lru_cache(maxsize=1)
def _chromas() -> Array:
    """The largest chroma in sRGB by lightness, in 256 steps, and hue, in degrees: shape (257, 361)."""
    lightness, hue = np.meshgrid(np.linspace(0, 1, 257), np.arange(361.0), indexing="ij")
    return max_chroma(lightness, hue)


def _largest(lightness: Array, hue: Array) -> Array:
    """The largest chroma in sRGB, between the entries of a table."""
    places = np.stack([np.clip(lightness, 0, 1) * 256, hue % 360])
    found: Array = ndimage.map_coordinates(_chromas(), places, order=1)
    return found
