"""What becomes of a file: told from every other, whole or in parts, and never more than was listed."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.backing import BackingShape, FileBacking
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory, summarize
from pavese.core.recolor.measure import Measured, combined, measure, paint_at
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from tests.core.strategies import colors

paints = st.builds(lambda color, alpha: Rgba(*color, alpha), colors, st.sampled_from([1.0, 0.5]))
_few = st.sampled_from([Rgba(0, 0, 0), Rgba(255, 0, 0), Rgba(255, 0, 0, 0.5), Rgba(0, 0, 255)])
_targets = st.sampled_from([Rgb(1, 2, 3), Rgb(4, 5, 6)])
_marks = st.sampled_from(["#a", "#b", ".c", "stroke", "fill"])
recolorings = st.builds(
    Recoloring,
    st.dictionaries(_few, _targets, max_size=3),
    st.dictionaries(st.tuples(_few, _marks), _targets | st.none(), max_size=2),
    st.frozensets(st.sampled_from(["#a", ".c"]), max_size=2),
)
_backings = st.builds(
    FileBacking,
    shape=st.sampled_from(BackingShape),
    color=st.sampled_from(["fog.base", "fog.100"]),
    padding=st.just(18),
)
_backed = st.builds(
    lambda to, backing, color: Changes(to, (backing,), {backing.color: color}), recolorings, _backings, _targets
)
all_changes = st.builds(Changes, recolorings) | _backed


@given(all_changes, all_changes)
def test_changes_are_told_from_others_by_their_parts(one: Changes, other: Changes) -> None:
    assert (one == other) == (one.parts == other.parts)


@given(recolorings, _few, st.sampled_from(Kind), st.lists(_marks, max_size=3))
def test_no_site_becomes_what_was_not_listed(to: Recoloring, paint: Rgba, kind: Kind, selectors: list[str]) -> None:
    color = to.at(paint, kind, selectors)
    after = paint if color is None else Rgba(*color, paint.alpha)
    assert after in to.results(paint)
    if not to.splits(paint):
        assert color == to.get(paint)


@given(st.lists(st.dictionaries(_few, st.just({Kind.FILL: 2}), min_size=1), max_size=5), recolorings)
def test_a_recolored_inventory_counts_every_site(files: list[dict[Rgba, dict[Kind, int]]], to: Recoloring) -> None:
    whole = Recoloring(to.colors)
    for sites in files:
        before = Inventory(sites)
        after = before.after(whole)
        assert sum(sum(counts.values()) for counts in after.sites.values()) == 2 * len(sites)
        assert set(after.sites) == {one for paint in sites for one in whole.results(paint)}
    uses = summarize(Inventory(sites) for sites in files).uses
    assert {use.paint: (use.files, use.sites) for use in uses} == {
        paint: (count, 2 * count)
        for paint in {one for sites in files for one in sites}
        if (count := sum(paint in sites for sites in files))
    }


@st.composite
def _pictures(draw: st.DrawFn) -> tuple[np.ndarray, list[Rgba]]:
    """Bands of far-off paints, each at least four pixels wide, on an empty ground."""
    listed = draw(st.permutations([Rgba(200, 30, 30), Rgba(30, 30, 200), Rgba(30, 160, 60), Rgba(240, 200, 40)]))
    bands = listed[: draw(st.integers(1, 4))]
    pixels = np.zeros((24, 4 + sum(4 + 2 * n for n in range(len(bands))), 4), np.uint8)
    at = 2
    for n, paint in enumerate(bands):
        pixels[2:-2, at : at + 4 + 2 * n] = (*paint.rgb, 255)
        at += 4 + 2 * n
    return pixels, bands


@given(_pictures())
def test_what_is_measured_are_shares_of_what_is_there(drawn: tuple[np.ndarray, list[Rgba]]) -> None:
    pixels, bands = drawn
    found = measure(pixels, [*bands, Rgba(90, 90, 90)])
    total = sum(4 + 2 * n for n in range(len(bands)))
    assert found.areas.keys() == set(bands), "what is not seen covers nothing"
    for n, paint in enumerate(bands):
        assert abs(found.areas[paint] - (4 + 2 * n) / total) < 1e-4
    neighbors = {tuple(sorted(pair)) for pair in pairwise(bands)}
    assert set(found.touching) == neighbors
    assert abs(sum(found.touching.values()) + sum(found.outline.values()) - 1) < 1e-3
    assert set(found.outline) == set(bands)
    twice = combined([found, found])
    assert twice.areas == pytest.approx(found.areas)
    assert twice.touching == pytest.approx(found.touching)
    assert twice.outline == pytest.approx(found.outline)
    for n, paint in enumerate(bands):
        middle = 2 + sum(4 + 2 * k for k in range(n)) + 2 + n
        assert paint_at(pixels, bands, (middle + 0.5) / pixels.shape[1], 0.5) == paint
    assert paint_at(pixels, bands, 0.0, 0.0) is None


def test_nothing_is_measured_where_nothing_is() -> None:
    empty = np.zeros((8, 8, 4), np.uint8)
    assert measure(empty, [Rgba(1, 2, 3)]) == Measured() == measure(empty, [])
    assert combined([]) == Measured()
    assert paint_at(empty, [Rgba(1, 2, 3)], 0.5, 0.5) is None
