"""Color vision against the published tables, and what it makes of a kit."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.oklab import decode
from pavese.core.color.srgb import Rgb
from pavese.core.color.vision import Vision, seen
from pavese.core.kit.confusions import confusions
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from tests.core.strategies import colors, kits

#: Machado, Oliveira and Fernandes (2009), supplementary tables: severity 0.5 and 1.0.
PUBLISHED = {
    (Vision.PROTAN, 0.5): (
        (0.458064, 0.679578, -0.137642),
        (0.092785, 0.846313, 0.060902),
        (-0.007494, -0.016807, 1.024301),
    ),
    (Vision.PROTAN, 1.0): (
        (0.152286, 1.052583, -0.204868),
        (0.114503, 0.786281, 0.099216),
        (-0.003882, -0.048116, 1.051998),
    ),
    (Vision.DEUTAN, 0.5): (
        (0.547494, 0.607765, -0.155259),
        (0.181692, 0.781742, 0.036566),
        (-0.010410, 0.027275, 0.983136),
    ),
    (Vision.DEUTAN, 1.0): (
        (0.367322, 0.860646, -0.227968),
        (0.280085, 0.672501, 0.047413),
        (-0.011820, 0.042940, 0.968881),
    ),
    (Vision.TRITAN, 0.5): (
        (1.017277, 0.027029, -0.044306),
        (-0.006113, 0.958479, 0.047634),
        (0.006379, 0.248708, 0.744913),
    ),
    (Vision.TRITAN, 1.0): (
        (1.255528, -0.076749, -0.178779),
        (-0.078411, 0.930809, 0.147602),
        (0.004733, 0.691367, 0.303900),
    ),
}


@pytest.mark.parametrize(("vision", "severity"), PUBLISHED)
@given(color=colors)
def test_published_matrices(vision: Vision, severity: float, color: Rgb) -> None:
    """The 8-bit color seen is the published matrix on linear sRGB, clipped and encoded as IEC 61966-2-1 says."""
    linear = np.clip(np.array(PUBLISHED[vision, severity]) @ decode(np.array(color) / 255), 0, 1)
    coded = np.where(linear <= 0.0031308, linear * 12.92, 1.055 * linear ** (1 / 2.4) - 0.055) * 255
    [found] = seen([color], vision, severity)
    assert np.abs(coded - np.array(found)).max() <= 0.5 + 1e-3


@given(color=colors, vision=st.sampled_from(Vision))
def test_no_severity_is_usual_vision(color: Rgb, vision: Vision) -> None:
    assert seen([color], vision, 0.0) == [color]
    assert seen([color], Vision.USUAL, 1.0) == [color]


@given(color=colors)
def test_grey_is_grey(color: Rgb) -> None:
    [found] = seen([color], Vision.GREY)
    assert found.r == found.g == found.b


def test_red_and_green_of_one_lightness_are_confused() -> None:
    kit = Kit(
        name="K",
        colors=(
            KitColor(key="red", name="Red", role=Role.ACCENT, base=Rgb(190, 100, 60)),
            KitColor(key="green", name="Green", role=Role.ACCENT, base=Rgb(120, 128, 60)),
            KitColor(key="ink", name="Ink", role=Role.TEXT_DARK, base=Rgb(20, 20, 30)),
        ),
    )
    found = {(one.vision, one.first, one.second) for one in confusions(kit)}
    assert (Vision.DEUTAN, "red", "green") in found
    assert not any("ink" in pair for pair in found)


@given(kits(smallest=2), st.floats(0, 1))
def test_confusions_are_of_colors_that_are_told_apart_otherwise(kit: Kit, severity: float) -> None:
    for one in confusions(kit, severity):
        assert one.left < 6.0 <= one.usual
        assert one.vision is not Vision.USUAL
