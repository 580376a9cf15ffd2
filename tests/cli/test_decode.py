"""`auditra decode edid|pd|cable`, as a person or a program runs them."""

from __future__ import annotations

import json
from importlib import resources
from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.cli.commands import app
from auditra.core.simulate import display_description as made
from auditra.documents.rig_file import read_rig
from tests.core.decode.test_edid import RICH, UHD, WHOLE
from tests.support import power

RUN = CliRunner()
CABLE = """
marker = ["18001F6E", "00000000", "05010100", "000A2642"]
wires = ["VBUS", "GND", "CC", "D+", "D-", "TX1", "RX1", "TX2", "RX2", "SBU1", "SBU2"]
vbus = "122 mohm"
says = ["carries 240 W", "carries 10 Gb/s", "is marked 50 V 5 A"]
"""


def said(*arguments: object, code: int = 0) -> str:
    result = RUN.invoke(app, ["decode", *(str(each) for each in arguments)])
    assert result.exit_code == code, result.output
    return result.output


def refused(*arguments: object) -> str:
    result = RUN.invoke(app, ["decode", *(str(each) for each in arguments)])
    assert result.exit_code != 0
    return str(result.exception)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    poor = made.base(UHD, made.text(0xFC, "projector"), extensions=1) + made.cta(made.video(95, 16), made.hdmi(deep=()))
    (tmp_path / "direct.edid").write_bytes(WHOLE)
    (tmp_path / "through.edid").write_bytes(poor)
    (tmp_path / "pd.log").write_text("\n".join(power.log(*power.conversation())))
    (tmp_path / "cable.toml").write_text(CABLE)
    return tmp_path


def test_a_display_for_a_person(folder: Path) -> None:
    told = said("edid", folder / "direct.edid")
    assert told.startswith("projector (ATD 1234), EDID 1.4")
    line = next(line for line in told.splitlines() if line.startswith("  3840x2160@60"))
    assert "594.000 MHz" in line
    assert "preferred, native, 4:2:0 too; takes HDMI 600 Mcsc or DisplayPort 5.4 Gb/s a lane" in line


def test_a_display_as_json_in_the_standards_units(folder: Path) -> None:
    told = json.loads(said("edid", folder / "direct.edid", "--json"))
    assert (told["modes"][0]["pixel_clock_khz"], told["modes"][0]["refresh_millihz"]) == (594_000, 60_000)
    assert told["edid"]["problems"] == []
    assert told["differs"] is None


def test_what_an_adapter_does_to_a_description(folder: Path) -> None:
    told = said("edid", folder / "direct.edid", "--beside", folder / "through.edid")
    assert "taken away: variable refresh, 48 to 120 Hz" in told
    assert "both descriptions are the same" in said("edid", folder / "direct.edid", "--beside", folder / "direct.edid")


def test_a_damaged_description_is_told_with_place_and_code() -> None:
    told = said("edid", "--hex", (WHOLE[:127] + bytes((WHOLE[127] ^ 1,)) + RICH).hex(), code=1)
    assert "! byte 127: the block checksum is 1, expected 0" in told
    assert "(checksum)" in told


@pytest.mark.parametrize("kind", ["edid", "usb", "pd"])
@pytest.mark.parametrize("how", [(), ("--json",)])
def test_what_cannot_be_read_at_all_ends_with_1(kind: str, how: tuple[str, ...], folder: Path) -> None:
    (folder / "noise").write_bytes(b"\0nothing of any kind\n" * 3)
    told = said(kind, folder / "noise", *how, code=1)
    assert told
    assert "prefer" not in told.replace('"preferred": null', "")


def test_a_display_that_cannot_be_read_is_no_gear(folder: Path) -> None:
    (folder / "noise").write_bytes(b"nothing of any kind")
    result = RUN.invoke(app, ["decode", "edid", str(folder / "noise"), "--as-rig"])
    assert result.exit_code != 0
    assert "[[display]]" not in result.output


