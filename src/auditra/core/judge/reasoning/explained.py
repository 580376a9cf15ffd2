"""A finding of the one explanation that elimination left, and how such a thing is named."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING, TypeVar

from auditra.core.counted import listed
from auditra.core.decide.circumstance_text import circumstance_text, setup_text
from auditra.core.judge.finding import Finding, Role, Sureness
from auditra.core.judge.reasoning.elimination import Elimination, Method
from auditra.core.judge.reasoning.tries import Try
from auditra.core.model.circumstance import Aspect, AtPort, Circumstance, Circumstances, OnHost, Through, Under
from auditra.core.model.rig import Rig

if TYPE_CHECKING:
    from auditra.core.judge.reasoning.inquiry import Inquiry


@dataclass(frozen=True, kw_only=True)
class Explained(Finding):
    """One explanation is left of why a claim fails."""

    role = Role.CAUSE

    claim: str
    named: str
    """The thing in words."""
    things: Circumstances
    elimination: Elimination
    shipped: tuple[str, ...] = ()
    """Parts that came with the device and were never left out."""
    cleared_names: tuple[tuple[str, tuple[str, ...]], ...] = ()

    @property
    def subject(self) -> str:
        return self.named

    @property
    def arithmetic(self) -> str:
        """``swap: fails in T3 and T4, works in T5``."""
        failed, worked = (_trials(side) for side in (self.elimination.failed, self.elimination.worked))
        return f"{self.elimination.method}: fails in {failed}, works in {worked}"

    @property
    def cleared(self) -> tuple[str, ...]:
        return tuple(
            f"{name}: cleared by {listed(trials) if trials else 'its record'}" for name, trials in self.cleared_names
        )

    @property
    def method(self) -> Method:
        return self.elimination.method


@dataclass(frozen=True, kw_only=True)
class OnlyThen(Explained):
    """A circumstance that only failing tries have."""

    @property
    def sentence(self) -> str:
        return f"{self.claim} fails {setup_text(self.things)}, and only then"


Row = TypeVar("Row", bound=Explained)


def explained(inquiry: Inquiry, kind: type[Row], belongs: Callable[[Circumstances], bool]) -> Iterator[Row]:
    """A finding for each claim whose cause is of this row. The device is blamed only where the verdict accuses it."""
    for verdict in inquiry.investigated:
        found = inquiry.elimination_of(verdict)
        if found is None or not found.cause or not belongs(found.cause):
            continue
        blames_device = any(isinstance(thing, AtPort | Through) for thing in found.cause)
        if blames_device and not verdict.verdict.accuses and not verdict.unless:
            continue
        rig = inquiry.audit.rig
        yield kind(
            ports=(verdict.claim.port,),
            trials=found.trials,
            claims=(verdict.claim.id,),
            sure=_sureness(found, blames_device=blames_device),
            claim=str(verdict.claim),
            named=named(found.cause, rig),
            things=found.cause,
            elimination=found,
            shipped=tuple(named((each,), rig) for each in found.shipped) if blames_device else (),
            cleared_names=tuple((named((each.suspect,), rig), each.trials) for each in found.cleared),
        )


def _sureness(found: Elimination, *, blames_device: bool) -> Sureness:
    """Sure: seen twice on either side, and no suspect cleared by its record alone.

    Of the device also: on two hosts, or with a like port that works; one host may just not get on with it.
    """
    if not found.is_seen_twice or found.rests_on_a_record:
        return Sureness.LIKELY
    hosts = {thing for tried in found.failed for thing in tried.suspects if isinstance(thing, OnHost)}
    one_host = blames_device and len(hosts) < 2 and found.method is not Method.TWINS
    return Sureness.LIKELY if one_host else Sureness.SURE


def named(things: Circumstances, rig: Rig) -> str:
    """``lead AC-2``, ``socket C1 of the laptop``, ``A1``; several joined by "and"."""
    return " and ".join(_name(thing, rig) for thing in things)


def _name(thing: Circumstance, rig: Rig) -> str:
    match thing:
        case OnHost(host):
            return rig.name_of(host)
        case AtPort(port):
            return port
        case Through():
            return "the device"
        case Under(Aspect.LEAD | Aspect.HOST_LEAD, value):
            return f"lead {value}"
        case Under(Aspect.HOST_SOCKET, value):
            host, _, socket = str(value).partition("/")
            return f"socket {socket} of {rig.name_of(host)}"
        case Under(Aspect.GEAR | Aspect.ADAPTERS, str(value)):
            return rig.name_of(value)
        case Under(Aspect.SUPPLY, str(value)):
            return rig.name_of(value)
        case _:
            return circumstance_text(thing)


def _trials(side: tuple[Try, ...]) -> str:
    return listed(tuple(dict.fromkeys(trial for tried in side for trial in tried.trials)))
