"""Instruments that speak otherwise, as their description says: on sockets and serial lines, several at once."""

from __future__ import annotations

import time
from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import replace
from pathlib import Path

import pytest
from typer.testing import CliRunner

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.line import open_line, resource_name
from auditra.bench.instruments.load import LiveLoad, switch_all_off
from auditra.bench.instruments.on_demand import OnDemand
from auditra.cli.commands import app
from auditra.core.errors import InputError, InstrumentError
from auditra.core.instruments.description import Description, LineEnd, LoadCommands, Measurand
from auditra.documents.instrument_file import read_instrument
from auditra.store.files import read_shipped
from tests.support.audits import galley
from tests.support.benches import SteppedClock
from tests.support.instruments import Answers, Source, goes_off, on_serial_line, on_socket

LOGGER, SERIAL_METER, VOLTMETER = (
    read_instrument(read_shipped(f"instruments/{name}.toml"), name) for name in ("logger", "serial-meter", "voltmeter")
)
BARE_LOAD = replace(
    SERIAL_METER, name="bare load", timeout_s=0.5, load=LoadCommands("I{milliamperes}", "L1", "L0", asks_current="I?")
)


def instrument(address: str, description: Description) -> LiveInstrument:
    quick = replace(description, timeout_s=min(description.timeout_s, 0.5))
    return LiveInstrument("it", address, lambda: open_line("it", address, quick), quick)


def counted(answers: dict[str, str]) -> tuple[Answers, list[str]]:
    """An instrument that answers so, and what it was asked."""
    asked: list[str] = []

    def answer(line: str) -> str | None:
        asked.append(line)
        return answers.get(line)

    return answer, asked


def test_one_answer_with_several_values_is_asked_for_once() -> None:
    answers, asked = counted({"*IDN?": "Maker,LOGGER", "READ?": "5.01,0.0125,31.5", "SYSTem:ERRor?": "0"})
    with on_socket(answers) as address, instrument(address, LOGGER) as logger:
        taken = logger.measure()
        assert [taken.volts, taken.amperes] == pytest.approx([5.01, 1.25])
        assert logger.read(Measurand.TEMPERATURE)[Measurand.TEMPERATURE].value == 31.5
    assert asked.count("READ?") == 2


def test_a_meter_on_a_serial_line_that_knows_no_other_command_is_read() -> None:
    answers, asked = counted({"V": "+5.012 V", "A": "1.250A"})
    with on_serial_line(answers) as address, instrument(address, SERIAL_METER) as meter:
        taken = meter.measure()
    assert [taken.volts, taken.amperes] == pytest.approx([5.012, 1.25])
    assert asked == ["V", "A"]


def test_a_serial_line_that_is_pulled_is_told() -> None:
    answers, _ = counted({"V": "+5.012 V", "A": "1.250A"})
    with ExitStack() as stack:
        with on_serial_line(answers) as address:
            meter = stack.enter_context(instrument(address, SERIAL_METER))
            assert meter.measure().volts == pytest.approx(5.012)
        with pytest.raises(InstrumentError, match="it"):
            meter.measure()


def test_another_instrument_at_the_address_is_not_believed() -> None:
    answers, _ = counted({"*IDN?": "Maker,OVEN,0,1", "SYSTem:ERRor?": "0"})
    described = replace(VOLTMETER, answers="voltmeter")
    with on_socket(answers) as address, pytest.raises(InstrumentError, match='"voltmeter" is not in it'):
        instrument(address, described)
    yes, _ = counted({"*IDN?": "Maker,VoltMeter 3,0,1", "SYSTem:ERRor?": "0", "MEASure:VOLTage:DC?": "4.9"})
    with on_socket(yes) as address, instrument(address, described) as meter:
        assert meter.read(Measurand.VOLTAGE)[Measurand.VOLTAGE].value == 4.9


