"""Every decoder on damaged valid input, 200,000 times: nothing but the package's own errors, no run over 50 ms.

Before that each byte is changed by itself, to ten other values, and each cut is tried: where the input proves itself
by a checksum or a CRC, no such damage may yield more than the sound input does.

`make fuzz` runs it. A run that is too slow is repeated, so that a busy machine accuses nobody.
"""

from __future__ import annotations

import argparse
import json
import random
import re
import sys
import time
import zlib
from collections.abc import Callable, Iterator
from contextlib import suppress

from auditra.bench.network.handshake import CONTROL, NONCE_BYTES, Sealed, heard_hello, heard_welcome, hello, key_of
from auditra.core.decode.cc_line.capture import Captured, read_capture
from auditra.core.decode.display.comparison import compare_displays
from auditra.core.decode.display.edid import decode_edid
from auditra.core.decode.identity import decode_identity
from auditra.core.decode.network.stamp import decode_reflected, encode_reflected, encode_sent
from auditra.core.decode.network.tcp_info import decode_tcp_info
from auditra.core.decode.power_delivery.conversation import Conversation
from auditra.core.decode.power_delivery.hearing import hold_conversation
from auditra.core.decode.power_delivery.log import read_log
from auditra.core.decode.power_delivery.messages import Start, decode_message
from auditra.core.decode.usb_capabilities import decode_capabilities
from auditra.core.decode.usb_descriptors import decode_descriptors
from auditra.core.errors import AuditraError, QuantityError
from auditra.core.host.other_systems.mac import snapshot_of_mac
from auditra.core.host.other_systems.windows import snapshot_of_windows
from auditra.core.host.report import report_lines
from auditra.core.instruments.answer import has_no_error, read_answer
from auditra.core.instruments.description import COMMON_INSTRUMENT, Measurand, Query
from auditra.core.simulate import cc_line, descriptors
from auditra.core.simulate import display_description as display
from auditra.core.tables.layout import detect_layout
from auditra.core.tables.reader import read_table
from auditra.documents.instrument_file import read_instrument, write_instrument

INPUTS, MAX_RUN_S, REPEATS = 200_000, 0.050, 5
Decode = Callable[[bytes], object]
_CAPABILITIES = descriptors.capabilities(
    descriptors.usb2_extension(), descriptors.superspeed(), descriptors.superspeed_plus(),
    descriptors.container("6f1e0601-0000-4000-8000-00000000b0a7"), descriptors.billboard((0xFF01, 1), (0x8087, 1)),
)  # fmt: skip


def identity(data: bytes) -> object:
    words = [int.from_bytes(data[at : at + 4], "little") for at in range(0, 24, 4)]
    return decode_identity(words[0], words[1], words[2], tuple(words[3:]), of_cable=bool(data[:1] > b"\x7f"))


def everything_of_a_display(data: bytes) -> object:
    edid = decode_edid(data)
    return edid.modes, edid.native, edid.adaptive, compare_displays(edid, decode_edid(_DISPLAY))


def conversation(data: bytes) -> object:
    return hold_conversation(read_log(data.decode("utf-8", "replace").splitlines()))


_DISPLAY = (
    display.base(
        display.detailed(3840, 2160, 594_000, 560, 90), display.text(0xFC, "projector"),
        display.ranges(24, 75, 15, 160, 600), extensions=2, established=b"\x21\x08\x00",
    )
    + display.cta(
        display.video(97, 96, 16, 4), display.hdmi(codes=(1, 3)), display.hdmi_forum(fixed=6, vrr=(48, 120)),
        display.hdr(), display.extended(15, b"\x03"),
    )
    + display.displayid(display.displayid_block(0x22, display.type_7(2560, 1440, 586_590, 160, 87)))
)  # fmt: skip
_LOG = b"""# a made-up conversation
0.000 SOP' 8f 10 01 a0 00 ff
0.001 SOP  61 41 2c 91 01 00 2c d1 02 00 2c c1 03 00 f4 41 06 00
0.002 SOP  82 10 c2 09 27 40
0.003 SOP  a3 03
0.004 SOP  a6 05
"""
_CAPTURE = "".join(
    cc_line.as_vcd({"CC1": cc_line.edges_of([cc_line.Sent(0.0001, Start.PORT, b"\x41\x00")])}, tick_ns=100)
).encode()
_TABLE = b"time (s);bus (V);load (A)\n" + b"".join(b"%d,5;5,0%d;0,4%d\n" % (n, n % 10, n % 7) for n in range(60))


def capture(data: bytes) -> Captured:
    return read_capture([data[:100], data[100:]])


