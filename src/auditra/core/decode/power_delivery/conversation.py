"""The power conversation: who offered, asked, granted and refused what, what the cable said, and why not more."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field, replace

from auditra.core.decode.bits import u32
from auditra.core.decode.identity import CableIdentity, Identity, Sort, limits_in_words
from auditra.core.decode.power_delivery.log import Line, TornLine
from auditra.core.decode.power_delivery.messages import LIMITED_BY, Message, Start
from auditra.core.decode.power_delivery.objects import (
    PowerDataObject,
    Request,
    Supply,
    decode_objects,
    decode_request,
    most_offered_mw,
    wrong_with_offer,
    wrong_with_request,
)

MAX_TURNS = 10_000
MAX_FAULTS = 200
_UNMARKED_MW, _STANDARD_MW = 60_000, 100_000
_SEALED_FROM = 3
"""So many messages with a CRC, and none without, show that a log has them."""
_QUIET = ("GoodCRC", "Ping")


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


@dataclass
class _State:
    """What is known at a point of the log."""

    first_s: float | None = None
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
    sealed: int = 0
    """Messages so far that had a CRC."""
    has_unsealed: bool = False
    extended: str = ""
    limited: tuple[str, ...] = ()
    turns: list[Turn] = field(default_factory=list)
    faults: list[str] = field(default_factory=list)
    chunks: dict[tuple[Start, str, str], bytes] = field(default_factory=dict)

    def fault(self, words: str) -> None:
        if len(self.faults) < MAX_FAULTS:
            self.faults.append(words)


def hold_conversation(lines: Iterable[Line | TornLine]) -> Conversation:
    """What the messages of a log come to. Never raises."""
    state = _State()
    for line in lines:
        if isinstance(line, TornLine):
            state.fault(f"line {line.number}: {line.why}")
        else:
            _hear(line, state)
    return Conversation(
        tuple(state.turns), state.offered, state.wished, state.contract, state.refused, state.cable, state.partner,
        messages=state.messages, contracts=tuple(state.contracts), hard_resets=state.hard_resets,
        cable_resets=state.cable_resets, retries=state.retries, heard=tuple(state.heard),
        not_more=tuple(_not_more(state)), faults=tuple(state.faults),
    )  # fmt: skip


def _hear(line: Line, state: _State) -> None:
    message = line.message
    state.messages += 1
    state.first_s = line.time_s if state.first_s is None else state.first_s
    for problem in message.problems:
        state.fault(f"line {line.number}, byte {problem.offset}: {problem.words}")
    damaged = message.is_damaged or _lost_its_crc(message, state)
    if damaged and not message.is_damaged:
        state.fault(f"line {line.number}: no CRC fits, and every message before has one")
    from_start_s = round(line.time_s - state.first_s, 9)
    is_retry = not damaged and message.name not in _QUIET and message == state.last.get(message.start)
    state.retries += is_retry
    if len(state.heard) < MAX_TURNS:
        state.heard.append(_heard(line, from_start_s, damaged, is_retry))
    if message.name in _QUIET:
        return
    words = _heeded(message, state, line.number, from_start_s, damaged, is_retry)
    if words and len(state.turns) < MAX_TURNS:
        is_plain = message.start is Start.PORT or message.start.is_reset
        sender = message.sender if is_plain else f"{message.sender} ({message.start})"
        state.turns.append(Turn(line.number, from_start_s, sender, words))


def _heard(line: Line, from_start_s: float, damaged: bool, is_retry: bool) -> Heard:
    message = line.message
    return Heard(
        line.number, from_start_s, message.start, message.name, message.sender, message.data_role, message.identifier,
        message.revision, message.objects, message.payload.hex(), message.chunk, message.has_crc, damaged, is_retry,
    )  # fmt: skip


def _heeded(message: Message, state: _State, line: int, from_start_s: float, damaged: bool, is_retry: bool) -> str:
    """In words, with what follows from it: nothing from what a receiver would discard."""
    if damaged:
        return "damaged, and not heeded"
    if message.start.is_debug:
        return f"{message.name}, to a debug accessory: not heeded"
    if message.start.is_reset:
        return _reset(message.start, state)
    if is_retry:
        return f"{message.name} once more"
    state.last[message.start] = message
    return _said(message, state, line, from_start_s)


def _reset(start: Start, state: _State) -> str:
    """A hard reset ends the contract and leaves the extended range: the source goes back to 5 V. A cable reset is for
    the plugs alone. Source: USB PD R3.1, 6.8.3 and 6.8.4."""
    if start is Start.CABLE_RESET:
        state.cable_resets += 1
        state.last.pop(Start.NEAR_PLUG, None)
        state.last.pop(Start.FAR_PLUG, None)
        return "cable reset"
    state.hard_resets += 1
    state.asked = state.granted = state.contract = None
    state.extended, state.limited = "", ()
    state.chunks.clear()
    state.last.clear()
    return "hard reset"


def _lost_its_crc(message: Message, state: _State) -> bool:
    """A log has CRCs or not: in one that has, a message without is cut, or its header was changed."""
    if message.start.is_reset:
        return False
    if message.has_crc:
        state.sealed += 1
        return False
    if state.sealed >= _SEALED_FROM and not state.has_unsealed:
        return True
    state.has_unsealed = True
    return False


def _said(message: Message, state: _State, line: int, from_start_s: float) -> str:
    """In words, with what follows from it."""
    match message.name:
        case "Source_Capabilities" if message.sender == "source":
            return _offers(decode_objects(message.objects), state, line)
        case "Sink_Capabilities":
            state.wished = decode_objects(message.objects, of_source=False)
            return f"wishes {_list(state.wished)}"
        case "EPR_Source_Capabilities" | "EPR_Sink_Capabilities":
            return _in_chunks(message, state, line)
        case "Request" | "EPR_Request" if message.objects:
            return _asks(message, state, line)
        case "Accept" | "Reject" | "Wait" | "PS_RDY":
            return _answers(message, state, line, from_start_s)
        case "Vendor_Defined":
            return _vendor(message, state, line)
        case "Soft_Reset" | "Data_Reset":
            state.asked = state.granted = None
            return message.name
        case _:
            if message.name == "EPR_Mode" and message.details:
                state.extended = message.details[0]
            if message.name == "Status" and message.sender == "source":
                state.limited = tuple(each for each in message.details if each.startswith(LIMITED_BY))
            return ": ".join(filter(None, (message.name, "; ".join(message.details))))


def _offers(objects: tuple[PowerDataObject, ...], state: _State, line: int) -> str:
    state.offered = objects
    for words in wrong_with_offer(objects):
        state.fault(f"line {line}: {words}")
    return f"offers {_list(objects)}"


def _list(objects: tuple[PowerDataObject, ...]) -> str:
    return "; ".join(f"{object.position}: {object.words}" for object in objects) or "nothing"


def _in_chunks(message: Message, state: _State, line: int) -> str:
    """The extended range's objects come in chunks of 26 bytes. Source: USB PD R3.1, 6.12.2."""
    if message.asks_for_chunk:
        return f"asks for chunk {message.chunk}"
    key = (message.start, message.sender, message.name)
    so_far = state.chunks.pop(key, b"") if message.chunk else b""
    whole = so_far + message.payload
    if len(whole) < message.data_size and message.chunk is not None:
        state.chunks[key] = whole
        return f"{message.name}, chunk {message.chunk}"
    words = [u32(whole, at) for at in range(0, len(whole) // 4 * 4, 4)]
    if message.name == "EPR_Sink_Capabilities":
        state.wished = decode_objects(words, of_source=False)
        return f"wishes {_list(state.wished)}"
    return _offers(decode_objects(words), state, line)


def _asks(message: Message, state: _State, line: int) -> str:
    request = decode_request(message.objects[0], state.offered)
    state.asked = request
    for words in wrong_with_request(request, state.offered):
        state.fault(f"line {line}: {words}")
    asked = next((each for each in state.offered if each.position == request.position), None)
    volts = request.voltage_mv or (asked.voltage_mv if asked is not None else None)
    told = f"{volts / 1000:g} V " if volts else ""
    amperes = f"{request.current_ma / 1000:g} A" if request.current_ma is not None else ""
    watts = f"{request.power_mw / 1000:g} W" if request.power_mw is not None else ""
    more = ", and would rather have more" if request.mismatch else ""
    return f"asks for object {request.position}: {told}{amperes}{watts}{more}"


def _answers(message: Message, state: _State, line: int, from_start_s: float) -> str:
    if message.name == "Accept" and message.sender == "source" and state.asked is not None:
        state.granted, state.asked = state.asked, None
        return "grants it"
    if message.name in ("Reject", "Wait") and message.sender == "source" and state.asked is not None:
        state.asked = None
        state.refused += 1
        return "refuses it" if message.name == "Reject" else "says to wait"
    if message.name == "PS_RDY" and message.sender == "source" and state.granted is not None:
        contract = _contract(state.granted, state.offered)
        state.contract, state.granted = replace(contract, line=line, from_start_s=from_start_s), None
        if len(state.contracts) < MAX_TURNS:
            state.contracts.append(state.contract)
        return f"is ready: {state.contract.words}"
    return message.name


def _contract(request: Request, offered: tuple[PowerDataObject, ...]) -> Contract:
    asked = next((each for each in offered if each.position == request.position), None)
    volts = request.voltage_mv or (asked.voltage_mv if asked is not None else None)
    power = request.power_mw
    if power is None and volts is not None and request.current_ma is not None:
        power = volts * request.current_ma // 1000
    kind = asked.kind if asked is not None else Supply.UNKNOWN
    return Contract(request.position, kind, volts, request.current_ma, power, request.mismatch)


def _vendor(message: Message, state: _State, line: int) -> str:
    vendor = message.vendor
    if vendor is None:
        return "Vendor_Defined, empty"
    if not vendor.structured:
        return f"unstructured message of vendor {vendor.svid:04x}"
    of_cable = message.start in (Start.NEAR_PLUG, Start.FAR_PLUG)
    state.cable_asked = state.cable_asked or (of_cable and message.sender == "port")
    if vendor.identity is not None:
        for words in vendor.identity.reserved:
            state.fault(f"line {line}: {words} is kept for later")
        if of_cable:
            state.cable = vendor.identity
        else:
            state.partner = vendor.identity
    told = [*vendor.details, *(f"{svid:04x}" for svid in vendor.svids)]
    if vendor.identity is not None:
        told.append(identity_in_words(vendor.identity))
    return f"{vendor.command} {vendor.answer}{': ' if told else ''}{'; '.join(told)}"


def identity_in_words(identity: Identity) -> str:
    """``passive cable of 1f6e: 5 A at up to 50 V (240 W), USB4 Gen 3``."""
    what = str(identity.sort) if identity.sort is not Sort.PARTNER else identity.header.partner_type or "partner"
    limits = f": {limits_in_words(identity.cable)}" if identity.cable is not None else ""
    return f"{what} of {identity.header.vid:04x}{limits}"


def _not_more(state: _State) -> Iterator[str]:
    """What is known to have set the limit: the request, the offer, the cable, the extended range."""
    most = most_offered_mw(state.offered) or 0
    if not state.offered:
        yield "no offer was heard"
        return
    if state.contract is None:
        yield (
            "a hard reset ended the last contract" if state.contracts
            else f"no contract was made: {state.refused} requests were refused" if state.refused
            else "no contract was made"
        )  # fmt: skip
    else:
        yield from _by_the_contract(state.contract, most)
    if state.extended.startswith("enter failed"):
        yield f"the extended range was not entered: {state.extended.partition(': ')[2]}"
    yield from _by_the_cable(state, most)
    yield from state.limited


def _by_the_contract(contract: Contract, most_mw: int) -> Iterator[str]:
    if contract.power_mw is not None and contract.power_mw < most_mw:
        yield f"the sink asked for {contract.power_mw / 1000:g} W of {most_mw / 1000:g} W that are offered"
    if contract.mismatch:
        yield f"the sink would rather have more than is offered: {most_mw / 1000:g} W at most"


def _by_the_cable(state: _State, most_mw: int) -> Iterator[str]:
    """A cable is to blame only where the offer goes as far as its marker allows: a source that offers less is limited
    by itself. Source: USB PD R3.1, 6.4.1.2.2 (a source offers no more current than the cable carries)."""
    cable: CableIdentity | None = state.cable.cable if state.cable is not None else None
    if cable is not None and cable.current_ma is not None and cable.most_w is not None:
        if most_mw >= cable.most_w * 1000:
            yield f"the cable's marker allows {limits_in_words(cable)}"
    elif state.cable_asked and state.cable is None and most_mw <= _UNMARKED_MW:
        yield "no cable answered: without a marker a source offers no more than 3 A (60 W)"
    if most_mw == _STANDARD_MW and not any(each.position > 7 for each in state.offered):
        yield "100 W is the most outside the extended range"
