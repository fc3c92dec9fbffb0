"""Measuring a drawn picture: how much of it each paint covers, which paints touch, and what borders on nothing."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import numpy.typing as npt
from scipy import ndimage

from pavese.core.color.contrast import WHITE
from pavese.core.color.srgb import Rgba
from pavese.core.recolor.texts import BARE, Sides, TextRun

#: Longer side of the picture that is measured, in pixels: a stroke of a 24-unit icon is then 3 to 6 wide.
SIDE = 72

#: Squared distance (8-bit sRGB) within which a pixel is one of the paints; edges and mixtures lie farther off.
_NEAR = 3 * 9**2
#: Pixels of one paint in its 3 x 3 surroundings for it not to be the edge between two others.
_SOLID = 4
_EMPTY = -1
#: How far around letters what they stand on is looked at, in pixels, and from which share on it counts.
_AROUND, _GOOD_PART = 2, 0.12


@dataclass(frozen=True)
class Measured:
    """Shares of one picture: `areas` of what is drawn, `touching` and `outline` of all borders in it; its texts, on
    what they stand; what lies beside its grounds on a narrow screen; and the faces that it names where it is set in
    others here, which stand in for them."""

    areas: Mapping[Rgba, float] = field(default_factory=dict)
    touching: Mapping[tuple[Rgba, Rgba], float] = field(default_factory=dict)
    outline: Mapping[Rgba, float] = field(default_factory=dict)
    texts: tuple[TextRun, ...] = ()
    sides: tuple[Sides, ...] = ()
    faces: tuple[tuple[str, str], ...] = ()

    def among(self, paints: Iterable[Rgba], texts: tuple[TextRun, ...]) -> Measured:
        """What of it is of some paints alone, with these of its texts."""
        known = set(paints)
        return Measured(
            {paint: share for paint, share in self.areas.items() if paint in known},
            {pair: share for pair, share in self.touching.items() if known.issuperset(pair)},
            {paint: share for paint, share in self.outline.items() if paint in known},
            texts,
        )


def measure(pixels: npt.NDArray[np.uint8], paints: Sequence[Rgba]) -> Measured:
    """Measures a picture, shape (height, width, 4), RGBA with straight alpha.

    Each drawn pixel belongs to the paint nearest in color; what is mixed (edges, gradients, veils) to the nearest
    pixel that is not. An estimate, good enough to weigh paints by.
    """
    if not paints or not pixels.size:
        return Measured()
    labels = _labels(pixels, paints)
    drawn = labels != _EMPTY
    total = int(drawn.sum())
    if not total:
        return Measured()
    counts = np.bincount(labels[drawn], minlength=len(paints))
    borders: dict[tuple[int, int], int] = {}
    kinds = len(paints) + 1
    for first, second in ((labels[:, :-1], labels[:, 1:]), (labels[:-1], labels[1:])):
        differing = first != second
        low, high = np.minimum(first, second)[differing], np.maximum(first, second)[differing]
        # A pair as one number, so that they can be counted at once.
        lengths = np.bincount((low + 1) * kinds + high + 1, minlength=kinds * kinds)
        for pair in np.flatnonzero(lengths).tolist():
            a, b = pair // kinds - 1, pair % kinds - 1
            borders[a, b] = borders.get((a, b), 0) + int(lengths[pair])
    around = sum(borders.values()) or 1
    return Measured(
        {paint: round(int(count) / total, 5) for paint, count in zip(paints, counts, strict=True) if count},
        {
            (min(paints[a], paints[b]), max(paints[a], paints[b])): round(length / around, 5)
            for (a, b), length in sorted(borders.items())
            if a != _EMPTY
        },
        {paints[b]: round(length / around, 5) for (a, b), length in sorted(borders.items()) if a == _EMPTY},
    )


def paint_at(pixels: npt.NDArray[np.uint8], paints: Sequence[Rgba], x: float, y: float) -> Rgba | None:
    """The paint that shows at a place of a picture, `x` and `y` from 0 to 1; None where nothing is drawn."""
    if not paints or not pixels.size:
        return None
    height, width = pixels.shape[:2]
    row, column = min(int(y * height), height - 1), min(int(x * width), width - 1)
    label = int(_labels(pixels, paints)[row, column])
    return None if label == _EMPTY else paints[label]


def grounds_under(
    inks: npt.NDArray[np.int64], count: int, pixels: npt.NDArray[np.uint8], paints: Sequence[Rgba]
) -> list[list[Rgba | None]]:
    """What each of `count` texts stands on: the paints that make up a good part of what lies below and close around it,
    largest first; `BARE` for nothing, None for what is no paint, such as a picture or a gradient.

    `inks` gives the number of the text whose letters stand at each pixel, `_EMPTY` for none, shape (height, width) as
    `pixels`, which are of the drawing without its texts. Pixels at the edges of shapes, which are mixed, count as
    nothing; empty for a text that is not seen.
    """
    packed, at = np.unique(np.ascontiguousarray(pixels).view(np.uint32)[..., 0], return_inverse=True)
    seen = packed.view(np.uint8).reshape(-1, 4).astype(np.int64)
    plain = np.array([paint.rgb for paint in paints], dtype=np.int64).reshape(-1, 3)
    near = _distances(seen[:, :3], plain) if len(paints) else np.full((len(seen), 1), np.iinfo(np.int64).max)
    bare, other = len(paints), len(paints) + 1
    sort = np.where(near.min(axis=-1) <= _NEAR, near.argmin(axis=-1), other)
    labels = np.where(seen[:, 3] > 127, sort, bare)[at].reshape(pixels.shape[:2])
    named: list[Rgba | None] = [*paints, BARE, None]
    found: list[list[Rgba | None]] = []
    for own in under_texts(labels, inks, count):
        counts = np.bincount(own, minlength=len(named))
        if not len(own):
            found.append([])
            continue
        # A ground that is no paint is one only where it is most of it: edges between paints are mixtures, too.
        counts[other] = counts[other] if 2 * counts[other] > counts.sum() else 0
        order = np.argsort(-counts, kind="stable")
        found.append([named[one] for one in order.tolist() if counts[one] >= _GOOD_PART * counts.sum()])
    return found


def under_texts(pixels: npt.NDArray[Any], inks: npt.NDArray[np.int64], count: int) -> Iterator[npt.NDArray[Any]]:
    """What lies below each of `count` texts and close around its letters, of pixels of shape (height, width, ...), one
    after the other; `inks` as for `grounds_under`. Nothing for a text that is not seen."""
    for number, place in enumerate(ndimage.find_objects(inks + 1, max_label=count)):
        if place is None:
            yield pixels[:0].reshape(-1, *pixels.shape[2:])
            continue
        around = tuple(slice(max(one.start - _AROUND, 0), one.stop + _AROUND) for one in place)
        yield pixels[around][ndimage.binary_dilation(inks[around] == number, iterations=_AROUND)]


def _labels(pixels: npt.NDArray[np.uint8], paints: Sequence[Rgba]) -> npt.NDArray[np.int64]:
    """The index of the paint each pixel shows, `_EMPTY` where nothing is drawn; shape (height, width)."""
    # A drawing has few colors: each is looked up once.
    packed, at = np.unique(np.ascontiguousarray(pixels).view(np.uint32)[..., 0], return_inverse=True)
    seen = packed.view(np.uint8).reshape(-1, 4).astype(np.int64)
    known = np.array([paint.over(WHITE) for paint in paints], dtype=np.int64)
    # A paint with alpha is looked for both as it is and as it looks on white.
    plain = np.array([paint.rgb for paint in paints], dtype=np.int64)
    distance = np.minimum(_distances(seen[:, :3], plain), _distances(_on_white(seen[:, :3], seen[:, 3]), known))
    at = at.reshape(pixels.shape[:2])
    nearest = distance.argmin(axis=-1)[at]
    drawn = (seen[:, 3] > 127)[at]
    sure = drawn & (distance.min(axis=-1) <= _NEAR)[at]
    labels = np.where(sure, nearest, _EMPTY)
    solid = sure & (_alike(labels) >= _SOLID)
    known_pixels = solid if solid.any() else (sure if sure.any() else drawn)
    labels = np.where(known_pixels, nearest, _EMPTY)
    if known_pixels.any() and not known_pixels.all():
        place = ndimage.distance_transform_edt(~known_pixels, return_distances=False, return_indices=True)
        labels = labels[tuple(place)]
    return np.asarray(np.where(drawn, labels, _EMPTY))


def _alike(labels: npt.NDArray[np.int64]) -> npt.NDArray[np.int64]:
    """How many pixels of the 3 x 3 around each have its label, itself counted."""
    height, width = labels.shape
    padded = np.pad(labels, 1, constant_values=_EMPTY - 1)
    return np.asarray(
        sum(
            (padded[row : row + height, column : column + width] == labels).astype(np.int64)
            for row in range(3)
            for column in range(3)
        )
    )


def _distances(shown: npt.NDArray[np.int64], paints: npt.NDArray[np.int64]) -> npt.NDArray[np.int64]:
    return np.stack([((shown - paint) ** 2).sum(axis=-1) for paint in paints], axis=-1)


def _on_white(shown: npt.NDArray[np.int64], alpha: npt.NDArray[np.int64]) -> npt.NDArray[np.int64]:
    return np.asarray((shown * alpha[..., None] + 255 * (255 - alpha[..., None])) // 255)


def combined(parts: Iterable[Measured]) -> Measured:
    """Several pictures of one file, such as moments of an animation, as one."""
    listed = list(parts)
    if len(listed) <= 1:
        return listed[0] if listed else Measured()
    areas: dict[Rgba, float] = {}
    touching: dict[tuple[Rgba, Rgba], float] = {}
    outline: dict[Rgba, float] = {}
    for one in listed:
        for paint, share in one.areas.items():
            areas[paint] = areas.get(paint, 0) + share / len(listed)
        for pair, share in one.touching.items():
            touching[pair] = touching.get(pair, 0) + share / len(listed)
        for paint, share in one.outline.items():
            outline[paint] = outline.get(paint, 0) + share / len(listed)
    texts = dict.fromkeys(run for one in listed for run in one.texts)
    sides = dict.fromkeys(both for one in listed for both in one.sides)
    faces = dict.fromkeys(pair for one in listed for pair in one.faces)
    return Measured(areas, touching, outline, tuple(texts), tuple(sides), tuple(faces))
