"""``auditra decode``: what bytes mean, for a person or as JSON, and what is wrong with them."""

from __future__ import annotations

import re
import sys
from pathlib import Path

import typer
from pydantic import BaseModel

from auditra.core.decode.problem import Problem
from auditra.core.decode.usb_capabilities import Capabilities
from auditra.core.decode.usb_descriptors import Configuration, Descriptors, decode_descriptors
from auditra.core.errors import InputError

LONGEST_INPUT = 1 << 20
_STANDARD_INPUT = Path("-")
_HEX = re.compile(rb"[\s0-9a-fA-F:,]+")
_BETWEEN = re.compile(r"[\s:,]+|0x")


class UsbFile(BaseModel):
    """What USB descriptors say. Numbers are those of the standard, in the units of their names."""

    format: str = "auditra decode usb"
    version: int = 1
    descriptors: Descriptors


def bytes_of(file: Path | None, hexadecimal: str | None) -> bytes:
    """The bytes of a file, of standard input, or written out; a file of nothing but hex digits is taken as such.

    Raises: InputError.
    """
    if hexadecimal is not None:
        return _from_hex(hexadecimal)
    if file is None:
        raise InputError("nothing to decode", why="no file is named", do="Name one, or - or --hex")
    try:
        if file == _STANDARD_INPUT:
            data = sys.stdin.buffer.read(LONGEST_INPUT + 1)
        else:
            with file.open("rb") as opened:
                data = opened.read(LONGEST_INPUT + 1)
    except OSError as error:
        raise InputError(f"{file}", why=error.strerror or str(error), do="Name a file that can be read") from error
    if len(data) > LONGEST_INPUT:
        raise InputError(
            f"{file}", why=f"it is longer than {LONGEST_INPUT} bytes", do="Cut it to what is to be decoded"
        )
    return _from_hex(data.decode("ascii")) if data and _HEX.fullmatch(data) else data


def _from_hex(text: str) -> bytes:
    plain = _BETWEEN.sub("", text)
    try:
        return bytes.fromhex(plain)
    except ValueError as error:
        at = next((n for n, each in enumerate(plain) if each not in "0123456789abcdefABCDEF"), len(plain))
        why = f"character {at + 1} is no hexadecimal digit" if at < len(plain) else "it has half a byte at its end"
        raise InputError(f'"{plain[:40]}"', why=why, do="Write two digits a byte") from error


def usb_of(data: bytes) -> UsbFile:
    return UsbFile(descriptors=decode_descriptors(data))


def as_json(found: BaseModel) -> str:
    return found.model_dump_json(indent=2)


def usb_in_words(found: UsbFile) -> None:
    """For a person: the device, its configurations, what it could do."""
    told = found.descriptors
    if told.device is not None:
        each = told.device
        typer.echo(f"device {each.vid:04x}:{each.pid:04x}, USB {each.usb_version}, release {each.release}")
    for configuration in told.configurations:
        _tell_configuration(configuration)
    for hub in told.hubs:
        fast = "SuperSpeed" if hub.superspeed else "USB 2.0"
        typer.echo(f"hub, {fast}: {hub.port_count} ports, power good after {hub.ready_ms} ms")
    if told.capabilities is not None:
        _tell_capabilities(told.capabilities)
    tell_problems(told.problems)


def _tell_configuration(each: Configuration) -> None:
    fed = "self-powered" if each.self_powered else "bus-powered"
    typer.echo(f"configuration {each.value}: at most {each.max_power_ma} mA, {fed}")
    for interface in each.interfaces:
        codes = f"{interface.class_code:02x}/{interface.subclass_code:02x}/{interface.protocol_code:02x}"
        setting = f" setting {interface.alternate}" if interface.alternate else ""
        typer.echo(f"  interface {interface.number}{setting}: class {codes}")
        for end in interface.endpoints:
            burst = f", bursts of {end.companion.max_burst}" if end.companion is not None else ""
            typer.echo(f"    endpoint {end.number} {end.direction}: {end.transfer}, {end.max_packet_bytes} B{burst}")


def _tell_capabilities(told: Capabilities) -> None:
    most = "not told" if told.most_mbps is None else f"{told.most_mbps:g} Mb/s"
    typer.echo(f"fastest link: {most}")
    if told.container_id is not None:
        typer.echo(f"container {told.container_id}")
    for mode in told.billboard.modes if told.billboard is not None else ():
        typer.echo(f"alternate mode {mode.svid:04x}, mode {mode.mode}: {mode.state}")


def tell_problems(problems: tuple[Problem, ...]) -> None:
    for each in problems:
        typer.echo(f"! byte {each.offset}: {each.words} ({each.code})")
