"""The kit's logo in the place of an old one, in pictures made of pixels."""

from __future__ import annotations

from enum import StrEnum

from pavese.core.color.contrast import WHITE
from pavese.core.kit.logo import CORNERS
from pavese.core.kit.logo_on_grounds import KitLogo, LogoFor
from pavese.core.pictures.decode import decode_picture
from pavese.core.pictures.in_place import Backed, covered, laid, standing_in, without
from pavese.core.pictures.mixture import Levels
from pavese.core.pictures.veil import Rectangle


class LogoStays(StrEnum):
    """Why an old logo stays where it is."""

    NO_LOGO = "The kit has no logo that can be put into pictures."
    DOES_NOT_STAND_OUT = "The kit’s logo does not stand out from what is there, and has no backing on which it does."
    NOT_EVEN = "What stands here stands on nothing even, and the kit’s logo has no backing to cover it with."


def with_logo(
    came: Levels, under: Levels, frame: Rectangle, logo: KitLogo | None, noise: float, beside: tuple[int, int] = (0, 0)
) -> Levels | LogoStays:
    """What is `around` a frame in a picture, shape (rows, columns, 4) in sRGB, with the kit's logo in the place of what
    stands there; `came` is that as it came, in which it is found, `under` what it has become, and `noise` what in it is
    noise, in levels. On nothing even, a backing covers the frame. The picture goes on `beside` it by so many columns,
    left and right."""
    if logo is None or not logo.files:
        return LogoStays.NO_LOGO
    standing = standing_in(came, frame, noise)
    if standing is None:
        found = logo.on_backing()
        if found is None or found.backing is None:
            return LogoStays.NOT_EVEN
        return _laid(covered(under, frame, found.backing), frame, frame, logo, found, beside)
    made, ground = without(under, standing)
    # What is clear is most often shown on white.
    found = logo.on(ground or WHITE)
    if found is None:
        return LogoStays.DOES_NOT_STAND_OUT
    return _laid(made, standing.at, frame, logo, found, beside)


def _laid(
    under: Levels, at: Rectangle, frame: Rectangle, logo: KitLogo, found: LogoFor, beside: tuple[int, int]
) -> Levels | LogoStays:
    drawn = logo.file_of(found.picture)
    if drawn is None:
        return LogoStays.NO_LOGO
    backing, behind = logo.logo.backing, None
    if found.backing is not None and backing is not None:
        behind = Backed(found.backing, CORNERS[backing.shape], backing.padding / 100)
    return laid(under, decode_picture("the logo", drawn).pixels, at, frame, behind, beside)
