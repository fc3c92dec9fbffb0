"""Whether texts can be read on what they stand on, before and after (WCAG 2.2, 1.4.3)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from pavese.core.color.contrast import LARGE, TEXT, WHITE, contrast_ratio, seen_contrast
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.plan import Plan
from pavese.core.recolor.texts import TextRun


@dataclass(frozen=True)
class Reading:
    """How a text reads, as contrast ratios (unrounded): as it came, and as it becomes; `needed` is what it takes. The
    colors are what is seen, `ink` on `ground`, at its worst place where that is no one color."""

    run: TextRun
    before: float
    after: float
    needed: float
    ink: Rgb
    ground: Rgb

    @property
    def reads(self) -> bool:
        """Whether it can be read as it becomes."""
        return self.after >= self.needed

    @property
    def worse(self) -> bool:
        """Whether it could be read and no longer can, or could not and reads worse than it did."""
        return not self.reads and self.after < min(self.before, self.needed)


def readings(texts: Iterable[TextRun], changes: Changes, shown_on: Rgb) -> list[Reading]:
    """How texts read, the worst first. Those of which it is not known what they stand on are left out, and where the
    dark is said anew, those that were so in it: all there reads on what it is given."""
    seen = (run for run in texts if not (run.dark and changes.darkens))
    found = [one for run in seen if (one := reading(run, changes, shown_on)) is not None]
    return sorted(found, key=lambda one: (not one.worse, one.reads, one.after))


def readings_of_set(paints: SetPaints, plan: Plan, kit: Kit) -> Iterator[Reading]:
    """How the texts of all files read that are handed over, on white; `kit` has the guests of the plan."""
    out = frozenset(plan.left_out)
    changes_of = plan.changes_by_file(kit)
    for file in paints.files:
        if file.measured.texts and file.name not in out:
            changes = changes_of(file.name, [paint.key for paint in file.seen], file.others)
            yield from readings(file.measured.texts, changes, WHITE)


def reading(run: TextRun, changes: Changes, shown_on: Rgb) -> Reading | None:
    """How a text reads; None where it is not known what it stands on."""
    text, ink = run.text, run.inked(changes.recoloring)
    found = []
    for was, becomes in run.grounded(changes.recoloring):
        came, ground = was.over(shown_on), becomes.over(changes.ground or shown_on)
        inked = Rgba(*ink, text.shows).over(ground)
        before, after = seen_contrast(text.ink.rgb, text.shows, came), contrast_ratio(inked, ground)
        found.append((after, before, inked, ground))
    if not found:
        return None
    after, _, inked, ground = min(found)
    before = min(before for _, before, _, _ in found)
    return Reading(run, before, after, LARGE if text.large else TEXT, inked, ground)
