"""A talk about the timetable of Tarnmoor Ferries, as a deck in OpenDocument and in its old browns."""

from __future__ import annotations

from xml.sax.saxutils import escape

from pavese.core.formats.archive import package_of

NAME = "timetable-talk.odp"
_NAMES = {
    "office": "office", "style": "style", "text": "text", "draw": "drawing", "presentation": "presentation",
    "fo": "xsl-fo-compatible", "svg": "svg-compatible",
}  # fmt: skip
_SPACES = " ".join(
    f'xmlns:{short}="urn:oasis:names:tc:opendocument:xmlns:{name}:1.0"' for short, name in _NAMES.items()
)
_TYPE = "application/vnd.oasis.opendocument.presentation"
_STYLES = """
<style:style style:name="paper" style:family="drawing-page"><style:drawing-page-properties draw:fill="solid" draw:fill-color="#f2e9da"/></style:style>
<style:style style:name="night" style:family="drawing-page"><style:drawing-page-properties draw:fill="solid" draw:fill-color="#3b2a14"/></style:style>
<style:style style:name="bare" style:family="graphic"><style:graphic-properties draw:fill="none" draw:stroke="none"/></style:style>
<style:style style:name="card" style:family="graphic"><style:graphic-properties draw:fill="solid" draw:fill-color="#8a4b08" draw:stroke="none" draw:textarea-vertical-align="middle"/></style:style>
<style:style style:name="pale" style:family="graphic"><style:graphic-properties draw:fill="solid" draw:fill-color="#f6d7a8" draw:stroke="solid" svg:stroke-color="#c96f12" draw:textarea-vertical-align="middle"/></style:style>
<style:style style:name="middle" style:family="paragraph"><style:paragraph-properties fo:text-align="center"/></style:style>
<style:style style:name="heading" style:family="text"><style:text-properties fo:color="#8a4b08" fo:font-size="36pt" fo:font-weight="bold" style:font-name="Carlito"/></style:style>
<style:style style:name="on-night" style:family="text"><style:text-properties fo:color="#f2e9da" fo:font-size="44pt" fo:font-weight="bold" style:font-name="Carlito"/></style:style>
<style:style style:name="words" style:family="text"><style:text-properties fo:color="#3b2a14" fo:font-size="24pt" style:font-name="Carlito"/></style:style>
<style:style style:name="on-card" style:family="text"><style:text-properties fo:color="#ffffff" fo:font-size="24pt" style:font-name="Carlito"/></style:style>
""".replace("\n", "")  # noqa: E501
_BOATS = (("06:40", "Skerry"), ("07:15", "Tarn Head"), ("08:05", "Low Isle"))


def talk_file() -> dict[str, bytes]:
    """Name to content."""
    pages = (
        _page("night", _words("The winter timetable", "on-night", (2, 5, 24, 3), title=True)),
        _page(
            "paper",
            _words("First boats", "heading", (2, 1.2, 24, 2), title=True),
            *(_box("card", words, "on-card", (2 + 8.2 * at, 4.5, 7.6, 3)) for at, (words, _) in enumerate(_BOATS)),
            *(_box("pale", words, "words", (2 + 8.2 * at, 7.5, 7.6, 2.2)) for at, (_, words) in enumerate(_BOATS)),
        ),
        _page(
            "paper",
            _words("What stays", "heading", (2, 1.2, 24, 2), title=True),
            _words("The school boat waits for the bus.", "words", (2, 4.5, 24, 2)),
            _words("The last boat leaves Brae at ten past seven.", "words", (2, 6.5, 24, 2)),
        ),
    )
    content = (
        f'<office:document-content {_SPACES} office:version="1.3"><office:automatic-styles>{_STYLES}'
        f"</office:automatic-styles><office:body><office:presentation>{''.join(pages)}</office:presentation>"
        "</office:body></office:document-content>"
    )
    styles = (
        f'<office:document-styles {_SPACES} office:version="1.3"><office:styles/><office:automatic-styles>'
        '<style:page-layout style:name="wide"><style:page-layout-properties fo:page-width="28cm" '
        'fo:page-height="15.75cm"/></style:page-layout></office:automatic-styles><office:master-styles>'
        '<style:master-page style:name="plain" style:page-layout-name="wide"/></office:master-styles>'
        "</office:document-styles>"
    )
    spaces = 'xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"'
    listed = (("/", _TYPE), ("content.xml", "text/xml"), ("styles.xml", "text/xml"))
    entries = "".join(
        f'<manifest:file-entry manifest:full-path="{path}" manifest:media-type="{kind}"/>' for path, kind in listed
    )
    head = '<?xml version="1.0" encoding="UTF-8"?>\n'
    return {
        NAME: package_of(
            _TYPE,
            {
                "content.xml": f"{head}{content}".encode(),
                "styles.xml": f"{head}{styles}".encode(),
                "META-INF/manifest.xml": f"{head}<manifest:manifest {spaces}>{entries}</manifest:manifest>".encode(),
            },
        )
    }


def _page(style: str, *shapes: str) -> str:
    return f'<draw:page draw:style-name="{style}" draw:master-page-name="plain">{"".join(shapes)}</draw:page>'


def _at(box: tuple[float, float, float, float]) -> str:
    return " ".join(f'svg:{side}="{value:g}cm"' for side, value in zip(("x", "y", "width", "height"), box, strict=True))


def _words(words: str, style: str, box: tuple[float, float, float, float], *, title: bool = False) -> str:
    named = ' presentation:class="title"' if title else ""
    inside = f'<text:p><text:span text:style-name="{style}">{escape(words)}</text:span></text:p>'
    return f'<draw:frame draw:style-name="bare"{named} {_at(box)}><draw:text-box>{inside}</draw:text-box></draw:frame>'


def _box(style: str, words: str, ink: str, box: tuple[float, float, float, float]) -> str:
    inside = f'<text:p text:style-name="middle"><text:span text:style-name="{ink}">{escape(words)}</text:span></text:p>'
    return f'<draw:rect draw:style-name="{style}" {_at(box)}>{inside}</draw:rect>'
