"""Finding colors: what is planted is found, and better than by quantizing; what there is nothing of is said."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from pavese.core.color.difference import difference
from pavese.core.color.extract import APART, Finding, Lean, Pixels, find_colors
from pavese.core.color.oklab import oklch_of
from pavese.core.color.srgb import Rgb
from pavese.demo.planted import KINDS, missed, pictures, planted
from tests.core.strategies import colors

SEEDS = 12


def flat(color: Rgb, height: int = 60, width: int = 80, alpha: int = 255) -> Pixels:
    return np.broadcast_to(np.array([*color, alpha], dtype=np.uint8), (height, width, 4)).copy()


def wanted(picture_colors: int) -> int:
    """A few more than were planted: a gradient between them takes some."""
    return min(12, picture_colors + 3)


@pytest.mark.parametrize("kind", KINDS)
def test_every_planted_color_is_found(kind: str) -> None:
    for seed in range(SEEDS):
        picture = planted(seed, kind)
        found = find_colors(picture.pixels, Finding(wanted(len(picture.colors))))
        assert missed(picture, [color.color for color in found]) == [], (kind, seed)


def test_quantizers_miss_what_is_found_here() -> None:
    ours = theirs = 0
    for picture in pictures(4):
        count = wanted(len(picture.colors))
        ours += len(missed(picture, [color.color for color in find_colors(picture.pixels, Finding(count))]))
        image = Image.fromarray(picture.pixels).convert("RGB")
        misses = []
        for method in (Image.Quantize.MEDIANCUT, Image.Quantize.MAXCOVERAGE, Image.Quantize.FASTOCTREE):
            palette = (image.quantize(count, method=method).getpalette() or [])[: count * 3]
            misses.append(len(missed(picture, [Rgb(*palette[i : i + 3]) for i in range(0, len(palette), 3)])))
        theirs += min(misses)
    assert ours < theirs


@settings(max_examples=12)
@given(st.integers(0, 10_000), st.sampled_from(list(KINDS)), st.integers(3, 12), st.sampled_from(list(Lean)))
def test_found_colors_are_pixels_apart_and_the_same_every_time(seed: int, kind: str, count: int, lean: Lean) -> None:
    pixels = planted(seed, kind).pixels
    found = find_colors(pixels, Finding(count, lean))
    assert 1 <= len(found) <= count
    for color in found:
        assert tuple(pixels[color.y, color.x, :3]) == tuple(color.color)
    assert sum(color.share for color in found) == pytest.approx(1, abs=1e-6)
    for i, one in enumerate(found):
        assert all(difference(one.color, other.color) >= APART for other in found[i + 1 :])
    assert find_colors(pixels.copy(), Finding(count, lean)) == found


@given(colors)
def test_a_picture_of_one_color_has_one(color: Rgb) -> None:
    found = find_colors(flat(color), Finding(8))
    assert [(one.color, round(one.share, 6)) for one in found] == [(color, 1.0)]
    assert find_colors(flat(color, alpha=0), Finding(8)) == ()
    # The ground reaches in from the border: here it is everything.
    assert find_colors(flat(color), Finding(8, leave_out_ground=True)) == ()


def test_a_small_vivid_accent_is_not_lost_beside_large_quiet_areas() -> None:
    pixels = flat(Rgb(226, 228, 224), 400, 600)
    pixels[:, 200:400, :3] = (190, 198, 200)
    pixels[200:, :200, :3] = (150, 158, 160)
    pixels[100:112, 500:520, :3] = (210, 69, 45)
    assert Rgb(210, 69, 45) in [color.color for color in find_colors(pixels, Finding(4))]


def test_the_ground_of_a_logo_is_left_out() -> None:
    logo = flat(Rgb(254, 254, 254), 300, 300)
    logo[100:200, 100:200, :3] = (11, 94, 107)
    logo[130:170, 130:170, :3] = (254, 254, 254)
    found = find_colors(logo, Finding(5, leave_out_ground=True))
    # White inside the mark is part of it, white around it is not.
    assert {color.color: round(color.share, 2) for color in found} == {
        Rgb(11, 94, 107): 0.84,
        Rgb(254, 254, 254): 0.16,
    }


def of_lightness(color: Rgb) -> float:
    return float(oklch_of([color])[0, 0])


def of_chroma(color: Rgb) -> float:
    return float(oklch_of([color])[0, 1])


@pytest.mark.parametrize(
    ("lean", "of", "more"),
    [
        (Lean.VIVID, of_chroma, True),
        (Lean.SOFT, of_chroma, False),
        (Lean.LIGHT, of_lightness, True),
        (Lean.DARK, of_lightness, False),
    ],
)
def test_a_lean_leans(lean: Lean, of: Callable[[Rgb], float], more: bool) -> None:
    step = np.linspace(0, 1, 7)
    squares = [Rgb(int(255 * r), int(255 * g), int(255 * b)) for r in step[::2] for g in step[::2] for b in step[::2]]
    pixels = np.concatenate([flat(color, 40, 12) for color in squares], axis=1)
    plain = np.mean([of(color.color) for color in find_colors(pixels, Finding(5))])
    leaning = np.mean([of(color.color) for color in find_colors(pixels, Finding(5, lean))])
    assert bool(leaning > plain) is more


def test_a_gradient_takes_no_more_than_its_two_ends_before_what_stands_on_it() -> None:
    for kind in ("gradient", "all"):
        for seed in range(6):
            picture = planted(seed, kind)
            found = find_colors(picture.pixels, Finding(min(12, len(picture.colors) + 2)))
            assert not missed(picture, [color.color for color in found]), (kind, seed)


def test_a_flower_in_a_meadow_is_found_for_its_color() -> None:
    chance = np.random.default_rng(5)
    meadow = np.array([70.0, 110.0, 50.0]) + chance.normal(0, 18, (240, 320, 1)) + chance.normal(0, 8, (240, 320, 3))
    rows, columns = np.mgrid[0:240, 0:320]
    flower = (rows - 150) ** 2 + (columns - 200) ** 2 < 8**2
    meadow[flower] = np.array([222.0, 82.0, 142.0]) + chance.normal(0, 8, (int(flower.sum()), 3))
    pixels = np.dstack([np.clip(meadow, 0, 255), np.full((240, 320), 255)]).astype(np.uint8)
    found = find_colors(pixels, Finding(6))
    assert min(difference(color.color, Rgb(222, 82, 142)) for color in found) < 4, "a quarter of a hundredth of it"
