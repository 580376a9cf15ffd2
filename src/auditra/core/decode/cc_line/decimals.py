"""Decimal numbers out of text, thousands at once: eight digits are one word, which three multiplications make a number.

Of each number the words that end with it are taken; bytes before it are set to zeros first.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

MAX_DIGITS = 16
"""Two words of eight: nanoseconds for 115 days."""
_WORD = 8
_ZEROS = np.uint64(0x3030303030303030)
_TOO_LARGE = np.uint64(0x7676767676767676)
_HIGH_BITS = np.uint64(0x8080808080808080)
_STEPS = tuple(
    (np.uint64(mask), np.uint64(factor), np.uint64(shift))
    for mask, factor, shift in (
        (0x0F0F0F0F0F0F0F0F, 10 * 256 + 1, 8),
        (0x00FF00FF00FF00FF, 100 * 65536 + 1, 16),
        (0x0000FFFF0000FFFF, 10_000 * 4294967296 + 1, 32),
    )
)
"""Pairs of digits, pairs of those, and once more: the first of each stands in the lower half."""


def decimals(
    letters: npt.NDArray[np.uint8], ends: npt.NDArray[np.int64], lengths: npt.NDArray[np.int64]
) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.bool_]]:
    """The numbers that end before `ends`, of so many digits up to 16; and which of them have something but digits."""
    padded = np.zeros((len(letters) + 2 * _WORD) // _WORD * _WORD + 2 * _WORD, dtype=np.uint8)
    padded[2 * _WORD : 2 * _WORD + len(letters)] = letters
    words = padded.view("<u8")
    low, wrong = _of_eight(words, ends + _WORD, np.minimum(lengths, _WORD))
    if not (lengths > _WORD).any():
        return low, wrong | (lengths < 1)
    high, wrong_high = _of_eight(words, ends, np.clip(lengths - _WORD, 0, _WORD))
    return high * 10**_WORD + low, wrong | wrong_high | (lengths < 1)


def decimals_of_columns(
    figures: npt.NDArray[np.uint8],
) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.bool_]]:
    """The number in each row of up to 16 characters; and which rows have something but digits."""
    low, wrong = _of_words(_column_words(figures[:, -_WORD:]))
    if figures.shape[1] <= _WORD:
        return low, wrong
    high, wrong_high = _of_words(_column_words(figures[:, :-_WORD]))
    return high * 10**_WORD + low, wrong | wrong_high


def _column_words(figures: npt.NDArray[np.uint8]) -> npt.NDArray[np.uint64]:
    rows, count = figures.shape
    padded = np.full((rows, _WORD), _ZEROS & np.uint64(0xFF), dtype=np.uint8)
    padded[:, _WORD - count :] = figures
    return padded.view("<u8")[:, 0]


def _of_eight(
    words: npt.NDArray[np.uint64], starts: npt.NDArray[np.int64], lengths: npt.NDArray[np.int64]
) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.bool_]]:
    """The last digits of the eight bytes from each start on, as one number."""
    place, shift = starts >> 3, ((starts & 7) << 3).astype(np.uint64)
    value = words[place] >> shift
    value |= np.where(shift > 0, words[place + 1] << (np.uint64(64) - np.maximum(shift, np.uint64(1))), np.uint64(0))
    blank = ((_WORD - lengths) << 3).astype(np.uint64)
    whole = blank >= 64
    blank = np.minimum(blank, np.uint64(63))
    value = np.where(
        blank > 0, (value >> blank << blank) | (_ZEROS >> (np.uint64(64) - np.maximum(blank, np.uint64(1)))), value
    )
    return _of_words(np.where(whole, _ZEROS, value))


def _of_words(words: npt.NDArray[np.uint64]) -> tuple[npt.NDArray[np.int64], npt.NDArray[np.bool_]]:
    value = words - _ZEROS
    wrong = ((value + _TOO_LARGE) | value) & _HIGH_BITS != 0
    for mask, factor, step in _STEPS:
        value &= mask
        value *= factor
        value >>= step
    return value.view(np.int64), wrong
