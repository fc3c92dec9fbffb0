"""The child processes that read and draw: each with bounds on time and memory, replaced when they fall."""

from __future__ import annotations

import os
from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import TimeoutError as DrawTimeoutError
from contextlib import suppress
from datetime import date
from pathlib import Path
from threading import Thread, Timer
from typing import Any, NamedTuple

from pebble import ProcessExpired, ProcessPool

from pavese.core.color.srgb import Rgb
from pavese.core.errors import PaveseError
from pavese.core.formats.document import Notation, Preview
from pavese.logs import unforeseen
from pavese.render import children
from pavese.render.draw import draw, draw_masks, prepare
from pavese.render.film import film, moving_picture
from pavese.render.sheet import set_pdf, set_png

LARGEST_SIDE = 4096
_SECONDS = 8.0
#: A deck is opened and set anew for a picture of it.
_SLIDE_SECONDS = 60.0
#: What each file on a sheet may take beyond that.
_PER_FILE = 0.1
#: A film of some minutes; nobody waits for it at the screen.
_FILM_SECONDS = 300.0
_SMALLEST = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"/>'


def _warmed() -> None:
    """Runs in a child, where all is loaded (`loaded`): what is made at its first use is made."""
    from pavese.render import reading

    reading.read_group([("warm.svg", _SMALLEST)])


#: How a child ends that has come to the bound on its memory: it is replaced, since what it holds would be in the way of
#: whatever comes next.
_OUT_OF_MEMORY = 71


def _within_memory(work: Callable[..., Any], *arguments: Any) -> Any:
    """Runs in a child."""
    try:
        return work(*arguments)
    except MemoryError:
        os._exit(_OUT_OF_MEMORY)


class CannotDrawError(PaveseError):
    """A file that the engine could not draw, with the reason; the file itself may still be recolored."""


class ChildFailedError(Exception):
    """What a child was to do and did not come back from; `words` say what it did, `fell` that the child went down."""

    def __init__(self, words: str, *, fell: bool = False) -> None:
        super().__init__(words)
        self.words = words
        self.fell = fell


class Ticket(NamedTuple):
    """Something that is being done in a child."""

    future: Any
    seconds: float


class DrawingPool:
    """Draws, reads and sets sheets in `workers` child processes."""

    def __init__(self, workers: int, fonts_dir: Path, formats: Sequence[str] = (), keeps: Path | None = None) -> None:
        """`formats` are modules with further formats, see `core.formats.take_in`; `keeps` is the folder in which they
        keep what they make of pictures."""
        self._fonts_dir, self._workers = fonts_dir, workers
        self._pool = ProcessPool(
            max_workers=workers,
            initializer=prepare,
            initargs=(str(fonts_dir), tuple(formats), None if keeps is None else str(keeps)),
            context=children.context(),
        )
        # What children are split off from takes seconds to load all they need; it does so now, and nobody waits for it.
        self._warming = Thread(target=self._warm, name="children", daemon=True)
        self._warming.start()

    def _warm(self) -> None:
        for _ in range(self._workers):
            self._pool.schedule(_warmed)

    def png(self, preview: Preview, side: int) -> bytes:
        """A PNG whose longer side is `side` pixels (at most LARGEST_SIDE).

        Raises CannotDrawError when the engine fails, takes too long or falls.
        """
        seconds = _SLIDE_SECONDS if preview.notation in (Notation.OFFICE, Notation.NOTES) else _SECONDS
        return bytes(self.done(draw, preview, min(max(side, 1), LARGEST_SIDE), seconds=seconds))

    def masks(self, drawings: Sequence[Preview], count: int, side: int) -> bytes:
        """Masks of paints below each other (`draw.draw_masks`). Raises CannotDrawError as `png` does."""
        return bytes(self.done(draw_masks, list(drawings), count, min(side, LARGEST_SIDE)))

    def pdf(self, files: Mapping[str, bytes], day: date, faces: Sequence[bytes] = ()) -> bytes:
        """A sheet set from its files (`sheet.set_pdf`). Raises CannotDrawError as `png` does."""
        seconds = _SECONDS + len(files) * _PER_FILE
        return bytes(self.done(set_pdf, dict(files), self._fonts_dir, day, tuple(faces), seconds=seconds))

    def page(self, files: Mapping[str, bytes]) -> bytes:
        """A page of a sheet as PNG (`sheet.set_png`). Raises CannotDrawError as `png` does."""
        return bytes(self.done(set_png, dict(files), self._fonts_dir, seconds=_SECONDS + len(files) * _PER_FILE))

    def film(self, animation: bytes, kind: str, side: int, ground: Rgb) -> bytes:
        """An MP4 or WebM (`film.film`). Raises CannotDrawError as `png` does."""
        return bytes(self.done(film, animation, kind, min(side, LARGEST_SIDE), tuple(ground), seconds=_FILM_SECONDS))

    def moving_picture(self, animation: bytes, kind: str, side: int, ground: Rgb | None) -> bytes:
        """A GIF or animated WebP (`film.moving_picture`). Raises CannotDrawError as `png` does."""
        on = tuple(ground) if ground else None
        return bytes(self.done(moving_picture, animation, kind, min(side, LARGEST_SIDE), on, seconds=_FILM_SECONDS))

    def for_each(self, work: Callable[[], None], after: float) -> None:
        """Has something short done in the children after so many seconds, in each as a rule; nobody waits for it."""

        def begin() -> None:
            # When all is being stopped, nothing is to be got ready for.
            with suppress(RuntimeError):
                for _ in range(self._workers * 2):
                    self._pool.schedule(work, timeout=_SECONDS)

        timer = Timer(after, begin)
        timer.daemon = True
        timer.start()

    def begin(self, work: Callable[..., Any], *arguments: Any, seconds: float) -> Ticket:
        """Has a function of a module carried out in a child, for as long as that; `result` waits for it."""
        return Ticket(self._pool.schedule(_within_memory, args=(work, *arguments), timeout=seconds), seconds)

    @staticmethod
    def result(ticket: Ticket) -> Any:
        """What a function gave. Raises what it raised, and ChildFailedError when it took too much time or memory, or
        took the child down."""
        try:
            return ticket.future.result()
        except DrawTimeoutError as error:
            raise ChildFailedError(f"took longer than {ticket.seconds:g} seconds") from error
        except ProcessExpired as error:
            if error.exitcode == _OUT_OF_MEMORY:
                raise ChildFailedError("needed too much memory") from error
            raise ChildFailedError("brought its reader down", fell=True) from error

    def done(self, work: Callable[..., Any], *arguments: Any, seconds: float = _SECONDS) -> Any:
        """What a function gives in a child. Raises CannotDrawError with the reason, or what is wrong with a file."""
        return self.ended(self.begin(work, *arguments, seconds=seconds))

    def ended(self, ticket: Ticket) -> Any:
        """What came of something that was begun. Raises as `done` does."""
        try:
            return self.result(ticket)
        except ChildFailedError as error:
            raise CannotDrawError(f"drawing it {error.words}") from error
        except PaveseError:
            raise
        except ValueError as error:
            raise CannotDrawError((str(error).splitlines() or ["the drawing engine gave up on it"])[0][:200]) from error
        except Exception as error:
            unforeseen("a child", error)
            raise CannotDrawError("it cannot be drawn, for a reason that was not foreseen") from error

    def close(self) -> None:
        """Stops the children."""
        self._warming.join()
        self._pool.stop()  # type: ignore[no-untyped-call]
        self._pool.join()
