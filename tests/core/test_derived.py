"""Transforms of colors as office documents know them, against what ISO/IEC 29500-1, 20.1.2.3 shows."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.derived import Transform, derived, turning
from pavese.core.color.parse import parse_color
from pavese.core.color.srgb import Rgb
from tests.core.strategies import colors

#: Base, transforms, and what programs of several makers show.
SHOWN = [
    ("#4f81bd", "lumMod:75000", "#366092"),
    ("#4f81bd", "lumMod:60000 lumOff:40000", "#95b3d7"),
    ("#4f81bd", "lumMod:20000 lumOff:80000", "#dce6f2"),
    ("#1f497d", "lumMod:50000", "#10253f"),
    ("#ffffff", "lumMod:85000", "#d9d9d9"),
    ("#000000", "lumMod:50000 lumOff:50000", "#808080"),
    ("#ff0000", "hueOff:7200000", "#00ff00"),
    ("#ff0000", "comp:0", "#00ffff"),
    ("#ff0000", "inv:0", "#00ffff"),
    ("#808080", "tint:100000", "#808080"),
    ("#808080", "tint:0", "#ffffff"),
    ("#808080", "shade:0", "#000000"),
    ("#00ff00", "shade:50000", "#00bc00"),
    ("#336699", "satMod:0", "#666666"),
    ("#336699", "red:100000", "#ff6699"),
    ("#336699", "gray:0", "#636363"),
    ("#808080", "gamma:0", "#bcbcbc"),
    ("#808080", "invGamma:0", "#373737"),
    ("#336699", "nothing:5", "#336699"),
]


def said(text: str) -> list[Transform]:
    return [Transform(name, int(value)) for name, _, value in (one.partition(":") for one in text.split())]


@pytest.mark.parametrize(("base", "transforms", "shown"), SHOWN)
def test_what_programs_show(base: str, transforms: str, shown: str) -> None:
    found = derived(parse_color(base).rgb, said(transforms))
    wanted = parse_color(shown).rgb
    assert max(abs(a - b) for a, b in zip(found.rgb, wanted, strict=True)) <= 1
    assert found.alpha == 1


@pytest.mark.parametrize(
    ("transforms", "alpha"),
    [
        ("alpha:50000", 0.5),
        ("alpha:50000 alphaMod:50000", 0.25),
        ("alphaOff:-40000", 0.6),
        ("alpha:250000", 1.0),
        ("alphaMod:-1", 0.0),
    ],
)
def test_alpha_is_apart_from_the_color(transforms: str, alpha: float) -> None:
    assert derived(Rgb(9, 8, 7), said(transforms)) == (9, 8, 7, alpha)


@given(
    color=colors, values=st.lists(st.tuples(st.sampled_from(["lumOff", "hueOff", "satMod", "alphaMod"]), st.just(0)))
)
def test_what_changes_nothing_is_known(color: Rgb, values: list[tuple[str, int]]) -> None:
    transforms = [Transform(*one) for one in values]
    kept = turning(transforms)
    assert all(one.name == "satMod" for one in kept)
    assert derived(color, kept).rgb == derived(color, transforms).rgb
    assert turning([Transform("lumMod", 100_000), Transform("hueOff", 0), Transform("alpha", 3)]) == ()
