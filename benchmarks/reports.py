"""How long the report of a large audit takes, beside judging it: 60 claims, in every format."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from itertools import islice
from typing import TypeVar

from auditra.core.journal.audit import Audit
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.model.device import Face
from auditra.core.report.material import Material
from auditra.core.report.report import make_report
from auditra.documents.for_whom_file import read_users
from auditra.publish import ReportFormat, report_files
from auditra.store.files import read_shipped
from auditra.store.profiles import load_profile
from benchmarks.large_audits import DIRECT, beginning, entries, record, trial

Made = TypeVar("Made")
CLAIMS = 60
TRIALS_A_CLAIM = 3
GOAL_S = 3.0


def large_audit() -> Audit:
    """A dock of 60 sockets with a claim each, every one tried three times, with traces."""
    audit = fold_audit("B-60", entries(len(beginning())))
    ports = tuple(port for port in audit.device.ports() if port.id == "UP" or int(port.id[1:]) <= CLAIMS)
    device = replace(audit.device, faces=(Face("front", ports),))
    tried = (number for number in range(1, 9999) if (number - 1) % len(audit.claims) < CLAIMS)
    numbers = list(islice(tried, CLAIMS * TRIALS_A_CLAIM))
    trials = [record(trial(number)) for number in numbers]
    trials += [record(trial(1000 + number, direct=True)) for number in range(1, DIRECT + 1)]
    return replace(audit, device=device, devices=(device,), claims=audit.claims[:CLAIMS], trials=tuple(trials))


def main() -> None:
    audit, profile = large_audit(), load_profile()
    users = read_users(read_shipped("for_whom.toml"), "for_whom.toml")
    judged_s, judgement = _timed(lambda: judge(audit, profile))
    judged = JudgedAudit(audit, judgement, "simulated bench")
    explained_s, _ = _timed(judgement.explain)
    made_s, document = _timed(lambda: make_report(Material(judged, "0" * 64, "Auditra", users)))
    size = f"{len(audit.claims)} claims, {len(audit.trials)} trials"
    print(f"{size}: judged in {judged_s:.2f} s, reasons {explained_s:.2f} s")
    total = made_s
    for kind in ReportFormat:
        print_as = partial(report_files, document, judged, "x", _none, None, (kind,))
        spent, files = _timed(print_as)
        total += spent
        print(f"  {kind:6} {spent:.2f} s, {sum(map(len, files.values()))} bytes")
    print(f"report in every format {total:.2f} s (goal {GOAL_S:g} s), {total / judged_s:.1f} times judging")


def _none(sha256: str) -> bytes:
    raise AssertionError(sha256)


def _timed(work: Callable[[], Made]) -> tuple[float, Made]:
    begun = time.perf_counter()
    made = work()
    return time.perf_counter() - begun, made


if __name__ == "__main__":
    main()
