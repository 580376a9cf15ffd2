"""A part of the rig in a line: what it can do, as far as a reader needs it to judge the readings."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.model.rig import (
    Adapter,
    Card,
    Display,
    Drain,
    Drive,
    Host,
    Instrument,
    Lead,
    Load,
    Part,
    Peer,
    Rule,
    Supply,
    Thermometer,
)
from auditra.core.quantities.display import bit_rate, byte_rate, length, power


def part_words(part: Part) -> str:
    """What it can do; a value that was not noted is left out."""
    return ", ".join((*_of_kind(part), *_of_label(part)))


def _of_kind(part: Part) -> Iterator[str]:
    match part:
        case Host():
            yield from _host(part)
        case Lead():
            yield from _lead(part)
        case Drive() | Card():
            yield f"reads {byte_rate(part.read_bps)}"
            yield f"writes {byte_rate(part.write_bps)}"
        case Instrument():
            yield from _instrument(part)
        case _:
            yield _other(part)


def _other(part: Part) -> str:
    match part:
        case Display():
            return ", ".join(part.modes[:3])
        case Supply():
            return f"{part.volts:g} V, {power(part.watts)}"
        case Drain():
            return f"draws {power(part.draws_w)}"
        case Peer():
            return f"{bit_rate(part.rate_bps)}, frames of {part.mtu_bytes} B"
        case Rule():
            return f"divided into {length(part.division_m)}"
        case Thermometer():
            return f"± {part.error_k:g} K{f', at the {part.spot}' if isinstance(part.spot, str) else ''}"
        case Adapter():
            return f"to {' and '.join(part.ends)}"
        case _:
            return "a card reader"


def _host(host: Host) -> Iterator[str]:
    for value in (host.system, host.variant):
        if isinstance(value, str):
            yield value
    if isinstance(host.driver, str):
        yield f"driver {host.driver}"
    if isinstance(host.policy, str):
        yield f"policy: {host.policy}"
    if isinstance(host.wants_w, int | float):
        yield f"wants {power(host.wants_w)}"
    sockets = (f"{each.id} {each.connector} {bit_rate(each.data_bps)}" for each in host.sockets)
    yield f"sockets {'; '.join(sockets)}"


def _lead(lead: Lead) -> Iterator[str]:
    yield " to ".join(lead.ends)
    if isinstance(lead.length_m, int | float):
        yield length(lead.length_m)
    if isinstance(lead.data_bps, int | float):
        yield bit_rate(lead.data_bps)
    elif lead.data_bps is None:
        yield "no data"
    if isinstance(lead.amperes, int | float):
        yield f"{lead.amperes:g} A"
    if isinstance(lead.category, str):
        yield f"category {lead.category}"


def _instrument(part: Instrument) -> Iterator[str]:
    if isinstance(part, Load) and part.watts:
        yield f"draws up to {power(part.watts)}"
    if isinstance(part.power_error_percent, int | float):
        offset = f" + {power(part.power_error_w)}" if isinstance(part.power_error_w, int | float) else ""
        yield f"error of power {part.power_error_percent:g} %{offset}"
    for each in part.accuracy if isinstance(part.accuracy, tuple) else ():
        if isinstance(each.error_percent, int | float):
            yield f"error of {each.quantity} {each.error_percent:g} %"


def _of_label(part: Part) -> Iterator[str]:
    origin = getattr(part, "origin", None)
    if isinstance(origin, str):
        yield {"shipped": "from the box", "borrowed": "borrowed"}.get(str(origin), "the reviewer's own")
    if isinstance(part.calibrated, str):
        yield f"calibrated {part.calibrated}"
    if isinstance(part.bought, str):
        yield f"from {part.bought}"
