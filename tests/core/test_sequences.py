"""Long sequences of changes, as a day of work makes them: a kit and a source always hold together."""

from __future__ import annotations

import contextlib
import random
from datetime import UTC, datetime

import numpy as np
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from pavese.core.color.contrast import contrast_ratio
from pavese.core.color.neutrals import Shade, tinted
from pavese.core.color.ramp import STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.errors import InvalidKitError
from pavese.core.gather.candidates import candidates, from_source
from pavese.core.gather.intake import looked_at, pin_at
from pavese.core.gather.source import (
    MOST_PINS,
    InvalidSourceError,
    Looking,
    Source,
    SourceKind,
    SourcePicture,
    renumbered,
    with_order,
    with_picture,
    with_pictures,
    with_pin,
    without_picture,
    without_pin,
)
from pavese.core.handoff.tokens import kit_tokens
from pavese.core.kit.changes import (
    Arrival,
    changed,
    duplicated,
    reordered,
    with_base,
    with_colors,
    with_proposal,
    with_tinted,
    without,
)
from pavese.core.kit.changes import (
    with_pin as with_pinned_step,
)
from pavese.core.kit.deciding import Judgement, decided, decided_trios
from pavese.core.kit.decisions import Status
from pavese.core.kit.diagnosis import diagnosis
from pavese.core.kit.kit import Kit
from pavese.core.kit.pairings import pairs, subjects
from pavese.core.kit.proposals import propose
from pavese.core.kit.remarks import remarks
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules, Use
from pavese.core.kit.see_through import SeeThrough, Vividness
from pavese.core.kit.see_through_steps import equals
from pavese.core.kit.token import parse_token
from pavese.core.kit.token_file import read_kit_tokens
from pavese.core.pictures.sample import Reach
from tests.core.strategies import colors

places = st.integers(0, 9)
NOON = datetime(2026, 11, 25, 12, tzinfo=UTC)


