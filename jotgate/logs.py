"""Structured logs, one JSON object a line. Answers, addresses and secrets are never logged."""

import logging
import sys

import structlog


def set_up(level: str) -> None:
    """Send our own log and the libraries' warnings to standard error as JSON."""
    number = logging.getLevelNamesMapping()[level.upper()]
    shared: list[structlog.types.Processor] = [
        structlog.stdlib.add_logger_name,
        structlog.processors.add_log_level,
        structlog.processors.TimeStamper(fmt="iso", utc=True),
        structlog.processors.format_exc_info,
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
