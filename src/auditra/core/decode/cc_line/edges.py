"""A captured line as the moments at which it changed, and what was wrong with the capture."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from auditra.core.decode.problem import Problem

Times = npt.NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Line:
    """One wire. `edges_s` are the moments at which it changed, in seconds from the beginning of the capture,
    ascending."""

    name: str
    edges_s: Times


@dataclass(frozen=True, eq=False)
class Capture:
    """Every wire of a capture, and what is wrong with the file; offsets of problems are bytes, or lines of a table."""

    lines: tuple[Line, ...]
    problems: tuple[Problem, ...] = ()
    has_ended: bool = True
    """False where the file stops in the middle of something."""
