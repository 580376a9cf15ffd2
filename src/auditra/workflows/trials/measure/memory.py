"""Memory compared at the speed of memory: two views compared in Python would be slower than the drives."""

from __future__ import annotations

import ctypes

_memcmp = ctypes.CDLL(None).memcmp
_memcmp.argtypes = (ctypes.c_void_p, ctypes.c_void_p, ctypes.c_size_t)
_memcmp.restype = ctypes.c_int


def same_bytes(one: memoryview, other: memoryview) -> bool:
    """Whether two writable blocks hold the same; C's memcmp, which copies nothing and lets other threads run."""
    if one.nbytes != other.nbytes:
        return False
    return one.nbytes == 0 or _memcmp(_address(one), _address(other), one.nbytes) == 0


def _address(block: memoryview) -> int:
    return ctypes.addressof(ctypes.c_char.from_buffer(block))
