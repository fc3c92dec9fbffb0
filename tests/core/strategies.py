"""Colors and kits at random."""

from hypothesis import strategies as st

from pavese.core.color.srgb import Rgb
from pavese.core.kit.kit import Kit, KitColor, Role, key_for

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
