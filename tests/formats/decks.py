"""Decks made up: packages as small as they may be, with color said in every way that a deck can."""

from __future__ import annotations

from xml.sax.saxutils import escape

from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb
from pavese.core.formats.archive import package
from pavese.core.kit.deck_theme import PLACES
from tests.core.strategies import colors

_MAIN = "http://schemas.openxmlformats.org/drawingml/2006/main"
_SLIDES = "http://schemas.openxmlformats.org/presentationml/2006/main"
_RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_PACKAGE = "http://schemas.openxmlformats.org/package/2006"
_SPACES = f'xmlns:a="{_MAIN}" xmlns:p="{_SLIDES}" xmlns:r="{_RELATIONS}"'
_TYPE = "application/vnd.openxmlformats-officedocument"
PLAIN_MAP = {"bg1": "lt1", "tx1": "dk1", "bg2": "lt2", "tx2": "dk2"} | {
    one: one for one in PLACES if one[:2] not in ("dk", "lt")
}
TURNED_MAP = PLAIN_MAP | {"bg1": "dk1", "tx1": "lt1"}


def said(color: Rgb) -> str:
    """A color typed in."""
    return f'<a:srgbClr val="{color.hex[1:].upper()}"/>'


def pointing(name: str, *transforms: tuple[str, int]) -> str:
    """A color that points to the theme."""
    inside = "".join(f'<a:{one} val="{value}"/>' for one, value in transforms)
    return f'<a:schemeClr val="{name}">{inside}</a:schemeClr>' if inside else f'<a:schemeClr val="{name}"/>'


def text(words: str, color: str = "", size: int = 1800) -> str:
    """A paragraph."""
    fill = f"<a:solidFill>{color}</a:solidFill>" if color else ""
    return f'<a:p><a:r><a:rPr lang="en" sz="{size}">{fill}</a:rPr><a:t>{escape(words)}</a:t></a:r></a:p>'


def shape(number: int, fill: str, inside: str, place: str = "", box: tuple[int, int, int, int] = (1, 1, 6, 3)) -> str:
    """A shape with a text in it, in inches; `fill` is markup such as a `solidFill`."""
    x, y, width, height = (914_400 * one for one in box)
    holder = f'<p:ph type="{place}"/>' if place else ""
    return (
        f'<p:sp><p:nvSpPr><p:cNvPr id="{number}" name="Shape {number}"/><p:cNvSpPr/>'
        f"<p:nvPr>{holder}</p:nvPr></p:nvSpPr>"
        f'<p:spPr><a:xfrm><a:off x="{x}" y="{y}"/><a:ext cx="{width}" cy="{height}"/></a:xfrm>'
        f'<a:prstGeom prst="rect"><a:avLst/></a:prstGeom>{fill}</p:spPr>'
        f"<p:txBody><a:bodyPr/><a:lstStyle/>{inside or '<a:p/>'}</p:txBody></p:sp>"
    )


def solid(color: str) -> str:
    """A fill."""
    return f"<a:solidFill>{color}</a:solidFill>"


def _tree(ground: str, shapes: str) -> str:
    back = f"<p:bg><p:bgPr>{solid(ground)}<a:effectLst/></p:bgPr></p:bg>" if ground else ""
    return (
        f'<p:cSld>{back}<p:spTree><p:nvGrpSpPr><p:cNvPr id="1" name=""/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr>'
        f"<p:grpSpPr/>{shapes}</p:spTree></p:cSld>"
    )


def _map(tag: str, names: dict[str, str]) -> str:
    return f"<{tag} " + " ".join(f'{name}="{place}"' for name, place in names.items()) + "/>"


