"""Making much that stays: Python looks through all of it for garbage again and again, and finds none."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def without_collecting() -> Iterator[None]:
    """No search for garbage meanwhile: it doubles the time in which a long journal is read and judged."""
    was_on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_on:
            gc.enable()
