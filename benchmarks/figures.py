"""How figures are measured and printed: one line each, `ok` or `short` as its last word."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable


def figure(name: str, value: float, bound: float, unit: str, *, at_least: bool = False) -> None:
    """One line."""
    good = value >= bound if at_least else value <= bound
    sign = ">=" if at_least else "<="
    print(f"{name:<58} {value:>9.3f} {sign} {bound:<7g} {unit:<10} {'ok' if good else 'short'}", flush=True)


def seconds(work: Callable[[], object], runs: int = 7) -> float:
    """The median time of one run."""
    times = []
    for _ in range(runs):
        started = time.perf_counter()
        work()
        times.append(time.perf_counter() - started)
    return statistics.median(times)


def ratio(work: Callable[[], object], floor: Callable[[], object], runs: int = 7) -> float:
    """The median of work over floor, measured in turn, so that a machine that slows down slows both."""
    return statistics.median(seconds(work, 1) / seconds(floor, 1) for _ in range(runs))
