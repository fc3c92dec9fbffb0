"""Pictures of a file that are changed with it: freed of a ground of their own, laid on another, or the kit's logo."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from enum import Enum
from functools import lru_cache
from typing import Annotated, ClassVar

from pydantic import Field

from pavese.core.color.srgb import Rgb
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.mend import mended, put_in_place, takes_another
from pavese.core.recolor.act import Act
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.target import TargetText

#: What becomes of a picture that loses its ground; how what names the kit's logo in its place begins, behind which
#: stands the color that it stands on; and another picture, behind which stands the hash of that one, which lies beside
#: the file under that name.
CLEAR, LOGO, PICTURE = "clear", "logo:", "picture:"
#: Pictures of one file that are changed; pixels of the longer side of a logo that is shown in any size.
_MOST, _FINE = 1000, 800


class Shown(Enum):
    """How large pictures are that a file shows: as large as they are, with the room that is in them, or in sizes that
    the file gives them, with its own room around them."""

    AS_LARGE_AS_IT_IS = 0
    IN_ANY_SIZE = 1


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
        return tuple(dict.fromkeys(one.removeprefix(LOGO) for one in laid))

    @property
    def with_logo(self) -> bool:
        return any(one.startswith(LOGO) for one in self.grounds.values())


def wanted_pictures(changes: Changes) -> dict[str, str]:
    """What becomes of pictures, by what the file calls them."""
    acts = (act for act in changes.acts if isinstance(act, PictureGrounds))
    return {reference: target for act in acts for reference, target in act.grounds.items()}


def changed_picture(
    came: bytes,
    recolored: Callable[[], bytes],
    target: str,
    beside: Mapping[str, bytes],
    changes: Changes,
    sizes: Shown,
) -> bytes:
    """A picture as it becomes, of that which came or of that in the colors of the plan; what is to stand in its place
    lies beside the file."""
    if target.startswith(PICTURE):
        return beside.get(target) or recolored()
    if target.startswith(LOGO):
        # A mask shows no logo.
        if changes.logo is None:
            return recolored()
        return _with_logo(came, changes.logo, changes.resolved[target.removeprefix(LOGO)], sizes) or recolored()
    return mended(recolored(), None if target == CLEAR else changes.resolved[target])


def _with_logo(came: bytes, logo: KitLogo, ground: Rgb, sizes: Shown) -> bytes | None:
    """With the kit's logo in the place of what a picture shows; None where it cannot stand there."""
    found = logo.on(ground)
    drawn = logo.file_of(found.picture) if found is not None else None
    if found is None or drawn is None or not takes_another(came):
        return None
    space = logo.logo.clear_space if sizes is Shown.AS_LARGE_AS_IT_IS else 0
    if found.backing is not None and logo.logo.backing is not None:
        space = max(space, logo.logo.backing.padding)
    least = _FINE if sizes is Shown.IN_ANY_SIZE else 0
    return _in_its_place(came, drawn, found.backing, ground, space, least)


# A file is looked at again and again.
@lru_cache(maxsize=64)
def _in_its_place(came: bytes, logo: bytes, backing: Rgb | None, ground: Rgb, space: int, least: int) -> bytes:
    drawn = decode_picture("the logo", logo).pixels
    return put_in_place(came, drawn, backing, space / 100, least, under=ground)
