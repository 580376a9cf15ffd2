"""Trials on this machine: a real folder behind a kernel tree; the inner disk never passes for the dock."""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

import pytest

from auditra.bench import storage
from auditra.bench.live import open_live_bench
from auditra.bench.trial_folder import TrialFolder
from auditra.core.claims.promise import Look
from auditra.core.errors import BenchError, TargetError, TrialStopped
from auditra.core.journal.facts import BenchNoted, ClaimMade, DeviceNoted, PathTraced, RigNoted
from auditra.core.judge.comparison import refusal_text
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.circumstance import Aspect
from auditra.core.model.reading import Grade, Quantity, Reading
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import Action, PlugMove
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.trials.doors import Progress
from tests.support.audits import HUB, PROFILE, galley
from tests.support.benches import MemoryJournal, Onlooker, SteppedClock
from tests.support.machines import DRIVE, Machine, machine_with
from tests.support.machines import HUB as HUB_IDS

THROUGH = (("2-1", HUB_IDS, "OP-6", True), ("2-1.1", DRIVE, "fast SSD", False))
DIRECT = (("2-2", DRIVE, "fast SSD", False),)
SIZE = 4 << 20


@dataclass
class Reviewer:
    """Answers what is asked in turn, and plugs by changing the kernel's tree."""

    answers: list[str] = field(default_factory=list)
    asked: list[str] = field(default_factory=list)
    plugs: object = None

    def make(self, moves: Sequence[PlugMove], seen: Callable[[], bool] | None = None) -> None:
        if callable(self.plugs) and any(move.action is Action.PLUG for move in moves):
            self.plugs()

    def look(self, spot: str, look: Look, question: str) -> str:
        return self.ask(question, look.hint)

    def read_rule(self, port: str, words: str) -> float:
        return 0.15

    def wait(self, words: str, about_s: float) -> None:
        self.asked.append(words)

    def ask(self, question: str, hint: str) -> str:
        self.asked.append(question)
        return self.answers.pop(0) if self.answers else ""


def session_of(*sentences: str, usb_ids: tuple[str, ...] | None = (HUB_IDS,)) -> AuditSession:
    device = replace(HUB, usb_ids=usb_ids) if usb_ids else HUB
    claims = [ClaimMade(f"claim{n}", sentence) for n, sentence in enumerate(sentences, start=1)]
    journal = MemoryJournal([BenchNoted(LIVE_BENCH), DeviceNoted(device), RigNoted(galley()), *claims])
    return AuditSession("live", journal, PROFILE)


def planned(session: AuditSession, key: str) -> PlannedTrial:
    sheet = session.judged.judgement.sheet
    return next(each for each in (*sheet.trials, *sheet.reserve) if each.key.startswith(key))


def readings(session: AuditSession) -> list[Reading]:
    return list(session.judged.audit.trials[-1].readings)


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    made = tmp_path / "drive"
    made.mkdir()
    return made