def test_what_a_description_has_no_query_for_is_said_not_guessed() -> None:
    answers, _ = counted({"*IDN?": "Maker,V", "SYSTem:ERRor?": "0", "MEASure:VOLTage:DC?": "4.9"})
    with (
        on_socket(answers) as address,
        instrument(address, VOLTMETER) as meter,
        pytest.raises(InstrumentError, match="no query for a current"),
    ):
        meter.measure()


def load_that(takes: Callable[[float], float], source: Source) -> Answers:
    """A load without a list of errors, in milliamperes; it sets itself to what `takes` makes of a current."""

    def answer(line: str) -> str | None:
        if line.startswith("I") and line != "I?":
            source.draw(takes(float(line[1:]) / 1000))
        elif line in ("L0", "L1"):
            source.switch(line == "L1")
        return {"I?": f"{source.set_a * 1000:.1f}", "V": f"{source.now()[0]:.3f}V", "A": f"{source.now()[1]:.4f}A"}.get(
            line
        )

    return answer


def live_load(address: str) -> LiveLoad:
    return LiveLoad("load", address, lambda: open_line("load", address, BARE_LOAD), BARE_LOAD)


def test_a_load_in_milliamperes_on_a_serial_line_is_set_read_and_off_at_the_end() -> None:
    source = Source(SteppedClock())
    with on_serial_line(load_that(lambda amperes: amperes, source)) as address:
        with live_load(address) as load:
            load.switch(on=True)
            load.set_current(1.5)
            assert load.measure().amperes == pytest.approx(1.5)
            assert source.is_on
        assert goes_off(source)


@pytest.mark.parametrize("takes", [lambda amperes: 0.0, lambda amperes: amperes / 2, lambda amperes: amperes * 1.1])
def test_a_load_that_does_not_set_what_it_is_told_is_found_out(takes: Callable[[float], float]) -> None:
    source = Source(SteppedClock())
    with (
        on_socket(load_that(takes, source), end="\r\n") as address,
        live_load(address) as load,
        pytest.raises(InstrumentError, match="it was set to 2 A"),
    ):
        load.set_current(2.0)


def test_leaving_switches_off_a_load_that_keeps_no_list_of_errors() -> None:
    source = Source(SteppedClock())
    with on_socket(load_that(lambda amperes: amperes, source), end="\r\n") as address, live_load(address) as load:
        load.switch(on=True)
        load.measure()
        assert source.is_on
        switch_all_off()
        assert goes_off(source)


def test_a_slow_instrument_is_waited_for_and_a_late_answer_is_not_taken_for_the_next() -> None:
    values = iter(["5.0", "6.0", "7.0", "8.0"])

    def slow(line: str) -> str | None:
        if line == "MEASure:VOLTage:DC?":
            time.sleep(next(delays))
            return next(values)
        return {"*IDN?": "Maker,V", "SYSTem:ERRor?": "0"}.get(line)

    delays = iter([0.2, 0.8, 0.0])
    with on_socket(slow) as address, instrument(address, VOLTMETER) as meter:
        assert meter.read(Measurand.VOLTAGE)[Measurand.VOLTAGE].value == 5.0
        with pytest.raises(InstrumentError, match="in time"):
            meter.read(Measurand.VOLTAGE)
        time.sleep(0.5)
        assert meter.read(Measurand.VOLTAGE)[Measurand.VOLTAGE].value == 7.0


def test_several_instruments_each_speak_their_own_way() -> None:
    meter_answers, _ = counted({"V": "20.02V", "A": "3.000A"})
    source = Source(SteppedClock(), open_v=20.0)
    with ExitStack() as stack:
        meter_at = stack.enter_context(on_serial_line(meter_answers))
        load_at = stack.enter_context(on_socket(load_that(lambda amperes: amperes, source), end="\r\n"))
        rig = galley()
        meters = OnDemand(
            LiveInstrument, [replace(rig.meters[0], address=meter_at, speaks="serial-meter")], lambda name: SERIAL_METER
        )
        loads = OnDemand(LiveLoad, [replace(rig.loads[0], address=load_at, speaks="bare")], lambda name: BARE_LOAD)
        stack.callback(meters.close)
        stack.callback(loads.close)
        loads["load"].switch(on=True)
        loads["load"].set_current(3.0)
        assert loads["load"].measure().watts == pytest.approx(59.55, abs=0.1)
        assert meters["meter"].measure().watts == pytest.approx(60.06)


