"""The child processes that draw: a few at a time, each with bounds on time and memory, replaced when they fall."""

from __future__ import annotations

import multiprocessing
from concurrent.futures import TimeoutError as DrawTimeoutError
from pathlib import Path

from pebble import ProcessExpired, ProcessPool

from pavese.render.draw import draw, prepare

LARGEST_SIDE = 2048
_SECONDS = 8.0
_SMALLEST = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"/>'


class CannotDrawError(Exception):
    """A file that the engine could not draw, with the reason; the file itself may still be recolored."""


class DrawingPool:
    """Draws SVGs in `workers` child processes."""

    def __init__(self, workers: int, fonts_dir: Path) -> None:
        self._pool = ProcessPool(
            max_workers=workers,
            initializer=prepare,
            initargs=(str(fonts_dir),),
            context=multiprocessing.get_context("spawn"),
        )
        # A child takes a second to start; it does so now, and not when someone waits for the first picture.
        for _ in range(workers):
            self._pool.schedule(draw, args=(_SMALLEST, 1))

    def png(self, svg: bytes, side: int) -> bytes:
        """A PNG whose longer side is `side` pixels (at most LARGEST_SIDE).

        Raises CannotDrawError when the engine fails, takes too long or falls.
        """
        side = min(max(side, 1), LARGEST_SIDE)
        try:
            future = self._pool.schedule(draw, args=(svg, side), timeout=_SECONDS)
            return bytes(future.result())
        except DrawTimeoutError as error:
            raise CannotDrawError(f"drawing took longer than {_SECONDS:g} seconds") from error
        except ProcessExpired as error:
            raise CannotDrawError("the drawing engine gave up on it") from error
        except (ValueError, MemoryError) as error:
            raise CannotDrawError(str(error).splitlines()[0][:200]) from error

    def close(self) -> None:
        """Stops the children."""
        self._pool.stop()  # type: ignore[no-untyped-call]
        self._pool.join()
