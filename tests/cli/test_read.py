"""``auditra read``: from a file or standard input, for a person or as JSON; what is no text is refused."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.cli.commands import app
from auditra.core.errors import InputError

BOX = "Hub with 2 USB-A ports, 5 Gbps.\nCharming \x1b[31mcolours.\n"


def test_a_text_is_read_and_what_is_left_is_told_inert(tmp_path: Path) -> None:
    path = tmp_path / "box.txt"
    path.write_text(BOX)
    told = CliRunner().invoke(app, ["read", str(path)], catch_exceptions=False).output
    assert "A2 data 5 Gb/s" in told
    assert "no claim read from: Charming" in told
    assert "\x1b" not in told
    assert "2 claims proposed" in told


def test_standard_input_and_json() -> None:
    told = CliRunner().invoke(app, ["read", "-", "--json"], input=BOX, catch_exceptions=False).output
    read = json.loads(told)
    assert [each["says"] for each in read["proposals"]] == ["A1 data 5 Gb/s", "A2 data 5 Gb/s"]
    assert read["proposals"][0]["quoted"] == "Hub with 2 USB-A ports, 5 Gbps"


@pytest.mark.parametrize("data", [b"\xff\xfe\x00binary", b"x" * 500_000])
def test_what_is_no_text_is_refused(data: bytes, tmp_path: Path) -> None:
    path = tmp_path / "blob"
    path.write_bytes(data)
    for name in (path, tmp_path / "missing"):
        with pytest.raises(InputError):
            CliRunner().invoke(app, ["read", str(name)], catch_exceptions=False)
