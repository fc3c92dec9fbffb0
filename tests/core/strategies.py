"""Colors and kits at random."""

from datetime import UTC, datetime

from hypothesis import strategies as st

from pavese.core.color.neutrals import Shade
from pavese.core.color.ramp import STEPS, ramp
from pavese.core.color.srgb import Rgb
from pavese.core.kit.decisions import Decision, Status
from pavese.core.kit.kit import Kit, KitColor, PinnedStep, Tint, key_for
from pavese.core.kit.logo import Logo, LogoPicture, LogoShare
from pavese.core.kit.pairings import subjects
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules
from pavese.core.kit.see_through import SeeThrough, Shape, Vividness
from pavese.core.kit.states import Distances
from pavese.core.kit.typefaces import Typefaces

channels = st.integers(0, 255)
colors = st.builds(Rgb, channels, channels, channels)


@st.composite
def kits(draw: st.DrawFn, smallest: int = 1, largest: int = 6) -> Kit:
    """A kit of different colors with ordinary and odd names."""
    bases = draw(st.lists(colors, min_size=smallest, max_size=largest, unique=True))
    made: list[KitColor] = []
    for base in bases:
        name = draw(st.sampled_from(["Deep water", "Buoy", "Ålesund blå", "深い海", "🛟 ring", "600", "role"]))
        role = draw(st.sampled_from(list(Role)))
        made.append(KitColor(key=key_for(name, (c.key for c in made)), name=name, role=role, base=base))
    return Kit(name="A kit", colors=tuple(made))


@st.composite
def rich_kits(draw: st.DrawFn) -> Kit:
    """A kit whose colors may carry a note, pinned steps, or a link to the color they are tinted from."""
    made = draw(kits())
    source = made.colors[0]
    rich = [source]
    for color in made.colors[1:]:
        note = draw(st.sampled_from(["", "Only for the fleet.", "Nur für Warnungen"]))
        tint = draw(
            st.none() | st.builds(Tint, of=st.just(source.key), shade=st.sampled_from(Shade), strength=st.floats(0, 1))
        )
        base = ramp(color.base).base_step
        free = st.sampled_from([step for step in STEPS if step != base])
        pins = () if tint else draw(st.dictionaries(free, colors, max_size=2))
        pinned = tuple(PinnedStep(step=step, color=pins[step]) for step in sorted(pins)) if pins else ()
        rich.append(color.model_copy(update={"note": note, "tint": tint, "pins": pinned}))
    return Kit(name=made.name, colors=tuple(rich))


@st.composite
def proven_kits(draw: st.DrawFn) -> Kit:
    """A kit with everything that Prove keeps in it: steps, decisions, trios, rules, see-through, states, logo, type."""
    kit = draw(rich_kits())
    tokens = st.sampled_from([str(token) for token, _ in kit.tokens()])
    on = draw(st.lists(tokens, max_size=3))
    some = [str(subject.token) for subject in subjects(kit.with_(steps=tuple(on)))]
    decisions = draw(st.lists(st.builds(_decision, st.sampled_from(some), st.sampled_from(some)), max_size=8))
    known = {decision.pair: decision for decision in decisions if decision.text != decision.ground}
    keys = st.sampled_from([color.key for color in kit.colors])
    setting = st.builds(
        SeeThrough,
        of=keys,
        base=st.sampled_from(["white", "black"]) | tokens,
        vividness=st.builds(
            Vividness, shape=st.sampled_from(Shape), strength=st.integers(0, 100), begins=st.integers(1, 100)
        ),
    )
    return kit.with_(
        steps=tuple(on),
        decisions=tuple(known.values()),
        rules=draw(
            st.sampled_from([Rules(), Rules(least_body=7, accent_share=5, body_text=()), Rules(same=1, near=3)])
        ),
        see_through=tuple(draw(st.lists(setting, max_size=2))),
        states=Distances(hover=draw(st.integers(1, 4))),
        logo=draw(st.sampled_from([Logo(), _LOGO])),
        type=draw(st.sampled_from([Typefaces(), Typefaces(headline="Quay Antiqua", text="船 Sans")])),
    )


def _decision(text: str, ground: str) -> Decision:
    return Decision(text=text, ground=ground, status=Status.APPROVED, by="Maren", note="As agreed.", at=_DAY)


_RULES = [Rules(), Rules(least_body=7, accent_share=5, body_text=()), Rules(same=1, near=3)]
_DAY = datetime(2026, 11, 2, 9, 30, tzinfo=UTC)
_PICTURE = LogoPicture(
    key="ab" * 32,
    name="tarnmoor.svg",
    media_type="image/svg+xml",
    width=240,
    height=80,
    colors=(LogoShare(color=Rgb(11, 94, 107), share=80.0), LogoShare(color=Rgb(242, 165, 26), share=20.0)),
)
_LOGO = Logo(on_light=_PICTURE, clear_space=40)
