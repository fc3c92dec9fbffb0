"""How figures are measured and printed: one line each, `ok` or `short` as its last word."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Mapping


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


def ratio_by_file(
    files: Mapping[str, bytes],
    work: Callable[[str, bytes], object],
    floor: Callable[[str, bytes], object],
    before: Callable[[], object] | None = None,
    runs: int = 15,
) -> float:
    """The median, over `runs`, of the time of work over that of floor, each summed over the files.

    Every file is handled by both in turn, as an application comes upon it, so that a machine that slows down slows
    both and neither finds its code warmer than the other; `before` is done ahead of each run.
    """
    found = []
    for _ in range(runs):
        if before is not None:
            before()
        spent = [0.0, 0.0]
        for name, data in files.items():
            for which, one in enumerate((work, floor)):
                started = time.perf_counter()
                one(name, data)
                spent[which] += time.perf_counter() - started
        found.append(spent[0] / spent[1])
    return statistics.median(found)
