"""The log: one line an event, for people or, with `PAVESE_LOG_FORMAT=json`, for machines."""

from __future__ import annotations

import logging
import sys
from collections import deque

import structlog

from pavese.settings import Settings

#: Errors that nobody foresaw, by where they happened. Nothing reads them but the tests, which fail for any.
UNFORESEEN: deque[str] = deque(maxlen=100)


def unforeseen(where: str, error: BaseException) -> None:
    """Writes down an error that nobody foresaw; whoever calls goes on without what it happened in."""
    UNFORESEEN.append(f"{where}: {error!r}")
    structlog.get_logger().error("unforeseen", where=where[:200], error=repr(error)[:400], exc_info=error)


def configure(config: Settings) -> None:
    """Sets format and level for the whole process."""
    renderer = structlog.processors.JSONRenderer() if config.log_format == "json" else structlog.dev.ConsoleRenderer()
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso"),
            structlog.processors.format_exc_info,
            renderer,
        ],
        wrapper_class=structlog.make_filtering_bound_logger(getattr(logging, config.log_level.upper())),
        # Where errors go is asked at each line: whoever turns them elsewhere for a while may close that again.
        logger_factory=lambda *_: structlog.PrintLogger(sys.stderr),
    )
