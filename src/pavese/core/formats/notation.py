"""How a color is written at its place in a file, and how another takes its place in the same manner."""

from __future__ import annotations

import re
from functools import lru_cache

from pavese.core.color.srgb import Rgb, Rgba

_FUNCTION_ALPHA = re.compile(r"(?:/|,)\s*([0-9.eE+-]+%?)\s*\)\s*$")
_UPPER_HEX = re.compile(r"#?[0-9]*[A-F][0-9A-F]*")
#: A code without its sign, as attributes of HTML may hold it (HTML, 2.4.6 "rules for parsing a legacy color value").
_BARE_HEX = re.compile(r"[0-9A-Fa-f]{3}(?:[0-9A-Fa-f]{3})?")


@lru_cache(maxsize=32768)
def rewritten(written: str, paint: Rgba, target: Rgb) -> bytes:
    """The target in the notation of a place where `paint` is `written`: its alpha, and capital letters of a hex code,
    stay."""
    if written.startswith("#") or (bare := _BARE_HEX.fullmatch(written)):
        alpha = "" if not written.startswith("#") else written[4:] * 2 if len(written) == 5 else written[7:]
        code = target.hex + alpha.lower()
        code = code if written.startswith("#") or not bare else code[1:]
        return (code.upper() if _UPPER_HEX.fullmatch(written) else code).encode()
    if paint.alpha < 1:
        alpha_text = _FUNCTION_ALPHA.search(written)
        alpha = alpha_text[1] if alpha_text else f"{paint.alpha:g}"
        return f"rgba({target.r},{target.g},{target.b},{alpha})".encode()
    return target.hex.encode()