def test_a_description_that_is_not_there_is_told_before_anything_is_opened() -> None:
    def none_of(name: str) -> Description:
        raise InputError(f'"{name}"', why="there is none of this name", do="Known: common")

    meter = replace(galley().meters[0], address="bench:5025", speaks="elsewhere")
    with pytest.raises(InstrumentError, match="none of this name"):
        OnDemand(LiveInstrument, [meter], none_of)


GOOD_ADDRESSES = {
    "meter.local:5025": "TCPIP::meter.local::5025::SOCKET", "10.0.0.2:5025": "TCPIP::10.0.0.2::5025::SOCKET",
    "/dev/ttyUSB0": "ASRL/dev/ttyUSB0::INSTR",
    "/dev/serial/by-id/usb-A_B-if00": "ASRL/dev/serial/by-id/usb-A_B-if00::INSTR",
    "USB0::0x1234::0x5678::SN1::INSTR": "USB0::0x1234::0x5678::SN1::INSTR",
    "TCPIP::10.0.0.2::INSTR": "TCPIP::10.0.0.2::INSTR",
    "TCPIP0::10.0.0.2::inst0::INSTR": "TCPIP0::10.0.0.2::inst0::INSTR",
}  # fmt: skip


@pytest.mark.parametrize(("address", "resource"), GOOD_ADDRESSES.items())
def test_addresses_become_names_of_resources(address: str, resource: str) -> None:
    assert resource_name("it", address) == resource


@pytest.mark.parametrize(
    "address",
    ["nowhere", ":5025", "host:0", "host:99999", "/etc/passwd", "/dev/sda", "/dev/serial/by-id/../../sda",
     "/dev/pts/../sda", "ASRL/dev/sda::INSTR", "ASRLsocket://host:1::INSTR", "FILE::x::INSTR", "host:50\n25",
     "a b:5025", "[::1]:5025", "", "\x1b[2J:1"],
)  # fmt: skip
def test_what_is_no_address_of_an_instrument_opens_nothing(address: str) -> None:
    with pytest.raises(InstrumentError, match="is not host:port") as refused:
        resource_name("it", address)
    assert "\x1b" not in str(refused.value)


def test_line_ends_are_as_described() -> None:
    heard: list[str] = []

    def answer(line: str) -> str | None:
        heard.append(line)
        return {"V": "5.0", "A": "1.0"}.get(line)

    carriage = replace(SERIAL_METER, line_end=LineEnd.CR)
    with on_serial_line(answer, end="\r") as address, instrument(address, carriage) as meter:
        assert meter.measure().volts == 5.0
    assert heard == ["V", "A"]


def test_the_command_lists_copies_and_asks(tmp_path: Path) -> None:
    run, library = CliRunner(), ["--library", str(tmp_path)]
    listed = run.invoke(app, [*library, "instruments"])
    assert "serial-meter" in listed.output
    assert run.invoke(app, [*library, "instruments", "--copy", "voltmeter", "--as", "desk"]).exit_code == 0
    answers, _ = counted({"*IDN?": "Maker,\x1b[31mV", "SYSTem:ERRor?": "0", "MEASure:VOLTage:DC?": "4.987"})
    with on_socket(answers) as address:
        asked = run.invoke(app, [*library, "instruments", "--ask", address, "--speaks", "desk"])
    assert asked.exit_code == 0
    assert "4.987 V (error not known)" in asked.output
    assert "\x1b" not in asked.output
