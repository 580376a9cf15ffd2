"""Descriptions of instruments as files: what ships reads, a copy reads as itself, mistakes are told with their line."""

from __future__ import annotations

from pathlib import Path

import pytest

from auditra.core.errors import InputError, SheetError
from auditra.core.instruments.description import BUILT_IN, Measurand
from auditra.documents.instrument_file import read_instrument, write_instrument
from auditra.store.instruments import SHIPPED, instrument_files

GOOD = """name = "bench load"
errors = "none"

[[queries]]
measures = "voltage"
ask = "V?"
unit = "mV"
lowest = -1.0
highest = 60.0
errors = [{up_to = 6.0, percent = 0.05}, {up_to = 60.0, percent = 0.1, offset = 0.01}]

[load]
set_current = "I {milliamperes}"
on = "ON"
off = "OFF"
highest = "10 A"
"""


def test_every_description_reads_as_it_was_written(tmp_path: Path) -> None:
    every = instrument_files(tmp_path).every()
    assert [each.name for each in every] == [*BUILT_IN, *SHIPPED]
    for each in (*every, read_instrument(GOOD, "good.toml")):
        assert read_instrument(write_instrument(each), "again.toml") == each
        assert each.about or each.name == "bench load"


def test_a_description_says_units_ranges_and_what_a_load_takes() -> None:
    bench_load = read_instrument(GOOD, "good.toml")
    assert bench_load.errors == ""
    assert bench_load.load is not None
    assert (bench_load.load.current(1.5), bench_load.load.highest_a) == ("I 1500.00", 10.0)
    query = bench_load.query(Measurand.VOLTAGE)
    assert query is not None
    assert [each.up_to for each in query.errors] == [6.0, 60.0]


MISTAKES = [
    ('unit = "mV"', 'unit = "mA"', "another unit", 7),
    ("lowest = -1.0", "lowest = 61.0", "not above", 9),
    ("up_to = 6.0", "up_to = 66.0", "smallest range first", 10),
    ("{milliamperes}", "{watts}", "where the current goes", 13),
    ('off = "OFF"', 'off = "ON"', "same command", 15),
    ('highest = "10 A"', 'highest = "10 V"', "10 V", 16),
    ('ask = "V?"', 'ask = "V?\\n*RST"', "one line of ASCII", 6),
    ('ask = "V?"', 'ask = "V\\u00b2?"', "one line of ASCII", 6),
    ('measures = "voltage"', 'measures = "mood"', "voltage", 5),
    ('errors = "none"', 'errors = "none"\ntimeout_s = 3600.0', "less than or equal to 30", 3),
    ("[load]", "[lode]", "unknown key", 12),
]


@pytest.mark.parametrize(("good", "bad", "why", "line"), MISTAKES)
def test_what_cannot_be_meant_is_told_with_its_line(good: str, bad: str, why: str, line: int) -> None:
    assert good in GOOD
    text = GOOD.replace(good, bad)
    with pytest.raises(SheetError, match=why) as refused:
        read_instrument(text, "own.toml")
    assert f"own.toml, line {line}" in str(refused.value)


def test_a_quantity_that_is_asked_for_twice_and_one_that_measures_nothing_are_refused() -> None:
    twice = GOOD.replace(
        "[load]", '[[queries]]\nmeasures = "voltage"\nask = "U?"\nlowest = 0.0\nhighest = 5.0\n\n[load]'
    )
    with pytest.raises(SheetError, match="asked for above"):
        read_instrument(twice, "own.toml")
    with pytest.raises(SheetError, match="measures nothing"):
        read_instrument('name = "nothing"', "own.toml")


def test_a_copy_is_edited_and_comes_first_and_a_bad_one_hides_no_other(tmp_path: Path) -> None:
    files = instrument_files(tmp_path / "instruments")
    path = files.write_copy("common", "desk")
    path.write_text(path.read_text().replace("MEASure:VOLTage?", "FETCh:VOLTage?"))
    (tmp_path / "instruments" / "bad.toml").write_text("name = 3")
    query = files.named("desk").query(Measurand.VOLTAGE)
    assert query is not None
    assert query.ask == "FETCh:VOLTage?"
    assert len(files.troubles()) == 1
    with pytest.raises(InputError, match="none of this name"):
        files.named("elsewhere")
