"""What texts stand on, as an engine computes it: every site is shown in a color that stands for it, and the color that
is computed for a text or its ground tells the site."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgba
from pavese.core.formats.document import PLAIN, Alone, Look, Marked
from pavese.core.formats.marks import PICTURE, marked
from pavese.core.recolor.site import Site
from pavese.core.recolor.texts import Text, TextRun
from pavese.render import browser


def texts_marked(document: Marked, look: Look = PLAIN) -> tuple[TextRun, ...]:
    """Each text of a file on what it stands on in a look. Raises ValueError where it cannot be shown."""
    sites = list(document.marked_sites())
    preview = document.marked(look)
    asked = browser.Asked(preview.content, look.width or 0, look.dark, texts=True)
    runs = (_run(one, sites) for one in browser.show(asked).texts)
    return tuple(dict.fromkeys(run for run in runs if run is not None))


class OnGround(NamedTuple):
    """A picture of a file, by what it is called there, on what it stands on (None: a picture, a gradient, or what no
    site says), as large as it is shown."""

    reference: str
    ground: Site | None
    width: float
    height: float


def pictures_marked(document: Marked, references: Sequence[str], look: Look) -> list[OnGround]:
    """What the pictures of a file, named in the order of their numbers, stand on. Raises ValueError where it cannot be
    shown."""
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
    number = marked(color.rgb, len(sites)) if color is not None else None
    return None if number is None else sites[number]
