"""The rig: everything the reviewer owns that takes part, with the most that each part can do.

Rates are bits per second, powers watts, lengths metres. Sustained rates of drives and cards are payload.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, fields, replace
from enum import StrEnum
from functools import cached_property
from typing import Any

from auditra.core.model.noted import NOT_NOTED, Noted


class Origin(StrEnum):
    """How a part came to the bench. What is shipped with the device belongs to what is promised."""

    SHIPPED = "shipped"
    BOUGHT = "bought"
    BORROWED = "borrowed"


@dataclass(frozen=True)
class Owned:
    """What a label, a receipt or a certificate says of any part; dates as ISO 8601 has them (``2026-03-01``)."""

    serial: Noted[str] = field(default=NOT_NOTED, kw_only=True)
    bought: Noted[str] = field(default=NOT_NOTED, kw_only=True)
    """When it was bought or made: its age."""
    calibrated: Noted[str] = field(default=NOT_NOTED, kw_only=True)
    photo: Noted[str] = field(default=NOT_NOTED, kw_only=True)
    """SHA-256 of a picture of it that was kept as evidence."""
    remark: Noted[str] = field(default=NOT_NOTED, kw_only=True)


@dataclass(frozen=True)
class HostSocket:
    """One socket of a host and what it can do."""

    id: str
    connector: str
    data_bps: float
    display: bool = False
    gives_w: Noted[float] = NOT_NOTED
    takes_w: Noted[float] = NOT_NOTED
    modes: Noted[tuple[str, ...]] = NOT_NOTED
    """The display modes that it can send, best first."""


@dataclass(frozen=True)
class Host(Owned):
    """A computer that devices are tried on."""

    id: str
    name: str
    sockets: tuple[HostSocket, ...]
    wants_w: Noted[float] = NOT_NOTED
    battery_wh: Noted[float] = NOT_NOTED
    system: Noted[str] = NOT_NOTED
    variant: Noted[str] = NOT_NOTED
    driver: Noted[str] = NOT_NOTED
    """What had to be installed for the device."""
    policy: Noted[str] = NOT_NOTED
    """What the host does not do whatever is plugged in, such as extend a picture."""

    def socket(self, socket_id: str) -> HostSocket | None:
        return next((socket for socket in self.sockets if socket.id == socket_id), None)


@dataclass(frozen=True)
class Gear(Owned):
    """Any part of the rig that is plugged in: it has a name to be called by and a plug."""

    id: str
    name: str
    connector: str


@dataclass(frozen=True)
class Drive(Gear):
    """A disk with its sustained payload rates; `current_a` is what it draws at most, at its start."""

    read_bps: float
    write_bps: float
    usb_id: Noted[str] = NOT_NOTED
    bus: Noted[str] = NOT_NOTED
    cache_bytes: Noted[int] = NOT_NOTED
    current_a: Noted[float] = NOT_NOTED


@dataclass(frozen=True)
class Card(Gear):
    """A memory card; `bus` is its bus class. `reader` is the gear it is measured in directly."""

    bus: str
    read_bps: float
    write_bps: float
    reader: Noted[str] = NOT_NOTED


@dataclass(frozen=True)
class Reader(Gear):
    """A card reader of known worth, for direct trials of cards."""

    bus: str


@dataclass(frozen=True)
class Display(Gear):
    """A monitor, projector or screen; `modes` as ``3840x2160@60``, best first."""

    modes: tuple[str, ...]
    inputs: Noted[tuple[str, ...]] = NOT_NOTED
    vrr: Noted[bool] = NOT_NOTED


@dataclass(frozen=True)
class SupplyStep:
    """One voltage that a supply offers, with the most current at it."""

    volts: float
    amperes: float


@dataclass(frozen=True)
class Supply(Gear):
    """A charger: the most it gives, and at which voltage."""

    volts: float
    watts: float
    steps: Noted[tuple[SupplyStep, ...]] = NOT_NOTED
    origin: Noted[Origin] = NOT_NOTED


@dataclass(frozen=True)
class Drain(Gear):
    """Something that just draws power while it is plugged in: a hand load, a tablet that charges."""

    draws_w: float


@dataclass(frozen=True)
class Hop:
    """One part of the way to a network peer: a switch, a router."""

    name: str
    rate_bps: float
    largest_frame_bytes: Noted[int] = NOT_NOTED


@dataclass(frozen=True)
class Peer(Gear):
    """A network peer with its link rate and largest frame (the MTU in bytes), and what lies on the way to it.

    `address` is host:port where it serves trials; without one, rates are read elsewhere.
    """

    rate_bps: float
    mtu_bytes: int = 1500
    hops: Noted[tuple[Hop, ...]] = NOT_NOTED
    address: Noted[str] = NOT_NOTED


@dataclass(frozen=True)
class Accuracy:
    """How far an instrument may be off in one quantity: per cent of the reading, an offset, and its last digit.

    `error` and `resolution` are in the SI unit of the quantity.
    """

    quantity: str
    error_percent: Noted[float] = NOT_NOTED
    error: Noted[float] = NOT_NOTED
    resolution: Noted[float] = NOT_NOTED


@dataclass(frozen=True)
class Instrument(Gear):
    """Something that measures. Errors are limits as its maker states them: per cent of the reading and an offset.

    `address` is host:port, a serial port, or the name of a VISA resource; `speaks` names the description of what it is
    asked there. Without an address it is read by eye.
    """

    address: Noted[str] = NOT_NOTED
    power_error_percent: Noted[float] = NOT_NOTED
    power_error_w: Noted[float] = NOT_NOTED
    accuracy: Noted[tuple[Accuracy, ...]] = NOT_NOTED
    speaks: Noted[str] = NOT_NOTED


class LeadEnd(StrEnum):
    """An end of a lead: the one at its source, or the one away from it."""

    NEAR = "near"
    FAR = "far"


@dataclass(frozen=True)
class Meter(Instrument):
    """Sits in line and reads volts and amperes; with an `end`, it only reads the volts there, beside the line."""

    end: Noted[LeadEnd] = NOT_NOTED

    @property
    def is_in_line(self) -> bool:
        return not isinstance(self.end, str)


@dataclass(frozen=True)
class Load(Instrument):
    """Draws a current that is set, up to `watts`, and asks a source for `asks_v`."""

    watts: float = 0.0
    asks_v: Noted[float] = NOT_NOTED


@dataclass(frozen=True)
class Rule(Gear):
    """A rule or tape: the length of its finest division. It has no connector."""

    connector: str = ""
    division_m: float = 0.001


CASE, ROOM = "case", "room"
"""Where thermometers are."""


@dataclass(frozen=True)
class Thermometer(Owned):
    """Tells a temperature within `error_k`, of the case where no other `spot` is noted (``room``, ``lid``).

    `address` is as that of an instrument, or ``hwmon:CHIP/SENSOR`` for one that the kernel of this host reads.
    """

    id: str
    name: str
    error_k: float
    address: Noted[str] = NOT_NOTED
    speaks: Noted[str] = NOT_NOTED
    spot: Noted[str] = NOT_NOTED


@dataclass(frozen=True)
class Adapter(Gear):
    """A hub or adapter as gear, in the chain between a socket and something else; `ends` are its other connectors."""

    ends: tuple[str, ...]
    data_bps: Noted[float] = NOT_NOTED
    origin: Noted[Origin] = NOT_NOTED


@dataclass(frozen=True)
class Lead(Owned):
    """A cable as gear: which ends it has and the most it carries."""

    id: str
    ends: tuple[str, str]
    length_m: Noted[float] = NOT_NOTED
    data_bps: Noted[float] = NOT_NOTED
    amperes: Noted[float] = NOT_NOTED
    gauge_awg: Noted[int] = NOT_NOTED
    conductors: Noted[int] = NOT_NOTED
    marker: Noted[str] = NOT_NOTED
    """What its e-marker says; None where it has none."""
    origin: Noted[Origin] = NOT_NOTED
    category: Noted[str] = NOT_NOTED
    """Of a network lead: 5e, 6, 6A, ..."""
    pairs: Noted[int] = NOT_NOTED
    """Pairs of wires that are connected: a network lead with two carries no gigabit."""

    def joins(self, one: str, other: str) -> bool:
        return self.ends in ((one, other), (other, one))


Part = Host | Gear | Thermometer | Lead
"""Anything that a rig has."""


@dataclass(frozen=True)
class Rig:
    """All that takes part, by kind."""

    name: str
    hosts: tuple[Host, ...]
    drives: tuple[Drive, ...] = ()
    cards: tuple[Card, ...] = ()
    readers: tuple[Reader, ...] = ()
    displays: tuple[Display, ...] = ()
    supplies: tuple[Supply, ...] = ()
    drains: tuple[Drain, ...] = ()
    peers: tuple[Peer, ...] = ()
    meters: tuple[Meter, ...] = ()
    loads: tuple[Load, ...] = ()
    rules: tuple[Rule, ...] = ()
    thermometers: tuple[Thermometer, ...] = ()
    adapters: tuple[Adapter, ...] = ()
    leads: tuple[Lead, ...] = ()
    retired: tuple[str, ...] = ()
    """Ids of parts that are given away or broken: what was measured with them still counts, no trial is planned."""

    @cached_property
    def in_use(self) -> Rig:
        """The rig without what is retired."""
        if not self.retired:
            return self
        gone = set(self.retired)
        kept: dict[str, Any] = {
            name: tuple(part for part in parts if part.id not in gone) for name, parts in self._lists()
        }
        return replace(self, retired=(), **kept)

    def with_parts_of(self, other: Rig) -> Rig:
        """This rig, with all that another one has besides."""
        more = dict(other._lists())
        joined: dict[str, Any] = {name: parts + more[name] for name, parts in self._lists()}
        return replace(self, retired=self.retired + other.retired, **joined)

    def parts(self) -> Iterator[Part]:
        """Every part, hosts first, leads last."""
        for _, parts in self._lists():
            yield from parts

    def part(self, part_id: str) -> Part | None:
        return self._part_by_id.get(part_id)

    @cached_property
    def _part_by_id(self) -> dict[str, Part]:
        return {part.id: part for part in reversed(tuple(self.parts()))}

    def _lists(self) -> Iterator[tuple[str, tuple[Part, ...]]]:
        """Each list of parts, by the name of its field."""
        for each in fields(self):
            if each.name not in ("name", "retired"):
                yield each.name, getattr(self, each.name)

    def gear(self) -> Iterator[Gear]:
        for kind in (
            self.drives, self.cards, self.readers, self.displays, self.supplies, self.drains, self.peers, self.meters,
            self.loads, self.rules, self.adapters,
        ):  # fmt: skip
            yield from kind

    def find(self, gear_id: str) -> Gear | None:
        return self._gear_by_id.get(gear_id)

    @cached_property
    def _gear_by_id(self) -> dict[str, Gear]:
        return {gear.id: gear for gear in reversed(tuple(self.gear()))}

    def leads_between(self, one: str, other: str) -> tuple[Lead, ...]:
        """The leads with these two ends, the fastest and stoutest first."""
        kept = self._leads_between.get((one, other))
        if kept is None:
            fitting = [lead for lead in self.leads if lead.joins(one, other)]
            kept = tuple(
                sorted(fitting, key=lambda lead: (_number(lead.data_bps), _number(lead.amperes)), reverse=True)
            )
            self._leads_between[one, other] = kept
        return kept

    @cached_property
    def _leads_between(self) -> dict[tuple[str, str], tuple[Lead, ...]]:
        return {}

    def host(self, host_id: str) -> Host | None:
        return next((host for host in self.hosts if host.id == host_id), None)

    def name_of(self, gear_id: str) -> str:
        """What to call a part in a sentence."""
        gear = self.find(gear_id) or self.host(gear_id)
        return gear.name if gear else gear_id


def part_name(part: Part) -> str:
    """What to call a part by itself: a lead has an id alone."""
    return f"lead {part.id}" if isinstance(part, Lead) else part.name


def _number(noted: object) -> float:
    return noted if isinstance(noted, float | int) else 0.0
