"""Sets as they are shown: paints with targets, files with the fingerprint of their recolored picture, findings."""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from sqlalchemy.orm import Session

from pavese.api.kits.views import color_views, history_view
from pavese.api.sets.schemas import (
    ActSettings,
    AssetView,
    CheckView,
    FigureContrastView,
    FiguresView,
    FileFindings,
    FindingView,
    PaintView,
    ReadingFigures,
    SetView,
    StrangePaint,
    TextReadingView,
    TraitsView,
    VariantView,
)
from pavese.core.check.checks import CHECKS, Handed, Unread, checked
from pavese.core.check.conformance import Holds, OffKit, holds
from pavese.core.color.contrast import shown
from pavese.core.color.naming import describe
from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.formats import format_of
from pavese.core.formats.document import PagePaints
from pavese.core.formats.format import Can
from pavese.core.kit.kit import Kit
from pavese.core.recolor.acts import ACTS, suited
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.figure_contrast import FigureContrast, figure_contrast
from pavese.core.recolor.figures import Figures, figures
from pavese.core.recolor.inventory import THEME, PaintUse, SetPaints
from pavese.core.recolor.listing import ODD
from pavese.core.recolor.natural import natural_tone
from pavese.core.recolor.pixels import MOVES
from pavese.core.recolor.plan import ChangesOf, Choice, Plan
from pavese.core.recolor.reading import Reading, readings, readings_of_set
from pavese.core.recolor.samples import Samples
from pavese.core.recolor.site import IN_PICTURE, Kind, selector_words
from pavese.core.recolor.target import is_derived, label, ramp_of, token_of
from pavese.core.recolor.texts import BARE
from pavese.core.recolor.theme import place_words
from pavese.core.recolor.traits import Traits
from pavese.render.pool import DrawingPool
from pavese.render.rendering import inventories_after
from pavese.store import belonging, kits, sets
from pavese.store.belonging import KeptFile
from pavese.store.errors import NotFoundError
from pavese.store.facts import inventory_of
from pavese.store.models import AssetRow, SetRow
from pavese.store.sets import Files


@dataclass(frozen=True)
class OpenSet:
    """A set with what its views are made from; `own_kit` is its kit without the guests that only this set has."""

    row: SetRow
    own_kit: Kit
    files: Files
    plan: Plan

    @property
    def assets(self) -> Sequence[AssetRow]:
        """Its files, in their order."""
        return self.files.rows

    @property
    def paints(self) -> SetPaints:
        """The paints of all of them."""
        return self.files.paints

    @cached_property
    def kit(self) -> Kit:
        """The kit and the guests: all that counts as ours in this set."""
        return self.plan.kit_with_guests(self.own_kit)

    def place_of(self, asset: AssetRow) -> int:
        """Where a file stands in it. Raises NotFoundError."""
        at = self.files.places.get(asset.id)
        if at is None:
            raise NotFoundError("This file is not in the set.")
        return at

    def with_plan(self, plan: Plan) -> OpenSet:
        """The same with another plan."""
        return replace(self, plan=plan)

    def changes(self, asset: AssetRow) -> Changes:
        """What becomes of one of its files."""
        return self.changes_by_file(asset.name, asset.paints, belonging.templates(asset))

    @cached_property
    def changes_by_file(self) -> ChangesOf:
        """What becomes of any of its files, the plan resolved once for all of them."""
        return self.plan.changes_by_file(self.kit)

    @cached_property
    def states(self) -> States:
        """The names of its files by what is special about them."""
        return States(self.plan)

    @cached_property
    def handed(self) -> Sequence[AssetRow]:
        """The files that are handed over."""
        out = self.states.left_out
        return [asset for asset in self.assets if asset.name not in out] if out else self.assets

    def seen(self, asset: AssetRow, ground: Rgb) -> SeenFile:
        """One of its files on a ground."""
        return SeenFile(self, self.place_of(asset), ground)

    def seen_on(self, ground: Rgb) -> list[SeenFile]:
        """Its files as they are listed."""
        return [SeenFile(self, at, ground) for at in range(len(self.assets))]


