"""The child processes that draw: a few at a time, each with bounds on time and memory, replaced when they fall."""

from __future__ import annotations

import multiprocessing
from collections.abc import Callable, Iterable, Mapping, Sequence
from concurrent.futures import TimeoutError as DrawTimeoutError
from datetime import date
from pathlib import Path
from typing import Any

from pebble import ProcessExpired, ProcessPool

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.errors import PaveseError
from pavese.core.recolor.measure import Measured
from pavese.render.draw import draw, draw_masks, draw_measured, prepare
from pavese.render.film import film, moving_picture
from pavese.render.sheet import set_pdf

LARGEST_SIDE = 4096
_SECONDS = 8.0
#: A film of some minutes; nobody waits for it at the screen.
_FILM_SECONDS = 300.0
_SMALLEST = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"/>'


class CannotDrawError(PaveseError):
    """A file that the engine could not draw, with the reason; the file itself may still be recolored."""


class DrawingPool:
    """Draws SVGs and sets sheets in `workers` child processes."""

    def __init__(self, workers: int, fonts_dir: Path) -> None:
        self._fonts_dir = fonts_dir
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
        return self._done(draw, svg, min(max(side, 1), LARGEST_SIDE))

    def masks(self, drawings: Sequence[bytes], count: int, side: int) -> bytes:
        """Masks of paints below each other (`draw.draw_masks`). Raises CannotDrawError as `png` does."""
        return self._done(draw_masks, list(drawings), count, min(side, LARGEST_SIDE))

    def measured(self, drawings: Iterable[tuple[bytes, Sequence[Rgba]]]) -> list[Measured]:
        """What `measure` finds on each drawing with these paints, side by side; nothing where it cannot be drawn."""
        waiting = [self._pool.schedule(draw_measured, args=one, timeout=_SECONDS) for one in drawings]
        return [self._measured(future) for future in waiting]

    @staticmethod
    def _measured(future: Any) -> Measured:
        try:
            found: Measured = future.result()
        except (DrawTimeoutError, ProcessExpired, ValueError, MemoryError):
            # The picture itself says so where it is shown; the plan does without.
            return Measured()
        return found

    def pdf(self, files: Mapping[str, bytes], day: date) -> bytes:
        """A sheet set from its files (`sheet.set_pdf`). Raises CannotDrawError as `png` does."""
        return self._done(set_pdf, dict(files), self._fonts_dir, day)

    def film(self, animation: bytes, kind: str, side: int, ground: Rgb) -> bytes:
        """An MP4 or WebM (`film.film`). Raises CannotDrawError as `png` does."""
        return self._done(film, animation, kind, min(side, LARGEST_SIDE), tuple(ground), seconds=_FILM_SECONDS)

    def moving_picture(self, animation: bytes, kind: str, side: int, ground: Rgb | None) -> bytes:
        """A GIF or animated WebP (`film.moving_picture`). Raises CannotDrawError as `png` does."""
        on = tuple(ground) if ground else None
        return self._done(moving_picture, animation, kind, min(side, LARGEST_SIDE), on, seconds=_FILM_SECONDS)

    def _done(self, work: Callable[..., bytes], *arguments: Any, seconds: float = _SECONDS) -> bytes:
        try:
            return bytes(self._pool.schedule(work, args=arguments, timeout=seconds).result())
        except DrawTimeoutError as error:
            raise CannotDrawError(f"drawing took longer than {seconds:g} seconds") from error
        except ProcessExpired as error:
            raise CannotDrawError("the drawing engine gave up on it") from error
        except (ValueError, MemoryError) as error:
            raise CannotDrawError(str(error).splitlines()[0][:200]) from error

    def close(self) -> None:
        """Stops the children."""
        self._pool.stop()  # type: ignore[no-untyped-call]
        self._pool.join()
