"""Kits as they are shown."""

from __future__ import annotations

import hashlib
from collections import Counter
from collections.abc import Sequence
from threading import Lock

import orjson
from cachetools import LRUCache
from sqlalchemy.orm import Session

from pavese.api.schemas import (
    Answer,
    Answers,
    BasePreview,
    Candidate,
    Candidates,
    ColorView,
    Column,
    History,
    KitEntry,
    KitView,
    LineColor,
    Marks,
    RemarkView,
    SetEntry,
    StageNotes,
    Step,
    TintView,
    Untaken,
)
from pavese.core.check.conformance import Holds, held_by_files
from pavese.core.color.contrast import BLACK, WHITE, Level, contrast_ratio, readable_ink, shown
from pavese.core.color.difference import difference
from pavese.core.color.families import HueFamily, families_of
from pavese.core.color.naming import describe
from pavese.core.color.notations import notations
from pavese.core.color.ramp import AIMS, STEPS, Ramp
from pavese.core.color.srgb import Rgb
from pavese.core.gather.candidates import Spotted, candidates, from_source
from pavese.core.kit.codes import MOST_CODES
from pavese.core.kit.codes import Untaken as UntakenCode
from pavese.core.kit.guarantee import Shortfall, shortfalls
from pavese.core.kit.kit import Kit, KitColor
from pavese.core.kit.ours import Verdict, asked_for, nearest, verdict
from pavese.core.kit.pairings import pairs
from pavese.core.kit.remarks import remarks
from pavese.core.kit.role import Role
from pavese.store import editions, history, kits, records, sets, sources
from pavese.store.models import KitRow, SetRow, Subject

#: Names of other colors that one note tells.
_NAMED = 3


def history_view(session: Session, subject: Subject) -> History:
    """Where a draft stands in its history."""
    state = history.state(session, subject)
    return History(undo=state.undo, redo=state.redo, saved_at=state.saved_at, revision=state.revision)


def kit_view(session: Session, row: KitRow, kit: Kit) -> KitView:
    """A kit with its ramps, history and stages."""
    listed = sets.of_kit(session, row.id)
    dark = next((color for color in kit.colors if color.role is Role.TEXT_DARK), None)
    dark_ink = dark.base if dark else BLACK
    colors = color_views(kit)
    latest = editions.newest(session, row.id)
    return KitView(
        id=row.id,
        name=kit.name,
        colors=colors,
        columns=[Column(step=step, contrast=shown(aim)) for step, aim in zip(STEPS, AIMS, strict=True)],
        marks=Marks(
            dark_ink=dark_ink.hex,
            dark_name=dark.name if dark else "Black",
            dark_text_until=min((c.dark_text_until for c in colors if c.dark_text_until), default=None),
            white_text_from=max((c.white_text_from for c in colors if c.white_text_from), default=None),
        ),
        remarks=[RemarkView(text=found.text, colors=list(found.colors)) for found in remarks(kit)],
        history=history_view(session, row.draft),
        record=records.last(session, row.id),
        edition=latest.number if latest else None,
        drafted=latest is None or editions.content_of(latest).kit != kit,
        stages=_stages(session, row, kit, [entry for entry, _ in listed], sum(files for _, files in listed)),
        sets=[SetEntry(id=entry.id, name=entry.name, files=files) for entry, files in listed],
        samples=kit.samples.of(kit.name),
    )


def entry_views(session: Session) -> list[KitEntry]:
    """All kits, oldest first; however many, they are looked up at once."""
    listed = kits.listed(session)
    ids = [row.id for row, _ in listed]
    numbers, last = editions.newest_numbers(session, ids), records.last_of(session, ids)
    own_sets = sets.of_kits(session, ids)
    return [
        KitEntry(
            id=row.id,
            name=kit.name,
            colors=[LineColor(name=color.name, role=color.role, hex=color.base.hex) for color in kit.colors],
            edition=numbers.get(row.id),
            sets=[entry.name for entry, _ in own_sets[row.id]],
            files=sum(files for _, files in own_sets[row.id]),
            who=last[row.id].who,
            changed_at=last[row.id].at,
            active=row.active,
            archived=row.archived_at is not None,
        )
        for row, kit in listed
    ]


