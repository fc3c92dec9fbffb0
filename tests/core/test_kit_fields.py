"""Every field of a kit is seen when it changes: by the record, by a comparison, in tokens; none can be left out."""

from __future__ import annotations

from typing import Annotated

import pytest
from hypothesis import given
from pydantic import BaseModel

from pavese.core.color.neutrals import Shade
from pavese.core.color.srgb import Rgb
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.compare import compare
from pavese.core.kit.decisions import Decision, Status, TrioDecision
from pavese.core.kit.deck_theme import ThemePlace
from pavese.core.kit.kit import Kit, KitColor, PinnedStep, Tint
from pavese.core.kit.logo import Logo
from pavese.core.kit.places import in_words, touched
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules
from pavese.core.kit.samples import Samples
from pavese.core.kit.see_through import SeeThrough
from pavese.core.kit.states import Distances
from pavese.core.kit.token_file import read_kit_tokens
from pavese.core.kit.told import Told, told
from pavese.core.kit.typefaces import Typefaces
from pavese.demo.load import demo_kit
from tests.core.strategies import proven_kits

KIT = demo_kit()
_TRIO = TrioDecision(
    ground="fog.base", title="hull.base", graphic="deep-water.base", status=Status.APPROVED, by="Maren"
)


def recolored(**fields: object) -> tuple[KitColor, ...]:
    return (KIT.colors[0].model_copy(update=fields), *KIT.colors[1:])


#: A change of each field of a kit, and of a color; a field that is added has to come in here.
OF_KIT: dict[str, Kit] = {
    "name": KIT.with_(name="Tarnmoor Harbors"),
    "colors": KIT.with_(colors=KIT.colors[::-1]),
    "steps": KIT.with_(steps=("deep-water.800",)),
    "decisions": KIT.with_(
        decisions=(Decision(text="hull.base", ground="fog.base", status=Status.APPROVED, by="Maren"),)
    ),
    "trios": KIT.with_(trios=(_TRIO,)),
    "rules": KIT.with_(rules=Rules(accent_share=5)),
    "see_through": KIT.with_(see_through=(SeeThrough(of="deep-water", base="black"),)),
    "states": KIT.with_(states=Distances(hover=3, pressed=4)),
    "logo": KIT.with_(logo=Logo(clear_space=80)),
    "type": KIT.with_(type=Typefaces(headline="Quay Antiqua")),
    "samples": KIT.with_(samples=Samples(action="Book")),
    "theme": KIT.with_(theme=(ThemePlace(slot="accent1", target="buoy.base"),)),
}
OF_COLOR: dict[str, Kit] = {
    "name": KIT.with_(colors=recolored(name="Deeper water")),
    "role": KIT.with_(colors=recolored(role=Role.ACCENT)),
    "base": KIT.with_(colors=recolored(base=Rgb(1, 90, 120))),
    "note": KIT.with_(colors=recolored(note="Only for the fleet.")),
    "pins": KIT.with_(colors=recolored(pins=(PinnedStep(step=100, color=Rgb(200, 240, 240)),))),
    "tint": KIT.with_(colors=recolored(tint=Tint(of="hull", shade=Shade.NEUTRAL, strength=0.4))),
}


def test_every_field_has_a_change_to_try() -> None:
    assert OF_KIT.keys() == Kit.model_fields.keys()
    assert OF_COLOR.keys() == KitColor.model_fields.keys() - {"key"}, "the key of a color never changes"
    assert all(said.name for said in (*told(Kit).values(), *told(KitColor).values()))


@pytest.mark.parametrize(
    "changed", [*OF_KIT.values(), *OF_COLOR.values()], ids=[*OF_KIT, *map("of a color: {}".format, OF_COLOR)]
)
def test_a_changed_field_is_seen_everywhere(changed: Kit) -> None:
    assert changed != KIT
    places = touched(KIT, changed)
    assert places
    assert all(in_words(place, changed).strip() for place in places)
    assert compare(KIT, changed)
    assert touched(KIT, KIT) == {}
    assert compare(KIT, KIT) == ()
    # What a tokens file carries comes back as it went; undo gives the very value that stood there.
    again = read_kit_tokens(kit_tokens(changed))
    assert touched(changed, again) == {}
    assert Kit.model_validate(changed.model_dump(mode="json")) == changed
    assert touched(changed, KIT) == {
        place: change._replace(before=change.after, after=change.before) for place, change in places.items()
    }


@pytest.mark.parametrize(("field", "words"), [
    ("type/headline", "Typefaces, headline"), ("logo/clear_space", "Logo, clear space"),
    ("steps", "Steps switched on"), ("colors/deep-water/pins", "Pinned steps of Deep water"),
    ("decisions/hull.base on fog.base", "Decision on Hull on Fog"),
])  # fmt: skip
def test_places_are_named_as_people_would(field: str, words: str) -> None:
    assert in_words(field, KIT) == words


@given(proven_kits(), proven_kits())
def test_a_record_tells_exactly_what_differs(one: Kit, other: Kit) -> None:
    assert (touched(one, other) == {}) == (one == other)
    assert touched(one, other).keys() == touched(other, one).keys()


def test_a_field_of_which_nothing_is_told_is_a_fault() -> None:
    class Sloppy(BaseModel):
        name: Annotated[str, Told("Name")]
        forgotten: int = 0

    with pytest.raises(TypeError, match=r"Sloppy\.forgotten"):
        told(Sloppy)
