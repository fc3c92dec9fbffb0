"""A kit as a template for slide decks: its theme, and masters on a light, a dark and a colored ground, each with the
layouts that people use.

ISO/IEC 29500-1, 13.3 (the parts), 19.3.1 (masters and layouts), 20.1.6 (themes). Nothing in it is typed: masters,
layouts and whatever is put into them point to places of the theme. The three grounds are three color maps of one theme.
The logo stands on each ground as the kit says: large where a deck begins and ends, small on all other slides.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import chain
from xml.sax.saxutils import quoteattr

from pavese.core.color.contrast import LARGE, TEXT, contrast_ratio
from pavese.core.color.srgb import Rgb
from pavese.core.formats.archive import package
from pavese.core.handoff.published import Published, SheetWishes
from pavese.core.handoff.slide_shapes import GROUP, Box, Format, Holder, Mark, drawn, place_of, placed_logo, solid, tree
from pavese.core.kit.deck_theme import ACCENTS, PLACES
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import CORNERS, LogoPicture
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.recolor.proposed_theme import proposed_theme

_MAIN = "http://schemas.openxmlformats.org/drawingml/2006/main"
_SLIDES = "http://schemas.openxmlformats.org/presentationml/2006/main"
_RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_PACKAGE = "http://schemas.openxmlformats.org/package/2006"
_SPACES = f'xmlns:a="{_MAIN}" xmlns:r="{_RELATIONS}" xmlns:p="{_SLIDES}"'
_TYPE = "application/vnd.openxmlformats-officedocument"
_HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'
#: Where a kit names no typeface, one that is at hand everywhere.
_ANY_FACE = "Arial"
_TABLE_STYLES = "ppt/tableStyles.xml"
#: Numbers of masters and layouts begin there (19.7.12).
_FIRST_ID = 2_147_483_648
#: Numbers of slides begin there (19.7.13).
_FIRST_SLIDE = 256

WIDE, CLASSIC = Format(12_192_000, 6_858_000), Format(9_144_000, 6_858_000)

_HEADING = Holder("title", 0, Box(0.06, 0.07, 0.88, 0.14), "Title")
_MAIN_BOX = Box(0.06, 0.25, 0.88, 0.6)
#: The layouts: what they are called, their kind (19.7.15), and what stands in them.
_LAYOUTS: tuple[tuple[str, str, tuple[Holder, ...]], ...] = (
    (
        "Title",
        "title",
        (
            Holder("ctrTitle", 0, Box(0.08, 0.3, 0.84, 0.22), "Title", 48),
            Holder("subTitle", 1, Box(0.08, 0.55, 0.84, 0.14), "Subtitle", 24),
        ),
    ),
    (
        "Section",
        "secHead",
        (
            Holder("title", 0, Box(0.08, 0.36, 0.84, 0.2), "Section", 40),
            Holder("body", 1, Box(0.08, 0.58, 0.84, 0.16), "What it is about", 20),
        ),
    ),
    ("Text", "obj", (_HEADING, Holder("body", 1, _MAIN_BOX, "Text"))),
    (
        "Two columns",
        "twoObj",
        (
            _HEADING,
            Holder("body", 1, Box(0.06, 0.25, 0.42, 0.6), "Text"),
            Holder("body", 2, Box(0.52, 0.25, 0.42, 0.6), "Text"),
        ),
    ),
    (
        "Picture",
        "picTx",
        (
            _HEADING,
            Holder("pic", 1, Box(0.06, 0.25, 0.54, 0.6), "Picture"),
            Holder("body", 2, Box(0.64, 0.25, 0.3, 0.6), "Text"),
        ),
    ),
    ("Table", "tbl", (_HEADING, Holder("tbl", 1, _MAIN_BOX, "Table"))),
    ("Chart", "chart", (_HEADING, Holder("chart", 1, _MAIN_BOX, "Chart"))),
    (
        "Quote",
        "cust",
        (
            Holder("title", 0, Box(0.12, 0.24, 0.76, 0.36), "What was said", 32),
            Holder("body", 1, Box(0.12, 0.64, 0.76, 0.1), "Who said it", 20),
        ),
    ),
    (
        "Closing",
        "cust",
        (
            Holder("title", 0, Box(0.08, 0.34, 0.84, 0.2), "Thank you", 40),
            Holder("body", 1, Box(0.08, 0.56, 0.84, 0.2), "How to reach us", 20),
        ),
    ),
)
#: On which layouts the logo is large, and there is no small one of the master; within which boxes it stands.
_LARGE_LOGO = frozenset(("Title", "Closing"))
_LARGE_BOX, _SMALL_BOX = Box(0.08, 0.09, 0.36, 0.14), Box(0.8, 0.9, 0.14, 0.06)
_LINKS = {"hlink": "hlink", "folHlink": "folHlink"}
#: A short line below the title, in the first accent.
_LINE = Box(0.06, 0.215, 0.07, 0.008)
#: The number of the style of tables, which is of this template alone (20.1.4.2.26).
TABLE_STYLE = "{6B1E0F52-7C3D-4E8A-9A41-2F5D8E6B7A10}"
#: What masters hold beside title and text: date, foot, number.
_FOOT = (
    Holder("dt", 10, Box(0.06, 0.92, 0.2, 0.05), "", 12),
    Holder("ftr", 11, Box(0.3, 0.92, 0.4, 0.05), "", 12),
    Holder("sldNum", 12, Box(0.74, 0.92, 0.2, 0.05), "", 12),
)
#: The same beside a logo.
_FOOT_BESIDE = (*_FOOT[:2], Holder("sldNum", 12, Box(0.7, 0.92, 0.08, 0.05), "", 12))


def theme_colors(kit: Kit) -> dict[str, Rgb]:
    """The twelve places of a theme and the colors that stand in them."""
    if not kit.colors:
        return {slot: Rgb(255, 255, 255) if slot.startswith("lt") else Rgb(0, 0, 0) for slot in PLACES}
    return {slot: kit.resolve(token) for slot, token in proposed_theme(kit).items()}


def deck_template(published: Published, choice: SheetWishes) -> bytes:
    """The template in 16:9; the same edition gives the same bytes."""
    return template(published, WIDE)


def classic_template(published: Published, choice: SheetWishes) -> bytes:
    """The template in 4:3."""
    return template(published, CLASSIC)


def template(published: Published, size: Format) -> bytes:
    """A template whose slides are of that size."""
    return _package(published, size, slides=False)


def of_each_layout(published: Published, size: Format) -> bytes:
    """A deck of that size with an empty slide of each layout."""
    return _package(published, size, slides=True)


def _package(published: Published, size: Format, *, slides: bool) -> bytes:
    kit = published.kit
    marks = _marks(kit)
    pictures = {mark.picture: key for mark, one in marks.values() if (key := one.in_pixels) is not None}
    parts = _parts(kit, size, {title: mark for title, (mark, _) in marks.items()}, slides=slides)
    media = ((f"ppt/media/{name}", published.picture(key)) for name, key in sorted(pictures.items()))
    return package(chain(((path, (_HEAD + content).encode()) for path, content in parts), media))


def _marks(kit: Kit) -> dict[str, tuple[Mark, LogoPicture]]:
    """How the logo stands on the masters, by what these are called, with its picture; not where it does not stand out,
    nor where its backing is in none of the theme's colors, since nothing is typed."""
    colors, logo, found = theme_colors(kit), KitLogo.of(kit), dict[str, tuple[Mark, LogoPicture]]()
    backing = kit.logo.backing
    for title, names in grounds(colors).items():
        standing = logo.on(colors[names["bg1"]])
        if standing is None:
            continue
        named = {colors[place]: name for name, place in reversed(names.items())}
        behind = named.get(standing.backing) if standing.backing is not None else None
        if standing.backing is not None and (behind is None or backing is None):
            continue
        picture = standing.picture
        found[title] = (
            Mark(
                "logo-on-light.png" if picture == kit.logo.on_light else "logo-on-dark.png",
                picture.width / picture.height,
                behind,
                backing.padding / 100 if backing is not None and behind is not None else 0.0,
                CORNERS[backing.shape] if backing is not None else 0,
                f"Logo of {kit.name}",
            ),
            picture,
        )
    return found


