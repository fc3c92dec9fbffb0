"""A kit as CSS custom properties (CSS Custom Properties 1: https://www.w3.org/TR/css-variables-1/)."""

from __future__ import annotations

from pavese.core.color.ramp import STEPS
from pavese.core.kit.kit import Kit, Role


def kit_css(kit: Kit) -> str:
    """One property a token: `--deep-water`, `--deep-water-600`; and one a role for the first color in it."""
    lines = [f"/* {_comment(kit.name)}: {len(kit.colors)} colors */", ":root {"]
    for color in kit.in_line():
        lines.append(f"  /* {_comment(color.name)}, {color.role.value} */")
        lines.append(f"  --{color.key}: {color.base.hex};")
        lines += (f"  --{color.key}-{step}: {color.ramp.at(step).hex};" for step in STEPS)
    first = {color.role: color.key for color in reversed(kit.in_line())}
    lines += (f"  --role-{role.value.replace(' ', '-')}: var(--{first[role]});" for role in Role if role in first)
    return "\n".join([*lines, "}", ""])


def _comment(text: str) -> str:
    return text.replace("*/", "* /")
