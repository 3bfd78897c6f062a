"""Structured logs: one JSON object a line, without secrets and without places."""

import logging
import sys

import structlog

HIDDEN = ("password", "token", "cookie", "ticket", "email", "latitude", "longitude", "authorization")


def _without_secrets(_: object, __: str, event: structlog.types.EventDict) -> structlog.types.EventDict:
    return {
        key: "…" if any(word in key.lower() for word in HIDDEN) else value for key, value in event.items()
    }


def configure() -> None:
    """Send the service's and the libraries' logs to standard error."""
    shared: list[structlog.types.Processor] = [
        structlog.contextvars.merge_contextvars,
        structlog.stdlib.add_log_level,
        structlog.stdlib.add_logger_name,
        structlog.processors.TimeStamper(fmt="iso"),
        structlog.processors.format_exc_info,
        _without_secrets,
    ]
    structlog.configure(
        processors=[*shared, structlog.stdlib.ProcessorFormatter.wrap_for_formatter],
        logger_factory=structlog.stdlib.LoggerFactory(),
        wrapper_class=structlog.stdlib.BoundLogger,
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
    logging.getLogger("deriva").setLevel(logging.INFO)