def test_a_power_conversation_for_a_person_and_as_json(folder: Path) -> None:
    told = said("pd", folder / "pd.log")
    assert "contract: 20 V 4.5 A (90 W), object 4" in told
    assert "the sink asked for 90 W of 100 W that are offered" in told
    assert "cable: passive cable of 1f6e" in told
    found = json.loads(said("pd", folder / "pd.log", "--json"))["conversation"]
    assert (found["contract"]["voltage_mv"], found["contract"]["current_ma"]) == (20_000, 4500)
    assert found["offered"][3]["current_ma"] == 5000


def test_one_message_written_out() -> None:
    assert "offers 1: 5 V 3 A" in said("pd", "--hex", power.data("offer", power.fixed(5, 3)).hex())


def test_a_cable_for_a_person_and_as_json(folder: Path) -> None:
    told = said("cable", folder / "cable.toml")
    assert "power: contradicts: the marker allows 240 W, its copper does not" in told
    assert "VBUS: 5 A x 122 mohm = 610 mV, 500 mV are allowed" in told
    found = json.loads(said("cable", folder / "cable.toml", "--json"))
    assert found["allows"]["power_w"] == 240
    assert {each["about"] for each in found["findings"]} == {"marker", "power", "copper", "data"}
    assert "power: 100 W" in said("cable", "--hex", "18001F6E 00000000 05010100 00082042")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ('marker = 3', "no list of words"), ('wires = ["WIFI"]', "is no contact"), ('vbus = 90', "no unit"),
        ('vbus = "90 W"', "unit"), ('says = ["shines"]', "claims of a cable"), ('colour = "red"', "is not known"),
        ("marker = [", "docs/decoders.md"), ('marker = ["18001F6E0"]', "half a byte"), ("\x00", "docs/decoders.md"),
    ],
)  # fmt: skip
def test_a_cable_file_that_is_wrong_is_refused_in_words(tmp_path: Path, text: str, words: str) -> None:
    (tmp_path / "cable.toml").write_text(text)
    assert words in refused("cable", tmp_path / "cable.toml")


def test_a_cable_without_a_marker_is_not_one_that_nobody_asked(tmp_path: Path) -> None:
    (tmp_path / "cable.toml").write_text('marker = "none"\nsays = ["carries 100 W"]\n')
    assert "power: 60 W (no marker" in said("cable", tmp_path / "cable.toml")
    (tmp_path / "cable.toml").write_text('says = ["carries 100 W"]\n')
    assert "power: not known" in said("cable", tmp_path / "cable.toml")


@pytest.mark.parametrize("kind", ["decode-edid", "decode-pd", "decode-cable"])
def test_each_format_has_a_schema(kind: str) -> None:
    result = RUN.invoke(app, ["schema", kind])
    assert json.loads(result.output)["properties"]["format"]["default"].startswith("auditra decode")


def test_a_display_becomes_a_part_of_a_rig(folder: Path) -> None:
    told = said("edid", folder / "direct.edid", "--as-rig")
    demo = (resources.files("auditra") / "data/demo/galley.toml").read_text()
    rig = read_rig(demo + "\n" + told.replace('id = "projector"', 'id = "another"'), "rig.toml")
    made_of_it = rig.displays[-1]
    assert (made_of_it.name, made_of_it.modes[0], made_of_it.vrr) == ("projector", "3840x2160@60", True)
    assert all("i@" not in mode for mode in made_of_it.modes)


def test_a_long_log_with_torn_lines_is_read_a_line_at_a_time(tmp_path: Path) -> None:
    whole = "\n".join(power.log(*power.conversation())) + "\n"
    (tmp_path / "long.log").write_text("x" * 300_000 + "\n" + (whole + "torn \x1b[2J\n") * 400)
    found = json.loads(said("pd", tmp_path / "long.log", "--json"))["conversation"]
    assert found["contract"]["voltage_mv"] == 20_000
    assert len(found["faults"]) == 200
    assert found["messages"] == 400 * 7
    assert "No such file" in refused("pd", tmp_path / "none.log")


def test_the_log_that_ships_with_the_demo_agrees_with_what_the_hub_takes() -> None:
    told = json.loads(said("pd", str(resources.files("auditra") / "data/demo/osierpell-op-6-p1.power.log"), "--json"))
    assert told["conversation"]["faults"] == []
    assert told["conversation"]["contract"]["power_mw"] == 96_000
