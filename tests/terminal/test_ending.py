"""The process ends when it is asked to, whatever its terminal does."""

from __future__ import annotations

import os
import pty
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP])
def test_a_terminal_that_takes_no_more_output_keeps_no_process_alive(tmp_path: Path, number: int) -> None:
    ours, its = pty.openpty()
    places = {"AUDITRA_LIBRARY": str(tmp_path / "library"), "XDG_STATE_HOME": str(tmp_path), "TERM": "xterm-256color"}
    process = subprocess.Popen(
        [sys.executable, "-m", "auditra", "demo"], env=os.environ | places, stdin=its, stdout=its, stderr=its
    )
    try:
        painted = b""
        while b"BW-11" not in painted:
            painted += os.read(ours, 1 << 16)
        for _ in range(40):  # each is a whole picture anew, and nobody reads it
            os.write(ours, b"t")
            time.sleep(0.02)
        process.send_signal(number)
        assert process.wait(15) == 128 + number
    finally:
        process.kill()
        process.wait()
        os.close(its)
        os.close(ours)
