"""Everything about a trial that could matter, aspect by aspect: the one list that comparing and separating share."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from functools import lru_cache
from itertools import combinations

from auditra.core.model.circumstance import Arranged as ArrangedAs
from auditra.core.model.circumstance import (
    Aspect,
    Circumstance,
    Circumstances,
    Flipped,
    OnHost,
    Replugged,
    Running,
    Soaked,
    Under,
)
from auditra.core.model.device import DEVICE
from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.setup import NetworkPath, Picture, Plugged, SetUp

TrialProfile = Mapping[Aspect, frozenset[Circumstance]]
"""The circumstances of each aspect that was noted; an aspect that was not noted is missing."""
MIN_FULL_BATTERY_PERCENT = 80.0
"""A lithium cell is charged at a falling current from about here on, whatever the charger has (CC-CV charging)."""


@lru_cache(maxsize=1 << 14)
def profile_of(setup: SetUp, gear: str, port: str | None) -> TrialProfile:
    """The profile of a trial: its set-up, what it measures with, and the port that it is of."""
    return dict(_noted(setup, gear, port))


def _noted(setup: SetUp, gear: str, port: str | None) -> Iterator[tuple[Aspect, frozenset[Circumstance]]]:
    yield Aspect.HOST, frozenset({OnHost(setup.host)})
    yield Aspect.HOST_SOCKET, frozenset({Under(Aspect.HOST_SOCKET, setup.host_socket)})
    yield Aspect.GEAR, frozenset({Under(Aspect.GEAR, gear)})
    yield Aspect.LEAD, frozenset({Under(Aspect.LEAD, lead_at(setup, gear, port))})
    yield Aspect.HOST_LEAD, frozenset({Under(Aspect.HOST_LEAD, host_lead(setup))})
    yield Aspect.ADAPTERS, frozenset({Under(Aspect.ADAPTERS, _in_line(setup, gear, port))})
    yield Aspect.IDLE, frozenset(Under(Aspect.IDLE, spot) for spot in _idle(setup, port))
    if isinstance(setup.battery_percent, float | int):
        full = setup.battery_percent >= MIN_FULL_BATTERY_PERCENT
        yield Aspect.BATTERY, frozenset({Under(Aspect.BATTERY, "nearly full" if full else "not full")})
    if isinstance(setup.order, tuple):
        own = there.gear if (there := plugged_gear(setup, gear, port)) is not None else gear
        yield Aspect.ORDER, frozenset(Under(Aspect.ORDER, pair) for pair in _before_or_after(own, setup.order))
    yield from _varied(setup)
    yield from _single(setup)


def _before_or_after(own: str, order: Sequence[str]) -> Iterator[tuple[str, str]]:
    """What was connected before, and what after: each by itself, so that one more thing is no other order."""
    return ((first, then) for first, then in combinations(order, 2) if own in (first, then) or own not in order)


def _varied(setup: SetUp) -> Iterator[tuple[Aspect, frozenset[Circumstance]]]:
    """What factors and claims vary on purpose, besides the host."""
    yield Aspect.RUNNING, frozenset(map(Running, setup.running))
    yield Aspect.SOAK, frozenset({Soaked(setup.soaked_s)} if setup.soaked_s else ())
    yield Aspect.ARRANGED, frozenset(map(ArrangedAs, setup.arranged))
    if setup.replugged is not NOT_NOTED:
        yield Aspect.REPLUGGED, frozenset({Replugged()} if setup.replugged else ())
    if setup.flipped is not NOT_NOTED:
        yield Aspect.SIDE, frozenset({Flipped()} if setup.flipped else ())
    if setup.host_flipped is not NOT_NOTED:
        yield Aspect.HOST_SIDE, frozenset({Under(Aspect.HOST_SIDE, True)} if setup.host_flipped else ())


def _single(setup: SetUp) -> Iterator[tuple[Aspect, frozenset[Circumstance]]]:
    """What is one value or none."""
    network = setup.network if isinstance(setup.network, NetworkPath) else NetworkPath()
    values: tuple[tuple[Aspect, Noted[object]], ...] = (
        (Aspect.DRIVER, setup.driver), (Aspect.RECORDER, setup.recorder),
        (Aspect.WORKLOAD, setup.workload), (Aspect.PROTOCOL, setup.protocol), (Aspect.FILE, setup.file),
        (Aspect.FILE_SIZE, setup.file_bytes), (Aspect.STREAMS, network.streams), (Aspect.FRAME, network.frame_bytes),
        (Aspect.HOPS, network.hops), (Aspect.WIRELESS, network.wireless), (Aspect.SUPPLY, setup.charger),
    )  # fmt: skip
    for aspect, value in values:
        if value is not NOT_NOTED:
            yield aspect, frozenset({Under(aspect, value)})


def _idle(setup: SetUp, port: str | None) -> set[str]:
    """The ports where something is connected that is not at work: a display that is switched off, say."""
    busy = {spot for claim in setup.running for spot in claim.split(" ", 1)[0].replace("|", "+").split("+")}
    pictures = setup.pictures if isinstance(setup.pictures, tuple) else ()
    off = {picture.port for picture in pictures if picture.on is False}
    on = {picture.port for picture in pictures if picture.on is True}
    there = {each.socket for each in setup.plugged if each.owner == DEVICE and not each.through}
    return (there - busy - on - {port}) | off


def plugged_gear(setup: SetUp, gear: str, port: str | None) -> Plugged | None:
    """How the gear of a trial is connected: at the port where one is meant, else anywhere."""
    there = [each for each in setup.plugged if each.owner == DEVICE and each.socket == port]
    return next(iter(there), None) or next((each for each in setup.plugged if each.gear == gear), None)


def lead_at(setup: SetUp, gear: str, port: str | None) -> str | None:
    """The lead between the gear and the socket that it is in; None for none."""
    plugged = plugged_gear(setup, gear, port)
    return plugged.lead if plugged is not None else None


def host_lead(setup: SetUp) -> str | None:
    """The lead between the device and the host; None where the device has its own plug, or is not there."""
    return next((each.lead for each in setup.plugged if each.gear == DEVICE), None)


def _in_line(setup: SetUp, gear: str, port: str | None) -> tuple[str, ...]:
    plugged = plugged_gear(setup, gear, port)
    upstream = next((each for each in setup.plugged if each.gear == DEVICE), None)
    return (*(upstream.through if upstream else ()), *(plugged.through if plugged else ()))


@lru_cache(maxsize=1 << 14)
def planned_circumstances(setup: SetUp) -> frozenset[Circumstance]:
    """What a run sheet varies from one trial to the next. What was noted beyond it makes no other trial."""
    varied = (each for _, noted in _varied(setup) for each in noted)
    return frozenset((OnHost(setup.host), *varied, *departures_of(setup)))


@lru_cache(maxsize=1 << 14)
def departures_of(setup: SetUp) -> Circumstances:
    """What is otherwise than its seller intends, on purpose, beside what runs and for how long."""
    if not setup.departs:
        return ()
    profile = profile_of(setup, DEVICE, None)
    off = frozenset(Under(Aspect.IDLE, picture.port) for picture in _off(setup))
    of_gear = (each for each in setup.plugged if each.lead and (setup.direct or each.owner == DEVICE))
    leads = frozenset(Under(Aspect.LEAD, each.lead) for each in of_gear)
    noted = {
        **profile,
        Aspect.LEAD: leads,
        Aspect.IDLE: off,
        Aspect.SUPPLY: frozenset({Under(Aspect.SUPPLY, setup.charger)}),
    }
    found = {each for aspect in setup.departs for each in noted.get(aspect, frozenset())}
    return tuple(sorted(found, key=lambda each: (list(Aspect).index(each.aspect), repr(each))))


def _off(setup: SetUp) -> tuple[Picture, ...]:
    pictures = setup.pictures if isinstance(setup.pictures, tuple) else ()
    return tuple(picture for picture in pictures if picture.on is False)
