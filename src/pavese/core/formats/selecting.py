"""Which rules of style sheets mean which elements: the part that drawings and mails have in common.

Selectors 4, as far as the selector library knows them: https://www.w3.org/TR/selectors-4/
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from typing import Any

import cssselect2

from pavese.core import limits
from pavese.core.errors import UnreadableCssError

#: What stands between two steps of a selector.
_COMBINED = re.compile(r"[\s>+~]+")
#: States in which an element is only now and then (Selectors 4, section 9).
_STATES = re.compile(r":(?:hover|active|focus(?:-within|-visible)?|visited|link)\b")


def bound(selectors: Iterable[str], elements: int) -> None:
    """Refuses sheets that would take too long to match, before any of it is done. Raises UnreadableCssError."""
    parts = [part for selector in selectors for part in selector.split(",")]
    if len(parts) * elements > limits.SELECTOR_MATCHES:
        raise UnreadableCssError(
            f"its style has {len(parts):,} selectors for {elements:,} elements, which is more than can be matched here."
        )
    if any(len(_COMBINED.findall(part.strip())) >= limits.SELECTOR_STEPS for part in parts):
        raise UnreadableCssError(f"a selector of its style has more than {limits.SELECTOR_STEPS} steps.")


@lru_cache(maxsize=1024)
def matcher(selectors: tuple[str, ...], *, in_any_state: bool = False) -> Any:
    """Looks for rules that match elements; what CSS does not know as a selector is left out, as in browsers. In any
    state, an element is meant also where it must be pointed at for that, or pressed."""
    found = cssselect2.Matcher()
    for selector in selectors:
        try:
            compiled = cssselect2.compile_selector_list(_STATES.sub("", selector) if in_any_state else selector)
        except cssselect2.SelectorError:
            continue
        for one in compiled:
            if one.pseudo_element is None and not one.never_matches:
                found.add_selector(one, selector)
    return found
