"""``auditra check``: remarks for a person and as JSON, and how it ends."""

from __future__ import annotations

import json
from importlib import resources
from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.cli.commands import app
from auditra.core.errors import SheetError

DEMO = resources.files("auditra") / "data" / "demo"


def run(sheet: Path | str, *words: str) -> tuple[int, str]:
    ran = CliRunner().invoke(app, ["check", str(sheet), *words], catch_exceptions=False)
    return ran.exit_code, ran.output


def test_an_honest_sheet_ends_well_with_what_is_not_said() -> None:
    code, told = run(str(DEMO / "osierpell-op-6.toml"))
    assert code == 0
    assert "not stated  what reaches the host is not stated: P1 takes 90 W" in told
    assert "ask: How many watts does the host get?" in told
    assert "1 remark (0 impossible)" in told


def test_what_cannot_be_ends_with_one_and_is_told_as_json(tmp_path: Path) -> None:
    sheet = tmp_path / "sheet.toml"
    text = (DEMO / "osierpell-op-6.toml").read_text() + '\n[[claim]]\nsays = "P1 data 5 Gb/s"\n'
    sheet.write_text(text)
    code, told = run(sheet, "--json")
    assert code == 1
    remarks = json.loads(told)["remarks"]
    assert remarks[0]["rule"] == "against-its-no"
    assert remarks[0]["weight"] == "cannot be"
    assert remarks[0]["claims"] == ["P1 no data", "P1 data 5 Gb/s"]


def test_a_sheet_that_cannot_be_read_is_refused_with_its_line(tmp_path: Path) -> None:
    sheet = tmp_path / "sheet.toml"
    sheet.write_text((DEMO / "osierpell-op-6.toml").read_text().replace("A1 data 5 Gb/s", "A1 dta 5 Gb/s"))
    with pytest.raises(SheetError, match="line"):
        run(sheet)
