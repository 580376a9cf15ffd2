"""What a screen says when work on a thread of its own did not go well."""

from __future__ import annotations

from collections.abc import Callable

from auditra.core.errors import AuditraError


def fault_words(error: Exception, what: str, log: Callable[[str, BaseException], None]) -> str:
    """An error of ours in its own words; any other goes to the log, called `what`, and the screen goes on."""
    if isinstance(error, AuditraError):
        return str(error)
    log(what, error)
    return f"Unexpected fault: {type(error).__name__}; the log has the details."
