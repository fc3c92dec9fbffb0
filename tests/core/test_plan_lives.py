"""A plan in all its ways: whatever is done to it in whatever order, its promises hold."""

from __future__ import annotations

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.errors import InvalidPlanError
from pavese.core.handoff.plan_file import plan_file, read_plan_file
from pavese.core.kit.kit import Kit, members
from pavese.core.recolor.assign import assign
from pavese.core.recolor.backing import BackingShape, FileBacking
from pavese.core.recolor.inventory import Inventory, SetPaints, summarize
from pavese.core.recolor.natural import natural_tone
from pavese.core.recolor.plan import MOST_GUESTS, Choice, Plan
from pavese.core.recolor.recipe import AllowedColors, Mode, Policy, Recipe
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import KEEP, resolve_target
from pavese.demo.load import demo_kit
from tests.core.strategies import colors

KIT = demo_kit()
_FILES = ("a.svg", "deck/b.svg")
_PARTS = ("stroke", "fill", "#sail", ".hull")
_paints = st.builds(lambda color, alpha: Rgba(*color, alpha), colors, st.sampled_from([1.0, 1.0, 0.4]))
_tokens = st.sampled_from([str(token) for token, _ in KIT.tokens()])
_targets = _tokens | st.just(KEEP) | colors.map(lambda color: color.hex)
_recipes = st.builds(
    Recipe,
    mode=st.sampled_from(Mode),
    policy=st.sampled_from(Policy),
    allowed=st.sampled_from(AllowedColors),
    natural=st.booleans(),
    action=st.booleans(),
    strength=st.sampled_from([0.0, 0.5, 1.0, 1.0]),
)


