"""All findings of an audit of 40 claims and 200 trials after one more reading, beside judging it without them."""

from __future__ import annotations

import random
import statistics
import time
from dataclasses import replace

from auditra.core.claims.language import parse_claim
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.judge.judgement import Judge
from auditra.core.model.device import Device, Face, Port, Role
from auditra.core.model.reading import Grade, Number, Quantity, Reading, Trace
from auditra.core.model.rig import Drive, Host, HostSocket, Lead, Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import Outcome, ProcedureId, Trial
from auditra.store.profiles import load_profile
from auditra.workflows.audits.collecting import without_collecting

CLAIMS, TRIALS, RUNS = 40, 200, 9
_TRACED = 10
"""Every so many trials has a trace."""


def troubled_audit(seed: int = 0) -> Audit:
    """Forty ports, a third of which fail in some set-ups, with leads, hosts and functions that vary."""
    dice = random.Random(seed)
    hosts = tuple(Host(f"host{n}", f"host {n}", (HostSocket("C1", "usb-c", 10e9),)) for n in (1, 2))
    leads = tuple(Lead(f"lead{n}", ("usb-a", "usb-c")) for n in range(6))
    rig = Rig(
        "bench", hosts, drives=tuple(Drive(f"ssd{n}", f"SSD {n}", "usb-c", 4e9, 4e9) for n in (1, 2)), leads=leads
    )
    ports = tuple(Port(f"A{n}", "usb-a") for n in range(1, CLAIMS + 1))
    device = Device("Bench", "B-40", "dock", (Face("front", (*ports, Port("UP", "usb-c plug", Role.UPSTREAM))),))
    claims = tuple(parse_claim(f"A{n} data 5 Gb/s", claim_id=f"claim{n}") for n in range(1, CLAIMS + 1))
    trials = tuple(_trial(dice, number, ports) for number in range(1, TRIALS + 1))
    return Audit("B-40", device, rig, claims, trials, devices=(device,))


def _trial(dice: random.Random, number: int, ports: tuple[Port, ...]) -> TrialRecord:
    n = number % (len(ports) + 1)
    port = ports[n - 1].id if n else None
    host, gear, lead = f"host{dice.choice((1, 2))}", f"ssd{dice.choice((1, 2))}", f"lead{dice.randrange(6)}"
    running = ("A1 data 5 Gb/s",) if port not in (None, "A1") and dice.random() < 0.3 else ()
    slow = port is not None and (lead == "lead0" or (n % 3 == 0 and bool(running)) or n % 7 == 0)
    rate = (1.2e9 if slow else 3.7e9) * (1 + dice.gauss(0, 0.003))
    way = (Plugged(host, "C1", "device"), Plugged("device", port, gear, lead)) if port else (
        Plugged(host, "C1", gear, lead),
    )  # fmt: skip
    setup = SetUp(host, "C1", way, running=running, flipped=dice.random() < 0.5)
    trial = Trial(f"T{number}", ProcedureId.STORAGE, (f"claim{n}",) if n else (), setup, gear, port)
    trace = Trace(tuple(map(float, range(600))), (rate,) * 600) if number % _TRACED == 0 else None
    repeats = (rate, rate * 1.001, rate * 0.999)
    values = ((Quantity.LINK, (5e9,), None), (Quantity.WRITE, repeats, trace), (Quantity.READ, repeats, None),
              (Quantity.WRONG_BYTES, (0.0,), None))  # fmt: skip
    readings = tuple(
        Reading(trial.id, quantity, port or "direct", "engine", Grade.MEASURED, Number(each), trace=of)
        for quantity, each, of in values
    )
    return TrialRecord(trial, readings, Outcome.COMPLETE)


def findings_s(audit: Audit) -> tuple[float, float, int]:
    """Seconds to judge it after one more reading, those for all findings besides, and how many there are."""
    judge = Judge(load_profile())
    judge.judge(audit).explain()
    *others, last = audit.trials
    more = replace(audit, trials=(*others, replace(last, readings=(*last.readings, last.readings[-1]))))
    with without_collecting():
        begun = time.process_time()
        judgement = judge.judge(more)
        judged = time.process_time()
        judgement.explain()
        return judged - begun, time.process_time() - judged, len(judgement.findings)


def main() -> None:
    audit = troubled_audit()
    runs = [findings_s(audit) for _ in range(RUNS)]
    judged, explained = (statistics.median(run[n] for run in runs) * 1e3 for n in (0, 1))
    print(f"{CLAIMS} claims, {TRIALS} trials, one more reading: judged in {judged:.0f} ms, "
          f"all {runs[0][2]} findings in {explained:.0f} ms, ratio {explained / judged:.1f}")  # fmt: skip


if __name__ == "__main__":
    main()
