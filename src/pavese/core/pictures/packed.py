"""A mixture as bytes, to be kept, and back."""

from __future__ import annotations

import io
import zlib
from collections.abc import Mapping
from typing import Any

import numpy as np
import numpy.typing as npt

from pavese.core.pictures.mixture import Blended, Mixture, Striped

_Arrays = Mapping[str, npt.NDArray[Any]]
#: Most of it is one number over and over: harder work makes it hardly smaller.
_EFFORT = 1


def packed(mixture: Mixture, most: int) -> bytes | None:
    """A mixture in the format of NumPy for several arrays (NEP 1), compressed; None where it takes more bytes in
    memory."""
    arrays: dict[str, npt.NDArray[Any]] = {
        "paints": mixture.paints,
        "at": mixture.at,
        "soft": np.array(sorted(mixture.soft), dtype=np.int64).reshape(-1, 2),
        "unsure": np.array(mixture.unsure),
    }
    for name, part in (("shades", mixture.shades), ("edges", mixture.edges), ("striped", mixture.striped)):
        arrays |= {f"{name}.{field}": values for field, values in vars(part).items()}
    if sum(values.nbytes for values in arrays.values()) > most:
        return None
    to = io.BytesIO()
    np.savez(to, allow_pickle=False, **arrays)
    return zlib.compress(to.getbuffer(), _EFFORT)


def unpacked(data: bytes) -> Mixture:
    """The same mixture. Raises ValueError where it is none."""
    try:
        with np.load(io.BytesIO(zlib.decompress(data)), allow_pickle=False) as found:
            arrays: _Arrays = dict(found)
        return Mixture(
            arrays["paints"],
            arrays["at"],
            Blended(**_part(arrays, "shades")),
            Blended(**_part(arrays, "edges")),
            frozenset((int(one), int(other)) for one, other in arrays["soft"]),
            int(arrays["unsure"]),
            Striped(**_part(arrays, "striped")),
        )
    except (zlib.error, OSError, KeyError, TypeError, EOFError) as error:
        raise ValueError(f"no mixture: {error}") from error


def _part(arrays: _Arrays, name: str) -> dict[str, npt.NDArray[Any]]:
    return {key.partition(".")[2]: values for key, values in arrays.items() if key.startswith(f"{name}.")}
