"""Deciding on pairs and trios: approved, declined, or open again."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import NamedTuple

from pavese.core.color.contrast import contrast_ratio, shown
from pavese.core.errors import InvalidKitError
from pavese.core.kit.decisions import Decision, Status, TrioDecision, reads_in
from pavese.core.kit.kit import Kit
from pavese.core.kit.pairings import subjects
from pavese.core.kit.rules import Use
from pavese.core.kit.token import parse_token


class Judgement(NamedTuple):
    """What is decided, for which use (None: the most demanding that each pair bears), by whom, when, and why."""

    status: Status
    use: Use | None
    by: str
    at: datetime
    note: str = ""


def decided(kit: Kit, pairs: Sequence[tuple[str, str]], judgement: Judgement) -> Kit:
    """The kit with a decision on each pair (text, ground); decisions that were there give way.

    Raises InvalidKitError for a pair that does not take part, and for an approval that a pair does not bear; then
    nothing is decided.
    """
    taking_part = {str(subject.token) for subject in subjects(kit)}
    new: dict[tuple[str, str], Decision] = {}
    failing: list[str] = []
    for text, ground in pairs:
        gone = next((token for token in (text, ground) if token not in taking_part), None)
        if gone is not None or text == ground:
            raise InvalidKitError(f"“{text} on {ground}” is no pair of this kit; it may have changed meanwhile.")
        ratio = contrast_ratio(kit.resolve(parse_token(text)), kit.resolve(parse_token(ground)))
        use = judgement.use or kit.rules.best_use(ratio)
        if judgement.status is Status.APPROVED and ratio < kit.rules.least(use):
            failing.append(f"{_title(kit, text)} on {_title(kit, ground)} at {shown(ratio)}")
        new[text, ground] = Decision(
            text=text,
            ground=ground,
            status=judgement.status,
            use=use,
            by=judgement.by,
            at=judgement.at,
            note=judgement.note,
        )
    if failing:
        raise InvalidKitError(_refusal(kit, failing, len(pairs), judgement))
    kept = [decision for decision in kit.decisions if decision.pair not in new]
    return kit.with_(decisions=(*kept, *(one for one in new.values() if one.status is not Status.OPEN)))


def decided_trios(kit: Kit, found: Sequence[tuple[str, str, str]], judgement: Judgement) -> Kit:
    """The kit with a decision on each trio (ground, title, graphic).

    Raises InvalidKitError for a trio that does not take part, and for an approval of one whose pairs are not approved.
    """
    taking_part = {str(subject.token) for subject in subjects(kit)}
    approved = {one.pair: one.use for one in kit.decisions if one.status is Status.APPROVED}
    new = {}
    for ground, title, graphic in found:
        if not taking_part >= {ground, title, graphic}:
            raise InvalidKitError(
                f"“{title} and {graphic} on {ground}” is no trio of this kit; it may have changed meanwhile."
            )
        if judgement.status is Status.APPROVED and not reads_in(approved, title, graphic, ground):
            raise InvalidKitError("A trio is approved only while both of its pairs are approved.")
        new[ground, title, graphic] = TrioDecision(
            ground=ground,
            title=title,
            graphic=graphic,
            status=judgement.status,
            by=judgement.by,
            at=judgement.at,
            note=judgement.note,
        )
    kept = [trio for trio in kit.trios if trio.three not in new]
    return kit.with_(trios=(*kept, *(one for one in new.values() if one.status is not Status.OPEN)))


def _title(kit: Kit, token: str) -> str:
    return kit.title(parse_token(token))


def _refusal(kit: Kit, failing: Sequence[str], asked: int, judgement: Judgement) -> str:
    assert judgement.use is not None, "what each bears is borne by each"
    least = f"{judgement.use.value} needs {kit.rules.least(judgement.use):g}"
    if asked == 1:
        return f"{failing[0]} cannot be approved: {least}."
    verb = "does" if len(failing) == 1 else "do"
    return f"{len(failing)} of {asked} pairs {verb} not reach it, such as {failing[0]}; {least}. Nothing was decided."