def network(data: bytes) -> object:
    """Every reader of what a network brings, from whoever it is."""
    key, cut_at = key_of("fuzz"), len(data) // 2
    read = Sealed(key, b"to peer").unpack(data[:cut_at], data[cut_at:])
    heard = heard_hello(data, key, None), heard_welcome(data, key, b"n" * NONCE_BYTES)
    return heard, read, decode_reflected(data), encode_reflected(data, 0, 0.0, 0.0), decode_tcp_info(data)


def table(data: bytes) -> object:
    layout = detect_layout(data)
    return read_table([data], layout, range(len(layout.columns)))


def answer(data: bytes) -> object:
    """As each thing that an instrument may be asked for; an answer that is none is refused."""
    text, read = data.decode("latin-1"), []
    for measures in Measurand:
        with suppress(QuantityError):
            read.append(read_answer(text, Query(measures, "?", -1000.0, 1000.0, cell=1 + len(data) % 3)))
    return read, has_no_error(text)


def description(data: bytes) -> object:
    return read_instrument(data.decode("latin-1"), "fuzz.toml")


def other_systems(data: bytes) -> object:
    """What a Mac and a Windows computer printed; text that is no JSON is the business of whoever ran the command."""
    try:
        told = json.loads(data)
    except (ValueError, RecursionError):
        told = {}
    told = told if isinstance(told, dict) else {}
    found = snapshot_of_mac(told, data.decode("latin-1")), snapshot_of_windows(told)
    return [list(report_lines(snapshot)) for snapshot in found]


_OTHER_SYSTEMS = json.dumps(
    {
        "SPUSBDataType": [
            {"_name": "Bus", "_items": [{"_name": "Hub", "device_speed": "super_speed", "vendor_id": "0x1f6e"}]}
        ],
        "SPDisplaysDataType": [
            {"spdisplays_ndrvs": [{"_name": "K", "_spdisplays_resolution": "1920 x 1080 @ 60.00Hz"}]}
        ],
        "usb": [{"PNPDeviceID": "USB\\VID_1F6E&PID_0601\\1", "Name": "Hub", "Parent": "USB\\ROOT_HUB30\\1"}],
        "network": [{"Name": "Ethernet", "Status": "Up", "ReceiveLinkSpeed": 2500000000, "FullDuplex": True}],
        "monitors": [{"Active": True, "VideoOutputTechnology": 10, "EDID": "00ff"}],
    }
).encode()
DECODERS: dict[str, tuple[Decode, bytes]] = {
    "usb descriptors": (decode_descriptors, descriptors.disk() + _CAPABILITIES),
    "usb capabilities": (decode_capabilities, _CAPABILITIES),
    "displays": (everything_of_a_display, _DISPLAY),
    "power messages": (decode_message, bytes.fromhex("6141 2c910100 2cd10200 2cc10300 f4410600".replace(" ", ""))),
    "power logs": (conversation, _LOG),
    "captures of a CC line": (capture, _CAPTURE),
    "logged tables": (table, _TABLE),
    "network": (network, hello(key_of("fuzz"), CONTROL, b"n" * NONCE_BYTES) + encode_sent(7, 1.0)),
    "instrument answers": (answer, b"VOLT +5.010000E+00 V,1.25E+00,26.5"),
    "instrument descriptions": (description, write_instrument(COMMON_INSTRUMENT).encode()),
    "other systems": (other_systems, _OTHER_SYSTEMS),
    "identities": (identity, bytes.fromhex("6e1f0018000000000001010543260a000000000000000000")),
}
"""Each with something valid to begin from."""


def modes_and_more(data: bytes) -> set[object]:
    """What a display's description gives that a claim could rest on."""
    edid = decode_edid(data)
    timings = {(each.width, each.height, each.interlaced, each.pixel_clock_khz) for each in edid.timings}
    return {*timings, *edid.depths_bits, *edid.colour_formats, *([edid.adaptive] if edid.adaptive else []),
            *(["hdr"] if edid.hdr else [])}  # fmt: skip


def offers_and_contracts(data: bytes) -> set[object]:
    """What a conversation gives: everything that was agreed on, and the most that was offered."""
    told = conversation(data)
    assert isinstance(told, Conversation)
    agreed = {(each.voltage_mv, each.current_ma) for each in told.contracts if each.voltage_mv is not None}
    return {*agreed, ("offered", told.most_offered_mw)}


def sound_packets(data: bytes) -> set[object]:
    """What a receiver would have taken from a capture."""
    return {(each.start, each.data) for each in capture(data).heard if each.is_sound and each.data}


