"""Where values stand in the bytes of a JSON text, however it is spaced and escaped."""

from __future__ import annotations

import json
import random
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.errors import RefusedFileError
from pavese.core.formats.json_source import JsonSource, Spot

#: Among them what could be taken for the signs that are counted: quotes, brackets, and their escapes.
TEXTS = st.text(st.sampled_from('a["]\\/{}#5u0b2é🛟\n'), max_size=8)
NUMBERS = st.lists(st.integers(-3, 300) | st.floats(-2, 2, allow_nan=False), min_size=1, max_size=4)
VALUES = st.recursive(
    TEXTS | NUMBERS | st.none() | st.booleans() | st.integers(-5, 5) | st.just([]),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(TEXTS, inner, max_size=3),
    max_leaves=12,
)


@given(st.dictionaries(TEXTS, VALUES, min_size=1, max_size=4), st.randoms(use_true_random=False))
def test_every_wanted_value_is_found_where_it_stands(tree: dict[str, Any], chance: random.Random) -> None:
    data = _written(tree, chance).encode()
    source = JsonSource("x.json", data)
    spots = [spot for spot in _spots(source.tree) if chance.random() < 0.7]
    spans = source.spans(spots)
    assert [json.loads(data[start:end]) for start, end in spans] == [spot.value for spot in spots]
    assert source.tree == tree


@pytest.mark.parametrize(
    "text",
    ['{"a":[1],"a":[2]}', '{"a":"[","a":[2]}', '{"a":[1],"b":"x","\\u0061":"y"}'],
)
def test_a_name_given_twice_is_refused(text: str) -> None:
    source = JsonSource("x.json", text.encode())
    with pytest.raises(RefusedFileError, match="same name twice"):
        source.spans([Spot(source.tree, "a")])


def _spots(value: Any) -> Iterator[Spot]:
    """Every string, and every array of numbers, that something holds."""
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        numbers = isinstance(inner, list) and inner and all(type(one) in (int, float) for one in inner)
        if isinstance(inner, str) or numbers:
            yield Spot(value, key)
        else:
            yield from _spots(inner)


def _written(value: Any, chance: random.Random) -> str:
    """JSON with spaces and escapes at random."""

    def gap() -> str:
        return chance.choice(("", "", " ", "\n\t"))

    if isinstance(value, str):
        escaped = [
            f"\\u{ord(one):04x}" if one < "\x7f" and chance.random() < 0.4 else json.dumps(one)[1:-1] for one in value
        ]
        return f'"{"".join(escaped)}"'
    if isinstance(value, dict):
        inside = [f"{gap()}{_written(key, chance)}{gap()}:{gap()}{_written(one, chance)}" for key, one in value.items()]
        return f"{{{','.join(inside)}{gap()}}}"
    if isinstance(value, list):
        return f"[{','.join(gap() + _written(one, chance) + gap() for one in value)}]"
    return json.dumps(value)
