"""The typefaces of a kit, those that ship, what stands in for one that is not there, and which two go together.

The traits of shipped faces are measured on their regular weight (`face_traits.traits_of`; a test measures them again).
Those of manners of type that a name tells are typical ones: of the first two the widths are those of the faces that
printers have built in (Adobe Font Metrics of the core 14 fonts), the others were set by eye between shipped faces.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import product
from typing import NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from pavese.core.kit.face_traits import FaceTraits, TypefaceKind


class OwnFace(BaseModel):
    """A typeface that its owner brought: the file by its hash, what its license allows in their words, and what was
    measured of it. `weights` are the least and the largest it has."""

    model_config = ConfigDict(frozen=True)

    family: str = Field(min_length=1, max_length=80)
    key: str = Field(pattern=r"^[0-9a-f]{64}$")
    license: str = Field(default="", max_length=300)
    kind: TypefaceKind
    weights: tuple[int, int]
    traits: FaceTraits


class Typefaces(BaseModel):
    """The headline and the text face by name; empty where none is set. `own` are those that were brought."""

    model_config = ConfigDict(frozen=True)

    headline: str = Field(default="", max_length=80)
    text: str = Field(default="", max_length=80)
    own: tuple[OwnFace, ...] = Field(default=(), max_length=12)


@dataclass(frozen=True)
class ShippedFace:
    """An open typeface that ships with the application, with what it is fit for in words."""

    family: str
    kind: TypefaceKind
    moods: tuple[str, ...]
    weights: tuple[int, int]
    traits: FaceTraits

    @property
    def slug(self) -> str:
        """Its name in paths."""
        return self.family.lower().replace(" ", "-")


def _face(
    family: str,
    kind: TypefaceKind,
    moods: str,
    weights: tuple[int, int],
    traits: tuple[float, float, float, float],
) -> ShippedFace:
    return ShippedFace(family, kind, tuple(moods.split()), weights, _traits(*traits))


def _traits(width: float, x_height: float, stroke: float, evenness: float) -> FaceTraits:
    return FaceTraits(width=width, x_height=x_height, stroke=stroke, evenness=evenness)


#: All under the SIL Open Font License 1.1; the first of a kind stands in where nothing more is known.
SHIPPED: tuple[ShippedFace, ...] = (
    _face("Commissioner", TypefaceKind.SANS, "plain", (100, 900), (0.5012, 0.4995, 0.0845, 0.852)),
    _face("Source Sans 3", TypefaceKind.SANS, "plain warm", (200, 900), (0.4635, 0.486, 0.085, 0.8)),
    _face("Libre Franklin", TypefaceKind.SANS, "plain strong", (100, 900), (0.5155, 0.53, 0.086, 0.733)),
    _face("Work Sans", TypefaceKind.SANS, "friendly plain", (100, 900), (0.5353, 0.5, 0.08, 0.863)),
    _face("DM Sans", TypefaceKind.SANS, "modern friendly", (100, 1000), (0.5101, 0.504, 0.086, 0.837)),
    _face("Jost", TypefaceKind.SANS, "geometric modern", (100, 900), (0.4507, 0.46, 0.081, 0.926)),
    _face("Nunito", TypefaceKind.SANS, "round friendly", (200, 1000), (0.491, 0.493, 0.082, 0.793)),
    _face("Archivo", TypefaceKind.SANS, "strong technical", (100, 900), (0.4824, 0.526, 0.092, 0.804)),
    _face("Raleway", TypefaceKind.SANS, "elegant modern", (100, 900), (0.509, 0.521, 0.069, 0.869)),
    _face("Oswald", TypefaceKind.SANS, "narrow strong", (200, 700), (0.391, 0.578, 0.107, 0.738)),
    _face("Source Serif 4", TypefaceKind.SERIF, "classic plain", (200, 900), (0.5286, 0.492, 0.099, 0.525)),
    _face("EB Garamond", TypefaceKind.SERIF, "classic elegant", (400, 800), (0.416, 0.405, 0.0818, 0.366)),
    _face("Literata", TypefaceKind.SERIF, "warm classic", (200, 900), (0.5348, 0.507, 0.1012, 0.605)),
    _face("Lora", TypefaceKind.SERIF, "warm elegant", (400, 700), (0.5108, 0.5, 0.1021, 0.394)),
    _face("Playfair Display", TypefaceKind.SERIF, "elegant grand", (400, 900), (0.4936, 0.515, 0.097, 0.206)),
    _face("Fraunces", TypefaceKind.SERIF, "warm grand", (100, 900), (0.517, 0.4695, 0.1105, 0.382)),
    _face("Bitter", TypefaceKind.SLAB, "plain strong", (100, 900), (0.5195, 0.532, 0.084, 0.702)),
    _face("Besley", TypefaceKind.SLAB, "classic strong", (400, 900), (0.542, 0.52, 0.1049, 0.429)),
    _face("Aleo", TypefaceKind.SLAB, "modern warm", (100, 900), (0.5001, 0.507, 0.092, 0.761)),
    _face("Spline Sans Mono", TypefaceKind.MONO, "technical modern", (300, 700), (0.6, 0.5455, 0.095, 0.863)),
    _face("JetBrains Mono", TypefaceKind.MONO, "technical plain", (100, 800), (0.6, 0.55, 0.09, 0.889)),
    _face("Sometype Mono", TypefaceKind.MONO, "technical round", (400, 700), (0.58, 0.47, 0.074, 0.919)),
    _face("Caveat", TypefaceKind.HAND, "written light", (400, 700), (0.3591, 0.3551, 0.0741, 0.793)),
    _face("Shantell Sans", TypefaceKind.HAND, "written friendly", (300, 800), (0.5404, 0.503, 0.0891, 0.898)),
    _face("Playpen Sans", TypefaceKind.HAND, "written round", (100, 800), (0.5204, 0.546, 0.0921, 0.945)),
)
#: What running text is set in where a drawing or a sheet names no face that is there.
BASIC = SHIPPED[0].family


class _Manner(NamedTuple):
    """What a word in a name tells: the kind, and where the name is that of a manner of type, how such faces look."""

    kind: TypefaceKind
    words: str
    traits: FaceTraits | None = None


_MANNERS: tuple[_Manner, ...] = (
    _Manner(TypefaceKind.MONO, r"mono|monospace[d]?|code|console|typewriter|courier|consolas|menlo"),
    _Manner(TypefaceKind.HAND, r"hand|script|brush|written|marker|chalk|pen|casual"),
    _Manner(
        TypefaceKind.SANS, r"helvetica|arial|neue?|grotes[ck]\w*|linear|univers", _traits(0.477, 0.523, 0.088, 0.83)
    ),
    _Manner(
        TypefaceKind.SERIF,
        r"times|roman|century|text\s?book",
        _traits(0.433, 0.45, 0.1, 0.42),
    ),
    _Manner(
        TypefaceKind.SANS,
        r"futura|geometric|avant|avenir|gotham",
        _traits(0.47, 0.46, 0.082, 0.93),
    ),
    _Manner(
        TypefaceKind.SANS,
        r"condensed|narrow|compressed|din",
        _traits(0.4, 0.55, 0.1, 0.78),
    ),
    _Manner(
        TypefaceKind.SANS,
        r"rounded|round|soft",
        _traits(0.492, 0.494, 0.083, 0.82),
    ),
    _Manner(
        TypefaceKind.SANS,
        r"gill|frutiger|humanist|myriad|segoe|calibri|verdana|tahoma",
        _traits(0.47, 0.486, 0.084, 0.8),
    ),
    _Manner(
        TypefaceKind.SLAB,
        r"slab|rockwell|egyptian|clarendon",
        _traits(0.52, 0.52, 0.095, 0.6),
    ),
    _Manner(
        TypefaceKind.SERIF, r"garamond|antiqua|palatino|bembo|sabon|minion|old\s?style", _traits(0.42, 0.41, 0.083, 0.4)
    ),
    _Manner(
        TypefaceKind.SERIF,
        r"bodoni|didot|display\s?serif|fashion",
        _traits(0.49, 0.5, 0.1, 0.18),
    ),
    _Manner(
        TypefaceKind.SERIF,
        r"baskerville|caslon|georgia|bookman|cambria",
        _traits(0.51, 0.49, 0.1, 0.42),
    ),
    _Manner(TypefaceKind.SERIF, r"serif"),
    _Manner(TypefaceKind.SANS, r"sans|gothic"),
)
#: A name that says "sans serif" is no serif, whatever else it says.
_NO_SERIF = re.compile(r"\bsans[\s-]?serif\b")


@dataclass(frozen=True)
class Likeness:
    """A shipped face that looks like a wanted one: how far off (`FaceTraits.distance`) and how it differs, in words."""

    face: ShippedFace
    distance: float
    words: str


@dataclass(frozen=True)
class StandIn:
    """The face that is shown for a named one; `same` when it is that very face, `own` when its owner brought it.

    `like` are shipped faces that look like it, the nearest first; without any measure of it those of its kind.
    """

    wanted: str
    face: str
    kind: TypefaceKind
    same: bool
    why: str
    like: tuple[Likeness, ...] = ()
    own: OwnFace | None = None


def stand_in(wanted: str, own: Iterable[OwnFace] = ()) -> StandIn | None:
    """What is shown for a name; None for an empty name.

    >>> stand_in("Harbor Antiqua").face
    'EB Garamond'
    """
    name = " ".join(wanted.split())
    if not name:
        return None
    brought = next((face for face in own if face.family.casefold() == name.casefold()), None)
    if brought is not None:
        like = likenesses(brought.kind, brought.traits)
        return StandIn(name, brought.family, brought.kind, True, "brought along", like, brought)
    shipped = next((face for face in SHIPPED if face.family.casefold() == name.casefold()), None)
    if shipped is not None:
        like = tuple(one for one in likenesses(shipped.kind, shipped.traits) if one.face != shipped)
        return StandIn(name, shipped.family, shipped.kind, True, "shipped with the application", like)
    words = _NO_SERIF.sub("sans", name.casefold())
    for manner in _MANNERS:
        told = re.search(rf"\b({manner.words})\b", words)
        if told:
            like = likenesses(manner.kind, manner.traits)
            why = f"“{told[0]}” in its name tells a {manner.kind.value} face"
            return StandIn(name, like[0].face.family, manner.kind, False, why, like)
    like = likenesses(TypefaceKind.SANS, None)
    return StandIn(name, like[0].face.family, TypefaceKind.SANS, False, "its name tells no kind; a sans is shown", like)


def likenesses(kind: TypefaceKind, traits: FaceTraits | None, most: int = 5) -> tuple[Likeness, ...]:
    """The shipped faces of a kind by how they look beside a measured one; without a measure as they are listed."""
    found = [
        Likeness(face, 0.0, "")
        if traits is None
        else Likeness(face, face.traits.distance(traits), _apart(face.traits, traits))
        for face in SHIPPED
        if face.kind is kind
    ]
    return tuple(sorted(found, key=lambda one: one.distance)[:most])


#: What is said of a difference of one step and more: of less, and of more than the wanted face has.
_WORDS = {
    "width": ("narrower", "wider"),
    "x_height": ("smaller letters", "larger letters"),
    "stroke": ("lighter", "heavier"),
    "evenness": ("more contrast of strokes", "more even strokes"),
}
_STEPS = {"width": 0.03, "x_height": 0.035, "stroke": 0.015, "evenness": 0.2}


def _apart(face: FaceTraits, wanted: FaceTraits) -> str:
    said = [
        words[getattr(face, name) > getattr(wanted, name)]
        for name, words in _WORDS.items()
        if abs(getattr(face, name) - getattr(wanted, name)) > _STEPS[name]
    ]
    return ", ".join(said) or "as good as alike"


@dataclass(frozen=True)
class FacePair:
    """A face for headlines with one for text: by name, why they go together, and how heavy the headline is set."""

    headline: str
    text: str
    weight: int
    why: str


class _Known(NamedTuple):
    family: str
    kind: TypefaceKind
    moods: tuple[str, ...]
    weights: tuple[int, int]
    traits: FaceTraits


#: Kinds that text is set in.
_FOR_TEXT = (TypefaceKind.SANS, TypefaceKind.SERIF, TypefaceKind.SLAB)
#: How unlike (in x-heights of the em) two faces may be that stand beside each other at one size.
_LEVEL = 0.03


def face_pairs(kit: Typefaces, most: int = 9) -> tuple[FacePair, ...]:
    """Pairs for headline and text, the most telling first: those with a face of the kit, then all shipped ones.

    Two kinds beside each other tell headline and text apart, x-heights of one height make them stand on one line, a
    mood in common holds them together; two of one kind need weight to be told apart, and are one family then.
    """
    known = [_Known(face.family, face.kind, (), face.weights, face.traits) for face in kit.own]
    known += [_Known(face.family, face.kind, face.moods, face.weights, face.traits) for face in SHIPPED]
    shown = (stand_in(name, kit.own) for name in (kit.headline, kit.text))
    named = {one.face for one in shown if one is not None}
    scored = []
    for head, text in product(known, known):
        if text.kind not in _FOR_TEXT or (head.kind is text.kind and head.family != text.family):
            continue
        score, why = _judged(head, text)
        ours = sum(family in named for family in {head.family, text.family})
        scored.append((-ours, -score, head.family, text.family, head, why))
    found: list[FacePair] = []
    times: dict[str, int] = {}
    seen: set[frozenset[str]] = set()
    for _, _, _, family, head, why in sorted(scored, key=lambda entry: entry[:4]):
        both = frozenset((head.family, family))
        # Faces stand in two of them at most and two only once together, so that there is something to choose from.
        if both in seen or any(times.get(one, 0) > 1 for one in both - named):
            continue
        seen.add(both)
        for one in both:
            times[one] = times.get(one, 0) + 1
        found.append(FacePair(head.family, family, _headline_weight(head), why))
        if len(found) == most:
            break
    return tuple(found)


def _judged(head: _Known, text: _Known) -> tuple[float, str]:
    """How well two faces go together, and why."""
    if head.family == text.family:
        span = head.weights[1] - head.weights[0]
        return (
            0.4 + span / 1000,
            f"one family; {_headline_weight(head)} against {max(400, head.weights[0])} tells them apart",
        )
    shared = [mood for mood in head.moods if mood in text.moods]
    apart = abs(head.traits.x_height - text.traits.x_height)
    reasons: Sequence[str] = (
        f"a {head.kind.value} headline over {text.kind.value} text",
        *(("letters of one height",) if apart < _LEVEL else ()),
        *((f"both {shared[0]}",) if shared else ()),
    )
    heavy = min(abs(head.traits.stroke - text.traits.stroke), 0.03)
    usual = 0.3 if {head.kind, text.kind} == {TypefaceKind.SERIF, TypefaceKind.SANS} else 0.0
    return 1.0 + usual - apart * 8 + 0.4 * len(shared) - heavy * 6, ", ".join(reasons)


def _headline_weight(face: _Known) -> int:
    return min(700, face.weights[1])
