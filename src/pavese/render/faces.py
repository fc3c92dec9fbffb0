"""Typefaces that stand in for those that files name: pictures here are set in what this machine has."""

from __future__ import annotations

import re
import subprocess
from collections.abc import Collection, Iterable, Iterator
from functools import lru_cache
from itertools import islice

#: Names of no face, but of a kind of faces (CSS Fonts 4, 2.1.3), and what programs call their own.
_KINDS = frozenset(
    ("serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "math", "emoji", "inherit", "initial")
)
_OWN = re.compile(r"(?:ui-|-apple-|blinkmacsystem)", re.IGNORECASE)
#: What means something else in a pattern of fontconfig.
_SIGNS = re.compile(r"[\\\-:,=]")
_SECONDS = 5.0
#: Names of one file that are asked for: each takes a process.
_MOST = 40


def stand_ins(named: Iterable[tuple[str, str]]) -> Iterator[tuple[str, str]]:
    """Of faces that are named, each with that in which a text is set, those that are set in another."""
    for name, set_in in named:
        is_kind = name.lower() in _KINDS or _OWN.match(name)
        if name and not is_kind and name.casefold() != set_in.casefold():
            yield name[:80], set_in[:80]


def told_in(named: Iterable[str], seen: Collection[str]) -> Iterator[tuple[str, str]]:
    """Of faces that a file names, those that the system gives another for, where that is among the faces that are
    `seen` in it."""
    known = {one.casefold(): one for one in seen}
    for name in islice(named, _MOST):
        if name.casefold() not in known and (found := known.get(_given_for(name).casefold())) is not None:
            yield name, found


@lru_cache(maxsize=512)
def _given_for(name: str) -> str:
    """What the system gives for a face; "" where it cannot say."""
    pattern = _SIGNS.sub(lambda sign: f"\\{sign[0]}", name)
    try:
        found = subprocess.run(
            ["fc-match", "-f", "%{family[0]}", f":family={pattern}"],
            capture_output=True,
            timeout=_SECONDS,
            check=True,
            text=True,
        )
    except (OSError, subprocess.SubprocessError):
        return ""
    return found.stdout.strip()
