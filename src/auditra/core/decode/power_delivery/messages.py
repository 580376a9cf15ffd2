"""Messages of USB Power Delivery, from the header on.

Source: USB PD R3.1 V1.8, 6.2.1 (header), 6.3 (control), 6.4 (data), 6.5 (extended), 5.6.2 (CRC).
"""

from __future__ import annotations

import zlib
from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import StrEnum

from auditra.core.decode.bits import bit, bits, u16, u32
from auditra.core.decode.power_delivery.vendor import VendorMessage, decode_vendor
from auditra.core.decode.problem import DAMAGE, Code, Problem, Problems

CONTROL = (
    "", "GoodCRC", "GotoMin", "Accept", "Reject", "Ping", "PS_RDY", "Get_Source_Cap", "Get_Sink_Cap", "DR_Swap",
    "PR_Swap", "VCONN_Swap", "Wait", "Soft_Reset", "Data_Reset", "Data_Reset_Complete", "Not_Supported",
    "Get_Source_Cap_Extended", "Get_Status", "FR_Swap", "Get_PPS_Status", "Get_Country_Codes",
    "Get_Sink_Cap_Extended", "Get_Source_Info", "Get_Revision",
)  # fmt: skip
DATA = {
    1: "Source_Capabilities", 2: "Request", 3: "BIST", 4: "Sink_Capabilities", 5: "Battery_Status", 6: "Alert",
    7: "Get_Country_Info", 8: "Enter_USB", 9: "EPR_Request", 10: "EPR_Mode", 11: "Source_Info", 12: "Revision",
    15: "Vendor_Defined",
}  # fmt: skip
EXTENDED = {
    1: "Source_Capabilities_Extended", 2: "Status", 3: "Get_Battery_Cap", 4: "Get_Battery_Status",
    5: "Battery_Capabilities", 6: "Get_Manufacturer_Info", 7: "Manufacturer_Info", 8: "Security_Request",
    9: "Security_Response", 10: "Firmware_Update_Request", 11: "Firmware_Update_Response", 12: "PPS_Status",
    13: "Country_Info", 14: "Country_Codes", 15: "Sink_Capabilities_Extended", 16: "Extended_Control",
    17: "EPR_Source_Capabilities", 18: "EPR_Sink_Capabilities", 30: "Vendor_Defined_Extended",
}  # fmt: skip
_REVISIONS = ("1.0", "2.0", "3.x", "reserved")
_CRC_BYTES = 4
MAX_MESSAGE_LENGTH = 2 + 2 + 260 + _CRC_BYTES
_EPR_ACTIONS = {1: "enter", 2: "enter acknowledged", 3: "enter succeeded", 4: "enter failed", 5: "exit"}
_EPR_FAILURES = {
    0: "for an unknown cause", 1: "the cable is not good for the extended range",
    2: "the source could not power the marker", 3: "the request did not say EPR capable",
    4: "the source cannot at this time", 5: "the offer did not say EPR capable",
}  # fmt: skip
"""Source: USB PD R3.1, table 6-48 and 6-50 (EPR_Mode)."""


class Start(StrEnum):
    """What a message begins with, which says who is spoken to. Source: USB PD R3.1, 5.6.1.2."""

    PORT = "SOP"
    NEAR_PLUG = "SOP'"
    FAR_PLUG = "SOP''"
    NEAR_DEBUG = "SOP'_Debug"
    FAR_DEBUG = "SOP''_Debug"
    HARD_RESET = "Hard_Reset"
    CABLE_RESET = "Cable_Reset"

    @property
    def is_reset(self) -> bool:
        """A signal by itself: nothing follows it. Source: USB PD R3.1, 5.6.4 and 5.6.5."""
        return self in (Start.HARD_RESET, Start.CABLE_RESET)

    @property
    def is_debug(self) -> bool:
        """Spoken to a debug accessory, and to no port or plug. Source: USB PD R3.1, 5.6.1.2.4."""
        return self in (Start.NEAR_DEBUG, Start.FAR_DEBUG)


@dataclass(frozen=True)
class Message:
    """One message. `sender` is source, sink, port (to a plug, or of a reset) or cable; unknown for a debug message.

    `objects` are the data objects as words; an extended message has its bytes in `payload`, in chunks where it says so.
    """

    start: Start
    name: str
    sender: str
    identifier: int
    revision: str
    objects: tuple[int, ...] = ()
    payload: bytes = b""
    chunk: int | None = None
    data_size: int = 0
    asks_for_chunk: bool = False
    vendor: VendorMessage | None = None
    details: tuple[str, ...] = ()
    problems: tuple[Problem, ...] = ()
    has_crc: bool = False
    """A CRC stands behind it, and fits."""
    data_role: str | None = None
    """DFP or UFP, of a message between ports. Source: USB PD R3.1, 6.2.1.1.6."""

    @property
    def is_damaged(self) -> bool:
        """It was cut or changed on its way, or is longer than a message can be: a receiver discards it, and sends no
        GoodCRC. Source: USB PD R3.1, 6.7.1 (CRCReceiveTimer) and 5.6.2."""
        return any(each.code in DAMAGE or each.code is Code.LONG for each in self.problems)


