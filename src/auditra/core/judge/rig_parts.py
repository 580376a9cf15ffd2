"""The parts of the rig in one trial: what each carries, and which of them could explain a low value."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property

from auditra.core.claims.language import parse_claim
from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.decide.evidence import Clearing
from auditra.core.decide.reading_text import format_of
from auditra.core.decide.rules import CLEARLY_MORE
from auditra.core.judge.part_limits import (
    NO_LIMIT,
    UNKNOWN,
    Limit,
    gear_limit,
    hop_limits,
    lead_limit,
    rate_limit,
    socket_limit,
)
from auditra.core.judge.records import Counted, Records, lead_part, least_of, socket_part
from auditra.core.links.ethernet import tcp_ceiling_bps
from auditra.core.links.usb import payload_ceiling_bps
from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import PAYLOAD_RATES, Grade, Number, Quantity, Reading
from auditra.core.model.rig import Adapter, Drive, Host, HostSocket, Load, Origin, Peer, Supply
from auditra.core.model.trial import DIRECT, ProcedureId
from auditra.core.quantities.display import bit_rate
from auditra.core.wiring.trial_profile import host_lead, lead_at

Reached = Callable[[Counted, str], bool]
"""Whether a trial reached, at a place, what was promised."""
_DEFAULT_VOLTS = 5.0
"""What a USB port gives before anything is agreed. Source: USB 2.0, 7.2.1."""


_CARRIED_BY_LEADS = frozenset({Quantity.LINK, *PAYLOAD_RATES})
_TWO = 2
BITS_A_PIXEL = 24
"""Of a picture that nothing is known of: 8 bits a sample, full colour."""
_MAY_DIFFER = frozenset({Aspect.LEAD, Aspect.HOST_LEAD, Aspect.HOST, Aspect.HOST_SOCKET})
_HOST_DRAWS = Limit("", math.inf, 0.0)
"""The host itself takes the power: how much it would is known only once it was seen to."""


@dataclass(frozen=True)
class Doubt:
    """A part that may explain a low value; `known` where its own record says that it does."""

    text: str
    known: bool = False

    @property
    def clearing(self) -> Clearing:
        return Clearing(False, self.text, self.known)


@dataclass(frozen=True)
class RigParts:
    """The parts between host and gear in one trial at one port."""

    records: Records
    trial: Counted
    port: str

    def of(self, part: str, quantity: Quantity | str) -> Limit:
        """A part's limit by its own record."""
        kind, _, name = part.partition(" ")
        if kind == "socket":
            return self._of_socket(quantity)
        if kind == "lead":
            return self._of_lead(name, quantity)
        adapter = self.records.rig.find(name)
        if not isinstance(adapter, Adapter) or adapter.origin is Origin.SHIPPED:
            return NO_LIMIT
        return rate_limit(f"the {adapter.name}", adapter.data_bps, quantity)

    def doubt(
        self, other: Counted | None, needed: float, quantity: Quantity | str | None, place: str | None = None
    ) -> Doubt | None:
        """A part of this trial that is not in the other one, and that nothing clears; None where all are cleared.

        Beside no other trial, the gear and what feeds the device must be good for it too.
        """
        known = set(other.parts_at(None if place in (None, DIRECT) else place)) if other is not None else set()
        for part in self.trial.parts_at(self.port):
            limit = NO_LIMIT if part in known else self.of(part, quantity or Quantity.LINK)
            if limit.most < needed:
                text = f"{limit.part or part} is noted to carry {show_value(quantity, limit.most)} at most"
                return Doubt(text, known=True)
            if limit.sure < needed * (1 - 1e-9) and not self._reached_with(part, quantity, needed):
                return Doubt(f"{limit.part or part} was not seen to carry that")
            if part not in known:
                doubt = self._doubtful_lead(part, quantity, needed) or self._doubtful_socket(part, quantity, needed)
                if doubt is not None:
                    return doubt
        return self._weak_gear(quantity, needed) if other is None and quantity is not None else None

    def _doubtful_lead(self, part: str, quantity: Quantity | str | None, needed: float) -> Doubt | None:
        """A lead is good by its record, but was never seen to carry that: another lead in its place tells.

        None where it was seen to, where another one does no better, and of a lead that comes with the device.
        """
        lead = self.records.lead(part.removeprefix("lead ")) if part.startswith("lead ") else None
        if lead is None or lead.origin is Origin.SHIPPED or quantity not in _CARRIED_BY_LEADS:
            return None
        if self._reached_with(part, quantity, needed) or self._linked_through(lead.id, quantity, needed):
            return None
        others = list(self._with_another_lead(lead.id, quantity))
        reading = self.records.reading(self.trial, self.port, quantity)
        clearly_more = CLEARLY_MORE * least_of(quantity, reading) if reading is not None else math.inf
        better = next((name for name, _, value in others if value >= min(needed, clearly_more)), None)
        if better is not None:
            return Doubt(f"lead {better} instead of {lead.id} carries clearly more", known=True)
        alone = len(self.records.rig.leads_between(*lead.ends)) < _TWO
        if alone or any(host == self.trial.setup.host for _, host, _ in others):
            return None
        return Doubt(f"nothing shows that lead {lead.id} carries that: another lead would")

    def _differs_in_lead_alone(self, other: Counted) -> bool:
        """All else that was noted of two trials is the same, but for the host, which brings its own sockets."""
        ours, theirs = (self.records.profile(each, self.port) for each in (self.trial, other))
        return all(ours[aspect] == theirs[aspect] for aspect in (ours.keys() & theirs.keys()) - _MAY_DIFFER)

    @property
    def fed_by(self) -> Supply | None:
        """The reviewer's own supply that feeds the device; None for one that came with it."""
        found = (self.records.rig.find(each.gear) for each in self.trial.setup.plugged if each.owner == DEVICE)
        return next((gear for gear in found if isinstance(gear, Supply) and gear.origin is not Origin.SHIPPED), None)

    @property
    def host_that_feeds(self) -> tuple[Host | None, HostSocket | None]:
        """The host and its socket, where nothing else feeds the device."""
        setup, rig = self.trial.setup, self.records.rig
        if any(isinstance(rig.find(each.gear), Supply) for each in setup.plugged if each.owner == DEVICE):
            return None, None
        host = rig.host(setup.host)
        return host, host.socket(setup.host_socket) if host is not None else None

    @property
    def running_w(self) -> float:
        """What is promised of other ports that give power in this trial, in watts."""
        running = (parse_claim(words, claim_id="").promise for words in self.trial.setup.running)
        return sum(each.target for each in running if each.procedure == ProcedureId.POWER_OUT)

    @property
    def load_is_checked(self) -> bool:
        """Whether the load of this trial was read beside a meter in line once; without a meter nobody can tell."""
        rig, mine = self.records.rig, self.trial.gear
        loads = {load.id for load in rig.loads if load.id in mine}
        meters = {meter.id for meter in rig.meters if meter.is_in_line}
        if not loads or not meters or not rig.supplies:
            return True
        return any(
            meters & set(each.through) for other in self.records.counted for each in other.setup.plugged
            if loads & {*other.gear, *(plugged.owner for plugged in other.setup.plugged)}
        )  # fmt: skip

    def _linked_through(self, lead: str, quantity: Quantity | str, needed: float) -> bool:
        """Whether the link that gear made over its own lead has room for so much: then the lead holds nothing back."""
        if quantity not in PAYLOAD_RATES or lead == host_lead(self.trial.setup):
            return False
        link = self.records.reading(self.trial, self.port, Quantity.LINK)
        ceiling = tcp_ceiling_bps if self._is_network else payload_ceiling_bps
        return link is not None and ceiling(min(link.values)) >= needed

    def _doubtful_socket(self, part: str, quantity: Quantity | str | None, needed: float) -> Doubt | None:
        """A host's socket is good by its record, but without the device it gave less to gear that is good for more."""
        if part != socket_part(self.trial.setup) or quantity not in PAYLOAD_RATES:
            return None
        best = 0.0
        for other in self.records.with_part(part):
            gear = self.records.rig.find(other.record.trial.gear)
            moved = other.at(DIRECT).of(*PAYLOAD_RATES).numbers() if other.direct else ()
            for reading in moved:
                if isinstance(gear, Drive) and gear_limit(gear, reading.quantity).most >= needed:
                    best = max(best, estimate(reading).high)
        name = self._of_socket(Quantity.LINK).part or part
        if not best and not self._reached_with(part, quantity, needed):
            better = self._better_on_another_host(name, quantity, needed)
            unseen = Doubt(f"nothing shows that {name} carries that: a drive in it would")
            return better or (unseen if self._is_network else None)
        if not 0 < best < needed:
            return None
        return Doubt(f"{name} gave {show_value(quantity, best)} at most without the device", known=True)

    def _better_on_another_host(self, socket: str, quantity: Quantity | str, needed: float) -> Doubt | None:
        """A socket that was never seen to carry that, where the same gear at the same port did so on another host."""
        gear = self.trial.gear_at(self.port)
        for other in self.records.with_gear(gear):
            elsewhere = not other.direct and other.setup.host != self.trial.setup.host
            reading = self.records.reading(other, self.port, quantity) if elsewhere else None
            if reading is not None and least_of(quantity, reading) >= needed:
                return Doubt(f"{socket} was not seen to carry that, and another host's does")
        return None

    def _with_another_lead(self, lead: str, quantity: Quantity | str) -> Iterator[tuple[str, str, float]]:
        """What was reached at this port with the same gear and another lead in the same place: that lead, the host,
        the value."""
        to_host = host_lead(self.trial.setup) == lead
        gear = self.trial.gear_at(self.port)
        for other in self.records.with_gear(gear):
            if other.direct or other.gear_at(self.port) != gear:
                continue
            its_lead = host_lead(other.setup) if to_host else lead_at(other.setup, gear, self.port)
            reading = self.records.reading(other, self.port, quantity)
            if its_lead not in (None, lead) and reading is not None and self._differs_in_lead_alone(other):
                yield str(its_lead), other.setup.host, least_of(quantity, reading)

    def picture_doubt(self, other: Counted, place: str, reached: Reached, bits_bps: float) -> Doubt | None:
        """A lead or adapter that is not in the other trial, and that nothing shows to carry such a picture."""
        known = {*other.parts_at(None if place == DIRECT else place), socket_part(self.trial.setup)}
        for part in (part for part in self.trial.parts_at(self.port) if part not in known):
            limit = self.of(part, Quantity.LINK)
            good = (each for each in self.records.with_part(part) for spot in each.places if reached(each, spot))
            if next(good, None) is not None:
                continue
            if limit.sure < bits_bps or not limit.sure:
                return Doubt(f"{limit.part or part} was not seen to carry that")
            if (doubt := self._doubtful_picture_lead(part, reached)) is not None:
                return doubt
        return None

    def _doubtful_picture_lead(self, part: str, reached: Reached) -> Doubt | None:
        """The same of a lead for pictures: good by its record, and never seen to carry one like this."""
        lead = self.records.lead(part.removeprefix("lead ")) if part.startswith("lead ") else None
        if lead is None or lead.origin is Origin.SHIPPED or len(self.records.rig.leads_between(*lead.ends)) < _TWO:
            return None
        gear = self.trial.gear_at(self.port)
        others = [
            (name, reached(other, self.port)) for other in self._at_this_port_on_this_host()
            if (name := lead_at(other.setup, gear, self.port)) not in (None, lead.id)
            and self._differs_in_lead_alone(other)
        ]  # fmt: skip
        better = next((name for name, shows in others if shows), None)
        if better is not None:
            return Doubt(f"with lead {better} instead of {lead.id} it is shown", known=True)
        return None if others else Doubt(f"nothing shows that lead {lead.id} carries that: another lead would")

    def _at_this_port_on_this_host(self) -> Iterator[Counted]:
        gear = self.trial.gear_at(self.port)
        for other in self.records.with_gear(gear):
            here = not other.direct and other.gear_at(self.port) == gear
            if here and other.setup.host == self.trial.setup.host:
                yield other

    def exceeded(self, quantity: Quantity | str, shown: Estimate) -> Limit | None:
        """A part that could not have carried so much; a gear's own figures are round, and left out."""
        narrowest = self.narrowest(quantity)
        return narrowest if shown.low > narrowest.most else None

    def most(self, quantity: Quantity | str) -> float:
        """The most that the parts carry, by their records."""
        return self.narrowest(quantity).most

    def narrowest(self, quantity: Quantity | str) -> Limit:
        """The part that carries least, by its record."""
        if quantity not in PAYLOAD_RATES:
            return NO_LIMIT
        key = ("narrowest", self.trial.wiring, self.port, quantity)
        kept: Limit | None = self.records.kept.get(key)
        if kept is None:
            kept = self.records.kept[key] = min(self._limits(quantity), key=lambda limit: limit.most)
        return kept

    def way(self, quantity: Quantity | str) -> tuple[Limit, ...]:
        """The limit of each part from the host to the gear, by its record; of power, what feeds the device too."""
        parts = [self.of(part, quantity) for part in self.trial.parts_at(self.port)]
        behind = [limit for limit in self._behind(quantity) if limit.part]
        hops = hop_limits(self._gear, quantity) if isinstance(self._gear, Peer) else []
        return tuple(limit for limit in (*parts, *hops, *behind) if limit.part)

    def _limits(self, quantity: Quantity | str) -> Iterator[Limit]:
        to_host = host_lead(self.trial.setup)
        for part in self.trial.parts_at(self.port):
            key = ("limit", part, quantity, self._is_network, to_host is not None and part == lead_part(to_host))
            kept: Limit | None = self.records.kept.get(key)
            if kept is None:
                kept = self.records.kept[key] = self.of(part, quantity)
            yield kept
        if isinstance(self._gear, Peer):
            yield gear_limit(self._gear, quantity)
            yield from hop_limits(self._gear, quantity)

    @cached_property
    def _gear(self) -> object:
        return self.records.rig.find(self.trial.gear_at(self.port))

    @property
    def _is_network(self) -> bool:
        return isinstance(self._gear, Peer)

    def _of_socket(self, quantity: Quantity | str) -> Limit:
        """Of its data; its power is looked at only where the device is fed by it."""
        if quantity in (Quantity.POWER, Quantity.OFFERED) or (quantity is Quantity.LINK and self._is_network):
            return NO_LIMIT
        setup = self.trial.setup
        return socket_limit(self.records.rig, setup.host, setup.host_socket, quantity)

    def _of_lead(self, name: str, quantity: Quantity | str) -> Limit:
        lead = self.records.lead(name)
        if lead is None:
            return UNKNOWN
        to_host = name == host_lead(self.trial.setup)
        if to_host and self._is_network and quantity is Quantity.LINK:
            return NO_LIMIT
        return lead_limit(lead, quantity, self._volts, on_network_side=self._is_network and not to_host)

    @property
    def _volts(self) -> float:
        """At which the watts go through the leads: what the load asks for, else what the supply has."""
        gear = [self.records.rig.find(each) for plugged in self.trial.setup.plugged
                for each in (plugged.gear, plugged.owner)]  # fmt: skip
        asked = [float(each.asks_v) for each in gear if isinstance(each, Load) and isinstance(each.asks_v, float | int)]
        return max(asked or [each.volts for each in gear if isinstance(each, Supply)], default=_DEFAULT_VOLTS)

    def _weak_gear(self, quantity: Quantity | str, needed: float) -> Doubt | None:
        for limit in self._behind(quantity):
            if limit.most < needed:
                return Doubt(f"{limit.part} is noted to give {show_value(quantity, limit.most)} at most", known=True)
            if quantity in (Quantity.POWER, Quantity.OFFERED) and limit.sure < needed:
                if limit is _HOST_DRAWS and self._reached_with(socket_part(self.trial.setup), quantity, needed):
                    continue
                return Doubt(f"{limit.part or 'what feeds it'} was not seen to give that")
        return None

    def _behind(self, quantity: Quantity | str) -> Iterator[Limit]:
        """The gear; of power, what feeds the device too: its supply, or the host where there is none."""
        rig, setup = self.records.rig, self.trial.setup
        measured_with = self.trial.gear_at(self.port)
        if quantity is not Quantity.OFFERED:  # whoever asks only reads what is offered
            yield _HOST_DRAWS if measured_with == DEVICE else gear_limit(rig.find(measured_with), quantity)
        if quantity not in (Quantity.POWER, Quantity.OFFERED):
            return
        supplies = [gear for each in setup.plugged if isinstance(gear := rig.find(each.gear), Supply)]
        yield from (gear_limit(supply, Quantity.POWER) for supply in supplies)
        if not supplies:
            yield socket_limit(rig, setup.host, setup.host_socket, Quantity.POWER)

    def _reached_with(self, part: str, quantity: Quantity | str | None, needed: float) -> bool:
        """Whether a part took part in a good trial of the same function."""
        for other in self.records.with_part(part):
            for place in other.places:
                if part not in other.parts_at(None if place == DIRECT else place):
                    continue
                if quantity is None:
                    counts = other.taken.of(Quantity.APPEARED, Quantity.WORKS).at(place).count()
                    if counts.seen and counts.seen == counts.tries:
                        return True
                    continue
                reading = self.records.reading(other, place, quantity)
                beyond = quantity is Quantity.LINK and self._links_beyond(other, place, part)
                if reading is not None and not beyond and least_of(quantity, reading) >= needed:
                    return True
        return False

    def _links_beyond(self, other: Counted, place: str, part: str) -> bool:
        """The link of a network socket is made in the device: the way to the host did not carry it."""
        to_host = host_lead(other.setup)
        is_way = part == socket_part(other.setup) or (to_host is not None and part == lead_part(to_host))
        return is_way and not other.direct and isinstance(self.records.rig.find(other.gear_at(place)), Peer)


def show_value(quantity: Quantity | str | None, value: float) -> str:
    """A value of a quantity in words."""
    if quantity is None or math.isinf(value):
        return f"{value:g}"
    if quantity is Quantity.LINK:
        return bit_rate(value)
    return format_of(Reading("", quantity, "", "", Grade.TOLD, Number((value,))), value).show(value)
