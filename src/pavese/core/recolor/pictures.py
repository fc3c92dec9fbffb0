"""Pictures of a file that are changed with it: freed of a ground of their own, or laid on another."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, ClassVar

from pydantic import Field

from pavese.core.pictures.mend import mended
from pavese.core.recolor.act import Act
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.target import TargetText

#: What becomes of a picture that loses its ground; how what names another picture in its place begins, behind which
#: stands the hash of that one, which lies beside the file under that name.
CLEAR, PICTURE = "clear", "picture:"
#: Pictures of one file that are changed.
_MOST = 1000


class PictureGrounds(Act):
    """What becomes of the grounds of pictures, by what the file calls them (`Pictured.pictures`): `clear`, the color
    that is laid there, or another picture in their place."""

    key: ClassVar[str] = "pictures"
    title: ClassVar[str] = "Pictures"
    words: ClassVar[str] = "grounds of pictures made clear, or laid in another color"
    offered: ClassVar[bool] = False

    grounds: dict[Annotated[str, Field(max_length=2000)], TargetText] = Field(
        default_factory=dict, max_length=_MOST, title="Grounds"
    )

    @property
    def told(self) -> str:
        return f"{len(self.grounds)} with another ground"

    @property
    def targets(self) -> tuple[str, ...]:
        laid = (one for one in self.grounds.values() if one != CLEAR and not one.startswith(PICTURE))
        return tuple(dict.fromkeys(laid))


def wanted_pictures(changes: Changes) -> dict[str, str]:
    """What becomes of pictures, by what the file calls them."""
    acts = (act for act in changes.acts if isinstance(act, PictureGrounds))
    return {reference: target for act in acts for reference, target in act.grounds.items()}


def changed_picture(data: bytes, target: str, beside: Mapping[str, bytes], changes: Changes) -> bytes:
    """A picture as it becomes; what is to stand in its place lies beside the file."""
    if target.startswith(PICTURE):
        return beside.get(target, data)
    return mended(data, None if target == CLEAR else changes.resolved[target])