def _with_crc(line: bytes) -> bytes:
    when, start, *octets = line.split()
    message = bytes.fromhex(b"".join(octets).decode())
    return b" ".join((when, start, (message + zlib.crc32(message).to_bytes(4, "little")).hex().encode()))


_PROVED_LOG = b"\n".join(_with_crc(line) for line in _LOG.splitlines()[1:]) + b"\n"
_LOG_HEX = re.compile(rb"[0-9a-f]{12,}")
PROVED: dict[str, tuple[Callable[[bytes], set[object]], bytes]] = {
    "displays": (modes_and_more, _DISPLAY),
    "power logs": (offers_and_contracts, _PROVED_LOG),
    "captures of a CC line": (sound_packets, _CAPTURE),
}
"""What proves itself, with what it gives."""
VALUES = (0x00, 0x01, 0x02, 0x04, 0x08, 0x10, 0x20, 0x40, 0x80, 0x7F, 0xFF)
"""Each bit by itself, turned over; and the ends."""


def each_field(name: str) -> list[str]:
    """What went wrong with one byte changed, or the rest cut off."""
    decode, whole = DECODERS[name]
    gives, whole = PROVED.get(name, (None, whole))
    sound = gives(whole) if gives is not None else set()
    wrong = []
    for data in _one_change_each(whole, text=name == "power logs"):
        _, error = _run(decode, data)
        if error:
            wrong.append(f"{name}: {error} from {data.hex()[:200]}")
        elif gives is not None and (more := gives(data) - sound - _NOTHING):
            wrong.append(f"{name}: damage gave {more} from {data.hex()[:200]}")
    return wrong


_NOTHING: set[object] = {("offered", None)}


def _one_change_each(whole: bytes, *, text: bool) -> Iterator[bytes]:
    """In text, one digit of a message for another."""
    places = [at for found in _LOG_HEX.finditer(whole) for at in range(*found.span())] if text else range(len(whole))
    for at in places:
        others = [digit for digit in b"0123456789abcdef" if digit != whole[at]] if text else [
            whole[at] ^ value for value in VALUES if value
        ]  # fmt: skip
        yield from (whole[:at] + bytes((other,)) + whole[at + 1 :] for other in others)
        yield whole[:at]


def damaged(whole: bytes, chance: random.Random) -> bytes:
    """Bytes changed, cut out, doubled or put in; now and then noise alone, or far too much of it."""
    if chance.random() < 0.02:
        return chance.randbytes(chance.choice((0, 1, 7, 300, 5000)))
    data = bytearray(whole)
    for _ in range(chance.randint(1, 6)):
        at = chance.randrange(len(data) + 1) if data else 0
        change = chance.randrange(4)
        if change == 0 and at < len(data):
            data[at] = chance.choice((0, 1, 2, 0x7F, 0x80, 0xFF, chance.randrange(256)))
        elif change == 1:
            del data[at : at + chance.randint(1, 20)]
        elif change == 2:
            data[at:at] = data[at : at + 30]
        else:
            data[at:at] = chance.randbytes(chance.randint(1, 8))
    return bytes(data[:8192])


def fuzz(name: str, inputs: int, seed: int) -> list[str]:
    """What went wrong, each with the input that did it."""
    decode, whole = DECODERS[name]
    chance, wrong = random.Random(f"{seed} {name}"), []
    for _ in range(inputs):
        data = damaged(whole, chance)
        seconds, error = _run(decode, data)
        if error:
            wrong.append(f"{name}: {error} from {data.hex()[:200]}")
        elif seconds > MAX_RUN_S and min(_run(decode, data)[0] for _ in range(REPEATS)) > MAX_RUN_S:
            wrong.append(f"{name}: {seconds * 1000:.0f} ms from {len(data)} bytes {data.hex()[:200]}")
    return wrong


def _run(decode: Decode, data: bytes) -> tuple[float, str]:
    begun = time.perf_counter()
    try:
        decode(data)
    except AuditraError:
        pass
    except Exception as error:  # whatever it is, it is ours to mend
        return 0.0, f"{type(error).__name__} {error}"
    return time.perf_counter() - begun, ""


def main() -> int:
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--inputs", type=int, default=INPUTS, help="how many inputs a decoder gets")
    asked.add_argument("--seed", type=int, default=1)
    told = asked.parse_args()
    wrong = 0
    for name in DECODERS:
        begun = time.perf_counter()
        found = [*each_field(name), *fuzz(name, told.inputs, told.seed)]
        wrong += len(found)
        print(f"{name}: {told.inputs:,} inputs in {time.perf_counter() - begun:.0f} s, {len(found)} went wrong")
        for line in found[:10]:
            print(f"  {line}")
    return int(wrong > 0)


if __name__ == "__main__":
    sys.exit(main())
