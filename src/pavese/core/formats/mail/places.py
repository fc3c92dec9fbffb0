"""Every place of a mail at which a color is written, and those where one is meant that nothing names."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import NamedTuple

from pavese.core.color.parse import try_color
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.css import Declaration, Value, read_declarations, read_value
from pavese.core.formats.mail.tags import Attribute, Tag
from pavese.core.formats.mail.tree import CANVAS, LEAST, WHOLE, Element, Tree, Weight, find_buttons, matched
from pavese.core.formats.notation import rewritten
from pavese.core.recolor.site import ELEMENT, Kind

#: Properties that hold color (CSS Backgrounds 3, Text Decoration 3, Fill and Stroke for drawings inside), and what
#: they paint.
_PROPERTIES: Mapping[str, Kind] = {
    "background": Kind.GROUND,
    "background-color": Kind.GROUND,
    "background-image": Kind.GROUND,
    "color": Kind.TEXT,
    "-webkit-text-fill-color": Kind.TEXT,
    "caret-color": Kind.TEXT,
    **{
        f"border{side}{of}": Kind.STROKE
        for side in ("", "-top", "-right", "-bottom", "-left", "-block", "-inline")
        for of in ("", "-color")
    },
    "outline": Kind.STROKE,
    "outline-color": Kind.STROKE,
    "column-rule": Kind.STROKE,
    "column-rule-color": Kind.STROKE,
    "text-decoration": Kind.TEXT,
    "text-decoration-color": Kind.TEXT,
    "box-shadow": Kind.SHADOW,
    "text-shadow": Kind.SHADOW,
    "fill": Kind.FILL,
    "stroke": Kind.STROKE,
    "stop-color": Kind.STOP,
    "mso-shading": Kind.GROUND,
    "mso-border-color": Kind.STROKE,
}
#: Attributes that hold color (HTML, 15.3 "non-replaced elements", and VML), and what they paint.
_ATTRIBUTES: Mapping[str, Kind] = {
    "bgcolor": Kind.GROUND,
    "fillcolor": Kind.GROUND,
    "color": Kind.TEXT,
    "text": Kind.TEXT,
    "link": Kind.LINK,
    "vlink": Kind.LINK,
    "alink": Kind.LINK,
    "bordercolor": Kind.STROKE,
    "strokecolor": Kind.STROKE,
    "fill": Kind.FILL,
    "stroke": Kind.STROKE,
    "stop-color": Kind.STOP,
}
#: Elements on which an attribute names a picture as their ground (HTML, 15.3.1 and 15.3.9).
_PICTURED = frozenset(("body", "table", "tr", "td", "th", "div"))
#: Attributes of these names mean color on these elements only.
_ONLY_ON: Mapping[str, frozenset[str]] = {
    "color": frozenset(("font", "basefont", "hr", "v:fill", "v:stroke", "v:shadow")),
    **dict.fromkeys(("text", "link", "vlink", "alink"), frozenset(("body",))),
    **dict.fromkeys(
        ("fill", "stroke", "stop-color"),
        frozenset(
            [
                "svg",
                "g",
                "path",
                "rect",
                "circle",
                "ellipse",
                "line",
                "polyline",
                "polygon",
                "text",
                "tspan",
                "use",
                "stop",
            ]
        ),
    ),
}
_DRAWN = {"v:fill": Kind.GROUND, "v:stroke": Kind.STROKE, "v:shadow": Kind.SHADOW, "hr": Kind.STROKE}
#: Grounds and inks of buttons, and the inks of links, are told from others.
_PRESSED = {Kind.GROUND: Kind.ACTION, Kind.TEXT: Kind.LABEL}
#: What browsers paint where nothing is said (HTML, 15.3.1 and 15.3.4; CSS Color 4, 6.2: Canvas, CanvasText).
RULE, CONTROL = Rgba(128, 128, 128), Rgba(239, 239, 239)
#: What is told of a color that nothing names.
NOTHING = "nothing: what programs show by themselves"
#: What an element bears that goes its own way under conditions.
_OWN = "data-own-colors"
#: What sites bear that show in the dark only.
DARK_PART = "/dark"
_DARK = re.compile(r"prefers-color-scheme\s*:\s*dark", re.IGNORECASE)
#: Attributes that programs set on what they turn dark, for rules to hook on.
_DARK_HOOKS = re.compile(r"\[data-ogs[bc]\]", re.IGNORECASE)
_HOOKED = re.compile(rf"{_DARK_HOOKS.pattern}\s*>?\s*", re.IGNORECASE)
_STATE = re.compile(r":(?:hover|focus|active|visited|target|checked|disabled)", re.IGNORECASE)
_PRESSED_INPUTS = frozenset(("submit", "button", "reset"))
INK, LINK = Rgba(0, 0, 0), Rgba(0, 0, 238)
#: What fills its width, so that a ground of it lies behind all that is in it.
_BOXES = frozenset(("table", "div", "center", "section", "main", "article", "p", "blockquote"))
#: What stands within others alone.
_WITHIN = frozenset(("tr", "td", "th", "tbody", "thead", "tfoot", "caption", "li", "dt", "dd", "option"))
#: Elements that hold no text that is seen, or are no part of what is.
_HEAD = frozenset(("html", "head", "title", "meta", "link", "style", "script", "base", "xml", "o:p"))


class MailPlace(NamedTuple):
    """A color written from `start` to `end`, as `written`; or meant by nothing (`implied`), to be written at `start` as
    that declaration or attribute."""

    paint: Rgba
    kind: Kind
    start: int
    end: int
    written: str
    selectors: tuple[str, ...] = ()
    implied: Implied | None = None
    #: The element that alone says it.
    of: Element | None = None
    #: What an element of a section takes over from elsewhere: the places that may say it, the likeliest first.
    over: tuple[MailPlace, ...] = ()
    #: What says it, in words.
    said: str = ""

    def named(self, within: tuple[str, ...]) -> tuple[str, ...]:
        """Its selectors, and those of what its mail stands in."""
        return (*self.selectors, *within)

    def apart(self, within: tuple[str, ...]) -> tuple[str, ...]:
        """The same, before them the selector of the element that alone says it."""
        return (self.element(within), *self.named(within)) if self.of is not None else self.named(within)

    def element(self, within: tuple[str, ...]) -> str:
        """The selector of that element, in a mail that stands in something."""
        return f"{''.join(within[:1])}{ELEMENT}{self.of.index if self.of is not None else ''}"

    def declared(self, target: Rgb) -> str:
        """The declaration of the target, as see-through as what stood there, where none was."""
        return self.implied.declared(target, self.paint.alpha) if self.implied is not None else ""

    def rewritten(self, target: Rgb) -> str:
        """The target in the notation of this place."""
        return rewritten(self.written, self.paint, target).decode()


class Implied(NamedTuple):
    """What can be written on an element so that it says a color itself: an attribute, a declaration of its style, or,
    `under` conditions such as that of the dark, of a rule for it alone. Without an element it is written on a body,
    which is put before the first tag."""

    element: Element | None
    attributes: tuple[str, ...] = ()
    property: str = ""
    important: bool = False
    under: tuple[str, ...] = ()

    def declared(self, color: Rgb, alpha: float) -> str:
        """The declaration that says a color, empty where an attribute does."""
        r, g, b = color
        said = color.hex if alpha >= 1 else f"rgba({r}, {g}, {b}, {alpha:g})"
        return f"{self.property}:{said}{' !important' * self.important}" if self.property else ""


class Rule(NamedTuple):
    """What a rule of a sheet says with one color: of which elements, as which property, where, and under which
    conditions."""

    of: Sequence[Element]
    property: str
    important: bool
    place: MailPlace
    under: tuple[str, ...] = ()
    #: What it counts on each of the elements.
    weights: Mapping[Element, Weight] = {}


class _Said(NamedTuple):
    """A value of a property or attribute: where it stands, and which elements it is said of."""

    name: str
    kind: Kind
    start: int
    end: int
    source: str
    of: Sequence[Element]
    selectors: tuple[str, ...]
    words: str
    bare: bool = False
    #: Whether it holds in every look, and under which conditions it does else.
    always: bool = True
    under: tuple[str, ...] = ()
    #: The element that says it, where no rule does.
    alone: Element | None = None
    important: bool = False
    weights: Mapping[Element, Weight] = {}


class Reader:
    """The places of a mail, whose text has blanks where code stood. Raises UnreadableCssError."""

    def __init__(self, text: str, tree: Tree, *, part: bool = False) -> None:
        """`part` says that it is put into another mail, unless it has the outermost elements of one."""
        self.unread: list[str] = []
        self.elements = elements = tree.elements
        self._loose = tree.loose
        #: Whether it is one.
        self.part = not any(one.name in WHOLE for one in elements) and (
            part or any(one.parent is None and one.name in _WITHIN for one in elements)
        )
        #: What rules say with one color that always hold, or go before all else under conditions; known once the
        #: places are.
        self.rules: list[Rule] = []
        self._text = text
        said = [*self._of_elements(), *self._of_sheets()]
        # What a custom property is said of, and paints: as the first that uses it.
        uses: dict[str, _Said] = {}
        for one in said:
            if not one.name.startswith("--"):
                for variable in self._value(one).variables:
                    uses.setdefault(variable, one)
        self._said = [
            one._replace(kind=used.kind, of=used.of, weights=used.weights) if (used := uses.get(one.name)) else one
            for one in said
        ]
        for element in elements:
            element.pictured = element.name in _PICTURED and bool(element.value("background").strip())
        counting: dict[int, tuple[bool, bool, Weight, int]] = {}
        for order, one in enumerate(self._said):
            pictured = one.name in ("background", "background-image") and "url(" in self._text[one.start : one.end]
            for element in one.of if one.always else ():
                element.pictured |= pictured
                if one.kind is Kind.GROUND and self._paints(one):
                    element.grounded = True
                    # Its own word goes before that of rules, the first it has; then what counts most.
                    own = one.alone is not None
                    counts = own, one.important, one.weights.get(element, LEAST), 0 if own else order
                    if (color := self._color(one)) is not None and counts > counting.get(element.index, ()):
                        element.ground, counting[element.index] = color, counts
                element.inked |= one.kind in (Kind.TEXT, Kind.LINK) and one.name in ("color", "text")
        find_buttons(elements)

    def places(self) -> Iterator[MailPlace]:
        """All of them, those that nothing names last. What a part does not name, that says which it is put into."""
        for one in self._said:
            yield from self._in(one)
        if not self.part:
            yield from self._implied()

    def _in(self, said: _Said) -> Iterator[MailPlace]:
        written = self._text[said.start : said.end]
        kind = self._capacity(said)
        if said.bare:
            # The whole of an old attribute is one color, perhaps without its sign.
            color = try_color(written.strip()) or try_color(f"#{written.strip()}")
            if color is not None:
                start = said.start + len(written) - len(written.lstrip())
                code = written.strip()
                span = start, start + len(code)
                yield MailPlace(color, kind, *span, code, said.selectors, of=said.alone, said=said.words)
                return
        value = read_value(written)
        self.unread += value.unread
        for literal in value.literals:
            span = said.start + literal.start, said.start + literal.end
            written = self._text[slice(*span)]
            place = MailPlace(literal.color, kind, *span, written, said.selectors, of=said.alone, said=said.words)
            counts = said.always or (said.important and said.under)
            if said.alone is None and counts and len(value.literals) == 1 and not _in_states(said.source):
                self.rules.append(Rule(said.of, said.name, said.important, place, said.under, said.weights))
            yield place

    def _value(self, said: _Said) -> Value:
        return read_value(self._text[said.start : said.end])

    def _capacity(self, said: _Said) -> Kind:
        """What a value paints: buttons and links are told from others by most of what it is said of."""
        if said.kind not in (Kind.GROUND, Kind.TEXT):
            return said.kind
        found = Counter(self._kind_on(said.kind, element) for element in said.of)
        if found:
            return found.most_common(1)[0][0]
        last = said.source.split(",")[0].split()[-1:] if said.source else []
        link = bool(last) and last[0].split(":")[0].split(".")[0].lower() == "a"
        return Kind.LINK if link and said.kind is Kind.TEXT else said.kind

    def _kind_on(self, kind: Kind, element: Element) -> Kind:
        if element.in_button:
            return _PRESSED[kind]
        return Kind.LINK if kind is Kind.TEXT and element.in_link else kind

    def _color(self, said: _Said) -> Rgba | None:
        """The one color that a ground is, None for a gradient and the like."""
        if said.bare:
            written = self._text[said.start : said.end].strip()
            return try_color(written) or try_color(f"#{written}")
        literals = self._value(said).literals
        return literals[0].color if len(literals) == 1 else None

    def _paints(self, said: _Said) -> bool:
        value = self._value(said)
        return bool(value.literals or value.variables) or said.bare

    def _of_elements(self) -> Iterator[_Said]:
        for element in self.elements:
            for name, attribute in element.tag.attributes.items():
                if attribute.start == attribute.end:
                    continue
                if name == "style":
                    yield from self._declared(attribute.start, attribute.end, element.tag, [element])
                elif name in _ATTRIBUTES and element.name in _ONLY_ON.get(name, (element.name,)):
                    yield self._attribute(element, name, attribute)

    def _attribute(self, element: Element, name: str, attribute: Attribute) -> _Said:
        kind = _DRAWN.get(element.name, _ATTRIBUTES[name]) if name == "color" else _ATTRIBUTES[name]
        # What a shape of VML is filled with, its child may say.
        of = element.parent if element.name.startswith("v:") and name == "color" and element.parent else element
        span = attribute.start, attribute.end
        old = ":" not in element.name
        words = f"{name} of {element.name}{_in_part(element.tag)}"
        return _Said(name, kind, *span, f"{element.name} {name}", [of], element.selectors, words, old, alone=element)

    def _of_sheets(self) -> Iterator[_Said]:
        for element in self.elements:
            tag = element.tag
            if tag.name == "style" and tag.content is not None:
                rules = list(self._declared(tag.end, tag.content, tag, []))
                meant = matched(self.elements, (_unhooked(one.source) for one in rules))
                for one in rules:
                    hook = _DARK_HOOKS.search(one.source)
                    always = one.always and hook is None and tag.condition is None
                    under = () if always or tag.condition is not None else one.under
                    if hook is not None and tag.condition is None:
                        under = (*under, hook[0])
                    weights = meant[_unhooked(one.source)]
                    yield one._replace(of=[*weights], weights=weights, always=always, under=under)

    def _declared(self, start: int, end: int, tag: Tag, of: Sequence[Element]) -> Iterator[_Said]:
        """What a style attribute says of an element, or a sheet of what it means."""
        text = self._text[start:end]
        for declaration in read_declarations(text):
            kind = _kind(declaration)
            if kind is None:
                continue
            source = f"{tag.name} style" if of else declaration.selector or ""
            where = f"style of {tag.name}" if of else f"the rule {' '.join(source.split())[:80]}"
            under = "".join(f", {rule}" for rule in declaration.at_rules)
            words = f"{declaration.name} in {where}{under}{_in_part(tag)}"
            selectors = of[0].selectors if of else ()
            span = start + declaration.start, start + declaration.end
            alone = of[0] if of else None
            if _is_dark(declaration):
                selectors = (*selectors, DARK_PART)
            yield _Said(
                declaration.name,
                kind,
                *span,
                source,
                of,
                selectors,
                words,
                always=declaration.always,
                under=declaration.at_rules,
                alone=alone,
                important=declaration.important,
            )

    def _drawn_by_browsers(self, shown: Sequence[Element]) -> Iterator[MailPlace]:
        """Rules and controls, which have greys of their own."""
        lined = {one.index for said in self._said if said.kind is Kind.STROKE and said.always for one in said.of}
        for one in shown:
            start = one.tag.insert
            if one.name == "hr" and one.index not in lined and not one.grounded:
                yield _meant(RULE, Kind.STROKE, Implied(one, property="border-color"), start)
            if one.name == "button" or (one.name == "input" and one.value("type").lower() in _PRESSED_INPUTS):
                if not one.grounded:
                    yield _meant(CONTROL, Kind.ACTION, Implied(one, property="background-color"), start)
                if not one.inked:
                    yield _meant(INK, Kind.LABEL, Implied(one, property="color"), start)

    def _implied(self) -> Iterator[MailPlace]:
        """The canvas, inks and links that nothing names, where inheritance begins."""
        bodies = [one for one in self.elements if one.name == "body" and one.tag.condition is None]
        shown = [one for one in self.elements if one.name not in _HEAD and one.tag.condition is None]
        first = [one for one in shown if one.parent is None or one.parent.name in _HEAD]
        if not first:
            return
        # A part of a mail says it on its outermost element; where there are several, or words beside it, on a body
        # before them.
        single = len(first) == 1 and first[0].name in _BOXES and not self._loose
        alone: Element | None = first[0] if single else None
        outer = bodies[0] if bodies else alone
        yield from self._drawn_by_browsers(shown)
        start = min(one.tag.start for one in first)
        if outer is None or not outer.grounded:
            if not any(one.name == "html" and one.grounded for one in self.elements):
                yield _meant(CANVAS, Kind.GROUND, Implied(outer, property="background-color"), start)
        loose = self._loose > 0 and not any(one.inked for one in self.elements if one.name in WHOLE)
        if loose or any(one.words and not one.in_link and not any(outer.inked for outer in one.line) for one in shown):
            yield _meant(INK, Kind.TEXT, Implied(outer, property="color"), start)
        blue = {link.index: link for one in shown if one.words and one.in_link and (link := bare_link(one))}
        if blue and (outer is None or (outer.name == "body" and "link" not in outer.tag.attributes)):
            yield _meant(LINK, Kind.LINK, Implied(outer, ("link", "vlink")), start)
        elif outer is not None and outer.name != "body":
            for link in blue.values():
                kind = Kind.LABEL if link.in_button else Kind.LINK
                yield _meant(LINK, kind, Implied(link, property="color"), start)


def bare_link(element: Element) -> Element | None:
    """The link that an element stands in, where nothing up to it has an ink."""
    for one in element.line:
        if one.inked:
            return None
        if one.name == "a":
            return one if "href" in one.tag.attributes else None
    return None


def _kind(declaration: Declaration) -> Kind | None:
    name = declaration.name
    if name.startswith("--"):
        return Kind.FILL
    return _PROPERTIES.get(name)


def _in_states(selectors: str) -> bool:
    """Whether they mean elements only while something is done with them."""
    return all(_STATE.search(one) for one in selectors.split(","))


def _in_part(tag: Tag) -> str:
    return f", in the part [if {tag.condition}]" if tag.condition is not None else ""


def _unhooked(selector: str) -> str:
    """A selector for elements of the mail as it came, where it hooks on what programs set; one that is a hook alone
    means none of them."""
    if _DARK_HOOKS.search(selector) is None:
        return selector
    return ",".join(_HOOKED.sub("", one).strip() or one for one in selector.split(","))


def _is_dark(declaration: Declaration) -> bool:
    return any(map(_DARK.search, declaration.at_rules)) or bool(_DARK_HOOKS.search(declaration.selector or ""))


def _meant(paint: Rgba, kind: Kind, implied: Implied, start: int) -> MailPlace:
    element = implied.element
    if element is None:
        return MailPlace(paint, kind, start, start, "", (), implied, said=NOTHING)
    at = element.tag.insert
    return MailPlace(paint, kind, at, at, "", element.selectors, implied, of=element, said=NOTHING)


def said_on(places: Sequence[tuple[MailPlace, Rgb]]) -> Iterator[tuple[int, str]]:
    """What is inserted where, so that one element says colors which nothing named."""
    implied = [(place.implied, color) for place, color in places if place.implied is not None]
    attributes = "".join(f' {name}="{color.hex}"' for one, color in implied for name in one.attributes)
    declared = ";".join(filter(None, (place.declared(color) for place, color in places)))
    place, element = places[0][0], implied[0][0].element
    style = element.tag.attributes.get("style") if element is not None else None
    if style is None or (style.start == style.end and not style.quoted):
        # Before a style that says nothing: of two with one name the first counts.
        attributes += f' style="{declared}"' if declared else ""
    elif declared:
        joined = "" if not style.written.strip() or style.written.rstrip().endswith(";") else ";"
        yield style.end, joined + declared
    if attributes:
        yield place.start, attributes if element is not None else f"<body{attributes}>"


def said_under(of: Iterable[Sequence[tuple[MailPlace, Rgb]]], at: int) -> Iterator[tuple[int, int, str]]:
    """What is inserted so that elements say colors under conditions: a sign on each, and a sheet at `at` with rules for
    them. The name that nothing bears makes that rule count for more than others."""
    rules: list[str] = []
    for number, on_one in enumerate(of, 1):
        for place, color in on_one:
            under = place.implied.under if place.implied is not None else ()
            own = f'[{_OWN}="{number}"]:not(#_)'
            for hook in (one for one in under if one.startswith("[")):
                # Programs set it on what they turn dark, or round that.
                own = f"{hook} {own},{hook}{own}"
            rule = f"{own}{{{place.declared(color)}}}"
            for condition in (one for one in reversed(under) if not one.startswith("[")):
                rule = f"@{condition}{{{rule}}}"
            rules.append(rule)
        start = on_one[0][0].start
        yield start, start, f' {_OWN}="{number}"'
    if rules:
        yield at, at, f"<style>{chr(10).join(rules)}</style>"