def grounds(colors: Mapping[str, Rgb]) -> dict[str, dict[str, str]]:
    """The color maps of the masters, by what they are called: which place is background and text, first and second,
    and which accents come first: those that stand out from the ground (WCAG 2.2, 1.4.11)."""
    found = {
        "Light": {"bg1": "lt1", "tx1": "dk1", "bg2": "lt2", "tx2": "dk2"},
        "Dark": {"bg1": "dk1", "tx1": "lt1", "bg2": "dk2", "tx2": "lt2"},
    }
    for ground in ("accent1", "dk2", "accent2"):
        for ink, other in (("lt1", "lt2"), ("dk1", "dk2")):
            second = other if contrast_ratio(colors[ground], colors[other]) >= TEXT else ink
            if contrast_ratio(colors[ground], colors[ink]) >= TEXT:
                found.setdefault("Colored", {"bg1": ground, "tx1": ink, "bg2": ground, "tx2": second})
    return {title: {**names, **_accents_on(names, colors), **_LINKS} for title, names in found.items()}


def _accents_on(names: Mapping[str, str], colors: Mapping[str, Rgb]) -> dict[str, str]:
    ground = colors[names["bg1"]]
    offered = [one for one in (*ACCENTS, names["tx2"]) if colors[one] != ground]
    out = {one: contrast_ratio(colors[one], ground) for one in offered}
    ordered = sorted(offered, key=lambda one: (out[one] < LARGE, -out[one] if out[one] < LARGE else 0.0))
    return dict(zip(ACCENTS, [*ordered, *ordered], strict=False))


