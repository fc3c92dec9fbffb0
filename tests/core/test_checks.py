"""Each check finds what it is for, and nothing where all is as it should be."""

from __future__ import annotations

from collections.abc import Iterable

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from pavese.core.check.checks import CHECKS, Handed, checked
from pavese.core.color.contrast import LARGE, contrast_ratio
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.charts import Chart, Series
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site
from pavese.core.recolor.texts import Text, TextRun
from pavese.demo.load import demo_kit

KIT = demo_kit()
RED, GREEN, WHITE = Rgba(229, 57, 53), Rgba(67, 160, 71), Rgba(255, 255, 255)
LIGHT, DARK = (KIT.color(key).base for key in ("fog", "hull"))
colors = st.builds(Rgb, *[st.integers(0, 255)] * 3)


def handed(to: dict[Rgba, Rgb], charts: Iterable[Chart] = (), measured: Measured | None = None) -> Handed:
    """A file of some paints, as it becomes; what is read back is what was to be written."""
    came = Inventory({one: {Kind.FILL: 1} for one in to}, charts=tuple(charts))
    after = Inventory({Rgba(*color): {Kind.FILL: 1} for color in to.values()})
    return Handed(came, measured or Measured(), Changes(Recoloring(to)), after, on_pixels=False)


def text(ink: Rgba, ground: Rgba) -> Measured:
    return Measured(texts=(TextRun(Text("Departures", ink, 1.0, 14.0, bold=False), ground),))


def chart() -> Chart:
    return Chart("", tuple(Series(name, Site(one, Kind.SERIES)) for name, one in (("calm", RED), ("rough", GREEN))))


@pytest.mark.parametrize(
    ("key", "well", "badly"),
    [
        ("paints", handed({RED: DARK}), handed({RED: Rgb(1, 250, 3)})),
        (
            "texts",
            handed({RED: DARK, WHITE: LIGHT}, measured=text(RED, WHITE)),
            handed({RED: LIGHT, WHITE: LIGHT}, measured=text(RED, WHITE)),
        ),
        ("charts", handed({RED: DARK, GREEN: LIGHT}, [chart()]), handed({RED: DARK, GREEN: DARK}, [chart()])),
        (
            "touching",
            handed({RED: DARK, WHITE: LIGHT}, measured=Measured(touching={(RED, WHITE): 0.1})),
            handed({RED: DARK, WHITE: DARK}, measured=Measured(touching={(RED, WHITE): 0.1})),
        ),
    ],
)
def test_each_check_finds_what_it_is_for(key: str, well: Handed, badly: Handed) -> None:
    assert [*CHECKS[key].find(well, KIT)] == []
    [found] = CHECKS[key].find(badly, KIT)
    assert found.text
    assert found.colors
    assert key in {one for one, _ in checked(badly, KIT)}


def test_every_check_is_tried() -> None:
    [mark] = test_each_check_finds_what_it_is_for.pytestmark  # type: ignore[attr-defined]
    assert {case[0] for case in mark.args[1]} == CHECKS.keys()


@given(colors, colors, colors, colors)
def test_a_level_that_is_lost_between_what_touches_is_told(one: Rgb, other: Rgb, first: Rgb, second: Rgb) -> None:
    assume(one != other)
    both = Rgba(*one), Rgba(*other)
    file = handed(dict(zip(both, (first, second), strict=True)), measured=Measured(touching={both: 0.5}))
    before, after = contrast_ratio(one, other), contrast_ratio(first, second)
    assert bool([*CHECKS["touching"].find(file, KIT)]) is (before >= LARGE > after)
