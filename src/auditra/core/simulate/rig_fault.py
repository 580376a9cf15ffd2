"""What is wrong with a rig and stands nowhere in its notes: a lead that carries less, a meter that is off, hands that
slip. A device is innocent of all of it."""

from __future__ import annotations

import math
import random
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Any

from auditra.core.model.rig import Drive, Host, Lead, Rig

Changes = dict[str, Any]


class RigFault:
    """By default nothing is other than noted."""

    @property
    def words(self) -> str:
        """What is wrong, for one who may know."""
        raise NotImplementedError

    def truth_of(self, rig: Rig) -> Rig:
        """The rig as it really is."""
        return rig

    def gain(self, instrument: str) -> float:
        """What an instrument shows of what is there: 1 for one that is sound."""
        return 1.0

    def most_payload_bps(self, on_host: str) -> float:
        """More than this no payload comes to on a host."""
        return math.inf


def _with(parts: Iterable[Any], part_id: str, changes: Changes) -> tuple[Any, ...]:
    return tuple(replace(part, **changes) if part.id == part_id else part for part in parts)


@dataclass(frozen=True)
class SlowLead(RigFault):
    """A lead that carries less than is noted of it, or than anybody would think."""

    lead: str
    data_bps: float

    @property
    def words(self) -> str:
        return f"lead {self.lead} carries {self.data_bps / 1e6:.0f} Mb/s"

    def truth_of(self, rig: Rig) -> Rig:
        leads: tuple[Lead, ...] = _with(rig.leads, self.lead, {"data_bps": self.data_bps})
        return replace(rig, leads=leads)


@dataclass(frozen=True)
class SlowDrive(RigFault):
    """A drive that has become slower than its record."""

    drive: str
    share: float

    @property
    def words(self) -> str:
        return f"the {self.drive} gives only {self.share:.0%} of what is noted of it"

    def truth_of(self, rig: Rig) -> Rig:
        drives: tuple[Drive, ...] = tuple(
            replace(each, read_bps=each.read_bps * self.share, write_bps=each.write_bps * self.share)
            if each.id == self.drive else each for each in rig.drives
        )  # fmt: skip
        return replace(rig, drives=drives)


@dataclass(frozen=True)
class WeakHost(RigFault):
    """A host whose sockets make slower links than is noted."""

    host: str
    most_bps: float

    @property
    def words(self) -> str:
        return f"the sockets of the {self.host} make links of {self.most_bps / 1e9:g} Gb/s at most"

    def truth_of(self, rig: Rig) -> Rig:
        hosts: tuple[Host, ...] = tuple(
            replace(host, sockets=tuple(
                replace(socket, data_bps=min(socket.data_bps, self.most_bps)) if socket.connector != "rj45" else socket
                for socket in host.sockets
            )) if host.id == self.host else host for host in rig.hosts
        )  # fmt: skip
        return replace(rig, hosts=hosts)


@dataclass(frozen=True)
class SickInstrument(RigFault):
    """An instrument that shows a share of what is there, far outside its stated error."""

    instrument: str
    share: float

    @property
    def words(self) -> str:
        return f"the {self.instrument} shows {self.share:.0%} of what is there"

    def gain(self, instrument: str) -> float:
        return self.share if instrument == self.instrument else 1.0


@dataclass(frozen=True)
class RecorderOn(RigFault):
    """A recorder that nobody thought of runs on a host all the time: its processor has only so much left."""

    host: str
    payload_bps: float

    @property
    def words(self) -> str:
        return f"something else runs on the {self.host}: {self.payload_bps / 8e6:.0f} MB/s are left"

    def most_payload_bps(self, on_host: str) -> float:
        return self.payload_bps if on_host == self.host else math.inf


@dataclass
class Hands:
    """What a person does wrong: some plugs go into the wrong socket, some figures are typed wrongly at first."""

    chance: random.Random
    wrong_socket_one_in: int = 0
    slip_one_in: int = 0
    slipped: list[str] = field(default_factory=list)
    """What was done wrong so far, in words, for those who made the practice."""

    def picks_wrong_socket(self) -> bool:
        return self.wrong_socket_one_in > 0 and self.chance.randrange(self.wrong_socket_one_in) == 0

    def slips(self) -> bool:
        return self.slip_one_in > 0 and self.chance.randrange(self.slip_one_in) == 0
