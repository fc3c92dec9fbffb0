"""Lottie and dotLottie, edited in place: https://lottie.github.io/lottie-spec/"""

from __future__ import annotations

from pavese.core.formats.format import Can, Format
from pavese.core.formats.lottie.document import LottieDocument, read_lottie
from pavese.core.formats.lottie.package import DotLottieDocument, read_dotlottie
from pavese.core.formats.told import is_dotlottie, is_lottie

__all__ = ["DOTLOTTIE", "LOTTIE", "DotLottieDocument", "LottieDocument", "read_dotlottie", "read_lottie"]

_CAN = frozenset((Can.EXACT, Can.VECTOR, Can.ANIMATED, Can.TEXTS, Can.PICTURES))

LOTTIE = Format(
    key="lottie",
    title="Lottie",
    words="Lottie animations",
    endings=(".json",),
    media_type="application/json",
    matches=is_lottie,
    read=read_lottie,
    can=_CAN,
)
DOTLOTTIE = Format(
    key="dotlottie",
    title="dotLottie",
    words="dotLottie packages",
    endings=(".lottie",),
    media_type="application/zip+dotlottie",
    matches=is_dotlottie,
    read=read_dotlottie,
    can=_CAN | {Can.PAGES},
)
