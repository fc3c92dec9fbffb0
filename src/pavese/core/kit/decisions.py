"""What a person decided on a pair, or on a trio: approved for a use, declined, or open.

Least ratios: WCAG 2.2, 1.4.3 (text 4.5, large text 3) and 1.4.11 (graphical objects 3); decoration bears no
information and has none.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime
from enum import StrEnum

from pydantic import BaseModel, ConfigDict

from pavese.core.color.contrast import shown
from pavese.core.kit.plain import PlainNote
from pavese.core.kit.rules import Rules, Use
from pavese.core.kit.token import TokenText


class Status(StrEnum):
    """What was decided."""

    OPEN = "open"
    APPROVED = "approved"
    DECLINED = "declined"


class Decision(BaseModel):
    """A decision on one color as text on another as ground; `use` is what an approved pair is approved for.

    `reopened` says why a pair that was approved is open again.
    """

    model_config = ConfigDict(frozen=True)

    text: TokenText
    ground: TokenText
    status: Status
    use: Use = Use.BODY
    by: str = ""
    at: datetime | None = None
    note: PlainNote = ""
    reopened: str = ""

    @property
    def pair(self) -> tuple[str, str]:
        """Text and ground."""
        return self.text, self.ground


class TrioDecision(BaseModel):
    """A decision on two foregrounds that stand together on one ground."""

    model_config = ConfigDict(frozen=True)

    ground: TokenText
    title: TokenText
    graphic: TokenText
    status: Status
    by: str = ""
    at: datetime | None = None
    note: PlainNote = ""
    reopened: str = ""

    @property
    def three(self) -> tuple[str, str, str]:
        """Ground, title, graphic."""
        return self.ground, self.title, self.graphic


#: The ratio of two tokens, unrounded; None when one of them is gone.
Ratio = Callable[[str, str], float | None]


def settled(
    decisions: Sequence[Decision],
    trios: Sequence[TrioDecision],
    rules: Rules,
    ratio: Ratio,
    title: Callable[[str], str],
) -> tuple[tuple[Decision, ...], tuple[TrioDecision, ...]]:
    """The decisions as the colors bear them out: those of colors that are gone go, broken approvals are opened."""
    kept = tuple(
        held
        for decision in decisions
        if (reached := ratio(*decision.pair)) is not None
        for held in (_settled_pair(decision, reached, rules, title),)
    )
    approved = {decision.pair: decision.use for decision in kept if decision.status is Status.APPROVED}
    kept_trios = tuple(
        held
        for trio in trios
        if ratio(trio.title, trio.ground) is not None and ratio(trio.graphic, trio.ground) is not None
        for held in (_settled_trio(trio, approved, title),)
    )
    return kept, kept_trios


def reads_in(approved: dict[tuple[str, str], Use], title: str, graphic: str, ground: str) -> bool:
    """Whether a title and a graphic are both approved on a ground: for text and for graphics."""
    title_use, graphic_use = approved.get((title, ground)), approved.get((graphic, ground))
    return title_use in (Use.BODY, Use.LARGE) and graphic_use is not None and graphic_use is not Use.DECORATION


def _settled_pair(decision: Decision, reached: float, rules: Rules, title: Callable[[str], str]) -> Decision:
    least = rules.least(decision.use)
    if decision.status is not Status.APPROVED or reached >= least:
        return decision
    why = (
        f"{title(decision.text)} on {title(decision.ground)} was approved for {decision.use.value}; it now reaches "
        f"{shown(reached)}, and {least:g} is needed."
    )
    return decision.model_copy(update={"status": Status.OPEN, "reopened": why})


def _settled_trio(
    trio: TrioDecision, approved: dict[tuple[str, str], Use], title: Callable[[str], str]
) -> TrioDecision:
    if trio.status is not Status.APPROVED or reads_in(approved, trio.title, trio.graphic, trio.ground):
        return trio
    why = f"A pair on {title(trio.ground)} that this trio is made of is no longer approved."
    return trio.model_copy(update={"status": Status.OPEN, "reopened": why})