class States:
    """The names of files by what is special about them."""

    def __init__(self, plan: Plan) -> None:
        self.left_out, self.kept = set(plan.left_out), set(plan.kept)


@dataclass(frozen=True, slots=True)
class SeenFile:
    """A file of a set on a ground; each thing is worked out when it is asked for."""

    opened: OpenSet
    at: int
    ground: Rgb

    @property
    def row(self) -> AssetRow:
        """The file."""
        return self.opened.assets[self.at]

    @property
    def name(self) -> str:
        """Its name in the set."""
        return self.row.name

    @property
    def traits(self) -> Traits:
        """How it looks beside others."""
        return self.opened.files.facts[self.row.id].traits

    @property
    def apart(self) -> float:
        """How far it is from the others."""
        return self.opened.files.apart[self.at]

    @property
    def remarks(self) -> int:
        """On how much of it there is something to say."""
        return len(self.row.remarks)

    @property
    def moves(self) -> bool:
        """Whether it is an animation."""
        return format_of(self.name).moves

    @property
    def own(self) -> bool:
        """Whether it does not simply follow the set."""
        plan = self.opened.plan
        return self.name in self.opened.states.kept or self.name in plan.files or self.name in plan.file_part_rules

    @property
    def left_out(self) -> bool:
        """Whether it is not handed over."""
        return self.name in self.opened.states.left_out

    @property
    def contrast(self) -> FigureContrast | None:
        """How it stands out from the ground; None for what has no outline."""
        return figure_contrast(
            self.opened.files.facts[self.row.id].measured, self.opened.changes(self.row), self.ground
        )

    @property
    def readings(self) -> list[Reading]:
        """How its texts read on what they stand on, the worst first."""
        measured = self.opened.files.facts[self.row.id].measured
        return readings(measured.texts, self.opened.changes(self.row), self.ground) if measured.texts else []

    @property
    def unread(self) -> bool:
        """Whether it has a text that cannot be read."""
        return any(not one.reads for one in self.readings)

    @property
    def worse(self) -> bool:
        """Whether it has a text that reads less well than it did."""
        return any(one.worse for one in self.readings)

    @property
    def weak(self) -> bool:
        """Whether it cannot be told from the ground."""
        found = self.contrast
        return found is not None and not found.stands


def open_set(session: Session, row: SetRow) -> OpenSet:
    """Reads a set's files and plan as they stand."""
    kit, files = sets.kit_of(session, row), sets.files_of(session, row)
    return OpenSet(row, kit, files, sets.plan_of(session, row, kit, files.paints))


def replanned(session: Session, opened: OpenSet) -> OpenSet:
    """The same set with the plan that is in force now."""
    return replace(opened, plan=sets.plan_of(session, opened.row, opened.own_kit, opened.paints))


def figures_of(opened: OpenSet) -> Figures:
    """How good the plan of a set is."""
    kit, plan = opened.kit, opened.plan
    return figures(opened.paints, plan.resolve(kit), kit, plan.own_colors(kit))


def set_view(session: Session, opened: OpenSet) -> SetView:
    """A set without its files."""
    row, plan = opened.row, opened.plan
    return SetView(
        id=row.id,
        kit_id=row.kit_id,
        name=row.name,
        channel=row.channel,
        purpose=row.purpose,
        original=row.original_id,
        edition=row.edition.number if row.edition else None,
        variants=_variants(session, opened),
        recipe=plan.recipe,
        rules=plan.rules,
        reading=_reading(opened) if opened.paints.lettered else None,
        themed=bool(opened.paints.theme),
        acts={key: act.model_dump(mode="json") for key, act in plan.acts.items() if act.offered},
        guests=color_views(opened.kit)[len(opened.own_kit.colors) :] if plan.guests else [],
        kept_selectors=[one for one in plan.kept_selectors if not one.startswith(IN_PICTURE)],
        figures=figures_view(figures_of(opened)),
        paints=paint_views(opened),
        files=len(opened.assets),
        handed=len(opened.handed),
        files_key=opened.files.key,
        samples=_samples(plan).values,
        branches=_samples(plan).branches,
        history=history_view(session, row.plan),
    )


