"""The kit: named colors in roles, each with its ramp, and the tokens by which everything else points to them."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Collection, Iterable, Iterator
from functools import lru_cache
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.ramp import STEPS, Ramp, ramp
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.kit.decisions import Decision, TrioDecision, settled
from pavese.core.kit.deck_theme import PLACES, ThemePlace
from pavese.core.kit.logo import Logo
from pavese.core.kit.plain import LONGEST_NAME, PlainName, PlainNote
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules
from pavese.core.kit.samples import Samples
from pavese.core.kit.see_through import SeeThrough
from pavese.core.kit.states import Distances
from pavese.core.kit.token import RgbCode, Token, TokenText, parse_token
from pavese.core.kit.told import Told
from pavese.core.kit.typefaces import Typefaces
from pavese.core.unique_name import unique_name

MOST_COLORS = 200
#: Steps that may take part in pairs, and see-through settings, of one kit.
MOST_STEPS = 200
MOST_SEE_THROUGH = 40

#: Names of groups in a tokens file that are no colors.
RESERVED_KEYS = frozenset(("role", "pairings"))


class Tint(BaseModel):
    """That a color is a quiet one tinted from another color of the kit, and follows it; strength is 0 to 1."""

    model_config = ConfigDict(frozen=True)

    of: str
    shade: Shade
    strength: float = Field(ge=0, le=1)


class PinnedStep(BaseModel):
    """A step of a ramp that was given its color by hand."""

    model_config = ConfigDict(frozen=True)

    step: int
    color: RgbCode

    @field_validator("step")
    @classmethod
    def _known(cls, step: int) -> int:
        if step not in STEPS:
            raise ValueError(f"a ramp has no step {step}")
        return step


class KitColor(BaseModel):
    """One color of a kit. `key` never changes once given: tokens and plans hold it, names may change.

    `note` says what the color stands for; the base of a color with a `tint` is computed, never set.
    """

    model_config = ConfigDict(frozen=True)

    key: Annotated[str, Told("Key")] = Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=LONGEST_NAME + 8)
    name: Annotated[PlainName, Told("Name")]
    role: Annotated[Role, Told("Role")]
    base: Annotated[RgbCode, Told("Base")]
    note: Annotated[PlainNote, Told("Note")] = ""
    pins: Annotated[tuple[PinnedStep, ...], Told("Pinned steps")] = ()
    tint: Annotated[Tint | None, Told("Tint")] = None

    @property
    def ramp(self) -> Ramp:
        """The eleven steps of this color."""
        made = ramp(self.base)
        return made.with_pins({pin.step: pin.color for pin in self.pins}) if self.pins else made

    def token(self, step: int) -> Token:
        """The token of a step of its ramp: its base where that stands there."""
        return Token(self.key, None if step == self.ramp.base_step else step)


class Kit(BaseModel):
    """A kit draft; colors are in the order of the line of pennants, which their owner may change.

    `steps` are ramp steps that take part in pairs beside the bases. What a change of a color breaks is brought in
    line here, so that no kit ever holds an approval that its colors do not bear out.
    """

    model_config = ConfigDict(frozen=True)

    name: Annotated[PlainName, Told("Name of the kit", "The kit has another name")]
    colors: Annotated[tuple[KitColor, ...], Told("Colors")] = Field(default=(), max_length=MOST_COLORS)
    steps: Annotated[tuple[TokenText, ...], Told("Steps switched on", "Other steps take part in pairs")] = Field(
        default=(), max_length=MOST_STEPS
    )
    decisions: Annotated[
        tuple[Decision, ...], Told("Decision", by=lambda entry: f"{entry['text']} on {entry['ground']}")
    ] = ()
    trios: Annotated[
        tuple[TrioDecision, ...],
        Told(
            "Trio",
            "Other trios are approved or declined",
            by=lambda entry: f"{entry['title']} and {entry['graphic']} on {entry['ground']}",
        ),
    ] = ()
    rules: Annotated[Rules, Told("Usage rules")] = Rules()
    see_through: Annotated[
        tuple[SeeThrough, ...],
        Told(
            "See-through", "The see-through settings are others", by=lambda entry: f"{entry['of']} over {entry['base']}"
        ),
    ] = Field(default=(), max_length=MOST_SEE_THROUGH)
    states: Annotated[Distances, Told("States", "The steps between the states of controls are others")] = Distances()
    logo: Annotated[Logo, Told("Logo", "The logo, its clear space or its backing is another")] = Logo()
    type: Annotated[Typefaces, Told("Typefaces", "The typefaces are others")] = Typefaces()
    theme: Annotated[
        tuple[ThemePlace, ...],
        Told("Theme of decks", "Decks get another theme", by=lambda entry: PLACES[entry["slot"]]),
    ] = Field(default=(), max_length=len(PLACES))
    samples: Annotated[Samples, Told("Sample words", "The words that samples are set in are others")] = Samples()

    @model_validator(mode="after")
    def _distinct_keys(self) -> Kit:
        if len({color.key for color in self.colors}) < len(self.colors):
            raise ValueError("two colors of a kit have the same key")
        return self

    @model_validator(mode="after")
    def _tints_follow(self) -> Kit:
        """Tinted colors take the base their source gives them now; one whose source is gone keeps its last."""
        bases = {color.key: color.base for color in self.colors if color.tint is None}
        followed = tuple(
            color.model_copy(update={"base": tinted(bases[color.tint.of], color.tint.shade, color.tint.strength)})
            if color.tint is not None and color.tint.of in bases
            else color
            for color in self.colors
        )
        if followed != self.colors:
            object.__setattr__(self, "colors", followed)
        return self

    @model_validator(mode="after")
    def _what_points_to_colors_follows(self) -> Kit:
        """Whatever names a color that is gone goes with it; approvals that no longer hold are opened again."""
        known = {color.key: color for color in self.colors}

        def names(token: str) -> bool:
            return parse_token(token).color in known

        def is_step(token: str) -> bool:
            """Whether it is a color beside the base: the base's own step is not."""
            at = parse_token(token)
            return at.step not in (None, known[at.color].ramp.base_step)

        def stands(token: str) -> Rgb:
            at = parse_token(token)
            return known[at.color].base if at.step is None else known[at.color].ramp.at(at.step)

        def title(token: str) -> str:
            at = parse_token(token)
            return known[at.color].name if at.step is None else f"{known[at.color].name} {at.step}"

        def ratio(text: str, ground: str) -> float | None:
            return contrast_ratio(stands(text), stands(ground)) if names(text) and names(ground) else None

        followed: dict[str, object] = {
            # The base's own step is no second color, so it is not switched on.
            "steps": tuple(dict.fromkeys(step for step in self.steps if names(step) and is_step(step))),
            "see_through": tuple(s for s in self.see_through if s.of in known and (s.plain or names(s.base))),
            "logo": self.logo.without_color(known),
            # A place stands in it once: what is said last counts.
            "theme": tuple({place.slot: place for place in self.theme if place.color in known}.values()),
        }
        followed["decisions"], followed["trios"] = settled(self.decisions, self.trios, self.rules, ratio, title)
        for field, value in followed.items():
            if value != getattr(self, field):
                object.__setattr__(self, field, value)
        return self

    def with_(self, **fields: object) -> Kit:
        """The kit with some fields replaced, built anew so that what depends on them follows."""
        return Kit(**{**{name: getattr(self, name) for name in Kit.model_fields}, **fields})

    def color(self, key: str) -> KitColor:
        """The color with this key. Raises InvalidKitError when there is none."""
        for color in self.colors:
            if color.key == key:
                return color
        raise InvalidKitError(f"The kit has no color “{key}”.")

    @property
    def files(self) -> tuple[str, ...]:
        """The hashes of all files that belong to it: pictures of its logo, and typefaces that were brought along."""
        drawn = (key for one in self.logo.pictures for key in (one.key, one.drawn) if key is not None)
        return (*drawn, *(face.key for face in self.type.own))

    def with_files(self, here: Collection[str]) -> Kit:
        """The kit without what needs one of its files that is not here."""
        own = tuple(face for face in self.type.own if face.key in here)
        return self.with_(logo=self.logo.with_files(here), type=self.type.model_copy(update={"own": own}))

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

    def title(self, token: Token) -> str:
        """The token in the fewest words: `Deep water` for a base, `Deep water 600` for a step."""
        return self.color(token.color).name if token.step is None else self.label(token)

    def label(self, token: Token) -> str:
        """The token in words: `Deep water 600`, or `Deep water base`."""
        return f"{self.color(token.color).name} {'base' if token.step is None else token.step}"


def members(kit: Kit) -> dict[Rgb, Token]:
    """Every color that is of the kit, with the first token that gives it."""
    return _members(kit.colors)


@lru_cache(maxsize=64)
def _members(colors: tuple[KitColor, ...]) -> dict[Rgb, Token]:
    found: dict[Rgb, Token] = {}
    for token, color in Kit(name="K", colors=colors).tokens():
        found.setdefault(color, token)
    return found


def key_for(name: str, taken: Iterable[str] = ()) -> str:
    """A token key made from a name, unlike those taken.

    >>> key_for("Deep water", {"deep-water"})
    'deep-water-2'
    """
    ascii_name = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    stem = re.sub(r"[^a-z0-9]+", "-", ascii_name).strip("-")[:LONGEST_NAME].strip("-") or "color"
    return unique_name(stem, {*taken, *RESERVED_KEYS}, lambda number: f"{stem}-{number}")