class ADayWithAKit(RuleBasedStateMachine):
    """Everything Compose can do to a kit, in any order; what is refused leaves the kit as it was."""

    @initialize()
    def begin(self) -> None:
        self.kit = Kit(name="A day")

    def key(self, place: int) -> str:
        return self.kit.colors[place % len(self.kit.colors)].key

    def attempt(self, change: object) -> None:
        before = self.kit
        with contextlib.suppress(InvalidKitError):
            assert callable(change)
            self.kit = change()
            return
        assert self.kit == before

    @rule(color=colors, role=st.sampled_from(Role), name=st.sampled_from(["Sea", "Sea 2", "Buoy", "600"]))
    def add(self, color: Rgb, role: Role, name: str) -> None:
        if len(self.kit.colors) < 12:
            self.attempt(lambda: with_colors(self.kit, [Arrival(name, role, color)]))

    @rule(place=places, color=colors)
    def rebase(self, place: int, color: Rgb) -> None:
        if self.kit.colors:
            self.attempt(lambda: changed(self.kit, self.key(place), lambda one: with_base(one, color)))

    @rule(place=places, step=st.sampled_from([*STEPS, 42]), color=st.none() | colors)
    def pin(self, place: int, step: int, color: Rgb | None) -> None:
        if self.kit.colors:
            self.attempt(lambda: changed(self.kit, self.key(place), lambda one: with_pinned_step(one, step, color)))

    @rule(place=places, shade=st.sampled_from(Shade), strength=st.floats(0, 1))
    def tint(self, place: int, shade: Shade, strength: float) -> None:
        if 0 < len(self.kit.colors) < 12:
            self.attempt(lambda: with_tinted(self.kit, self.key(place), [shade], strength))

    @rule(place=places)
    def remove(self, place: int) -> None:
        if self.kit.colors:
            self.attempt(lambda: without(self.kit, self.key(place)))

    @rule(place=places)
    def duplicate(self, place: int) -> None:
        if 0 < len(self.kit.colors) < 12:
            self.attempt(lambda: duplicated(self.kit, self.key(place)))

    @rule(seed=st.integers(0, 99))
    def reorder(self, seed: int) -> None:
        keys = [color.key for color in self.kit.colors]
        random.Random(seed).shuffle(keys)
        self.attempt(lambda: reordered(self.kit, keys))

    @rule(text=places, ground=places, status=st.sampled_from(Status), use=st.none() | st.sampled_from(Use))
    def decide(self, text: int, ground: int, status: Status, use: Use | None) -> None:
        if self.kit.colors:
            pair = (f"{self.key(text)}.base", f"{self.key(ground)}.base")
            self.attempt(lambda: decided(self.kit, [pair], Judgement(status, use, "Maren", NOON)))

    @rule(ground=places, title=places, graphic=places, status=st.sampled_from(Status))
    def decide_a_trio(self, ground: int, title: int, graphic: int, status: Status) -> None:
        if self.kit.colors:
            three = (f"{self.key(ground)}.base", f"{self.key(title)}.base", f"{self.key(graphic)}.base")
            self.attempt(lambda: decided_trios(self.kit, [three], Judgement(status, None, "Maren", NOON)))

    @rule(place=places, step=st.sampled_from(STEPS))
    def switch_a_step(self, place: int, step: int) -> None:
        if self.kit.colors:
            self.attempt(lambda: self.kit.with_(steps=(*self.kit.steps, f"{self.key(place)}.{step}")))

    @rule(place=places, base=places, strength=st.integers(0, 100))
    def see_through(self, place: int, base: int, strength: int) -> None:
        if self.kit.colors and len(self.kit.see_through) < 5:
            setting = SeeThrough(
                of=self.key(place), base=f"{self.key(base)}.base", vividness=Vividness(strength=strength)
            )
            self.attempt(lambda: self.kit.with_(see_through=(*self.kit.see_through, setting)))

    @rule(least=st.floats(4.5, 21))
    def be_stricter(self, least: float) -> None:
        self.attempt(lambda: self.kit.with_(rules=Rules(least_body=least)))

    @rule(seed=st.integers(0, 99), role=st.sampled_from([Role.NEUTRAL, Role.ACCENT, Role.ACTION]))
    def take_a_proposal(self, seed: int, role: Role) -> None:
        kept = [color.key for color in self.kit.colors][: 1 + seed % 6]
        self.attempt(lambda: with_proposal(self.kit, kept, propose(self.kit, kept, [role], str(seed)).new))

    @invariant()
    def it_holds_together(self) -> None:
        keys = [color.key for color in self.kit.colors]
        assert len(set(keys)) == len(keys)
        for color in self.kit.colors:
            assert color.ramp.at(color.ramp.base_step) == color.base
            if color.tint is not None and color.tint.of in keys:
                source = self.kit.color(color.tint.of)
                assert color.base == tinted(source.base, color.tint.shade, color.tint.strength)

    @invariant()
    def it_leaves_and_comes_back(self) -> None:
        assert read_kit_tokens(kit_tokens(self.kit)) == self.kit
        assert Kit.model_validate(self.kit.model_dump(mode="json")) == self.kit

    @invariant()
    def it_can_be_proved(self) -> None:
        count = len(subjects(self.kit))
        assert pairs(self.kit).total == len(pairs(self.kit).best_first()) == count * (count - 1)
        known = {color.key for color in self.kit.colors}
        assert all(set(remark.colors) <= known for remark in remarks(self.kit))
        approved = {one.pair for one in self.kit.decisions if one.status is Status.APPROVED}
        for one in self.kit.decisions:
            ratio = contrast_ratio(*(self.kit.resolve(parse_token(token)) for token in one.pair))
            assert one.pair not in approved or ratio >= self.kit.rules.least(one.use)
        for trio in self.kit.trios:
            if trio.status is Status.APPROVED:
                assert {(trio.title, trio.ground), (trio.graphic, trio.ground)} <= approved
        for setting in self.kit.see_through:
            assert len(equals(self.kit, setting)) == len(STEPS)
        assert {finding for one in diagnosis(self.kit).findings for finding in one.colors} <= known