def decode_message(data: bytes, start: Start = Start.PORT) -> Message:
    """A message from its header on, with its CRC behind it or without; a reset has no bytes. Never raises."""
    if start.is_reset:
        return Message(start, str(start), "port", 0, "")
    made = _decode(data, start)
    if start is not Start.PORT or len(data) < 2:
        return made
    return replace(made, data_role="DFP" if bit(u16(data, 0), 5) else "UFP")


def _decode(data: bytes, start: Start) -> Message:
    problems = Problems()
    if len(data) < 2:
        problems.add(len(data), Code.SHORT, f"{len(data)} bytes where a header of 2 belongs")
        return Message(start, "unreadable", "", 0, "", problems=tuple(problems))
    if len(data) > MAX_MESSAGE_LENGTH:
        problems.add(MAX_MESSAGE_LENGTH, Code.LONG, f"{len(data)} bytes; {MAX_MESSAGE_LENGTH} are the most")
        data = data[:MAX_MESSAGE_LENGTH]
    header = u16(data, 0)
    count, body = bits(header, 14, 12), data[2:]
    body, has_crc = _without_crc(data, body, count, problems)
    sender = _sender(header, start)
    identifier, revision = bits(header, 11, 9), _REVISIONS[bits(header, 7, 6)]
    if revision == _REVISIONS[-1]:
        problems.add(0, Code.RESERVED, "revision 11 is kept for later")
    if bit(header, 15):
        made = _extended(start, header, body, sender, identifier, revision, problems)
        return replace(made, has_crc=has_crc)
    kind = bits(header, 4, 0)
    if count == 0:
        name = CONTROL[kind] if kind < len(CONTROL) else ""
        if not name:
            problems.add(0, Code.RESERVED, f"control message {kind} is kept for later")
        return Message(
            start, name or f"control {kind}", sender, identifier, revision, problems=tuple(problems), has_crc=has_crc
        )
    words = tuple(u32(body, at) for at in range(0, min(len(body) // 4, count) * 4, 4))
    if len(words) < count:
        problems.add(2 + len(body), Code.SHORT, f"{count} data objects are declared, {len(words)} are there")
    named = DATA.get(kind, "")
    if not named:
        problems.add(0, Code.RESERVED, f"data message {kind} is kept for later")
    vendor = decode_vendor(words, of_cable=start is not Start.PORT) if named == "Vendor_Defined" else None
    if words:
        _flag_reserved(named, words[0], problems)
    reader = _DETAILS.get(named)
    details = reader(words) if reader is not None and words else ()
    return Message(
        start, named or f"data {kind}", sender, identifier, revision, words, vendor=vendor, details=details,
        problems=tuple(problems), has_crc=has_crc,
    )  # fmt: skip


_FIRST_OWN_COMMAND = 16
"""From here on a command belongs to the vendor. Source: USB PD R3.1, table 6-29."""
_LAST_STANDARD_COMMAND = 6


def _flag_reserved(name: str, word: int, problems: Problems) -> None:
    """Commands and actions that the standard keeps for later. Source: USB PD R3.1, tables 6-29 and 6-48."""
    command = bits(word, 4, 0)
    is_standard = 0 < command <= _LAST_STANDARD_COMMAND
    if name == "Vendor_Defined" and bit(word, 15) and not is_standard and command < _FIRST_OWN_COMMAND:
        problems.add(2, Code.RESERVED, f"vendor command {command} is kept for later")
    if name == "EPR_Mode" and bits(word, 31, 24) not in _EPR_ACTIONS:
        problems.add(2, Code.RESERVED, f"EPR_Mode action {bits(word, 31, 24)} is kept for later")


def _without_crc(data: bytes, body: bytes, count: int, problems: Problems) -> tuple[bytes, bool]:
    """What stands before the CRC, and whether there is one that fits. Four bytes more than the objects take are one."""
    if bit(u16(data, 0), 15):
        size = bits(u16(body, 0), 8, 0)
        expected = 2 + min(size, 26) if bit(u16(body, 0), 15) else 2 + size
        expected += -expected % 4 if len(body) - expected not in (0, _CRC_BYTES) else 0
    else:
        expected = count * 4
    if len(body) == expected + _CRC_BYTES:
        found, wanted = u32(body, expected), zlib.crc32(data[: 2 + expected])
        if found != wanted:
            problems.add(2 + expected, Code.CHECKSUM, f"the CRC is {found:08x}, and {wanted:08x} belongs there")
        return body[:expected], found == wanted
    if len(body) > expected:
        problems.add(2 + expected, Code.LENGTH, f"{len(body) - expected} bytes too many")
    elif len(body) >= _CRC_BYTES and u32(body, len(body) - _CRC_BYTES) == zlib.crc32(data[:-_CRC_BYTES]):
        return body[:-_CRC_BYTES], True  # it promises more than is there: the last four bytes are the CRC all the same
    return body[:expected], False


def _sender(header: int, start: Start) -> str:
    if start is Start.PORT:
        return "source" if bit(header, 8) else "sink"
    if start.is_debug:
        return "unknown"
    return "cable" if bit(header, 8) else "port"


def _extended(
    start: Start, header: int, body: bytes, sender: str, identifier: int, revision: str, problems: Problems
) -> Message:
    """Source: USB PD R3.1, 6.2.1.2 "Extended Message Header"."""
    kind, told = bits(header, 4, 0), u16(body, 0)
    if len(body) < 2:
        problems.add(2, Code.SHORT, "the extended header is not there")
    chunked, size = bit(told, 15), bits(told, 8, 0)
    payload = body[2:]
    here = size if not chunked else min(26, max(0, size - 26 * bits(told, 14, 11)))
    if not bit(told, 10) and len(payload) < here:
        problems.add(4, Code.SHORT, f"{here} bytes are declared, {len(payload)} are there")
    name = EXTENDED.get(kind, "")
    if not name:
        problems.add(0, Code.RESERVED, f"extended message {kind} is kept for later")
    details = _status(payload[:here]) if name == "Status" and here >= _STATUS_BYTES <= len(payload) else ()
    return Message(
        start, name or f"extended {kind}", sender, identifier, revision, payload=bytes(payload[:here]),
        chunk=bits(told, 14, 11) if chunked else None, data_size=size, asks_for_chunk=chunked and bit(told, 10),
        details=details, problems=tuple(problems),
    )  # fmt: skip


_STATUS_BYTES = 6
_EVENTS = ((1, "over-current"), (2, "over-temperature"), (3, "over-voltage"), (4, "current is limited"))
_LIMITED_BY = (
    (1, "the cable"), (2, "power that other ports take"), (3, "too little power from outside"), (4, "an event"),
    (5, "temperature"),
)  # fmt: skip


def _status(payload: bytes) -> tuple[str, ...]:
    """Source: USB PD R3.1, 6.5.2 "Status", table 6-54."""
    told = [f"inside {payload[0]} C"] if payload[0] > 1 else []
    told += [name for place, name in _EVENTS if bit(payload[3], place)]
    told += [f"{LIMITED_BY} {name}" for place, name in _LIMITED_BY if bit(payload[5], place)]
    return tuple(told)


LIMITED_BY = "the source is limited by"
"""How a cause begins that a source itself reports."""


def _epr_mode(words: tuple[int, ...]) -> tuple[str, ...]:
    action, told = bits(words[0], 31, 24), bits(words[0], 23, 16)
    name = _EPR_ACTIONS.get(action, f"action {action}")
    if action == 1:
        return (f"{name}, the sink works with {told} W",)
    return (f"{name}: {_EPR_FAILURES.get(told, f'cause {told}')}",) if action == 4 else (name,)


def _source_info(words: tuple[int, ...]) -> tuple[str, ...]:
    """Source: USB PD R3.1, 6.4.11."""
    kind = "guaranteed" if bit(words[0], 31) else "managed"
    most, now, reported = bits(words[0], 23, 16), bits(words[0], 15, 8), bits(words[0], 7, 0)
    return (f"{kind} port: {most} W at most, {now} W now, {reported} W reported",)


def _revision(words: tuple[int, ...]) -> tuple[str, ...]:
    """Source: USB PD R3.1, 6.4.12."""
    word = words[0]
    return (f"revision {bits(word, 31, 28)}.{bits(word, 27, 24)}, version {bits(word, 23, 20)}.{bits(word, 19, 16)}",)


_DETAILS: dict[str, Callable[[tuple[int, ...]], tuple[str, ...]]] = {
    "EPR_Mode": _epr_mode, "Source_Info": _source_info, "Revision": _revision,
}  # fmt: skip
