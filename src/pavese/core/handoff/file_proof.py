"""The proof of a mail or a deck for those who answer for it: before and after in every look or on every slide, and
every text on its ground with its ratio and level."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from importlib.resources import files

from pavese.core.color.contrast import ENHANCED, LARGE, TEXT, shown
from pavese.core.formats.svg.raster import svg_of_png
from pavese.core.handoff.sheet import MAIN
from pavese.core.recolor.reading import Reading

_TEMPLATE = "file_proof.typ"
#: Texts that are listed.
_MOST = 200


@dataclass(frozen=True)
class SeenFile:
    """A file in one look, or one of its slides, before and after, as PNG."""

    words: str
    before: bytes
    after: bytes


@dataclass(frozen=True)
class FileProof:
    """What is shown of one file; `everywhere` says where its texts were looked at, in words. `texts` are of the file
    that is handed over, opened anew, each with the ratio that it had, by what it says and how large (None: it was not
    there, or on a picture); `unknown` ones stand on pictures."""

    name: str
    title: str
    looks: Sequence[SeenFile]
    texts: Sequence[Reading]
    had: Mapping[tuple[str, float], float]
    unknown: int
    everywhere: str
    #: How high its pictures stand on the page at most, in millimeters.
    high: int


def proof_page(proof: FileProof, kit: str) -> dict[str, bytes]:
    """The files a proof is set from: the template as MAIN, `data.json`, and the pictures."""
    pictures: dict[str, bytes] = {}
    looks = []
    for at, look in enumerate(proof.looks):
        sides = {}
        for side, png in (("before", look.before), ("after", look.after)):
            sides[side] = f"{at}-{side}.svg"
            pictures[sides[side]] = svg_of_png(png)
        looks.append({"words": look.words, **sides})
    weak = sum(not one.reads for one in proof.texts)
    data = {
        "name": proof.name,
        "title": proof.title or proof.name,
        "kit": kit,
        "looks": looks,
        "count": len(proof.texts),
        "weak": weak,
        "unknown": proof.unknown,
        "everywhere": proof.everywhere,
        "high": proof.high,
        "texts": [_told(one, proof.had) for one in proof.texts[:_MOST]],
    }
    template = files("pavese.core.handoff").joinpath(_TEMPLATE).read_bytes()
    return {MAIN: template, "data.json": json.dumps(data).encode(), **pictures}


def _told(one: Reading, had: Mapping[tuple[str, float], float]) -> dict[str, object]:
    text = one.run.text
    before = had.get((text.text, text.size))
    return {
        "text": text.text,
        "size": f"{text.size:g} px{' bold' if text.bold else ''}",
        "ink": one.ink.hex,
        "ground": one.ground.hex,
        "before": None if before is None else shown(before),
        "after": shown(one.after),
        "level": level(one.after, large=text.large),
    }


def level(ratio: float, *, large: bool) -> str:
    """The level of WCAG 2.2 (1.4.3 and 1.4.6) that a text reaches, in a word.

    >>> level(4.6, large=False), level(4.6, large=True), level(2.9, large=True)
    ('AA', 'AAA', 'below AA')
    """
    enough, more = (LARGE, TEXT) if large else (TEXT, ENHANCED)
    return "AAA" if ratio >= more else "AA" if ratio >= enough else "below AA"
