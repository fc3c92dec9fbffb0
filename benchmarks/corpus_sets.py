"""The packages of the corpus that are here, their drawings, and made-up kits to recolor them with."""

from __future__ import annotations

import json
from collections.abc import Sequence
from functools import cache
from pathlib import Path

from fetch import DRAWINGS, folder_of
from pavese.core.color.srgb import parse_hex
from pavese.core.kit.kit import Kit, KitColor, key_for
from pavese.core.kit.role import Role
from pavese.demo.load import demo_kit

_NEUTRALS = (
    ("Chalk", Role.BACKGROUND, "#fbfaf6"),
    ("Slate", Role.NEUTRAL, "#7c8288"),
    ("Ink", Role.TEXT_DARK, "#1b1e24"),
)
_ONE_HUE = (("Lake", Role.PRIMARY, "#1f5fa8"), *_NEUTRALS)
_NEARLY_GREY = (("Stone", Role.PRIMARY, "#5d6670"), ("Clay", Role.SECONDARY, "#8a7a70"), *_NEUTRALS)
_WIDE = (
    ("Brick", Role.PRIMARY, "#b3372b"),
    ("Orange", Role.SECONDARY, "#e07b28"),
    ("Straw", Role.ACCENT, "#f0c03c"),
    ("Moss", Role.ACCENT, "#6c8f2e"),
    ("Fern", Role.ACCENT, "#25855a"),
    ("Lagoon", Role.ACCENT, "#1a8fa3"),
    ("Cobalt", Role.ACTION, "#2757c4"),
    ("Violet", Role.ACCENT, "#6d45b8"),
    ("Rose", Role.ACCENT, "#c63d7c"),
    *_NEUTRALS,
)
#: The commonest kind of kit: three strong colors, a cream and a dark grey.
_COMMON = (
    ("Aubergine", Role.PRIMARY, "#5b2a86"),
    ("Lagoon", Role.SECONDARY, "#00a6a6"),
    ("Coral", Role.ACCENT, "#f25c5c"),
    ("Cream", Role.BACKGROUND, "#fffbf0"),
    ("Slate", Role.TEXT_DARK, "#39434d"),
)
#: Small kits: without greys, with a cream for its ground; of pale colors only; of dark ones only.
_CREAM = (
    ("Tar", Role.PRIMARY, "#16324f"),
    ("Signal", Role.ACCENT, "#f2542d"),
    ("Sail", Role.BACKGROUND, "#f5dfbb"),
)
_BRIGHT = (
    ("Sun", Role.PRIMARY, "#ffc800"),
    ("Mint", Role.SECONDARY, "#5ee0a0"),
    ("Sky", Role.ACCENT, "#7cd3ff"),
)
_DARK = (
    ("Plum", Role.PRIMARY, "#3a0f2e"),
    ("Pine", Role.SECONDARY, "#0f3a2a"),
    ("Coal", Role.TEXT_DARK, "#141414"),
)


def kits() -> tuple[tuple[str, Kit, bool], ...]:
    """Kits with what they are, and whether they have the hues that the bounds are set for."""
    return (
        ("ordinary kit", demo_kit(), True),
        ("wide kit", _kit("Wide", _WIDE), True),
        ("kit of one hue", _kit("One hue", _ONE_HUE), False),
        ("nearly grey kit", _kit("Nearly grey", _NEARLY_GREY), False),
        ("kit of three, a cream and a grey", _kit("Common", _COMMON), False),
        ("kit of three with a cream ground", _kit("Cream", _CREAM), False),
        ("kit of three pale colors", _kit("Bright", _BRIGHT), False),
        ("kit of three dark colors", _kit("Dark", _DARK), False),
    )


def _kit(name: str, colors: Sequence[tuple[str, Role, str]]) -> Kit:
    made = []
    for title, role, code in colors:
        base = parse_hex(code)
        assert base is not None
        made.append(KitColor(key=key_for(title), name=title, role=role, base=base.rgb))
    return Kit(name=name, colors=tuple(made))


def packages_here() -> list[str]:
    """The packages of drawings that have been fetched."""
    return [package for package in DRAWINGS if folder_of(package).exists()]


@cache
def listed_files(package: str) -> list[Path]:
    """The drawings and animations of a package, in order."""
    found = sorted(folder_of(package).rglob("*"))
    return [path for path in found if path.suffix == ".svg" or (path.suffix == ".json" and _animation(path))]


def _animation(path: Path) -> bool:
    """Whether a JSON file is one: schemas and settings lie beside them."""
    found = json.loads(path.read_bytes())
    return isinstance(found, dict) and isinstance(found.get("layers"), list)
