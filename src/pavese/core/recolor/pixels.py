"""What more than paint a picture made of pixels is given: its photographs in few tones, and another ground."""

from __future__ import annotations

from enum import StrEnum
from typing import ClassVar

from pydantic import Field

from pavese.core.kit.role import Role
from pavese.core.kit.token import TokenText
from pavese.core.recolor.act import Act


class Tones(StrEnum):
    """In which tones a photograph is."""

    TWO = "two tones"
    THREE = "three tones"
    ONE = "one color"
    GREY = "grey"


class Skin(StrEnum):
    """What becomes of colors such as skin has."""

    TONED = "toned as the rest"
    KEPT = "kept"


class PhotographTones(Act):
    """A photograph, or what of a picture is one, by its lightness alone: from the dark color to the light one, through
    a third where it has three; through the dark color alone, from black to white; or in greys. What is darker than
    `dark_end` percent is the dark color, and what is lighter than `light_end` the light one. `strength`, in percent, is
    how much it is that, and not as it came."""

    key: ClassVar[str] = "photograph"
    title: ClassVar[str] = "Photograph"
    words: ClassVar[str] = "photographs, and what of a picture is one, in kit colors by their lightness"
    without: ClassVar[str] = "photograph as it is"

    tones: Tones = Field(default=Tones.TWO, title="Tones")
    dark: TokenText = Field(title="Dark", json_schema_extra={"only": [Tones.TWO, Tones.THREE, Tones.ONE]})
    middle: TokenText | None = Field(
        default=None,
        title="Middle",
        description="Between both",
        json_schema_extra={"role": Role.ACCENT, "only": [Tones.THREE]},
    )
    light: TokenText = Field(
        title="Light", json_schema_extra={"role": Role.BACKGROUND, "only": [Tones.TWO, Tones.THREE]}
    )
    dark_end: int = Field(
        default=0,
        ge=0,
        le=45,
        title="Dark end",
        description="What is darker is the dark color, in percent of lightness",
    )
    light_end: int = Field(
        default=100, ge=55, le=100, title="Light end", description="What is lighter is the light color, in percent"
    )
    skin: Skin = Field(
        default=Skin.TONED, title="Skin", description="Kept with what has such colors, too: sand, bread, light wood"
    )
    strength: int = Field(
        default=100,
        ge=5,
        le=100,
        title="Strength",
        description="How much of it is toned, in percent",
    )

    @property
    def told(self) -> str:
        return self.tones.value if self.strength == 100 else f"{self.tones.value}, {self.strength} %"

    @property
    def targets(self) -> tuple[str, ...]:
        return (self.dark, self.light, *([self.middle] if self.middle else []))


class GroundKind(StrEnum):
    """What becomes of the ground of a picture."""

    COLOR = "in a color"
    CLEAR = "clear"


class PictureGround(Act):
    """The even ground that reaches in from the border of a picture: laid in a color of the kit, or made clear where its
    format can be (in a JPEG it is laid in the color)."""

    key: ClassVar[str] = "picture-ground"
    title: ClassVar[str] = "Ground"
    words: ClassVar[str] = "the even ground round what a picture shows, in a kit color or clear; JPEG cannot be clear"
    without: ClassVar[str] = "ground as it is"
    still: ClassVar[bool] = True

    kind: GroundKind = Field(default=GroundKind.COLOR, title="Ground")
    color: TokenText = Field(title="Color", json_schema_extra={"role": Role.BACKGROUND})

    @property
    def told(self) -> str:
        return self.kind.value

    @property
    def targets(self) -> tuple[str, ...]:
        return (self.color,)


#: What is said of one that moves, and of one of several pages.
MOVES = "It moves: its colors change in every frame; things, parts, headlines and its ground are for still pictures."
PAGED = "It has several pages, of which the first is seen here; all are recolored, by their colors alone."
#: What is said of one that is too large for them.
LARGE = (
    "It is very large: its colors and tones change; things, parts, headlines and its ground are for smaller pictures."
)
#: Any of these: it changes as a whole.
AS_A_WHOLE = frozenset((MOVES, PAGED, LARGE))

#: What is said of a picture that tells more than its colors.
TELLS = "It says where, or with what, it was made, and goes on saying so when it is handed over."


class WithoutMetadata(Act):
    """A picture that says nothing of itself: no place, device, time, author or words; its color profile, its density
    and how it is turned stay."""

    key: ClassVar[str] = "metadata"
    title: ClassVar[str] = "Metadata"
    words: ClassVar[str] = "leave out what it says of itself, such as place and device"
    shows: ClassVar[bool] = False
    remedies: ClassVar[str] = TELLS

    @property
    def told(self) -> str:
        return "left out"