def _theme(theme: dict[str, str], name: str = "Quay") -> str:
    slots = "".join(f"<a:{slot}>{color}</a:{slot}>" for slot, color in theme.items())
    fills = "".join(solid('<a:schemeClr val="phClr"><a:tint val="50000"/></a:schemeClr>') for _ in range(3))
    lines = "".join(f'<a:ln w="6350">{solid(pointing("phClr"))}</a:ln>' for _ in range(3))
    effects = "<a:effectStyle><a:effectLst/></a:effectStyle>" * 3
    face = '<a:latin typeface="Carlito"/><a:ea typeface=""/><a:cs typeface=""/>'
    return (
        f'<a:theme {_SPACES} name="{escape(name)}"><a:themeElements><a:clrScheme name="Quay">{slots}</a:clrScheme>'
        f'<a:fontScheme name="Quay"><a:majorFont>{face}</a:majorFont><a:minorFont>{face}</a:minorFont></a:fontScheme>'
        f'<a:fmtScheme name="Quay"><a:fillStyleLst>{fills}</a:fillStyleLst><a:lnStyleLst>{lines}</a:lnStyleLst>'
        f"<a:effectStyleLst>{effects}</a:effectStyleLst><a:bgFillStyleLst>{fills}</a:bgFillStyleLst></a:fmtScheme>"
        "</a:themeElements></a:theme>"
    )


def deck(
    theme: dict[str, str],
    slides: list[tuple[str, str]],
    *,
    names: dict[str, str] = PLAIN_MAP,
    override: dict[str, str] | None = None,
    hidden: frozenset[int] = frozenset(),
    more: tuple[tuple[str, bytes], ...] = (),
    pasted: dict[str, str] | None = None,
) -> bytes:
    """A deck: what its theme holds, and (ground, shapes) of each slide; `override` is the color map of all slides. The
    last slide may have been `pasted` from another deck, with a master and a theme of its own."""
    count, masters = len(slides), 2 if pasted else 1
    own = f"<p:clrMapOvr>{_map('a:overrideClrMapping', override)}</p:clrMapOvr>" if override else ""
    kinds = {
        "ppt/presentation.xml": "presentationml.presentation.main",
        **{
            path.format(at): kind
            for at in range(1, masters + 1)
            for path, kind in (
                ("ppt/theme/theme{}.xml", "theme"),
                ("ppt/slideMasters/slideMaster{}.xml", "presentationml.slideMaster"),
                ("ppt/slideLayouts/slideLayout{}.xml", "presentationml.slideLayout"),
            )
        },
        **{f"ppt/slides/slide{at}.xml": "presentationml.slide" for at in range(1, count + 1)},
    }
    types = "".join(f'<Override PartName="/{path}" ContentType="{_TYPE}.{kind}+xml"/>' for path, kind in kinds.items())
    style = solid(pointing("tx1"))
    styles = (
        f'<p:titleStyle><a:lvl1pPr><a:defRPr sz="4400">{style}</a:defRPr></a:lvl1pPr></p:titleStyle>'
        f'<p:bodyStyle><a:lvl1pPr><a:defRPr sz="1800">{style}</a:defRPr></a:lvl1pPr></p:bodyStyle><p:otherStyle/>'
    )
    ids = "".join(f'<p:sldId id="{256 + at}" r:id="rId{at + 2}"/>' for at in range(1, count + 1))
    files = {
        "[Content_Types].xml": f'<Types xmlns="{_PACKAGE}/content-types"><Default Extension="rels" '
        f'ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" '
        f'ContentType="application/xml"/>{types}</Types>',
        "_rels/.rels": _relations(("officeDocument", "ppt/presentation.xml")),
        "ppt/presentation.xml": f"<p:presentation {_SPACES}><p:sldMasterIdLst><p:sldMasterId "
        f'id="2147483648" r:id="rId1"/></p:sldMasterIdLst><p:sldIdLst>{ids}</p:sldIdLst>'
        '<p:sldSz cx="12192000" cy="6858000"/><p:notesSz cx="6858000" cy="9144000"/></p:presentation>',
        "ppt/_rels/presentation.xml.rels": _relations(
            ("slideMaster", "slideMasters/slideMaster1.xml"),
            ("theme", "theme/theme1.xml"),
            *(("slide", f"slides/slide{at}.xml") for at in range(1, count + 1)),
        ),
    }
    for at, (held, name) in enumerate(((theme, "Quay"), (pasted or {}, "Sales & more"))[:masters], 1):
        files[f"ppt/theme/theme{at}.xml"] = _theme(held, name)
        files[f"ppt/slideMasters/slideMaster{at}.xml"] = (
            f"<p:sldMaster {_SPACES}>{_tree(pointing('bg1'), '')}"
            f'{_map("p:clrMap", names)}<p:sldLayoutIdLst><p:sldLayoutId id="2147483649" r:id="rId1"/>'
            f"</p:sldLayoutIdLst><p:txStyles>{styles}</p:txStyles></p:sldMaster>"
        )
        files[f"ppt/slideMasters/_rels/slideMaster{at}.xml.rels"] = _relations(
            ("slideLayout", f"../slideLayouts/slideLayout{at}.xml"), ("theme", f"../theme/theme{at}.xml")
        )
        layout = f'<p:sldLayout {_SPACES} type="blank">{_tree("", "")}</p:sldLayout>'
        files[f"ppt/slideLayouts/slideLayout{at}.xml"] = layout
        files[f"ppt/slideLayouts/_rels/slideLayout{at}.xml.rels"] = _relations(
            ("slideMaster", f"../slideMasters/slideMaster{at}.xml")
        )
    for at, (ground, shapes) in enumerate(slides, 1):
        show = ' show="0"' if at in hidden else ""
        files[f"ppt/slides/slide{at}.xml"] = f"<p:sld {_SPACES}{show}>{_tree(ground, shapes)}{own}</p:sld>"
        layout = f"../slideLayouts/slideLayout{masters if at == count else 1}.xml"
        files[f"ppt/slides/_rels/slide{at}.xml.rels"] = _relations(("slideLayout", layout))
    head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'
    return package([*((path, (head + content).encode()) for path, content in files.items()), *more])


