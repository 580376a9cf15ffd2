"""The dock that does not keep its word: each fault is found from readings alone, and what is honest is not accused."""

from __future__ import annotations

from itertools import pairwise

import pytest

from auditra.bench.simulated import doors
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.core.report.material import Material
from auditra.core.report.report import make_report
from auditra.core.simulate.heat import AMBIENT_C
from auditra.documents.judgement import judgement_file
from auditra.store.demos import DEMOS
from auditra.tui.stages.score.text import render_ledger, score_summary
from auditra.tui.theme import DEFAULT_PALETTE, PALETTES
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.measure import network, storage
from auditra.workflows.trials.measure.warmth import COOL_RISE_K
from tests.support.audits import PROFILE
from tests.support.benches import MemoryJournal, run_what_is_left

BW_11 = next(demo for demo in DEMOS if demo.name == "BW-11")


def test_the_dock_is_told_right() -> None:
    """One audit for all that is asked of it: it is half a minute of work."""
    audited = audit_the_dock()
    faults_are_named_with_their_conditions_and_nothing_else_is_accused(audited)
    reasons_are_said_with_their_figures(audited)
    conditions_were_seen_more_than_once_on_each_side(audited)
    trials_after_a_soak_were_done_on_a_cool_case(audited)
    the_judgement_file_and_the_screens_say_all_of_it(audited)


def audit_the_dock() -> AuditSession:
    session = AuditSession("BW-11", MemoryJournal(BW_11.facts()), PROFILE)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(storage, "SECONDS_A_PASS", 0.1)
        patch.setattr(doors, "FLUSH_S", 0.0003)
        patch.setattr(network, "SECONDS_A_PASS", 0.2)
        patch.setattr(network, "SOAK_CHUNK_BYTES", 1 << 28)
        run_what_is_left(session)
    return session


def faults_are_named_with_their_conditions_and_nothing_else_is_accused(audited: AuditSession) -> None:
    judgement = audited.judged.judgement
    conditions = {str(each.claim): each.condition for each in judgement.claims if each.verdict is not Verdict.HOLDS}
    assert conditions == {
        "UP charges host 65 W": "unless C1 (gives 27 W) and C2 (gives 27 W) are in use",
        "A1 data 5 Gb/s": "unless S1 is in use (cards 250 MB/s)",
        "S1 cards 250 MB/s": "unless A1 is in use (data 5 Gb/s)",
        "N1 links 2.5 Gb/s": "except after 45 min of full load",
    }
    assert {each.verdict for each in judgement.claims} == {Verdict.HOLDS, Verdict.HOLDS_IF}
    assert judgement.to_do == ()


def reasons_are_said_with_their_figures(audited: AuditSession) -> None:
    told = {each.kind: each for each in audited.judged.judgement.reasons}
    assert set(told) == {"shared power", "shared link", "heat"}
    assert 43 <= float(told["shared power"].arithmetic.split()[0]) <= 46
    assert told["shared link"].ports == ("A1", "S1")
    assert "alone" in told["shared link"].arithmetic
    assert told["heat"].ports == ("N1",)
    minutes = int(told["heat"].sentence.split("after ")[1].split()[0])
    assert 30 <= minutes <= 44


def conditions_were_seen_more_than_once_on_each_side(audited: AuditSession) -> None:
    for verdict in audited.judged.judgement.claims:
        if verdict.condition:
            for wanted in (True, False):
                side = [each for each in verdict.set_ups if each.verdict.accuses is wanted]
                assert sum(len(each.trials) for each in side) >= 2


def trials_after_a_soak_were_done_on_a_cool_case(audited: AuditSession) -> None:
    records = audited.judged.audit.trials
    assert sum(record.trial.setup.soaked_s > 0 for record in records) >= 3
    assert all(record.outcome is Outcome.COMPLETE for record in records)
    for before, record in pairwise(records):
        cases = [r.values[0] for r in record.readings if r.quantity is Quantity.CASE_TEMPERATURE]
        if before.trial.setup.soaked_s and not record.trial.setup.soaked_s and cases:
            assert cases[-1] - AMBIENT_C < COOL_RISE_K + 3


def the_judgement_file_and_the_screens_say_all_of_it(audited: AuditSession) -> None:
    told = judgement_file(audited.judged)
    by_sentence = {each.sentence: each for each in told.claims}
    host = by_sentence["UP charges host 65 W"]
    assert host.verdict == "holds if"
    assert {part.verdict for set_up in host.set_ups for part in set_up.parts} == {"holds", "short"}
    assert any(not each.refused for each in host.comparisons)
    assert host.shown_under == ("alone", "with C1 in use (gives 27 W)", "with C2 in use (gives 27 W)")
    assert {each.role for each in told.findings} == {"cause", "contention", "unstated"}
    assert told.score.cap == ""
    assert len(host.rests_on) >= 5
    palette = PALETTES[DEFAULT_PALETTE]
    summary = score_summary(audited.judged, palette).plain
    assert "A1 and S1 share an internal link" in summary
    assert "except after 45 min of full load" in render_ledger(audited.judged.judgement, "N1", 120, palette).plain
    report = make_report(Material(audited.judged, "0" * 64, "Auditra"))
    assert "A1 and S1 share an internal link." in [each.text for each in report.sentences()]
