"""What stands on a gradient is told from it: lines and letters part it, and it is one gradient all the same."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFont

from pavese.core.color.srgb import Rgb
from pavese.core.formats import read
from pavese.core.pictures.mixture import Levels
from tests.formats.rasters import saved

_WORDS = "Crossings every hour from the old pier"
_BLUE, _ROSE, _WHITE, _CREAM = Rgb(30, 60, 160), Rgb(230, 90, 120), Rgb(255, 255, 255), Rgb(255, 224, 138)
#: What they become.
_NEW = {_BLUE: Rgb(12, 70, 60), _ROSE: Rgb(20, 150, 90), _WHITE: Rgb(240, 230, 200), _CREAM: Rgb(250, 160, 60)}


def _banner(kind: str, blue: Rgb, rose: Rgb, white: Rgb, cream: Rgb) -> Image.Image:
    """Words in five sizes and a row of boxes on a gradient."""
    wide, tall = 720, 330
    down, along = np.mgrid[0:tall, 0:wide]
    run = {
        "aslant": along / (wide - 1) * 0.7 + down / (tall - 1) * 0.3,
        "downward": down / (tall - 1),
        "round": np.clip(np.hypot(along - 216, down - 132) / 540, 0, 1),
    }[kind][..., None]
    ground = np.array(blue) + (np.array(rose).astype(float) - blue) * run
    made = Image.fromarray(np.rint(ground).astype(np.uint8))
    draw = ImageDraw.Draw(made)
    for at, (size, top) in enumerate(((44, 20), (26, 90), (18, 140), (13, 180), (11, 205))):
        draw.text((30, top), _WORDS, font=ImageFont.load_default(size), fill=(white, cream)[at % 2])
    for left in range(30, 680, 50):
        draw.rectangle((left, 260, left + 40, 300), outline=white, width=2)
        draw.line((left + 12, 268, left + 28, 292), fill=white, width=2)
    return made


def _levels(data: bytes) -> Levels:
    with Image.open(io.BytesIO(data)) as image:
        return np.asarray(image.convert("RGB"))


def _recolored(name: str, data: bytes) -> tuple[int, Levels]:
    """How many paints it has, and what it becomes where each goes where the nearest does that was drawn."""
    document = read(name, data)
    paints = document.inventory().paints
    drawn = np.array(list(_NEW))
    near = {paint: int(np.abs(drawn - np.array(paint.rgb)).max(axis=1).argmin()) for paint in paints}
    return len(paints), _levels(document.write({paint: list(_NEW.values())[at] for paint, at in near.items()}))


@pytest.mark.parametrize("kind", ["aslant", "downward"])
def test_a_banner_has_the_ends_of_its_gradient_and_its_inks(kind: str) -> None:
    came = _banner(kind, _BLUE, _ROSE, _WHITE, _CREAM)
    document = read("banner.png", saved(came, "PNG"))
    assert {paint.rgb for paint in document.inventory().paints} == set(_NEW)
    assert document.inventory().remarks == ()
    _, made = _recolored("banner.png", saved(came, "PNG"))
    off = np.abs(made.astype(int) - np.asarray(_banner(kind, *_NEW.values()))).max(axis=2)
    assert np.percentile(off, 99.5) <= 4


@pytest.mark.parametrize("quality", [75, 90])
@pytest.mark.parametrize("kind", ["aslant", "downward"])
def test_also_where_it_was_coded(kind: str, quality: int) -> None:
    count, made = _recolored(
        "banner.jpg", saved(_banner(kind, _BLUE, _ROSE, _WHITE, _CREAM), "JPEG", quality=quality, subsampling=0)
    )
    assert count <= 8
    off = np.abs(made.astype(int) - np.asarray(_banner(kind, *_NEW.values()))).max(axis=2)
    assert np.percentile(off, 90) <= 14


def test_a_gradient_that_runs_round_is_one_to_its_tip() -> None:
    count, _ = _recolored("banner.png", saved(_banner("round", _BLUE, _ROSE, _WHITE, _CREAM), "PNG"))
    assert count <= 5
