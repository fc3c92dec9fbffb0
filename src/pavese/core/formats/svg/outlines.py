"""A drawing as outlines with one fill and one stroke each, for formats that know no more than that.

What such formats lack (gradients, patterns, masks, filters, lettering, pictures, groups that are see-through as a
whole) makes a drawing no plain one, and it is said so. Geometry is read by `svgelements`; what is declared where, by
the cascade (SVG 2, sections 6 and 7).
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from math import hypot
from typing import Any

from svgelements import Arc, Circle, Close, CubicBezier, Ellipse, Line, Matrix, Move, Path, QuadraticBezier, Rect

from pavese.core.color.srgb import Rgba
from pavese.core.css import read_value
from pavese.core.formats.svg.cascade import Cascade
from pavese.core.formats.svg.places import written_colors
from pavese.core.formats.svg.properties import BLACK, SVG, XLINK_HREF
from pavese.core.formats.svg.size import box, extent, length
from pavese.core.formats.xml_source import Element, XmlSource

Point = tuple[float, float]


class NotPlainError(Exception):
    """The drawing needs more than outlines; the message says what."""


@dataclass(frozen=True)
class Contour:
    """A run of cubic curves: corners with their tangents, absolute, in the order (from before, corner, to behind)."""

    corners: tuple[tuple[Point, Point, Point], ...]
    closed: bool


@dataclass(frozen=True)
class Outline:
    """Contours painted as one, behind those that come after it; lengths in the units of the picture."""

    contours: tuple[Contour, ...]
    fill: Rgba | None
    evenodd: bool
    stroke: Rgba | None
    width: float
    cap: str
    join: str
    miter: float
    dashes: tuple[float, ...]
    #: How far into its dashes a stroke begins.
    dashed_from: float = 0.0


@dataclass(frozen=True)
class _Style:
    """What is inherited; `matrix` leads from the element's units to those of the picture."""

    matrix: Any
    fill: Rgba | None = BLACK
    stroke: Rgba | None = None
    color: Rgba = BLACK
    shown: bool = True
    values: Mapping[str, str] = ()  # type: ignore[assignment]


_INHERITED = (
    "fill-opacity", "stroke-opacity", "fill-rule", "stroke-width", "stroke-linecap", "stroke-linejoin",
    "stroke-miterlimit", "stroke-dasharray", "stroke-dashoffset",
)  # fmt: skip
_GROUPS = frozenset(("svg", "g", "a", "use", "symbol"))
_SHAPES = frozenset(("path", "rect", "circle", "ellipse", "line", "polyline", "polygon"))
_MORE = frozenset(("text", "image", "foreignObject", "switch", "video"))
#: Properties that take more than outlines where they are set to anything else.
_PLAINLY = {
    "filter": "none", "mask": "none", "clip-path": "none", "mix-blend-mode": "normal", "vector-effect": "none",
    "marker-start": "none", "marker-mid": "none", "marker-end": "none", "paint-order": "normal",
}  # fmt: skip
_DEEPEST, _MOST = 40, 4_000
_NEAR = 1e-6


def outlines(source: XmlSource, side: float) -> tuple[tuple[Outline, ...], tuple[float, float]]:
    """The outlines of a drawing, hindmost first, with its width and height, the longer of which is `side`.

    Raises NotPlainError when outlines do not say everything of it.
    """
    width, height = extent(source.root)
    scale = side / max(width, height)
    cascade = Cascade(source, written_colors(source).sheets)
    walk = _Walk(source, cascade)
    start = _Style(Matrix.scale(scale), values={})
    made = tuple(walk.of(source.root, start, (width, height), 0))
    return made, (width * scale, height * scale)


