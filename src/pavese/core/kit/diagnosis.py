"""How readable a kit is, in words: how many pairs read, which colors and which roles have no partner."""

from __future__ import annotations

from dataclasses import dataclass

from pavese.core.color.contrast import LARGE, TEXT, WHITE, contrast_ratio, shown
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit
from pavese.core.kit.pairings import pairs
from pavese.core.kit.remarks import Remark
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Use


@dataclass(frozen=True)
class Diagnosis:
    """A first sentence, what is wrong (most pressing first, with the keys concerned), and what is decided."""

    summary: str
    findings: tuple[Remark, ...]
    approved: int
    declined: int
    reopened: tuple[Remark, ...]


def diagnosis(kit: Kit) -> Diagnosis:
    """The readability of a kit as it stands."""
    found = pairs(kit)
    by_status = [decision.status for decision in kit.decisions]
    reopened = tuple(
        Remark(decision.reopened, tuple(dict.fromkeys(token.partition(".")[0] for token in decision.pair)))
        for decision in kit.decisions
        if decision.reopened and decision.status is Status.OPEN
    )
    return Diagnosis(
        _summary(found.readable, found.total),
        (*_lonely(kit), *_roles(kit)) if len(kit.colors) > 1 else (),
        by_status.count(Status.APPROVED),
        by_status.count(Status.DECLINED),
        reopened,
    )


def unapproved_body(kit: Kit) -> bool:
    """Whether no pair is approved for body text, without which nothing can be published."""
    return not any(d.status is Status.APPROVED and d.use is Use.BODY for d in kit.decisions)


def _summary(readable: int, total: int) -> str:
    if not total:
        return "There is no pair yet; a pair needs two colors."
    if not readable:
        return f"No pair of {total:,} reads as body text (4.5 to 1)."
    return f"{readable:,} of {total:,} pairs read as body text (4.5 to 1)."


def _lonely(kit: Kit) -> list[Remark]:
    found = pairs(kit)
    remarks = []
    for key in found.without_partner:
        color = kit.color(key)
        others = [other for other in kit.colors if other.key != key]
        best = max(others, key=lambda other: contrast_ratio(color.base, other.base))
        ratio = contrast_ratio(color.base, best.base)
        use = "enough for large text and graphics" if ratio >= LARGE else "not enough even for large text"
        remarks.append(
            Remark(
                f"{color.name} reads with no other color; its best partner is {best.name} at {shown(ratio)}, {use}.",
                (key, best.key),
            )
        )
    return remarks


def _roles(kit: Kit) -> list[Remark]:
    """Roles that promise something about reading, and do not keep it."""
    by_role = {role: [color for color in kit.colors if color.role is role] for role in Role}
    texts = [*by_role[Role.TEXT_DARK], *by_role[Role.TEXT_LIGHT], *by_role[Role.BACKGROUND]]
    found = []
    for action in by_role[Role.ACTION]:
        reading = [text for text in texts if contrast_ratio(text.base, action.base) >= TEXT]
        if texts and not reading:
            white = contrast_ratio(WHITE, action.base)
            found.append(
                Remark(
                    f"No text color of the kit reads on {action.name}, the action color; white reaches {shown(white)}.",
                    (action.key,),
                )
            )
    grounds = by_role[Role.BACKGROUND]
    found += [
        Remark(f"{text.name}, the dark text, reads on no background of the kit.", (text.key,))
        for text in by_role[Role.TEXT_DARK]
        if grounds and not any(contrast_ratio(text.base, ground.base) >= TEXT for ground in grounds)
    ]
    if not by_role[Role.TEXT_DARK] and not by_role[Role.TEXT_LIGHT]:
        found.append(Remark("The kit has no text color, so body text has none to be set in."))
    if not grounds:
        found.append(Remark("The kit has no background color for text to stand on."))
    return found
