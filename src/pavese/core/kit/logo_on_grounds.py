"""Whether a logo stands out from the grounds of its kit.

That is measured by the half of it that stands out most: the ratio that at least half of its area reaches (an
area-weighted median), to be 3:1 as for graphical objects (WCAG 2.2, 1.4.11).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from pavese.core.color.contrast import BLACK, WHITE, contrast_ratio, luminance
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import LogoPicture, LogoShare
from pavese.core.kit.role import Role
from pavese.core.kit.token import parse_token


@dataclass(frozen=True)
class LogoOnGround:
    """The logo on one ground of the kit: what it is measured against (its backing, or the ground), and the ratio."""

    ground: str
    picture: LogoPicture
    behind: Rgb
    ratio: float


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


def logo_on_grounds(kit: Kit) -> tuple[LogoOnGround, ...]:
    """The logo on every background, neutral and dark text color of the kit, lightest ground first."""
    roles = (Role.BACKGROUND, Role.NEUTRAL, Role.TEXT_DARK, Role.TEXT_LIGHT)
    grounds = sorted((c for c in kit.colors if c.role in roles), key=lambda c: -luminance(c.base))
    found = []
    for ground in grounds:
        backing = kit.logo.backing
        behind = kit.resolve(parse_token(backing.color)) if backing else ground.base
        picture = kit.logo.on(behind)
        if picture is not None:
            found.append(LogoOnGround(ground.key, picture, behind, logo_ratio(picture.colors, behind)))
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
