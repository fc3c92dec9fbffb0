"""A few shapes with a paint each, and the ways in which drawing programs write them down as SVG.

The demo is meant to be worth recoloring, so the same kind of drawing comes in every notation a coordinator meets:
presentation attributes, style attributes, sheets with classes, variables, `currentColor`, color functions, and
black that nobody wrote.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple
from xml.sax.saxutils import quoteattr


class Shape(NamedTuple):
    """One element: its tag and geometry, what fills it and what strokes it (None: nothing)."""

    tag: str
    geometry: dict[str, str]
    fill: str | None
    stroke: str | None = None


def area(paint: str, d: str) -> Shape:
    """A filled path."""
    return Shape("path", {"d": d}, paint)


def line(paint: str, width: float, d: str) -> Shape:
    """A stroked path with round ends."""
    geometry = {"d": d, "stroke-width": f"{width:g}", "stroke-linecap": "round", "stroke-linejoin": "round"}
    return Shape("path", geometry, None, paint)


def disc(paint: str, x: float, y: float, r: float) -> Shape:
    """A filled circle."""
    return Shape("circle", {"cx": f"{x:g}", "cy": f"{y:g}", "r": f"{r:g}"}, paint)


def ring(paint: str, width: float, x: float, y: float, r: float) -> Shape:
    """A stroked circle."""
    geometry = {"cx": f"{x:g}", "cy": f"{y:g}", "r": f"{r:g}", "stroke-width": f"{width:g}"}
    return Shape("circle", geometry, None, paint)


def box(paint: str, x: float, y: float, width: float, height: float, radius: float = 0) -> Shape:
    """A filled rectangle, with round corners if wanted."""
    geometry = {"x": f"{x:g}", "y": f"{y:g}", "width": f"{width:g}", "height": f"{height:g}"}
    return Shape("rect", geometry | ({"rx": f"{radius:g}"} if radius else {}), paint)


def attributes(shapes: Iterable[Shape]) -> tuple[str, str]:
    """Every paint as a presentation attribute."""
    return "", _elements(shapes, lambda s: {"fill": s.fill or "none"} | ({"stroke": s.stroke} if s.stroke else {}))


def styles(shapes: Iterable[Shape]) -> tuple[str, str]:
    """Every paint in a style attribute."""
    return "", _elements(shapes, lambda s: {"style": ";".join(_declarations(s))})


def sheet(shapes: Iterable[Shape]) -> tuple[str, str]:
    """A sheet with a class for each paint, as exporters write it."""
    listed = list(shapes)
    rules = list(dict.fromkeys(";".join(_declarations(shape)) for shape in listed))
    css = "".join(f"\n      .cls-{number} {{ {rule}; }}" for number, rule in enumerate(rules, 1))
    defs = f"\n  <defs>\n    <style>{css}\n    </style>\n  </defs>"
    return defs, _elements(listed, lambda s: {"class": f"cls-{rules.index(';'.join(_declarations(s))) + 1}"})


def variables(shapes: Iterable[Shape]) -> tuple[str, str]:
    """Paints as custom properties declared once in a sheet."""
    listed = list(shapes)
    paints = list(dict.fromkeys(paint for s in listed for paint in (s.fill, s.stroke) if paint))
    names = {paint: f"--tone-{number}" for number, paint in enumerate(paints, 1)}
    css = " ".join(f"{name}: {paint};" for paint, name in names.items())
    defs = f"\n  <style><![CDATA[ svg {{ {css} }} ]]></style>"
    return defs, _elements(listed, lambda s: {"style": ";".join(_declarations(s, lambda p: f"var({names[p]})"))})


def functions(shapes: Iterable[Shape]) -> tuple[str, str]:
    """Paints as rgb(), in capitals and lower case."""
    return "", _elements(
        shapes,
        lambda s: {"fill": _rgb(s.fill) if s.fill else "none"} | ({"stroke": _rgb(s.stroke)} if s.stroke else {}),
    )


def unwritten(shapes: Iterable[Shape]) -> tuple[str, str]:
    """Presentation attributes, with black left out where it is what would be painted anyway."""
    return "", _elements(
        shapes,
        lambda s: (
            ({} if s.fill == "#000000" else {"fill": s.fill or "none"}) | ({"stroke": s.stroke} if s.stroke else {})
        ),
    )


def current(shapes: Iterable[Shape]) -> tuple[str, str]:
    """The first paint as `currentColor`, which an enclosing group gives its color."""
    listed = list(shapes)
    main = listed[0].fill or listed[0].stroke or "#000000"
    body = _elements(
        listed,
        lambda s: {"fill": _current(s.fill, main)} | ({"stroke": _current(s.stroke, main)} if s.stroke else {}),
    )
    return "", f'\n  <g color="{main}">{body}\n  </g>'


Notation = Callable[[Iterable[Shape]], tuple[str, str]]

NOTATIONS: tuple[Notation, ...] = (attributes, sheet, styles, functions, current, variables, unwritten)


def svg(shapes: Iterable[Shape], notation: Notation, title: str, width: int = 48, height: int = 48) -> bytes:
    """The file."""
    defs, body = notation(shapes)
    head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}">'
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{head}\n  <title>{title}</title>{defs}{body}\n</svg>\n'.encode()


def _elements(shapes: Iterable[Shape], paint: Callable[[Shape], dict[str, str]]) -> str:
    parts = []
    for shape in shapes:
        written = " ".join(f"{name}={quoteattr(value)}" for name, value in (shape.geometry | paint(shape)).items())
        parts.append(f"\n  <{shape.tag} {written}/>")
    return "".join(parts)


def _declarations(shape: Shape, paint: Callable[[str], str] = str) -> list[str]:
    found = [f"fill: {paint(shape.fill) if shape.fill else 'none'}"]
    return found + ([f"stroke: {paint(shape.stroke)}"] if shape.stroke else [])


def _rgb(code: str) -> str:
    return f"rgb({int(code[1:3], 16)}, {int(code[3:5], 16)}, {int(code[5:7], 16)})"


def _current(paint: str | None, main: str) -> str:
    return "none" if paint is None else "currentColor" if paint == main else paint
