"""Which of many values are kept where there is room for few: no dip and no peak is lost."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt


def extremes(values: npt.NDArray[np.float64], most: int) -> list[int]:
    """Places of at most so many values, in order: of each stretch the lowest and the highest. All where they fit."""
    step = -(-len(values) // (most // 2))
    if step <= 2:
        return list(range(len(values)))
    chosen: list[int] = []
    for begin in range(0, len(values), step):
        stretch = values[begin : begin + step]
        chosen += sorted({begin + int(stretch.argmin()), begin + int(stretch.argmax())})
    return chosen
