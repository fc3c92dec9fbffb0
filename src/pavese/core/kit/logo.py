"""The logo of a kit: its pictures for light and for dark ground, the space kept clear around it, and its backing."""

from __future__ import annotations

from collections.abc import Container
from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field

from pavese.core.color.contrast import BLACK, WHITE, contrast_ratio
from pavese.core.color.srgb import Rgb
from pavese.core.kit.plain import PlainName
from pavese.core.kit.token import RgbCode, TokenText, parse_token


class BackingShape(StrEnum):
    """The outline of a backing."""

    RECTANGLE = "rectangle"
    ROUNDED = "rounded"
    PILL = "pill"
    CIRCLE = "circle"


#: How round the corners of a backing are, in percent of its height.
CORNERS = {BackingShape.RECTANGLE: 0, BackingShape.ROUNDED: 12, BackingShape.PILL: 50, BackingShape.CIRCLE: 50}


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
    """A picture of the logo: its bytes by hash, its size in pixels, and its colors by share, largest first; `box` is
    the color of the box round what it shows, where there is one, and `drawn` the same in pixels, a PNG, by hash."""

    model_config = ConfigDict(frozen=True)

    key: str = Field(pattern=r"^[0-9a-f]{64}$")
    name: PlainName
    media_type: str
    width: int
    height: int
    colors: tuple[LogoShare, ...]
    box: RgbCode | None = None
    drawn: str | None = Field(default=None, pattern=r"^[0-9a-f]{64}$")

    @property
    def in_pixels(self) -> str | None:
        """The hash of it in pixels; None for a drawing that came before these were kept."""
        return self.drawn or (self.key if self.media_type == "image/png" else None)


class Logo(BaseModel):
    """Both pictures are optional; the other stands in for a missing one. Clear space in percent of height."""

    model_config = ConfigDict(frozen=True)

    on_light: LogoPicture | None = None
    on_dark: LogoPicture | None = None
    clear_space: int = Field(default=50, ge=0, le=300)
    backing: Backing | None = None

    @property
    def pictures(self) -> tuple[LogoPicture, ...]:
        """Those that it has."""
        return tuple(one for one in (self.on_light, self.on_dark) if one is not None)

    def with_files(self, here: Container[str]) -> Logo:
        """The logo with those of its pictures of which the bytes are here."""

        def kept(picture: LogoPicture | None) -> LogoPicture | None:
            if picture is None or picture.key not in here:
                return None
            return picture if picture.drawn in here else picture.model_copy(update={"drawn": None})

        return self.model_copy(update={"on_light": kept(self.on_light), "on_dark": kept(self.on_dark)})

    def without_color(self, known: Container[str]) -> Logo:
        """The logo without a backing whose color is gone."""
        gone = self.backing is not None and parse_token(self.backing.color).color not in known
        return self.model_copy(update={"backing": None}) if gone else self

    def on(self, ground: Rgb) -> LogoPicture | None:
        """The picture meant for a ground: the light one on grounds on which black reads better than white."""
        light = contrast_ratio(ground, BLACK) >= contrast_ratio(ground, WHITE)
        return (self.on_light or self.on_dark) if light else (self.on_dark or self.on_light)
