"""The places of the theme of a deck (ISO/IEC 29500-1, 20.1.6.2), and what a kit says of them."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, field_validator

from pavese.core.kit.token import TokenText, parse_token

#: The places in their order, with what they are called where people choose.
ACCENTS = tuple(f"accent{number}" for number in range(1, 7))
PLACES = {
    "dk1": "Dark 1",
    "lt1": "Light 1",
    "dk2": "Dark 2",
    "lt2": "Light 2",
    **{slot: f"Accent {number}" for number, slot in enumerate(ACCENTS, 1)},
    "hlink": "Links",
    "folHlink": "Followed links",
}


def _known(slot: str) -> str:
    if slot not in PLACES:
        raise ValueError(f"a theme has no place “{slot[:20]}”; it has {', '.join(PLACES)}")
    return slot


class ThemePlace(BaseModel):
    """The color of the kit that goes to one place of the theme of every deck."""

    model_config = ConfigDict(frozen=True)

    slot: str
    target: TokenText

    _of_a_theme = field_validator("slot")(_known)

    @property
    def color(self) -> str:
        """The key of the color."""
        return parse_token(self.target).color
