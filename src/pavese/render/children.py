"""How child processes come about: each is split off from one that has loaded all that they need, and does nothing else.

So a child is there at once, also one that takes the place of one that fell, and what all of them hold alike is held
once.
"""

from __future__ import annotations

import multiprocessing
from multiprocessing.context import ForkServerContext

#: What is loaded before children are split off.
_LOADED = "pavese.render.loaded"


def context() -> ForkServerContext:
    """That in which children are started."""
    found = multiprocessing.get_context("forkserver")
    found.set_forkserver_preload([_LOADED])
    return found
