"""The log file under the state folder. The screen is never written to."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Any

NAME = "auditra.log"
MAX_BYTES = 4 << 20


def log_file() -> Path:
    import platformdirs  # slow to import, and most runs have nothing to log

    return platformdirs.user_state_path("auditra") / NAME


@cache
def logger() -> Any:
    """The structured logger, one JSON object a line."""
    import structlog  # slow to import, and most runs have nothing to log

    path = log_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    if path.exists() and path.stat().st_size > MAX_BYTES:
        path.replace(path.with_suffix(".old.log"))
    structlog.configure(
        processors=[
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(),
        ],
        logger_factory=structlog.WriteLoggerFactory(file=path.open("a", encoding="utf-8")),
        cache_logger_on_first_use=True,
    )
    return structlog.get_logger()


def log_fault(what: str, error: BaseException) -> None:
    """Keep what went wrong, with its traceback; a log that cannot be written stops nothing."""
    try:
        logger().error(what, exc_info=error)
    except OSError:
        return


def log_event(what: str, **fields: object) -> None:
    """Keep that something happened."""
    try:
        logger().info(what, **fields)
    except OSError:
        return
