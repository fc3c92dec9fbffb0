"""What is stored of a file is what was read and measured of it."""

from __future__ import annotations

import json

from hypothesis import given
from hypothesis import strategies as st

from pavese.core.color.derived import Transform
from pavese.core.color.srgb import Rgba
from pavese.core.recolor.inventory import Inventory
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.site import Kind
from pavese.core.recolor.texts import Part, Seen, Sides, Text, TextRun
from pavese.store.facts import from_json, to_json
from tests.core.strategies import colors

paints = st.builds(lambda color, alpha: Rgba(*color, alpha), colors, st.sampled_from([1.0, 0.5, 0.25]))
shares = st.sampled_from([0.125, 0.4, 1.0])
selectors = st.lists(st.sampled_from(["/slide1", "#slide1.4", "/theme.accent1"]), max_size=2).map(tuple)
kinds = st.sampled_from(Kind)
parts = st.builds(Part, paints, kinds, selectors, shares, st.just((Transform("tint", 50_000),)) | st.just(()))
seen = st.builds(Seen, colors, st.none() | st.lists(parts, max_size=2).map(tuple))
texts = st.builds(Text, st.text(max_size=12), paints, shares, st.just(18.0), st.booleans(), selectors, kinds)
runs = st.builds(
    TextRun,
    texts,
    st.none() | paints,
    st.none() | kinds,
    selectors,
    st.booleans(),
    st.sampled_from(["", "/slide1"]),
    st.lists(seen, max_size=2).map(tuple),
)


@given(
    st.dictionaries(paints, shares, max_size=3),
    st.dictionaries(st.tuples(paints, paints), shares, max_size=3),
    st.lists(runs, max_size=3),
    st.lists(st.builds(Sides, parts, parts), max_size=2).map(tuple),
    st.lists(st.tuples(st.text(max_size=9), st.text(max_size=9)), max_size=2).map(tuple),
)
def test_what_was_measured_comes_back(
    areas: dict[Rgba, float],
    touching: dict[tuple[Rgba, Rgba], float],
    found: list[TextRun],
    sides: tuple[Sides, ...],
    faces: tuple[tuple[str, str], ...],
) -> None:
    measured = Measured(areas, touching, areas, tuple(found), sides, faces)
    stored = json.loads(json.dumps(to_json(Inventory.count([]), measured)))
    assert from_json(stored) == measured
