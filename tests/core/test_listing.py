"""Which files of a set are listed: whatever is asked for, each that fits is there once, and knows its neighbors."""

from __future__ import annotations

from dataclasses import dataclass

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.recolor.listing import ODD, Listing, Only, Order
from pavese.core.recolor.traits import Traits

_PLAIN = Traits(1, 1, 1, False, 0.0, 0.0)


@dataclass(frozen=True)
class File:
    """A file as it is listed."""

    name: str
    traits: Traits = _PLAIN
    apart: float = 0.0
    remarks: int = 0
    moves: bool = False
    own: bool = False
    left_out: bool = False
    weak: bool = False
    unread: bool = False
    worse: bool = False


_traits = st.builds(
    Traits, st.integers(0, 4), st.integers(0, 4), st.integers(0, 9), st.booleans(), st.just(0.0), st.just(0.0)
)
_files = st.lists(
    st.builds(
        File,
        st.text("aB1 2-", min_size=1, max_size=5),
        _traits,
        st.sampled_from((0.0, 1.0, ODD, 3.0)),
        st.integers(0, 2),
        *[st.booleans()] * 4,
    ),
    max_size=12,
)
_listings = st.builds(
    Listing, st.sampled_from(Only), st.sampled_from(Order), st.sampled_from(("", " ", "a", "B1", "x"))
)


@given(_files, _listings)
def test_what_fits_is_listed_once_and_nothing_else(files: list[File], listing: Listing) -> None:
    places = list(listing.of(files))
    assert sorted(places) == [at for at, file in enumerate(files) if listing.holds(file)]
    if listing.order is Order.SET:
        assert places == sorted(places)


@given(_files, st.sampled_from([order for order in Order if order is not Order.SET]))
def test_files_that_are_equal_in_an_order_stand_as_they_were_added(files: list[File], order: Order) -> None:
    places = list(Listing(order=order).of(files))
    twice = list(Listing(order=order).of([files[at] for at in places]))
    assert twice == list(range(len(files))), "what is in order stays as it is"


@given(_files, _files)
def test_a_kind_and_its_opposite_are_all_files(files: list[File], more: list[File]) -> None:
    everything = [*files, *more]
    for one, other in (
        (Only.ONE_COLOR, Only.SEVERAL_COLORS),
        (Only.STROKED, Only.FILLED),
        (Only.LEFT_OUT, Only.HANDED),
    ):
        found = [*Listing(one).of(everything), *Listing(other).of(everything)]
        assert sorted(found) == list(range(len(everything)))


@given(_files.filter(bool), _listings, st.data())
def test_going_on_from_file_to_file_comes_round_once(files: list[File], listing: Listing, data: st.DataObject) -> None:
    start = data.draw(st.integers(0, len(files) - 1))
    around, at = [start], listing.beside(files, start)[1]
    # The one that it began with need not be in the listing, and is not come back to then.
    for _ in files:
        if at in around:
            break
        around.append(at)
        before, behind = listing.beside(files, at)
        assert listing.beside(files, before)[1] == at
        at = behind
    assert {*around} == {start, *listing.of(files)}


@pytest.mark.parametrize(
    ("order", "expected"),
    [
        (Order.SET, ["b10", "B2", "a", "b2"]),
        (Order.NAME, ["a", "B2", "b2", "b10"]),
        (Order.ODD, ["b2", "b10", "B2", "a"]),
        (Order.REMARKS, ["B2", "b10", "a", "b2"]),
    ],
)
def test_orders_are_those_that_people_expect(order: Order, expected: list[str]) -> None:
    files = [File("b10"), File("B2", remarks=2), File("a"), File("b2", apart=2.5)]
    assert [files[at].name for at in Listing(order=order).of(files)] == expected
