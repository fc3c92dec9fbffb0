"""Gradients that run one way through more colors than lie on few straight lines, as in strips of all colors."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
import pytest
from PIL import Image

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats import read
from pavese.core.pictures.slopes import straight
from tests.formats.rasters import saved
from tests.formats.test_large_pictures import apart, pixels

CAME = [(236, 51, 57), (53, 75, 156), (58, 170, 224), (144, 199, 75), (241, 233, 42), (40, 40, 60)]
NEW = [(20, 60, 90), (200, 180, 40), (240, 240, 220), (90, 20, 40), (30, 120, 90), (250, 150, 100)]


def running(stops: list[tuple[int, int, int]], degrees: float, *, width: int = 640) -> npt.NDArray[np.uint8]:
    """A picture all of which is a gradient in a direction, shape (rows, columns, 3)."""
    down, across = np.mgrid[: width // 2, :width]
    way = across * np.cos(np.radians(degrees)) + down * np.sin(np.radians(degrees))
    at = (way - way.min()) / np.ptp(way) * (len(stops) - 1)
    channels = [np.interp(at, range(len(stops)), [stop[channel] for stop in stops]) for channel in range(3)]
    return np.rint(np.stack(channels, axis=-1)).astype(np.uint8)


@pytest.mark.parametrize(("kind", "most"), [("PNG", 8), ("JPEG", 9)])
@pytest.mark.parametrize("degrees", [0, 37, 135])
def test_a_gradient_of_many_colors_goes_with_each_of_them(kind: str, most: int, degrees: float) -> None:
    name = f"strip.{kind.lower()}"
    document = read(name, saved(Image.fromarray(running(CAME, degrees)), kind, quality=90))
    paints = document.inventory().paints
    off = np.abs(np.array([paint.rgb for paint in paints])[:, None] - np.array(CAME)).max(axis=2)
    assert off.min(axis=0).max() <= 5, "each color is a paint"
    assert len(paints) <= len(CAME) + 2
    to: dict[Rgba, Rgb] = {paint: Rgb(*NEW[nearest]) for paint, nearest in zip(paints, off.argmin(axis=1), strict=True)}
    assert np.percentile(apart(pixels(document.write(to)), running(NEW, degrees)), 95) <= most


def test_what_runs_unevenly_or_both_ways_is_not_straight() -> None:
    area, places = np.zeros((60, 60), dtype=np.int16), np.arange(3600, dtype=np.int32)
    colors = running(CAME, 0, width=120).reshape(60, 120, 3)[:, ::2].reshape(-1, 3)
    found = straight(colors, places, area)
    assert found is not None
    assert found[[0, -1]].tolist() == colors[[0, 59]].tolist()
    noisy = np.clip(colors + np.random.default_rng(2).normal(0, 6, colors.shape), 0, 255).astype(np.uint8)
    assert straight(noisy, places, area) is None
    rows, columns = np.divmod(places, 60)
    both_ways = np.stack([np.hypot(rows - 30, columns - 30) * 6] * 3, axis=1).astype(np.uint8)
    assert straight(both_ways, places, area) is None
    assert straight(colors, places[:9], area) is None
