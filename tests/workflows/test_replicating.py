"""Another reviewer's bundle beside one's own audit: verified, judged from its own journal, shown, never averaged."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from auditra.bench.clock import SystemClock
from auditra.cli.bundling import bundle_of
from auditra.cli.composition import LibraryHandle
from auditra.core.advice.replication import Agreement, beside_each_other, differences
from auditra.core.errors import InputError
from auditra.core.journal.facts import DeviceNoted, DoubtRaised, NoteWritten, RigNoted
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.follow_up import follow_up_of
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.model.reading import Reading
from auditra.store.demos import DEMOS
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.beginning import facts_of_follow_up
from auditra.workflows.audits.publishing import document_of, record_version
from auditra.workflows.audits.replicating import others_of
from tests.support.audits import BEGIN, entries, facts_of_trial, judged, rates
from tests.support.finished import finished_library

DRIVE, ALONE = "direct/storage", "A1/storage/fast-ssd/on laptop"


def own(handle: LibraryHandle, *rates_mb: float, name: str = "mine") -> AuditSession:
    """One's own audit of the same hub, on another rig: the drive in A1 this fast, each a trial."""
    facts = [
        RigNoted(replace(fact.rig, name="attic")) if isinstance(fact, RigNoted) else fact for fact in DEMOS[0].facts()
    ]
    handle.library.create(name, facts, BEGIN)
    session = handle.session(name)
    try_out(session, DRIVE, *rates("direct", 1000, link_bps=10e9))
    for mb in rates_mb:
        try_out(session, ALONE, *rates("A1", mb))
    return session


def try_out(session: AuditSession, key: str, *readings: Reading) -> None:
    """One more trial in its journal."""
    session.write(lambda audit: facts_of_trial(audit, key, *readings), "T", SystemClock())


@pytest.fixture
def handle(tmp_path: Path) -> LibraryHandle:
    return finished_library(tmp_path)


@pytest.fixture
def bundle(handle: LibraryHandle, tmp_path: Path) -> Path:
    path = tmp_path / "theirs.zip"
    path.write_bytes(bundle_of(handle, handle.session("OP-6")))
    return path


def told(handle: LibraryHandle, session: AuditSession, chapter: str) -> str:
    document, _ = document_of(session, handle.surroundings(session.name))
    made = next(each for each in document.chapters if each.id == chapter)
    return " ".join(each.text for each in replace(document, chapters=(made,)).sentences())


def test_a_contradiction_is_shown_with_what_differs_and_no_verdict_or_score_moves(
    handle: LibraryHandle, bundle: Path
) -> None:
    session = own(handle, 100, 101, 99)
    before = session.judged.judgement
    assert before.claims[0].verdict.accuses
    judged_now = handle.merge(session, bundle)
    assert judged_now.judgement.claims == before.claims
    assert judged_now.judgement.score == before.score
    others = others_of(judged_now.audit, session.evidence_of, handle.read_facts, before.profile)
    found = {each.sentence: each for each in beside_each_other(judged_now, others)}
    assert found["A1 data 5 Gb/s"].agreement is Agreement.CONFLICT
    assert found["A2 data 5 Gb/s"].agreement is Agreement.ALONE
    assert differences(found["A1 data 5 Gb/s"], judged_now, others)
    page = told(handle, session, "replication")
    assert "contradict each other" in page
    assert "22 trials" in page or "trials on the rig galley" in page


def test_two_who_find_the_same_agree(handle: LibraryHandle, bundle: Path) -> None:
    session = own(handle, 450, 451)
    now = handle.merge(session, bundle)
    others = others_of(now.audit, session.evidence_of, handle.read_facts, now.judgement.profile)
    found = {each.sentence: each.agreement for each in beside_each_other(now, others)}
    assert found["A1 data 5 Gb/s"] is Agreement.AGREE


def test_what_is_of_another_device_or_stands_there_or_is_the_same_audit_is_refused(
    handle: LibraryHandle, bundle: Path
) -> None:
    session = own(handle, 450)
    handle.merge(session, bundle)
    with pytest.raises(InputError, match="already"):
        handle.merge(session, bundle)
    with pytest.raises(InputError, match="of this very audit"):
        handle.merge(handle.session("OP-6"), bundle)
    with pytest.raises(InputError, match="another variant"):
        handle.merge(handle.session("BW-11"), bundle)
    bundle.write_bytes(bundle.read_bytes().replace(b"Osierpell", b"Osierpill", 1))
    with pytest.raises(InputError):
        handle.merge(own(handle, 450, name="other"), bundle)


def test_merging_can_be_undone(handle: LibraryHandle, bundle: Path) -> None:
    session = own(handle, 450)
    assert len(handle.merge(session, bundle).audit.replications) == 1
    session.undo(SystemClock())
    assert session.judged.audit.replications == ()


def test_a_correction_is_a_version_with_a_reason_and_says_what_moved(handle: LibraryHandle) -> None:
    session, clock = own(handle, 450), SystemClock()
    assert record_version(session, "", clock) == 1
    assert record_version(session, "", clock) == 1, "nothing changed: it is the same version"
    assert "Version 1" in told(handle, session, "versions")
    for mb in (100, 101, 99):
        try_out(session, ALONE, *rates("A1", mb))
    assert "Draft after version 1" in told(handle, session, "versions")
    with pytest.raises(InputError, match="no reason is given"):
        record_version(session, "  ", clock)
    assert record_version(session, "the lead was not pushed in", clock) == 2
    page = told(handle, session, "versions")
    assert "Version 2: the lead was not pushed in" in page
    assert "A1 data 5 Gb/s: holds before" in page


def test_nothing_goes_out_that_does_not_say_how_the_device_was_got(handle: LibraryHandle) -> None:
    with pytest.raises(InputError, match="a reader must be told"):
        record_version(handle.session("OP-6"), "", SystemClock())
    assert handle.session("OP-6").judged.audit.published == ()


def test_a_follow_up_takes_doubts_over_and_says_which_are_closed_and_why_a_verdict_moved() -> None:
    start = [fact for fact in DEMOS[0].facts() if not isinstance(fact, NoteWritten)]
    doubt = DoubtRaised("D1", "Is it the drive?", suspect="cache", about="fast SSD")
    earlier = fold_audit("first", entries([*start, doubt]))
    facts = facts_of_follow_up(earlier, "another lead", "0" * 64)
    assert any(isinstance(fact, DoubtRaised) and fact.suspect == "cache" for fact in facts), "with what it suspects"
    later = fold_audit("second", entries(facts))
    assert any(isinstance(fact, DeviceNoted) for fact in facts)
    first, second = JudgedAudit(earlier, judged(earlier), "x"), JudgedAudit(later, judged(later), "x")
    found = follow_up_of(first, second, "another lead")
    assert found.kept == len(earlier.claims)
    assert found.closed == ()
