"""What stands on masters, layouts and slides of a template: placeholders, shapes in colors of the theme, the logo.

ISO/IEC 29500-1, 19.3.1 (masters, layouts, slides), 20.1.7 and 20.1.9 (places and outlines of shapes).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple
from xml.sax.saxutils import quoteattr

GROUP = '<p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr/>'
#: Numbers of placeholders on a master or layout begin there, behind those of what is drawn on it.
_OWN = 4


class Format(NamedTuple):
    """The size of slides, in English Metric Units."""

    width: int
    height: int


class Box(NamedTuple):
    """Where something stands, as parts of the slide."""

    left: float
    top: float
    width: float
    height: float


@dataclass(frozen=True)
class Holder:
    """A placeholder: its kind (19.7.10), its number among those of a layout, where it stands, the size of its text in
    points (None: as the master has it), and what it asks for."""

    kind: str
    number: int
    box: Box
    asks: str
    size: int | None = None


class Mark(NamedTuple):
    """The logo as it stands on the ground of a master: its picture, by its name in the package, how wide it is for its
    height, its backing, by the name of its color there, with how much larger that is on each side, as a part of the
    logo's height, and how round; and what it is called."""

    picture: str
    wide: float
    behind: str | None
    padding: float
    corners: int
    title: str


def solid(name: str) -> str:
    """A fill in a color of the theme."""
    return f'<a:solidFill><a:schemeClr val="{name}"/></a:solidFill>'


def place_of(holder: Holder) -> str:
    """What says that a shape is a placeholder."""
    index = f' idx="{holder.number}"' if holder.number else ""
    return f'<p:ph type="{holder.kind}"{index}/>'


def tree(holders: Sequence[Holder], size: Format, own: str) -> str:
    """What stands on a master or a layout: `own` shapes lie below the placeholders."""
    shapes = "".join(_shape(number, holder, size) for number, holder in enumerate(holders, _OWN))
    return f"<p:spTree>{GROUP}{own}{shapes}</p:spTree>"


def drawn(name: str, box: Box, size: Format, color: str, corners: int = 0) -> str:
    """A shape in a color of the theme; `corners` are round by so many percent of its height."""
    return (
        f'<p:sp><p:nvSpPr><p:cNvPr id="2" name="{name}"/><p:cNvSpPr/><p:nvPr userDrawn="1"/></p:nvSpPr>'
        f"<p:spPr>{_placed(box, size, corners)}{solid(color)}<a:ln><a:noFill/></a:ln></p:spPr></p:sp>"
    )


def placed_logo(mark: Mark, box: Box, size: Format, relation: int) -> str:
    """The logo, as large as a box lets it be: at the left of one that stands at the left of the slide, else at its
    right."""
    more = 2 * mark.padding
    by = size.width / size.height
    high = min(box.height / (1 + more), box.width * by / (mark.wide + more))
    whole_wide = high * (mark.wide + more) / by
    left = box.left if box.left < 0.5 else box.left + box.width - whole_wide
    top = box.top + (box.height - high * (1 + more)) / 2
    behind = Box(left, top, whole_wide, high * (1 + more))
    inner = Box(left + high * mark.padding / by, top + high * mark.padding, high * mark.wide / by, high)
    backing = drawn("Backing", behind, size, mark.behind, mark.corners) if mark.behind is not None else ""
    return (
        f'{backing}<p:pic><p:nvPicPr><p:cNvPr id="3" name="Logo" descr={quoteattr(mark.title)}/><p:cNvPicPr>'
        '<a:picLocks noChangeAspect="1"/></p:cNvPicPr><p:nvPr userDrawn="1"/></p:nvPicPr>'
        f'<p:blipFill><a:blip r:embed="rId{relation}"/><a:stretch><a:fillRect/></a:stretch></p:blipFill>'
        f"<p:spPr>{_placed(inner, size)}</p:spPr></p:pic>"
    )


def _shape(number: int, holder: Holder, size: Format) -> str:
    own = f'<a:lvl1pPr><a:defRPr sz="{holder.size * 100}"/></a:lvl1pPr>' if holder.size else ""
    field = '<a:fld id="{B6F15528-21DE-4FAA-801E-634DDDAF4B2B}" type="slidenum"><a:rPr/><a:t>1</a:t></a:fld>'
    words = field if holder.kind == "sldNum" else f"<a:r><a:rPr/><a:t>{holder.asks}</a:t></a:r>" if holder.asks else ""
    return (
        f'<p:sp><p:nvSpPr><p:cNvPr id="{number}" name="{holder.asks or holder.kind} {number}"/><p:cNvSpPr>'
        f'<a:spLocks noGrp="1"/></p:cNvSpPr><p:nvPr>{place_of(holder)}</p:nvPr></p:nvSpPr><p:spPr>'
        f"{_placed(holder.box, size)}</p:spPr><p:txBody><a:bodyPr><a:normAutofit/></a:bodyPr>"
        f"<a:lstStyle>{own}</a:lstStyle><a:p>{words}</a:p></p:txBody></p:sp>"
    )


def _placed(box: Box, size: Format, corners: int = 0) -> str:
    whole = (size.width, size.height, size.width, size.height)
    x, y, width, height = (round(part * of) for part, of in zip(box, whole, strict=True))
    return f'<a:xfrm><a:off x="{x}" y="{y}"/><a:ext cx="{width}" cy="{height}"/></a:xfrm>{_outline(corners)}'


def _outline(corners: int) -> str:
    """A rectangle, with corners that are round by so many percent of its shorter side (20.1.10.56, "roundRect")."""
    if not corners:
        return '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom>'
    return (
        f'<a:prstGeom prst="roundRect"><a:avLst><a:gd name="adj" fmla="val {corners * 1000}"/></a:avLst></a:prstGeom>'
    )