class PlanLife(RuleBasedStateMachine):
    """A set of two files whose plan is changed, and completed after each change as the application does."""

    plan: Plan
    files: dict[str, tuple[Rgba, ...]]

    @initialize(first=st.lists(_paints, min_size=1, max_size=5, unique=True), second=st.lists(_paints, max_size=4))
    def begin(self, first: list[Rgba], second: list[Rgba]) -> None:
        self.files = dict(zip(_FILES, (tuple(first), tuple(dict.fromkeys([*second, first[0]]))), strict=True))
        self.plan = assign(self.paints, self.kit_with_guests, Plan())

    @property
    def paints(self) -> SetPaints:
        return summarize(
            Inventory({paint: {Kind.FILL: 1, Kind.STROKE: 1} for paint in own}) for own in self.files.values()
        )

    @property
    def kit_with_guests(self) -> Kit:
        return self.plan.kit_with_guests(KIT) if hasattr(self, "plan") else KIT

    def follow(self, changed: Plan) -> None:
        held = changed.held()
        self.plan = assign(self.paints, changed.kit_with_guests(KIT), changed)
        assert {key: one for key, one in self.plan.choices.items() if key in held} == held, "a person's choices stay"

    @rule(data=st.data(), to=_targets, file=st.none() | st.sampled_from(_FILES))
    def aim(self, data: st.DataObject, to: str, file: str | None) -> None:
        key = data.draw(st.sampled_from(sorted(self.plan.choices)))
        self.follow(self.plan.with_targets({key: to}, KIT, file))
        own = self.plan.files[file] if file else self.plan.choices
        assert own[key] == Choice(target=to, by="you", reason="chosen by hand")

    @rule(data=st.data(), part=st.sampled_from(_PARTS), file=st.none() | st.sampled_from(_FILES))
    def split_and_join(self, data: st.DataObject, part: str, file: str | None) -> None:
        key = data.draw(st.sampled_from(sorted(use.paint.key for use in self.paints.uses)))
        before = self.plan
        self.follow(self.plan.split(key, part, file))
        own = self.plan.files[file] if file else self.plan.choices
        assert own[f"{key}@{part}"].target == {**before.choices, **before.files.get(file or "", {})}[key].target
        if data.draw(st.booleans()):
            self.follow(self.plan.joined(f"{key}@{part}", file))
            assert f"{key}@{part}" not in (self.plan.files.get(file, {}) if file else self.plan.choices)

    @rule(recipe=_recipes)
    def plan_by_other_settings(self, recipe: Recipe) -> None:
        self.follow(self.plan.by_hand().with_(recipe=recipe))

    @rule()
    def plan_anew(self) -> None:
        self.plan = assign(self.paints, self.kit_with_guests, self.plan.with_(choices=self.plan.parts()))

    @rule(base=colors, name=st.sampled_from(["", "Summer", "summer", "Buoy"]))
    def invite(self, base: Rgb, name: str) -> None:
        there = any(color.base == base for color in self.kit_with_guests.colors) or len(self.plan.guests) == MOST_GUESTS
        try:
            self.follow(self.plan.with_guests([(name, base)], KIT))
        except InvalidPlanError:
            assert there
        else:
            assert self.kit_with_guests.colors[-1].base == base
            assert len({color.key for color in self.kit_with_guests.colors}) == len(self.kit_with_guests.colors)

    @rule(data=st.data())
    def see_off(self, data: st.DataObject) -> None:
        if self.plan.guests:
            key = data.draw(st.sampled_from([guest.key for guest in self.plan.guests]))
            aimed = {name for name, choice in self.plan.held().items() if choice.target.startswith(f"{key}.")}
            left = self.plan.without_guest(key)
            files = {name: own for name, own in left.files.items() if not _names(own, key)}
            kept = {name: one for name, one in left.choices.items() if not one.target.startswith(f"{key}.")}
            self.follow(left.with_(choices=kept, files=files))
            assert not aimed & set(self.plan.held())

    @rule(file=st.sampled_from(_FILES), shape=st.sampled_from(BackingShape), color=_tokens)
    def back(self, file: str, shape: BackingShape, color: str) -> None:
        self.follow(self.plan.with_act("backing", FileBacking(shape=shape, color=color), [file]))

    @rule(file=st.sampled_from(_FILES))
    def keep_or_recolor(self, file: str) -> None:
        kept = set(self.plan.kept) ^ {file}
        self.plan = self.plan.with_(kept=tuple(sorted(kept)))

    @rule(selectors=st.lists(st.sampled_from(("#sail", ".hull")), unique=True))
    def keep_elements(self, selectors: list[str]) -> None:
        self.plan = self.plan.with_(kept_selectors=tuple(selectors))

    @invariant()
    def every_paint_has_a_target_that_there_is(self) -> None:
        assert {use.paint.key for use in self.paints.uses} <= set(self.plan.choices)
        for choices in (self.plan.choices, *self.plan.files.values()):
            for choice in choices.values():
                resolve_target(choice.target, self.kit_with_guests)

    @invariant()
    def it_is_the_same_when_it_is_written_and_read(self) -> None:
        again = read_plan_file(plan_file(self.plan, KIT))
        for name, own in self.files.items():
            keys = [paint.key for paint in own]
            assert again.changes(KIT, name, keys) == self.plan.changes(KIT, name, keys)
        assert again.recipe == self.plan.recipe
        assert again.held() == self.plan.held()

    @invariant()
    def planned_again_it_is_the_same(self) -> None:
        assert assign(self.paints, self.kit_with_guests, self.plan).choices == self.plan.choices

    @invariant()
    def one_by_one_files_become_what_they_become_together(self) -> None:
        together = self.plan.changes_by_file(KIT)
        for name, own in self.files.items():
            keys = [paint.key for paint in own]
            alone = self.plan.changes(KIT, name, keys)
            assert together(name, keys).parts == alone.parts
            if name in self.plan.kept:
                assert not alone.recoloring.colors
            assert set(alone.recoloring.colors) <= set(own)

    @invariant()
    def in_steps_of_the_kit_nothing_else_is_used(self) -> None:
        recipe = self.plan.recipe
        if recipe.mode is Mode.KIT and recipe.allowed is AllowedColors.STEPS and recipe.strength == 1:
            ours = members(self.kit_with_guests)
            for key, choice in self.plan.choices.items():
                color = self.plan.color_of(parse_key(key.partition("@")[0]), choice, self.kit_with_guests)
                if choice.by == "plan" and color is not None:
                    assert color in ours
                if choice.by == "plan" and color is None:
                    assert "@" in key or (recipe.natural and natural_tone(parse_key(key).rgb)) or recipe.ends == "stay"


def _names(choices: dict[str, Choice], color: str) -> bool:
    return any(choice.target.startswith(f"{color}.") for choice in choices.values())


TestPlanLife = PlanLife.TestCase
TestPlanLife.settings = settings(max_examples=25, stateful_step_count=12, deadline=None, derandomize=True)
