"""What every format promises: a new one gets these by being there, with files of its own to try them on."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from contextlib import suppress
from math import inf

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import RefusedFileError
from pavese.core.formats import FORMATS
from pavese.core.formats.archive import package
from pavese.core.formats.document import WHOLE, Document
from pavese.core.formats.format import Can, Format
from pavese.core.recolor.acts import ACTS, fields_of
from pavese.core.recolor.changes import Changes
from pavese.core.recolor.inventory import Inventory, recolored
from pavese.core.recolor.recoloring import Recoloring
from tests import bunting
from tests.core.strategies import colors
from tests.formats.decks import decks
from tests.formats.lotties import lotties
from tests.formats.mails import mails, sent_mails
from tests.formats.open_decks import open_decks
from tests.formats.rasters import avifs, gifs, jpegs, pngs, tiffs, webps
from tests.formats.svgs import svgs

_flags = st.lists(st.tuples(colors, colors, st.sampled_from(["Quay", "Å & <", ""])), min_size=1, max_size=4)
_buntings = _flags.map(
    lambda flags: "\n".join(
        [
            "bunting 1",
            *(f"page {at}\nflag {one.hex}\ntext {ink.hex} {said}" for at, (one, ink, said) in enumerate(flags)),
        ]
    ).encode()
)
_packages = st.lists(lotties(), min_size=1, max_size=3).map(
    lambda listed: package([("manifest.json", b"{}"), *((f"a/{at}.json", one) for at, one in enumerate(listed))])
)
FILES = {
    "svg": svgs(),
    "lottie": lotties(),
    "dotlottie": _packages,
    "mail": mails(),
    "sent-mail": sent_mails(),
    "deck": decks(),
    "open-deck": open_decks(),
    "bunting": _buntings,
    "png": pngs(),
    "jpeg": jpegs(),
    "gif": gifs(),
    "webp": webps(),
    "avif": avifs(),
    "tiff": tiffs(),
}
#: How far, in levels of a channel, what is read back may be from what was wanted, of formats that code with loss.
COARSE = {"jpeg": 14, "avif": 14}
ALL = [*FORMATS, bunting.FORMAT]

of_every_format = pytest.mark.parametrize("format_", ALL, ids=lambda one: one.key)
targets = st.lists(colors, min_size=1, max_size=5)


def read(format_: Format, data: bytes) -> Document:
    return format_.read(f"x{format_.endings[0]}", data, {})


def to(document: Document, chosen: list[Rgb]) -> dict[Rgba, Rgb]:
    return {paint: chosen[at % len(chosen)] for at, paint in enumerate(document.inventory().paints)}


def same(format_: Format, found: Iterable[Rgba], wanted: Iterable[Rgba]) -> bool:
    """Whether these are the paints that were wanted, as near as the format codes them."""
    one, other, far = set(found), set(wanted), COARSE.get(format_.key, 0)

    def away(paint: Rgba, near: Rgba) -> float:
        return max(abs(a - b) for a, b in zip(paint.rgb, near.rgb, strict=True)) if paint.alpha == near.alpha else inf

    return one == other or all(
        min(away(paint, near) for near in these) <= far
        for these, those in ((other, one), (one, other))
        for paint in those
    )


def test_every_format_has_files_to_try_it_on() -> None:
    assert {one.key for one in FORMATS} <= FILES.keys()
    assert all(Can.EXACT in one.can or Can.PIXELS in one.can for one in ALL)


@of_every_format
@settings(max_examples=100)
@given(data=st.data(), chosen=targets)
def test_identity_closure_and_determinism(format_: Format, data: st.DataObject, chosen: list[Rgb]) -> None:
    content = data.draw(FILES[format_.key])
    document = read(format_, content)
    found = document.inventory()
    assert document.write({}) == content
    assert document.write({paint: paint.rgb for paint in found.paints}) == content
    wanted = to(document, chosen)
    written = document.write(wanted)
    after = read(format_, written).inventory()
    assert same(format_, after.paints, (recolored(paint, wanted) for paint in found.paints))
    assert written == read(format_, bytes(content)).write(dict(reversed(wanted.items())))
    # One paint changes and the others are kept.
    if found.paints:
        one = {data.draw(st.sampled_from(found.paints)): chosen[0]}
        after = read(format_, document.write(one)).inventory()
        assert same(format_, after.paints, (recolored(paint, one) for paint in found.paints))


@of_every_format
@settings(max_examples=60)
@given(data=st.data(), color=colors)
def test_sites_are_what_is_counted_and_a_page_can_go_its_own_way(
    format_: Format, data: st.DataObject, color: Rgb
) -> None:
    document = read(format_, data.draw(FILES[format_.key]))
    counted = Inventory.count(document.sites()).sites
    assert counted == document.inventory().sites
    pages = document.pages
    assert pages
    assert document.looks
    if len(pages) == 1:
        assert all(pages[0].holds(site) for site in document.sites()) or pages[0] != WHOLE
        return
    assert Can.PAGES in format_.can
    assert len({page.selector for page in pages}) == len(pages)
    page = data.draw(st.sampled_from(pages))
    parts = {(site.paint, page.selector): color for site in document.sites() if page.holds(site)}
    sites = list(read(format_, document.write(Recoloring({}, parts))).sites())
    if Can.LAID_OUT not in format_.can:
        for before, behind in zip(document.sites(), sites, strict=True):
            assert behind.paint == (Rgba(*color, before.paint.alpha) if page.holds(before) else before.paint)
        return
    # All else stays, and what the page takes over from outside it may have to say itself.
    after = Counter(site.paint for site in sites)
    outside = Counter(site.paint for site in document.sites() if not page.holds(site))
    inside = Counter(Rgba(*color, site.paint.alpha) for site in document.sites() if page.holds(site))
    assert outside + inside <= after
    assert {paint.rgb for paint in after - outside - inside} <= {color}


@of_every_format
@settings(max_examples=60)
@given(data=st.data(), cut=st.integers(0, 10_000), chosen=targets)
def test_a_damaged_file_is_refused_by_its_name_or_read(
    format_: Format, data: st.DataObject, cut: int, chosen: list[Rgb]
) -> None:
    content = data.draw(FILES[format_.key])
    at = cut % len(content)
    for damaged in (content[:at], content[:at] + b"\x00<{" + content[at:]):
        with suppress(RefusedFileError):
            document = read(format_, damaged)
            assert document.write({}) == damaged
            document.write(to(document, chosen))


@of_every_format
@settings(max_examples=30)
@given(data=st.data(), color=colors)
def test_acts_are_done_on_top_of_the_colors_and_add_no_paint_but_their_own(
    format_: Format, data: st.DataObject, color: Rgb
) -> None:
    table = {**ACTS, bunting.Knots.key: bunting.Knots}
    document = read(format_, data.draw(FILES[format_.key]))
    for key in format_.acts:
        said = {one.name: "fog.base" if one.default is None else one.default for one in fields_of(table[key])}
        act = table[key].model_validate(said)
        changes = Changes(Recoloring(to(document, [color])), (act,), dict.fromkeys(act.targets, color))
        written = document.write(changes)
        plain = read(format_, document.write(changes.recoloring)).inventory()
        own = {Rgba(*color)} if act.targets else set()
        paints = set(read(format_, written).inventory().paints)
        # Not every picture has a ground, or a photograph in it.
        assert paints == set(plain.paints) | own or (Can.PIXELS in format_.can and paints <= set(plain.paints) | own)
        assert document.preview(changes).content


@of_every_format
@settings(max_examples=30)
@given(data=st.data())
def test_every_page_and_look_can_be_shown(format_: Format, data: st.DataObject) -> None:
    document = read(format_, data.draw(FILES[format_.key]))
    for look in document.looks:
        whole = document.preview({}, look=look)
        assert whole.content
        for page in range(len(document.pages)):
            assert document.preview({}, page, look).notation is whole.notation
