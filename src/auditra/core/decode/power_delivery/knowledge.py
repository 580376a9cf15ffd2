"""What is known at a point of a log of power messages, and why it was not more power."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from auditra.core.decode.identity import CableIdentity, Identity, limits_in_words
from auditra.core.decode.power_delivery.conversation import Contract, Heard, Turn
from auditra.core.decode.power_delivery.messages import Message, Start
from auditra.core.decode.power_delivery.objects import PowerDataObject, Request, most_offered_mw

MAX_FAULTS = 200
_UNMARKED_MW, _STANDARD_MW = 60_000, 100_000


@dataclass
class Knowledge:
    """What is known at a point of the log. It grows with every message."""

    first_s: float | None = None
    place: str = "line"
    """What the numbers of the log count."""
    offered: tuple[PowerDataObject, ...] = ()
    wished: tuple[PowerDataObject, ...] = ()
    asked: Request | None = None
    granted: Request | None = None
    contract: Contract | None = None
    cable: Identity | None = None
    partner: Identity | None = None
    refused: int = 0
    messages: int = 0
    contracts: list[Contract] = field(default_factory=list)
    heard: list[Heard] = field(default_factory=list)
    hard_resets: int = 0
    cable_resets: int = 0
    retries: int = 0
    last: dict[Start, Message] = field(default_factory=dict)
    """The newest message that was heeded, by who is spoken to."""
    cable_asked: bool = False
    sealed: bool = False
    """The messages of this log have a CRC behind them."""
    extended: str = ""
    limited: tuple[str, ...] = ()
    turns: list[Turn] = field(default_factory=list)
    faults: list[str] = field(default_factory=list)
    chunks: dict[tuple[Start, str, str], bytes] = field(default_factory=dict)

    def fault(self, words: str) -> None:
        if len(self.faults) < MAX_FAULTS:
            self.faults.append(words)


def not_more(known: Knowledge) -> Iterator[str]:
    """What is known to have set the limit: the request, the offer, the cable, the extended range."""
    most = most_offered_mw(known.offered) or 0
    if not known.offered:
        yield "no offer was heard"
        return
    if known.contract is None:
        yield (
            "a hard reset ended the last contract" if known.contracts
            else f"no contract was made: {known.refused} requests were refused" if known.refused
            else "no contract was made"
        )  # fmt: skip
    else:
        yield from _by_the_contract(known.contract, most)
    if known.extended.startswith("enter failed"):
        yield f"the extended range was not entered: {known.extended.partition(': ')[2]}"
    yield from _by_the_cable(known, most)
    yield from known.limited


def _by_the_contract(contract: Contract, most_mw: int) -> Iterator[str]:
    if contract.power_mw is not None and contract.power_mw < most_mw:
        yield f"the sink asked for {contract.power_mw / 1000:g} W of {most_mw / 1000:g} W that are offered"
    if contract.mismatch:
        yield f"the sink would rather have more than is offered: {most_mw / 1000:g} W at most"


def _by_the_cable(known: Knowledge, most_mw: int) -> Iterator[str]:
    """A cable is to blame only where the offer goes as far as its marker allows: a source that offers less is limited
    by itself. Source: USB PD R3.1, 6.4.1.2.2 (a source offers no more current than the cable carries)."""
    cable: CableIdentity | None = known.cable.cable if known.cable is not None else None
    if cable is not None and cable.current_ma is not None and cable.most_w is not None:
        if most_mw >= cable.most_w * 1000:
            yield f"the cable's marker allows {limits_in_words(cable)}"
    elif known.cable_asked and known.cable is None and most_mw <= _UNMARKED_MW:
        yield "no cable answered: without a marker a source offers no more than 3 A (60 W)"
    if most_mw == _STANDARD_MW and not any(each.position > 7 for each in known.offered):
        yield "100 W is the most outside the extended range"
