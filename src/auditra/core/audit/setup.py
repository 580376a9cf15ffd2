"""A set-up: what is plugged into what during a trial, and what else is running."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.audit.device import DEVICE


@dataclass(frozen=True)
class Plugged:
    """One thing in one socket.

    `owner` has the socket: a host's id, or DEVICE. `gear` is what is plugged in: a gear's id, or DEVICE for the
    device's own upstream plug. `through` names what sits in line, such as a meter.
    """

    owner: str
    socket: str
    gear: str
    lead: str | None = None
    through: tuple[str, ...] = ()


@dataclass(frozen=True)
class SetUp:
    """What is plugged into what. `running` says what else is at work: functions of the device by port."""

    host: str
    host_socket: str
    plugged: tuple[Plugged, ...]
    running: tuple[str, ...] = ()

    @property
    def direct(self) -> bool:
        """The gear is on the host itself, without the device."""
        return all(DEVICE not in (each.owner, each.gear) for each in self.plugged)
