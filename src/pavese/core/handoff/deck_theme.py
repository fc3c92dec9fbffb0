"""A kit as the theme of a minimal deck (ISO/IEC 29500-1, 20.1.6.2, color scheme; 20.1.4.1.18, font scheme).

A theme has twelve places: two dark, two light, six accents, links and followed links. They take the kit's colors by
role; places that are left take steps of what is there.
"""

from __future__ import annotations

import io
import re
import zipfile
from itertools import chain
from xml.sax.saxutils import quoteattr

from pptx import Presentation

from pavese.core.color.contrast import BLACK, WHITE
from pavese.core.color.srgb import Rgb
from pavese.core.formats.archive import package
from pavese.core.handoff.published import Published, SheetWishes
from pavese.core.kit.kit import Kit
from pavese.core.kit.role import Role

_THEME = "ppt/theme/theme1.xml"
#: Part of the package that holds the time of making, which would make each deck a different one.
_TIMES = re.compile(rb"(<dcterms:(?:created|modified)[^>]*>)[^<]*(</dcterms:)")


def theme_colors(kit: Kit) -> dict[str, Rgb]:
    """The twelve places of a theme and the colors that stand in them."""
    by_role = {role: [color for color in kit.colors if color.role is role] for role in Role}

    def first(*roles: Role) -> Rgb | None:
        return next((color.base for role in roles for color in by_role[role]), None)

    dark = first(Role.TEXT_DARK) or BLACK
    light = first(Role.BACKGROUND, Role.TEXT_LIGHT) or WHITE
    primary = by_role[Role.PRIMARY] or list(kit.colors)
    accents = list(
        dict.fromkeys(
            color.base
            for role in (Role.PRIMARY, Role.ACTION, Role.SECONDARY, Role.ACCENT, Role.NEUTRAL)
            for color in by_role[role]
        )
    )
    steps = (color.ramp.at(step) for step in (600, 300, 800, 200, 500, 400) for color in primary)
    filled = list(dict.fromkeys(chain(accents, steps, (dark, light, BLACK, WHITE))))
    six = [filled[i % len(filled)] for i in range(6)]
    link = first(Role.ACTION, Role.PRIMARY) or dark
    return {
        "dk1": dark,
        "lt1": light,
        "dk2": primary[0].ramp.at(900) if primary else dark,
        "lt2": primary[0].ramp.at(50) if primary else light,
        **{f"accent{number}": color for number, color in enumerate(six, 1)},
        "hlink": link,
        "folHlink": first(Role.SECONDARY, Role.NEUTRAL) or link,
    }


def deck_theme(published: Published, choice: SheetWishes) -> bytes:
    """A deck of one slide whose theme carries the kit; the same edition gives the same bytes."""
    deck = Presentation()
    slide = deck.slides.add_slide(deck.slide_layouts[0])
    slide.shapes.title.text = published.kit.name
    target = io.BytesIO()
    deck.save(target)
    with zipfile.ZipFile(target) as archive:
        parts = [(name, archive.read(name)) for name in archive.namelist()]
    return package((name, _part(name, data, published)) for name, data in parts)


def _part(name: str, data: bytes, published: Published) -> bytes:
    if name == _THEME:
        return _theme(data.decode(), published.kit).encode()
    if name == "docProps/core.xml":
        return _TIMES.sub(rf"\g<1>{published.day.isoformat()}T00:00:00Z\g<2>".encode(), data)
    return data


def _theme(xml: str, kit: Kit) -> str:
    """The theme with the kit's colors and fonts; whatever else it says stays."""
    slots = "".join(
        f'<a:{slot}><a:srgbClr val="{c.hex[1:].upper()}"/></a:{slot}>' for slot, c in theme_colors(kit).items()
    )
    name = quoteattr(kit.name)
    scheme = f"<a:clrScheme name={name}>{slots}</a:clrScheme>"
    xml = re.sub(r"<a:clrScheme .*?</a:clrScheme>", lambda _: scheme, xml, count=1, flags=re.DOTALL)
    for place, face in (("majorFont", kit.type.headline), ("minorFont", kit.type.text)):
        if face:
            start = xml.index("<a:latin", xml.index(f"<a:{place}>"))
            end = xml.index(">", start) + 1
            xml = f"{xml[:start]}<a:latin typeface={quoteattr(face)}/>{xml[end:]}"
    return re.sub(r'(<a:theme [^>]*name=)"[^"]*"', lambda found: found[1] + name, xml, count=1)
