"""Masks grow and shrink as filters of the same squares make them."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays
from scipy import ndimage

from pavese.core.pictures.masks import grown, near, shrunk

masks = arrays(np.bool_, st.tuples(st.integers(1, 30), st.integers(1, 30)))


@given(masks, st.integers(0, 40))
def test_a_mask_grows_and_shrinks_by_a_square(mask: npt.NDArray[np.bool_], by: int) -> None:
    before = mask.copy()
    size = 2 * by + 1
    assert np.array_equal(grown(mask, by), ndimage.maximum_filter(mask.astype(np.uint8), size, mode="constant") > 0)
    least = ndimage.minimum_filter(mask.astype(np.uint8), size, mode="constant", cval=1)
    assert np.array_equal(shrunk(mask, by), least > 0)
    assert np.array_equal(mask, before)


@given(st.data(), st.integers(1, 40), st.integers(1, 40), st.integers(0, 3))
def test_some_pixels_are_near_a_mask_where_it_grows_to(data: st.DataObject, rows: int, columns: int, by: int) -> None:
    """However many are asked, and however many are in the mask."""
    position = st.integers(0, rows * columns - 1)
    mask = np.zeros((rows, columns), dtype=np.bool_)
    mask.ravel()[data.draw(st.lists(position, max_size=6))] = True
    mask ^= data.draw(st.booleans())
    places = np.array(data.draw(st.lists(position, max_size=60)), dtype=np.int32)
    assert np.array_equal(near(mask, by, places), grown(mask, by).ravel()[places])
