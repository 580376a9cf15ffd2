"""A log of power messages, heard line by line: who offered, asked, granted and refused what, and what a cable is."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from itertools import chain, islice

from auditra.core.decode.bits import u32
from auditra.core.decode.identity import identity_in_words
from auditra.core.decode.power_delivery.conversation import Contract, Conversation, Heard, Turn
from auditra.core.decode.power_delivery.knowledge import Knowledge, not_more
from auditra.core.decode.power_delivery.log import Line, TornLine
from auditra.core.decode.power_delivery.messages import LIMITED_BY, Message, Start
from auditra.core.decode.power_delivery.objects import (
    PowerDataObject,
    Request,
    Supply,
    decode_objects,
    decode_request,
    wrong_with_offer,
    wrong_with_request,
)

MAX_TURNS = 10_000
_SEALED_FROM, _TO_ONE, _LOOKED_AT = 3, 4, 64
"""So many messages with a CRC, four to each without, among the first lines show that a log has them."""
_QUIET = ("GoodCRC", "Ping")


def hold_conversation(lines: Iterable[Line | TornLine], *, place: str = "line") -> Conversation:
    """What the messages of a log come to; `place` is what its numbers count. Never raises."""
    all_lines = iter(lines)
    first = list(islice(all_lines, _LOOKED_AT))
    known = Knowledge(sealed=_has_crcs(first), place=place)
    for line in chain(first, all_lines):
        if isinstance(line, TornLine):
            known.fault(f"{known.place} {line.number}: {line.why}")
        else:
            _hear(line, known)
    return Conversation(
        tuple(known.turns), known.offered, known.wished, known.contract, known.refused, known.cable, known.partner,
        messages=known.messages, contracts=tuple(known.contracts), hard_resets=known.hard_resets,
        cable_resets=known.cable_resets, retries=known.retries, heard=tuple(known.heard),
        not_more=tuple(not_more(known)), faults=tuple(known.faults),
    )  # fmt: skip


def _hear(line: Line, known: Knowledge) -> None:
    message = line.message
    known.messages += 1
    known.first_s = line.time_s if known.first_s is None else known.first_s
    for problem in message.problems:
        known.fault(f"{known.place} {line.number}, byte {problem.offset}: {problem.words}")
    lost_its_crc = known.sealed and not message.has_crc and not message.start.is_reset
    damaged = message.is_damaged or lost_its_crc
    if damaged and not message.is_damaged:
        known.fault(f"{known.place} {line.number}: no valid CRC, although the other messages have one")
    from_start_s = round(line.time_s - known.first_s, 9)
    is_retry = not damaged and message.name not in _QUIET and message == known.last.get(message.start)
    known.retries += is_retry
    if len(known.heard) < MAX_TURNS:
        known.heard.append(_heard(line, from_start_s, damaged, is_retry))
    if message.name in _QUIET:
        return
    words = _heeded(message, known, line.number, from_start_s, damaged, is_retry)
    if words and len(known.turns) < MAX_TURNS:
        is_plain = message.start is Start.PORT or message.start.is_reset
        sender = message.sender if is_plain else f"{message.sender} ({message.start})"
        known.turns.append(Turn(line.number, from_start_s, sender, words))


def _heard(line: Line, from_start_s: float, damaged: bool, is_retry: bool) -> Heard:
    message = line.message
    return Heard(
        line.number, from_start_s, message.start, message.name, message.sender, message.data_role, message.identifier,
        message.revision, message.objects, message.payload.hex(), message.chunk, message.has_crc, damaged, is_retry,
    )  # fmt: skip


def _heeded(message: Message, known: Knowledge, line: int, from_start_s: float, damaged: bool, is_retry: bool) -> str:
    """In words, with what follows from it: nothing from what a receiver would discard."""
    if damaged:
        return "damaged, and not heeded"
    if message.start.is_debug:
        return f"{message.name}, to a debug accessory: not heeded"
    if message.start.is_reset:
        return _reset(message.start, known)
    if is_retry:
        return f"{message.name} once more"
    known.last[message.start] = message
    return _said(message, known, line, from_start_s)


def _reset(start: Start, known: Knowledge) -> str:
    """A hard reset ends the contract and leaves the extended range: the source goes back to 5 V. A cable reset is for
    the plugs alone. Source: USB PD R3.1, 6.8.3 and 6.8.4."""
    if start is Start.CABLE_RESET:
        known.cable_resets += 1
        known.last.pop(Start.NEAR_PLUG, None)
        known.last.pop(Start.FAR_PLUG, None)
        return "cable reset"
    known.hard_resets += 1
    known.asked = known.granted = known.contract = None
    known.extended, known.limited = "", ()
    known.chunks.clear()
    known.last.clear()
    return "hard reset"


def _has_crcs(lines: Iterable[Line | TornLine]) -> bool:
    """A log has CRCs or not: in one that has, a message without is cut, or its header was changed."""
    messages = [line.message for line in lines if isinstance(line, Line) and not line.message.start.is_reset]
    closed = sum(each.has_crc for each in messages)
    bare = sum(not each.has_crc and not each.is_damaged for each in messages)
    return closed >= _SEALED_FROM and closed >= _TO_ONE * bare


def _said(message: Message, known: Knowledge, line: int, from_start_s: float) -> str:
    """In words, with what follows from it."""
    match message.name:
        case "Source_Capabilities" if message.sender == "source":
            return _offers(decode_objects(message.objects), known, line)
        case "Sink_Capabilities":
            known.wished = decode_objects(message.objects, of_source=False)
            return f"wishes {_list(known.wished)}"
        case "EPR_Source_Capabilities" | "EPR_Sink_Capabilities":
            return _in_chunks(message, known, line)
        case "Request" | "EPR_Request" if message.objects:
            return _asks(message, known, line)
        case "Accept" | "Reject" | "Wait" | "PS_RDY":
            return _answers(message, known, line, from_start_s)
        case "Vendor_Defined":
            return _vendor(message, known, line)
        case "Soft_Reset" | "Data_Reset":
            known.asked = known.granted = None
            return message.name
        case _:
            if message.name == "EPR_Mode" and message.details:
                known.extended = message.details[0]
            if message.name == "Status" and message.sender == "source":
                known.limited = tuple(each for each in message.details if each.startswith(LIMITED_BY))
            return ": ".join(filter(None, (message.name, "; ".join(message.details))))


def _offers(objects: tuple[PowerDataObject, ...], known: Knowledge, line: int) -> str:
    known.offered = objects
    for words in wrong_with_offer(objects):
        known.fault(f"{known.place} {line}: {words}")
    return f"offers {_list(objects)}"


def _list(objects: tuple[PowerDataObject, ...]) -> str:
    return "; ".join(f"{object.position}: {object.words}" for object in objects) or "nothing"


def _in_chunks(message: Message, known: Knowledge, line: int) -> str:
    """The extended range's objects come in chunks of 26 bytes. Source: USB PD R3.1, 6.12.2."""
    if message.asks_for_chunk:
        return f"asks for chunk {message.chunk}"
    key = (message.start, message.sender, message.name)
    so_far = known.chunks.pop(key, b"") if message.chunk else b""
    whole = so_far + message.payload
    if len(whole) < message.data_size and message.chunk is not None:
        known.chunks[key] = whole
        return f"{message.name}, chunk {message.chunk}"
    words = [u32(whole, at) for at in range(0, len(whole) // 4 * 4, 4)]
    if message.name == "EPR_Sink_Capabilities":
        known.wished = decode_objects(words, of_source=False)
        return f"wishes {_list(known.wished)}"
    return _offers(decode_objects(words), known, line)


def _asks(message: Message, known: Knowledge, line: int) -> str:
    request = decode_request(message.objects[0], known.offered)
    known.asked = request
    for words in wrong_with_request(request, known.offered):
        known.fault(f"{known.place} {line}: {words}")
    asked = next((each for each in known.offered if each.position == request.position), None)
    volts = request.voltage_mv or (asked.voltage_mv if asked is not None else None)
    told = f"{volts / 1000:g} V " if volts else ""
    amperes = f"{request.current_ma / 1000:g} A" if request.current_ma is not None else ""
    watts = f"{request.power_mw / 1000:g} W" if request.power_mw is not None else ""
    more = ", and would rather have more" if request.mismatch else ""
    return f"asks for object {request.position}: {told}{amperes}{watts}{more}"


def _answers(message: Message, known: Knowledge, line: int, from_start_s: float) -> str:
    if message.name == "Accept" and message.sender == "source" and known.asked is not None:
        known.granted, known.asked = known.asked, None
        return "grants it"
    if message.name in ("Reject", "Wait") and message.sender == "source" and known.asked is not None:
        known.asked = None
        known.refused += 1
        return "refuses it" if message.name == "Reject" else "says to wait"
    if message.name == "PS_RDY" and message.sender == "source" and known.granted is not None:
        contract = _contract(known.granted, known.offered)
        known.contract, known.granted = replace(contract, line=line, from_start_s=from_start_s), None
        if len(known.contracts) < MAX_TURNS:
            known.contracts.append(known.contract)
        return f"is ready: {known.contract.words}"
    return message.name


def _contract(request: Request, offered: tuple[PowerDataObject, ...]) -> Contract:
    asked = next((each for each in offered if each.position == request.position), None)
    volts = request.voltage_mv or (asked.voltage_mv if asked is not None else None)
    power = request.power_mw
    if power is None and volts is not None and request.current_ma is not None:
        power = volts * request.current_ma // 1000
    kind = asked.kind if asked is not None else Supply.UNKNOWN
    return Contract(request.position, kind, volts, request.current_ma, power, request.mismatch)


def _vendor(message: Message, known: Knowledge, line: int) -> str:
    vendor = message.vendor
    if vendor is None:
        return "Vendor_Defined, empty"
    if not vendor.structured:
        return f"unstructured message of vendor {vendor.svid:04x}"
    of_cable = message.start in (Start.NEAR_PLUG, Start.FAR_PLUG)
    known.cable_asked = known.cable_asked or (of_cable and message.sender == "port")
    if vendor.identity is not None:
        for words in vendor.identity.reserved:
            known.fault(f"{known.place} {line}: {words} is kept for later")
        if of_cable:
            known.cable = vendor.identity
        else:
            known.partner = vendor.identity
    told = [*vendor.details, *(f"{svid:04x}" for svid in vendor.svids)]
    if vendor.identity is not None:
        told.append(identity_in_words(vendor.identity))
    return f"{vendor.command} {vendor.answer}{': ' if told else ''}{'; '.join(told)}"
