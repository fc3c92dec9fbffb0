"""Puts the demo into an empty workspace: sources, the kit that comes from them, its first edition, and two sets."""

from __future__ import annotations

from functools import partial

from sqlalchemy.orm import Session

from pavese.core.formats.intake import ReadFile, take
from pavese.core.gather.candidates import from_source
from pavese.core.gather.intake import looked_at, page_source, picture_source, pixels_of, take_picture, take_pictures
from pavese.core.gather.logo import take_logo
from pavese.core.gather.source import Looking, Source, with_picture
from pavese.core.kit.changes import Arrival, with_colors
from pavese.core.kit.codes import find_codes
from pavese.core.kit.deciding import Judgement, decided, decided_trios
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit, KitColor, key_for
from pavese.core.kit.logo import Backing, Logo
from pavese.core.kit.pairings import pairs
from pavese.core.kit.role import Role
from pavese.core.kit.samples import Samples
from pavese.core.kit.see_through import SeeThrough, Vividness
from pavese.core.kit.trios import trios
from pavese.core.kit.typefaces import Typefaces
from pavese.core.pictures.decode import decode_picture
from pavese.demo.animations import animation_files
from pavese.demo.banners import banner_files
from pavese.demo.deck import deck_file
from pavese.demo.icons import icon_files
from pavese.demo.illustrations import illustration_files
from pavese.demo.mail import LOGO, mail_files, mail_logo, sent_mail
from pavese.demo.people import COORDINATOR, REVIEWER, let_in
from pavese.demo.pictures import board_pictures, logo
from pavese.demo.talk import talk_file
from pavese.render.draw import draw, load_fonts
from pavese.render.page import WIDTH, PageAsked, PageReader
from pavese.render.reading import measured_if_drawn
from pavese.render.web import FetchPolicy
from pavese.settings import settings
from pavese.store import contents, editions, kits, people, records, sets, sources
from pavese.store.database import now
from pavese.store.models import KitRow

#: As the company's designer once wrote it down in an e-mail.
CODES = """\
Deep water: #0b5e6b
Slipway: #5a6fa8
Buoy: #d2452d
Lamp: #efb23a
Kelp: #6b7d3a
Fog: #eef0ec
Pewter: #7d878c
Hull: #16252b
"""
_ROLES = (
    Role.PRIMARY,
    Role.SECONDARY,
    Role.ACTION,
    Role.ACCENT,
    Role.ACCENT,
    Role.BACKGROUND,
    Role.NEUTRAL,
    Role.TEXT_DARK,
)


def demo_kit() -> Kit:
    """The kit of Tarnmoor Ferries, as it comes out of its sources."""
    colors = [
        KitColor(key=key_for(code.name), name=code.name, role=role, base=code.color)
        for code, role in zip(find_codes(CODES), _ROLES, strict=True)
    ]
    return Kit(name="Tarnmoor Ferries", colors=tuple(colors))


def load(session: Session, site: tuple[str, int]) -> bool:
    """Loads the demo unless there are kits already; tells whether it did.

    The kit is made as its users make one: from its logo, a board and a page of the site at (host, port), colors are
    found and taken in, all in one step.
    """
    if kits.listed(session):
        return False
    load_fonts(str(settings().fonts_dir))
    let_in(session)
    coordinator = next(user for user in people.listed(session) if user.email == COORDINATOR.email)
    records.work_as(session, records.Author(coordinator.id, coordinator.name))
    wanted = demo_kit()
    row = kits.create(session, Kit(name=wanted.name))
    found = {spotted.color for source in _gathered(session, row, site) for spotted in from_source(source)}
    missing = [color.name for color in wanted.colors if color.base not in found]
    if missing:
        raise RuntimeError(f"the demo's sources do not show {', '.join(missing)}")
    arrivals = [Arrival(color.name, color.role, color.base) for color in wanted.colors]
    kits.change(session, row, f"Add {len(arrivals)} colors", partial(with_colors, arrivals=arrivals))
    _proved(session, row)
    pictures = {LOGO: (LOGO, mail_logo())}
    for name, channel, files in (
        ("Deck signage", "icons", icon_files()),
        ("Route illustrations", "illustrations", illustration_files()),
        ("Boarding animations", "motion", animation_files()),
        ("Mails to travellers", "email", {**mail_files(), "crew-news.eml": sent_mail()}),
        ("Crew decks", "slides", {**deck_file(), **talk_file()}),
        ("Posts and posters", "images", banner_files()),
    ):
        intake = take(files.items())
        if intake.refused:
            raise intake.refused[0]
        contents.keep(session, {file.digest: file.data for file in intake.taken})
        read = [
            ReadFile(
                file.name,
                file.digest,
                file.inventory,
                measured_if_drawn(file),
                refers=file.document.refers,
                beside={one: pictures[one] for one in file.document.refers},
            )
            for file in intake.taken
        ]
        made = sets.create(session, row.id, name, channel)
        sets.add_files(session, made, sets.room(session, made), read)
        sets.plan_arrived(session, made)
    return True


