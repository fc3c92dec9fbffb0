"""The formats of pictures that other files show."""

from __future__ import annotations

from collections.abc import Sequence

from pavese.core.formats.format import Format
from pavese.core.formats.picture import FORMATS as PIXELS
from pavese.core.formats.svg import SVG_FORMAT

FORMATS: Sequence[Format] = (*PIXELS, SVG_FORMAT)
