"""One object of a picture: found from a press, and in another color, in scenes made here whose truth is known."""

from __future__ import annotations

import io
from collections.abc import Iterator
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw, ImageFilter
from scipy import ndimage

from figures import figure, ratio
from pavese.core.color.difference import ciede2000, cielab
from pavese.core.color.gamut import to_rgb
from pavese.core.color.oklab import decode, encode, linear_to_oklab
from pavese.core.color.srgb import Rgb
from pavese.core.pictures.objects import FoundObject, Sought, in_another_color, object_in

_Levels = npt.NDArray[np.uint8]
_Mask = npt.NDArray[np.bool_]
_Floats = npt.NDArray[np.float64]

#: Scenes; of these, from which on there are shadow, glare and a second thing of the same color; presses in each.
_SCENES, _HARD, _PRESSES = 20, 10, 10
_SIDE = (720, 960)
#: Kit colors that objects go to.
_TARGETS = (Rgb(176, 30, 60), Rgb(14, 90, 106), Rgb(232, 184, 64), Rgb(46, 52, 92))


class Scene(NamedTuple):
    """A picture, and what of it is the object."""

    pixels: _Levels
    truth: _Mask


def scenes() -> Iterator[Scene]:
    """Things of one color, with shading and folds, among others."""
    for number in range(_SCENES):
        rng = np.random.default_rng(number)
        hue = rng.uniform(0, 360)
        grey = number % 5 == 4
        own = _color(rng.uniform(0.55, 0.9) if grey else rng.uniform(0.42, 0.72), 0.012 if grey else 0.13, hue)
        yield _scene(rng, hue, own, number >= _HARD)


def _scene(rng: np.random.Generator, hue: float, own: Rgb, hard: bool) -> Scene:
    rows, columns = _SIDE
    down, right = np.mgrid[0:rows, 0:columns] / rows
    linear = np.empty((rows, columns, 3))
    top, bottom = (_linear(_color(rng.uniform(0.5, 0.9), 0.05, hue + rng.uniform(110, 250))) for _ in range(2))
    linear[:] = top + (bottom - top) * down[..., None]
    linear *= np.exp(0.25 * _soft_noise(rng, 60))[..., None]
    for _ in range(6):
        color = _linear(_color(rng.uniform(0.3, 0.8), rng.uniform(0.02, 0.14), hue + rng.uniform(60, 300)))
        _lay(linear, _blob(rng, rng.uniform(0.05, 0.95, 2), rng.uniform(0.04, 0.12)), _lit(rng, color, down, right))
    if hard:
        place = rng.choice([0.1, 0.9]), rng.choice([0.12, 0.88])
        _lay(linear, _blob(rng, place, 0.08), _lit(rng, _linear(own), down, right))
    cover = _blob(rng, rng.uniform(0.42, 0.58, 2), rng.uniform(0.2, 0.27))
    _lay(linear, cover, _lit(rng, _linear(own), down, right))
    if hard:
        shade = _blob(rng, rng.uniform(0.35, 0.65, 2), 0.2, soft=6)
        linear *= (1 - rng.uniform(0.45, 0.65) * shade)[..., None]
        for _ in range(2):
            row, column = rng.uniform(0.4, 0.6), rng.uniform(0.55, 0.8)
            spot = np.exp(-(((down - row) / 0.02) ** 2 + ((right - column) / 0.035) ** 2))
            linear += 0.9 * (1 - linear) * spot[..., None]
    levels = encode(linear) * 255 + rng.normal(0, 2.2, linear.shape)
    return Scene(np.clip(np.rint(levels), 0, 255).astype(np.uint8), cover >= 0.5)


def _color(lightness: float, chroma: float, hue: float) -> Rgb:
    return to_rgb(np.array([[lightness, chroma, hue % 360]]))[0]


def _linear(color: Rgb) -> _Floats:
    return decode(np.array(color) / 255)


