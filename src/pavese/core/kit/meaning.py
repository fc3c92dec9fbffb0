"""How hues are often read: guidance for the note on what a color stands for, never a rule.

Readings of color differ by place, trade, generation and setting, and change; the sentences below are our own summary of
what designers are commonly taught, worded as tendencies. Whoever uses a color asks the people it is meant for.
"""

from __future__ import annotations

from dataclasses import dataclass

from pavese.core.color.oklab import lch_of
from pavese.core.color.srgb import Rgb

GUIDANCE = (
    "Guidance, not a rule: people read color by where they live, what they do and what stands beside it. "
    "Ask some of those it is meant for."
)


@dataclass(frozen=True)
class Reading:
    """A hue with how it is often read in general, by region and by trade, and what to mind."""

    name: str
    hues: tuple[float, float]
    general: str
    regions: tuple[str, ...]
    trades: tuple[str, ...]
    mind: str


READINGS: tuple[Reading, ...] = (
    Reading(
        "red",
        (5, 40),
        "Often read as urgent, warm, near, alive.",
        (
            "In much of East Asia it is a color of luck and celebration.",
            "In parts of southern Africa it can stand for mourning.",
            "In finance in Europe and the Americas it marks a loss; in several East Asian markets a gain.",
        ),
        (
            "Safety and transport: prohibition, stop, fire equipment.",
            "Trade: price cuts.",
            "Health: emergency and blood.",
        ),
        "Used for an error and for the main action at once, it says neither.",
    ),
    Reading(
        "orange",
        (40, 70),
        "Often read as friendly, active, affordable.",
        (
            "In parts of South and Southeast Asia it is close to saffron, and with that to religion.",
            "In parts of north-west Europe it is read as national or partisan.",
        ),
        ("Safety: warning, life-saving gear, work sites.", "Trade: the action to take."),
        "Light oranges hardly carry white text.",
    ),
    Reading(
        "yellow",
        (70, 115),
        "Often read as light, attention, optimism; in greenish tones as sour.",
        (
            "In parts of East Asia it was long a color of rank.",
            "In parts of Latin America and the Middle East it has been linked with mourning or envy.",
        ),
        ("Safety and transport: caution.", "Office: the marker on what matters."),
        "On white it is barely seen; as text it needs a dark ground.",
    ),
    Reading(
        "green",
        (115, 165),
        "Often read as growth, permission, recovery.",
        (
            "In many countries with a Muslim majority it is held in religious esteem.",
            "In parts of East Asia a green hat is a joke at someone's expense.",
        ),
        ("Safety: escape routes, first aid, go.", "Trade: natural, organic; easily read as a claim.", "Finance: gain."),
        "Told apart from red by hue alone, it is lost on about one man in twelve.",
    ),
    Reading(
        "blue-green",
        (165, 225),
        "Often read as water, clean, calm.",
        ("Around the eastern Mediterranean and in Central Asia turquoise is often read as protective.",),
        ("Health and care: hygiene.", "Shipping and travel: sea and holiday."),
        "It shifts between blue and green from screen to print; fix it by code.",
    ),
    Reading(
        "blue",
        (225, 285),
        "Often read as reliable, distant, orderly.",
        (
            "In much of Europe and North America it is the safest color for institutions.",
            "In parts of South Asia it is tied to particular deities and movements.",
        ),
        ("Banks, insurance, authorities: trust.", "Transport: information and mandatory signs.", "The web: links."),
        "Many in one trade have it; it seldom tells one from another.",
    ),
    Reading(
        "violet",
        (285, 325),
        "Often read as rare, ceremonial, imaginative.",
        (
            "In parts of Europe and Latin America it belongs to Lent and to mourning.",
            "In several countries it stands for the women's movement.",
        ),
        ("Culture and church.", "Care: palliative and memorial services."),
        "Dark violets turn to black in small type.",
    ),
    Reading(
        "pink",
        (325, 365),
        "Often read as tender, playful; in strong tones as loud.",
        (
            "The link to girls is recent, and mostly of Europe and North America.",
            "In parts of East Asia it is read as spring, and on men as ordinary.",
        ),
        ("Health: campaigns on breast cancer.", "Sweets and cosmetics."),
        "It ages fast as a fashion.",
    ),
    Reading(
        "grey, black and white",
        (0, 0),
        "Often read as restraint; they let other colors speak.",
        (
            "White is worn in mourning in parts of East and South Asia.",
            "Black is worn in mourning in much of Europe and the Americas, and for ceremony nearly everywhere.",
        ),
        ("Luxury and fashion: black.", "Health: white for hygiene, and for coldness."),
        "Grey text is the most common failure of contrast there is.",
    ),
)

_GREY = 0.03


def reading_of(color: Rgb) -> Reading:
    """How the hue of a color is often read."""
    _, chroma, hue = lch_of(color)
    if chroma < _GREY:
        return READINGS[-1]
    return next(r for r in READINGS[:-1] if r.hues[0] <= hue < r.hues[1] or r.hues[0] <= hue + 360 < r.hues[1])
