"""A link as it is shown."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from sqlalchemy.orm import Session

from pavese.api.editions.views import draft_published, form_views, published
from pavese.api.kits.views import color_views
from pavese.api.proving.views import pairs_view, rules_view, see_through_view
from pavese.api.sets.views import fingerprint
from pavese.api.shared.schemas import SharedFile, SharedLogo, SharedSet, SharedView
from pavese.api.typefaces.views import type_view
from pavese.core.handoff.published import Published
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo_on_grounds import best_ground
from pavese.core.recolor.changes import Changes
from pavese.store import belonging, links
from pavese.store.models import Link, LinkFile, LinkSet


def link_published(session: Session, link: Link) -> Published:
    """What a link shows, for the writers."""
    if link.edition is not None:
        return published(session, link.edition)
    return draft_published(session, links.content_of(link), link.made_at.date())


def shared_view(session: Session, link: Link) -> SharedView:
    """What a link shows."""
    given = link_published(session, link)
    kit = given.kit
    return SharedView(
        name=kit.name,
        number=given.number,
        note=given.note,
        who=link.edition.who if link.edition else link.who,
        at=link.edition.made_at if link.edition else link.made_at,
        digest=given.digest,
        colors=color_views(kit),
        pairs=pairs_view(kit),
        rules=rules_view(kit),
        see_through=[see_through_view(kit, setting) for setting in kit.see_through],
        type=type_view(kit, outside=True),
        logo=_logo(kit),
        sets=[SharedSet(id=one.id, name=one.name, files=links.count(session, one)) for one in link.sets],
        forms=form_views(),
    )


def changes_of(link: Link, shown: LinkSet) -> Callable[[LinkFile], Changes]:
    """What becomes of the files of a set, in the colors that the link shows."""
    plan = links.plan_of(shown)
    by_file = plan.changes_by_file(plan.kit_with_guests(links.content_of(link).kit))
    return lambda row: by_file(row.name, row.paints, belonging.templates(row))


def file_views(link: Link, shown: LinkSet, rows: Sequence[LinkFile]) -> list[SharedFile]:
    """Files of a set."""
    changes = changes_of(link, shown)
    return [SharedFile(id=row.id, name=row.name, fingerprint=fingerprint(row, changes(row))) for row in rows]


def _logo(kit: Kit) -> SharedLogo | None:
    found = best_ground(kit)
    return SharedLogo(key=found.picture.key, behind=found.behind.hex) if found else None