def _parts(kit: Kit, size: Format, marks: Mapping[str, Mark], *, slides: bool) -> Iterator[tuple[str, str]]:
    colors = theme_colors(kit)
    masters = grounds(colors)
    kind = "presentation" if slides else "template"
    paths = {"ppt/presentation.xml": f"presentationml.{kind}.main", _TABLE_STYLES: "presentationml.tableStyles"}
    of_layout = [holders for _ in masters for _, _, holders in _LAYOUTS] if slides else []
    for number in range(1, len(masters) + 1):
        paths[f"ppt/theme/theme{number}.xml"] = "theme"
        paths[f"ppt/slideMasters/slideMaster{number}.xml"] = "presentationml.slideMaster"
    for number in range(1, len(masters) * len(_LAYOUTS) + 1):
        paths[f"ppt/slideLayouts/slideLayout{number}.xml"] = "presentationml.slideLayout"
    paths.update((f"ppt/slides/slide{at}.xml", "presentationml.slide") for at in range(1, len(of_layout) + 1))
    yield "[Content_Types].xml", _types(paths)
    yield "_rels/.rels", _relations([("officeDocument", "ppt/presentation.xml")])
    yield "ppt/presentation.xml", _presentation(len(masters), len(of_layout), size)
    targets = [("slideMaster", f"slideMasters/slideMaster{at}.xml") for at in range(1, len(masters) + 1)]
    own = [("theme", "theme/theme1.xml"), ("tableStyles", "tableStyles.xml")]
    shown = [("slide", f"slides/slide{at}.xml") for at in range(1, len(of_layout) + 1)]
    yield "ppt/_rels/presentation.xml.rels", _relations([*targets, *own, *shown])
    for at, holders in enumerate(of_layout, 1):
        yield f"ppt/slides/slide{at}.xml", _empty_slide(holders)
        up = [("slideLayout", f"../slideLayouts/slideLayout{at}.xml")]
        yield f"ppt/slides/_rels/slide{at}.xml.rels", _relations(up)
    yield _TABLE_STYLES, _table_style(kit)
    for number, (title, names) in enumerate(masters.items(), 1):
        first = (number - 1) * len(_LAYOUTS) + 1
        layouts = [f"../slideLayouts/slideLayout{first + at}.xml" for at in range(len(_LAYOUTS))]
        yield f"ppt/theme/theme{number}.xml", _theme(kit, f"{kit.name}, {title.lower()}", colors)
        mark = marks.get(title)
        picture = [("image", f"../media/{mark.picture}")] if mark is not None else []
        yield f"ppt/slideMasters/slideMaster{number}.xml", _master(number, names, size, mark)
        yield (
            f"ppt/slideMasters/_rels/slideMaster{number}.xml.rels",
            _relations(
                [*(("slideLayout", path) for path in layouts), ("theme", f"../theme/theme{number}.xml"), *picture]
            ),
        )
        for at, layout in enumerate(_LAYOUTS, first):
            yield f"ppt/slideLayouts/slideLayout{at}.xml", _layout(title, layout, size, mark)
            up = [("slideMaster", f"../slideMasters/slideMaster{number}.xml")]
            own = picture if layout[0] in _LARGE_LOGO else []
            yield f"ppt/slideLayouts/_rels/slideLayout{at}.xml.rels", _relations([*up, *own])


