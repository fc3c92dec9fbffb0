"""A card of swatches as SVG: each color with its name and codes on it, in the ink that reads best there."""

from __future__ import annotations

from xml.sax.saxutils import escape

from pavese.core.color.contrast import readable_ink
from pavese.core.handoff.published import Published, SheetWishes, code
from pavese.core.handoff.words import day_words, edition_words, role_word

_WIDTH, _MARGIN, _HEAD = 1200, 40, 100
_LINE = 22
_ACROSS = 4


def swatch_card(published: Published, choice: SheetWishes) -> bytes:
    """An SVG 1200 units wide, as high as its colors need."""
    kit = published.kit
    wide = (_WIDTH - 2 * _MARGIN) / _ACROSS
    high = 96 + _LINE * (len(choice.codes) + 1)
    rows = -(-len(kit.colors) // _ACROSS)
    height = _HEAD + rows * high + _MARGIN
    edition = f"{edition_words(published.number, choice.language)}, {day_words(published.day, choice.language)}"
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {_WIDTH} {height:g}" width="{_WIDTH}" '
        f'height="{height:g}" font-family="Commissioner, sans-serif">',
        f"<title>{escape(kit.name)}, {escape(edition)}</title>",
        f'<rect width="{_WIDTH}" height="{height:g}" fill="#ffffff"/>',
        _text(_MARGIN, 62, 32, "#141414", kit.name, weight=700),
        _text(_WIDTH - _MARGIN, 62, 18, "#555555", edition, anchor="end"),
    ]
    for i, color in enumerate(kit.colors):
        x, y = _MARGIN + i % _ACROSS * wide, _HEAD + i // _ACROSS * high
        ink = readable_ink(color.base).hex
        parts.append(f'<rect x="{x:g}" y="{y:g}" width="{wide:g}" height="{high:g}" fill="{color.base.hex}"/>')
        parts.append(_text(x + 18, y + 44, 22, ink, _fitting(color.name, 22), weight=700))
        parts.append(_text(x + 18, y + 44 + _LINE, 15, ink, role_word(color.role, choice.language)))
        for line, kind in enumerate(choice.codes):
            at = y + high - 18 - _LINE * (len(choice.codes) - 1 - line)
            parts.append(_text(x + 18, at, 15, ink, code(color.base, kind), mono=True))
    return "\n".join([*parts, "</svg>", ""]).encode()


def _fitting(name: str, most: int) -> str:
    return name if len(name) <= most else f"{name[: most - 1]}…"


def _text(
    x: float,
    y: float,
    size: int,
    fill: str,
    words: str,
    *,
    weight: int = 400,
    anchor: str = "start",
    mono: bool = False,
) -> str:
    face = ' font-family="Spline Sans Mono, monospace"' if mono else ""
    return (
        f'<text x="{x:g}" y="{y:g}" font-size="{size}" font-weight="{weight}" text-anchor="{anchor}" '
        f'fill="{fill}"{face}>{escape(words)}</text>'
    )
