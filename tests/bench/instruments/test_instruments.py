"""Instruments over real TCP sockets: honest, silent, lying, closed."""

from __future__ import annotations

import resource
import socketserver
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import replace

import pytest

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.line import Line, open_line
from auditra.bench.instruments.load import LiveLoad
from auditra.bench.simulated.bench import open_simulated_bench
from auditra.bench.simulated.scpi_server import LOOPBACK, serve
from auditra.core.errors import InstrumentError
from auditra.core.instruments.description import COMMON_INSTRUMENT
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Fact, RigNoted
from auditra.core.model.device import Face, Port, Role
from auditra.core.model.trial import Outcome
from auditra.core.simulate.scpi import SimulatedInstrument
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.doors import Bench
from tests.support.audits import HUB, PROFILE, audit_of, galley, judged
from tests.support.benches import MemoryJournal, Onlooker, run_all, session_with


class Server(socketserver.ThreadingTCPServer):
    daemon_threads, allow_reuse_address = True, True


@contextmanager
def instrument_that_says(replies: dict[str, str | None]) -> Iterator[int]:
    """An instrument on a socket that answers so; None is silence, an unknown query closes the line."""

    class Talk(socketserver.StreamRequestHandler):
        def handle(self) -> None:
            while line := self.rfile.readline().decode().strip():
                if line.endswith("?"):
                    if line not in replies:
                        return
                    if (reply := replies[line]) is not None:
                        self.wfile.write(reply.encode("latin-1") + b"\n")

    with Server((LOOPBACK, 0), Talk) as server:
        threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.02}, daemon=True).start()
        try:
            yield server.server_address[1]
        finally:  # a server that is only closed goes on polling a dead socket for the rest of the run
            server.shutdown()


QUICK = replace(COMMON_INSTRUMENT, timeout_s=0.5)
GOOD: dict[str, str | None] = {
    "*IDN?": "Maker,METER,0,1", "SYSTem:ERRor?": '0,"No error"',
    "MEASure:VOLTage?": "2.00E+01", "MEASure:CURRent?": "4.5",
}  # fmt: skip


def measure(replies: dict[str, str | None]) -> float:
    with instrument_that_says(replies) as port, LiveInstrument(
        "meter", f"{LOOPBACK}:{port}", lambda: open_line("meter", f"{LOOPBACK}:{port}", QUICK)
    ) as meter:  # fmt: skip
        return meter.measure().watts


def test_volts_and_amperes_make_watts() -> None:
    assert measure(GOOD) == pytest.approx(90.0)


LIES = [
    ("MEASure:VOLTage?", None, "no answer to MEASure:VOLTage?"),
    ("MEASure:VOLTage?", "twenty", "no number"),
    ("MEASure:VOLTage?", "9.91E37", "no number"),
    ("MEASure:CURRent?", "NAN", "no number"),
    ("MEASure:CURRent?", "-inf", "no number"),
    ("MEASure:CURRent?", "-9.9E37", "out of its range"),
    ("MEASure:CURRent?", "13", "outside"),
    ("MEASure:CURRent?", "", "no number"),
    ("SYSTem:ERRor?", '-222,"Data out of range"', "reports an error"),
    ("*IDN?", None, "no answer to *IDN?"),
    ("MEASure:VOLTage?", "\x1b[2J20", "no number"),
]


@pytest.mark.parametrize(("query", "reply", "why"), LIES)
def test_silence_and_lies_are_told_with_name_and_address(query: str, reply: str | None, why: str) -> None:
    with pytest.raises(InstrumentError) as refused:
        measure({**GOOD, query: reply})
    assert why in str(refused.value)
    assert str(refused.value).startswith(LOOPBACK)
    assert "\x1b" not in str(refused.value)


def test_an_instrument_that_hangs_up_is_told() -> None:
    with pytest.raises(InstrumentError, match="no answer"):
        measure({key: reply for key, reply in GOOD.items() if key != "MEASure:CURRent?"})


def test_nobody_at_the_address_is_told() -> None:
    with pytest.raises(InstrumentError, match="answer"):
        LiveInstrument("meter", f"{LOOPBACK}:1", lambda: open_line("meter", f"{LOOPBACK}:1", QUICK))


def test_the_simulated_load_is_set_and_measured_over_its_socket() -> None:
    set_to: list[float] = []
    simulated = SimulatedInstrument("Maker,LOAD,0,1", lambda: (5.0, sum(set_to)), set_to.append, lambda on: None, 5.0)
    with serve(simulated) as port, LiveLoad("load", LOOPBACK, lambda: open_line("load", f"{LOOPBACK}:{port}")) as load:
        load.switch(on=True)
        load.set_current(0.9)
        assert load.measure().watts == pytest.approx(4.5)
        with pytest.raises(InstrumentError, match="Data out of range"):
            load.set_current(9.0)
        with pytest.raises(InstrumentError, match="12 A at most"):
            load.set_current(99.0)
        load.set_current(0.1)


class FallsSilent:
    """A meter that stops answering after some readings."""

    def __init__(self, bench: Bench, after: int) -> None:
        self._meter, self._left = bench.meters["meter"], after

    def measure(self) -> object:
        self._left -= 1
        if self._left < 0:
            raise InstrumentError("meter", where="here", why="no answer in time", do="Start the trial again")
        return self._meter.measure()


