"""Several windows and commands on one audit: nothing is overwritten, no id is given twice, the chain stays whole."""

from __future__ import annotations

import random
import threading
from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from pathlib import Path

import pytest

from auditra.bench.clock import SystemClock
from auditra.core.errors import AuditClosed, FactRefused, InputError, JournalDamaged, StaleHead
from auditra.core.journal.facts import ClaimMade, DeviceNoted, Fact, NoteWritten, SignedOff, TrialBegun, Undone
from auditra.core.journal.fold import fold_audit
from auditra.core.model.device import Device
from auditra.core.model.source import Source
from auditra.store.demos import DEMOS
from auditra.store.library import Library
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.claim_edits import claims_made, port_renamed
from auditra.workflows.audits.recording import record_action
from auditra.workflows.trials.run import facts_of_absence
from tests.store.conftest import Shelf
from tests.support.audits import BEGIN, PROFILE

CLOCK = SystemClock()


@pytest.fixture
def audit(shelf: Shelf) -> Shelf:
    """A library with the audit in it."""
    shelf.open().create("OP-6", DEMOS[0].facts(), BEGIN)
    return shelf


def window(shelf: Shelf) -> AuditSession:
    """A desk as its own process would have it: on a library of its own."""
    return AuditSession("OP-6", shelf.open().journal("OP-6"), PROFILE)


def claim(session: AuditSession, sentence: str) -> None:
    session.write(lambda known: claims_made(known, sentence, Source("box")), "claim", CLOCK)


def sentences(session: AuditSession) -> list[str]:
    return [str(each) for each in session.refresh().audit.claims]


def test_two_windows_that_read_the_same_both_keep_their_claims(audit: Shelf) -> None:
    one, other = window(audit), window(audit)
    claim(one, "A1 gives 4.5 W")
    claim(other, "A2 gives 4.5 W")
    assert sentences(one)[-2:] == sentences(other)[-2:] == ["A1 gives 4.5 W", "A2 gives 4.5 W"]
    ids = [each.id for each in one.judged.audit.claims]
    assert len(ids) == len(set(ids))


def test_one_undo_takes_one_note_the_one_that_its_window_has_shown(audit: Shelf) -> None:
    one, other = window(audit), window(audit)
    one.write(lambda _: (NoteWritten("from the left", None),), "note", CLOCK)
    other.write(lambda _: (NoteWritten("from the right", None),), "note", CLOCK)
    one.undo(CLOCK)
    assert [note.text for note in one.judged.audit.notes] == ["from the right"]
    stale = window(audit)
    other.undo(CLOCK)
    with pytest.raises(InputError, match="undone it already"):
        stale.undo(CLOCK)


def test_a_trial_that_another_window_has_marked_is_not_marked_again(audit: Shelf) -> None:
    one, other = window(audit), window(audit)
    planned = one.judged.judgement.to_do[0]
    for _ in range(3):
        one.mark_absent(planned, CLOCK)
    with pytest.raises(InputError, match="has done it meanwhile"):
        other.mark_absent(planned, CLOCK)
    assert [record.trial.id for record in other.refresh().audit.trials] == ["T1", "T2", "T3"]


def test_a_stale_head_is_refused_and_writes_nothing(audit: Shelf) -> None:
    one, other = audit.open().journal("OP-6"), audit.open().journal("OP-6")
    _, seen = one.read()
    other.append([NoteWritten("meanwhile")], action="n1", at=BEGIN)
    with pytest.raises(StaleHead):
        one.append([NoteWritten("late")], action="n2", at=BEGIN, after=seen)
    assert [note.text for note in one.read()[0].notes] == ["meanwhile"]


def test_what_does_not_fit_is_refused_on_every_append_and_nothing_of_it_stays(audit: Shelf) -> None:
    journal = audit.open().journal("OP-6")
    facts = (NoteWritten("first"), NoteWritten("on a socket that is not there", "Z9"))
    with pytest.raises(FactRefused, match="no device has a port Z9"):
        journal.append(facts, action="n1", at=BEGIN)
    with pytest.raises(FactRefused, match="no action"):
        journal.append([Undone("n1")], action="u1", at=BEGIN)
    assert journal.read()[0].notes == ()
    assert len(journal.entries()) == len(DEMOS[0].facts())


def facts_of(note: NoteWritten, _: object) -> tuple[NoteWritten]:
    return (note,)


