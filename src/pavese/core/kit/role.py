"""What the colors of a kit are for."""

from __future__ import annotations

from enum import StrEnum


class Role(StrEnum):
    """What a color is for. A color that comes in takes its place in the line of pennants by this order."""

    PRIMARY = "primary"
    SECONDARY = "secondary"
    ACTION = "action"
    ACCENT = "accent"
    BACKGROUND = "background"
    NEUTRAL = "neutral"
    TEXT_LIGHT = "text light"
    TEXT_DARK = "text dark"
