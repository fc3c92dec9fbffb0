"""What Prove shows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from pavese.api.kits.views import candidates_view
from pavese.api.proving.schemas import (
    AdditionView,
    ChangeView,
    ConfusionView,
    ControlView,
    DecisionView,
    DiagnosisView,
    ElsewhereView,
    EqualView,
    LogoFile,
    LogoGround,
    LogoView,
    NudgesView,
    NudgeView,
    PairsView,
    RecordView,
    RulesView,
    SeeThroughView,
    StateColors,
    StatesView,
    StateView,
    SubjectView,
    TrioPart,
    TrioView,
    VisionView,
)
from pavese.api.schemas import RemarkView
from pavese.core.color.contrast import BLACK, WHITE, contrast_ratio, readable_ink, shown
from pavese.core.color.vision import Vision, seen
from pavese.core.gather.candidates import from_logo
from pavese.core.kit.confusions import confusions
from pavese.core.kit.controls import controls
from pavese.core.kit.decisions import Status
from pavese.core.kit.diagnosis import diagnosis
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import LogoPicture
from pavese.core.kit.logo_on_grounds import logo_on_colors
from pavese.core.kit.nudging import sides, ways
from pavese.core.kit.pairings import LEVELS, pairs
from pavese.core.kit.places import in_words
from pavese.core.kit.remarks import Remark
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Use
from pavese.core.kit.see_through import SeeThrough
from pavese.core.kit.see_through_steps import base_of, equals
from pavese.core.kit.token import Token, parse_token
from pavese.core.kit.trios import Trio, trios
from pavese.core.kit.widen import additions
from pavese.store.models import Record

#: Roles whose colors lie under others.
_GROUNDS = (Role.BACKGROUND, Role.NEUTRAL, Role.TEXT_DARK)


def pairs_view(kit: Kit, vision: Vision = Vision.USUAL, severity: float = 1.0) -> PairsView:
    """Every ordered pair of a kit."""
    found = pairs(kit)
    looks = seen([subject.color for subject in found.subjects], vision, severity)
    index = {str(subject.token): i for i, subject in enumerate(found.subjects)}
    least = np.array([kit.rules.least(use) for use in Use])
    uses = (found.ratios[..., None] >= least).argmax(axis=-1)
    return PairsView(
        subjects=[
            SubjectView(
                token=str(subject.token),
                color=subject.token.color,
                step=subject.token.step,
                name=kit.title(subject.token),
                role=kit.color(subject.token.color).role,
                hex=subject.color.hex,
                seen=look.hex,
            )
            for subject, look in zip(found.subjects, looks, strict=True)
        ],
        ratios=[[shown(ratio) for ratio in row] for row in found.ratios.tolist()],
        levels=found.levels.tolist(),
        level_names=list(LEVELS),
        uses=uses.tolist(),
        use_names=list(Use),
        counts=found.counts,
        decisions=[
            DecisionView(
                text=index[decision.text],
                ground=index[decision.ground],
                status=decision.status,
                use=decision.use,
                by=decision.by,
                at=decision.at,
                note=decision.note,
                reopened=decision.reopened,
            )
            for decision in kit.decisions
            # Decisions on steps that are switched off wait until they are switched on again.
            if decision.text in index and decision.ground in index
        ],
    )


def diagnosis_view(kit: Kit) -> DiagnosisView:
    """How readable a kit is."""
    found = diagnosis(kit)
    return DiagnosisView(
        summary=found.summary,
        findings=remark_views(found.findings),
        reopened=remark_views(found.reopened),
        approved=found.approved,
        declined=found.declined,
        additions=[
            AdditionView(
                token=str(one.token),
                shade=one.shade,
                name=f"{kit.color(one.token.color).name} {one.shade.value}" if one.shade else kit.title(one.token),
                hex=one.color.hex,
                ink=readable_ink(one.color).hex,
                gained=one.gained,
                helped=[kit.color(key).name for key in one.helped],
            )
            for one in additions(kit)
        ],
    )


def remark_views(found: Sequence[Remark]) -> list[RemarkView]:
    """Remarks as they are shown."""
    return [RemarkView(text=remark.text, colors=list(remark.colors)) for remark in found]


def trio_views(kit: Kit) -> list[TrioView]:
    """The trios that can be, those that were approved once and are open again included."""
    status = {trio.three: trio for trio in kit.trios}

    def part(token: Token, ratio: float | None = None) -> TrioPart:
        color = kit.resolve(token)
        return TrioPart(
            token=str(token), name=kit.title(token), hex=color.hex, ratio="" if ratio is None else shown(ratio)
        )

    def view(trio: Trio) -> TrioView:
        decision = status.get((str(trio.ground), str(trio.title), str(trio.graphic)))
        return TrioView(
            ground=part(trio.ground),
            title=part(trio.title, trio.title_ratio),
            graphic=part(trio.graphic, trio.graphic_ratio),
            apart=f"{trio.apart:.0f}",
            status=decision.status if decision else Status.OPEN,
            by=decision.by if decision else "",
        )

    return [view(trio) for trio in trios(kit)]


def nudges_view(kit: Kit, text: Token, ground: Token, use: Use) -> NudgesView:
    """The smallest changes that make a pair fit for a use."""
    found = []
    for way in ways(kit, text, ground, use):
        steps = {side.token: side.step for side in sides(kit, text, ground, way)}
        found.append(
            NudgeView.model_validate(
                {
                    "changes": way.changes,
                    "text": way.text.hex,
                    "ground": way.ground.hex,
                    "difference": f"{way.difference:.1f}",
                    "ratio": shown(way.ratio),
                    "text_step": steps.get(text),
                    "ground_step": steps.get(ground),
                }
            )
        )
    ratio = contrast_ratio(kit.resolve(text), kit.resolve(ground))
    return NudgesView(wanted=f"{kit.rules.least(use):g}", ratio=shown(ratio), ways=found)


def vision_view(kit: Kit, severity: float) -> VisionView:
    """The kit under every kind of vision."""
    bases = [color.base for color in kit.colors]
    return VisionView(
        severity=severity,
        looks=[
            StateColors(vision=vision, colors=[look.hex for look in seen(bases, vision, severity)]) for vision in Vision
        ],
        confusions=[
            ConfusionView(
                vision=one.vision,
                first=one.first,
                second=one.second,
                usual=f"{one.usual:.1f}",
                left=f"{one.left:.1f}",
            )
            for one in confusions(kit, severity)
        ],
    )


def rules_view(kit: Kit) -> RulesView:
    """The usage rules."""
    return RulesView(rules=kit.rules, words=list(kit.rules.in_words()))


def see_through_view(kit: Kit, setting: SeeThrough) -> SeeThroughView:
    """What a setting gives, on its base and on the grounds it may meet."""
    found = equals(kit, setting)
    base = base_of(kit, setting)
    own = {color.name: color.base for color in kit.colors if color.role in _GROUNDS}
    others = {"White": WHITE, "Black": BLACK} | own
    return SeeThroughView(
        setting=setting,
        name=kit.color(setting.of).name,
        base_name=setting.base.capitalize() if setting.plain else kit.title(parse_token(setting.base)),
        base=base.hex,
        steps=[
            EqualView(
                step=one.step,
                solid=one.solid.hex,
                seen=one.seen.hex,
                exact=one.exact,
                alpha=one.through.alpha,
                hex=one.through.hex,
                rgb=one.through.rgb,
                hsl=one.through.hsl,
                chroma=round(one.chroma, 4),
                full=round(one.full, 4),
            )
            for one in found
        ],
        grounds=[
            ElsewhereView(name=name, ground=ground.hex, seen=[one.through.over(ground).hex for one in found])
            for name, ground in others.items()
            if ground != base
        ],
    )


def states_view(kit: Kit) -> StatesView:
    """The controls in all states."""
    ground = next((color.base for color in kit.colors if color.role is Role.BACKGROUND), WHITE)
    return StatesView(
        hover=kit.states.hover,
        pressed=kit.states.pressed,
        disabled=kit.states.disabled,
        ground=ground.hex,
        ink=readable_ink(ground).hex,
        controls=[
            ControlView(
                kind=control.kind,
                color=control.color,
                name=kit.color(control.color).name,
                darker=control.darker,
                looks=[
                    StateView(
                        state=look.state,
                        token=str(look.fill),
                        name=kit.title(look.fill),
                        fill=look.fill_color.hex,
                        ink=look.ink.hex,
                        ratio=shown(look.ratio),
                        ring=look.ring.hex if look.ring else None,
                        ring_ratio=shown(look.ring_ratio) if look.ring_ratio else None,
                    )
                    for look in control.looks
                ],
            )
            for control in controls(kit)
        ],
    )


def logo_view(kit: Kit) -> LogoView:
    """The logo, and how it stands on the grounds of the kit."""

    def file(picture: LogoPicture | None) -> LogoFile | None:
        if picture is None:
            return None
        colors = [share.color.hex for share in picture.colors]
        return LogoFile(
            key=picture.key,
            name=picture.name,
            width=picture.width,
            height=picture.height,
            colors=colors,
            box=picture.box.hex if picture.box else None,
        )

    logo = kit.logo
    return LogoView(
        on_light=file(logo.on_light),
        on_dark=file(logo.on_dark),
        clear_space=logo.clear_space,
        backing=logo.backing,
        backing_hex=kit.resolve(parse_token(logo.backing.color)).hex if logo.backing else None,
        grounds=[
            LogoGround(
                name=kit.color(found.ground).name,
                ground=kit.color(found.ground).base.hex,
                behind=found.behind.hex,
                picture=found.picture.key,
                ratio=shown(found.ratio),
                enough=found.ratio >= kit.rules.least_graphics,
                usual=found.usual,
            )
            for found in logo_on_colors(kit)
        ],
        candidates=candidates_view(from_logo(logo), kit),
    )


def record_view(kit: Kit, record: Record) -> RecordView:
    """A line of the record."""
    return RecordView(
        id=record.id,
        who=record.who,
        what=record.what,
        at=record.at,
        changes=[
            ChangeView(place=in_words(place, kit), before=_short(change["before"]), after=_short(change["after"]))
            for place, change in record.places.items()
        ],
    )


def _short(value: Any) -> str:
    """What stood in a place, in short."""
    if value is None or value == "" or value == []:
        return "nothing"
    if isinstance(value, dict):
        return ", ".join(f"{key} {_short(part)}" for key, part in value.items() if part not in (None, "", []))[:200]
    if isinstance(value, list):
        return ", ".join(_short(part) for part in value)[:200]
    return str(value)[:200]
