"""Editions: immutable, numbered snapshots of a kit with the sources its colors come from, and their hash."""

from __future__ import annotations

import hashlib
import json
from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict

from pavese.core.kit.confusions import confusions
from pavese.core.kit.diagnosis import diagnosis, unapproved_body
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo_on_grounds import logo_on_grounds
from pavese.core.kit.remarks import remarks


class PictureRights(BaseModel):
    """A picture of a source, where it is from, who made it, and what may be done with it."""

    model_config = ConfigDict(frozen=True)

    name: str
    origin: str = ""
    author: str = ""
    rights: str = ""


class SourceRights(BaseModel):
    """A source the colors came from."""

    model_config = ConfigDict(frozen=True)

    name: str
    kind: str
    pictures: tuple[PictureRights, ...] = ()


class Snapshot(BaseModel):
    """What an edition holds."""

    model_config = ConfigDict(frozen=True)

    kit: Kit
    sources: tuple[SourceRights, ...] = ()

    @property
    def digest(self) -> str:
        """SHA-256 of the content in canonical JSON (keys sorted, no white space), 64 hexadecimal digits."""
        text = json.dumps(self.model_dump(mode="json"), sort_keys=True, separators=(",", ":"), ensure_ascii=False)
        return hashlib.sha256(text.encode()).hexdigest()


@dataclass(frozen=True)
class Unresolved:
    """Something to know before publishing; `blocks` says that nothing can be published like this."""

    text: str
    blocks: bool = False


def unresolved(snapshot: Snapshot) -> tuple[Unresolved, ...]:
    """What is unresolved in a snapshot, what blocks first."""
    kit = snapshot.kit
    found = []
    if not kit.colors:
        found.append(Unresolved("The kit has no colors.", True))
    if unapproved_body(kit):
        found.append(Unresolved("No pair is approved for body text; approve one that reaches the level.", True))
    checked = diagnosis(kit)
    found += [Unresolved(f"Open again: {remark.text}") for remark in checked.reopened]
    found += [Unresolved(remark.text) for remark in (*remarks(kit), *checked.findings)]
    for confusion in confusions(kit):
        first, second = kit.color(confusion.first).name, kit.color(confusion.second).name
        found.append(Unresolved(f"{first} and {second} are hard to tell apart, seen as {confusion.vision.value}."))
    weak = [on for on in logo_on_grounds(kit) if on.ratio < kit.rules.least_graphics]
    if weak:
        names = ", ".join(kit.color(on.ground).name for on in weak)
        found.append(Unresolved(f"The logo does not stand out on {names}."))
    for source in snapshot.sources:
        unstated = [picture.name for picture in source.pictures if not picture.rights.strip()]
        if unstated:
            said = unstated[0] if len(unstated) == 1 else f"{len(unstated)} pictures"
            found.append(Unresolved(f"No rights are stated for {said} of {source.name}."))
    return tuple(found)
