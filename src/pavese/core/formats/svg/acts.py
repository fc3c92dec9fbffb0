"""What more than color a drawing can be given: one function an act, from the drawing before to the one behind."""

from __future__ import annotations

from collections.abc import Callable

from pavese.core.formats.edits import splice
from pavese.core.formats.svg.backing import backed
from pavese.core.formats.svg.properties import SVG
from pavese.core.formats.xml_source import read_xml
from pavese.core.recolor.act import Act
from pavese.core.recolor.acts import Namespace
from pavese.core.recolor.backing import FileBacking
from pavese.core.recolor.changes import Changes


def done(data: bytes, changes: Changes, *, shown: bool = False) -> bytes:
    """The drawing after the acts that drawings can be given, in the order of the table; with `shown`, those that
    pictures tell. Raises RefusedFileError when it cannot be read."""
    given = {act.key: act for act in changes.acts if act.shows or not shown}
    for key, do in DONE.items():
        if key in given:
            data = do(data, given[key], changes)
    return data


def _declared(data: bytes, _: Act, __: Changes) -> bytes:
    """The drawing whose root says what it is: without that, programs take the file for any other XML."""
    source = read_xml("drawing.svg", data)
    if source.root.namespace:
        return data
    return source.pack(splice(source.utf8, source.setting(source.root, {"xmlns": SVG})))


def _backed(data: bytes, act: Act, changes: Changes) -> bytes:
    assert isinstance(act, FileBacking)
    return backed(data, act, changes.resolved[act.color], changes.links)


#: By the key of the act.
DONE: dict[str, Callable[[bytes, Act, Changes], bytes]] = {Namespace.key: _declared, FileBacking.key: _backed}
