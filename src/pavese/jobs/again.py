"""Files that have more colors with what has come to them: style sheets, and pictures."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy.orm import Session

from pavese.render.pool import DrawingPool
from pavese.render.reading import Refused, read_again
from pavese.store import sets
from pavese.store.models import AssetRow


def read_once_more(session: Session, pool: DrawingPool, assets: Sequence[AssetRow]) -> None:
    """Reads files once more, with what belongs to them; one that cannot be read with it stays as it was."""
    came = [found for _, found in sets.files(session, assets)]
    for asset, read in zip(assets, read_again(pool, came), strict=True):
        if not isinstance(read, Refused):
            sets.read_anew(session, asset, read)
