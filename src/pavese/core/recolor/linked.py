"""What follows the theme of a deck after its changes, and what does not, with the reason."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from enum import StrEnum
from typing import NamedTuple

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.site import Kind, Site


class Typed(StrEnum):
    """Why a color stands as a code where it could follow the theme."""

    NO_PLACE = "no place of the theme holds it"
    MANY_THEMES = "it is seen under several masters, whose themes may differ"
    IN_STYLES = "it stands in what the theme draws shapes with"
    MADE_OFF = "what its place makes of it is no color of the kit"
    OTHER_WAY = "it goes another way than its place"
    CODES = "codes are wanted"


class Linked(NamedTuple):
    """A site that does not just follow its place of the theme: the color that it becomes, the place that it points to
    then ("" for a code, and `why`) and the one it pointed to before ("" for a code). `near` is the place that holds the
    nearest color, and how far that is in CIEDE2000."""

    site: Site
    color: Rgb
    slot: str
    was: str
    why: Typed | None = None
    near: str = ""
    apart: float = 0.0


class LinkedPaint(NamedTuple):
    """Sites of one file of which the same is to be said: what they were and become, how many there are, and the
    selectors of the pages they are seen on, in their order."""

    paint: Rgba
    kind: Kind
    color: Rgb
    slot: str
    was: str
    why: Typed | None
    near: str
    apart: float
    sites: int
    pages: tuple[str, ...]


def gathered(links: Iterable[Linked], pages: Iterable[str]) -> tuple[LinkedPaint, ...]:
    """What is to be said of the sites of one file, whose pages have these selectors; what is met first comes first."""
    order = {selector: at for at, selector in enumerate(pages)}
    found: dict[tuple[Rgba, Kind, Rgb, str, str, Typed | None], list[Linked]] = {}
    for one in links:
        found.setdefault((one.site.paint, one.site.kind, one.color, one.slot, one.was, one.why), []).append(one)
    return tuple(
        LinkedPaint(*key, near=each[0].near, apart=each[0].apart, sites=len(each), pages=_seen_on(each, order))
        for key, each in found.items()
    )


def _seen_on(links: Iterable[Linked], order: Mapping[str, int]) -> tuple[str, ...]:
    pages = {selector for one in links for selector in one.site.selectors if selector in order}
    return tuple(sorted(pages, key=order.__getitem__))