def base_preview(session: Session, row: KitRow, kit: Kit, after: Kit) -> BasePreview:
    """The colors that differ between two states of a kit, and which pairs read in one of them only."""
    old, new = color_views(kit), color_views(after)
    moved = [i for i in range(len(old)) if old[i].hex != new[i].hex]
    moved.sort(key=lambda i: old[i].tint is not None)
    was, becomes = _readable(kit), _readable(after)
    changes = [difference(kit.colors[i].base, after.colors[i].base) for i in moved[:1]]
    return BasePreview(
        before=[old[i] for i in moved],
        after=[new[i] for i in moved],
        difference=f"{changes[0]:.1f}" if changes else "0.0",
        pairs_gained=sorted(becomes - was),
        pairs_lost=sorted(was - becomes),
        files=sum(files for _, files in sets.of_kit(session, row.id)),
    )


def _readable(kit: Kit) -> set[str]:
    return {
        f"{kit.title(pair.text)} on {kit.title(pair.ground)}"
        for pair in pairs(kit).best_first()
        if pair.level in (Level.AA, Level.AAA)
    }


def answers_view(text: str, kit: Kit) -> Answers:
    """Whether what is asked for in a text is of the kit."""
    asked = asked_for(text, kit)
    found = answers_of([color for _, color in asked], kit)
    return Answers(answers=[one.model_copy(update={"code": code}) for (code, _), one in zip(asked, found, strict=True)])


def answers_of(colors: Sequence[Rgb], kit: Kit) -> list[Answer]:
    """Whether each color is of the kit, and what is nearest to it."""
    answers = []
    for color, near in zip(colors, nearest(colors, kit) if colors else [], strict=True):
        if near is None:
            empty = Answer(code=color.hex, hex=color.hex, verdict=Verdict.OFF, difference="", name="", nearest="")
            answers.append(empty)
            continue
        token, own, difference = near
        answers.append(
            Answer(
                code=color.hex,
                hex=color.hex,
                verdict=verdict(difference, kit.rules),
                difference=f"{difference:.1f}",
                name=kit.label(token),
                nearest=own.hex,
            )
        )
    return answers


def candidates_view(spotted: Sequence[Spotted], kit: Kit | None) -> list[Candidate]:
    """Colors found in a source, with a name and a role each, and what the kit has already."""
    return [
        Candidate(
            hex=found.spotted.color.hex,
            ink=readable_ink(found.spotted.color).hex,
            name=found.name,
            role=found.role,
            where=found.spotted.where,
            context=found.spotted.context,
            certain=found.spotted.certain,
            pin=found.spotted.pin,
            opaque=None if found.spotted.alpha >= 1 else f"{found.spotted.alpha:.0%}".replace("%", " %"),
            known_as=found.known_as,
            difference=None if found.difference is None else "same" if found.same else f"{found.difference:.1f}",
        )
        for found in candidates(spotted, kit)
    ]


def codes_view(spotted: Sequence[Spotted], kit: Kit | None, untaken: Sequence[UntakenCode] = ()) -> Candidates:
    """Colors found as codes; `note` says so when there were more."""
    note = f"Only the first {MOST_CODES:,} different colors are listed." if len(spotted) == MOST_CODES else None
    left = [Untaken(line=one.line, text=one.text, why=one.why) for one in untaken]
    return Candidates(found=candidates_view(spotted, kit), untaken=left, note=note)


def color_views(kit: Kit) -> list[ColorView]:
    """The colors of a kit with their ramps."""
    dark = next((color.base for color in kit.colors if color.role is Role.TEXT_DARK), BLACK)
    families = families_of([color.base for color in kit.colors])
    missed = shortfalls(kit)
    return [_color(color, dark, family, missed[color.key]) for color, family in zip(kit.colors, families, strict=True)]


def _color(color: KitColor, dark_ink: Rgb, family: HueFamily | None, missed: Sequence[Shortfall]) -> ColorView:
    ramp = color.ramp
    tint = color.tint
    return ColorView(
        key=color.key,
        name=color.name,
        role=color.role,
        hex=color.base.hex,
        ink=readable_ink(color.base).hex,
        notations=notations(color.base),
        description=describe(color.base),
        family=family,
        note=color.note,
        tint=TintView(of=tint.of, shade=tint.shade, strength=round(tint.strength * 100)) if tint else None,
        base_step=ramp.base_step,
        steps=[
            Step(
                step=step,
                hex=ramp.at(step).hex,
                ink=readable_ink(ramp.at(step)).hex,
                contrast=shown(contrast_ratio(WHITE, ramp.at(step))),
                base=step == ramp.base_step,
                pinned=step in ramp.pinned,
            )
            for step in STEPS
        ],
        dark_text_until=ramp.dark_text_until(dark_ink),
        white_text_from=ramp.light_text_from(WHITE),
        notes=[_note(found, ramp) for found in missed],
    )


