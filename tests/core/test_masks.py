"""Masks grow and shrink as filters of the same squares make them."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays
from scipy import ndimage

from pavese.core.pictures.masks import grown, shrunk

masks = arrays(np.bool_, st.tuples(st.integers(1, 30), st.integers(1, 30)))


@given(masks, st.integers(0, 40))
def test_a_mask_grows_and_shrinks_by_a_square(mask: npt.NDArray[np.bool_], by: int) -> None:
    before = mask.copy()
    size = 2 * by + 1
    assert np.array_equal(grown(mask, by), ndimage.maximum_filter(mask.astype(np.uint8), size, mode="constant") > 0)
    least = ndimage.minimum_filter(mask.astype(np.uint8), size, mode="constant", cval=1)
    assert np.array_equal(shrunk(mask, by), least > 0)
    assert np.array_equal(mask, before)