def _samples(plan: Plan) -> Samples:
    act = plan.acts.get(Samples.key)
    return act if isinstance(act, Samples) else Samples()


def _reading(opened: OpenSet) -> ReadingFigures:
    """How the texts of a set read; those of files that are left out do not count."""
    out = frozenset(opened.plan.left_out)
    files = (file for file in opened.paints.files if file.name not in out)
    unknown = sum(not run.told for file in files for run in file.measured.texts)
    found = list(readings_of_set(opened.paints, opened.plan, opened.kit))
    return ReadingFigures(
        texts=len(found) + unknown,
        read=sum(one.reads for one in found),
        lost=sum(one.worse for one in found),
        unknown=unknown,
    )


def asset_view(seen: SeenFile) -> AssetView:
    """One file of a set."""
    asset, opened, shape, found = seen.row, seen.opened, seen.traits, seen.contrast
    facts = inventory_of(asset)
    return AssetView(
        id=asset.id,
        name=asset.name,
        title=facts.title,
        preview=facts.preview,
        slides=facts.slides,
        plays=MOVES in asset.remarks,
        fingerprint=fingerprint(asset, opened.changes(asset)),
        came=fingerprint(asset, Changes()),
        can=sorted(format_of(asset.name).can),
        paints={key: sum(counts.values()) for key, counts in asset.paints.items() if counts},
        remarks=asset.remarks,
        traits=TraitsView(
            paints=shape.paints, hues=shape.hues, sites=shape.sites, stroked=shape.stroked, odd=seen.apart > ODD
        ),
        contrast=FigureContrastView(ratio=shown(found.ratio), stands=found.stands) if found else None,
        left_out=seen.left_out,
        kept=asset.name in opened.states.kept,
        exceptions=len(opened.plan.files.get(asset.name, ())) + len(opened.plan.file_part_rules.get(asset.name, ())),
        acts=_acts(asset, opened.plan),
        rights=asset.rights,
    )


def paint_views(opened: OpenSet) -> list[PaintView]:
    """Every paint of a set, each followed by the parts that were split off."""
    selectors, rows = opened.files.selectors, opened.paints.rows
    keys: dict[Rgb, str] = {}
    for use in opened.paints.uses:
        keys.setdefault(use.paint.rgb, use.paint.key)
    found = []
    for use in opened.paints.uses:
        views = _with_parts(use, opened.plan.choices, opened, list(selectors.get(use.paint, ())), {})
        if (lead := rows.get(use.paint.rgb)) is not None:
            views = [view.model_copy(update={"row": keys[lead]}) for view in views]
        elif (files := opened.paints.files_of_rows.get(use.paint.rgb)) is not None:
            views = [view.model_copy(update={"row_files": files}) for view in views]
        found += views
    return found


def file_paints(opened: OpenSet, asset: AssetRow, pages: Iterable[PagePaints] = ()) -> list[PaintView]:
    """The paints of one file, with where they go in it and, where that is otherwise, in some of its pages."""
    facts = opened.files.facts[asset.id]
    inventory, measured = facts.inventory, facts.measured
    own = opened.plan.files.get(asset.name, {})
    choices = {**dict(_ruled(opened.plan.part_rules_of(asset.name), pages)), **opened.plan.choices, **own}
    if asset.name in opened.plan.kept:
        choices = {key: Choice(target="keep", by="you", reason="the file is kept as it came") for key in choices}
    views = []
    for paint, counts in inventory.sites.items():
        kinds = tuple(kind for kind in counts if counts[kind])
        use = PaintUse(paint, 1, sum(counts.values()), kinds, measured.areas.get(paint, 0.0))
        views += _with_parts(use, choices, opened, list(inventory.selectors.get(paint, ())), own)
    return views


