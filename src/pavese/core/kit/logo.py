"""The logo of a kit: its pictures for light and for dark ground, the space kept clear around it, and its backing.

Whether a logo stands out from a ground is measured by the half of it that stands out most: the ratio that at least
half of its area reaches (an area-weighted median), to be 3:1 as for graphical objects (WCAG 2.2, 1.4.11).
"""

from __future__ import annotations

from collections.abc import Container, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

from pydantic import BaseModel, ConfigDict, Field

from pavese.core.color.contrast import BLACK, WHITE, contrast_ratio, luminance
from pavese.core.color.srgb import Rgb
from pavese.core.kit.plain import PlainName
from pavese.core.kit.role import Role
from pavese.core.kit.token import RgbCode, TokenText, parse_token

if TYPE_CHECKING:
    from pavese.core.kit.kit import Kit


class BackingShape(StrEnum):
    """The outline of a backing."""

    RECTANGLE = "rectangle"
    ROUNDED = "rounded"
    PILL = "pill"
    CIRCLE = "circle"


class Backing(BaseModel):
    """A shape in a kit color behind the logo; padding in percent of the logo's height."""

    model_config = ConfigDict(frozen=True)

    shape: BackingShape = BackingShape.ROUNDED
    color: TokenText
    padding: int = Field(default=25, ge=0, le=200)


class LogoShare(BaseModel):
    """A color of a logo picture and how much of its drawn area it covers, in percent."""

    model_config = ConfigDict(frozen=True)

    color: RgbCode
    share: float


class LogoPicture(BaseModel):
    """A picture of the logo: its bytes by hash, its size in pixels, and its colors by share, largest first."""

    model_config = ConfigDict(frozen=True)

    key: str = Field(pattern=r"^[0-9a-f]{64}$")
    name: PlainName
    media_type: str
    width: int
    height: int
    colors: tuple[LogoShare, ...]


class Logo(BaseModel):
    """Both pictures are optional; the other stands in for a missing one. Clear space in percent of height."""

    model_config = ConfigDict(frozen=True)

    on_light: LogoPicture | None = None
    on_dark: LogoPicture | None = None
    clear_space: int = Field(default=50, ge=0, le=300)
    backing: Backing | None = None

    def without_color(self, known: Container[str]) -> Logo:
        """The logo without a backing whose color is gone."""
        gone = self.backing is not None and parse_token(self.backing.color).color not in known
        return self.model_copy(update={"backing": None}) if gone else self

    def on(self, ground: Rgb) -> LogoPicture | None:
        """The picture meant for a ground: the light one on grounds on which black reads better than white."""
        light = contrast_ratio(ground, BLACK) >= contrast_ratio(ground, WHITE)
        return (self.on_light or self.on_dark) if light else (self.on_dark or self.on_light)


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