def test_many_writers_at_once_lose_nothing_and_give_no_id_twice(audit: Shelf) -> None:
    def write(who: int) -> None:
        own, chance = window(audit), random.Random(who)
        for n in range(8):
            if chance.random() < 0.5:
                note = NoteWritten(f"{who}/{n}", None)
                own.write(partial(facts_of, note), "note", CLOCK)
            else:
                planned = own.refresh().judgement.sheet.trials[0]
                made = partial(facts_of_absence, planned, bench="simulated bench")
                record_action(made, own._journal, CLOCK)

    writers = [threading.Thread(target=write, args=(who,)) for who in range(4)]
    for each in writers:
        each.start()
    for each in writers:
        each.join()
    entries = audit.open().journal("OP-6").entries()
    trials = [entry.fact.trial.id for entry in entries if isinstance(entry.fact, TrialBegun)]
    notes = fold_audit("OP-6", entries).notes
    assert len(trials) + len(notes) == 32
    assert len(set(trials)) == len(trials)


def test_a_renamed_socket_takes_its_claims_along_by_value_and_the_audit_opens(audit: Shelf) -> None:
    """An ampere is no socket, however the socket is called."""
    session = window(audit)
    device = session.judged.audit.device
    letter = replace(device.faces[0].ports[0], id="A")
    face = replace(device.faces[0], ports=(letter, *device.faces[0].ports[1:]))
    journal = audit.open().create("amperes", [*_with_device(replace(device, faces=(face, *device.faces[1:])))], BEGIN)
    amperes = AuditSession("amperes", journal, PROFILE)
    claim(amperes, "A feeds 0.9 A while A2 feeds 0.9 A")
    amperes.write(lambda known: port_renamed(known, "A", "A9"), "rename A", CLOCK)
    amperes.write(lambda known: port_renamed(known, "A2", "V5"), "rename A2", CLOCK)
    assert "A9 feeds 0.9 A while V5 feeds 0.9 A" in [str(each) for each in amperes.judged.audit.claims]
    again = AuditSession("amperes", audit.open().journal("amperes"), PROFILE)
    assert again.judged.audit.unreadable == ()


def _with_device(device: Device) -> Iterator[Fact]:
    for fact in DEMOS[0].facts():
        if isinstance(fact, DeviceNoted):
            yield DeviceNoted(device)
        elif not isinstance(fact, ClaimMade):
            yield fact


def test_a_forged_tail_with_its_head_is_caught_by_the_second_witness(tmp_path: Path) -> None:
    """Whoever can write the database can chain it again; the file beside it then says otherwise."""
    folder = tmp_path
    journal = Library(folder).create("OP-6", DEMOS[0].facts(), BEGIN)
    for n in range(3):
        journal.append([NoteWritten(f"note {n}")], action=f"n{n}", at=BEGIN)
    entries = journal.entries()
    elsewhere = Library(folder / "forger")
    elsewhere.restore("OP-6", [*entries[:-1], replace(entries[-1], fact=NoteWritten("all is well"))])
    elsewhere.close()
    (folder / "forger" / "library.sqlite").replace(folder / "library.sqlite")
    for left in ("library.sqlite-wal", "library.sqlite-shm"):
        (folder / left).unlink(missing_ok=True)
    with pytest.raises(JournalDamaged, match="its chain is intact, but"):
        Library(folder).journal("OP-6").read()


def test_what_is_signed_off_is_closed_to_others_until_it_is_opened_again(audit: Shelf) -> None:
    def session(writer: str) -> AuditSession:
        return AuditSession("OP-6", audit.open(writer).journal("OP-6"), PROFILE)

    ada, bo = session("Ada"), session("Bo")
    claim(bo, "A1 gives 4.5 W")
    assert ada.sign_off(CLOCK).audit.signed_off == SignedOff("Ada")
    for attempt in (partial(claim, bo, "A2 gives 4.5 W"), partial(bo.sign_off, CLOCK), partial(bo.undo, CLOCK)):
        with pytest.raises(AuditClosed, match="Ada has signed it off"):
            attempt()
    claim(ada, "A2 gives 4.5 W")
    ada.undo(CLOCK)
    assert ada.judged.audit.signed_off is not None
    assert ada.sign_off(CLOCK).audit.signed_off is None
    claim(bo, "A2 gives 4.5 W")
    assert sentences(ada)[-1] == "A2 gives 4.5 W"
