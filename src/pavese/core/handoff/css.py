"""A kit as CSS custom properties (CSS Custom Properties 1, section 2), with a dark scheme from its inverted roles.

In the dark scheme (Media Queries 5, section 12.5) background and dark text change places, and the colors of things
on them move along their ramps until they stand out from the new ground (WCAG 2.2, 1.4.11) as they are needed to.
"""

from __future__ import annotations

from pavese.core.color.contrast import LARGE, TEXT, contrast_ratio, luminance
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.role import Role
from pavese.core.kit.token import Token
from pavese.core.recolor.changes import Links

#: Ratio to the dark ground by role; text roles need that of text.
_LEAST = {
    Role.PRIMARY: TEXT,
    Role.SECONDARY: LARGE,
    Role.ACTION: LARGE,
    Role.ACCENT: LARGE,
    Role.NEUTRAL: LARGE,
}


def property_name(token: Token) -> str:
    """The custom property of a token: `--deep-water` for a base, `--deep-water-600` for a step."""
    return f"--{token.color}" if token.step is None else f"--{token.color}-{token.step}"


def links(kit: Kit) -> Links:
    """What the tokens of a kit are called, and its colors, by the first token of each."""
    by_color: dict[Rgb, str] = {}
    for token, color in kit.tokens():
        by_color.setdefault(color, property_name(token))
    return Links({str(token): property_name(token) for token, _ in kit.tokens()}, by_color)


def kit_css(kit: Kit) -> str:
    """One property a token: `--deep-water`, `--deep-water-600`; and one a role for the first color in it."""
    lines = [f"/* {_comment(kit.name)}: {len(kit.colors)} colors */", ":root {", "  color-scheme: light dark;"]
    for color in kit.colors:
        lines.append(f"  /* {_comment(color.name)}, {color.role.value} */")
        lines.append(f"  {property_name(Token(color.key, None))}: {color.base.hex};")
        lines += (f"  {property_name(Token(color.key, step))}: {color.ramp.at(step).hex};" for step in STEPS)
    first = {color.role: color for color in reversed(kit.colors)}
    lines += (_role_line(role, first[role].key) for role in Role if role in first)
    lines.append("}")
    dark = _dark(first)
    if dark:
        lines += ["@media (prefers-color-scheme: dark) {", "  :root {"]
        lines += (f"  {_role_line(role, name)}" for role, name in dark.items())
        lines += ["  }", "}"]
    return "\n".join([*lines, ""])


def _role_line(role: Role, name: str) -> str:
    return f"  --role-{role.value.replace(' ', '-')}: var(--{name});"


def _dark(first: dict[Role, KitColor]) -> dict[Role, str]:
    """The property each role takes in the dark scheme; none for a kit without a ground and a text to change places."""
    ground, text = first.get(Role.BACKGROUND), first.get(Role.TEXT_DARK)
    if ground is None or text is None or luminance(ground.base) <= luminance(text.base):
        return {}
    found = {Role.BACKGROUND: text.key, Role.TEXT_DARK: ground.key}
    if Role.TEXT_LIGHT in first:
        found[Role.TEXT_LIGHT] = first[Role.TEXT_LIGHT].key
    for role, least in _LEAST.items():
        if role in first:
            found[role] = _standing_out(first[role], text, least)
    return {role: found[role] for role in Role if role in found}


def _standing_out(color: KitColor, ground: KitColor, least: float) -> str:
    """The base if it stands out from the ground, else the nearest lighter step that does, else the lightest."""
    if contrast_ratio(color.base, ground.base) >= least:
        return color.key
    lighter = [step for step in reversed(STEPS) if step < color.ramp.base_step]
    step = next((s for s in lighter if contrast_ratio(color.ramp.at(s), ground.base) >= least), STEPS[0])
    return f"{color.key}-{step}"


def _comment(text: str) -> str:
    return text.replace("*/", "* /")
