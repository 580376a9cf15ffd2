"""Ending on request: a signal becomes an exception, so that every clean-up on the way out is done."""

from __future__ import annotations

import signal
from types import FrameType
from typing import NoReturn

from auditra.tui.ending import ENDING_SIGNALS


def end_in_order() -> None:
    """From now on SIGTERM and SIGHUP end the process as an exception does; a signal that is ignored stays so."""
    for each in ENDING_SIGNALS:
        if signal.getsignal(each) is not signal.SIG_IGN:
            signal.signal(each, _end)


def _end(number: int, _: FrameType | None) -> NoReturn:
    raise SystemExit(128 + number)
