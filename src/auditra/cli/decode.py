"""``auditra decode``: what bytes mean, for a person or as JSON, and what is wrong with them."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import BinaryIO

import typer
from pydantic import BaseModel

from auditra.cli.input_file import STANDARD_INPUT, read_bounded
from auditra.core.decode.cable import CableKnown, allows, side_by_side
from auditra.core.decode.cc_line.capture import MAX_CAPTURE_BYTES, Captured, is_capture, read_capture
from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.needs import LinkNeed
from auditra.core.decode.display.timing import DisplayTiming
from auditra.core.decode.identity import identity_in_words
from auditra.core.decode.power_delivery.hearing import hold_conversation
from auditra.core.decode.power_delivery.log import MAX_LINE_LENGTH, read_log
from auditra.core.decode.problem import Problem
from auditra.core.decode.usb_capabilities import Capabilities
from auditra.core.decode.usb_descriptors import Configuration, Descriptors, decode_descriptors
from auditra.core.errors import InputError
from auditra.core.model.rig import Host, Rig
from auditra.core.quantities.display import bit_rate
from auditra.core.sanitize import sanitize
from auditra.documents.cable import CableFile, marker_of, read_cable
from auditra.documents.decode_edid import EdidFile, display_as_gear
from auditra.documents.decode_pd import PowerFile
from auditra.documents.decode_usb import UsbFile
from auditra.documents.hex_text import from_hex
from auditra.documents.rig_file import write_rig

MAX_INPUT_BYTES = 1 << 20
MAX_LOG_BYTES = 128 << 20
_LOOK_BYTES, _PIECE_BYTES = 1 << 16, 1 << 18
_MAX_MODES_SHOWN = 40
_HEX = re.compile(rb"[\s0-9a-fA-F:,]+")


def bytes_of(file: Path | None, hexadecimal: str | None) -> bytes:
    """The bytes of a file, of standard input, or written out; a file of nothing but hex digits is taken as such.

    Raises: InputError.
    """
    if hexadecimal is not None:
        return from_hex(hexadecimal)
    data = _read(file, MAX_INPUT_BYTES)
    return from_hex(data.decode("ascii")) if data and _HEX.fullmatch(data) else data


def _read(file: Path | None, most: int) -> bytes:
    if file is None:
        raise InputError("nothing to decode", why="no file is named", do="Name one, or - or --hex")
    return read_bounded(file, most)


def as_json(found: BaseModel) -> str:
    return found.model_dump_json(indent=2)


def tell_problems(problems: tuple[Problem, ...]) -> None:
    for problem in problems:
        _echo(f"! byte {problem.offset}: {problem.words} ({problem.code})")


def _echo(words: str) -> None:
    typer.echo(sanitize(words, 400))


# USB descriptors


def usb_of(data: bytes) -> UsbFile:
    return UsbFile(descriptors=decode_descriptors(data))


def is_anything_read(told: Descriptors) -> bool:
    """Whether there was any descriptor that is known."""
    return bool(told.device or told.configurations or told.hubs or told.capabilities)


def usb_in_words(found: UsbFile) -> None:
    """For a person: the device, its configurations, what it could do."""
    told = found.descriptors
    if told.device is not None:
        each = told.device
        _echo(f"device {each.vid:04x}:{each.pid:04x}, USB {each.usb_version}, release {each.release}")
    for configuration in told.configurations:
        _tell_configuration(configuration)
    for hub in told.hubs:
        fast = "SuperSpeed" if hub.superspeed else "USB 2.0"
        _echo(f"hub, {fast}: {hub.port_count} ports, power good after {hub.ready_ms} ms")
    if told.capabilities is not None:
        _tell_capabilities(told.capabilities)
    tell_problems(told.problems)


def _tell_configuration(each: Configuration) -> None:
    fed = "self-powered" if each.self_powered else "bus-powered"
    _echo(f"configuration {each.value}: at most {each.max_power_ma} mA, {fed}")
    for interface in each.interfaces:
        codes = f"{interface.class_code:02x}/{interface.subclass_code:02x}/{interface.protocol_code:02x}"
        setting = f" setting {interface.alternate}" if interface.alternate else ""
        _echo(f"  interface {interface.number}{setting}: class {codes}")
        for end in interface.endpoints:
            burst = f", bursts of {end.companion.max_burst}" if end.companion is not None else ""
            _echo(f"    endpoint {end.number} {end.direction}: {end.transfer}, {end.max_packet_bytes} B{burst}")


def _tell_capabilities(told: Capabilities) -> None:
    most = "unknown" if told.most_mbps is None else f"{told.most_mbps:g} Mb/s"
    _echo(f"fastest link: {most}")
    if told.container_id is not None:
        _echo(f"container {told.container_id}")
    for mode in told.billboard.modes if told.billboard is not None else ():
        _echo(f"alternate mode {mode.svid:04x}, mode {mode.mode}: {mode.state}")


# Displays


def edid_in_words(found: EdidFile) -> None:
    """For a person: who it is, what it takes, every mode with where it stands and what link it needs."""
    edid = found.edid
    if not edid.is_readable:
        _echo("not a valid display description (EDID or DisplayID)")
        tell_problems(edid.problems)
        return
    _echo(f"{edid.name or 'display'} ({edid.maker or '?'} {_product(edid)}), {_version(edid)}")
    for line in _display_traits(edid):
        _echo(f"  {line}")
    _echo(f"{len(found.modes)} modes")
    for timing, need in list(zip(found.modes, found.links, strict=True))[:_MAX_MODES_SHOWN]:
        _echo(f"  {_mode_line(timing, need)}")
    if len(found.modes) > _MAX_MODES_SHOWN:
        _echo(f"  and {len(found.modes) - _MAX_MODES_SHOWN} more: --json has all")
    for change in found.differs or ():
        _echo(change.sentence)
    if found.differs == ():
        _echo("both descriptions are the same")
    tell_problems(edid.problems)


def edid_as_rig(found: EdidFile) -> None:
    """A table to paste into a rig file."""
    gear = display_as_gear(found.edid)
    rig = Rig("a display", (Host("host", "host", ()),), displays=(gear,))
    text = write_rig(rig)
    typer.echo(text[text.index("[[display]]") :].rstrip())


def _display_traits(edid: Edid) -> Iterator[str]:
    if edid.preferred is not None:
        yield f"preferred {edid.preferred.name}"
    if edid.native:
        yield f"native {', '.join(each.name for each in edid.native)}"
    if edid.year is not None:
        yield f"made in {edid.year}" + (f", week {edid.week}" if edid.week else "")
    if edid.model_year is not None:
        yield f"model year {edid.model_year}"
    if edid.width_cm is not None:
        yield f"{edid.width_cm} x {edid.height_cm} cm"
    if edid.depths_bits:
        yield f"depths {', '.join(map(str, edid.depths_bits))} bit{', hdr' if edid.hdr else ''}"
    if edid.colour_formats:
        yield f"colour formats {', '.join(edid.colour_formats)}"
    if edid.adaptive is not None:
        least, most = edid.adaptive
        yield f"variable refresh {least} to {most if most is not None else 'the mode'} Hz"


def _product(edid: Edid) -> str:
    return "????" if edid.product is None else f"{edid.product:04x}"


def _version(edid: Edid) -> str:
    return edid.version if edid.displayid and not edid.maker else f"EDID {edid.version}"


def _mode_line(timing: DisplayTiming, need: LinkNeed) -> str:
    clock = "" if timing.pixel_clock_khz is None else f"{timing.pixel_clock_khz / 1000:.3f} MHz"
    marks = [name for name, so in (("preferred", timing.preferred), ("native", timing.native)) if so]
    marks += ["4:2:0 alone"] if timing.chroma_420_only else ["4:2:0 too"] if timing.chroma_420_too else []
    takes = f"takes {need.hdmi or 'no HDMI'} or {need.displayport or 'no DisplayPort'}"
    return f"{timing.name:18} {clock:>12}  {timing.source}{': ' if marks else ''}{', '.join(marks)}; {takes}"


# Power


def power_of(file: Path | None, hexadecimal: str | None, wire: str = "") -> PowerFile:
    """The conversation in a log or a capture, or one message written out. Raises: InputError."""
    if hexadecimal is not None:
        return PowerFile(conversation=hold_conversation(read_log([f"0 SOP {from_hex(hexadecimal).hex()}"])))
    if file is None or file == STANDARD_INPUT:
        data = _read(file, MAX_INPUT_BYTES)
        if is_capture(data):
            return _of_capture([data], wire)
        return PowerFile(conversation=hold_conversation(read_log(data.decode("utf-8", "replace").splitlines())))
    try:
        with file.open("rb") as opened:
            is_one = is_capture(opened.read(_LOOK_BYTES))
            opened.seek(0)
            if is_one:
                return _of_capture(_pieces(opened, str(file)), wire)
            return PowerFile(conversation=hold_conversation(read_log(_lines(opened, str(file)))))
    except OSError as error:
        raise InputError(f"{file}", why=error.strerror or str(error), do="Name a file that can be read") from error


def _of_capture(pieces: Iterable[bytes], wire: str) -> PowerFile:
    """Raises: InputError for a wire that is not there."""
    captured = read_capture(pieces, wire)
    if wire and not captured.wire:
        known = ", ".join(captured.wires[:12]) or "none"
        raise InputError(f'wire "{sanitize(wire, 40)}"', why="it is not in the capture", do=f"Its wires are: {known}")
    return PowerFile(conversation=captured.conversation, capture=captured)


def _pieces(opened: BinaryIO, name: str) -> Iterator[bytes]:
    """Raises: InputError for a file that is too long."""
    read = 0
    while piece := opened.read(_PIECE_BYTES):
        read += len(piece)
        if read > MAX_CAPTURE_BYTES:
            raise InputError(
                name, why=f"it is longer than {MAX_CAPTURE_BYTES} bytes", do="Cut it to the part to decode"
            )
        yield piece


def _lines(opened: BinaryIO, name: str) -> Iterator[str]:
    """A line at a time, none longer than is looked at: a log of any length takes no more memory. Raises: InputError."""
    read = 0
    while line := opened.readline(MAX_LINE_LENGTH + 2):
        read += len(line)
        if read > MAX_LOG_BYTES:
            raise InputError(name, why=f"it is longer than {MAX_LOG_BYTES} bytes", do="Cut it to the part to decode")
        yield line.decode("utf-8", "replace")


def power_in_words(found: PowerFile) -> None:
    """For a person: what was said, what was agreed on, and why it was not more."""
    told = found.conversation
    if found.capture is not None:
        _tell_capture(found.capture)
    for turn in told.turns:
        _echo(f"{turn.from_start_s:10.3f}  {turn.sender:13} {turn.words}")
    for name, identity in (("cable", told.cable), ("partner", told.partner)):
        if identity is not None:
            _echo(f"{name}: {identity_in_words(identity)}")
    _echo(f"contract: {told.contract.words if told.contract is not None else 'none'}")
    for why in told.not_more:
        _echo(f"  {why}")
    for fault in told.faults:
        _echo(f"! {fault}")


def _tell_capture(told: Captured) -> None:
    others = [name for name in told.wires if name != told.wire]
    beside = f" (also captured: {', '.join(others[:6])})" if others else ""
    _echo(f"wire {told.wire or 'none'}{beside}: {told.edges} edges, {told.packets} packets, {told.sound} sound")
    if told.glitches:
        _echo(f"{told.glitches} edges left out as glitches")
    if told.unanswered:
        _echo(f"{told.unanswered} messages drew no GoodCRC")
    for problem in told.problems:
        _echo(f"! at {problem.offset}: {problem.words} ({problem.code})")


# Cables


def cable_of(file: Path | None, hexadecimal: str | None) -> CableFile:
    """A cable's file, or the data objects of its marker written out. Raises: InputError."""
    if hexadecimal is not None:
        known = CableKnown(marker_of(from_hex(hexadecimal)), answered=True)
    else:
        known = read_cable(_read(file, MAX_INPUT_BYTES), str(file))
    return CableFile(marker=known.marker, allows=allows(known), findings=side_by_side(known))


def cable_in_words(found: CableFile) -> None:
    """For a person: what it allows and why, then every finding with who said what."""
    told = found.allows
    _echo(f"power: {'not known' if told.power_w is None else f'{told.power_w:g} W'} ({told.power_why})")
    rate = "not known" if told.lane_mbps is None else f"{bit_rate(told.lane_mbps * 1e6)} a lane"
    _echo(f"data: {rate} ({told.data_why})")
    lanes = "not known" if told.display_lanes is None else f"{told.display_lanes} lanes"
    _echo(f"display: {lanes} ({told.display_why})")
    for finding in found.findings:
        _echo(f"{finding.about}: {finding.standing}: {finding.words}")
        for said in finding.says:
            _echo(f"    {said}")