def _soft_noise(rng: np.random.Generator, grain: int) -> _Floats:
    few = rng.normal(0, 1, (_SIDE[0] // grain + 2, _SIDE[1] // grain + 2)).astype(np.float32)
    large = Image.fromarray(few).resize(_SIDE[::-1], Image.Resampling.BICUBIC)
    return np.asarray(large, dtype=np.float64)


def _blob(rng: np.random.Generator, place: tuple[float, float] | _Floats, size: float, soft: float = 0) -> _Floats:
    """How much of each pixel a round thing covers whose border is wavy; `place` in parts of the picture."""
    angle = np.linspace(0, 2 * np.pi, 240, endpoint=False)
    waves = sum(rng.uniform(-0.12, 0.12) * np.cos(k * angle + rng.uniform(0, 6.3)) for k in range(2, 6))
    radius = size * _SIDE[0] * 4 * (1 + waves)
    x, y = place[0] * _SIDE[1] * 4 + radius * np.cos(angle) * 1.3, place[1] * _SIDE[0] * 4 + radius * np.sin(angle)
    drawn = Image.new("L", (_SIDE[1] * 4, _SIDE[0] * 4))
    ImageDraw.Draw(drawn).polygon(list(zip(x.tolist(), y.tolist(), strict=True)), fill=255)
    small = drawn.reduce(4).filter(ImageFilter.GaussianBlur(soft))
    return np.asarray(small, dtype=np.float64) / 255


def _lit(rng: np.random.Generator, color: _Floats, down: _Floats, right: _Floats) -> _Floats:
    """A color under light from one side, with folds."""
    angle = rng.uniform(0, 6.3)
    light = 1 + 0.35 * np.cos(2.2 * (np.cos(angle) * down + np.sin(angle) * right) + rng.uniform(0, 6.3))
    folds = 1 + 0.15 * np.sin(rng.uniform(20, 45) * (np.sin(angle) * down - np.cos(angle) * right))
    return color * (light * folds)[..., None]


def _lay(linear: _Floats, cover: _Floats, color: _Floats) -> None:
    # Cameras mix in linear light.
    linear[:] = linear * (1 - cover[..., None]) + color * cover[..., None]


def _overlap(found: FoundObject | None, truth: _Mask) -> float:
    mask = np.zeros_like(truth) if found is None else found.whole(truth.shape) >= 0.5
    return float((mask & truth).sum() / max((mask | truth).sum(), 1))


def objects() -> None:
    """Masks from one press and with two more; where colors land; what moves outside."""
    one, three, middles, alike = [], [], [], []
    moved = 0
    for number, scene in enumerate(scenes()):
        rng = np.random.default_rng(1000 + number)
        rows, columns = np.nonzero(scene.truth)
        found = None
        for _ in range(_PRESSES):
            presses: list[tuple[float, float]] = []
            for more in range(3):
                wrong = scene.truth & ~(found.whole(scene.truth.shape) >= 0.5) if more and found else scene.truth
                # A person presses in the middle of what is missing, if there is anything to press on.
                inner = ndimage.binary_erosion(wrong, iterations=4) if more else wrong
                if not inner.any():
                    continue
                rows, columns = np.nonzero(inner)
                at = rng.integers(len(rows))
                presses.append(((columns[at] + 0.5) / _SIDE[1], (rows[at] + 0.5) / _SIDE[0]))
                found = object_in(scene.pixels, Sought(tuple(presses)))
                if more == 0:
                    one.append(_overlap(found, scene.truth))
            three.append(_overlap(found, scene.truth))
        if found is None:
            continue
        target = _TARGETS[number % len(_TARGETS)]
        made = in_another_color(scene.pixels, scene.pixels, found, target)
        weight = found.whole(scene.truth.shape)
        moved += int((made != scene.pixels).any(axis=2)[weight == 0].sum())
        middle = np.median(made[weight == 1], axis=0)
        middles.append(float(ciede2000(cielab(middle[None]), cielab(np.array([target])))[0]))
        light = [linear_to_oklab(decode(picture[weight == 1] / 255))[:, 0] for picture in (scene.pixels, made)]
        alike.append(float(np.corrcoef(*light)[0, 1]))
    by_scene = np.array(one).reshape(-1, _PRESSES)
    print("object by scene, one press:", " ".join(f"{value:.2f}" for value in np.median(by_scene, axis=1)))
    figure(
        "object: overlap with the truth, one press, median of the scenes",
        float(np.median(by_scene)),
        0.9,
        "",
        at_least=True,
    )
    figure("object: the same, nine of ten presses", float(np.percentile(one, 10)), 0.9, "", at_least=True)
    figure("object: overlap with two more presses, median", float(np.median(three)), 0.97, "", at_least=True)
    figure("object: its middle from the target, worst", max(middles), 2, "CIEDE2000")
    figure("object: correlation of lightness, median", float(np.median(alike)), 0.98, "", at_least=True)
    figure("object: correlation of lightness, least", min(alike), 0.98, "", at_least=True)
    figure("object: pixels outside that moved", moved, 0, "pixels")


def speed() -> None:
    """One object at 12 MP, against decoding and encoding the same file."""
    for name, share, bound in (("a quarter", 0.5, 3), ("all", 1.02, 6)):
        pixels = _large(share)
        target = io.BytesIO()
        Image.fromarray(pixels).save(target, "JPEG", quality=90)
        data = target.getvalue()
        value = ratio(lambda data=data: _work(data, True), lambda data=data: _work(data, False), 3)
        figure(f"object: {name} of 12 MP, to decode and encode", value, bound, "times")


def _work(data: bytes, colored: bool) -> None:
    pixels = np.asarray(Image.open(io.BytesIO(data)))
    found = object_in(pixels, Sought(((0.5, 0.5),))) if colored else None
    made = pixels if found is None else in_another_color(pixels, pixels, found, _TARGETS[0])
    Image.fromarray(made).save(io.BytesIO(), "JPEG", quality=90)


def _large(side: float) -> _Levels:
    rows, columns = 3000, 4000
    down, right = np.mgrid[0:rows, 0:columns].astype(np.float32) / rows
    light = 0.75 + 0.2 * np.sin(9 * down) * np.cos(7 * right)
    inside = (np.abs(down - 0.5) < side / 2) & (np.abs(right - columns / rows / 2) < side * columns / rows / 2)
    made = np.where(inside[..., None], np.array([60, 120, 200]), np.array([210, 190, 150])) * light[..., None]
    made += np.random.default_rng(0).normal(0, 2.2, made.shape)
    return np.clip(np.rint(made), 0, 255).astype(np.uint8)


if __name__ == "__main__":
    objects()
    speed()
