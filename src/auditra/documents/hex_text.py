"""Bytes that are written out as hex digits."""

from __future__ import annotations

import re

from auditra.core.errors import InputError

_BETWEEN = re.compile(r"[\s:,]+|0x")


def from_hex(text: str) -> bytes:
    """The bytes that digits, with or without spaces, colons, commas and 0x, spell. Raises: InputError."""
    plain = _BETWEEN.sub("", text)
    try:
        return bytes.fromhex(plain)
    except ValueError as error:
        at = next((n for n, each in enumerate(plain) if each not in "0123456789abcdefABCDEF"), len(plain))
        why = f"character {at + 1} is no hexadecimal digit" if at < len(plain) else "it has half a byte at its end"
        raise InputError(f'"{plain[:40]}"', why=why, do="Write two digits a byte") from error
