"""Faults of a rig that its notes do not mention: a lead that carries less, a meter that reads wrong, hands that slip.
The device is innocent of them."""

from __future__ import annotations

import math
import random
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from typing import Protocol, TypeVar

from auditra.core.model.rig import Drive, Host, Lead, Rig

_HELD_UP_SHARE = 0.97


class _Part(Protocol):
    @property
    def id(self) -> str: ...


P = TypeVar("P", bound=_Part)


class RigFault:
    """By default the rig is as noted."""

    @property
    def words(self) -> str:
        """The fault in words; the judge never sees them."""
        raise NotImplementedError

    @property
    def shown_by(self) -> frozenset[str]:
        """Kinds of finding that say rightly what is wrong with a part of the rig, whichever claim they stand at."""
        return frozenset()

    def truth_of(self, rig: Rig) -> Rig:
        """The rig as it really is."""
        return rig

    def gain(self, instrument: str) -> float:
        """The factor between true and shown value of an instrument: 1 for a good one."""
        return 1.0

    def most_payload_bps(self, on_host: str) -> float:
        """The highest payload rate on a host."""
        return math.inf

    def processor_percent(self, on_host: str, payload_bps: float) -> float:
        """What else runs on a host takes so much of its processors, while so much payload moves."""
        return 0.0

    def share_of(self, gear: str, written_bytes: float) -> float:
        """The part of its rate that gear keeps once so much was written to it in one go."""
        return 1.0

    def detour_bps(self, peer: str) -> float | None:
        """What gets through to a peer by another way than is meant; None where it goes the way that is meant."""
        return None

    def shown_link_bps(self, link_bps: float) -> float:
        """What the host says of a link."""
        return link_bps


def _changed(parts: Iterable[P], part_id: str, change: Callable[[P], P]) -> tuple[P, ...]:
    """The parts, with the change made to one of them."""
    return tuple(change(part) if part.id == part_id else part for part in parts)


@dataclass(frozen=True)
class SlowLead(RigFault):
    """A lead that carries less than noted."""

    lead: str
    data_bps: float

    @property
    def words(self) -> str:
        return f"lead {self.lead} carries {self.data_bps / 1e6:.0f} Mb/s"

    def truth_of(self, rig: Rig) -> Rig:
        return replace(rig, leads=_changed(rig.leads, self.lead, self._slowed))

    def _slowed(self, lead: Lead) -> Lead:
        return replace(lead, data_bps=self.data_bps)


@dataclass(frozen=True)
class SlowDrive(RigFault):
    """A drive that has become slower than its record."""

    drive: str
    share: float

    @property
    def words(self) -> str:
        return f"the {self.drive} runs at only {self.share:.0%} of its noted rate"

    def truth_of(self, rig: Rig) -> Rig:
        return replace(rig, drives=_changed(rig.drives, self.drive, self._slowed))

    def _slowed(self, drive: Drive) -> Drive:
        return replace(drive, read_bps=drive.read_bps * self.share, write_bps=drive.write_bps * self.share)


@dataclass(frozen=True)
class FillsUp(RigFault):
    """A drive that is fast only until its cache is full."""

    drive: str
    after_bytes: float
    kept: float

    @property
    def shown_by(self) -> frozenset[str]:
        return frozenset({"cache"})

    @property
    def words(self) -> str:
        return f"the {self.drive} falls to {self.kept:.0%} once {self.after_bytes / 1e9:.1f} GB were written"

    def share_of(self, gear: str, written_bytes: float) -> float:
        return self.kept if gear == self.drive and written_bytes > self.after_bytes else 1.0


@dataclass(frozen=True)
class WrongRoute(RigFault):
    """A host that reaches a peer over its wireless link, whatever is plugged."""

    peer: str
    payload_bps: float

    @property
    def words(self) -> str:
        return f"the {self.peer} is reached over a wireless link of {self.payload_bps / 1e6:.0f} Mb/s"

    def detour_bps(self, peer: str) -> float | None:
        return self.payload_bps if peer == self.peer else None


@dataclass(frozen=True)
class StaleWitness(RigFault):
    """A host that says too little of every fast link."""

    shown_bps: float

    @property
    def words(self) -> str:
        return f"the host says {self.shown_bps / 1e6:.0f} Mb/s of every faster link"

    def shown_link_bps(self, link_bps: float) -> float:
        return min(link_bps, self.shown_bps)


@dataclass(frozen=True)
class WeakHost(RigFault):
    """A host whose sockets link at a lower rate than noted."""

    host: str
    most_bps: float

    @property
    def words(self) -> str:
        return f"the sockets of the {self.host} make links of {self.most_bps / 1e9:g} Gb/s at most"

    def truth_of(self, rig: Rig) -> Rig:
        return replace(rig, hosts=_changed(rig.hosts, self.host, self._weakened))

    def _weakened(self, host: Host) -> Host:
        sockets = tuple(
            socket if socket.connector == "rj45" else replace(socket, data_bps=min(socket.data_bps, self.most_bps))
            for socket in host.sockets
        )
        return replace(host, sockets=sockets)


@dataclass(frozen=True)
class SickInstrument(RigFault):
    """An instrument that shows a share of what is there, far outside its stated error."""

    instrument: str
    share: float

    @property
    def words(self) -> str:
        return f"the {self.instrument} shows only {self.share:.0%} of the true value"

    def gain(self, instrument: str) -> float:
        return self.share if instrument == self.instrument else 1.0


@dataclass(frozen=True)
class RecorderOn(RigFault):
    """A recorder left running on a host, which leaves less of its processor."""

    host: str
    payload_bps: float

    @property
    def words(self) -> str:
        return f"something else runs on the {self.host}: {self.payload_bps / 8e6:.0f} MB/s are left"

    def most_payload_bps(self, on_host: str) -> float:
        return self.payload_bps if on_host == self.host else math.inf

    def processor_percent(self, on_host: str, payload_bps: float) -> float:
        """All of it where moving data is held up by it."""
        held_up = payload_bps > _HELD_UP_SHARE * self.payload_bps
        return 0.0 if on_host != self.host else 98.0 if held_up else 55.0


@dataclass
class Hands:
    """What a person does wrong: some plugs go into the wrong socket, some figures are typed wrongly at first."""

    chance: random.Random
    wrong_socket_one_in: int = 0
    slip_one_in: int = 0

    def picks_wrong_socket(self) -> bool:
        return self.wrong_socket_one_in > 0 and self.chance.randrange(self.wrong_socket_one_in) == 0

    def slips(self) -> bool:
        return self.slip_one_in > 0 and self.chance.randrange(self.slip_one_in) == 0
