"""What the fields of a noun can hold, read from its type hints."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, get_args


def leaves(hint: Any) -> Iterator[Any]:
    """Every plain type in a type hint: ``float`` and ``None`` of ``tuple[float, ...] | None``."""
    inner = get_args(hint)
    for each in inner:
        yield from leaves(each)
    if not inner:
        yield hint
