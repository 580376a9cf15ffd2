"""The host as a witness: plug moves that it sees, what it keeps of a trial, and what is unlike the sheet."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.errors import TargetError
from auditra.core.host.snapshot import Snapshot, UsbDevice
from auditra.core.journal.audit import TrialRecord
from auditra.core.journal.facts import EventNoted, EvidenceKept
from auditra.core.model.device import DEVICE
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import Action, PlugMove
from auditra.documents.probe import read_probe_file
from auditra.workflows.hosts.plug_watch import unlike_the_sheet, watch_moves
from auditra.workflows.trials.doors import Connector, Links
from auditra.workflows.trials.doors import UsbDevice as Seen
from tests.support.audits import HUB, galley
from tests.support.benches import HONEST, MemoryJournal, Onlooker, run_all, session_with

SSD = Plugged(DEVICE, "A1", "fast-ssd", "AC-1")
NOTED = replace(HUB, usb_ids=("1f6e:0601", "1f6e:0602"))


class Host:
    """A host whose links are set by hand."""

    def __init__(self, *usb: Seen, connectors: tuple[Connector, ...] = ()) -> None:
        self.now = Links(usb, connectors=connectors)

    def links(self) -> Links:
        return self.now

    def snapshot(self) -> Snapshot:
        return Snapshot()


def drive(usb_id: str = "1f6e:5501", name: str = "2-1.1") -> Seen:
    return Seen(name, 5000.0, usb_id, is_hub=False)


@pytest.mark.parametrize(
    ("move", "before", "after", "seen"),
    [
        (PlugMove(Action.PLUG, SSD), (), (drive(),), True),
        (PlugMove(Action.PLUG, SSD), (), (drive("1f6e:5502"),), False),
        (PlugMove(Action.PLUG, SSD), (drive(),), (drive(),), False),
        (PlugMove(Action.PULL, SSD), (drive(),), (), True),
        (PlugMove(Action.PULL, SSD), (drive(),), (drive(),), False),
        (PlugMove(Action.PLUG, Plugged("laptop", "C1", DEVICE)), (), (Seen("2-1", 10_000, "1f6e:0601", True),), True),
        (PlugMove(Action.PLUG, Plugged("laptop", "C1", DEVICE)), (), (Seen("2-1", 10_000, "9999:0001", True),), False),
    ],
)
def test_a_move_is_done_once_the_host_shows_it(
    move: PlugMove, before: tuple[Seen, ...], after: tuple[Seen, ...], seen: bool
) -> None:
    host = Host(*before)
    look = watch_moves([move], galley(), NOTED, host)
    assert look is not None
    assert not look()
    host.now = Links(after)
    assert look() is seen


def test_a_display_is_seen_to_come() -> None:
    host = Host(connectors=(Connector("DP-1", False, b""),))
    look = watch_moves([PlugMove(Action.PLUG, Plugged(DEVICE, "H1", "projector"))], galley(), HUB, host)
    assert look is not None
    host.now = Links(connectors=(Connector("DP-1", True, b""),))
    assert look()


@pytest.mark.parametrize("gear", ["supply-90", "peer-10g"])
def test_what_no_host_can_see_is_left_to_the_person(gear: str) -> None:
    moves = [PlugMove(Action.PLUG, SSD), PlugMove(Action.PLUG, Plugged(DEVICE, "P1", gear))]
    assert watch_moves(moves, galley(), HUB, Host()) is None
    assert watch_moves([], galley(), HUB, Host()) is None


def planned(owner: str = DEVICE) -> PlannedTrial:
    plugged = (Plugged("laptop", "C1", DEVICE), replace(SSD, owner=owner))
    sheet = session_with("A1 data 5 Gb/s").judged.judgement.sheet
    return replace(sheet.trials[0], setup=SetUp("laptop", "C1", plugged), gear="fast-ssd", port="A1")


def usb(name: str, ids: str, *, hub: bool = False) -> UsbDevice:
    parent = name.rpartition(".")[0] or f"usb{name[0]}"
    vid, pid = (int(each, 16) for each in ids.split(":"))
    return UsbDevice(name, parent, 5000, vid, pid, class_code=9 if hub else 0)


@pytest.mark.parametrize(
    ("owner", "devices", "words"),
    [
        (DEVICE, (usb("2-1", "1f6e:0601", hub=True), usb("2-1.1", "1f6e:5501")), ""),
        (DEVICE, (usb("2-3", "1f6e:5501"),), "not behind the OP-6"),
        ("laptop", (usb("2-1", "1f6e:0601", hub=True), usb("2-1.1", "1f6e:5501")), "needs it without"),
        (DEVICE, (usb("2-1", "1f6e:0601", hub=True), usb("2-1.1", "1f6e:5502")), "film SSD appeared (1f6e:5502)"),
    ],
)
def test_what_is_unlike_the_sheet_is_said(owner: str, devices: tuple[UsbDevice, ...], words: str) -> None:
    found = list(unlike_the_sheet(planned(owner), galley(), NOTED, Snapshot(), Snapshot(usb=devices)))
    assert len(found) == bool(words)
    assert all(words in each for each in found)


def storage_trials(desk_records: tuple[TrialRecord, ...]) -> Iterator[TrialRecord]:
    return (each for each in desk_records if each.trial.procedure == ProcedureId.STORAGE and each.trial.port == "A1")


def test_a_trial_keeps_both_snapshots_what_changed_and_the_link() -> None:
    session = session_with("A1 data 5 Gb/s")
    run_all(session)
    audit = session.judged.audit
    record = next(storage_trials(audit.trials))
    kept = [each for each in audit.evidence if each.about == f"trial {record.trial.id}"]
    journal = session._journal
    assert isinstance(journal, MemoryJournal)
    before, after = (read_probe_file(journal.evidence[each.sha256], each.name) for each in kept)
    assert before.device("2-1.8.1") is None
    assert after.device("2-1.8.1") is not None
    (link,) = record.links
    assert (link.at, link.rate_bps, link.device_could_bps, link.socket_could_bps) == ("A1", 5e9, 10e9, 5e9)
    assert link.answer == "best"
    came = [each for each in audit.events if each.trial == record.trial.id and each.port == "A1"]
    assert came[0].object.startswith("A1: fast SSD (1f6e:5501) at 5 Gb/s")


def test_an_undone_trial_takes_what_the_host_said_with_it() -> None:
    session = session_with("A1 data 5 Gb/s")
    run_all(session)
    with open_simulated_bench(session.judged.audit, model=HONEST, over_sockets=False) as bench:
        while session.undo(bench.clock):
            pass
    assert session.judged.audit.events == ()
    assert session.judged.audit.evidence == ()


def test_another_drive_in_its_stead_is_no_miss_of_the_device() -> None:
    rig = galley()
    swapped = {"fast-ssd": "1f6e:5502", "film-ssd": "1f6e:5501"}
    wrong = replace(rig, drives=tuple(replace(d, usb_id=swapped.get(d.id, d.usb_id)) for d in rig.drives))
    session = session_with("A1 data 5 Gb/s")
    trial = next(each for each in session.judged.judgement.to_do if each.port == "A1")
    with (
        open_simulated_bench(replace(session.judged.audit, rig=wrong), model=HONEST, over_sockets=False) as bench,
        pytest.raises(TargetError, match="appeared instead"),
    ):
        session.run(trial, bench, Onlooker())
    record = session.judged.audit.trials[-1]
    assert record.outcome is Outcome.FAILED
    assert not any(each.count is not None for each in record.readings)
    assert session.judged.judgement.to_do[0].key
    facts = session.judged.audit.events
    assert any(isinstance(each, EventNoted) and "does not need" in each.object for each in facts)
    assert all(isinstance(each, EvidenceKept) for each in session.judged.audit.evidence)
