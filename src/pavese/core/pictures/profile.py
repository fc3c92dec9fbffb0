"""The color profile of a picture: its own values to sRGB and back (ICC.1:2010, relative colorimetric)."""

from __future__ import annotations

import io
from functools import cached_property

import numpy as np
from PIL import Image, ImageCms

from pavese.core.pictures.mixture import Levels

_INTENT = ImageCms.Intent.RELATIVE_COLORIMETRIC


class Profile:
    """An embedded profile of values of red, green and blue; without one, and for one that is of other values, is broken
    or is sRGB, values stay as they are."""

    def __init__(self, data: bytes | None) -> None:
        self._profile = _opened(data) if data else None

    @property
    def is_plain(self) -> bool:
        """Whether values are those of sRGB."""
        return self._profile is None

    def to_srgb(self, values: Levels) -> Levels:
        """Values of the picture, shape (..., 3), in sRGB."""
        return values if self._profile is None else _through(self._there, values)

    def from_srgb(self, values: Levels) -> Levels:
        """The nearest of the picture's own values, shape (..., 3), for those of sRGB."""
        return values if self._profile is None else _through(self._back, values)

    @cached_property
    def _there(self) -> ImageCms.ImageCmsTransform:
        assert self._profile is not None
        return ImageCms.buildTransform(
            self._profile, ImageCms.createProfile("sRGB"), "RGB", "RGB", renderingIntent=_INTENT
        )

    @cached_property
    def _back(self) -> ImageCms.ImageCmsTransform:
        assert self._profile is not None
        return ImageCms.buildTransform(
            ImageCms.createProfile("sRGB"), self._profile, "RGB", "RGB", renderingIntent=_INTENT
        )


def _opened(data: bytes) -> ImageCms.ImageCmsProfile | None:
    try:
        found = ImageCms.ImageCmsProfile(io.BytesIO(data))
        # The profile's name tells sRGB apart cheaply.
        other = found.profile.xcolor_space.strip() == "RGB" and "sRGB" not in ImageCms.getProfileDescription(found)
        if other:
            ImageCms.buildTransform(ImageCms.createProfile("sRGB"), found, "RGB", "RGB", renderingIntent=_INTENT)
    except (ImageCms.PyCMSError, OSError, ValueError):
        # Programs show such a picture as if it had none.
        return None
    return found if other else None


def _through(transform: ImageCms.ImageCmsTransform, values: Levels) -> Levels:
    flat = np.ascontiguousarray(values.reshape(-1, 1, 3) if values.ndim < 3 else values)
    made = ImageCms.applyTransform(Image.fromarray(flat, "RGB"), transform)
    assert made is not None
    return np.asarray(made).reshape(values.shape)
