"""Every place at which a Lottie animation holds a color.

Lottie specification 1.0 of the Lottie Animation Community: https://lottie.github.io/lottie-spec/ ; sections
"Properties", "Shapes", "Layers", "Effects", "Text" and "Slots".
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any, TypeGuard

from pavese.core import limits
from pavese.core.color.parse import try_color
from pavese.core.color.srgb import ALPHA_DIGITS, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats.json_source import Spot
from pavese.core.recolor.site import Kind

_VERSION = re.compile(r"(\d+)\.(\d+)\.(\d+)")
#: Players take colors of files older than this to run from 0 to 255.
_SCALED_BEFORE = (4, 1, 9)
#: A component above this can only be one of 0 to 255; a little above 1 is an animation's overshoot.
_OVERSHOOT = 2.0
_COLOR_EFFECT = 2


@dataclass(frozen=True)
class LottiePlace:
    """A value that holds paints: `offsets` are where each paint's three numbers begin in the array, or empty for a
    text such as `#0b5e6b`; `scale` is what full intensity is written as, 1 or 255."""

    spot: Spot
    kind: Kind
    selectors: tuple[str, ...]
    paints: tuple[Rgba, ...]
    offsets: tuple[int, ...]
    scale: int


@dataclass
class Found:
    """What a walk found: places, remarks, and slots by the kind of property that reads them."""

    places: list[LottiePlace] = field(default_factory=list)
    remarks: list[str] = field(default_factory=list)
    slots: dict[str, tuple[Kind, int | None]] = field(default_factory=dict)


def places_of(name: str, tree: Any) -> Found:
    """All places of an animation in document order. Raises RefusedFileError for what is no animation."""
    return _Walk(name).run(tree)


def theme_places(tree: Any) -> list[LottiePlace]:
    """The places of a dotLottie theme: https://dotlottie.io/spec/2.0/#themes ."""
    walk = _Walk("theme")
    for rule in dicts(_of(tree, "rules")):
        stated = [rule, *dicts(rule.get("keyframes"))]
        for holder in stated:
            if rule.get("type") == "Color":
                walk.color(holder, "value", Kind.FILL, ())
            elif rule.get("type") == "Gradient":
                for stop in dicts(holder.get("value")):
                    walk.color(stop, "color", Kind.STOP, ())
    return walk.found.places


