"""What texts stand on, as an engine computes it: every site is shown in a color that stands for it, and the color that
is computed for a text or its ground tells the site."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise
from math import ceil
from typing import Any, NamedTuple, cast

import numpy as np
import numpy.typing as npt

from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.formats.document import PLAIN, Alone, Document, Look, Marked, Mixed, Pictured, Preview
from pavese.core.formats.marks import PICTURE, marked, scattered
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.site import OUTER, Kind, Site
from pavese.core.recolor.texts import Part, Seen, Sides, Text, TextRun
from pavese.render import browser
from pavese.render.draw import pixels_of
from pavese.render.faces import stand_ins
from pavese.render.mixed import Mixing, alone, between, mixtures, veiled

#: What the colors of a gradient in a style paint.
_GROUNDS = (Kind.GROUND, Kind.ACTION)
#: Bands that are lower are no ground beside which another is seen: in pixels, and as a part of the page.
_BAND, _BAND_OF_ALL = 30, 0.04
#: Parts of a mail that are looked at; of a digest of forwarded ones there are more.
_MOST_PARTS = 8
#: What browsers call a ground that is a picture or a gradient; letters that are not painted, so that what is below them
#: is seen.
_MIXED, _UNLETTERED = (
    "mixed",
    b"<style>*{-webkit-text-fill-color:transparent!important;text-shadow:none!important;"
    b"text-decoration-color:transparent!important;caret-color:transparent!important}</style>",
)


def texts_marked(document: Marked, look: Look = PLAIN) -> tuple[TextRun, ...]:
    """Each text of a file on what it stands on in a look. Raises ValueError where it cannot be shown."""
    return seen_in(document, look).texts


class SeenIn(NamedTuple):
    """What is told of a file in a look: its texts on what they stand on, on a narrow screen the grounds that do not
    reach its edges, each with what lies around all of it, and the faces that others stand in for."""

    texts: tuple[TextRun, ...]
    sides: tuple[Sides, ...]
    faces: tuple[tuple[str, str], ...]


def seen_in(document: Marked, look: Look, *, narrow: bool = False) -> SeenIn:
    """What is told of a file in a look; the faces are told where it is not narrow. Raises ValueError where it cannot be
    shown."""
    sites = list(document.marked_sites())
    content, width = document.marked(look).content, look.width or 0
    shown = browser.show(
        browser.Asked(content, width, look.dark, texts=True, picture=narrow, faces=not narrow and not look.dark)
    )
    sides = tuple(_sides(pixels_of(shown.png).astype(np.int64), sites)) if narrow else ()
    return SeenIn(_runs(document, look, shown.texts, sites), sides, tuple(stand_ins(shown.faces)))


def _runs(
    document: Marked, look: Look, told: Sequence[Mapping[str, Any]], sites: Sequence[Site]
) -> tuple[TextRun, ...]:
    found = [(one, _run(one, sites)) for one in told]
    loose = [one for one, run in found if run is not None and run.ground is None and _is_there(one, sites)]
    seen = _seen_below(cast(Mixed, document), look, loose) if loose else {}
    runs = (run and replace(run, seen=seen.get(_box(one), ())) for one, run in found)
    return tuple(dict.fromkeys(run for run in runs if run is not None))


def _is_there(told: Mapping[str, Any], sites: Sequence[Site]) -> bool:
    """Whether all that is seen below a text came with its file: pictures, gradients, veils over what sites say."""
    for computed in told["grounds"]:
        if computed is None:
            return False
        site = _site(computed, sites)
        if site is not None and site.paint.alpha >= 1:
            return True
    return _MIXED in told["grounds"]


def _box(told: Mapping[str, Any]) -> tuple[int, int, int, int]:
    """Where a text stands: left, top, right, bottom, in pixels of the page."""
    left, top, width, height = told["box"]
    return max(ceil(left), 0), max(ceil(top), 0), int(left + width), int(top + height)


def _seen_below(
    document: Mixed, look: Look, told: Sequence[Mapping[str, Any]]
) -> dict[tuple[int, int, int, int], tuple[Seen, ...]]:
    """What is seen below texts, by where they stand: the page is drawn without letters, as it came and in marks."""
    sites = list(document.mixed_sites())
    marks = [scattered(number) for number in range(len(sites))]
    tried = list(mixtures(sites, marks, {}))
    beside = pairwise(zip(sites, marks, strict=True))
    tried += between((one, other) for one, other in beside if one[0].kind is other[0].kind and one[0].kind in _GROUNDS)
    below = {site for one in told for ground in one["grounds"] if (site := _site(ground or "", sites)) is not None}
    grounds = [(site, mark) for site, mark in zip(sites, marks, strict=True) if site in below]
    mixing = Mixing([*tried, *alone(grounds), *veiled(tried, grounds)])
    came, seen = (_unlettered(one, look) for one in (document.preview(Changes(), look=look), document.mixed(look)))
    found: dict[tuple[int, int, int, int], tuple[Seen, ...]] = {}
    for box in {_box(one): None for one in told}:
        left, top, right, bottom = box
        own, in_marks = (one[top:bottom, left:right].reshape(-1, 3) for one in (came, seen))
        if len(own) and len(own) == len(in_marks):
            found[box] = mixing.seen(own, in_marks)
    return found


def _unlettered(preview: Preview, look: Look) -> npt.NDArray[np.float64]:
    """The pixels of a page without its letters, shape (height, width, 3)."""
    asked = browser.Asked(preview.content + _UNLETTERED, look.width or 0, look.dark, picture=True)
    return pixels_of(browser.show(asked).png)[..., :3].astype(float)


def laid_out(document: Document) -> Sequence[Marked]:
    """What of a file an engine lays out by itself: its parts, the first of very many, or all of it."""
    return cast(Sequence[Marked], (document.embedded() or (document,))[:_MOST_PARTS])


def _sides(pixels: npt.NDArray[np.int64], sites: Sequence[Site]) -> Iterator[Sides]:
    """The grounds that do not reach the edges of a page in marks, shape (height, width, 4)."""
    height, width = pixels.shape[:2]
    # At both edges, and a quarter of the width and three of them across.
    left, first, second, right = (pixels[:, at] for at in (1, width // 4, width * 3 // 4, width - 2))
    told = (left == right).all(axis=1) & (first == second).all(axis=1) & (left != first).any(axis=1)
    rows = np.concatenate([left[told, :3], first[told, :3]], axis=1)
    for seen, count in zip(*np.unique(rows, axis=0, return_counts=True), strict=True) if len(rows) else ():
        outer, inner = (_numbered(Rgb(*color), sites) for color in (seen[:3].tolist(), seen[3:].tolist()))
        if outer is None or inner is None or count < max(_BAND, _BAND_OF_ALL * height):
            continue
        if inner.kind is Kind.GROUND and (OUTER in outer.selectors or not outer.selectors):
            yield Sides(*(Part(one.paint, one.kind, one.selectors) for one in (outer, inner)))


class OnGround(NamedTuple):
    """A picture of a file, by what it is called there, on what it stands on (None: a picture, a gradient, or what no
    site says), as large as it is shown."""

    reference: str
    ground: Site | None
    width: float
    height: float


def pictures_marked(document: Marked, look: Look) -> list[OnGround]:
    """What the pictures of a file that shows some stand on. Raises ValueError where it cannot be shown."""
    references = list(cast(Pictured, document).pictures(Changes()))
    sites = list(document.marked_sites())
    preview = document.marked(look)
    asked = browser.Asked(preview.content, look.width or 0, look.dark, pictures=PICTURE)
    found: list[OnGround] = []
    for told in browser.show(asked).pictures:
        grounds = told["grounds"]
        ground = _site(grounds[0], sites) if grounds and grounds[0] else None
        found.append(OnGround(references[told["number"]], ground, told["width"], told["height"]))
    return found


def alone_under(document: Marked, look: Look, spot: tuple[float, float], paint: Rgba) -> Alone | None:
    """The element of a file that alone says the paint which is seen at a spot of it. Raises ValueError where it cannot
    be shown."""
    sites = list(document.marked_sites())
    preview = document.marked(look)
    told = browser.show(browser.Asked(preview.content, look.width or 0, look.dark, under=spot)).under
    for computed in told:
        color = try_color(computed)
        number = marked(color.rgb, len(sites)) if color is not None else None
        if number is not None and sites[number].paint == paint:
            return document.alone(number)
    return None


def _run(told: Mapping[str, Any], sites: Sequence[Site]) -> TextRun | None:
    """None for a text whose ink no site says, such as one of template code or of a picture inside."""
    ink = _site(told["ink"], sites)
    if ink is None:
        return None
    text = Text(told["text"], ink.paint, told["veil"], told["size"], told["bold"], ink.selectors, ink.kind)
    grounds = told["grounds"]
    ground = _site(grounds[0], sites) if grounds and grounds[0] else None
    if ground is None or ground.paint.alpha < 1:
        # A picture, a gradient, a veil over something else, or nothing that any site says.
        return TextRun(text, None)
    return TextRun(text, ground.paint, ground.kind, ground.selectors)


def _site(computed: str, sites: Sequence[Site]) -> Site | None:
    color: Rgba | None = try_color(computed)
    return None if color is None else _numbered(color.rgb, sites)


def _numbered(color: Rgb, sites: Sequence[Site]) -> Site | None:
    number = marked(color, len(sites))
    return None if number is None else sites[number]
