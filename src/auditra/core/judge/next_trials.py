"""The next trial: for each open question, the trials that split what is left, by what they decide per plug move."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.reasoning.elimination import Elimination
from auditra.core.judge.reasoning.explained import named
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.reasoning.tries import Try
from auditra.core.judge.records import Counted
from auditra.core.model.circumstance import Aspect, AtPort, Circumstance, OnHost, Running, Through, Under
from auditra.core.model.device import DEVICE, Port, Role
from auditra.core.model.noted import NOT_NOTED
from auditra.core.model.rig import Drive, Lead, Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import DIRECT
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import procedure_of
from auditra.core.wiring.gear import host_for, reach
from auditra.core.wiring.setups import Stand


@dataclass(frozen=True)
class NextTrial:
    """A trial that would tell some suspects from the others; without one, what must be borrowed for it."""

    claim: str
    """The id of the claim that it is asked for."""
    question: str
    suspects: tuple[str, ...]
    """Who is left, in words."""
    decides: tuple[str, ...]
    """Those that it leaves out: if it works, the cause is among them; if it fails, among the others."""
    trial: PlannedTrial | None = None
    moves: int = 0
    borrow: str = ""

    @property
    def worth(self) -> float:
        """What it decides per plug move: the smaller side of the split, as it is sure to be ruled out or in."""
        others = max(1, len(self.suspects) - len(self.decides))
        return min(len(self.decides), others) / (1 + self.moves) if self.trial is not None else 0.0


@dataclass(frozen=True)
class _Variant:
    """A set-up without a suspect; None with what is lacking where the rig has nothing to put in its place."""

    setup: SetUp | None
    title: str
    borrow: str = ""
    gear: str | None = None
    port: str | None = None
    is_direct: bool = False


def next_trials(inquiry: Inquiry) -> tuple[NextTrial, ...]:
    """For each claim whose cause is still open, the trials that would split what is left, the best first."""
    found: list[NextTrial] = []
    for verdict in inquiry.investigated:
        elimination = inquiry.elimination_of(verdict)
        if elimination is not None and not elimination.cause:
            found += sorted(_of_claim(inquiry, verdict, elimination), key=lambda each: (-each.worth, each.moves))
    return tuple(found)


def _of_claim(inquiry: Inquiry, verdict: ClaimVerdict, elimination: Elimination) -> Iterator[NextTrial]:
    left = [thing for explanation in elimination.left if len(explanation) == 1 for thing in explanation]
    base = next((trial for tried in reversed(elimination.failed) for name in reversed(tried.trials)
                 if (trial := inquiry.counted(name)) is not None), None)  # fmt: skip
    if len(left) < 2 or base is None:
        return
    words = {thing: named((thing,), inquiry.audit.rig) for thing in left}
    question = f"why does {verdict.claim} fail?"
    seen: set[tuple[SetUp, str | None]] = {(each.setup, each.port) for each in inquiry.records.counted}
    for thing in left:
        for variant in _without(thing, base, verdict, inquiry, elimination.failed):
            decides = tuple(words[each] for each in left if each is thing or _goes_too(each, variant))
            common = (verdict.claim.id, question, tuple(words.values()), decides)
            if variant.setup is None:
                yield NextTrial(*common, borrow=variant.borrow)
            elif (variant.setup, variant.port) not in seen:
                seen.add((variant.setup, variant.port))
                planned = _planned(variant, base, verdict)
                moves = planned.moves_in(inquiry.audit)
                yield NextTrial(*common, planned, len(moves))


def _goes_too(thing: Circumstance, variant: _Variant) -> bool:
    """What a direct trial leaves out besides: the device, and all that is done with it."""
    of_device = isinstance(thing, AtPort | Through | Running) or thing.aspect in (
        Aspect.SUPPLY, Aspect.IDLE, Aspect.ORDER, Aspect.REPLUGGED, Aspect.SIDE, Aspect.HOST_SIDE,
    )  # fmt: skip
    return variant.is_direct and of_device


def _planned(variant: _Variant, base: Counted, verdict: ClaimVerdict) -> PlannedTrial:
    assert variant.setup is not None
    trial = base.record.trial
    procedure = procedure_of(trial.procedure)
    of = (procedure.baseline or procedure.id) if variant.is_direct else procedure.id
    return PlannedTrial(
        title=variant.title, why=f"to find out why {verdict.claim} fails", procedure=of, claims=(verdict.claim.id,),
        setup=variant.setup, gear=variant.gear or trial.gear, port=None if variant.is_direct else variant.port,
        target=verdict.claim.promise.target,
    )  # fmt: skip


def _without(
    thing: Circumstance, base: Counted, verdict: ClaimVerdict, inquiry: Inquiry, failed: Sequence[Try]
) -> Iterator[_Variant]:
    """Set-ups like that of a failing trial, but for one suspect."""
    setup, port = base.setup, base.port
    place = port or DIRECT
    match thing:
        case AtPort() | Through():
            yield from _direct(base, inquiry)
            yield from _twins(base, verdict, inquiry)
        case Under(Aspect.LEAD, str(lead)):
            yield _other_lead(lead, base, inquiry.audit.rig, failed)
        case Under(Aspect.ADAPTERS, str(adapter)):
            kept = tuple(
                replace(each, through=tuple(part for part in each.through if part != adapter)) for each in setup.plugged
            )
            yield _Variant(replace(setup, plugged=kept), f"{place} without the {_name(inquiry, adapter)}", port=port)
        case Under(Aspect.GEAR, str(gear)):
            yield _other_gear(gear, base, verdict, inquiry)
        case OnHost(host):
            yield _other_host(host, base, inquiry)
        case Under(Aspect.HOST_SOCKET, str(socket)):
            yield _other_socket(socket, base, inquiry)
        case Under(Aspect.SUPPLY, supply):
            yield _other_supply(supply, base, inquiry)
        case _:
            yield from _other_state(thing, base)


def _name(inquiry: Inquiry, gear: str) -> str:
    return inquiry.audit.rig.name_of(gear)


def _direct(base: Counted, inquiry: Inquiry) -> Iterator[_Variant]:
    """The same gear on the host itself, with the lead that it had where that fits."""
    rig = inquiry.audit.rig
    host = rig.host(base.setup.host)
    socket = host.socket(base.setup.host_socket) if host is not None else None
    gear = rig.find(base.gear_at(base.port or DIRECT))
    if host is None or socket is None or gear is None or base.port is None:
        return
    setup = Stand(inquiry.audit.device_of(base.setup.device), rig, host, socket).on_host(gear)
    if setup is not None:
        yield _Variant(setup, f"{gear.name}, direct", gear=gear.id, is_direct=True)


def _twins(base: Counted, verdict: ClaimVerdict, inquiry: Inquiry) -> Iterator[_Variant]:
    """The same gear and lead in another port with the same connector."""
    device = inquiry.audit.device_of(verdict.claim.device)
    here = device.port(base.port or "")
    for twin in device.ports() if here is not None else ():
        if here is not None and twin.id != here.id and twin.connector == here.connector:
            yield _Variant(_moved(base.setup, here, twin), f"{twin.id} with the same gear", port=twin.id)
            return


def _moved(setup: SetUp, here: Port, there: Port) -> SetUp:
    moved = tuple(
        replace(each, socket=there.id) if (each.owner, each.socket) == (DEVICE, here.id) else each
        for each in setup.plugged
        if (each.owner, each.socket) != (DEVICE, there.id)
    )
    return replace(setup, plugged=moved)


def _other_lead(name: str, base: Counted, rig: Rig, failed: Iterable[Try]) -> _Variant:
    lead = next((each for each in rig.leads if each.id == name), None)
    tried = {thing.value for one in failed for thing in one.suspects
             if isinstance(thing, Under) and thing.aspect is Aspect.LEAD}  # fmt: skip
    ends = lead.ends if lead is not None else None
    in_use = {each.lead for each in base.setup.plugged}
    others: list[Lead] = [
        each for each in rig.leads if ends is not None and each.joins(*ends) and each.id not in tried | in_use
    ]
    if not others:
        between = f" from {ends[0]} to {ends[1]}" if ends is not None else f" like {name}"
        return _Variant(None, "", f"another lead{between}")
    swapped = tuple(replace(each, lead=others[0].id) if each.lead == name else each for each in base.setup.plugged)
    return _Variant(
        replace(base.setup, plugged=swapped), f"{base.port or DIRECT} with lead {others[0].id}", port=base.port,
        is_direct=base.direct,
    )  # fmt: skip


def _other_gear(name: str, base: Counted, verdict: ClaimVerdict, inquiry: Inquiry) -> _Variant:
    rig = inquiry.audit.rig
    gear = rig.find(name)
    promise = verdict.claim.promise
    alike = [
        each
        for each in rig.gear()
        if gear is not None
        and type(each) is type(gear)
        and each.connector == gear.connector
        and each.id != name
        and (promise.margin(each) or 0.0) >= 1
    ]
    if not alike:
        what = "drive" if isinstance(gear, Drive) else "piece of gear"
        return _Variant(None, "", f"another {what} for {promise}")
    swapped = tuple(replace(each, gear=alike[0].id) if each.gear == name else each for each in base.setup.plugged)
    return _Variant(
        replace(base.setup, plugged=swapped), f"{base.port or DIRECT} with the {alike[0].name}", gear=alike[0].id,
        port=base.port, is_direct=base.direct,
    )  # fmt: skip


def _other_host(name: str, base: Counted, inquiry: Inquiry) -> _Variant:
    rig, device = inquiry.audit.rig, inquiry.audit.device_of(base.setup.device)
    others = replace(rig, hosts=tuple(host for host in rig.hosts if host.id != name))
    upstream = next((port for port in device.ports() if port.connector.endswith("plug")), None)
    found = host_for(others, upstream)
    if found is None:
        return _Variant(None, "", "another host with a socket for the device's plug")
    host, socket = found
    return _on(base, host.id, socket.id, f"{base.port or DIRECT} on {host.name}")


def _other_socket(value: str, base: Counted, inquiry: Inquiry) -> _Variant:
    name, _, used = value.partition("/")
    host = inquiry.audit.rig.host(name)
    socket = host.socket(used) if host is not None else None
    others = [each for each in host.sockets if socket is not None and each.id != used
              and each.connector == socket.connector] if host is not None else []  # fmt: skip
    if not others or host is None:
        return _Variant(None, "", f"a host with a second socket like {used}")
    return _on(base, name, others[0].id, f"{base.port or DIRECT} in socket {others[0].id} of {host.name}")


def _on(base: Counted, host: str, socket: str, title: str) -> _Variant:
    """The same, connected to another socket."""
    old = (base.setup.host, base.setup.host_socket)
    moved: tuple[Plugged, ...] = tuple(
        replace(each, owner=host, socket=socket) if (each.owner, each.socket) == old else each
        for each in base.setup.plugged
    )
    setup = replace(base.setup, host=host, host_socket=socket, plugged=moved)
    return _Variant(setup, title, port=base.port, is_direct=base.direct)


def _other_supply(name: object, base: Counted, inquiry: Inquiry) -> _Variant:
    """Another supply at the inlet, the strongest there is."""
    rig, setup = inquiry.audit.rig, base.setup
    inlet = inquiry.audit.device_of(setup.device).first(Role.INLET)
    others = [supply for supply in rig.supplies if supply.id != name and inlet is not None
              and reach(rig, supply, inlet.connector) is not None]  # fmt: skip
    if inlet is None or not others:
        return _Variant(None, "", "a supply for its inlet")
    best = max(others, key=lambda supply: supply.watts)
    choice = reach(rig, best, inlet.connector)
    kept = tuple(each for each in setup.plugged if (each.owner, each.socket) != (DEVICE, inlet.id))
    plugged = (*kept, Plugged(DEVICE, inlet.id, best.id, choice.lead_id if choice else None))
    fed = replace(setup, plugged=plugged, charger=NOT_NOTED)
    return _Variant(fed, f"{base.port or DIRECT} with the {best.name}", port=base.port)


def _other_state(thing: Circumstance, base: Counted) -> Iterator[_Variant]:
    """The same in the other state: without what else ran, not soaked, not flipped, in the other order."""
    setup, place = base.setup, base.port or DIRECT
    spot = thing.claim.partition(" ")[0] if isinstance(thing, Running) else getattr(thing, "value", "")
    changed: dict[Aspect, tuple[str, Callable[[], SetUp]]] = {
        Aspect.RUNNING: (f"with {spot} not in use", lambda: _not_running(setup, thing)),
        Aspect.IDLE: (f"with nothing in {spot}", lambda: _unplugged(setup, thing)),
        Aspect.SOAK: ("before any full load", lambda: replace(setup, soaked_s=0.0)),
        Aspect.SIDE: ("with the plug turned back", lambda: replace(setup, flipped=False, turned=_host_plug(setup))),
        Aspect.HOST_SIDE: (
            "with the host plug turned back",
            lambda: replace(setup, host_flipped=False, turned=tuple(each for each in setup.turned if each != DEVICE)),
        ),
        Aspect.REPLUGGED: ("without connecting it again", lambda: replace(setup, replugged=False)),
        Aspect.ORDER: ("connected in the other order", lambda: replace(setup, order=_reversed(setup))),
        Aspect.DRIVER: ("without the driver", lambda: replace(setup, driver=None)),
        Aspect.RECORDER: ("with nothing recording", lambda: replace(setup, recorder=None)),
    }
    words, make = changed.get(thing.aspect, ("", None))
    if make is not None:
        departs = tuple(each for each in setup.departs if each is not thing.aspect)
        yield _Variant(replace(make(), departs=departs), f"{place} {words}", port=base.port)


def _host_plug(setup: SetUp) -> tuple[str, ...]:
    """Of the plugs that are turned over, that at the host."""
    return tuple(each for each in setup.turned if each == DEVICE)


def _not_running(setup: SetUp, thing: Circumstance) -> SetUp:
    claim = thing.claim if isinstance(thing, Running) else ""
    port = claim.partition(" ")[0]
    stays = tuple(each for each in setup.plugged if (each.owner, each.socket) != (DEVICE, port))
    return replace(setup, running=tuple(each for each in setup.running if each != claim), plugged=stays)


def _unplugged(setup: SetUp, thing: Circumstance) -> SetUp:
    spot = thing.value if isinstance(thing, Under) else None
    stays = tuple(each for each in setup.plugged if (each.owner, each.socket) != (DEVICE, spot))
    return replace(setup, plugged=stays)


def _reversed(setup: SetUp) -> tuple[str, ...]:
    return tuple(reversed(setup.order)) if setup.order is not NOT_NOTED and isinstance(setup.order, tuple) else ()
