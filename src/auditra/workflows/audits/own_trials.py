"""Trials of the reviewer's own: any set-up, any procedure; the same on another host; and those that are skipped."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from auditra.core.claims.language import parse_claim
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact, TrialPlanned, TrialSkipped
from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE, Port, Role
from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.rig import Host, HostSocket, Rig
from auditra.core.model.setup import MINUTE_S, NetworkPath, Picture, Plugged, SetUp
from auditra.core.model.trial import DIRECT, Trial
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import all_procedures
from auditra.core.sanitize import sanitize
from auditra.core.wiring.gear import host_for, lead_to_host, reach

NOTHING = "nothing"
MAX_STREAMS = 16
_YES_NO = {"yes": True, "no": False}


@dataclass(frozen=True)
class OwnTrial:
    """A trial as it is typed: every part by its short name, lists with semicolons; empty where it is not noted."""

    procedure: str
    at: str
    gear: str
    host: str
    host_socket: str
    title: str = ""
    host_lead: str = ""
    lead: str = ""
    through: str = ""
    also: str = ""
    """What else is connected: ``H1 projector HD-1; P1 supply-90``."""
    running: str = ""
    claims: str = ""
    arranged: str = ""
    """What a person arranges that nothing else shows, such as ``inlet pulled during the copy``."""
    soaked_minutes: str = ""
    supply: str = ""
    """What feeds the device; ``none`` for none."""
    switched_off: str = ""
    """The ports with a display that is connected and switched off."""
    flipped: str = ""
    host_flipped: str = ""
    replugged: str = ""
    order: str = ""
    driver: str = ""
    recorder: str = ""
    wireless: str = ""
    streams: str = ""
    """How many run at once to a network peer."""
    battery_percent: str = ""
    departs: str = ""
    """In what it is set up otherwise than the seller intends, on purpose."""
    promised: str = ""
    """Whether a failure breaks a promise: yes unless it is ``no``."""
    why: str = ""


class OwnTrialRefused(InputError):
    """A part of an own trial that does not fit; `field` names it."""

    def __init__(self, field: str, what: str, why: str, do: str = "") -> None:
        super().__init__(sanitize(what, 60), why=why, do=do)
        self.field = field


def facts_of_own_trial(audit: Audit, own: OwnTrial) -> tuple[Fact, ...]:
    """The trial on the run sheet. Raises: OwnTrialRefused, InputError."""
    return (own_trial(audit, own),)


def own_trial(audit: Audit, own: OwnTrial) -> TrialPlanned:
    """What was typed as a planned trial. Raises: OwnTrialRefused, InputError."""
    reading = _Reading(audit, own)
    procedure = reading.procedure()
    port = reading.port()
    setup = reading.setup(port)
    trial = Trial(
        f"own{audit.entries + 1}", procedure, reading.claims(port, procedure), setup, reading.gear(), port,
        target=reading.target(procedure, port),
    )  # fmt: skip
    return TrialPlanned(trial, sanitize(own.title.strip(), 80), sanitize(own.why.strip(), 200))


def on_host(planned: PlannedTrial, audit: Audit, host: Host) -> TrialPlanned:
    """The same trial with the device on another host. Raises: InputError where its plug fits nothing there."""
    device = audit.device_of(planned.setup.device)
    old = (planned.setup.host, planned.setup.host_socket)
    upstream = device.first(Role.UPSTREAM)
    socket = _socket_on(audit.rig, planned, host, upstream)
    if socket is None:
        raise InputError(host.name, why="nothing of this trial fits any socket of it", do="Choose another host")
    lead = lead_to_host(audit.rig, upstream, socket) if upstream is not None else None
    plugged = tuple(
        each if (each.owner, each.socket) != old
        else replace(each, owner=host.id, socket=socket.id, lead=lead.id if lead is not None else None)
        if each.gear == DEVICE
        else replace(each, owner=host.id, socket=socket.id)
        for each in planned.setup.plugged
    )  # fmt: skip
    setup = replace(planned.setup, host=host.id, host_socket=socket.id, plugged=plugged)
    trial = Trial(
        f"own{audit.entries + 1}", planned.procedure, planned.claims, setup, planned.gear, planned.port, planned.target
    )
    return TrialPlanned(trial, f"{planned.title}, on the {host.name}", "does another host show the same?")


def skipping(planned: PlannedTrial, audit: Audit, why: str) -> tuple[Fact, ...]:
    """A trial of the run sheet that will not be run. Raises: InputError without a reason."""
    words = " ".join(why.split())
    if not words:
        raise InputError("the reason", why="it is empty", do="Write why this trial is skipped")
    return (TrialSkipped(_meant(planned, audit), sanitize(words, 200)),)


def wanted_again(planned: PlannedTrial, audit: Audit) -> tuple[Fact, ...]:
    """A skipped trial that will be run after all."""
    return (TrialSkipped(_meant(planned, audit), "", skips=False),)


def _meant(planned: PlannedTrial, audit: Audit) -> Trial:
    return Trial(
        f"own{audit.entries + 1}", planned.procedure, planned.claims, planned.setup, planned.gear, planned.port,
        planned.target,
    )  # fmt: skip


def _socket_on(rig: Rig, planned: PlannedTrial, host: Host, upstream: Port | None) -> HostSocket | None:
    if planned.port is not None and upstream is not None:
        found = host_for(replace(rig, hosts=(host,)), upstream)
        return found[1] if found is not None else None
    gear = rig.find(planned.gear)
    return next((each for each in host.sockets if gear and reach(rig, gear, each.connector)), None)


@dataclass(frozen=True)
class _Reading:
    """One own trial, read part by part."""

    audit: Audit
    own: OwnTrial

    @property
    def _rig(self) -> Rig:
        return self.audit.rig

    def procedure(self) -> str:
        typed = self.own.procedure.strip()
        known = all_procedures()
        found = next((each.id for each in known.values() if typed in (each.id, each.title, each.name)), None)
        if found is None:
            titles = ", ".join(each.title for each in known.values())
            raise OwnTrialRefused(
                "procedure", typed or "the procedure", "there is no such procedure", f"Known: {titles}"
            )
        return found

    def port(self) -> str | None:
        at = self.own.at.strip()
        if at == DIRECT:
            return None
        if not self.audit.device.has(at):
            known = ", ".join(port.id for port in self.audit.device.ports())
            raise OwnTrialRefused("at", at or "the port", "the device has no such port", f"It has {known}; or direct")
        return at

    def gear(self) -> str:
        typed = self.own.gear.strip()
        if typed in ("", NOTHING):
            return DEVICE
        return self._part("gear", typed)

    def setup(self, port: str | None) -> SetUp:
        host, socket = self._host()
        plugged = tuple(self._plugged(port, host.id, socket.id))
        minutes = self._number("soaked_minutes")
        departs = self._departs()
        flipped, host_flipped = self._truth("flipped"), self._truth("host_flipped")
        turned = (*((DEVICE,) if host_flipped is True else ()), *((self.gear(),) if flipped is True else ()))
        return SetUp(
            host.id, socket.id, plugged, running=self._running(), arranged=self._arranged(),
            soaked_s=minutes * MINUTE_S,
            device=self.audit.device.id, flipped=flipped, host_flipped=host_flipped, turned=turned,
            replugged=self._truth("replugged"), charger=self._supply(), pictures=self._pictures(plugged),
            departs=departs, unpromised=self._truth("promised") is False,
            order=self._order(), driver=self._words("driver"), recorder=self._words("recorder"),
            network=self._network(), battery_percent=self._number("battery_percent") if self.own.battery_percent.strip()
            else NOT_NOTED,
        )  # fmt: skip

    def claims(self, port: str | None, procedure: str) -> tuple[str, ...]:
        """Those that were named; else those of the port that this procedure tries."""
        named = [part for each in self.own.claims.split(";") if (part := each.strip())]
        by_text = {str(claim): claim.id for claim in self.audit.claims}
        for sentence in named:
            if sentence not in by_text:
                raise OwnTrialRefused("claims", sentence, "there is no such claim", "Choose one that is offered")
        if named:
            return tuple(by_text[sentence] for sentence in named)
        return tuple(
            claim.id for claim in self.audit.claims if claim.promise.procedure == procedure and port in claim.ports
        )

    def target(self, procedure: str, port: str | None) -> float:
        """The largest figure that the claims of this port and procedure name."""
        ids = set(self.claims(port, procedure))
        return max((claim.promise.target for claim in self.audit.claims if claim.id in ids), default=0.0)

    def _host(self) -> tuple[Host, HostSocket]:
        typed = self.own.host.strip()
        host = next((each for each in self._rig.hosts if typed in (each.id, each.name)), None)
        if host is None:
            known = ", ".join(each.id for each in self._rig.hosts)
            raise OwnTrialRefused("host", typed or "the host", "the rig has no such host", f"It has {known}")
        socket = host.socket(self.own.host_socket.strip())
        if socket is None:
            known = ", ".join(each.id for each in host.sockets)
            raise OwnTrialRefused(
                "host_socket", self.own.host_socket.strip() or "the host socket", f"the {host.name} has no such socket",
                f"It has {known}",
            )  # fmt: skip
        return host, socket

    def _plugged(self, port: str | None, host: str, socket: str) -> Sequence[Plugged]:
        gear, lead = self.gear(), self._lead("lead")
        through = tuple(self._part("through", part) for each in self.own.through.split(";") if (part := each.strip()))
        also, plugged = self._also(), list[Plugged]()
        upstream = self.audit.device.first(Role.UPSTREAM)
        taken = {(each.owner, each.socket) for each in also}
        if gear != DEVICE and port is not None and gear not in {each.gear for each in also}:
            taken.add((DEVICE, port))
        if port is not None and upstream is not None and (DEVICE, upstream.id) not in taken:
            plugged.append(Plugged(host, socket, DEVICE, self._lead("host_lead")))
        if gear != DEVICE and gear not in {each.gear for each in also}:
            owner, spot = (DEVICE, port) if port is not None else (host, socket)
            plugged.append(Plugged(owner, spot, gear, lead, through))
        return [*plugged, *also]

    def _also(self) -> Sequence[Plugged]:
        return [self._other(part) for each in self.own.also.split(";") if (part := each.strip())]

    def _other(self, text: str) -> Plugged:
        spoken, *in_line = text.split(" through ")
        place, *rest = spoken.split()
        if not rest or len(rest) > 2:
            raise OwnTrialRefused(
                "also", text, "expected a port, the gear in it, and its lead", "Such as H1 projector HD-1"
            )
        through = tuple(self._part("also", part.strip()) for part in in_line)
        owner, slash, socket = place.partition("/")
        if not slash:
            owner, socket = DEVICE, place
            if not self.audit.device.has(place):
                raise OwnTrialRefused("also", place, "the device has no such port")
        lead = rest[1] if len(rest) == 2 else None
        if lead is not None and lead not in {each.id for each in self._rig.leads}:
            raise OwnTrialRefused("also", lead, "the rig has no such lead")
        return Plugged(owner, socket, self._part("also", rest[0]), lead, through)

    def _running(self) -> tuple[str, ...]:
        return tuple(
            str(parse_claim(text, claim_id="")) for each in self.own.running.split(";") if (text := each.strip())
        )

    def _arranged(self) -> tuple[str, ...]:
        return tuple(sanitize(words, 80) for each in self.own.arranged.split(";") if (words := " ".join(each.split())))

    def _part(self, field: str, typed: str) -> str:
        found = next((part for part in self._rig.gear() if typed in (part.id, part.name)), None)
        if found is None:
            raise OwnTrialRefused(field, typed, "the rig has no such part", "Add it in stage 3, or choose another")
        return found.id

    def _lead(self, field: str) -> str | None:
        typed = getattr(self.own, field).strip()
        if typed in ("", NOTHING):
            return None
        if typed not in {each.id for each in self._rig.leads}:
            raise OwnTrialRefused(field, typed, "the rig has no such lead", "Add it in stage 3, or choose another")
        return str(typed)

    def _number(self, field: str) -> float:
        text = getattr(self.own, field).strip().removesuffix("%").removesuffix("min").strip()
        if not text:
            return 0.0
        try:
            value = float(text)
        except ValueError:
            value = -1.0
        if not 0 <= value < 1e5:
            raise OwnTrialRefused(field, text, "this is no such number")
        return value

    def _departs(self) -> tuple[Aspect, ...]:
        """What is named, and what can only be meant so."""
        named = [part for each in self.own.departs.split(";") if (part := each.strip())]
        for name in named:
            if name not in set(Aspect):
                raise OwnTrialRefused("departs", name, "there is no such thing to vary", "Choose one that is offered")
        meant = {
            Aspect.SIDE: self._truth("flipped") is True, Aspect.HOST_SIDE: self._truth("host_flipped") is True,
            Aspect.REPLUGGED: self._truth("replugged") is True, Aspect.IDLE: bool(self.own.switched_off.strip()),
        }  # fmt: skip
        return tuple(dict.fromkeys((*map(Aspect, named), *(aspect for aspect, is_meant in meant.items() if is_meant))))

    def _supply(self) -> Noted[str]:
        typed = self.own.supply.strip()
        return NOT_NOTED if not typed else None if typed == "none" else self._part("supply", typed)

    def _pictures(self, plugged: Sequence[Plugged]) -> Noted[tuple[Picture, ...]]:
        """Displays that are switched off; and those beside several ports that are measured at once."""
        off = {part for each in self.own.switched_off.split(";") if (part := each.strip())}
        displays = {each.id for each in self._rig.displays}
        there = [each for each in plugged if each.owner == DEVICE and each.gear in displays]
        if off - {each.socket for each in there}:
            port = min(off - {each.socket for each in there})
            raise OwnTrialRefused("switched_off", port, "no display is connected there", "Connect it in also connected")
        beside = all_procedures()[self.procedure()].all_at_once
        pictures = tuple(
            Picture(each.socket, each.gear, on=each.socket not in off)
            for each in there if each.socket in off or beside
        )  # fmt: skip
        return pictures or NOT_NOTED

    def _truth(self, field: str) -> Noted[bool]:
        text = getattr(self.own, field).strip().lower()
        if not text:
            return NOT_NOTED
        if text not in _YES_NO:
            raise OwnTrialRefused(field, text, "this is neither yes nor no")
        return _YES_NO[text]

    def _words(self, field: str) -> Noted[str]:
        text = " ".join(getattr(self.own, field).split())
        return NOT_NOTED if not text else None if text == "none" else sanitize(text, 80)

    def _order(self) -> Noted[tuple[str, ...]]:
        parts = tuple(part for each in self.own.order.split(",") if (part := each.strip()))
        return parts or NOT_NOTED

    def _network(self) -> Noted[NetworkPath]:
        wireless, streams = self._truth("wireless"), self._streams()
        if wireless is NOT_NOTED and streams is NOT_NOTED:
            return NOT_NOTED
        return NetworkPath(wireless=wireless, streams=streams)

    def _streams(self) -> Noted[int]:
        text = self.own.streams.strip()
        if not text:
            return NOT_NOTED
        if not text.isascii() or not text.isdigit() or not 1 <= int(text[:4]) <= MAX_STREAMS:
            raise OwnTrialRefused("streams", text, f"this is no number from 1 to {MAX_STREAMS}")
        return int(text)
