"""The tokens by which everything else points to a color of a kit, and how a color stands in JSON."""

from __future__ import annotations

from typing import Annotated, NamedTuple

from pydantic import AfterValidator, BeforeValidator, PlainSerializer

from pavese.core.color.parse import parse_color
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError


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


def _token_text(text: str) -> str:
    try:
        return str(parse_token(text))
    except InvalidKitError as error:
        raise ValueError(str(error)) from error


#: A token as it is written.
TokenText = Annotated[str, AfterValidator(_token_text)]
