"""The kit: named colors in roles, each with its ramp, and the tokens by which everything else points to them."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Iterator
from enum import StrEnum
from functools import lru_cache
from typing import Annotated, NamedTuple

from pydantic import (
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PlainSerializer,
    field_validator,
    model_validator,
)

from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import STEPS, Ramp, ramp
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.unlike import unlike

MOST_COLORS = 200
LONGEST_NAME = 80

#: Names of groups in a tokens file that are no colors.
RESERVED_KEYS = frozenset(("role",))


class Role(StrEnum):
    """What a color is for. The order is the order of the line of pennants."""

    PRIMARY = "primary"
    SECONDARY = "secondary"
    ACTION = "action"
    ACCENT = "accent"
    BACKGROUND = "background"
    NEUTRAL = "neutral"
    TEXT_LIGHT = "text light"
    TEXT_DARK = "text dark"


def _read_rgb(value: object) -> Rgb:
    if isinstance(value, Rgb):
        return value
    if isinstance(value, str):
        return parse_color(value).rgb
    raise ValueError("a color is given as a code, such as #0b5e6b")


#: An opaque color that is a code in JSON and an `Rgb` in Python.
RgbCode = Annotated[
    Rgb,
    BeforeValidator(_read_rgb, json_schema_input_type=str),
    PlainSerializer(lambda color: color.hex, return_type=str),
]


class Token(NamedTuple):
    """A kit color's step (50 to 950) or its base (step None); written `deep-water.600` or `deep-water.base`."""

    color: str
    step: int | None

    def __str__(self) -> str:
        return f"{self.color}.{'base' if self.step is None else self.step}"


def parse_token(text: str) -> Token:
    """The token a text such as `deep-water.600` names. Raises InvalidKitError for any other text."""
    color, dot, step = text.rpartition(".")
    if dot and color:
        if step == "base":
            return Token(color, None)
        if step in map(str, STEPS):
            return Token(color, int(step))
    raise InvalidKitError(f"“{text[:60]}” is no token; one reads color.step, such as deep-water.600.")


class KitColor(BaseModel):
    """One color of a kit. `key` never changes once given: tokens and plans hold it, names may change."""

    model_config = ConfigDict(frozen=True)

    key: str = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=LONGEST_NAME + 8)
    name: str = Field(min_length=1, max_length=LONGEST_NAME)
    role: Role
    base: RgbCode

    @field_validator("name")
    @classmethod
    def _plain_name(cls, name: str) -> str:
        return plain_name(name)

    @property
    def ramp(self) -> Ramp:
        """The eleven steps of this color."""
        return ramp(self.base)


class Kit(BaseModel):
    """A kit draft; colors are in the order their owner gave them."""

    model_config = ConfigDict(frozen=True)

    name: str = Field(min_length=1, max_length=LONGEST_NAME)
    colors: tuple[KitColor, ...] = Field(default=(), max_length=MOST_COLORS)

    @field_validator("name")
    @classmethod
    def _plain_name(cls, name: str) -> str:
        return plain_name(name)

    @model_validator(mode="after")
    def _distinct_keys(self) -> Kit:
        if len({color.key for color in self.colors}) < len(self.colors):
            raise ValueError("two colors of a kit have the same key")
        return self

    def color(self, key: str) -> KitColor:
        """The color with this key. Raises InvalidKitError when there is none."""
        for color in self.colors:
            if color.key == key:
                return color
        raise InvalidKitError(f"The kit has no color “{key}”.")

    def resolve(self, token: Token) -> Rgb:
        """What a token stands for now. Raises InvalidKitError when its color is gone."""
        color = self.color(token.color)
        return color.base if token.step is None else color.ramp.at(token.step)

    def tokens(self) -> Iterator[tuple[Token, Rgb]]:
        """Every token with its color: each color's base, then its steps other than the base's."""
        for color in self.colors:
            yield Token(color.key, None), color.base
            steps = color.ramp
            for step in STEPS:
                if step != steps.base_step:
                    yield Token(color.key, step), steps.at(step)

    def label(self, token: Token) -> str:
        """The token in words: `Deep water 600`, or `Deep water base`."""
        return f"{self.color(token.color).name} {'base' if token.step is None else token.step}"

    def in_line(self) -> tuple[KitColor, ...]:
        """The colors in the order of the line of pennants: by role, then as their owner ordered them."""
        order = list(Role)
        return tuple(sorted(self.colors, key=lambda color: order.index(color.role)))


@lru_cache(maxsize=64)
def members(kit: Kit) -> dict[Rgb, Token]:
    """Every color that is of the kit, with the first token that gives it."""
    found: dict[Rgb, Token] = {}
    for token, color in kit.tokens():
        found.setdefault(color, token)
    return found


def plain_name(name: str) -> str:
    """A name with its white space folded and control characters gone. Raises ValueError when nothing is left."""
    visible = "".join(" " if unicodedata.category(c) in ("Cc", "Zl", "Zp") else c for c in name)
    folded = " ".join(unicodedata.normalize("NFC", visible).split())
    if not folded:
        raise ValueError("a name needs at least one visible character")
    return folded


def key_for(name: str, taken: Iterable[str] = ()) -> str:
    """A token key made from a name, unlike those taken.

    >>> key_for("Deep water", {"deep-water"})
    'deep-water-2'
    """
    ascii_name = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    stem = re.sub(r"[^a-z0-9]+", "-", ascii_name).strip("-")[:LONGEST_NAME].strip("-") or "color"
    return unlike(stem, {*taken, *RESERVED_KEYS}, lambda number: f"{stem}-{number}")
