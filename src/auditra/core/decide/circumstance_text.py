"""Circumstances in words: "with S1 in use (cards 250 MB/s)", "unless C1 and C2 are in use"."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence

from auditra.core.model.circumstance import (
    Arranged,
    Aspect,
    AtPort,
    Circumstance,
    Connected,
    Either,
    Flipped,
    OnHost,
    Replugged,
    Running,
    Soaked,
    Through,
    Under,
)
from auditra.core.model.setup import MINUTE_S
from auditra.core.quantities.display import amount
from auditra.core.quantities.units import Dimension


def circumstance_text(circumstance: Circumstance) -> str:
    """One of them, behind the claim that it is about."""
    match circumstance:
        case Running():
            return f"with {_users([circumstance], 'in use')}"
        case Soaked(seconds):
            return f"after {seconds / MINUTE_S:.0f} min of full load"
        case AtPort(port):
            return f"at {port}"
        case Through():
            return "through the device"
        case OnHost(host):
            return f"on {host}"
        case Arranged(words):
            return words
        case Either(things):
            return ", or ".join(circumstance_text(each) for each in things)
        case Flipped() | Replugged() | Connected():
            return _done_to_plugs(circumstance)
        case Under(aspect, value):
            return _WORDS.get(aspect, _plain(aspect))(value)


def _done_to_plugs(circumstance: Flipped | Replugged | Connected) -> str:
    match circumstance:
        case Flipped():
            return "with the plug turned over"
        case Replugged():
            return "after plugging it in again"
        case Connected(port):
            return f"with {port} connected, in use or not"


def _plain(aspect: Aspect) -> Callable[[object], str]:
    return lambda value: f"{aspect}: {value}"


def _with(after: str = "", none: str = "") -> Callable[[object], str]:
    return lambda value: none if value is None else f"with {value}{after}"


def _in_line(value: object) -> str:
    parts = value if isinstance(value, tuple) else ()
    return f"through {' and '.join(map(str, parts))}" if parts else "with no adapter in line"


def _in_order(value: object) -> str:
    first, *then = map(str, value) if isinstance(value, tuple) and value else ("",)
    return f"with {first} connected before {', then '.join(then)}"


def _hops(value: object) -> str:
    parts = value if isinstance(value, tuple) else ()
    return f"over {', '.join(map(str, parts))}" if parts else "with no hop on the way"


def _size(value: object) -> str:
    return f"with a file of {amount(float(value), Dimension.SIZE)}" if isinstance(value, int | float) else "with a file"


_WORDS: dict[Aspect, Callable[[object], str]] = {
    Aspect.PROCEDURE: str,
    Aspect.DRIVE: str,
    Aspect.HOST_SOCKET: lambda value: f"in host socket {value}",
    Aspect.DRIVER: _with(" installed", "with no driver installed"),
    Aspect.HOST_LEAD: _with(" to the host", "with no lead to the host"),
    Aspect.GEAR: _with(),
    Aspect.LEAD: _with(none="with no lead"),
    Aspect.ADAPTERS: _in_line,
    Aspect.SUPPLY: _with(" feeding it", "with no supply connected"),
    Aspect.BATTERY: lambda value: f"with the battery {value}",
    Aspect.HOST_SIDE: lambda value: "with the host plug turned over",
    Aspect.IDLE: lambda value: f"with {value} connected and not in use",
    Aspect.ORDER: _in_order,
    Aspect.RECORDER: _with(" recording", "with nothing recording"),
    Aspect.WORKLOAD: lambda value: f"measured with {value}",
    Aspect.PROTOCOL: lambda value: f"over {value}",
    Aspect.FILE: lambda value: f"with the file {value}",
    Aspect.FILE_SIZE: _size,
    Aspect.STREAMS: _with(" streams"),
    Aspect.FRAME: lambda value: f"with frames of {value} B",
    Aspect.HOPS: _hops,
    Aspect.WIRELESS: lambda value: f"with wireless {'on' if value else 'off'}",
    Aspect.EVENTS: lambda value: f"after this: {value}",
}


def setup_text(circumstances: Iterable[Circumstance]) -> str:
    """All of a set-up: ``after 45 min of full load with S1 in use (cards 250 MB/s)``; empty for none."""
    circumstances = tuple(circumstances)
    running = [circumstance for circumstance in circumstances if isinstance(circumstance, Running)]
    others = [circumstance_text(each) for each in circumstances if not isinstance(each, Running)]
    return " ".join([*others, *([f"with {_users(running, 'in use')}"] if running else [])])


def exception_text(circumstances: Iterable[Circumstance]) -> str:
    """Where a claim does not hold: ``unless S1 is in use (cards 250 MB/s)``; empty for none."""
    circumstances = tuple(circumstances)
    if len(circumstances) == 1 and isinstance(circumstances[0], Either):
        first, *others = circumstances[0].things
        return ", or ".join((exception_text((first,)), *map(circumstance_text, others)))
    running = [circumstance for circumstance in circumstances if isinstance(circumstance, Running)]
    if running and len(running) == len(circumstances):
        return f"unless {_users(running, 'is in use', 'are in use')}"
    return f"except {setup_text(circumstances)}" if circumstances else ""


def _users(running: Sequence[Running], one: str, several: str = "") -> str:
    """``S1 in use (cards 250 MB/s)``, ``C1 (gives 27 W) and C2 (gives 27 W) in use``."""
    pairs = [
        (subject.replace("+", " and "), rest) for subject, _, rest in (each.claim.partition(" ") for each in running)
    ]
    if len(pairs) == 1:
        subject, rest = pairs[0]
        verb = several if several and " and " in subject else one
        return f"{subject} {verb} ({rest})"
    return f"{' and '.join(f'{subject} ({rest})' for subject, rest in pairs)} {several or one}"
