"""A kit as a template for slide decks in OpenDocument.

An office program makes it of a deck that has a slide of each layout (`deck_template.of_each_layout`), since it takes
over only masters that are used; here all slides but the first go, and what was only theirs with them, so that the same
deck gives the same bytes; and what the program adds of its own (filled shapes in red, green and blue) goes to the
nearest colors of the kit (OpenDocument 1.3, part 2, 3, packages; part 3, 3.6 and 16.9, slides and masters).
"""

from __future__ import annotations

from pavese.core.formats import read
from pavese.core.formats.archive import members, package_of
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.xml_source import read_xml
from pavese.core.kit.kit import Kit
from pavese.core.kit.ours import nearest

MEDIA_TYPE = "application/vnd.oasis.opendocument.presentation-template"
_NAME = "template.otp"
_CONTENT, _MANIFEST = "content.xml", "META-INF/manifest.xml"
#: What is of whoever made it, and not of the template.
_PERSONAL = ("Configurations2/", "Thumbnails/", "settings.xml")


def open_template(made: bytes, kit: Kit) -> bytes:
    """A template with one slide, of one with many."""
    return _in_kit_colors(_with_one_slide(made), kit)


def _in_kit_colors(template: bytes, kit: Kit) -> bytes:
    document = read(_NAME, template)
    paints = document.inventory().paints
    near = zip(paints, nearest([paint.rgb for paint in paints], kit), strict=True)
    return document.write({paint: found[1] for paint, found in near if found is not None})


def _with_one_slide(made: bytes) -> bytes:
    parts = {path: data for path, data in members(_NAME, made) if not path.startswith(_PERSONAL)}
    source = read_xml(_CONTENT, parts[_CONTENT])
    slides = [one for one in source.named("page") if one.parent is not None and one.parent.name == "presentation"]
    parts[_CONTENT] = splice(source.utf8, [Edit(*source.span(one), b"") for one in slides[1:]])
    shown = b"".join(data for path, data in parts.items() if path.endswith(".xml") and path != _MANIFEST)
    kept = {
        path: data
        for path, data in parts.items()
        if path != "mimetype" and (not path.startswith("Pictures/") or path.encode() in shown)
    }
    listed = read_xml(_MANIFEST, parts[_MANIFEST])
    gone = [
        Edit(*listed.span(one), b"")
        for one in listed.named("file-entry")
        if next(value for name, value in one.attributes.items() if name.endswith("full-path")) not in {"/", *kept}
    ]
    return package_of(MEDIA_TYPE, {**kept, _MANIFEST: splice(listed.utf8, gone)})
