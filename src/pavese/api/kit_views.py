"""Kits as they are shown."""

from __future__ import annotations

from collections import Counter

from sqlalchemy.orm import Session

from pavese.api.schemas import (
    Answer,
    Answers,
    Candidate,
    Candidates,
    ColorView,
    Column,
    History,
    KitView,
    Marks,
    Pairs,
    PairView,
    RemarkView,
    SetEntry,
    StageNotes,
    Step,
)
from pavese.core.check.conformance import Verdict, check_paints, nearest, verdict
from pavese.core.color.contrast import BLACK, WHITE, Level, contrast_ratio, readable_ink, shown
from pavese.core.color.difference import NEAR, SAME
from pavese.core.color.naming import describe
from pavese.core.color.oklab import oklch_of
from pavese.core.color.parse import try_color
from pavese.core.color.ramp import AIMS, STEPS
from pavese.core.color.srgb import Rgb
from pavese.core.kit.codes import MOST_CODES, FoundCode, find_codes
from pavese.core.kit.kit import Kit, KitColor, Role
from pavese.core.kit.pairings import pairs
from pavese.core.kit.remarks import remarks
from pavese.core.kit.roles import propose_roles
from pavese.store import history, sets
from pavese.store.models import KitRow, SetRow, Subject


def history_view(session: Session, subject: Subject) -> History:
    """Where a draft stands in its history."""
    state = history.state(session, subject)
    return History(undo=state.undo, redo=state.redo, saved_at=state.saved_at, revision=state.revision)


def kit_view(session: Session, row: KitRow, kit: Kit) -> KitView:
    """A kit with its ramps, history and stages."""
    listed = sets.of_kit(session, row.id)
    dark = next((color for color in kit.in_line() if color.role is Role.TEXT_DARK), None)
    dark_ink = dark.base if dark else BLACK
    colors = [_color(color, dark_ink) for color in kit.in_line()]
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
        stages=_stages(session, kit, [entry for entry, _ in listed], sum(files for _, files in listed)),
        sets=[SetEntry(id=entry.id, name=entry.name, files=files) for entry, files in listed],
    )


def pairs_view(kit: Kit) -> Pairs:
    """All ordered pairs of a kit."""
    found = pairs(kit)
    counts = Counter(pair.level for pair in found)
    return Pairs(
        pairs=[
            PairView(text=pair.text.key, ground=pair.ground.key, ratio=shown(pair.ratio), level=pair.level)
            for pair in found
        ],
        counts={level: counts[level] for level in Level},
    )


def answers_view(text: str, kit: Kit) -> Answers:
    """Whether the colors in a text are of the kit; a text that is one CSS color in itself is that color."""
    single = try_color(text)
    asked = [(text.strip(), single.rgb)] if single else [(found.code, found.color) for found in find_codes(text)]
    answers = []
    for (code, color), near in zip(asked, nearest([color for _, color in asked], kit) if asked else [], strict=True):
        if near is None:
            answers.append(Answer(code=code, hex=color.hex, verdict=Verdict.OFF, difference="", name="", nearest=""))
            continue
        token, own, difference = near
        answers.append(
            Answer(
                code=code,
                hex=color.hex,
                verdict=verdict(difference),
                difference=f"{difference:.1f}",
                name=kit.label(token),
                nearest=own.hex,
            )
        )
    return Answers(answers=answers)


def candidates_view(found: tuple[FoundCode, ...], kit: Kit | None) -> Candidates:
    """Codes found in a text, with a role each, and what the kit has already."""
    known = nearest([code.color for code in found], kit) if kit else [None] * len(found)
    taken = [color.role for color in kit.colors] if kit else []
    roles = propose_roles([(code.color, code.name if code.named else None) for code in found], taken)
    listed = []
    for code, role, near in zip(found, roles, known, strict=True):
        close = near is not None and near[2] < NEAR
        listed.append(
            Candidate(
                hex=code.color.hex,
                ink=readable_ink(code.color).hex,
                name=code.name,
                named=code.named,
                role=role,
                code=code.code,
                line=code.line,
                column=code.column,
                context=code.context,
                certain=code.certain,
                places=code.places,
                known_as=kit.label(near[0]) if close and near and kit else None,
                difference=None if not close or not near else "same" if near[2] < SAME else f"{near[2]:.1f}",
            )
        )
    note = f"Only the first {MOST_CODES:,} different colors are listed." if len(found) == MOST_CODES else None
    return Candidates(found=listed, note=note)


def _color(color: KitColor, dark_ink: Rgb) -> ColorView:
    ramp = color.ramp
    lightness, chroma, hue = (float(v) for v in oklch_of([color.base])[0])
    return ColorView(
        key=color.key,
        name=color.name,
        role=color.role,
        hex=color.base.hex,
        ink=readable_ink(color.base).hex,
        rgb=" ".join(map(str, color.base)),
        oklch=f"{lightness:.3f} {chroma:.3f} {hue:.0f}",
        description=describe(color.base),
        base_step=ramp.base_step,
        steps=[
            Step(
                step=step,
                hex=ramp.at(step).hex,
                ink=readable_ink(ramp.at(step)).hex,
                contrast=shown(contrast_ratio(WHITE, ramp.at(step))),
                base=step == ramp.base_step,
            )
            for step in STEPS
        ],
        dark_text_until=ramp.dark_text_until(dark_ink),
        white_text_from=ramp.light_text_from(WHITE),
        notes=[
            f"{found.light} against {found.dark} reaches {shown(found.ratio)} instead of {found.promised:g}, "
            f"because the base stands at {ramp.base_step} unchanged."
            for found in ramp.breaks()
        ],
    )


def _stages(session: Session, kit: Kit, rows: list[SetRow], files: int) -> StageNotes:
    found = pairs(kit)
    readable = sum(pair.level in (Level.AA, Level.AAA) for pair in found)
    off = sum(_files_off(session, row, kit) for row in rows)
    count = len(kit.colors)
    return StageNotes(
        gather="from codes",
        compose=_count(count, "color") if count else "no colors yet",
        prove=f"{readable} of {len(found)} pairs read as text" if found else "no pairs yet",
        apply=f"{_count(len(rows), 'set')}, {_count(files, 'file')}" if rows else "no files yet",
        check=("nothing to check yet" if not files else f"{_count(off, 'file')} off kit" if off else "all of the kit"),
        hand_over=_count(sum(1 for _ in rows), "package") + " ready" if files else "nothing yet",
    )


def _files_off(session: Session, row: SetRow, kit: Kit) -> int:
    """How many files of a set will hold paint that is not of the kit, by their paints and the plan."""
    assets = sets.assets(session, row)
    resolved = sets.plan_of(session, row, kit, sets.uses(assets)).resolve(kit)
    return sum(bool(check_paints(sets.inventory(asset).after(resolved), kit)) for asset in assets)


def _count(number: int, noun: str) -> str:
    return f"{number:,} {noun}" if number == 1 else f"{number:,} {noun}s"
