"""Pictures in a deck: what shows them, and how a part comes to show another.

ISO/IEC 29500-1, 20.1.8.13 (`blip`). Beside a picture may stand the same as a drawing (`svgBlip`), which newer programs
show in its place: it becomes what the picture becomes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence

from pavese.core.formats.deck.parts import TYPES, Package, with_elements
from pavese.core.formats.slide_pictures import InPackage, Use, in_package, media_type, opened
from pavese.core.formats.xml_source import Element
from pavese.core.pictures.wrapped import as_drawing

_HOLDERS = frozenset(("slide", "layout", "master"))


def uses_of(package: Package) -> tuple[Use, ...]:
    """Where pictures are shown that can be opened, part by part."""
    paths = set(package.paths)
    found = {
        Use(one.target, part.stem): package.size(one.target)
        for part in package.parts.values()
        for one in package.related(part.path)
        if part.sort in _HOLDERS and one.sort == "image" and not one.outside and one.target in paths
    }
    return opened(found)


def _no_drawing(_use: Use, _drawing: bytes) -> None:
    return None


def in_deck(
    package: Package,
    uses: Sequence[Use],
    changed: Mapping[Use, bytes],
    drawn: Callable[[Use, bytes], bytes | None] = _no_drawing,
) -> InPackage:
    """The pictures of a deck as they are written; `drawn` gives what the drawing beside one becomes, where that can be
    told."""
    if not changed:
        return in_package(uses, changed, ())
    twins = dict(_twins(package))
    with_twins = dict(changed)
    for use, content in changed.items():
        if use in twins:
            twin = twins[use]
            with_twins[twin] = drawn(use, package.read(twin.path)) or as_drawing(content)
    return in_package((*uses, *twins.values()), with_twins, package.paths)


def relations(package: Package, pictures: InPackage) -> dict[str, bytes]:
    """The lists of relations of parts that show other pictures from then on."""
    found = {}
    for part in package.parts.values():
        targets = {
            one.id: pictures.moved[use]
            for one in package.related(part.path)
            if not one.outside and (use := Use(one.target, part.stem)) in pictures.moved and part.sort in _HOLDERS
        }
        where = package.relations_path(part.path)
        if targets and where is not None:
            found[where] = package.retargeted(part.path, targets)
    return {**found, **_types(package, pictures)}


def _types(package: Package, pictures: InPackage) -> Mapping[str, bytes]:
    """What is said of the kinds of parts, where those of new pictures are not told by their endings."""
    untold = [path for path in pictures.added if path.rpartition(".")[2].lower() not in package.types.by_ending]
    said = [f'PartName="/{path}" ContentType="{media_type(path)}"' for path in untold]
    return {TYPES: with_elements(package.read(TYPES), "Override", said)} if said else {}


def _twins(package: Package) -> Iterator[tuple[Use, Use]]:
    """Pictures with the drawing that stands beside each."""
    for part in package.parts.values():
        if part.sort not in _HOLDERS:
            continue
        targets = {one.id: one.target for one in package.related(part.path)}
        for drawing in part.source.named("svgBlip"):
            blip = _above(drawing, "blip")
            if blip is not None:
                picture, twin = (targets.get(_embedded(one), "") for one in (blip, drawing))
                if picture and twin:
                    yield Use(picture, part.stem), Use(twin, part.stem)


def _above(element: Element, name: str) -> Element | None:
    at = element.parent
    while at is not None and at.name != name:
        at = at.parent
    return at


def _embedded(element: Element) -> str:
    """The relation by which a picture is shown (`r:embed`)."""
    return next((value for name, value in element.attributes.items() if name.endswith("relationships embed")), "")