def _ruled(part_rules: Mapping[str, Mapping[Kind, str]], pages: Iterable[PagePaints]) -> Iterator[tuple[str, Choice]]:
    """What the rules for pages make of the paints in them: of each by what it does there first."""
    for page, found in pages:
        rules = part_rules.get(page.selector, {})
        for paint, kind in found.items():
            if kind in rules:
                choice = Choice(target=rules[kind], by="rule", reason=f"every {kind} goes there in this part")
                yield f"{paint.key}@{page.selector}", choice


def acts_for(asset: AssetRow) -> tuple[str, ...]:
    """The acts that a file can be given, remedies for what nothing is said of among them."""
    return suited(format_of(asset.name).acts, asset.remarks)


def _acts(asset: AssetRow, plan: Plan) -> dict[str, ActSettings | None]:
    """The acts that a file can be given, with those that it is; remedies for what nothing is said of are none."""
    given = plan.acts_of(asset.name)
    return {
        key: given[key].model_dump(mode="json") if key in given else None
        for key in acts_for(asset)
        if ACTS[key].offered
        if not ACTS[key].remedies or ACTS[key].remedies in asset.remarks
    }


def reading_views(found: Sequence[Reading]) -> list[TextReadingView]:
    """Texts with what they stand on, ready to show."""
    return [
        TextReadingView(
            text=one.run.text.text,
            ink=one.ink.hex,
            ground=one.ground.hex,
            bare=one.run.ground == BARE,
            mixed=one.run.ground is None,
            size=f"{one.run.text.size:g}",
            bold=one.run.text.bold,
            before=shown(one.before),
            after=shown(one.after),
            needed=f"{one.needed:g}",
            reads=one.reads,
            worse=one.worse,
            page=one.run.page,
        )
        for one in found
    ]


def fingerprint(asset: KeptFile, changes: Changes) -> str:
    """A hash of everything the recolored picture of a file depends on."""
    beside = sorted(f"{reference} {came[1]}" for reference, came in asset.beside.items() if came)
    return hashlib.sha256(
        "\n".join((asset.digest, *beside, *sorted(asset.paints), *changes.parts)).encode()
    ).hexdigest()[:24]


def figures_view(found: Figures) -> FiguresView:
    """Figures as whole percents; what is not whole is not shown as whole."""
    return FiguresView(
        kit=int(100 * found.kit + 1e-9),
        order=int(100 * found.order + 1e-9),
        contrast=int(100 * found.contrast + 1e-9),
        distinct=int(100 * found.distinct + 1e-9),
        remarks=list(found.remarks[:40]),
    )


def check_view(session: Session, opened: OpenSet, drawing: DrawingPool) -> CheckView:
    """Checks every file as it would be handed over: recolored, written, and read again."""
    found = []
    wanted = sets.each_becoming(session, ((asset, opened.changes(asset)) for asset in opened.handed))
    for asset, inventory in zip(opened.handed, inventories_after(drawing, wanted), strict=True):
        changes = opened.changes(asset)
        came = opened.files.facts[asset.id].inventory
        on_pixels = Can.PIXELS in format_of(asset.name).can
        handed = Handed(came, opened.files.facts[asset.id].measured, changes, inventory, on_pixels)
        strange, texts, others = [], [], []
        for key, finding in checked(handed, opened.kit):
            if isinstance(finding, OffKit):
                strange.append(_strange(finding, asset, changes, opened))
            elif isinstance(finding, Unread):
                texts.append(finding.reading)
            else:
                colors = [one.hex for one in finding.colors]
                others.append(FindingView(has=CHECKS[key].has, text=finding.text, colors=colors))
        if strange or texts or others or inventory.remarks:
            found.append(
                FileFindings(
                    asset=asset.id,
                    name=asset.name,
                    fingerprint=fingerprint(asset, changes),
                    paints=strange,
                    texts=reading_views(texts),
                    others=others,
                    remarks=list(inventory.remarks),
                )
            )
    held = Counter(holds((one.natural is not None, one.chosen) for one in entry.paints) for entry in found)
    unread = sum(any(one.worse for one in entry.texts) for entry in found)
    return CheckView(
        files=len(opened.handed),
        clean=len(opened.handed) - held[Holds.NATURAL] - held[Holds.WANTED] - held[Holds.OFF],
        natural=held[Holds.NATURAL],
        wanted=held[Holds.WANTED],
        off=held[Holds.OFF],
        unread=unread,
        others=Counter(has for entry in found for has in dict.fromkeys(one.has for one in entry.others)),
        findings=found,
    )