def _types(paths: Mapping[str, str]) -> str:
    each = "".join(f'<Override PartName="/{path}" ContentType="{_TYPE}.{kind}+xml"/>' for path, kind in paths.items())
    defaults = (
        '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
        '<Default Extension="xml" ContentType="application/xml"/><Default Extension="png" ContentType="image/png"/>'
    )
    return f'<Types xmlns="{_PACKAGE}/content-types">{defaults}{each}</Types>'


def _relations(listed: Sequence[tuple[str, str]]) -> str:
    each = "".join(
        f'<Relationship Id="rId{at}" Type="{_RELATIONS}/{kind}" Target="{target}"/>'
        for at, (kind, target) in enumerate(listed, 1)
    )
    return f'<Relationships xmlns="{_PACKAGE}/relationships">{each}</Relationships>'


def _presentation(masters: int, slides: int, size: Format) -> str:
    step = len(_LAYOUTS) + 1
    ids = "".join(f'<p:sldMasterId id="{_FIRST_ID + at * step}" r:id="rId{at + 1}"/>' for at in range(masters))
    # Behind the masters are the theme and the styles of tables.
    each = "".join(f'<p:sldId id="{_FIRST_SLIDE + at}" r:id="rId{masters + 3 + at}"/>' for at in range(slides))
    shown = f"<p:sldIdLst>{each}</p:sldIdLst>" if slides else ""
    return (
        f"<p:presentation {_SPACES}><p:sldMasterIdLst>{ids}</p:sldMasterIdLst>{shown}"
        f'<p:sldSz cx="{size.width}" cy="{size.height}"/><p:notesSz cx="6858000" cy="9144000"/>'
        f"<p:defaultTextStyle>{_levels('+mn', [18] * 5)}</p:defaultTextStyle></p:presentation>"
    )


def _theme(kit: Kit, name: str, colors: Mapping[str, Rgb]) -> str:
    """The theme: its places; all other colors of the kit by name (20.1.4.1.7, custom colors)."""
    title = quoteattr(name)
    slots = "".join(f"<a:{slot}>{_code(color)}</a:{slot}>" for slot, color in colors.items())
    others = [color for color in kit.colors if color.base not in colors.values()]
    named = "".join(f"<a:custClr name={quoteattr(color.name)}>{_code(color.base)}</a:custClr>" for color in others)
    custom = f"<a:custClrLst>{named}</a:custClrLst>" if named else ""
    faces = "".join(
        f"<a:{place}><a:latin typeface={quoteattr(face or _ANY_FACE)}/>"
        f'<a:ea typeface=""/><a:cs typeface=""/></a:{place}>'
        for place, face in (("majorFont", kit.type.headline), ("minorFont", kit.type.text))
    )
    filled = "".join(solid("phClr") for _ in range(3))
    lines = "".join(f'<a:ln w="{width}">{solid("phClr")}</a:ln>' for width in (6_350, 12_700, 19_050))
    effects = "".join("<a:effectStyle><a:effectLst/></a:effectStyle>" for _ in range(3))
    return (
        f"<a:theme {_SPACES} name={title}><a:themeElements><a:clrScheme name={title}>{slots}</a:clrScheme>"
        f"<a:fontScheme name={title}>{faces}</a:fontScheme><a:fmtScheme name={title}>"
        f"<a:fillStyleLst>{filled}</a:fillStyleLst><a:lnStyleLst>{lines}</a:lnStyleLst>"
        f"<a:effectStyleLst>{effects}</a:effectStyleLst><a:bgFillStyleLst>{filled}</a:bgFillStyleLst></a:fmtScheme>"
        f"</a:themeElements><a:objectDefaults/><a:extraClrSchemeLst/>{custom}</a:theme>"
    )


def _code(color: Rgb) -> str:
    return f'<a:srgbClr val="{color.hex[1:].upper()}"/>'


