"""The device under audit: its faces and the ports on them, as it stands on the desk, and what came with it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from auditra.core.model.noted import NOT_NOTED, Noted

DEVICE = "device"
"""How set-ups name the device under audit, beside the ids of gear."""

BODY = "body"
"""How claims name the device as a whole, where a port would stand."""


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


class PriceKind(StrEnum):
    """Whose price it is: the maker's list, a shop's, or that of a used one."""

    LIST = "list"
    STREET = "street"
    USED = "used"


@dataclass(frozen=True)
class Price:
    """What was asked for it, in which money (ISO 4217, such as EUR), and when that was seen."""

    amount: float
    money: str
    seen: Noted[str] = NOT_NOTED
    kind: Noted[PriceKind] = NOT_NOTED


@dataclass(frozen=True)
class Extra:
    """Something that one must buy besides."""

    name: str
    price: Noted[Price] = NOT_NOTED


@dataclass(frozen=True)
class LampState:
    """One colour, or way of blinking, of a lamp and what it is said to mean."""

    shows: str
    means: Noted[str] = NOT_NOTED


@dataclass(frozen=True)
class Lamp:
    """A lamp on the device; `at` is a port or a spot on a face."""

    at: str
    states: tuple[LampState, ...] = ()


@dataclass(frozen=True)
class OwnSupply:
    """The supply that the seller packs in: what its label says, in volts and amperes."""

    volts: float
    amperes: float


@dataclass(frozen=True)
class InnerStorage:
    """A drive inside the device."""

    kind: str
    size_bytes: Noted[int] = NOT_NOTED


MARKS = ("variant", "revision", "firmware", "seller")
"""What tells one piece from another of its model, by the fields of a device."""


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
    id: str = DEVICE
    """How claims and set-ups name it where an audit is of several devices."""
    usb_ids: Noted[tuple[str, ...]] = NOT_NOTED
    """Vendor and product of its hubs, as ``1f6e:0601``: a path through one of them leads through the device."""
    price: Noted[Price] = NOT_NOTED
    """What the seller of the audited one asks."""
    other_prices: Noted[tuple[Price, ...]] = NOT_NOTED
    """At other dates, from other sellers, used."""
    extras: Noted[tuple[Extra, ...]] = NOT_NOTED
    supply: Noted[OwnSupply] = NOT_NOTED
    box_contents: Noted[tuple[str, ...]] = NOT_NOTED
    disclosure: Noted[str] = NOT_NOTED
    """How the reviewer came by it, in a sentence."""
    paid_by: Noted[str] = NOT_NOTED
    """Who pays for the work, if anybody does."""
    seen_before_by: Noted[str] = NOT_NOTED
    """Who saw the result before it was published."""
    helper_gear: Noted[str] = NOT_NOTED
    """Gear that took part and was lent, or is of the same maker."""
    reviewed_by: Noted[str] = NOT_NOTED
    """Who signs the report."""
    firmware: Noted[str] = NOT_NOTED
    seller: Noted[str] = NOT_NOTED
    lamps: Noted[tuple[Lamp, ...]] = NOT_NOTED
    storage: Noted[InnerStorage] = NOT_NOTED

    @property
    def cost(self) -> Price | None:
        """What one pays in all: the price, and what must be bought besides; None where one of them is not known, or
        they are in more than one money."""
        extras = [extra.price for extra in self.extras] if isinstance(self.extras, tuple) else []
        prices = [price for price in (self.price, *extras) if isinstance(price, Price)]
        if len(prices) != len(extras) + 1 or len({price.money for price in prices}) != 1:
            return None
        return Price(round(sum(price.amount for price in prices), 2), prices[0].money)

    @property
    def prices(self) -> tuple[Price, ...]:
        """Every price that was noted, that of the audited one first."""
        others = self.other_prices if isinstance(self.other_prices, tuple) else ()
        return (*((self.price,) if isinstance(self.price, Price) else ()), *others)

    @property
    def name(self) -> str:
        return f"{self.maker} {self.model}"

    def same_thing_as(self, other: Device) -> bool:
        """Whether both may be one device: nothing that marks it is known to differ. Results go with that or not."""
        return all(
            getattr(self, mark) == getattr(other, mark) or NOT_NOTED in (getattr(self, mark), getattr(other, mark))
            for mark in ("maker", "model", "variant", "revision", "firmware")
        )

    def ports(self) -> Iterator[Port]:
        for face in self.faces:
            yield from face.ports

    def port(self, port_id: str) -> Port | None:
        return self._port_by_id.get(port_id)

    def has(self, port_id: str) -> bool:
        """Whether claims may name it: a port, or the whole."""
        return port_id == BODY or port_id in self._port_by_id

    @cached_property
    def _port_by_id(self) -> dict[str, Port]:
        return {port.id: port for port in reversed(tuple(self.ports()))}

    @property
    def counted_ports(self) -> tuple[str, ...]:
        """The sockets that the "N in 1" counts, by one rule for all devices: each once, but not the host's plug."""
        return tuple(port.id for port in self.ports() if port.role is not Role.UPSTREAM)

    def first(self, role: Role) -> Port | None:
        """The first port of a role, in the order of the faces."""
        return self._first_by_role.get(role)

    @cached_property
    def _first_by_role(self) -> dict[Role, Port]:
        return {port.role: port for port in reversed(tuple(self.ports()))}