class _Walk:
    def __init__(self, source: XmlSource, cascade: Cascade) -> None:
        self._source = source
        self._cascade = cascade
        self._targets = {e.attributes["id"]: e for e in source.elements if "id" in e.attributes}
        self._made = 0

    def of(self, element: Element, inherited: _Style, size: Point | None, depth: int) -> Iterator[Outline]:
        if element.namespace != SVG:
            return
        if element.name in _MORE:
            raise NotPlainError(f"it holds {element.name}")
        if element.name not in _GROUPS and element.name not in _SHAPES:
            return
        if depth > _DEEPEST:
            raise NotPlainError("it is nested too deeply")
        said = {**element.attributes, **self._cascade.declared(element)}
        if said.get("display", "").strip() == "none":
            return
        for name, plainly in _PLAINLY.items():
            if said.get(name, plainly).strip() not in (plainly, ""):
                raise NotPlainError(f"it has {name}")
        style = _styled(said, inherited)
        opacity = _share(said.get("opacity"))
        if element.name in _SHAPES:
            yield from self._shape(element, style, opacity)
            return
        if opacity < 1:
            raise NotPlainError("a group is see-through as a whole")
        if size is not None or element.name in ("svg", "symbol"):
            style = replace(style, matrix=_viewport(element, size) * style.matrix)
        if element.name == "use":
            yield from self._used(element, style, depth)
            return
        for child in self._source.children(element):
            if child.name != "symbol":
                yield from self.of(child, style, None, depth + 1)

    def _used(self, element: Element, style: _Style, depth: int) -> Iterator[Outline]:
        href = element.attributes.get("href") or element.attributes.get(XLINK_HREF) or ""
        target = self._targets.get(href.removeprefix("#")) if href.startswith("#") else None
        if target is None:
            return
        x, y = (length(element.attributes.get(name)) or 0.0 for name in ("x", "y"))
        style = replace(style, matrix=Matrix.translate(x, y) * style.matrix)
        size = None
        if target.name in ("symbol", "svg"):
            view = box(target.attributes.get("viewBox"))
            width, height = (length(element.attributes.get(name)) for name in ("width", "height"))
            if width and height:
                size = (width, height)
            elif view is not None:
                size = (view[2], view[3])
            else:
                raise NotPlainError("a symbol has no size")
        yield from self.of(target, style, size, depth + 1)

    def _shape(self, element: Element, style: _Style, opacity: float) -> Iterator[Outline]:
        values = style.values
        fill = _veiled(style.fill, opacity * _share(values.get("fill-opacity")))
        stroke = _veiled(style.stroke, opacity * _share(values.get("stroke-opacity")))
        width = _number(values.get("stroke-width", "1"), "the width of a stroke")
        if element.name == "line":
            fill = None
        if not style.shown or not (fill or (stroke and width)):
            return
        self._made += 1
        if self._made > _MOST:
            raise NotPlainError(f"it has more than {_MOST:,} shapes")
        if fill and stroke and width and opacity < 1:
            raise NotPlainError("a shape is see-through as a whole")
        m = style.matrix
        across, along = hypot(m.a, m.b), hypot(m.c, m.d)
        if stroke and width and abs(across - along) > 0.01 * max(across, along):
            raise NotPlainError("a stroke is stretched")
        path = abs(_path(element) * m)
        yield Outline(
            tuple(_contours(path)),
            fill,
            values.get("fill-rule", "") == "evenodd",
            stroke if width else None,
            width * across,
            values.get("stroke-linecap", "butt"),
            values.get("stroke-linejoin", "miter"),
            _number(values.get("stroke-miterlimit", "4"), "a miter limit"),
            _dashes(values.get("stroke-dasharray", "none"), across),
            _number(values.get("stroke-dashoffset", "0"), "where its dashes begin") * across,
        )


def _styled(said: Mapping[str, str], inherited: _Style) -> _Style:
    values = dict(inherited.values)
    for name in _INHERITED:
        text = said.get(name, "inherit").strip()
        if text != "inherit":
            values[name] = text
    color = _paint(said.get("color"), inherited.color, inherited.color) or BLACK
    visibility = said.get("visibility", "").strip()
    matrix = Matrix(said["transform"]) * inherited.matrix if said.get("transform") else inherited.matrix
    return _Style(
        matrix,
        _paint(said.get("fill"), inherited.fill, color),
        _paint(said.get("stroke"), inherited.stroke, color),
        color,
        visibility == "visible" if visibility in ("visible", "hidden", "collapse") else inherited.shown,
        values,
    )


def _paint(text: str | None, inherited: Rgba | None, current: Rgba) -> Rgba | None:
    if text is None or text.strip() == "inherit":
        return inherited
    if text.strip() in ("none", "transparent"):
        return None
    if "url(" in text or "context-" in text:
        raise NotPlainError("a shape is filled by a gradient or a pattern")
    value = read_value(text)
    if value.current:
        return current
    return value.literals[0].color if value.literals else inherited


def _veiled(paint: Rgba | None, opacity: float) -> Rgba | None:
    if paint is None or not paint.alpha * opacity:
        return None
    return Rgba(paint.r, paint.g, paint.b, paint.alpha * opacity)