def _table_style(kit: Kit) -> str:
    """Tables in the colors of whatever ground they stand on; the ones that programs know by themselves are made for
    light grounds."""

    def text(name: str, bold: str = "") -> str:
        return f'<a:tcTxStyle{bold}><a:fontRef idx="minor"/><a:schemeClr val="{name}"/></a:tcTxStyle>'

    line = f'<a:ln w="9525">{solid("tx1")}</a:ln>'
    borders = "".join(f"<a:{side}>{line}</a:{side}>" for side in ("bottom", "insideH"))
    head = text("bg1", ' b="on"')
    return (
        f'<a:tblStyleLst xmlns:a="{_MAIN}" def="{TABLE_STYLE}"><a:tblStyle styleId="{TABLE_STYLE}" '
        f"styleName={quoteattr(kit.name)}><a:wholeTbl>{text('tx1')}<a:tcStyle><a:tcBdr>{borders}</a:tcBdr>"
        "<a:fill><a:noFill/></a:fill></a:tcStyle></a:wholeTbl>"
        f"<a:firstRow>{head}<a:tcStyle><a:tcBdr/><a:fill>{solid('accent1')}</a:fill></a:tcStyle></a:firstRow>"
        "</a:tblStyle></a:tblStyleLst>"
    )


def _master(number: int, names: Mapping[str, str], size: Format, mark: Mark | None) -> str:
    first = _FIRST_ID + (number - 1) * (len(_LAYOUTS) + 1)
    ids = "".join(f'<p:sldLayoutId id="{first + at}" r:id="rId{at}"/>' for at in range(1, len(_LAYOUTS) + 1))
    says = " ".join(f'{name}="{place}"' for name, place in names.items())
    holders = (_HEADING, Holder("body", 1, _MAIN_BOX, "Text"), *_foot(mark))
    logo = placed_logo(mark, _SMALL_BOX, size, len(_LAYOUTS) + 2) if mark is not None else ""
    ground = f"<p:bg><p:bgPr>{solid('bg1')}<a:effectLst/></p:bgPr></p:bg>"
    styles = "".join(
        f"<p:{which}Style>{levels}</p:{which}Style>"
        for which, levels in (
            ("title", _levels("+mj", [36])),
            ("body", _levels("+mn", [24, 20, 18, 18, 18])),
            ("other", ""),
        )
    )
    return (
        f"<p:sldMaster {_SPACES}><p:cSld>{ground}{tree(holders, size, logo)}</p:cSld><p:clrMap {says}/>"
        f"<p:sldLayoutIdLst>{ids}</p:sldLayoutIdLst><p:txStyles>{styles}</p:txStyles></p:sldMaster>"
    )


def _levels(face: str, sizes: Sequence[int]) -> str:
    return "".join(
        f'<a:lvl{at}pPr marL="{(at - 1) * 285_750}" algn="l"><a:spcBef><a:spcPts val="600"/></a:spcBef><a:buNone/>'
        f'<a:defRPr sz="{size * 100}">{solid("tx1")}<a:latin typeface="{face}-lt"/><a:ea typeface="{face}-ea"/>'
        f'<a:cs typeface="{face}-cs"/></a:defRPr></a:lvl{at}pPr>'
        for at, size in enumerate(sizes, 1)
    )


def _foot(mark: Mark | None) -> tuple[Holder, ...]:
    return _FOOT if mark is None else _FOOT_BESIDE


def _layout(master: str, layout: tuple[str, str, tuple[Holder, ...]], size: Format, mark: Mark | None) -> str:
    name, kind, holders = layout
    said = "" if kind == "cust" else f' type="{kind}"'
    own = ""
    if mark is not None and name in _LARGE_LOGO:
        said, own = f'{said} showMasterSp="0"', placed_logo(mark, _LARGE_BOX, size, 2)
    elif _HEADING in holders:
        own = drawn("Line", _LINE, size, "accent1")
    inside = tree((*holders, *_foot(mark)), size, own)
    return (
        f'<p:sldLayout {_SPACES}{said} preserve="1"><p:cSld name={quoteattr(f"{name}, {master.lower()}")}>{inside}'
        "</p:cSld><p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:sldLayout>"
    )


def _empty_slide(holders: Sequence[Holder]) -> str:
    """A slide with nothing in its placeholders."""
    shapes = "".join(
        f'<p:sp><p:nvSpPr><p:cNvPr id="{number}" name="{holder.asks}"/><p:cNvSpPr><a:spLocks noGrp="1"/></p:cNvSpPr>'
        f"<p:nvPr>{place_of(holder)}</p:nvPr></p:nvSpPr><p:spPr/><p:txBody><a:bodyPr/><a:p/></p:txBody></p:sp>"
        for number, holder in enumerate(holders, 2)
    )
    return (
        f"<p:sld {_SPACES}><p:cSld><p:spTree>{GROUP}{shapes}</p:spTree></p:cSld>"
        "<p:clrMapOvr><a:masterClrMapping/></p:clrMapOvr></p:sld>"
    )