def _variants(session: Session, opened: OpenSet) -> list[VariantView]:
    """The sets that have its files, each with the name of its kit as it is now."""
    names = {} if opened.row.edition else {opened.row.kit_id: opened.own_kit.name}
    views = []
    for row in sets.variants(session, opened.row):
        if row.kit_id not in names:
            names[row.kit_id] = kits.kit_of(session, kits.get(session, row.kit_id)).name
        edition = row.edition.number if row.edition else None
        views.append(VariantView(id=row.id, kit_id=row.kit_id, name=row.name, kit=names[row.kit_id], edition=edition))
    return views


def _with_parts(
    use: PaintUse,
    choices: Mapping[str, Choice],
    opened: OpenSet,
    selectors: list[str],
    own: Mapping[str, Choice] | tuple[()],
) -> list[PaintView]:
    key = use.paint.key
    keys = [key, *sorted(name for name in choices if name.startswith(f"{key}@"))]
    return [
        _paint(name, use, choices[name], opened, selectors, exception=name in own) for name in keys if name in choices
    ]


def _paint(
    key: str, use: PaintUse, choice: Choice, opened: OpenSet, selectors: list[str], *, exception: bool
) -> PaintView:
    paint = use.paint
    part = key.partition("@")[2] or None
    ramp = ramp_of(choice.target)
    color = opened.plan.color_of(paint, choice, opened.kit)
    after = paint if color is None else Rgba(*color, paint.alpha)
    return PaintView(
        key=key,
        hex=paint.rgb.hex,
        css=paint.css,
        name=describe(paint.rgb),
        row=None,
        row_files=None,
        part=part,
        part_name=part and (place_words(part) or selector_words(part) or part),
        files=use.files,
        sites=use.sites,
        area=f"{100 * use.area / use.files:.1f} %" if use.area else None,
        kinds=list(use.kinds),
        selectors=[one for one in selectors if not one.startswith((THEME, IN_PICTURE))],
        natural=natural_tone(paint.rgb),
        target=choice.target,
        target_color=ramp,
        target_step=_step(choice.target, opened.kit),
        target_name=label(choice.target, opened.kit),
        target_hex=after.rgb.hex,
        target_css=after.css,
        derived=is_derived(choice.target),
        guest=any(guest.key == ramp for guest in opened.plan.guests),
        by=choice.by,
        reason=choice.reason,
        exception=exception,
    )


def _step(target: str, kit: Kit) -> int | None:
    token = token_of(target)
    if token is None:
        return None
    return kit.color(token.color).ramp.base_step if token.step is None else token.step


def _strange(finding: OffKit, asset: AssetRow, changes: Changes, opened: OpenSet) -> StrangePaint:
    sources = [key for key in asset.paints if finding.paint in changes.recoloring.results(parse_key(key))]
    inventory = opened.files.facts[asset.id].inventory
    # Nothing becomes it: it stands in what a person has kept, or is of the logo that was put there.
    kept = finding.paint in inventory.sites and any(act.keeps for act in changes.acts)
    kept |= changes.logo is not None and changes.logo.shows(finding.paint.rgb)
    return StrangePaint(
        key=finding.paint.key,
        hex=finding.paint.rgb.hex,
        sites=finding.sites,
        severity=finding.severity,
        nearest=str(finding.nearest) if finding.nearest else None,
        nearest_name=opened.kit.label(finding.nearest) if finding.nearest else None,
        nearest_hex=finding.nearest_color.hex if finding.nearest_color else None,
        difference=None if finding.difference is None else f"{finding.difference:.1f}",
        sources=sources,
        chosen=(kept and not sources) or bool(opened.plan.chosen_in(asset.name, sources, inventory.selectors)),
        natural=finding.natural(inventory),
    )