def _viewport(element: Element, size: Point | None) -> Any:
    """What leads from inside an `svg` or `symbol` to outside of it (SVG 2, section 8.2)."""
    attributes = element.attributes
    x, y = 0.0, 0.0
    if element.parent is not None and element.name == "svg":
        x, y = (length(attributes.get(name)) or 0.0 for name in ("x", "y"))
        width, height = (length(attributes.get(name)) for name in ("width", "height"))
        size = (width, height) if width and height else size
    view = box(attributes.get("viewBox"))
    if view is not None and size is None:
        raise NotPlainError("a drawing inside it has no size")
    if view is None or size is None:
        return Matrix.translate(x, y)
    across, along = size[0] / view[2], size[1] / view[3]
    how = attributes.get("preserveAspectRatio", "xMidYMid meet")
    if "none" in how:
        return Matrix(across, 0, 0, along, x - view[0] * across, y - view[1] * along)
    if how.split()[0] not in ("xMidYMid", "meet") or "slice" in how:
        raise NotPlainError("it is fitted in its own way")
    scale = min(across, along)
    x += (size[0] - view[2] * scale) / 2 - view[0] * scale
    y += (size[1] - view[3] * scale) / 2 - view[1] * scale
    return Matrix(scale, 0, 0, scale, x, y)


def _path(element: Element) -> Any:
    attributes = element.attributes

    def of(name: str) -> float:
        return _number(attributes.get(name, "0"), name)

    if element.name == "path":
        return Path(attributes.get("d", ""))
    if element.name == "rect":
        rx, ry = attributes.get("rx"), attributes.get("ry")
        rounded = {"rx": of("rx") if rx else of("ry"), "ry": of("ry") if ry else of("rx")}
        return Path(Rect(of("x"), of("y"), of("width"), of("height"), **(rounded if rx or ry else {})))
    if element.name == "circle":
        return Path(Circle(cx=of("cx"), cy=of("cy"), r=of("r")))
    if element.name == "ellipse":
        return Path(Ellipse(cx=of("cx"), cy=of("cy"), rx=of("rx"), ry=of("ry")))
    if element.name == "line":
        return Path(f"M{of('x1')} {of('y1')}L{of('x2')} {of('y2')}")
    points = attributes.get("points", "").strip()
    return Path(f"M{points}{'Z' if element.name == 'polygon' else ''}" if points else "")


def _contours(path: Any) -> Iterator[Contour]:
    corners: list[list[Point]] = []
    for segment in path:
        if isinstance(segment, Move):
            yield from _ended(corners, closed=False)
            corners = [[_at(segment.end)] * 3]
        elif isinstance(segment, Close):
            yield from _ended(corners, closed=True)
            corners = [[_at(segment.end)] * 3] if segment.end is not None else []
        else:
            for first, second, end in _curves(segment):
                corners[-1][2] = first
                corners.append([second, end, end])
    yield from _ended(corners, closed=False)


def _curves(segment: Any) -> Iterator[tuple[Point, Point, Point]]:
    """The two controls and the end of each cubic curve that a segment is, or is near to."""
    if isinstance(segment, Arc):
        for curve in segment.as_cubic_curves():
            yield _at(curve.control1), _at(curve.control2), _at(curve.end)
    elif isinstance(segment, CubicBezier):
        yield _at(segment.control1), _at(segment.control2), _at(segment.end)
    elif isinstance(segment, QuadraticBezier):
        start, middle, end = _at(segment.start), _at(segment.control), _at(segment.end)
        yield _between(start, middle), _between(end, middle), end
    elif isinstance(segment, Line):
        yield _at(segment.start), _at(segment.end), _at(segment.end)


def _between(a: Point, b: Point) -> Point:
    return a[0] + 2 / 3 * (b[0] - a[0]), a[1] + 2 / 3 * (b[1] - a[1])


def _ended(corners: list[list[Point]], *, closed: bool) -> Iterator[Contour]:
    if len(corners) < 2:
        return
    (x, y), (end_x, end_y) = corners[0][1], corners[-1][1]
    if closed and len(corners) > 2 and hypot(x - end_x, y - end_y) < _NEAR:
        corners[0][0] = corners.pop()[0]
    yield Contour(tuple((before, corner, behind) for before, corner, behind in corners), closed)


def _at(point: Any) -> Point:
    return float(point.x), float(point.y)


def _number(text: str, what: str) -> float:
    found = length(text)
    if found is None:
        raise NotPlainError(f"{what} is “{text[:30]}”")
    return found


def _dashes(text: str, scale: float) -> tuple[float, ...]:
    """The lengths of dashes and gaps; none where all are nothing or one is less (SVG 2, 13.5.6)."""
    if text.strip() == "none":
        return ()
    lengths = tuple(_number(one, "a dash") * scale for one in re.split(r"[\s,]+", text.strip()))
    return lengths if min(lengths) >= 0 and any(lengths) else ()


def _share(text: str | None) -> float:
    if text is None or text.strip() == "inherit":
        return 1.0
    percent = text.strip().removesuffix("%")
    found = length(percent)
    if found is None:
        return 1.0
    return min(max(found / (100 if percent != text.strip() else 1), 0.0), 1.0)
