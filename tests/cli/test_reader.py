"""What the reader gets, from the shell: score under any profile, line-up, bundle with a signature, merge, versions."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.cli.commands import app
from auditra.core.errors import AuditraError
from tests.support.finished import finished_library


@pytest.fixture
def library(tmp_path: Path) -> Path:
    handle = finished_library(tmp_path)
    handle.library.close()
    return tmp_path / "library"


def run(library: Path, *words: str) -> str:
    ran = CliRunner().invoke(app, ["--library", str(library), *words], catch_exceptions=False)
    assert ran.exit_code == 0, ran.output
    return ran.output


def test_the_ledger_under_another_profile_says_what_moved_and_keeping_it_is_asked_for(library: Path) -> None:
    told = run(library, "score", "BW-11", "--profile", "studio")
    assert "profile studio" in told
    assert "with balanced it is" in told
    assert "N1 links 2.5 Gb/s" in told.partition("what moved it")[2]
    assert json.loads(run(library, "judge", "BW-11", "--json"))["profile"] == "balanced"
    run(library, "score", "BW-11", "--profile", "studio", "--keep")
    kept = json.loads(run(library, "judge", "BW-11", "--json"))
    assert kept["profile"] == "studio"
    assert f"score {kept['score']['value']} " in told
    assert kept["coverage"]["advice"] in told


def test_a_profile_of_ones_own_is_copied_edited_and_used(library: Path) -> None:
    path = Path(run(library, "profiles", "--copy", "travel", "--as", "mine").strip())
    path.write_text(path.read_text().replace('links = "3"', 'links = "300"'))
    assert "mine" in run(library, "profiles")
    assert "of 300" in run(library, "score", "BW-11", "--profile", "mine")
    path.write_text("name = 3")
    assert "mine.toml, line 1" in run(library, "profiles")
    with pytest.raises(AuditraError, match=r"none of this name.*mine.toml"):
        run(library, "score", "BW-11", "--profile", "mine")


def test_a_line_up_is_printed_or_written(library: Path, tmp_path: Path) -> None:
    told = run(library, "line-up", "OP-6", "BW-11")
    assert "usb-a data 5 Gb/s, write rate" in told
    assert "rows won" in told
    files = run(library, "line-up", "OP-6", "BW-11", "--out", str(tmp_path / "out")).split()
    assert {Path(each).suffix for each in files} == {".html", ".pdf", ".md", ".csv"}
    with pytest.raises(AuditraError, match="Choose 2 to 6"):
        run(library, "line-up", "OP-6")


def test_three_demo_devices_are_lined_up_once_the_stand_dock_was_run(library: Path, tmp_path: Path) -> None:
    run(library, "run", "H6", "--sheet", "quick")
    told = run(library, "line-up", "OP-6", "BW-11", "H6", "--out", str(tmp_path))
    assert "OP-6-BW-11-H6-line-up.html" in told
    judged = json.loads(run(library, "judge", "H6", "--json"))
    verdicts = {each["sentence"]: each["verdict"] for each in judged["claims"]}
    assert verdicts["A3 data 10 Gb/s"] == "short", "the slower twin"
    assert set(verdicts.values()) == {"short", "holds"}, "a quick sheet does not go as far as the display beside it"
    page = (tmp_path / "OP-6-BW-11-H6-line-up.md").read_text()
    assert "| rj45 links 1 Gb/s, send rate |" in page


def test_a_bundle_is_signed_verified_and_merged(library: Path, tmp_path: Path) -> None:
    key, path = tmp_path / "my.key", tmp_path / "op6.zip"
    fingerprint = run(library, "key", str(key)).splitlines()[0].removeprefix("key ")
    with pytest.raises(AuditraError, match="Choose another name"):
        run(library, "key", str(key))
    run(library, "bundle", "OP-6", "--out", str(path), "--sign", str(key))
    assert fingerprint in run(library, "verify", str(path))
    run(library, "import", str(path), "--as", "theirs")
    with pytest.raises(AuditraError, match="of this very audit"):
        run(library, "merge", "OP-6", str(path))
    (tmp_path / "bad.key").write_text("no key")
    with pytest.raises(AuditraError, match="it cannot be read"):
        run(library, "bundle", "OP-6", "--out", str(path), "--sign", str(tmp_path / "bad.key"))


def test_a_report_that_does_not_say_how_the_device_was_got_goes_out_as_a_draft_alone(
    library: Path, tmp_path: Path
) -> None:
    with pytest.raises(AuditraError, match="a reader must be told"):
        run(library, "publish", "OP-6", "--out", str(tmp_path / "out"))
    assert not (tmp_path / "out").exists()
    run(library, "publish", "OP-6", "--out", str(tmp_path / "out"), "--draft")
    assert "Draft, not published yet" in (tmp_path / "out" / "OP-6-report.html").read_text()


def test_own_rules_of_for_whom_take_the_place_of_those_that_ship(library: Path, tmp_path: Path) -> None:
    (library / "for_whom.toml").write_text('[[user]]\nname = "my aunt"\nneed = [{ is = ["links 1 Gb/s"] }]\n')
    run(library, "publish", "OP-6", "--out", str(tmp_path), "--draft")
    page = (tmp_path / "OP-6-report.md").read_text()
    assert "my aunt" in page
    assert "film work" not in page


def test_the_schema_of_a_profile_is_printed(library: Path) -> None:
    assert "weights" in json.loads(run(library, "schema", "profile"))["properties"]
