"""Measuring the files of a drop on small pictures of them."""

from __future__ import annotations

from collections.abc import Sequence

from pavese.core.formats.intake import TakenFile
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.recoloring import Recoloring
from pavese.render.pool import DrawingPool


def measured(pool: DrawingPool, files: Sequence[TakenFile]) -> list[Measured]:
    """What was measured of each file, in their order."""
    drawings = ((file.document.for_engine(Recoloring()), file.inventory.paints) for file in files)
    return pool.measured(drawings)
