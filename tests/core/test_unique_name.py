"""Names that are given one after another are those that looking through all names each time would give."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from pavese.core.unique_name import UniqueNames, unique_name

NAMES = st.lists(st.sampled_from(["Sea", "sea", "Sea 2", "SEA 3", "Foam", "sea 2 2"]), max_size=30)


@given(NAMES, NAMES, st.sets(st.integers(0, 29)))
def test_names_given_one_after_another_are_the_first_that_are_free(
    before: list[str], wanted: list[str], as_they_are: set[int]
) -> None:
    names, taken = UniqueNames(before), {name.casefold() for name in before}
    for at, name in enumerate(wanted):
        if at in as_they_are:
            names.keep(name)
            taken.add(name.casefold())
            continue
        given_name = names.take(name)
        assert given_name == unique_name(name, taken)
        taken.add(given_name.casefold())
