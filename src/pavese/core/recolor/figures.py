"""How good a plan is, in figures, and what it could not keep, in words."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from pavese.core.color.contrast import contrast_ratio, luminance, shown
from pavese.core.color.oklab import hue_distance, oklch_of
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.kit.kit import Kit, members
from pavese.core.recolor.borders import LEAST_BORDER
from pavese.core.recolor.inventory import SetPaints
from pavese.core.recolor.levels import needed_ratio
from pavese.core.recolor.near import became_one
from pavese.core.recolor.site import Kind

#: Two paints whose luminance (plus 0.05) differs by less than this factor have no order that an eye would see.
_LEVEL = 1.06
#: A blend that was this grey in its middle, or turned this far from both its ends, is no blend of its ends' hues.
_COLORED, _TURN = 0.05, 50.0


@dataclass(frozen=True)
class Figures:
    """All are shares, 0 to 1, but `order`, which is Kendall's tau, -1 to 1.

    `kit`: area in colors of the kit or kept on purpose of them; `order`: lightness of paints that touch, weighted by
    their border; `contrast`: touching pairs with a ratio to keep that keep it; `distinct`: pairs of
    different paints of one drawing that stay different. `remarks` name what was lost.
    """

    kit: float
    order: float
    contrast: float
    distinct: float
    remarks: tuple[str, ...] = ()

    @property
    def score(self) -> float:
        """One number to rank plans by: what is noticed first weighs most."""
        return 4 * self.contrast + 3 * self.order + 2 * self.distinct + self.kit


def figures(
    paints: SetPaints, resolved: Mapping[Rgba, Rgb], kit: Kit, own: Mapping[str, Mapping[Rgba, Rgb]] | None = None
) -> Figures:
    """Measures a plan, given as what becomes of each paint that changes, and of those that become something else in
    single files (`own`, by name)."""
    known = members(kit)
    after = {use.paint: resolved.get(use.paint, use.paint.rgb) for use in paints.uses}
    measured = any(use.area for use in paints.uses)
    weight = {use.paint: use.area if measured else float(use.sites) for use in paints.uses}
    total = sum(weight.values())
    inside = sum(share for paint, share in weight.items() if paint not in resolved or after[paint] in known)
    texts = {use.paint.rgb for use in paints.uses if Kind.TEXT in use.kinds}
    agreeing = disagreeing = 0.0
    keepable = kept = 0
    remarks: dict[str, None] = {}
    for one, other, border, became in _bordering(paints, after, own or {}):
        if one not in after or other not in after or one.rgb == other.rgb:
            continue
        before, now = _step(one.rgb, other.rgb), _step(became[one], became[other])
        if before:
            agreeing += border * (before == now)
            disagreeing += border * (before == -now)
        needed = needed_ratio(one.rgb, other.rgb, one.rgb in texts or other.rgb in texts)
        if needed > 1:
            ratio = contrast_ratio(became[one], became[other])
            keepable += 1
            kept += ratio >= needed
            if ratio < needed:
                was = shown(contrast_ratio(one.rgb, other.rgb))
                remarks[f"{one.key} on {other.key} had {was}:1 and would have {shown(ratio)}:1."] = None
    remarks |= dict.fromkeys(_turned(paints, after))
    merged = _merged(paints, after, own or {})
    if merged:
        remarks[f"{merged} pairs of different paints would look the same."] = None
    ordered = agreeing + disagreeing
    return Figures(
        inside / total if total else 1.0,
        (agreeing - disagreeing) / ordered if ordered else 1.0,
        kept / keepable if keepable else 1.0,
        1 - merged / paints.pairs if paints.pairs else 1.0,
        tuple(remarks),
    )


def _bordering(
    paints: SetPaints, after: Mapping[Rgba, Rgb], own: Mapping[str, Mapping[Rgba, Rgb]]
) -> Iterator[tuple[Rgba, Rgba, float, Mapping[Rgba, Rgb]]]:
    """Pairs that touch, with their border and what becomes of them: those of files with exceptions by themselves."""
    left = dict(paints.touching)
    for file in paints.files if own else ():
        if file.name in own:
            became = {**after, **own[file.name]}
            for pair, border in file.measured.touching.items():
                left[pair] = left.get(pair, 0.0) - border
                if border >= LEAST_BORDER:
                    yield *pair, border, became
    for pair, border in left.items():
        if border >= LEAST_BORDER:
            yield *pair, border, after


def _merged(paints: SetPaints, after: Mapping[Rgba, Rgb], own: Mapping[str, Mapping[Rgba, Rgb]]) -> int:
    """How many pairs of colors of one drawing are two and become one, each counted once."""
    together = paints.together
    colors: dict[Rgb, Rgb] = {}
    if together is not None and not own and all(colors.setdefault(paint.rgb, to) == to for paint, to in after.items()):
        return sum(1 for _ in became_one(colors, together))
    merged: set[tuple[Rgb, Rgb]] = set()
    for drawing in paints.drawings:
        alone = [name for name in drawing.names if name in own]
        ways: list[Mapping[Rgba, Rgb]] = [{**after, **own[name]} for name in alone]
        if len(alone) < len(drawing.names):
            ways.append(after)
        for became in ways:
            merged.update(became_one({paint.rgb: became[paint] for paint in drawing.paints if paint in became}))
    return len(merged)


def _step(one: Rgb, other: Rgb) -> int:
    """1 where the first is lighter, -1 where the second is, 0 where they are about as light."""
    first, second = luminance(one) + 0.05, luminance(other) + 0.05
    if max(first, second) < _LEVEL * min(first, second):
        return 0
    return 1 if first > second else -1


def _turned(paints: SetPaints, after: Mapping[Rgba, Rgb]) -> list[str]:
    """Gradients with a hue in their middle that neither end has, which they did not have before."""
    found = []
    for one, other in sorted(paints.blends):
        if one in after and other in after and not _strange(one.rgb, other.rgb) and _strange(after[one], after[other]):
            found.append(f"A gradient from {one.key} to {other.key} would show another hue in its middle.")
    return found


def _strange(one: Rgb, other: Rgb) -> bool:
    middle = Rgb(*((a + b) // 2 for a, b in zip(one, other, strict=True)))
    lch = oklch_of([one, other, middle])
    if lch[2, 1] < _COLORED:
        return False
    ends = [float(lch[at, 2]) for at in (0, 1) if lch[at, 1] >= _COLORED / 2]
    return bool(ends) and all(hue_distance(float(lch[2, 2]), hue) > _TURN for hue in ends)