class ADayWithABoard(RuleBasedStateMachine):
    """Everything Gather can do to a board; pins stay on pictures that are there, inside of them."""

    @initialize(count=st.integers(1, 4))
    def begin(self, count: int) -> None:
        self.made = 0
        self.source = Source(kind=SourceKind.PICTURE, name="Day", pictures=(self.picture(),))
        for _ in range(count - 1):
            self.source = with_pictures(self.source, [self.picture()])

    def picture(self) -> SourcePicture:
        self.made += 1
        shape = (40 + 17 * (self.made % 5), 30 + 11 * (self.made % 3))
        return SourcePicture(
            id=f"p{self.made}", name=f"{self.made}.png", digest="d", original="d", width=shape[0], height=shape[1]
        )

    def pixels(self) -> np.ndarray:
        places, height = self.source.places()
        width = 1600 if self.source.kind is SourceKind.BOARD else places[0].width
        grid = np.zeros((height, width, 4), dtype=np.uint8)
        for n, place in enumerate(places):
            hue = (40 + 53 * n) % 256, (200 - 31 * n) % 256, (90 + 97 * n) % 256, 255
            grid[place.y : place.y + place.height, place.x : place.x + place.width] = hue
        return grid

    def attempt(self, change: object) -> None:
        with contextlib.suppress(InvalidSourceError):
            assert callable(change)
            self.source = change()

    @rule()
    def add_picture(self) -> None:
        if len(self.source.pictures) < 8:
            self.source = with_pictures(self.source, [self.picture()])

    @rule(x=st.integers(0, 1599), y=st.integers(0, 700), reach=st.sampled_from(Reach))
    def set_pin(self, x: int, y: int, reach: Reach) -> None:
        self.attempt(lambda: with_pin(self.source, pin_at(self.source, self.pixels(), x, y, reach)))

    @rule(number=st.integers(0, 12), to=st.integers(0, 12))
    def renumber(self, number: int, to: int) -> None:
        self.attempt(lambda: renumbered(self.source, number, to))

    @rule(number=st.integers(0, 12))
    def remove_pin(self, number: int) -> None:
        self.attempt(lambda: without_pin(self.source, number))

    @rule(place=places)
    def remove_picture(self, place: int) -> None:
        one = self.source.pictures[place % len(self.source.pictures)]
        self.attempt(lambda: without_picture(self.source, one.id))

    @rule(seed=st.integers(0, 99))
    def reorder(self, seed: int) -> None:
        ids = [picture.id for picture in self.source.pictures]
        random.Random(seed).shuffle(ids)
        self.source = with_order(self.source, ids)

    @rule(place=places, scale=st.floats(0.4, 3))
    def resize(self, place: int, scale: float) -> None:
        one = self.source.pictures[place % len(self.source.pictures)]
        self.source = with_picture(self.source, one.model_copy(update={"scale": scale, "rights": "ours"}))

    @rule(count=st.integers(3, 12))
    def look(self, count: int) -> None:
        by_hand = [pin for pin in self.source.pins if pin.share is None]
        self.source = looked_at(self.source, self.pixels(), Looking(count=count))
        assert [pin for pin in self.source.pins if pin.share is None] == by_hand

    @invariant()
    def pins_stand_on_their_pictures(self) -> None:
        ids = {picture.id for picture in self.source.pictures}
        assert len(self.source.pins) <= MOST_PINS + 12
        for pin in self.source.pins:
            assert pin.picture in ids
            assert self.source.at(*self.source.spot(pin))[0] == pin.picture

    @invariant()
    def it_is_kept_as_it_is(self) -> None:
        assert Source.model_validate(self.source.model_dump(mode="json")) == self.source

    @invariant()
    def candidates_are_its_colors_once(self) -> None:
        listed = [one.spotted.color for one in candidates(from_source(self.source), None)]
        assert len(set(listed)) == len(listed)
        assert set(listed) == {pin.color for pin in self.source.pins}


TestADayWithAKit = ADayWithAKit.TestCase
TestADayWithAKit.settings = settings(max_examples=25, stateful_step_count=25, deadline=None)
TestADayWithABoard = ADayWithABoard.TestCase
TestADayWithABoard.settings = settings(max_examples=25, stateful_step_count=25, deadline=None)
