"""The commands as a user types them: what they print, how they end, and that no traceback ever reaches a user."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from tests.support.terminal import QUICK


def auditra(folder: Path, *words: str, quick: bool = False) -> subprocess.CompletedProcess[str]:
    environment = os.environ | {"AUDITRA_LIBRARY": str(folder / "library"), "XDG_STATE_HOME": str(folder / "state")}
    program = ["-c", QUICK] if quick else ["-m", "auditra"]
    command = [sys.executable, *program, *words]
    return subprocess.run(command, env=environment, cwd=folder, capture_output=True, text=True, check=False)


def test_run_then_publish_from_nothing(tmp_path: Path) -> None:
    ran = auditra(tmp_path, "run", "OP-6", "--bench", "simulated", quick=True)
    assert ran.returncode == 0, ran.stderr
    assert "=  holds      A1 data 5 Gb/s" in ran.stdout
    assert "8 of 8 claims decided" in ran.stdout
    again = auditra(tmp_path, "run", "OP-6")
    assert "taken" not in again.stdout
    published = auditra(tmp_path, "publish", "OP-6", "--out", "out")
    files = published.stdout.split()
    assert files[:3] == ["version", "1", "out/OP-6-report.html"]
    assert {"out/OP-6-report.pdf", "out/OP-6-report.md", "out/OP-6-faces.svg", "out/OP-6-faces.pdf"} < set(files)
    assert (tmp_path / "state" / "auditra" / "auditra.log").read_text().count("run begins") == 2


def test_help_names_every_command_with_a_sentence(tmp_path: Path) -> None:
    told = auditra(tmp_path, "--help").stdout
    for command in ("demo", "run", "publish", "--library", "--version"):
        assert command in told
    assert auditra(tmp_path, "--version").stdout.startswith("auditra 0.")


FAULTS = [
    (("publish", "Nothing"), "not on the shelf"),
    (("run", "OP-6", "--bench", "lunar"), "simulated"),
    (("--library", "/proc/nowhere", "run", "OP-6"), "--library"),
    (("publish", "OP-6", "--out", "/proc/nowhere"), "--out"),
    (("run", "\x1b[31mOP"), "not on the shelf"),
    (("demo",), "no terminal"),
    ((), "no terminal"),
]


@pytest.mark.parametrize(("words", "told"), FAULTS)
def test_a_fault_is_told_in_words_and_by_the_exit_code(tmp_path: Path, words: tuple[str, ...], told: str) -> None:
    ran = auditra(tmp_path, *words)
    assert ran.returncode not in (0, 70)
    assert told in ran.stderr
    assert "Traceback" not in ran.stderr
    assert "\x1b[31mOP" not in ran.stderr


def test_a_fault_nobody_foresaw_goes_to_the_log_and_not_to_the_user(tmp_path: Path) -> None:
    broken = "from auditra.cli import commands; commands.handle_of = None; from auditra.cli import main; main()"
    environment = os.environ | {"XDG_STATE_HOME": str(tmp_path / "state")}
    command = [sys.executable, "-c", broken, "publish", "OP-6"]
    ran = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
    assert ran.returncode == 70
    assert "Traceback" not in ran.stderr
    assert "Traceback" in (tmp_path / "state" / "auditra" / "auditra.log").read_text()
