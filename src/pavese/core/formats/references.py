"""What files mean by the names that they have for others: beside them, on the web, or among templates."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Collection, Iterable, Mapping, Sequence
from functools import cached_property
from itertools import takewhile

_ELSEWHERE = re.compile(r"[A-Za-z][A-Za-z0-9+.-]*:|//|#|\s*$")
_REMOTE = re.compile(r"(?:https?:)?//", re.IGNORECASE)
_ENCODED = re.compile(rb"%([0-9A-Fa-f]{2})")
#: The endings of what may say some of the colors of another file.
_TELLING = (".css", ".png", ".jpg", ".jpeg", ".gif", ".webp", ".avif", ".svg")
#: Before the name of a template that another is put together with, as its code says it, and of a style sheet that its
#: code puts into it.
TEMPLATE, SHEET = "template:", "sheet:"
#: The endings of files in languages of templates, and of what else is one.
TEMPLATES = (
    *(".hbs", ".handlebars", ".mustache", ".liquid", ".njk", ".twig", ".jinja", ".jinja2", ".j2"),
    *(".ejs", ".eta", ".erb", ".tpl", ".tmpl", ".gohtml", ".ftl", ".ftlh", ".vm"),
)
_TEMPLATES, _STYLE = (*TEMPLATES, ".html", ".htm", ".xhtml"), ".css"


def is_remote(reference: str) -> bool:
    """Whether a reference leads to the web."""
    return _REMOTE.match(reference) is not None


def is_elsewhere(reference: str) -> bool:
    """Whether a reference leads to no file beside another: to the web, into a part of it, or nowhere."""
    return _ELSEWHERE.match(reference) is not None


def named_template(name: str, kind: str = TEMPLATE) -> str:
    """The reference to a template, or a style sheet, by the name that code has for it; "" for none."""
    path = posixpath.normpath(name.strip().replace("\\", "/")) if name.strip() else ""
    while path.startswith("../"):
        path = path[3:]
    return f"{kind}{path.lstrip('/')}" if path.strip("./") else ""


def is_template(reference: str) -> bool:
    """Whether a reference names a template."""
    return reference.startswith(TEMPLATE)


def as_sheet(template: str) -> str:
    """The reference to a style sheet that code names in the same way: what it puts into a style is one."""
    return f"{SHEET}{template.removeprefix(TEMPLATE)}"


class Lying:
    """Files that lie together, by their paths; the first of some that are meant alike is taken."""

    def __init__(self, paths: Iterable[str]) -> None:
        self._paths = dict.fromkeys(paths)

    def meant(self, name: str, reference: str, taken: Collection[str] = ()) -> str | None:
        """The path of the one that a file of some name means by a reference; None where it is not there. What lies on
        the web, or not where it is said to, may be there by its name. Of templates those are meant rather that are not
        `taken` for others."""
        if reference.startswith((TEMPLATE, SHEET)):
            return self._template(name, reference, taken)
        path = None if is_remote(reference) else path_beside(name, reference)
        return path if path in self._paths else self._by_name.get(name_beside(reference))

    def _template(self, name: str, reference: str, taken: Collection[str]) -> str | None:
        """The template that is meant, or the sheet: of those of a name, endings aside, the one of that ending, in those
        folders, nearest to the file or to one that it is put together with."""
        kind, _, said = reference.partition(":")
        alike = self._by_stem.get(_stem(said), ())
        there = [one for one in alike if one != name and (f"{kind}:" == SHEET or not one.lower().endswith(_STYLE))]
        folders, around = said.split("/")[:-1], [one.split("/")[:-1] for one in (name, *taken)]

        def fits(path: str) -> tuple[bool, bool, int, int]:
            lies = path.split("/")[:-1]
            near = max(_alike(one, lies) for one in around)
            return path not in taken, path.endswith(said), _alike(reversed(folders), reversed(lies)), near

        return max(there, key=fits, default=None)

    @cached_property
    def _by_name(self) -> Mapping[str, str]:
        return {posixpath.basename(path): path for path in reversed(self._paths)}

    @cached_property
    def _by_stem(self) -> Mapping[str, Sequence[str]]:
        found: dict[str, list[str]] = {}
        for path in self._paths:
            if path.lower().endswith((*_TEMPLATES, _STYLE)):
                found.setdefault(_stem(path), []).append(path)
        return found


def _stem(path: str) -> str:
    """A name without its folders, its endings, and what marks a partial; its words as code joins them."""
    name = posixpath.basename(path).lower()
    while name.endswith((*_TEMPLATES, _STYLE)):
        name = posixpath.splitext(name)[0]
    return re.sub(r"[\W_]", "", name)


def _alike(one: Iterable[str], other: Iterable[str]) -> int:
    """How many of both are the same, from the first on."""
    return sum(1 for _ in takewhile(lambda both: both[0] == both[1], zip(one, other, strict=False)))


def name_beside(reference: str) -> str:
    """The name of the file that a reference means, wherever it lies; "" for none."""
    written = re.split(r"[?#]", reference, maxsplit=1)[0].strip()
    return posixpath.basename(percent_decoded(written).decode(errors="replace"))


def percent_decoded(written: str) -> bytes:
    """The bytes that a part of a reference stands for (RFC 3986, section 2.1)."""
    return _ENCODED.sub(lambda found: bytes([int(found[1], 16)]), written.encode())


def tells_colors(reference: str, path: str) -> bool:
    """Whether a file that lies beside another, at a path, is to be read with it: a style sheet, a picture that goes
    along with what shows it, or a template that it is put together with."""
    return is_template(reference) or name_beside(path).lower().endswith(_TELLING)


def path_beside(name: str, reference: str) -> str | None:
    """The path, among those of a drop, that a file means by a reference; None for what lies outside of the drop."""
    written = re.split(r"[?#]", reference, maxsplit=1)[0].strip()
    path = percent_decoded(written).decode(errors="replace").replace("\\", "/")
    if not path or path.startswith("/") or re.match(r"[A-Za-z][A-Za-z0-9+.-]*:", path):
        return None
    found = posixpath.normpath(posixpath.join(posixpath.dirname(name), path))
    return None if found.startswith("../") or found in ("..", ".") else found
