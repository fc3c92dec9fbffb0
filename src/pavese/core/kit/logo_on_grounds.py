"""Whether a logo stands out from the grounds of its kit.

That is measured by the half of it that stands out most: the ratio that at least half of its area reaches (an
area-weighted median), to be 3:1 as for graphical objects (WCAG 2.2, 1.4.11).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from pavese.core.color.contrast import BLACK, WHITE, contrast_ratio, luminance
from pavese.core.color.difference import differences
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import Logo, LogoPicture, LogoShare
from pavese.core.kit.role import Role
from pavese.core.kit.token import parse_token


@dataclass(frozen=True)
class LogoOnGround:
    """The logo on one color of the kit: what it is measured against (its backing, or the color), the ratio, and
    whether the color is a ground by its role."""

    ground: str
    picture: LogoPicture
    behind: Rgb
    ratio: float
    usual: bool = True


#: CIEDE2000 below which coding may have made one color of another.
_HARDLY = 3.0
#: The roles of colors that other things stand on.
_GROUNDS = (Role.BACKGROUND, Role.NEUTRAL, Role.TEXT_DARK, Role.TEXT_LIGHT)


def logo_ratio(colors: Sequence[LogoShare], behind: Rgb) -> float:
    """The ratio that at least half of the logo's area reaches against what is behind it, unrounded."""
    ranked = sorted(((contrast_ratio(one.color, behind), one.share) for one in colors), reverse=True)
    half = sum(share for _, share in ranked) / 2
    covered = 0.0
    for ratio, share in ranked:
        covered += share
        if covered >= half:
            return ratio
    return 1.0


class LogoFor(NamedTuple):
    """The picture of the logo for a ground, and the backing that it takes there; None where it stands on the ground."""

    picture: LogoPicture
    backing: Rgb | None


@dataclass(frozen=True)
class KitLogo:
    """The logo of a kit as files are given it: the color of its backing, the ratio by which it is to stand out, and its
    drawn pictures (PNG) by hash, where they are at hand."""

    logo: Logo
    backing: Rgb | None
    least: float
    files: Mapping[str, bytes] = field(default_factory=dict, compare=False, repr=False)

    @classmethod
    def of(cls, kit: Kit) -> KitLogo:
        """That of a kit, without its files."""
        backing = kit.logo.backing
        return cls(kit.logo, kit.resolve(parse_token(backing.color)) if backing else None, kit.rules.least_graphics)

    @property
    def drawn(self) -> tuple[str, ...]:
        """The hashes of its drawn pictures."""
        return tuple(key for picture in self.logo.pictures if (key := picture.in_pixels) is not None)

    def shows(self, color: Rgb) -> bool:
        """Whether a color is one of its own, or hardly differs from one."""
        own = [share.color for picture in self.logo.pictures for share in picture.colors]
        return bool(own) and bool((differences([color], own) < _HARDLY).any())

    def file_of(self, picture: LogoPicture) -> bytes | None:
        """One of its pictures as it is drawn; None where it is not at hand, as in a kit that came as a file."""
        return self.files.get(picture.in_pixels or "")

    def on(self, ground: Rgb) -> LogoFor | None:
        """How it stands on a ground: by itself where it stands out enough, else on its backing; None where it cannot
        stand there."""
        return self._standing(ground, None) or self.on_backing()

    def on_backing(self) -> LogoFor | None:
        """How it stands on its backing; None where it has none, or does not stand out from it."""
        return self._standing(self.backing, self.backing)

    def _standing(self, below: Rgb | None, laid: Rgb | None) -> LogoFor | None:
        picture = self.logo.on(below) if below is not None else None
        if below is None or picture is None or picture.in_pixels is None:
            return None
        return LogoFor(picture, laid) if logo_ratio(picture.colors, below) >= self.least else None


def meant_for_light(picture: LogoPicture) -> bool:
    """Whether a picture stands out from white at least as much as from black."""
    return logo_ratio(picture.colors, WHITE) >= logo_ratio(picture.colors, BLACK)


def logo_on_grounds(kit: Kit) -> tuple[LogoOnGround, ...]:
    """The logo on every background, neutral and text color of the kit, lightest ground first."""
    return tuple(one for one in logo_on_colors(kit) if one.usual)


def logo_on_colors(kit: Kit) -> tuple[LogoOnGround, ...]:
    """The logo on every color of the kit, since any may be a ground: those that are by their role first, the lightest
    first of each."""
    found = []
    for ground in sorted(kit.colors, key=lambda color: (color.role not in _GROUNDS, -luminance(color.base))):
        backing = kit.logo.backing
        behind = kit.resolve(parse_token(backing.color)) if backing else ground.base
        picture = kit.logo.on(behind)
        if picture is not None:
            ratio = logo_ratio(picture.colors, behind)
            found.append(LogoOnGround(ground.key, picture, behind, ratio, ground.role in _GROUNDS))
    return tuple(found)


def best_ground(kit: Kit) -> LogoOnGround | None:
    """Where the logo is shown when it is shown once: the lightest ground of the kit on which it stands out as much as
    the rules ask, or white or black, and failing all of them where it stands out most; None without a logo."""
    plain = []
    for behind in (WHITE, BLACK):
        picture = kit.logo.on(behind)
        if picture is not None:
            plain.append(LogoOnGround(behind.hex, picture, behind, logo_ratio(picture.colors, behind)))
    tried = (*logo_on_grounds(kit), *plain)
    enough = (one for one in tried if one.ratio >= kit.rules.least_graphics)
    return next(enough, None) or max(tried, key=lambda one: one.ratio, default=None)
