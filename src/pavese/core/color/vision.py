"""Colors as seen with a color vision deficiency, and without hue.

Machado, Oliveira and Fernandes (2009), "A physiologically-based model for simulation of color vision deficiency", IEEE
Transactions on Visualization and Computer Graphics 15(6), supplementary tables: a matrix on linear sRGB for every
tenth of severity, in between interpolated as the authors advise. The tables are those coloraide carries.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from enum import StrEnum

import numpy as np
from coloraide.filters.cvd import MACHADO_DEUTAN, MACHADO_PROTAN, MACHADO_TRITAN

from pavese.core.color.oklab import LUMINANCE, Array, decode, encode
from pavese.core.color.srgb import Rgb


class Vision(StrEnum):
    """Ways of seeing."""

    USUAL = "usual"
    PROTAN = "protan"
    DEUTAN = "deutan"
    TRITAN = "tritan"
    GREY = "greyscale"


def machado(table: Mapping[int, Sequence[Sequence[float]]], severity: float) -> Array:
    """The matrix (3, 3) at a severity from 0 to 1."""
    tenths = min(max(severity, 0.0), 1.0) * 10
    low = min(int(tenths), 9)
    part = tenths - low
    return np.array(table[low]) * (1 - part) + np.array(table[low + 1]) * part


def _grey(severity: float) -> Array:
    return np.eye(3) * (1 - severity) + np.tile(LUMINANCE, (3, 1)) * severity


_MATRICES: Mapping[Vision, Callable[[float], Array]] = {
    Vision.USUAL: lambda _: np.eye(3),
    Vision.PROTAN: lambda severity: machado(MACHADO_PROTAN, severity),
    Vision.DEUTAN: lambda severity: machado(MACHADO_DEUTAN, severity),
    Vision.TRITAN: lambda severity: machado(MACHADO_TRITAN, severity),
    Vision.GREY: _grey,
}


def seen(colors: Sequence[Rgb], vision: Vision, severity: float = 1.0) -> list[Rgb]:
    """The colors as they look; severity is 0 (usual vision) to 1 (one kind of cone is missing)."""
    if not colors:
        return []
    linear = decode(np.array(colors, dtype=np.float64) / 255) @ _MATRICES[vision](severity).T
    return [Rgb(*map(int, levels)) for levels in np.rint(encode(linear) * 255)]