def _relations(*listed: tuple[str, str]) -> str:
    each = "".join(
        f'<Relationship Id="rId{at}" Type="{_RELATIONS}/{kind}" Target="{target}"/>'
        for at, (kind, target) in enumerate(listed, 1)
    )
    return f'<Relationships xmlns="{_PACKAGE}/relationships">{each}</Relationships>'


def theme_of(*given: Rgb) -> dict[str, str]:
    """A theme with these colors in its places, in their order, again from the first where there are too few."""
    return {slot: said(given[at % len(given)]) for at, slot in enumerate(PLACES)}


_share = st.integers(0, 120_000)
_transforms = st.lists(
    st.tuples(st.sampled_from(["lumMod", "lumOff", "tint", "shade", "satMod", "alpha", "hueOff", "comp"]), _share),
    max_size=3,
)
_names = st.sampled_from([*PLAIN_MAP, "dk1", "lt2"])
_literals = st.one_of(
    colors.map(said),
    st.tuples(colors, st.integers(1, 99_999)).map(
        lambda both: said(both[0]).replace("/>", f'><a:alpha val="{both[1]}"/></a:srgbClr>')
    ),
    st.sampled_from(
        [
            '<a:prstClr val="dkGreen"/>',
            '<a:sysClr val="windowText" lastClr="101010"/>',
            '<a:sysClr val="window"/>',
            '<a:scrgbClr r="50%" g="0" b="100000"/>',
            '<a:hslClr hue="7200000" sat="60%" lum="40000"/>',
        ]
    ),
)
_said = st.one_of(_literals, st.builds(lambda name, how: pointing(name, *how), _names, _transforms))
_gradients = st.lists(_said, min_size=2, max_size=3).map(
    lambda stops: (
        "<a:gradFill><a:gsLst>"
        + "".join(f'<a:gs pos="{at * 50_000}">{stop}</a:gs>' for at, stop in enumerate(stops))
        + '</a:gsLst><a:lin ang="0"/></a:gradFill>'
    )
)
_fills = st.one_of(_said.map(solid), _gradients, _said.map(lambda color: f"<a:ln>{solid(color)}</a:ln>"), st.just(""))
_shapes = st.lists(st.tuples(_fills, _said), max_size=3).map(
    lambda each: "".join(shape(at, fill, text("Gangway & more", ink)) for at, (fill, ink) in enumerate(each, 2))
)


def decks() -> st.SearchStrategy[bytes]:
    """Whole decks."""
    return st.builds(
        lambda given, slides, names, override, hidden: deck(
            theme_of(*given), slides, names=names, override=override, hidden=hidden
        ),
        st.lists(colors, min_size=1, max_size=12),
        st.lists(st.tuples(st.one_of(st.just(""), _said), _shapes), min_size=1, max_size=3),
        st.sampled_from([PLAIN_MAP, TURNED_MAP]),
        st.sampled_from([None, TURNED_MAP]),
        st.frozensets(st.integers(1, 3), max_size=1),
    )
