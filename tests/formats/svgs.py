"""SVG files at random, in every notation of color, with their traps; and the fixtures that are nasty on purpose."""

from __future__ import annotations

from pathlib import Path

from hypothesis import strategies as st

FIXTURES = sorted((Path(__file__).parent / "fixtures").glob("*.before.svg"))

_byte = st.integers(0, 255)
_alpha = st.sampled_from(["0.5", ".25", "40%", "1"])


def _hex(r: int, g: int, b: int) -> str:
    return f"#{r:02x}{g:02x}{b:02x}"


colors = st.one_of(
    st.builds(_hex, _byte, _byte, _byte),
    st.builds(lambda r, g, b: _hex(r, g, b).upper(), _byte, _byte, _byte),
    st.builds(lambda r, g, b, a: f"{_hex(r, g, b)}{a:02x}", _byte, _byte, _byte, _byte),
    st.sampled_from(["#f00", "#0F08", "red", "RebeccaPurple", "Black", "white"]),
    st.builds(lambda r, g, b: f"rgb({r}, {g},{b})", _byte, _byte, _byte),
    st.builds(lambda r, g, b, a: f"rgba({r},{g},{b},{a})", _byte, _byte, _byte, _alpha),
    st.builds(lambda r, g, b, a: f"rgb({r} {g} {b} / {a})", _byte, _byte, _byte, _alpha),
    st.builds(lambda h, s: f"hsl({h}, {s}%, 40%)", st.integers(0, 359), st.integers(0, 100)),
    st.builds(lambda h: f"oklch(0.6 0.1 {h})", st.integers(0, 359)),
)
paints = st.one_of(
    colors,
    st.sampled_from(["none", "currentColor", "inherit", "transparent", "url(#g)", "context-fill"]),
    colors.map(lambda color: f"url(#g) {color}"),
    colors.map(lambda color: f"var(--known, {color})"),
    st.just("var(--known)"),
)
_geometry = st.sampled_from(
    ['path d="M2 2h9v9z"', 'rect x="1" y="1" width="9" height="9"', 'circle cx="5" cy="5" r="4"', 'text x="2" y="9"']
)
_quote = st.sampled_from(['"', "'"])
_space = st.sampled_from(["", " ", "\n  ", "\t"])


@st.composite
def _attributes(draw: st.DrawFn) -> str:
    written = []
    for name in draw(st.lists(st.sampled_from(["fill", "stroke", "color", "style", "class"]), unique=True)):
        quote = draw(_quote)
        if name == "class":
            value = draw(st.sampled_from(["a", "b", "a b", "none"]))
        elif name == "style":
            value = f"{draw(_space)}fill:{draw(_space)}{draw(paints)};stroke : {draw(paints)}{draw(_space)}"
        else:
            value = draw(paints).replace("#", draw(st.sampled_from(["#", "#", "&#35;", "&#x23;"])))
        written.append(f" {name}{draw(_space)}={quote}{value}{quote}")
    return "".join(written)


#: Numbers in the notations of SVG, some of them glued to the next; a few matrices compute instead of giving a color.
_matrices = st.builds(
    lambda r, g, b, alpha, gap: (
        gap.join(f"0{gap}0{gap}0{gap}0{gap}{c:g}" for c in (r, g, b)) + f"{gap}0{gap}0{gap}0 {alpha} 0"
    ),
    *[st.sampled_from([0.0, 0.1, 0.5, 0.75, 1.0])] * 3,
    st.sampled_from(["0.25", ".5", "1", "127"]),
    st.sampled_from([" ", ", ", "\n "]),
) | st.sampled_from(["1 0 0 0 0 0 1 0 0 0 0 0 1 0 0 0 0 0 1 0", "0 0 0 0-.1 0 0 0 0+.5 0 0 0 0 1 0 0 0.5.5", "", "0 1"])


_KINDS = ("shape", "shape", "group", "gradient", "trap", "animated", "mask", "use", "matrix")


@st.composite
def _elements(draw: st.DrawFn, depth: int = 2) -> str:
    parts = []
    for _ in range(draw(st.integers(0, 3))):
        kind = draw(
            st.sampled_from(["shape", "shape", "group", "gradient", "trap", "animated", "mask", "use", "matrix"])
        )
        if kind == "shape":
            shape = draw(_geometry)
            parts.append(
                f"<{shape}{draw(_attributes())}>{'Aa é' if shape.startswith('text') else ''}</{shape.split()[0]}>"
            )
        elif kind == "group" and depth:
            parts.append(f"<g{draw(_attributes())}>{draw(_elements(depth - 1))}</g>")
        elif kind == "gradient":
            stop = draw(st.sampled_from(["", " stop-color='{}'", ' style="stop-color:{}"'])).format(draw(colors))
            parts.append(f'<linearGradient><stop offset="0"{stop}/><stop offset="1"/></linearGradient>')
        elif kind == "trap":
            parts.append(draw(st.sampled_from(_TRAPS)))
        elif kind == "animated":
            values = ";".join(draw(st.lists(colors, min_size=2, max_size=3)))
            parts.append(
                '<rect width="4" height="4">'
                f'<animate attributeName="fill" values="{values}" dur="1s" fill="freeze"/></rect>'
            )
        elif kind == "mask":
            parts.append(f'<mask><path d="M1 1h4v4z"/><rect{draw(_attributes())} width="3" height="3"/></mask>')
        elif kind == "matrix":
            space = draw(st.sampled_from(["", ' color-interpolation-filters="sRGB"']))
            parts.append(f'<filter id="m"{space}><feColorMatrix values="{draw(_matrices)}"/></filter>')
        elif kind == "use":
            parts.append(f'<use href="#t"{draw(_attributes())}/>')
        parts.append(draw(_space))
    return "".join(parts)


#: Text that looks like paint and is none.
_TRAPS = (
    "<!-- fill='#ff0000' red -->",
    "<title>#ff0000 red</title>",
    '<g id="ff0000" data-fill="#ff0000"/>',
    '<path d="M0 0" fill="none" id="red"/>',
    "<desc>rgb(1,2,3)</desc>",
    '<m:paint xmlns:m="urn:other" fill="#ff0000" m:stroke="red"/>',
    "<metadata><![CDATA[ fill: #ff0000 ]]></metadata>",
)


@st.composite
def svgs(draw: st.DrawFn) -> bytes:
    """A well-formed SVG."""
    sheet = ""
    if draw(st.booleans()):
        rules = (
            f".a{{fill:{draw(paints)} !important;stroke:{draw(colors)}}} /* #123456 */ "
            f"g > rect, .b {{ fill : {draw(paints)} }} :root {{ --known: {draw(colors)}; --unknown: #fedcba }}"
            f"@media print {{ path {{ fill: {draw(colors)} }} }}"
        )
        sheet = draw(st.sampled_from(["<style>{}</style>", "<style><![CDATA[{}]]></style>"])).format(rules)
        if "CDATA" not in sheet:
            sheet = sheet.replace(" > ", " &gt; ")
    head = draw(st.sampled_from(["", '<?xml version="1.0" encoding="utf-8"?>\n', "<!DOCTYPE svg>\n"]))
    text = (
        f'{head}<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 12 12"{draw(_attributes())}>{sheet}'
        f'<defs><path id="t" d="M3 3h6v6z"/><linearGradient id="g"><stop stop-color="{draw(colors)}"/>'
        "</linearGradient></defs>"
        f"{draw(_elements())}</svg>\n"
    )
    return text.encode()