def _proved(session: Session, row: KitRow) -> None:
    """What the coordinator and the reviewer did in Prove: pairs, see-through, logo and type, and a first edition."""
    taken = take_logo("tarnmoor-logo.svg", logo(), draw)
    contents.keep(session, taken.files)
    dressed = Logo(on_light=taken.picture, backing=Backing(color="fog.base"))
    kits.change(session, row, "Logo on light ground", lambda kit: kit.with_(logo=dressed))
    faces = Typefaces(headline="Tarnmoor Antiqua", text="Commissioner")
    words = Samples(
        headline="Boarding in fog",
        sentence="Four crossings a day to the islands, from the first ebb.",
        action="Book a crossing",
    )
    kits.change(session, row, "Change the typefaces", lambda kit: kit.with_(type=faces, samples=words))
    shown = (SeeThrough(of="deep-water"), SeeThrough(of="pewter", vividness=Vividness(strength=40)))
    kits.change(session, row, "Change the see-through settings", lambda kit: kit.with_(see_through=shown))
    kits.change(session, row, "2 steps in pairs", lambda kit: kit.with_(steps=("deep-water.800", "lamp.100")))
    kit = kits.kit_of(session, row)
    good = [pair for pair in pairs(kit).best_first() if pair.ratio >= kit.rules.least_body]
    approved = [(str(pair.text), str(pair.ground)) for pair in good[:12]]
    note = "Agreed at the meeting on signage."
    judgement = Judgement(Status.APPROVED, None, REVIEWER.name, now(session), note)
    usual = records.author(session)
    reviewer = next(user for user in people.listed(session) if user.email == REVIEWER.email)
    records.work_as(session, records.Author(reviewer.id, reviewer.name))
    kits.change(session, row, f"Approve {len(approved)} pairs", lambda kit: decided(kit, approved, judgement))
    some = [(str(trio.ground), str(trio.title), str(trio.graphic)) for trio in trios(kits.kit_of(session, row))[:4]]
    judgement = Judgement(Status.APPROVED, None, REVIEWER.name, now(session))
    kits.change(session, row, f"Approve {len(some)} trios", lambda kit: decided_trios(kit, some, judgement))
    records.comment(session, row.id, "Lamp on Fog", "Looks friendly, and nobody can read it. Left out.")
    records.work_as(session, usual)
    editions.publish(session, row, "The colors as agreed for signage and brochures.")


def _gathered(session: Session, row: KitRow, site: tuple[str, int]) -> list[Source]:
    """The sources, kept: a logo, a board of harbor pictures, the site's first page."""
    gathered = [
        _pictures(
            session, row, {"tarnmoor-logo.svg": logo()}, "Tarnmoor logo", Looking(count=3, leave_out_ground=True)
        ),
        _pictures(session, row, board_pictures(), "Harbor board", Looking(count=10)),
    ]
    reader = PageReader()
    try:
        host, port = site
        laid = reader.read(PageAsked(f"http://{host}:{port}/", policy=FetchPolicy(False, frozenset({site}))))
    finally:
        reader.close()
    page, kept = page_source(laid.url, laid.title, laid.elements, (WIDTH, laid.height), laid.png, laid.notes)
    sources.create(session, row.id, page, kept)
    return [*gathered, page]


def _pictures(session: Session, row: KitRow, files: dict[str, bytes], name: str, looking: Looking) -> Source:
    taken = take_pictures(files.items(), lambda file, data: take_picture(file, data, draw))
    if taken.refused:
        raise taken.refused[0]
    source = picture_source(taken).model_copy(update={"name": name})
    pixels = pixels_of(source, lambda key: decode_picture(name, taken.files[key]).pixels)
    source = looked_at(source, pixels, looking)
    for picture in source.pictures[:2]:
        said = {"origin": "drawn for the demo", "author": "Tarnmoor Ferries", "rights": "own work, free to use"}
        source = with_picture(source, picture.model_copy(update=said))
    sources.create(session, row.id, source, taken.files)
    return source
