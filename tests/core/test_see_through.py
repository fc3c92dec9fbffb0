"""See-through equals: exact to the bit, and no opaquer than need be."""

import re
from itertools import pairwise

from hypothesis import example, given
from hypothesis import strategies as st

from pavese.core.color.contrast import WHITE
from pavese.core.color.overlay import SeeThroughColor, see_through_equal
from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit
from pavese.core.kit.see_through import SeeThrough, Shape, Vividness
from pavese.core.kit.see_through_steps import base_of, equals
from tests.core.strategies import colors, kits


def composited(color: Rgb, alpha: int, ground: Rgb) -> tuple[int, ...]:
    """W3C Compositing and Blending 1, 5.1, in whole numbers, half up."""
    return tuple((2 * (f * alpha + b * (100 - alpha)) + 100) // 200 for f, b in zip(color, ground, strict=True))


@given(color=colors, ground=colors)
@example(color=Rgb(0, 0, 0), ground=WHITE)
@example(color=WHITE, ground=WHITE)
@example(color=Rgb(255, 0, 128), ground=Rgb(0, 255, 127))
def test_exact_and_least(color: Rgb, ground: Rgb) -> None:
    found = see_through_equal(color, ground)
    assert composited(found.color, found.alpha, ground) == color == found.over(ground)
    for alpha in range(found.alpha):
        # One percent less already leaves some channel out of reach of all 256 levels.
        assert any(
            all((2 * (f * alpha + b * (100 - alpha)) + 100) // 200 != seen for f in range(256))
            for seen, b in zip(color, ground, strict=True)
        )


@given(color=colors, alpha=st.integers(0, 100))
def test_every_notation_says_the_same(color: Rgb, alpha: int) -> None:
    through = SeeThroughColor(color, alpha)
    for text in (through.rgb, through.hsl, through.hex):
        read = parse_color(text)
        assert read.rgb == color
        assert abs(read.alpha - alpha / 100) <= 0.0025
    assert re.fullmatch(r"#[0-9a-f]{8}", through.hex)


@given(kits(), st.sampled_from(["white", "black"]), st.data())
def test_full_vividness_is_exact_and_quiet_darks_lose_chroma_only(kit: Kit, base: str, data: st.DataObject) -> None:
    color = kit.colors[0]
    full = equals(kit, SeeThrough(of=color.key, base=base))
    assert [one.step for one in full] == list(STEPS)
    assert all(one.exact and one.seen == one.solid == color.ramp.at(one.step) for one in full)
    vividness = Vividness(
        shape=data.draw(st.sampled_from(Shape)),
        strength=data.draw(st.integers(1, 100)),
        begins=data.draw(st.integers(1, 100)),
    )
    setting = SeeThrough(of=color.key, base=base, vividness=vividness)
    quiet = equals(kit, setting)
    kept = [one.chroma / one.full if one.full else 1.0 for one in quiet]
    for before, after in zip(full, quiet, strict=True):
        assert after.through.alpha == before.through.alpha
        assert after.through.over(base_of(kit, setting)) == after.seen
    assert all(after <= before + 1e-9 for before, after in pairwise(kept))
    assert abs(vividness.kept(0.0) - (1 - vividness.strength / 100)) < 1e-9
    assert vividness.kept(vividness.begins / 100) == 1.0


def test_settings_are_replayed_when_the_ramp_changes() -> None:
    kit = Kit.model_validate(
        {
            "name": "K",
            "colors": [{"key": "sea", "name": "Sea", "role": "primary", "base": "#0b5e6b"}],
            "see_through": [{"of": "sea", "base": "white"}],
        }
    )
    moved = kit.with_(colors=(kit.colors[0].model_copy(update={"base": Rgb(120, 40, 90)}),))
    assert moved.see_through == kit.see_through
    assert [one.seen for one in equals(moved, moved.see_through[0])] == list(moved.colors[0].ramp.colors)
