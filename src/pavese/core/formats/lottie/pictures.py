"""The pictures that an animation shows: written into it as addresses, or lying beside it (Lottie 1.0, "Image")."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import cached_property
from typing import Any

import orjson

from pavese.core.formats.data_url import at_hand, called, content_of, data_url, is_inside, is_lost
from pavese.core.formats.document import NOT_FETCHED, Beside
from pavese.core.formats.inside import UNKNOWN, PicturesInside
from pavese.core.formats.json_source import Spot
from pavese.core.formats.lottie.places import dicts
from pavese.core.formats.picture_formats import FORMATS


class PlayedPictures:
    """Those of one animation; `within` are selectors of all its sites."""

    def __init__(self, tree: Any, beside: Beside, within: tuple[str, ...] = ()) -> None:
        self._beside, self._within = beside, within
        assets = tree.get("assets") if isinstance(tree, dict) else None
        named = ((reference_of(asset), asset) for asset in dicts(assets))
        self._named = tuple((said, asset) for said, asset in named if said)

    @property
    def refers(self) -> tuple[str, ...]:
        """Those that lie beside it: folder and name."""
        return tuple(dict.fromkeys(said for said, _ in self._named if not said.startswith("data:")))

    @cached_property
    def written_in(self) -> tuple[tuple[str, Spot], ...]:
        """Those that are written into it: what each is called, and where it stands."""
        return tuple((called(said), Spot(asset, "p")) for said, asset in self._named if is_inside(said))

    @cached_property
    def inside(self) -> PicturesInside:
        """All that are at hand."""
        said = {called(one): one for one, _ in self._named}
        shown = dict.fromkeys(said, self._within)
        return PicturesInside(shown, lambda reference: content_of(said[reference], self._beside), self._beside, FORMATS)

    @property
    def remarks(self) -> Iterator[str]:
        """What has to be said of those that keep their colors, and of those that did not come."""
        yield from self.inside.remarks
        if any(is_lost(said) for said, _ in self._named):
            yield UNKNOWN
        if any(reference not in self._beside for reference in self.refers):
            yield NOT_FETCHED

    def came(self) -> dict[str, bytes]:
        """Those that are at hand, by what they are called."""
        return at_hand((said for said, _ in self._named), self._beside)

    def shown(self, data: bytes, made: Mapping[str, bytes]) -> bytes:
        """The animation, which holds those that are written into it, with every other that is known inside of it, so
        that engines and players show them (`e` says so); `made` are those that become others."""
        beside = {reference: made.get(reference) or self._beside.get(reference) for reference in self.refers}
        if not any(beside.values()):
            return data
        tree: dict[str, Any] = orjson.loads(data.removeprefix(b"\xef\xbb\xbf"))
        for asset in tree.get("assets") or ():
            picture = beside.get(reference_of(asset))
            address = data_url(picture) if picture is not None else None
            if address is not None:
                asset |= {"u": "", "p": address, "e": 1}
        return orjson.dumps(tree)


def reference_of(asset: Any) -> str:
    """How an asset names a picture: the address that holds it, or folder and name; "" for an asset that is none."""
    path, folder = (asset.get(name) if isinstance(asset, dict) else None for name in ("p", "u"))
    if not isinstance(path, str) or "layers" in asset:
        return ""
    return path if path.startswith("data:") else f"{folder if isinstance(folder, str) else ''}{path}"
