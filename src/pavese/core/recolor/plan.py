"""A plan: for each paint its target, as a token of the kit wherever possible, so that the plan follows the kit."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import replace
from typing import Annotated, Any, Literal, Protocol

from pydantic import AliasChoices, BaseModel, ConfigDict, Field, model_validator

from pavese.core.color.naming import describe
from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.errors import InvalidPlanError, UnreadableColorError
from pavese.core.kit.kit import Kit, KitColor, key_for
from pavese.core.kit.logo_on_grounds import KitLogo
from pavese.core.kit.plain import plain_name
from pavese.core.kit.role import Role
from pavese.core.recolor.act import Act
from pavese.core.recolor.acts import Acts, Namespace, OwnActs
from pavese.core.recolor.backing import FileBacking
from pavese.core.recolor.changes import Changes, Faces
from pavese.core.recolor.faces import KitTypefaces
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.recipe import Recipe
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind
from pavese.core.recolor.target import KEEP, TargetText, mixed, resolve_target, token_of
from pavese.core.recolor.theme import place_selector, theme_targets, themes_ruled
from pavese.core.unique_name import unique_name

#: A paint key, see `Rgba.key`; with `@` and a kind or a selector behind it, that part of the paint's sites.
PartKey = Annotated[str, Field(max_length=200)]
#: Colors of its own that a set may have beside the kit.
MOST_GUESTS = 12
#: How the key of a guest begins, so that no kit color is ever taken for one.
_GUEST = "guest"
_LONGEST_GUEST = 60
#: Rules for parts of files, by the selector that its sites bear.
PartRules = dict[Annotated[str, Field(max_length=120)], dict[Kind, TargetText]]
#: The name of a file in its set.
FileName = Annotated[str, Field(max_length=240)]


_NO_OTHERS: Mapping[str, str] = {}


class ChangesOf(Protocol):
    """What becomes of a file, by its name and its paints (keys); `others` are files that it is looked at with, by the
    selector that their sites bear in it."""

    def __call__(self, file: str, only: Iterable[str], others: Mapping[str, str] = ...) -> Changes: ...


class Choice(BaseModel):
    """Where one paint goes, by whom, and why."""

    model_config = ConfigDict(frozen=True)

    target: TargetText
    by: Literal["plan", "rule", "you"] = "plan"
    reason: str = ""


class Plan(BaseModel):
    """Paint key to choice, with the settings it was made by. Paints without a choice are kept.

    `files` are exceptions for single files, by name; they stay when the plan of the set changes. `rules` send all that
    does one thing, such as every text, to one target, but for what a person chose; they hold for paints that come
    later, see `ruled`. `part_rules` do the same for a part of all files alone (a selector such as `/footer`), and
    go before what is said of whole paints; `file_part_rules` for a part of single files, in the place of those.
    `left_out` files are not handed over; `kept` names files that stay as they came;
    `kept_selectors` elements (`#id`, `.class`) that do. `acts` are what all files are given that can be, by their kind;
    `file_acts` are for single files, in the place of those (None: not that one). `guests` are colors that the set has
    beside the kit, for it alone; all that takes a kit here takes the kit without them and adds them, see
    `kit_with_guests`.
    """

    model_config = ConfigDict(frozen=True)

    choices: dict[PartKey, Choice] = Field(default_factory=dict)
    recipe: Recipe = Recipe()
    files: dict[FileName, dict[PartKey, Choice]] = Field(default_factory=dict)
    rules: dict[Kind, TargetText] = Field(default_factory=dict)
    part_rules: PartRules = Field(default_factory=dict)
    file_part_rules: dict[FileName, PartRules] = Field(default_factory=dict)
    acts: Acts = Field(default_factory=dict)
    file_acts: dict[FileName, OwnActs] = Field(default_factory=dict)
    left_out: tuple[FileName, ...] = ()
    kept: tuple[FileName, ...] = ()
    kept_selectors: tuple[str, ...] = Field(default=(), validation_alias=AliasChoices("kept_selectors", "kept_marks"))
    guests: tuple[KitColor, ...] = Field(default=(), max_length=MOST_GUESTS)

    @model_validator(mode="before")
    @classmethod
    def _as_acts(cls, stored: Any) -> Any:
        """Reads what was kept while a backing and a namespace were all there was beside color."""
        if not isinstance(stored, dict) or stored.keys().isdisjoint(("backing", "backings", "declared")):
            return stored
        rest = {key: value for key, value in stored.items() if key not in ("backing", "backings", "declared")}
        files: dict[str, dict[str, Any]] = {}
        for name, backing in (stored.get("backings") or {}).items():
            files.setdefault(name, {})[FileBacking.key] = backing
        for name in stored.get("declared") or ():
            files.setdefault(name, {})[Namespace.key] = {}
        whole = {FileBacking.key: stored["backing"]} if stored.get("backing") else {}
        return {"acts": whole, "file_acts": files, **rest}

    def kit_with_guests(self, kit: Kit) -> Kit:
        """The kit with the guests behind its own colors; a kit that has them already is given back as it is."""
        known = {color.key for color in kit.colors}
        new = tuple(guest for guest in self.guests if guest.key not in known)
        return kit.with_(colors=(*kit.colors, *new)) if new else kit

    def with_guests(self, arrivals: Iterable[tuple[str, Rgb]], kit: Kit) -> Plan:
        """The plan, to be made anew, with (name, color) as guests; without a name a color is described.

        Raises InvalidPlanError for a color that is there already, and for more than `MOST_GUESTS`.
        """
        guests = list(self.guests)
        for name, base in arrivals:
            both = self.with_(guests=tuple(guests)).kit_with_guests(kit)
            same = next((color for color in both.colors if color.base == base), None)
            if same is not None:
                raise InvalidPlanError(f"{base.hex} is there already: it is {same.name}.")
            taken = {color.name.casefold() for color in both.colors}
            title = unique_name(_title(name, base), taken)
            key = key_for(f"{_GUEST} {title}", (color.key for color in both.colors))
            guests.append(KitColor(key=key, name=title, role=Role.ACCENT, base=base))
        if len(guests) > MOST_GUESTS:
            raise InvalidPlanError(f"A set has at most {MOST_GUESTS} guest colors.")
        return self.by_hand().with_(guests=tuple(guests))

    def without_guest(self, key: str) -> Plan:
        """The plan, to be made anew, without a guest and what was sent to it. Raises InvalidPlanError."""
        left = tuple(guest for guest in self.guests if guest.key != key)
        if len(left) == len(self.guests):
            raise InvalidPlanError(f"The set has no guest color “{key[:60]}”.")
        return self.by_hand().with_(guests=left)

    def target(self, paint: Rgba) -> str:
        """The target text for a paint of the set."""
        choice = self.choices.get(paint.key)
        return KEEP if choice is None else choice.target

    def held(self) -> dict[str, Choice]:
        """The choices a person made."""
        return {paint: choice for paint, choice in self.choices.items() if choice.by == "you"}

    def by_hand(self) -> Plan:
        """The plan without what it chose itself, to be planned anew around what a person chose and split."""
        return self.with_(choices={**self.held(), **self.parts()})

    def anew(self) -> Plan:
        """The plan without any choice for whole paints, to be planned as if it were new; exceptions of files stay."""
        return self.with_(choices=self.parts())

    def with_rule(self, kind: Kind, target: str | None, kit: Kit) -> Plan:
        """The plan, to be made anew, with all that does one thing sent to one target; None lets it go again.

        Raises InvalidPlanError for what the kit does not have.
        """
        return self.with_rules({kind: target}, kit)

    def with_rules(self, wanted: Mapping[Kind, str | None], kit: Kit) -> Plan:
        """The same for several kinds at once."""
        both = self.kit_with_guests(kit)
        for target in filter(None, wanted.values()):
            resolve_target(target, both)
        rules = {**self.rules, **wanted}
        return self.by_hand().with_(rules={kind: target for kind, target in rules.items() if target is not None})

    def with_part_rules(self, part: str, rules: Mapping[Kind, str] | None, kit: Kit, file: str | None = None) -> Plan:
        """The plan with rules for a part of all files, or of one; None lets it go as the rest does (of one file: as
        that part does in all). Raises InvalidPlanError for what the kit does not have."""
        both = self.kit_with_guests(kit)
        for target in (rules or {}).values():
            resolve_target(target, both)
        standing = self.part_rules if file is None else self.file_part_rules.get(file, {})
        made = {name: own for name, own in standing.items() if name != part}
        if rules is not None:
            made[part] = dict(rules)
        if file is None:
            return self.with_(part_rules=made)
        rest = {name: own for name, own in self.file_part_rules.items() if name != file}
        return self.with_(file_part_rules={**rest, file: made} if made else rest)

    def with_theme(self, wanted: Mapping[str, str | None], kit: Kit, theme: str = "") -> Plan:
        """The plan, to be made anew, with targets for places of the themes of all decks, or of the theme with that key
        alone; None lets a place go its own way again (of one theme: as in all). Raises InvalidPlanError for what the
        kit does not have."""
        plan = self
        for slot, target in wanted.items():
            rules = None if target is None else {Kind.THEME: target}
            plan = plan.with_part_rules(place_selector(slot, theme=theme), rules, kit)
        return plan.by_hand()

    def part_rules_of(self, file: str) -> dict[str, dict[Kind, str]]:
        """The rules for parts that hold in a file."""
        return {**self.part_rules, **self.file_part_rules.get(file, {})}

    def ruled(self, paints: SetPaints, kit: Kit) -> Plan:
        """The plan with what its rules say of these paints: of whole paints that do one thing only, and of that part of
        others; of what stands in places of themes, or is made from them. What a person chose goes before."""
        stale = any(choice.by == "rule" for choice in self.choices.values())
        places = themes_ruled(self.part_rules) if paints.theme else {}
        if not self.rules and not places and not stale:
            return self
        choices = {key: choice for key, choice in self.choices.items() if choice.by != "rule"}
        by_hand = {key for key, choice in choices.items() if choice.by == "you"}
        for key, (target, reason) in theme_targets(paints, places, kit).items() if places else ():
            if by_hand.isdisjoint((key, key.partition("@")[0])):
                choices[key] = Choice(target=target, by="rule", reason=reason)
        for use in paints.uses if self.rules else ():
            whole = choices.get(use.paint.key)
            if whole is not None and whole.by == "you":
                continue
            # Where each of its kinds has its rule, the paint itself goes with its grounds, or the first of them.
            every = all(kind in self.rules for kind in use.kinds)
            first = Kind.GROUND if Kind.GROUND in use.kinds else use.kinds[0]
            for kind in use.kinds:
                key = use.paint.key if every and kind is first else f"{use.paint.key}@{kind}"
                standing = choices.get(key)
                if kind in self.rules and (standing is None or standing.by != "you"):
                    choices[key] = Choice(target=self.rules[kind], by="rule", reason=f"every {kind} goes there")
        return self.with_(choices=choices)

    def with_(self, **fields: object) -> Plan:
        """The plan with some fields replaced."""
        return self.model_copy(update=fields)

    def with_targets(self, targets: Mapping[str, str], kit: Kit, file: str | None = None) -> Plan:
        """The plan with some targets chosen by a person, for one file or for all.

        Raises InvalidPlanError for a paint or target unknown.
        """
        chosen = {}
        for paint, target in targets.items():
            if paint.partition("@")[0] not in self.choices:
                raise InvalidPlanError(f"The set has no paint “{paint[:40]}”.")
            resolve_target(target, self.kit_with_guests(kit))
            chosen[paint] = Choice(target=target, by="you", reason="chosen by hand")
        if file is None:
            # What planning made an exception of for the sake of the target before goes where a person sends it.
            files = {
                name: {key: one for key, one in own.items() if one.by != "plan" or key not in chosen}
                for name, own in self.files.items()
            }
            files = {name: own for name, own in files.items() if own}
            return self.with_(choices={**self.choices, **chosen}, files=files)
        return self.with_(files={**self.files, file: {**self.files.get(file, {}), **chosen}})

    def split(self, key: str, part: str, file: str | None = None) -> Plan:
        """The plan with some sites of a paint standing for themselves, at first with the target they had."""
        choices = self.choices if file is None else {**self.choices, **self.files.get(file, {})}
        if key not in choices:
            raise InvalidPlanError(f"The set has no paint “{key[:40]}”.")
        own = choices[key].model_copy(update={"reason": f"split off by {part}"})
        name = f"{key}@{part}"
        if file is None:
            return self.with_(choices={**self.choices, name: own})
        return self.with_(files={**self.files, file: {**self.files.get(file, {}), name: own}})

    def joined(self, key: str, file: str | None = None) -> Plan:
        """The plan without a part that was split off, or without an exception of a file."""
        if file is None:
            return self.with_(choices={name: choice for name, choice in self.choices.items() if name != key})
        own = {name: choice for name, choice in self.files.get(file, {}).items() if name != key}
        files = {name: choices for name, choices in self.files.items() if name != file}
        return self.with_(files={**files, file: own} if own else files)

    def knows(self, paints: Iterable[str]) -> int:
        """How many of these paints (keys) it has a choice for."""
        return sum(key in self.choices for key in paints)

    def following(self, saved: Plan, name: str) -> Plan:
        """The plan with the settings of a saved one, and its choices for the paints that both know, held as by hand."""
        reason = f"as in the plan “{name}”"
        known = {
            key: Choice(target=choice.target, by="you", reason=reason)
            for key, choice in saved.choices.items()
            if key.partition("@")[0] in self.choices
        }
        guests = {guest.key: guest for guest in (*self.guests, *saved.guests)}
        return self.with_(
            choices={**self.parts(), **known},
            recipe=saved.recipe,
            rules=saved.rules,
            part_rules=saved.part_rules,
            guests=tuple(guests.values())[:MOST_GUESTS],
        )

    def with_exceptions(self, files: Mapping[str, Mapping[str, Choice]]) -> Plan:
        """The plan with the exceptions that planning made for files, in the place of those it made before; what a
        person chose for a file, and parts that were split off, stay."""
        kept = {
            name: {key: choice for key, choice in own.items() if choice.by != "plan" or "@" in key}
            for name, own in self.files.items()
        }
        both = {name: {**files.get(name, {}), **kept.get(name, {})} for name in dict.fromkeys((*kept, *files))}
        return self.with_(files={name: own for name, own in both.items() if own})

    def parts(self) -> dict[str, Choice]:
        """The choices for parts of paints, but for those that rules make."""
        return {key: choice for key, choice in self.choices.items() if "@" in key and choice.by != "rule"}

    @property
    def ground(self) -> str | None:
        """The target that all drawings stand on after what they are given; None where they are given no ground."""
        return next((act.ground for act in self.acts.values() if act.ground is not None), None)

    def acts_of(self, file: str) -> dict[str, Act]:
        """What a file is given, by the kind of act."""
        own = {**self.acts, **self.file_acts.get(file, {})}
        return {key: act for key, act in own.items() if act is not None}

    def with_act(self, key: str, act: Act | None, files: Iterable[str] | None = None) -> Plan:
        """The plan with an act for all files, or for some; None takes it away. One that changes what drawings stand on
        is planned anew."""
        if files is not None:
            own = {name: {**self.file_acts.get(name, {}), key: act} for name in files}
            return self.with_(file_acts={**self.file_acts, **own})
        acts = {kind: one for kind, one in self.acts.items() if kind != key}
        rest = {name: {kind: one for kind, one in own.items() if kind != key} for name, own in self.file_acts.items()}
        made = self.with_(
            acts={**acts, key: act} if act is not None else acts,
            file_acts={name: own for name, own in rest.items() if own},
        )
        return made if made.ground == self.ground else made.by_hand()

    def resolve(self, kit: Kit) -> dict[Rgba, Rgb]:
        """Paint to color for every paint that changes. Raises InvalidPlanError when a token is gone."""
        return dict(self._recoloring(kit, self.choices, {}, None).colors)

    def own_colors(self, kit: Kit) -> dict[str, dict[Rgba, Rgb]]:
        """For each file with exceptions of its own, what they make of whole paints."""
        found: dict[str, dict[Rgba, Rgb]] = {}
        for name, choices in self.files.items():
            for key, choice in choices.items():
                if "@" not in key:
                    paint = _paint(key)
                    found.setdefault(name, {})[paint] = self.color_of(paint, choice, kit) or paint.rgb
        return found

    def recoloring(self, kit: Kit, file: str, only: Iterable[str] | None = None) -> Recoloring:
        """What becomes of one file, exceptions and keeps regarded; `only` these paints (keys), if given.

        Raises InvalidPlanError when a token is gone.
        """
        if file in self.kept:
            return Recoloring()
        choices = {**self.choices, **self.files.get(file, {})}
        return self._recoloring(kit, choices, self.part_rules_of(file), None if only is None else set(only))

    def color_of(self, paint: Rgba, choice: Choice, kit: Kit) -> Rgb | None:
        """What a choice gives a paint, None where it is kept; only what the plan chose is bound by its strength."""
        color = resolve_target(choice.target, self.kit_with_guests(kit))
        if color is not None and self.recipe.strength < 1 and choice.by == "plan":
            return mixed([paint.rgb], [color], self.recipe.strength)[0]
        return color

    def changes(self, kit: Kit, file: str, only: Iterable[str] | None = None) -> Changes:
        """Everything that becomes of one file: see `recoloring`, and what is laid behind it."""
        acts, both = tuple(self.acts_of(file).values()), self.kit_with_guests(kit)
        resolved = {target: resolve_target(target, both) for act in acts for target in act.targets}
        faces = Faces(kit.type.headline, kit.type.text) if KitTypefaces.key in self.acts_of(file) else None
        return Changes(
            self.recoloring(kit, file, only),
            acts,
            {target: color for target, color in resolved.items() if color},
            faces=faces,
            logo=KitLogo.of(kit) if any(act.with_logo for act in acts) else None,
        )

    def _seen_with(self, others: Mapping[str, str], kit: Kit, changes: Changes) -> Changes:
        """What becomes of a file that is looked at with others, as far as these have exceptions or are kept."""
        kept = [selector for selector, name in others.items() if name in self.kept]
        parts = {
            (_paint(key), selector): self.color_of(_paint(key), choice, kit)
            for selector, name in others.items()
            for key, choice in self.files.get(name, {}).items()
            if "@" not in key
        }
        if not kept and not parts:
            return changes
        to = changes.recoloring
        return replace(changes, recoloring=replace(to, parts={**to.parts, **parts}, kept=to.kept.union(kept)))

    def chosen_in(self, file: str, paints: Iterable[str], selectors: Mapping[Rgba, Collection[str]]) -> set[str]:
        """Which of a file's paints (keys) are, wholly or in part, what a person wants them to be there; `selectors` are
        those of their sites."""
        said = (rules.items() for rules in self.part_rules_of(file).values())
        kept = any(target == KEEP and kind is not Kind.THEME for rules in said for kind, target in rules)
        if file in self.kept or kept:
            return set(paints)
        choices = {**self.choices, **self.files.get(file, {})}
        chosen = {key.partition("@")[0] for key, choice in choices.items() if choice.by != "plan"}
        if self.kept_selectors:
            left = frozenset(self.kept_selectors)
            chosen.update(paint.key for paint, named in selectors.items() if not left.isdisjoint(named))
        return chosen.intersection(paints)

    def changes_by_file(self, kit: Kit) -> ChangesOf:
        """`changes` for many files at once: what has no exceptions shares what is resolved here."""
        whole = self._recoloring(kit, self.choices, self.part_rules, None)
        by_key = {paint.key: (paint, color) for paint, color in whole.colors.items()}
        own = {*self.files, *self.kept, *self.file_acts, *self.file_part_rules}
        alike: dict[tuple[str, ...], Changes] = {}

        def alone(file: str, only: Iterable[str]) -> Changes:
            if whole.parts or whole.rules or file in own or self.acts:
                return self.changes(kit, file, only)
            paints = tuple(only)
            if paints not in alike:
                colors = dict(by_key[key] for key in paints if key in by_key)
                tokens: dict[Rgba | tuple[Rgba | str, str], str]
                tokens = {paint: whole.tokens[paint] for paint in colors if paint in whole.tokens}
                alike[paints] = Changes(Recoloring(colors, {}, whole.kept, tokens))
            return alike[paints]

        def changes(file: str, only: Iterable[str], others: Mapping[str, str] = _NO_OTHERS) -> Changes:
            found = alone(file, only)
            return self._seen_with(others, kit, found) if others else found

        return changes

    def _recoloring(
        self,
        kit: Kit,
        choices: Mapping[str, Choice],
        part_rules: Mapping[str, Mapping[Kind, str]],
        only: set[str] | None,
    ) -> Recoloring:
        both = self.kit_with_guests(kit)
        colors: dict[Rgba, Rgb] = {}
        parts: dict[tuple[Rgba, str], Rgb | None] = {}
        tokens: dict[Rgba | tuple[Rgba | str, str], str] = {}
        rules: dict[tuple[str, str], Rgb | None] = {}
        for part, targets in part_rules.items():
            for kind, target in targets.items():
                if kind is Kind.THEME:
                    # It is said of the paints that stand there, so that all that points to the place goes along.
                    continue
                rules[part, kind] = resolve_target(target, both)
                if (named := token_of(target)) is not None:
                    tokens[part, kind] = str(named)
        for key, choice in choices.items():
            paint_key, _, part = key.partition("@")
            if only is not None and paint_key not in only:
                continue
            paint = _paint(paint_key)
            color = self.color_of(paint, choice, both)
            if part:
                parts[paint, part] = color
            elif color is not None:
                colors[paint] = color
            token = token_of(choice.target) if color is not None else None
            if token is not None:
                tokens[(paint, part) if part else paint] = str(token)
        return Recoloring(colors, parts, frozenset(self.kept_selectors), tokens, rules)


def _title(name: str, base: Rgb) -> str:
    try:
        return plain_name(name)[:_LONGEST_GUEST].strip()
    except ValueError:
        return describe(base).capitalize()


def _paint(key: str) -> Rgba:
    try:
        return parse_key(key)
    except UnreadableColorError as error:
        raise InvalidPlanError(str(error)) from error
