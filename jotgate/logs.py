"""Structured logs, one JSON object a line. Answers, addresses and secrets are never logged.

Of errors, that is their kinds and where they were raised. Their messages are left out: those of
the database quote rows, those of parsers what they could not read.
"""

import logging
import sys
import traceback
from collections.abc import Iterator

import structlog


def without_messages(
    _: object, __: str, event: structlog.types.EventDict
) -> structlog.types.EventDict:
    """A structlog processor: the exception of an event as kinds and frames."""
    given = event.pop("exc_info", None)
    if isinstance(given, tuple):
        given = given[1]
    error = given if isinstance(given, BaseException) else sys.exc_info()[1] if given else None
    if error is not None:
        event["exception"] = "\n".join(line for one in _chain(error) for line in _told(one))
    return event


def _chain(error: BaseException) -> Iterator[BaseException]:
    """`error` and those that it was raised from, or while handling."""
    seen: set[int] = set()
    further: BaseException | None = error
    while further is not None and id(further) not in seen:
        seen.add(id(further))
        yield further
        further = further.__cause__ or further.__context__


def kind_of(error: BaseException) -> str:
    """The class of `error`, with the SQLSTATE that the database gave."""
    state = getattr(error, "sqlstate", None) or getattr(
        getattr(error, "orig", None), "sqlstate", None
    )
    name = f"{type(error).__module__}.{type(error).__qualname__}"
    return f"{name} ({state})" if state else name


def _told(error: BaseException) -> Iterator[str]:
    yield kind_of(error)
    for frame in traceback.extract_tb(error.__traceback__):
        yield f"  {frame.filename}:{frame.lineno} in {frame.name}"


def set_up(level: str) -> None:
    """Send our own log and the libraries' warnings to standard error as JSON."""
    number = logging.getLevelNamesMapping()[level.upper()]
    shared: list[structlog.types.Processor] = [
        structlog.stdlib.add_logger_name,
        structlog.processors.add_log_level,
        structlog.processors.TimeStamper(fmt="iso", utc=True),
        without_messages,
    ]
    structlog.configure(
        processors=[
            structlog.stdlib.filter_by_level,
            *shared,
            structlog.stdlib.ProcessorFormatter.wrap_for_formatter,
        ],
        wrapper_class=structlog.stdlib.BoundLogger,
        logger_factory=structlog.stdlib.LoggerFactory(),
        cache_logger_on_first_use=True,
    )
    handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(
        structlog.stdlib.ProcessorFormatter(
            foreign_pre_chain=shared,
            processors=[
                structlog.stdlib.ProcessorFormatter.remove_processors_meta,
                structlog.processors.JSONRenderer(),
            ],
        )
    )
    root = logging.getLogger()
    root.handlers = [handler]
    root.setLevel(logging.WARNING)
    logging.getLogger("request").setLevel(number)
    logging.getLogger("jotgate").setLevel(number)
    logging.getLogger("uvicorn.error").setLevel(logging.WARNING)
