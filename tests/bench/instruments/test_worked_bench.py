"""A whole live bench on real lines: a voltmeter and a load, each in its own words, measure the drop of a cable."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass, field, replace
from pathlib import Path

import pytest

from auditra.bench.live import open_live_bench
from auditra.core.errors import InstrumentError
from auditra.core.instruments.description import Description, ErrorLimit
from auditra.core.journal.facts import BenchNoted, ClaimMade, DeviceNoted, Fact, RigNoted
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import LeadEnd, Load, Meter
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.workflows.audits.audit_session import AuditSession
from tests.bench.instruments.test_dialects import BARE_LOAD, VOLTMETER, load_that
from tests.support.audits import PROFILE, galley
from tests.support.benches import MemoryJournal, Onlooker, SteppedClock
from tests.support.instruments import Source, goes_off, on_serial_line, on_socket
from tests.workflows.test_by_instrument import CABLE
from tests.workflows.test_live_bench import Reviewer

LEAD_OHM = 0.06


def within(description: Description, error: float) -> Description:
    """The same instrument with this limit of error for volts and amperes."""
    limits = (ErrorLimit(60.0, offset=error, resolution=error / 10),)
    queries = tuple(replace(each, errors=limits) for each in description.queries)
    return replace(description, queries=queries, timeout_s=0.5)


@dataclass
class Bench:
    """A source with a cable on it; volts are read before the cable, and a load hangs behind it."""

    source: Source = field(default_factory=lambda: Source(SteppedClock(), open_v=5.1, ohm=0.05 + LEAD_OHM))
    answers_left: int = 10_000
    lock: threading.Lock = field(default_factory=threading.Lock)

    def voltmeter(self, line: str) -> str | None:
        with self.lock:
            self.answers_left -= 1
            if self.answers_left < 0:
                raise EOFError
            volts, amperes = self.source.now()
            at_near = f"{volts + amperes * LEAD_OHM:.6E}"
        return {"*IDN?": "Maker,VM-1,7,1.0", "SYSTem:ERRor?": '+0,"No error"', "MEASure:VOLTage:DC?": at_near}.get(line)

    @contextmanager
    def audit(self) -> Iterator[tuple[AuditSession, dict[str, Description]]]:
        with ExitStack() as stack:
            near_at = stack.enter_context(on_socket(self.voltmeter))
            load_at = stack.enter_context(on_serial_line(load_that(lambda amperes: amperes, self.source)))
            rig = replace(
                galley(), loads=(Load("load", "load", "usb-c", address=load_at, speaks="bare", watts=150.0),),
                meters=(Meter("near", "near voltmeter", "usb-c", address=near_at, speaks="vm", end=LeadEnd.NEAR),),
            )  # fmt: skip
            claim = ClaimMade("claim1", "body drops at most 250 mV at 3 A")
            facts: list[Fact] = [BenchNoted(LIVE_BENCH), DeviceNoted(CABLE), RigNoted(rig), claim]
            yield AuditSession("live", MemoryJournal(facts), PROFILE), {
                "bare": within(BARE_LOAD, 0.003), "vm": within(VOLTMETER, 0.003)
            }  # fmt: skip


def run(session: AuditSession, descriptions: dict[str, Description], source: Source, root: Path) -> Outcome:
    planned = session.judged.judgement.sheet.trials[0]
    with open_live_bench(
        session.judged.audit, Reviewer(), sys_root=root, mounts=root / "none", cards=root / "none", clock=source.clock,
        describe=lambda name: descriptions[name],
    ) as bench:  # fmt: skip
        return session.run(planned, bench, Onlooker())


def test_the_drop_is_decided_within_what_both_descriptions_say_of_their_errors(tmp_path: Path) -> None:
    bench = Bench()
    with bench.audit() as (session, descriptions):
        assert run(session, descriptions, bench.source, tmp_path) is Outcome.COMPLETE
    taken = session.judged.audit.trials[-1].taken.of(Quantity.VOLTAGE)
    assert {(each.instrument, each.end) for each in taken} == {("near voltmeter", "near"), ("load", "far")}
    assert {round(each.error, 6) for each in taken} == {0.003}
    assert session.judged.judgement.claims[0].verdict is Verdict.HOLDS
    assert goes_off(bench.source)


def test_a_voltmeter_that_hangs_up_in_mid_trial_leaves_the_load_off_and_nothing_that_counts(tmp_path: Path) -> None:
    bench = Bench(answers_left=12)
    with bench.audit() as (session, descriptions):
        with pytest.raises(InstrumentError, match="near voltmeter"):
            run(session, descriptions, bench.source, tmp_path)
        assert session.judged.audit.trials[-1].outcome is Outcome.FAILED
        assert [each.verdict for each in session.judged.judgement.claims] == [Verdict.OPEN]
        assert goes_off(bench.source)
        bench.answers_left = 10_000
        assert run(session, descriptions, bench.source, tmp_path) is Outcome.COMPLETE
    assert session.judged.judgement.claims[0].verdict is Verdict.HOLDS
