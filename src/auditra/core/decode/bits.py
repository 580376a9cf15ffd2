"""Parts of words, read in the order in which a standard's tables are printed."""

from __future__ import annotations


def bits(word: int, high: int, low: int) -> int:
    """Bits `high` down to `low` of a word, both with."""
    return (word >> low) & ((1 << (high - low + 1)) - 1)


def bit(word: int, place: int) -> bool:
    return bool(word >> place & 1)


def u16(data: bytes, at: int) -> int:
    """Two bytes, the lower first; 0 for those that are not there."""
    return int.from_bytes(data[at : at + 2], "little")


def u32(data: bytes, at: int) -> int:
    """Four bytes, the lowest first; 0 for those that are not there."""
    return int.from_bytes(data[at : at + 4], "little")


def version_of(bcd: int) -> str:
    """``0x0321`` as ``3.21``. Source: USB 2.0, 9.6.1 (binary-coded decimal)."""
    return f"{bcd >> 8:x}.{bcd & 0xFF:02x}"
