"""Packages made for looking at decks: some of their slides, hidden ones too, their masters and layouts as if they were
slides, and no way out."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterator, Mapping, Sequence

from pavese.core.formats.deck.parts import TYPES, Package, Part, id_of, with_elements
from pavese.core.formats.deck.pictures import relations
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.repack import appended, repacked
from pavese.core.formats.slide_pictures import NOTHING_CHANGES, InPackage

_RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships"
_PACKAGE = "http://schemas.openxmlformats.org/package/2006/relationships"
_SLIDE = "application/vnd.openxmlformats-officedocument.presentationml.slide+xml"
_TARGET = re.compile(rb'\sTarget\s*=\s*(?:"[^"]*"|\'[^\']*\')')
#: What a master or a layout refers to and a slide does not.
_ABOVE = re.compile(rb'<[^>]*\sType\s*=\s*["\'][^"\']*/(?:slideMaster|slideLayout|theme)["\'][^>]*>')
#: Numbers of slides begin at 256 (19.7.13); those of other pages far behind.
_FIRST_ID = 900_000


def for_looking(
    package: Package, parts: Mapping[str, bytes], shown: Sequence[Part], pictures: InPackage = NOTHING_CHANGES
) -> bytes:
    """The package with nothing but some of its pages; `parts` are those that were changed, by their paths, in UTF-8;
    so are `pictures`, as they are packed."""
    lists = relations(package, pictures)
    presentation = package.presentation
    staged = [part for part in shown if part.sort != "slide"]
    changed = dict(parts)
    changed.update(_unhidden(package, shown, parts))
    added: dict[str, bytes] = {}
    for number, part in enumerate(staged):
        path = f"ppt/slides/looked-at-{number}.xml"
        added[path] = _as_slide(part, parts.get(part.path, part.source.utf8))
        added[f"ppt/slides/_rels/looked-at-{number}.xml.rels"] = _relations_of(package, part, lists)
    packed = {path: package.parts[path].source.pack(utf8) for path, utf8 in changed.items()}
    packed[presentation.path] = _with_pages(package, changed.get(presentation.path), shown, len(staged))
    packed.update({**pictures.replaced, **closed(package, lists)})
    if staged:
        packed[TYPES] = with_elements(packed.get(TYPES) or package.read(TYPES), "Override", _overrides(len(staged)))
        where = package.relations_path(presentation.path)
        assert where is not None
        packed[where] = with_elements(packed.get(where) or package.read(where), "Relationship", _pages(len(staged)))
    data = repacked(package.data, packed)
    return appended(data, {**added, **pictures.added})


def closed(package: Package, lists: Mapping[str, bytes]) -> dict[str, bytes]:
    """The lists of relations of a package, those that changed as they are, and leading nowhere where they led out."""
    found = dict(lists)
    for path in package.parts:
        where = package.relations_path(path)
        if where and any(one.outside for one in package.related(path)):
            found[where] = _without_outside(lists.get(where) or package.read(where))
    return found


def _without_outside(relations: bytes) -> bytes:
    def nowhere(found: re.Match[bytes]) -> bytes:
        return _TARGET.sub(b' Target=""', found[0]) if b"External" in found[0] else found[0]

    return re.sub(rb"<[^>]*>", nowhere, relations)


def _unhidden(package: Package, shown: Sequence[Part], parts: Mapping[str, bytes]) -> Iterator[tuple[str, bytes]]:
    for part in shown:
        root = part.source.root
        if part.sort == "slide" and root.attributes.get("show") is not None:
            utf8 = parts.get(part.path, part.source.utf8)
            # Colors stand behind the start of the root, so what stands in it stands where it stood.
            yield part.path, splice(utf8, [Edit(*part.source.attribute_span(root, "show"), b"1")])


def _with_pages(package: Package, utf8: bytes | None, shown: Sequence[Part], staged: int) -> bytes:
    """The presentation with the list of pages that are shown."""
    presentation = package.presentation
    source = presentation.source
    kept = {part.path for part in shown}
    targets = {one.id: one.target for one in package.related(presentation.path)}
    listed = [element for element in source.named("sldId") if targets.get(id_of(element)) in kept]
    name = source.utf8[source.root.start + 1 : source.tag_name_end(source.root)].decode()
    prefix = name.removesuffix("presentation")
    own = "".join(
        f'<{prefix}sldId xmlns:look="{_RELATIONS}" id="{_FIRST_ID + at}" look:id="looked-at-{at}"/>'
        for at in range(staged)
    )
    inside = b"".join(source.utf8[slice(*source.span(element))] for element in listed) + own.encode()
    whole = f"<{prefix}sldIdLst>".encode() + inside + f"</{prefix}sldIdLst>".encode()
    # Where colors changed in it, they stand behind the lists of pages.
    content = source.utf8 if utf8 is None else utf8
    before = [
        one
        for one in source.children(source.root)
        if one.name in ("sldMasterIdLst", "notesMasterIdLst", "handoutMasterIdLst")
    ]
    there = source.named("sldIdLst")
    if there:
        edit = Edit(*source.span(there[0]), whole)
    else:
        at = source.span(before[-1])[1] if before else source.root.content_end
        edit = Edit(at, at, whole)
    return source.pack(splice(content, [edit]))


def _as_slide(part: Part, utf8: bytes) -> bytes:
    """A master or a layout as a slide: its root is called otherwise."""
    start, end = part.source.root.start, part.source.tag_name_end(part.source.root)
    name = part.source.utf8[start + 1 : end].decode()
    slide = f"{name.rpartition(':')[0]}:sld".lstrip(":").encode()
    last = utf8.rindex(b"</")
    return b'<?xml version="1.0" encoding="UTF-8"?>' + b"<" + slide + utf8[end:last] + b"</" + slide + b">"


def _relations_of(package: Package, part: Part, lists: Mapping[str, bytes]) -> bytes:
    """What a master or a layout refers to, as a slide made with it would."""
    layout = part if part.sort == "layout" else _layout_of(package, part)
    where = package.relations_path(part.path)
    came = _ABOVE.sub(b"", _without_outside(lists.get(where) or package.read(where))) if where else b""
    if not came:
        came = f'<Relationships xmlns="{_PACKAGE}"></Relationships>'.encode()
    if layout is None:
        return came
    target = posixpath.relpath(layout.path, "ppt/slides")
    own = f'Id="looked-at" Type="{_RELATIONS}/slideLayout" Target="{target}"'
    return with_elements(came, "Relationship", [own])


def _layout_of(package: Package, master: Part) -> Part | None:
    found = (package.parts.get(one.target) for one in package.related(master.path) if one.sort == "slideLayout")
    return next((part for part in found if part is not None), None)


def _overrides(count: int) -> list[str]:
    return [f'PartName="/ppt/slides/looked-at-{at}.xml" ContentType="{_SLIDE}"' for at in range(count)]


def _pages(count: int) -> list[str]:
    kind = f"{_RELATIONS}/slide"
    return [f'Id="looked-at-{at}" Type="{kind}" Target="/ppt/slides/looked-at-{at}.xml"' for at in range(count)]
