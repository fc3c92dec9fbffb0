"""Difference between colors as people see it: CIEDE2000, over whole tables.

CIE 142-2001; formula and test data in Sharma, Wu and Dalal (2005), "The CIEDE2000 color-difference formula",
Color Research and Application 30(1). CIELAB is taken relative to D65, the white of sRGB.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from pavese.core.color.oklab import Array, decode
from pavese.core.color.srgb import Rgb

#: Below this two colors count as the same, below NEAR as a drift of one another (design, section 5).
SAME = 1.0
NEAR = 5.0

# IEC 61966-2-1 primaries; the white is the sum of the rows, so that grey has a = b = 0.
_RGB_TO_XYZ = np.array(
    [
        [0.41239079926595934, 0.357584339383878, 0.1804807884018343],
        [0.21263900587151027, 0.715168678767756, 0.07219231536073371],
        [0.01933081871559182, 0.11919477979462598, 0.9505321522496607],
    ]
)
_WHITE = _RGB_TO_XYZ.sum(axis=1)


def cielab(colors: Sequence[Rgb]) -> Array:
    """CIELAB (D65) of 8-bit colors, shape (n, 3)."""
    linear = decode(np.array(colors, dtype=np.float64).reshape(-1, 3) / 255)
    ratio = linear @ _RGB_TO_XYZ.T / _WHITE
    delta = 6 / 29
    f = np.where(ratio > delta**3, np.cbrt(ratio), ratio / (3 * delta**2) + 4 / 29)
    return np.stack(
        [116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])],
        axis=-1,
    )


def ciede2000(first: Array, second: Array) -> Array:
    """CIEDE2000 between CIELAB arrays; shapes (..., 3) that broadcast, kL = kC = kH = 1."""
    l1, a1, b1 = np.moveaxis(first, -1, 0)
    l2, a2, b2 = np.moveaxis(second, -1, 0)
    mean_c7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(mean_c7 / (mean_c7 + 25.0**7)))
    a1, a2 = (1 + g) * a1, (1 + g) * a2
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = np.degrees(np.arctan2(b1, a1)) % 360, np.degrees(np.arctan2(b2, a2)) % 360

    chromatic = c1 * c2 != 0
    turn = np.where(chromatic, (h2 - h1 + 180) % 360 - 180, 0.0)
    # At exactly half a turn the sign follows h2 - h1 (Sharma, note 15).
    turn = np.where(chromatic & (np.abs(h2 - h1) == 180), h2 - h1, turn)
    d_l, d_c = l2 - l1, c2 - c1
    d_h = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(turn / 2))

    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    far = np.abs(h1 - h2) > 180
    total = h1 + h2
    mean_h = np.where(far, np.where(total < 360, (total + 360) / 2, (total - 360) / 2), total / 2)
    mean_h = np.where(chromatic, mean_h, total)

    t = (
        1
        - 0.17 * np.cos(np.radians(mean_h - 30))
        + 0.24 * np.cos(np.radians(2 * mean_h))
        + 0.32 * np.cos(np.radians(3 * mean_h + 6))
        - 0.20 * np.cos(np.radians(4 * mean_h - 63))
    )
    s_l = 1 + 0.015 * (mean_l - 50) ** 2 / np.sqrt(20 + (mean_l - 50) ** 2)
    s_c = 1 + 0.045 * mean_c
    s_h = 1 + 0.015 * mean_c * t
    rotation = 30 * np.exp(-(((mean_h - 275) / 25) ** 2))
    r_c = 2 * np.sqrt(mean_c**7 / (mean_c**7 + 25.0**7))
    r_t = -np.sin(np.radians(2 * rotation)) * r_c
    l_part, c_part, h_part = d_l / s_l, d_c / s_c, d_h / s_h
    return np.asarray(np.sqrt(l_part**2 + c_part**2 + h_part**2 + r_t * c_part * h_part))


def differences(rows: Sequence[Rgb], columns: Sequence[Rgb]) -> Array:
    """The table of differences, shape (len(rows), len(columns))."""
    return ciede2000(cielab(rows)[:, None, :], cielab(columns)[None, :, :])


def difference(a: Rgb, b: Rgb) -> float:
    """CIEDE2000 between two colors, 0 upwards."""
    return float(differences([a], [b])[0, 0])
