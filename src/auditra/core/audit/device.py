"""The device under audit: its faces and the ports on them, as it stands on the desk."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.audit.noted import NOT_NOTED, Noted

DEVICE = "device"
"""How set-ups name the device under audit, beside the ids of gear."""


class Role(StrEnum):
    """Which way a port faces."""

    UPSTREAM = "upstream"
    DOWNSTREAM = "downstream"
    INLET = "inlet"


@dataclass(frozen=True)
class Port:
    """One socket or plug of the device."""

    id: str
    connector: str
    role: Role = Role.DOWNSTREAM
    printed: Noted[str] = NOT_NOTED
    """What stands beside it on the case."""


@dataclass(frozen=True)
class Face:
    """One side of the device, its ports in the order in which they sit."""

    name: str
    ports: tuple[Port, ...]


@dataclass(frozen=True)
class Device:
    """What is under audit."""

    maker: str
    model: str
    kind: str
    faces: tuple[Face, ...]
    variant: Noted[str] = NOT_NOTED
    revision: Noted[str] = NOT_NOTED
    printed_count: Noted[int] = NOT_NOTED
    """The "N in 1" of the box."""

    @property
    def name(self) -> str:
        return f"{self.maker} {self.model}"

    def ports(self) -> Iterator[Port]:
        for face in self.faces:
            yield from face.ports

    def port(self, port_id: str) -> Port | None:
        return next((port for port in self.ports() if port.id == port_id), None)

    def first(self, role: Role) -> Port | None:
        """The first port of a role, in the order of the faces."""
        return next((port for port in self.ports() if port.role is role), None)
