"""Sets as they are shown: paints with targets, files with the look of their recolored picture, findings."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from pavese.api.kit_views import history_view
from pavese.api.schemas import AssetView, CheckView, FileFindings, PaintView, SetView, StrangePaint
from pavese.core.check.conformance import Finding, check_paints
from pavese.core.color.naming import describe
from pavese.core.color.srgb import Rgb, Rgba, parse_key
from pavese.core.formats import read
from pavese.core.kit.kit import Kit
from pavese.core.recolor.inventory import PaintUse, recolored
from pavese.core.recolor.plan import Plan, label, token_of
from pavese.store import kits, sets
from pavese.store.models import AssetRow, SetRow


@dataclass(frozen=True)
class OpenSet:
    """A set with what its views are made from."""

    row: SetRow
    kit: Kit
    assets: Sequence[AssetRow]
    uses: tuple[PaintUse, ...]
    plan: Plan
    resolved: Mapping[Rgba, Rgb]


def open_set(session: Session, row: SetRow) -> OpenSet:
    """Reads a set's files and plan as they stand."""
    kit = kits.kit_of(session, kits.get(session, row.kit_id))
    assets = sets.assets(session, row)
    uses = sets.uses(assets)
    plan = sets.plan_of(session, row, kit, uses)
    return OpenSet(row, kit, assets, uses, plan, plan.resolve(kit))


def replanned(session: Session, opened: OpenSet) -> OpenSet:
    """The same set with the plan that is in force now."""
    plan = sets.plan_of(session, opened.row, opened.kit, opened.uses)
    return replace(opened, plan=plan, resolved=plan.resolve(opened.kit))


def set_view(session: Session, opened: OpenSet) -> SetView:
    """The whole set."""
    return SetView(
        id=opened.row.id,
        kit_id=opened.row.kit_id,
        name=opened.row.name,
        paints=[_paint(use, opened) for use in opened.uses],
        assets=[
            AssetView(
                id=asset.id,
                name=asset.name,
                look=look(asset, opened.resolved),
                paints={key: sum(counts.values()) for key, counts in asset.paints.items()},
                remarks=asset.remarks,
            )
            for asset in opened.assets
        ],
        history=history_view(session, opened.row.plan),
    )


def look(asset: AssetRow, recoloring: Mapping[Rgba, Rgb]) -> str:
    """A hash of everything the recolored picture of a file depends on."""
    parts = [asset.digest]
    for key in sorted(asset.paints):
        color = recoloring.get(parse_key(key))
        parts.append(f"{key}>{color.hex if color else ''}")
    return hashlib.sha256("\n".join(parts).encode()).hexdigest()[:24]


def check_view(session: Session, opened: OpenSet) -> CheckView:
    """Checks every file as it would be handed over: recolored, written, and read again."""
    found = []
    for asset, data in sets.files(session, opened.assets):
        written = read(asset.name, data).apply(opened.resolved)
        inventory = read(asset.name, written).inventory()
        strange = [_strange(finding, asset, opened) for finding in check_paints(inventory, opened.kit)]
        if strange or inventory.remarks:
            found.append(
                FileFindings(
                    asset=asset.id,
                    name=asset.name,
                    look=look(asset, opened.resolved),
                    paints=strange,
                    remarks=list(inventory.remarks),
                )
            )
    off = sum(bool(entry.paints) for entry in found)
    return CheckView(files=len(opened.assets), clean=len(opened.assets) - off, findings=found)


def _paint(use: PaintUse, opened: OpenSet) -> PaintView:
    key = use.paint.key
    choice = opened.plan.choices[key]
    token = token_of(choice.target)
    after = recolored(use.paint, opened.resolved)
    return PaintView(
        key=key,
        hex=use.paint.rgb.hex,
        css=use.paint.css,
        name=describe(use.paint.rgb),
        files=use.files,
        sites=use.sites,
        kinds=list(use.kinds),
        target=choice.target,
        target_color=token.color if token else None,
        target_step=_step(choice.target, opened.kit),
        target_name=label(choice.target, opened.kit),
        target_hex=after.rgb.hex,
        target_css=after.css,
        by=choice.by,
        reason=choice.reason,
    )


def _step(target: str, kit: Kit) -> int | None:
    token = token_of(target)
    if token is None:
        return None
    return kit.color(token.color).ramp.base_step if token.step is None else token.step


def _strange(finding: Finding, asset: AssetRow, opened: OpenSet) -> StrangePaint:
    sources = [key for key in asset.paints if recolored(parse_key(key), opened.resolved) == finding.paint]
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
        chosen=any(opened.plan.choices[key].by == "you" for key in sources),
    )
