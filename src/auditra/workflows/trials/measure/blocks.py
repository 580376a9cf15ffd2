"""The blocks that the storage engine writes and compares: no two places of a file hold the same.

One random block, stamped every 4 KiB with its offset, the pass and the place inside the block, stands for any amount of
data: a block that comes back from the wrong place, or from an earlier pass, is found.
"""

from __future__ import annotations

import ctypes
import mmap
import random
import threading
from array import array
from collections.abc import Iterable
from contextlib import suppress
from queue import SimpleQueue

from auditra.workflows.trials.measure.memory import same_bytes

BLOCK_BYTES = 1 << 20
STAMP_PITCH_BYTES = 4096
_WORDS_A_PITCH, _STAMPS = STAMP_PITCH_BYTES // 8, BLOCK_BYTES // STAMP_PITCH_BYTES
_PATTERN_SEED = 0x0A0D17
_HUGE_PAGE_BYTES = 2 << 20


def aligned_memory(size: int = BLOCK_BYTES) -> memoryview:
    """Memory of its own for direct I/O, in one huge page where the system has them.

    Small pages cost direct I/O a look-up each: 256 a block instead of one.
    """
    room = mmap.mmap(-1, size + _HUGE_PAGE_BYTES, flags=mmap.MAP_PRIVATE | mmap.MAP_ANONYMOUS)
    start = -ctypes.addressof(ctypes.c_char.from_buffer(room)) % _HUGE_PAGE_BYTES
    if hasattr(mmap, "MADV_HUGEPAGE"):
        with suppress(OSError):  # a kernel without them
            room.madvise(mmap.MADV_HUGEPAGE)
    return memoryview(room)[start : start + size]


class Pattern:
    """The block that is written, stamped for a place and a pass."""

    def __init__(self) -> None:
        self._memory = aligned_memory()
        self._memory[:] = random.Random(_PATTERN_SEED).randbytes(BLOCK_BYTES)
        self._words = self._memory.cast("Q")
        self._stamp(2, range(_STAMPS))
        self._turn: int | None = None

    def stamped(self, offset: int, turn: int) -> memoryview:
        """The block for this offset in this pass; good until the next call."""
        if turn != self._turn:
            self._stamp(1, [turn] * _STAMPS)
            self._turn = turn
        self._words[0::_WORDS_A_PITCH] = memoryview(array("Q", (offset,)) * _STAMPS)
        return self._memory

    def _stamp(self, word: int, values: Iterable[int]) -> None:
        self._words[word::_WORDS_A_PITCH] = memoryview(array("Q", values))


def count_wrong_bytes(expected: memoryview, found: memoryview) -> int:
    """How many bytes differ; equal blocks, which is all of them on a sound drive, cost one comparison."""
    if same_bytes(expected, found):
        return 0
    differ = int.from_bytes(expected) ^ int.from_bytes(found)
    return len(expected) - differ.to_bytes(len(expected)).count(0)


class Comparer:
    """Compares blocks on a thread of its own while the next one is read."""

    def __init__(self) -> None:
        self._pattern, self._wrong = Pattern(), 0
        self._free: SimpleQueue[memoryview] = SimpleQueue()
        self._full: SimpleQueue[tuple[memoryview, int, int] | None] = SimpleQueue()
        for _ in range(2):
            self._free.put(aligned_memory())
        self._thread = threading.Thread(target=self._compare_all, name="comparer", daemon=True)
        self._thread.start()

    def free_block(self) -> memoryview:
        """Room for the next block, once there is some."""
        return self._free.get()

    def compare(self, block: memoryview, offset: int, turn: int) -> None:
        """Compare a block with what was written there in this pass, and free its room."""
        self._full.put((block, offset, turn))

    def finish(self) -> int:
        """How many bytes were wrong in all blocks so far, once all are compared."""
        self._full.put(None)
        self._thread.join()
        return self._wrong

    def _compare_all(self) -> None:
        while (job := self._full.get()) is not None:
            block, offset, turn = job
            self._wrong += count_wrong_bytes(self._pattern.stamped(offset, turn), block)
            self._free.put(block)