def test_a_meter_that_falls_silent_spoils_one_trial_which_can_be_repeated() -> None:
    session = session_with("P1 takes 90 W")
    planned = session.judged.judgement.sheet.trials[-1]
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        broken = Bench(**{**bench.__dict__, "meters": {"meter": FallsSilent(bench, after=20)}})
        with pytest.raises(InstrumentError):
            session.run(planned, broken, Onlooker())
        record = session.judged.audit.trials[-1]
        assert (record.outcome, record.readings) == (Outcome.FAILED, ())
        assert planned.key in [each.key for each in session.judged.judgement.to_do]
        assert session.run(planned, bench, Onlooker()) is Outcome.COMPLETE


@contextmanager
def stream_without_end(piece: bytes) -> Iterator[int]:
    """Something on a socket that answers each query with a stream that never ends a line."""

    class Talk(socketserver.BaseRequestHandler):
        def handle(self) -> None:
            with suppress(OSError):
                while self.request.recv(100):
                    while True:
                        self.request.sendall(piece)

    with Server((LOOPBACK, 0), Talk) as server:
        threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.02}, daemon=True).start()
        try:
            yield server.server_address[1]
        finally:
            server.shutdown()


def test_a_stream_without_an_end_is_given_up_before_it_fills_the_memory() -> None:
    with stream_without_end(b"9" * 65536) as port:
        begun, before = time.monotonic(), resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        with pytest.raises(InstrumentError, match="no answer"):
            LiveInstrument("meter", "here", lambda: open_line("meter", f"{LOOPBACK}:{port}", QUICK))
        assert time.monotonic() - begun < 5
        assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 50_000


def test_a_line_that_dropped_is_joined_again_for_the_next_message() -> None:
    simulated = SimulatedInstrument("Maker,METER,0,1", lambda: (5.0, 0.9))
    lines: list[Line] = []
    with serve(simulated) as port:

        def open_session() -> Line:
            lines.append(open_line("meter", f"{LOOPBACK}:{port}"))
            return lines[-1]

        with LiveInstrument("meter", LOOPBACK, open_session) as meter:
            lines[-1].close()
            with pytest.raises(InstrumentError, match="no answer"):
                meter.measure()
            assert meter.measure().volts == pytest.approx(5.0)
    assert len(lines) == 2


class FailsOnce:
    """A line on which one message is lost."""

    def __init__(self, simulated: SimulatedInstrument, lost: str) -> None:
        self._simulated, self._lost = simulated, lost

    def query(self, message: str) -> str:
        answer = self._simulated.answer(message)
        if self._lost and self._lost in message:
            self._lost = ""
            raise TimeoutError(message)
        return answer or ""

    def write(self, message: str) -> None:
        self._simulated.answer(message)

    def close(self) -> None:
        return None


@pytest.mark.parametrize("lost", ["INPut ON", "SOURce:CURRent 0.0000", "SOURce:CURRent 0.3", "MEASure:VOLTage?"])
def test_the_load_is_off_however_a_trial_ends(lost: str) -> None:
    """Also where the load took the command, and just its answer was lost."""
    session, on = session_with("A1 gives 4.5 W"), [False]

    def switch(is_on: bool) -> None:
        on[0] = is_on

    simulated = SimulatedInstrument("Maker,LOAD,0,1", lambda: (5.0, 0.3), lambda amperes: None, switch)
    planned = next(each for each in session.judged.judgement.sheet.trials if each.port == "A1")
    with open_simulated_bench(session.judged.audit, over_sockets=False) as bench:
        load = LiveLoad("load", "here", lambda: FailsOnce(simulated, lost))
        with pytest.raises(InstrumentError), load:
            session.run(planned, replace(bench, loads={"load": load}), Onlooker())
        assert on == [False]


def test_the_load_of_the_set_up_is_read_not_the_first_of_the_rig() -> None:
    """A second load and meter of the rig take no part; each reading names the one that was read."""
    rig = galley()
    spare_load, spare_meter = replace(rig.loads[0], id="spare", name="spare load", connector="hdmi"), replace(
        rig.meters[0], id="spare-meter", name="spare meter", connector="barrel"
    )  # fmt: skip
    wider = replace(rig, loads=(spare_load, *rig.loads), meters=(spare_meter, *rig.meters))
    facts: list[Fact] = [
        DeviceNoted(HUB),
        RigNoted(wider),
        ClaimMade("claim1", "P1 takes 90 W"),
        ClaimMade("c2", "A1 gives 4 W"),
    ]
    session = AuditSession("test", MemoryJournal(facts), PROFILE)
    run_all(session)
    named = {r.instrument for record in session.judged.audit.trials for r in record.readings if r.quantity == "power"}
    assert named == {"load", "meter"}
    assert all(each.verdict.decided for each in session.judged.judgement.claims)


def test_a_meter_is_planned_only_where_its_connector_fits() -> None:
    inlet = replace(HUB, faces=(*HUB.faces, Face("back", (Port("DC", "barrel", Role.INLET),))))
    audit = audit_of("DC takes 90 W", device=inlet)
    assert not [trial for trial in judged(audit).sheet.trials if "meter" in str(trial.setup) and trial.port == "DC"]