class _Walk:
    def __init__(self, name: str) -> None:
        self._name = name
        self.found = Found()
        self._scale: int | None = None
        self._count = 0

    def run(self, tree: Any) -> Found:
        if not isinstance(tree, dict) or not isinstance(tree.get("layers"), list):
            raise RefusedFileError(self._name, "it is JSON, but no Lottie animation: it has no layers.")
        version = _VERSION.match(tree["v"]) if isinstance(tree.get("v"), str) else None
        if version and tuple(map(int, version.groups())) < _SCALED_BEFORE:
            self._scale = 255 if _has_large_colors(tree) else 1
        self._layers(tree["layers"])
        for asset in dicts(tree.get("assets")):
            self._layers(asset.get("layers"))
        for glyph in dicts(tree.get("chars")):
            data = glyph.get("data")
            if isinstance(data, dict):
                self._shapes(data.get("shapes"), ())
        self._refuse_circles(tree)
        slots = tree.get("slots")
        for sid, slot in slots.items() if isinstance(slots, dict) else ():
            if sid in self.found.slots and isinstance(slot, dict):
                kind, stops = self.found.slots[sid]
                if stops is None:
                    self._property(slot, "p", kind, ())
                else:
                    self._gradient({"p": stops, "k": slot.get("p")}, ())
        return self.found

    def _refuse_circles(self, tree: dict[str, Any]) -> None:
        """A composition that holds itself can be played by nothing."""
        holds = {
            asset["id"]: {layer["refId"] for layer in dicts(asset.get("layers")) if isinstance(layer.get("refId"), str)}
            for asset in dicts(tree.get("assets"))
            if isinstance(asset.get("id"), str)
        }
        done: set[str] = set()
        for start in holds:
            open_: list[tuple[str, Iterator[str]]] = [(start, iter(sorted(holds[start])))]
            path = {start}
            while open_:
                at, rest = open_[-1]
                for inner in rest:
                    if inner in path:
                        raise RefusedFileError(self._name, f"the composition “{inner[:40]}” holds itself.")
                    if inner in holds and inner not in done:
                        path.add(inner)
                        open_.append((inner, iter(sorted(holds[inner]))))
                        break
                else:
                    done.add(at)
                    path.discard(at)
                    open_.pop()

    def color(self, holder: Any, key: str, kind: Kind, selectors: tuple[str, ...]) -> None:
        """One array of red, green, blue and perhaps alpha, which players do not read."""
        value = holder.get(key) if isinstance(holder, dict) else None
        if _numbers(value) and len(value) >= 3:
            scale = self._scale or (255 if max(value[:3]) > _OVERSHOOT else 1)
            red, green, blue = (_level(number, scale) for number in value[:3])
            self._add(LottiePlace(Spot(holder, key), kind, selectors, (Rgba(red, green, blue),), (0,), scale))

    def _layers(self, layers: Any) -> None:
        for layer in dicts(layers):
            # What only masks another layer decides what is seen, not in which color.
            if layer.get("td"):
                continue
            selectors = selectors_of(layer)
            if isinstance(layer.get("sc"), str):
                self._solid(layer, selectors)
            self._shapes(layer.get("shapes"), selectors)
            self._effects(layer.get("ef"), selectors)
            self._styles(layer.get("sy"), selectors)
            self._text(layer.get("t"), selectors)

    def _solid(self, layer: dict[str, Any], selectors: tuple[str, ...]) -> None:
        color = try_color(layer["sc"])
        if color is not None:
            self._add(LottiePlace(Spot(layer, "sc"), Kind.GROUND, selectors, (color,), (), 1))

    def _shapes(self, shapes: Any, selectors: tuple[str, ...], depth: int = 0) -> None:
        if depth > limits.DEPTH:
            raise RefusedFileError(self._name, f"shapes are nested more than {limits.DEPTH} deep.")
        for shape in dicts(shapes):
            match shape.get("ty"):
                case "gr":
                    self._shapes(shape.get("it"), (*selectors_of(shape), *selectors), depth + 1)
                case "fl":
                    self._property(shape, "c", Kind.FILL, (*selectors_of(shape), *selectors))
                case "st":
                    self._property(shape, "c", Kind.STROKE, (*selectors_of(shape), *selectors))
                case "gf" | "gs":
                    self._gradient(shape.get("g"), (*selectors_of(shape), *selectors))

    def _effects(self, effects: Any, selectors: tuple[str, ...], depth: int = 0) -> None:
        for effect in dicts(effects) if depth <= limits.DEPTH else ():
            if effect.get("ty") == _COLOR_EFFECT:
                self._property(effect, "v", Kind.EFFECT, selectors)
            self._effects(effect.get("ef"), selectors, depth + 1)

    def _styles(self, styles: Any, selectors: tuple[str, ...]) -> None:
        for style in dicts(styles):
            self._property(style, "c", Kind.SHADOW, selectors)
            self._gradient(style.get("gf"), selectors)

    def _text(self, text: Any, selectors: tuple[str, ...]) -> None:
        if not isinstance(text, dict):
            return
        for moment in dicts(_of(_of(text, "d"), "k")):
            document = moment.get("s")
            self.color(document, "fc", Kind.TEXT, selectors)
            self.color(document, "sc", Kind.STROKE, selectors)
        for animator in dicts(text.get("a")):
            for key in ("fc", "sc"):
                self._property(animator.get("a"), key, Kind.TEXT if key == "fc" else Kind.STROKE, selectors)

    def _property(self, holder: Any, key: str, kind: Kind, selectors: tuple[str, ...]) -> None:
        """A property that is one color, or keyframes of colors."""
        value = holder.get(key) if isinstance(holder, dict) else None
        if not isinstance(value, dict):
            return
        self._noted(value, kind, None)
        if _numbers(value.get("k")):
            self.color(value, "k", kind, selectors)
        for frame in dicts(value.get("k")):
            self.color(frame, "s", kind, selectors)
            self.color(frame, "e", kind, selectors)

    def _gradient(self, gradient: Any, selectors: tuple[str, ...]) -> None:
        stops = _of(gradient, "p")
        value = _of(gradient, "k")
        if not isinstance(stops, int) or not isinstance(value, dict):
            return
        self._noted(value, Kind.STOP, stops)
        if _numbers(value.get("k")):
            self._stops(value, "k", stops, selectors)
        for frame in dicts(value.get("k")):
            self._stops(frame, "s", stops, selectors)
            self._stops(frame, "e", stops, selectors)

    def _stops(self, holder: dict[str, Any], key: str, stops: int, selectors: tuple[str, ...]) -> None:
        """`stops` times offset, red, green, blue; behind them pairs of offset and alpha."""
        value = holder.get(key)
        if not _numbers(value) or not 0 < stops <= len(value) // 4:
            return
        opacity = [(value[i], value[i + 1]) for i in range(4 * stops, len(value) - 1, 2)]
        colors = [value[4 * n + 1 : 4 * n + 4] for n in range(stops)]
        scale = self._scale or (255 if max(map(max, colors)) > _OVERSHOOT else 1)
        paints = tuple(
            Rgba(_level(red, scale), _level(green, scale), _level(blue, scale), _alpha_at(value[4 * n], opacity))
            for n, (red, green, blue) in enumerate(colors)
        )
        offsets = tuple(4 * n + 1 for n in range(stops))
        self._add(LottiePlace(Spot(holder, key), Kind.STOP, selectors, paints, offsets, scale))

    def _noted(self, value: dict[str, Any], kind: Kind, stops: int | None) -> None:
        if isinstance(value.get("sid"), str):
            self.found.slots.setdefault(value["sid"], (kind, stops))
        if isinstance(value.get("x"), str):
            self._remark("A color is set by an expression, which is not run and may override what is set here.")

    def _remark(self, text: str) -> None:
        if text not in self.found.remarks:
            self.found.remarks.append(text)

    def _add(self, place: LottiePlace) -> None:
        self.found.places.append(place)
        self._count += 1
        if self._count > limits.ELEMENTS:
            raise RefusedFileError(self._name, f"it has more than {limits.ELEMENTS:,} places of color.")


