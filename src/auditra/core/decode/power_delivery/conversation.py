"""What a log of power messages comes to: what was said, all that was agreed on, and what broke a rule."""

from __future__ import annotations

from dataclasses import dataclass, field

from auditra.core.decode.identity import Identity
from auditra.core.decode.power_delivery.messages import Start
from auditra.core.decode.power_delivery.objects import PowerDataObject, Supply, most_offered_mw


@dataclass(frozen=True)
class Turn:
    """One thing that was said. `from_start_s` counts from the first message."""

    line: int
    from_start_s: float
    sender: str
    words: str


@dataclass(frozen=True)
class Contract:
    """What was agreed on. The current is what was asked for; the voltage of a range is None until it is asked for."""

    position: int
    kind: Supply
    voltage_mv: int | None
    current_ma: int | None
    power_mw: int | None
    mismatch: bool
    line: int = field(default=0, compare=False)
    """Where in the log it was made: two contracts over the same are the same."""
    from_start_s: float = field(default=0.0, compare=False)

    @property
    def words(self) -> str:
        if self.voltage_mv is None or self.current_ma is None:
            return f"{self.kind}, object {self.position}"
        watts = (self.power_mw or 0) / 1000
        return f"{self.voltage_mv / 1000:g} V {self.current_ma / 1000:g} A ({watts:g} W), object {self.position}"


@dataclass(frozen=True)
class Heard:
    """One message with what its header says. `payload` is that of an extended message, in hexadecimal."""

    line: int
    from_start_s: float
    start: Start
    name: str
    sender: str
    data_role: str | None
    identifier: int
    revision: str
    objects: tuple[int, ...]
    payload: str
    chunk: int | None
    has_crc: bool
    is_damaged: bool
    is_retry: bool
    """The same once more, because its receipt was not heard: it counts once. Source: USB PD R3.1, 6.7.2."""


@dataclass(frozen=True)
class Conversation:
    """All that a log says, as far as it could be read."""

    turns: tuple[Turn, ...] = ()
    offered: tuple[PowerDataObject, ...] = ()
    """What the source offered last."""
    wished: tuple[PowerDataObject, ...] = ()
    contract: Contract | None = None
    """The last one; None where a hard reset ended it."""
    refused: int = 0
    cable: Identity | None = None
    partner: Identity | None = None
    messages: int = 0
    contracts: tuple[Contract, ...] = ()
    """All, in the order in which they were made."""
    hard_resets: int = 0
    cable_resets: int = 0
    retries: int = 0
    heard: tuple[Heard, ...] = ()
    not_more: tuple[str, ...] = ()
    """What kept it from more, in words; nothing where it is all that was offered."""
    faults: tuple[str, ...] = field(default=())
    """What broke a rule, and lines that are no message."""

    @property
    def most_offered_mw(self) -> int | None:
        return most_offered_mw(self.offered)