def _note(found: Shortfall, ramp: Ramp) -> str:
    names = ["its own", *found.others] if found.own and found.others else list(found.others)
    of = f" of {_some(names)}" if names else ""
    least = "as little as " if len(names) > 1 else ""
    return (
        f"{found.step} against {found.against}{of} reaches {least}{shown(found.ratio)} instead of {found.promised:g}, "
        f"{_because(ramp, found.step, found.against if found.own else found.step)}"
    )


def _because(ramp: Ramp, *steps: int) -> str:
    if ramp.pinned.intersection(steps):
        return "because a step is pinned."
    return f"because the base stands at {ramp.base_step} unchanged."


def _some(names: Sequence[str]) -> str:
    """A few names, and how many more there are."""
    if len(names) <= _NAMED:
        return " and ".join(filter(None, (", ".join(names[:-1]), names[-1])))
    return f"{', '.join(names[:_NAMED])} and {len(names) - _NAMED} more"


def _stages(session: Session, row: KitRow, kit: Kit, rows: list[SetRow], files: int) -> StageNotes:
    found = pairs(kit)
    held: Counter[Holds] = sum((_held(session, one, kit) for one in rows), Counter())
    count = len(kit.colors)
    return StageNotes(
        gather=_gathered(session, row),
        compose=_count(count, "color") if count else "no colors yet",
        prove=f"{found.readable} of {found.total} pairs read as text" if found.total else "no pairs yet",
        apply=f"{_count(len(rows), 'set')}, {_count(files, 'file')}" if rows else "no files yet",
        check=_checked(held) if files else "nothing to check yet",
        hand_over=_count(sum(1 for _ in rows), "package") + " ready" if files else "nothing yet",
    )


def _gathered(session: Session, row: KitRow) -> str:
    found = [source for _, source in sources.of_kit(session, row.id)]
    if not found:
        return "from codes"
    return f"{_count(len(found), 'source')}, {_count(sum(len(from_source(source)) for source in found), 'candidate')}"


def _checked(held: Counter[Holds]) -> str:
    """What files hold beside paint of the kit, in few words."""
    words = {Holds.OFF: "off the kit", Holds.WANTED: "kept on purpose", Holds.NATURAL: "natural"}
    return ", ".join(f"{held[one]:,} {said}" for one, said in words.items() if held[one]) or "all of the kit"


def _held(session: Session, row: SetRow, kit: Kit) -> Counter[Holds]:
    """What the files of a set will hold by the kit, or by the edition the set is bound to, by their paints and the
    plan; counted once as long as none of these changes."""
    if row.edition is not None:
        kit = editions.content_of(row.edition).kit
    plan = orjson.dumps(history.current(session, row.plan))
    key = hashlib.sha256(b"\n".join((kit.model_dump_json().encode(), plan, sets.files_key(session, row).encode())))
    with _COUNTING:
        known = _HELD.get(key.digest())
    if known is None:
        known = _counted(session, row, kit)
        with _COUNTING:
            _HELD[key.digest()] = known
    return known


#: Counts of files by what they hold, by all they depend on.
_HELD: LRUCache[bytes, Counter[Holds]] = LRUCache(2000)
_COUNTING = Lock()


def _counted(session: Session, row: SetRow, kit: Kit) -> Counter[Holds]:
    files = sets.files_of(session, row)
    plan = sets.plan_of(session, row, kit, files.paints)
    left, ours = set(plan.left_out), plan.kit_with_guests(kit)
    changes = plan.changes_by_file(ours)
    handed = (asset for asset in files.rows if asset.name not in left)
    becoming = (
        (found, changes(one.name, one.paints), plan.chosen_in(one.name, one.paints, found.selectors))
        for one, found in ((one, files.facts[one.id].inventory) for one in handed)
    )
    return held_by_files(becoming, ours)


def _count(number: int, noun: str) -> str:
    return f"{number:,} {noun}" if number == 1 else f"{number:,} {noun}s"