def _has_large_colors(tree: Any) -> bool:
    """Whether an old file writes any color with components above 1."""
    walk = _Walk("")
    walk._layers(tree["layers"])
    for asset in dicts(tree.get("assets")):
        walk._layers(asset.get("layers"))
    return any(place.scale == 255 for place in walk.found.places)


def selectors_of(holder: dict[str, Any]) -> tuple[str, ...]:
    """The id and class that a layer or shape gives itself (`ln`, `cl`), and its name."""
    found = []
    if isinstance(holder.get("ln"), str):
        found.append(f"#{holder['ln'][:60]}")
    if isinstance(holder.get("cl"), str):
        found += [f".{one[:60]}" for one in holder["cl"].split()]
    if isinstance(holder.get("nm"), str) and holder["nm"]:
        found.append(f"~{holder['nm'][:60]}")
    return tuple(found)


def color_of(value: Any) -> Rgba | None:
    """A color that stands by itself, as that of a text does; None for what is none."""
    if not _numbers(value) or len(value) < 3:
        return None
    scale = 255 if max(value[:3]) > _OVERSHOOT else 1
    return Rgba(*(_level(number, scale) for number in value[:3]))


def dicts(value: Any) -> Iterator[dict[str, Any]]:
    """The objects of a list; none of what is no list."""
    if isinstance(value, list):
        yield from (entry for entry in value if isinstance(entry, dict))


def _of(holder: Any, key: str) -> Any:
    return holder.get(key) if isinstance(holder, dict) else None


def _numbers(value: Any) -> TypeGuard[list[float]]:
    return (
        isinstance(value, list)
        and bool(value)
        and all(isinstance(number, int | float) and not isinstance(number, bool) for number in value)
    )


def _level(number: float, scale: int) -> int:
    return min(max(round(number * 255 / scale), 0), 255)


def _alpha_at(offset: float, opacity: list[tuple[float, float]]) -> float:
    """The alpha of a gradient at an offset, by its alpha stops; 1 where it has none."""
    before = [stop for stop in opacity if stop[0] <= offset]
    behind = [stop for stop in opacity if stop[0] > offset]
    if not opacity:
        return 1.0
    if not before or not behind:
        alpha = (before or behind[:1])[-1][1]
    else:
        (start, low), (end, high) = before[-1], behind[0]
        alpha = low + (high - low) * (offset - start) / (end - start)
    return round(min(max(alpha, 0.0), 1.0), ALPHA_DIGITS)
