"""Decks in OpenDocument made up: as small as they may be, with color said in every way that they can."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from hypothesis import strategies as st

from pavese.core.formats.archive import package_of
from tests.core.strategies import colors

_NAMES = (
    "office",
    "style",
    "text",
    "drawing",
    "presentation",
    "table",
    "xsl-fo-compatible",
    "svg-compatible",
    "animation",
)
_PREFIXES = {"drawing": "draw", "xsl-fo-compatible": "fo", "svg-compatible": "svg", "animation": "anim"}
_SPACES = " ".join(
    f'xmlns:{_PREFIXES.get(name, name)}="urn:oasis:names:tc:opendocument:xmlns:{name}:1.0"' for name in _NAMES
)
SPACES = (
    f'{_SPACES} xmlns:xlink="http://www.w3.org/1999/xlink" '
    'xmlns:smil="urn:oasis:names:tc:opendocument:xmlns:smil-compatible:1.0"'
)
TYPE = b"application/vnd.oasis.opendocument.presentation"


def style(name: str, family: str, properties: str) -> str:
    """A style."""
    return f'<style:style style:name="{name}" style:family="{family}">{properties}</style:style>'


def graphic(said: str) -> str:
    """How a shape is painted."""
    return f"<style:graphic-properties {said}/>"


def words(said: str) -> str:
    """How text is painted."""
    return f"<style:text-properties {said}/>"


def page_style(name: str, said: str) -> str:
    """How a page is painted, and whether it is shown."""
    return style(name, "drawing-page", f"<style:drawing-page-properties {said}/>")


def shape(
    of: str, text: str = "", ink: str = "", kind: str = "", box: tuple[int, int, int, int] = (1, 1, 12, 6)
) -> str:
    """A shape of a style with a text in it, in centimeters."""
    x, y, width, height = box
    named = f' presentation:class="{kind}"' if kind else ""
    inside = f'<text:p><text:span text:style-name="{ink}">{text}</text:span></text:p>' if text else ""
    at = f'svg:x="{x}cm" svg:y="{y}cm" svg:width="{width}cm" svg:height="{height}cm"'
    return f'<draw:frame draw:style-name="{of}"{named} {at}><draw:text-box>{inside}</draw:text-box></draw:frame>'


def open_deck(
    styles: Sequence[str],
    pages: Sequence[tuple[str, str]],
    *,
    more: Mapping[str, bytes] | None = None,
    kind: bytes = TYPE,
    common: str = "",
) -> bytes:
    """A deck: its styles, and (style, shapes) of each page; `common` stands among the styles of all decks."""
    slides = "".join(
        f'<draw:page draw:name="page{at}" draw:style-name="{of}" draw:master-page-name="M">{inside}</draw:page>'
        for at, (of, inside) in enumerate(pages, 1)
    )
    head = '<?xml version="1.0" encoding="UTF-8"?>\n'
    master = (
        '<style:page-layout style:name="PL">'
        '<style:page-layout-properties fo:page-width="28cm" fo:page-height="15.75cm"/>'
        "</style:page-layout>"
    )
    files = {
        "content.xml": f'{head}<office:document-content {SPACES} office:version="1.3"><office:automatic-styles>'
        f"{''.join(styles)}</office:automatic-styles><office:body><office:presentation>{slides}</office:presentation>"
        "</office:body></office:document-content>".encode(),
        "styles.xml": f'{head}<office:document-styles {SPACES} office:version="1.3"><office:styles>{common}'
        f"</office:styles><office:automatic-styles>{master}</office:automatic-styles><office:master-styles>"
        '<style:master-page style:name="M" style:page-layout-name="PL"/></office:master-styles>'
        "</office:document-styles>".encode(),
        "META-INF/manifest.xml": b"<manifest:manifest "
        b'xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" '
        b'manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:media-type="'
        + kind
        + b'"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/>'
        b'<manifest:file-entry manifest:full-path="styles.xml" manifest:media-type="text/xml"/>'
        + b"".join(
            f'<manifest:file-entry manifest:full-path="{path}" manifest:media-type=""/>'.encode()
            for path in more or ()
            if not path.startswith("META-INF/")
        )
        + b"</manifest:manifest>",
        **(more or {}),
    }
    return package_of(kind.decode(), files)


_codes = colors.map(lambda color: color.hex)
_styles = st.one_of(
    _codes.map(lambda code: graphic(f'draw:fill="solid" draw:fill-color="{code}"')),
    st.tuples(_codes, _codes).map(
        lambda both: graphic(f'svg:stroke-color="{both[0].upper()}" draw:shadow-color="{both[1]}" draw:opacity="40%"')
    ),
    _codes.map(lambda code: graphic(f"fo:border='0.03pt solid {code}'")),
    _codes.map(lambda code: words(f'fo:color="{code}" style:use-window-font-color="true"')),
    _codes.map(lambda code: words(f'fo:background-color="{code}" style:text-underline-color="{code}"')),
    _codes.map(
        lambda code: f'<style:table-cell-properties fo:background-color="{code}" fo:border-top="1pt solid {code}"/>'
    ),
    st.just(words('fo:color="transparent" style:font-name="#a1b2c3"')),
)
_gradients = st.tuples(_codes, _codes).map(
    lambda both: (
        f'<draw:gradient draw:name="G" draw:style="linear" draw:start-color="{both[0]}" draw:end-color="{both[1]}"/>'
    )
)


def open_decks() -> st.SearchStrategy[bytes]:
    """Whole decks; some styles are of one page alone, some of several."""

    def made(inside: list[str], count: int, ground: str, gradient: str) -> bytes:
        styles = [style(f"s{at}", "graphic", properties) for at, properties in enumerate(inside)]
        shown = 'presentation:visibility="hidden"' if count == 2 else ""
        styles.append(page_style("dp", f'draw:fill="solid" draw:fill-color="{ground}" {shown}'))
        pages = [
            ("dp", "".join(shape(f"s{at}", "#112233 &amp; more", f"s{at}") for at in range(page, len(inside), 2)))
            for page in range(count)
        ]
        return open_deck(styles, pages, common=gradient, more={"Thumbnails/thumbnail.png": b"not looked at"})

    return st.builds(made, st.lists(_styles, max_size=5), st.integers(1, 3), _codes, _gradients)
