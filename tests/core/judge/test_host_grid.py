"""Hosts against functions: a host that was not tried leaves an empty cell, and two hosts may differ."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.judge.host_grid import host_grid
from auditra.core.model.verdict import Verdict
from tests.support.audits import audit_of, judged, rates, with_trial


def test_each_host_shows_its_own_part_and_gaps_stay() -> None:
    audit = audit_of("A1 data 5 Gb/s", "UP length 15 cm")
    audit = with_trial(audit, "direct/storage", *rates("direct", 1050, 1055, 1060))
    audit = with_trial(audit, "A1/storage", *rates("A1", 440, 441, 442))
    hosts = audit.rig.hosts
    (row,) = host_grid(hosts, judged(audit).claims)  # no host takes part in measuring a length
    assert row.verdicts == (Verdict.HOLDS, None)
    assert not row.differs
    on_older = replace(audit.trials[1].trial.setup, host="older-laptop", host_socket="A1")
    slow = with_trial(audit, "A1/storage", *rates("A1", 30, 30, 30, link_bps=480e6))
    trials = (*slow.trials[:2], replace(slow.trials[2], trial=replace(slow.trials[2].trial, setup=on_older)))
    (row,) = host_grid(hosts, judged(replace(slow, trials=trials)).claims)
    assert row.verdicts[0] is Verdict.HOLDS
    assert row.verdicts[1] not in (None, Verdict.HOLDS)
    assert row.differs