@pytest.fixture(autouse=True)
def small(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(storage, "_SPARE_BYTES", 0)


def run(
    session: AuditSession,
    key: str,
    machine: Machine,
    person: Reviewer,
    folder: Path | None,
    clock: SteppedClock | None = None,
    onlooker: Onlooker | None = None,
) -> Outcome:
    folders = {"": folder} if folder else {}
    with open_live_bench(
        session.judged.audit, person, folders=folders, file_bytes=SIZE, sys_root=machine.sys_root,
        mounts=machine.mounts, clock=clock,
    ) as bench:  # fmt: skip
        return session.run(planned(session, key), bench, onlooker or Onlooker())


def test_a_folder_on_the_device_is_measured_and_its_way_is_in_the_journal(folder: Path, tmp_path: Path) -> None:
    session = session_of("A1 data 5 Gb/s")
    assert (
        run(session, "A1/", machine_with(folder, tmp_path / "host", *THROUGH), Reviewer(), folder) is Outcome.COMPLETE
    )
    record = session.judged.audit.trials[0]
    assert record.path is not None
    assert [step.name for step in record.path.usb] == ["2-1", "2-1.1"]
    taken = {reading.quantity: reading for reading in record.readings}
    assert taken[Quantity.LINK].values == (5e9,)
    assert taken[Quantity.WRONG_BYTES].values == (0.0,)
    assert len(taken[Quantity.READ].values) == 3
    assert record.trial.bench == LIVE_BENCH
    assert list(folder.iterdir()) == []


def test_the_inner_disk_is_refused_for_a_port_and_allowed_direct(folder: Path, tmp_path: Path) -> None:
    session = session_of("A1 data 5 Gb/s")
    inner = machine_with(folder, tmp_path / "host")
    with pytest.raises(TargetError, match="proves nothing of A1"):
        run(session, "A1/", inner, Reviewer(), folder)
    record = session.judged.audit.trials[0]
    assert record.outcome is Outcome.FAILED
    assert record.path is not None
    assert session.judged.judgement.claims[0].verdict is Verdict.OPEN
    assert run(session, "direct/", inner, Reviewer(), folder) is Outcome.COMPLETE


def test_a_direct_trial_behind_the_device_and_a_way_that_nothing_proves_are_refused(
    folder: Path, tmp_path: Path
) -> None:
    through = machine_with(folder, tmp_path / "host", *THROUGH)
    with pytest.raises(TargetError, match="without it"):
        run(session_of("A1 data 5 Gb/s"), "direct/", through, Reviewer(), folder)
    with pytest.raises(TargetError, match="usb_ids"):
        run(session_of("A1 data 5 Gb/s", usb_ids=None), "A1/", through, Reviewer(), folder)


def test_hubs_that_come_with_the_device_prove_the_way_and_the_folder_is_found_below_the_drive(
    folder: Path, tmp_path: Path
) -> None:
    session = session_of("A1 data 5 Gb/s", usb_ids=None)
    empty = machine_with(folder, tmp_path / "host")
    person = Reviewer(plugs=lambda: machine_with(folder, tmp_path / "host", *THROUGH))
    assert run(session, "A1/", empty, person, None) is Outcome.COMPLETE
    assert person.asked == []
    path = session.judged.audit.trials[0].path
    assert path is not None
    assert path.folder == str(folder)


def test_a_drive_that_was_not_moved_to_the_next_port_is_noticed(folder: Path, tmp_path: Path) -> None:
    session = session_of("A1 data 5 Gb/s", "A2 data 5 Gb/s")
    machine = machine_with(folder, tmp_path / "host", *THROUGH)
    run(session, "A1/", machine, Reviewer(), folder)
    with pytest.raises(TargetError, match="A1 was tried there"):
        run(session, "A2/", machine, Reviewer(), folder)


@pytest.fixture
def slow_drive(monkeypatch: pytest.MonkeyPatch) -> None:
    """A drive of 300 MB/s at most, so that a link of 5 Gb/s could have carried what it gave."""
    for name in ("write", "read_into"):
        really = getattr(storage.FileTarget, name)

        def slowly(
            target: storage.FileTarget, offset: int, block: memoryview, really: Callable[..., None] = really
        ) -> None:
            time.sleep(len(block) / 300e6)
            really(target, offset, block)

        monkeypatch.setattr(storage.FileTarget, name, slowly)


@pytest.mark.usefixtures("slow_drive")
def test_another_drive_direct_is_no_comparison(folder: Path, tmp_path: Path) -> None:
    session = session_of("A1 data 10 Gb/s")
    run(session, "direct/", machine_with(folder, tmp_path / "inner"), Reviewer(), folder)
    run(session, "A1/", machine_with(folder, tmp_path / "host", *THROUGH), Reviewer(), folder)
    (verdict,) = session.judged.judgement.claims
    assert [each.aspect for each in verdict.comparisons[0].refusing] == [Aspect.DRIVE]
    assert refusal_text(verdict.comparisons[0]).startswith("more than the device differs: drive")
    assert not verdict.verdict.accuses


@pytest.mark.usefixtures("slow_drive")
def test_the_same_drive_direct_is_one(folder: Path, tmp_path: Path) -> None:
    session = session_of("A1 data 10 Gb/s")
    run(session, "direct/", machine_with(folder, tmp_path / "inner", *DIRECT, speed="10000"), Reviewer(), folder)
    run(session, "A1/", machine_with(folder, tmp_path / "host", *THROUGH), Reviewer(), folder)
    (verdict,) = session.judged.judgement.claims
    assert verdict.comparisons[0].refusing == ()
    assert verdict.verdict is Verdict.UNPROVEN
    assert "lead AC-1 carries that" in verdict.why
    again = "A1/storage/fast-ssd/on laptop with AC-2"
    run(session, again, machine_with(folder, tmp_path / "other-lead", *THROUGH), Reviewer(), folder)
    (verdict,) = session.judged.judgement.claims
    assert verdict.verdict is Verdict.SHORT
    assert "5 Gb/s < 10 Gb/s; direct 10 Gb/s" in verdict.why


def test_a_drive_that_vanishes_leaves_the_time_of_its_going(
    folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, calls = session_of("A1 data 5 Gb/s"), []
    really = storage.FileTarget.write

    def write(target: storage.FileTarget, offset: int, block: memoryview) -> None:
        calls.append(offset)
        if len(calls) > 2:
            raise TargetError("drive", why="the drive is gone", do="Plug it again")
        really(target, offset, block)

    monkeypatch.setattr(storage.FileTarget, "write", write)
    with pytest.raises(TargetError, match="gone"):
        run(session, "A1/", machine_with(folder, tmp_path / "host", *THROUGH), Reviewer(), folder)
    gone = readings(session)[-1]
    assert gone.quantity is Quantity.DROPPED_OUT
    assert gone.values[0] >= 0
    assert session.judged.judgement.set_aside[0].why.endswith("Plug it again.")


def test_values_are_typed_where_the_bench_has_no_door(folder: Path, tmp_path: Path) -> None:
    session = session_of("H1 shows 3840x2160@30", "P1 takes 90 W")
    machine = machine_with(folder, tmp_path / "host")
    assert run(session, "H1/", machine, Reviewer(["yes", "3840x2160@30"]), None) is Outcome.COMPLETE
    assert session.judged.judgement.claims[0].verdict is Verdict.HOLDS
    run(session, "P1/", machine, Reviewer(["yes", "93.5 W"]), None)
    power = readings(session)[-1]
    assert (power.grade, power.values, power.resolution) == (Grade.READ, (93.5,), 0.1)
    assert power.instrument == "load"
    assert power.error == pytest.approx(93.5 * 0.005 + 0.05)
    assert session.judged.judgement.claims[1].verdict is Verdict.HOLDS  # read by eye off an instrument of the rig


def test_what_is_typed_wrong_is_asked_again_and_a_slip_of_unit_is_questioned_but_kept(
    folder: Path, tmp_path: Path
) -> None:
    session = session_of("N1 links 1 Gb/s")
    person = Reviewer(["yes", "fast", "1 Gb/s", "117.5 Mb/s", "117.5 Mb/s", ""])
    run(session, "N1/network", machine_with(folder, tmp_path / "host"), person, None)
    taken = {reading.quantity: reading for reading in readings(session)}
    assert taken[Quantity.SEND].values == (117.5e6,)
    assert "bits for bytes" in taken[Quantity.SEND].note
    assert Quantity.RECEIVE not in taken
    assert any("not a number" in question for question in person.asked)
    assert session.judged.judgement.questions == ()  # typing it again has answered it


def test_what_did_not_come_up_is_one_try(folder: Path, tmp_path: Path) -> None:
    session = session_of("H1 shows 3840x2160@30")
    assert run(session, "H1/", machine_with(folder, tmp_path / "h"), Reviewer(["no"]), None) is Outcome.DID_NOT_APPEAR


def test_an_address_that_is_none_is_told(folder: Path, tmp_path: Path) -> None:
    session = session_of("P1 takes 90 W")
    rig = replace(galley(), loads=tuple(replace(load, address="nowhere") for load in galley().loads))
    audit = replace(session.judged.audit, rig=rig)
    with pytest.raises(BenchError, match="host:port"), open_live_bench(audit, Reviewer()):
        pass


def test_the_path_is_a_fact_of_its_own(folder: Path, tmp_path: Path) -> None:
    session = session_of("A1 data 5 Gb/s")
    onlooker = Onlooker()
    machine = machine_with(folder, tmp_path / "host", *THROUGH)
    with open_live_bench(
        session.judged.audit, Reviewer(), folders={"fast-ssd": folder}, file_bytes=SIZE, sys_root=machine.sys_root,
        mounts=machine.mounts,
    ) as bench:  # fmt: skip
        session.run(planned(session, "A1/"), bench, onlooker)
    assert any(isinstance(fact, PathTraced) for fact in onlooker.facts)


def test_a_drive_that_was_not_seen_to_come_is_asked_for_before_it_counts_as_missing(
    folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("auditra.workflows.trials.measure.storage.APPEARS_WITHIN_S", 0.1)
    session, inner = session_of("A1 data 5 Gb/s"), machine_with(folder, tmp_path / "host")
    assert run(session, "direct/", inner, Reviewer([str(folder)]), None) is Outcome.COMPLETE
    silent = Reviewer(["", "", "no"])
    assert run(session, "direct/", inner, silent, None) is Outcome.DID_NOT_APPEAR
    assert len(silent.asked) == 3
    with pytest.raises(TargetError, match="no answer whether"):
        run(session, "direct/", inner, Reviewer(), None)


TYPED = ("1 Gb/s", "940 Mb/s", "940 Mb/s")


def soaks_of(session: AuditSession) -> str:
    return next(each.key for each in session.judged.judgement.sheet.trials if each.setup.soaked_s)


def test_a_soak_by_hand_takes_its_time_and_what_comes_after_it_waits_for_the_case_to_cool(
    folder: Path, tmp_path: Path
) -> None:
    session, machine, clock = session_of("N1 links 1 Gb/s"), machine_with(folder, tmp_path / "host"), SteppedClock()
    soak, onlooker = Reviewer(["yes", *TYPED]), Onlooker()
    assert run(session, soaks_of(session), machine, soak, None, clock, onlooker) is Outcome.COMPLETE
    assert clock.passed_s >= 45 * 60
    assert any(sample.doing == "full load on N1: 12 of 45 min" for sample in onlooker.samples)
    assert next(each for each in readings(session) if each.quantity is Quantity.SOAKED).values[0] == pytest.approx(
        2700.0
    )
    after = Onlooker()
    assert run(session, "N1/network", machine, Reviewer(["yes", *TYPED]), None, clock, after) is Outcome.COMPLETE
    assert any("cool" in sample.doing for sample in after.samples)


class Leaver(Onlooker):
    """Has enough after so many seconds."""

    def __init__(self, after_s: float) -> None:
        super().__init__()
        self._after_s = after_s

    def progress(self, progress: Progress) -> None:
        if progress.time_s >= self._after_s:
            raise TrialStopped("the trial", why="it was stopped by the reviewer", do="Start it again when ready")


@pytest.mark.parametrize(("kept_up", "still_to_soak_s"), [("yes", 2700 - 1200 - 600), ("no", 2700)])
def test_a_soak_that_was_left_goes_on_where_the_load_was_kept_up(
    folder: Path, tmp_path: Path, kept_up: str, still_to_soak_s: int
) -> None:
    session, machine, clock = session_of("N1 links 1 Gb/s"), machine_with(folder, tmp_path / "host"), SteppedClock()
    key = soaks_of(session)
    with pytest.raises(TrialStopped):
        run(session, key, machine, Reviewer(["yes"]), None, clock, Leaver(after_s=1200))
    assert readings(session)[-1].values[0] == pytest.approx(1200.0, abs=2)
    clock.sleep(600)
    begun = clock.passed_s
    person = Reviewer(["yes", "nothing", kept_up, *TYPED])
    assert run(session, key, machine, person, None, clock) is Outcome.COMPLETE
    assert "20 min" in person.asked[1]
    assert clock.passed_s - begun == pytest.approx(still_to_soak_s, abs=3)


@pytest.mark.parametrize("answer", ["dunno", "", "yess", "0"])
def test_whatever_is_neither_yes_nor_no_is_no_answer(folder: Path, tmp_path: Path, answer: str) -> None:
    session, machine = session_of("N1 links 1 Gb/s"), machine_with(folder, tmp_path / "host")
    person = Reviewer([answer, answer, "no"])
    assert run(session, "N1/network", machine, person, None) is Outcome.DID_NOT_APPEAR
    assert all("Does it appear at N1?" in question for question in person.asked[:3])
    with pytest.raises(BenchError, match="neither yes nor no"):
        run(session, "N1/network", machine, Reviewer([answer] * 9), None)
    assert session.judged.audit.trials[-1].readings == ()


def test_several_ports_by_hand_are_said_to_be_kept_at_work_and_asked_for_in_turn(folder: Path, tmp_path: Path) -> None:
    session = session_of("A1 data 5 Gb/s", "S1 cards 95 MB/s", "N1 links 1 Gb/s")
    machine = machine_with(folder, tmp_path / "host")
    person = Reviewer(["yes", "", "97 MB/s", "98 MB/s", "yes", "1 Gb/s", "930 Mb/s", "931 Mb/s"])
    together = next(each for each in session.judged.judgement.sheet.trials if "together" in each.key)
    assert run(session, together.key, machine, person, None) is Outcome.COMPLETE
    assert person.asked[0].startswith("Keep S1 cards 95 MB/s and N1 links 1 Gb/s running")
    assert {(reading.at, reading.quantity) for reading in readings(session)} >= {
        ("N1", Quantity.SEND),
        ("S1", Quantity.WRITE),
    }


def test_a_card_is_proved_too_the_inner_disk_does_not_pass_for_a_slot_and_nothing_is_carried_over(
    folder: Path, tmp_path: Path
) -> None:
    session, inner = session_of("S1 cards 95 MB/s"), machine_with(folder, tmp_path / "inner")
    with pytest.raises(TargetError, match="proves nothing of S1"):
        run(session, "S1/", inner, Reviewer([str(folder)]), None)
    through = machine_with(folder, tmp_path / "host", *THROUGH)
    with open_live_bench(
        session.judged.audit, person := Reviewer([str(folder), "no"]), file_bytes=SIZE, sys_root=through.sys_root,
        mounts=through.mounts,
    ) as bench:  # fmt: skip
        trial = planned(session, "S1/")
        assert session.run(trial, bench, Onlooker()) is Outcome.COMPLETE
        assert session.run(trial, bench, Onlooker()) is Outcome.DID_NOT_APPEAR
    assert len(person.asked) == 2
    assert session.judged.audit.trials[1].path is not None


def test_what_an_earlier_trial_left_is_removed_only_where_the_reviewer_says_so(folder: Path, tmp_path: Path) -> None:
    session, machine = session_of("A1 data 5 Gb/s"), machine_with(folder, tmp_path / "host", *THROUGH)
    left = TrialFolder(folder)
    os.close(left.handle)
    keeps = Reviewer(["no"])
    assert run(session, "A1/", machine, keeps, folder) is Outcome.COMPLETE
    assert left.path.name in keeps.asked[0]
    assert left.path.exists()
    assert run(session, "A1/", machine, Reviewer(["yes"]), folder) is Outcome.COMPLETE
    assert not left.path.exists()


def test_a_drive_is_not_nearly_filled_without_asking(
    folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    session, machine = session_of("A1 data 5 Gb/s"), machine_with(folder, tmp_path / "host", *THROUGH)
    monkeypatch.setattr("auditra.bench.live.free_bytes", lambda _: SIZE * 3 // 2)
    person = Reviewer(["no"])
    with pytest.raises(TargetError, match="nearly full"):
        run(session, "A1/", machine, person, folder)
    assert "4.194 MB" in person.asked[0]
    assert "6.291 MB are free" in person.asked[0]
    assert run(session, "A1/", machine, Reviewer(["yes"]), folder) is Outcome.COMPLETE
