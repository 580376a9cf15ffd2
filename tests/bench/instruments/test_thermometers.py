"""Thermometers that answer by themselves: on a line, and as sensors of the kernel; one that fails costs only itself."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from auditra.bench.kernel.tree import KernelTree
from auditra.bench.live import open_live_bench
from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.errors import InstrumentError
from auditra.core.journal.facts import NoteWritten
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import CASE, ROOM, Thermometer
from auditra.core.model.trial import Outcome
from auditra.workflows.trials.doors import Celsius
from tests.support.audits import audit_of
from tests.support.benches import Onlooker, session_with
from tests.support.instruments import on_socket
from tests.workflows.test_live_bench import Reviewer


def sensors(root: Path, **values: str) -> Path:
    """A kernel's tree with one chip; each value is the text of a file."""
    chip = root / "class" / "hwmon" / "hwmon3"
    chip.mkdir(parents=True)
    for name, text in {"name": "probe8", **values}.items():
        (chip / name).write_text(text + "\n")
    return root


def bench(root: Path, *thermometers: Thermometer) -> Celsius:
    """What a live bench reads at the first spot."""
    audit = audit_of("A1 data 5 Gb/s")
    audit = replace(audit, rig=replace(audit.rig, thermometers=thermometers))
    with open_live_bench(audit, Reviewer(), sys_root=root, mounts=root / "none", cards=root / "none") as opened:
        assert opened.thermometers is not None
        return opened.thermometers.read(opened.thermometers.spots()[0])


def at(address: str, spot: str = CASE, error_k: float = 0.5) -> Thermometer:
    return Thermometer("probe", "probe", error_k, address=address, spot=spot)


def test_a_sensor_of_the_kernel_is_read_by_its_name_or_its_label(tmp_path: Path) -> None:
    root = sensors(tmp_path, temp1_input="41250", temp2_input="23500", temp2_label="Room air", in1_input="5000")
    assert bench(root, at("hwmon:probe8/temp1")) == Celsius(41.25, "probe", 0.5)
    assert bench(root, at("hwmon:probe8/Room air", ROOM)).value == 23.5


@pytest.mark.parametrize(
    ("address", "files", "why"),
    [
        ("hwmon:probe8/temp3", {"temp1_input": "41250"}, "no sensors of that name"),
        ("hwmon:probe8/temp1", {"temp1_input": "41250", "temp1_fault": "1"}, "no sensors of that name"),
        ("hwmon:probe8/in1", {"in1_input": "5000"}, "no sensors of that name"),
        ("hwmon:probe8/temp1", {"temp1_input": "-127000"}, "cannot be"),
        ("hwmon:probe8/both", {"temp1_input": "1", "temp1_label": "both", "temp2_input": "2", "temp2_label": "both"},
         "2 sensors of that name"),
        ("hwmon:probe8", {}, "is not hwmon:CHIP/SENSOR"),
        ("hwmon:../x/temp1", {}, "hwmon:CHIP/SENSOR"),
    ],
)  # fmt: skip
def test_a_sensor_that_is_not_there_faulty_or_ambiguous_is_told(
    tmp_path: Path, address: str, files: dict[str, str], why: str
) -> None:
    with pytest.raises(InstrumentError, match=why):
        bench(sensors(tmp_path, **files), at(address))


def test_this_kernel_shows_its_sensors_or_none() -> None:
    assert all(each.chip and each.unit for each in KernelTree(Path("/sys")).sensors())


def test_a_thermometer_on_a_line_is_read_and_the_larger_error_counts(tmp_path: Path) -> None:
    def answer(line: str) -> str | None:
        return {"*IDN?": "Maker,T", "SYSTem:ERRor?": "0", "MEASure:TEMPerature?": "313.65 K"}.get(line)

    with on_socket(answer) as address:
        read = bench(tmp_path, at(address, "lid"))
    assert read.value == pytest.approx(40.5)
    assert read.error_k == 0.5


class Falls:
    """Thermometers of the case, the lid and the room; the lid's falls silent after some readings."""

    def __init__(self, after: int) -> None:
        self.left = after

    def spots(self) -> tuple[str, ...]:
        return (CASE, "lid", ROOM)

    def read(self, spot: str) -> Celsius:
        if spot == "lid":
            self.left -= 1
            if self.left < 0:
                raise InstrumentError("lid probe", where="here", why="no answer in time")
        return Celsius({CASE: 31.0, "lid": 36.0, ROOM: 22.0}[spot], f"{spot} probe", 0.5)


@pytest.mark.parametrize("after", [0, 1])
def test_every_spot_is_read_and_one_that_is_silent_costs_only_itself(after: int) -> None:
    session = session_with("A1 data 5 Gb/s")
    planned = next(each for each in session.judged.judgement.sheet.trials if each.port == "A1")
    with open_simulated_bench(session.judged.audit, over_sockets=False) as opened:
        told = replace(opened, thermometers=Falls(after))
        onlooker = Onlooker()
        assert session.run(planned, told, onlooker) is Outcome.COMPLETE
    readings = session.judged.audit.trials[-1].readings
    warm = {each.at: each.values[0] for each in readings if each.quantity is Quantity.CASE_TEMPERATURE}
    assert warm == ({CASE: 31.0, "lid": 36.0} if after else {CASE: 31.0})
    room = next(each for each in readings if each.quantity is Quantity.AMBIENT_TEMPERATURE)
    assert (room.values, room.instrument) == ((22.0,), "room probe")
    notes = [fact.text for fact in onlooker.facts if isinstance(fact, NoteWritten)]
    assert len(notes) == (0 if after else 1)
    assert all("no temperature of the lid" in note for note in notes)


def test_a_soak_notes_a_silent_thermometer_once_and_keeps_what_it_has() -> None:
    session = session_with("N1 links 1 Gb/s")
    planned = next(each for each in session.judged.judgement.sheet.trials if each.setup.soaked_s)
    with open_simulated_bench(session.judged.audit, over_sockets=False) as opened:
        told = replace(opened, thermometers=Falls(4))
        onlooker = Onlooker()
        assert session.run(planned, told, onlooker) is Outcome.COMPLETE
    lid = [each for each in session.judged.audit.trials[-1].readings if each.at == "lid"]
    assert [each.trace is not None and len(each.trace.values) for each in lid] == [4]
    notes = [fact.text for fact in onlooker.facts if isinstance(fact, NoteWritten)]
    assert len(notes) == 2  # once while it soaked, once at the end
