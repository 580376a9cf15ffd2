"""What was said to be connected, or able to do something, and what was seen."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.records import Counted
from auditra.core.links.display import mode_of, parse_mode
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Drive, Supply
from auditra.core.model.trial import ProcedureId
from auditra.core.quantities.display import bit_rate


@dataclass(frozen=True, kw_only=True)
class Connected(Finding):
    kind = "said and seen"
    role = Role.CONTRADICTION

    named: str
    said: str
    seen: str

    @property
    def subject(self) -> str:
        return self.named

    @property
    def sentence(self) -> str:
        return f"{self.said}, but {self.seen}"


def _find(inquiry: Inquiry) -> Iterator[Connected]:
    """Each contradiction once, by what it says."""
    seen: set[str] = set()
    for trial in inquiry.records.counted:
        for found in (*_drives(inquiry, trial), *_supplies(inquiry, trial), *_hosts(inquiry, trial)):
            if found.sentence not in seen:
                seen.add(found.sentence)
                yield found


def _finding(trial: Counted, named: str, said: str, seen: str) -> Connected:
    place = trial.record.trial.place
    return Connected(ports=(place,), trials=(trial.id,), claims=trial.record.trial.claims, named=named, said=said,
                     seen=seen)  # fmt: skip


def _drives(inquiry: Inquiry, trial: Counted) -> Iterator[Connected]:
    """Another drive answered than the one that was said to be plugged in."""
    drive, path = inquiry.audit.rig.find(trial.record.trial.gear), trial.record.path
    if not isinstance(drive, Drive) or not isinstance(drive.usb_id, str) or path is None or path.drive is None:
        return
    if path.drive_identity and drive.usb_id.lower() not in path.drive_identity.lower():
        yield _finding(trial, drive.name, f"{trial.id} names the {drive.name}", f"{path.drive_identity} answered")


def _supplies(inquiry: Inquiry, trial: Counted) -> Iterator[Connected]:
    """A supply that is said to be absent, and stands plugged in; or the other way."""
    setup, rig = trial.setup, inquiry.audit.rig
    plugged = [rig.name_of(each.gear) for each in setup.plugged if isinstance(rig.find(each.gear), Supply)]
    if setup.charger is None and plugged and not trial.direct:
        yield _finding(trial, plugged[0], f"{trial.id} notes no supply", f"the {plugged[0]} is connected")


def _hosts(inquiry: Inquiry, trial: Counted) -> Iterator[Connected]:
    """A host that did what its record says it cannot."""
    host = inquiry.audit.rig.host(trial.setup.host)
    socket = host.socket(trial.setup.host_socket) if host is not None else None
    if host is None or socket is None:
        return
    name = f"socket {socket.id} of {host.name}"
    for reading in trial.taken.of(Quantity.MODE):
        shown = mode_of(reading.text)
        known = [mode for words in socket.modes if (mode := mode_of(words)) is not None] if isinstance(
            socket.modes, tuple) else []  # fmt: skip
        if shown is not None and known and not any(mode.covers(shown) for mode in known):
            said = f"{name} is noted to send {parse_mode(str(known[0]))} at most"
            yield _finding(trial, name, said, f"{shown} was read in {trial.id}")
    if trial.record.trial.procedure != ProcedureId.STORAGE:
        return
    for reading in trial.taken.of(Quantity.LINK).numbers():
        if min(reading.values) > socket.data_bps > 0:
            said = f"{name} is noted to carry {bit_rate(socket.data_bps)} at most"
            yield _finding(trial, name, said, f"a link of {bit_rate(min(reading.values))} was read in {trial.id}")


CONNECTED = Cause(
    "said and seen", "the record of a part against what it did", "a part's record and a reading beyond it", _find,
    Role.CONTRADICTION,
)  # fmt: skip
