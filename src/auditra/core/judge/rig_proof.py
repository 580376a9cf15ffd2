"""Rig first: whether host, socket, lead, gear, peer, supply or policy could explain a low value.

A part is cleared by its own record, by taking part in a trial that reached the figure, or by being in the direct trial
that gave clearly more. Only when all are cleared is the device left.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

from auditra.core.claims.claim import Claim
from auditra.core.decide.estimates import Estimate, estimate, wilson
from auditra.core.decide.evidence import NEVER_TRIED, Clearing, Evidence, OtherCount, RigView
from auditra.core.decide.knee import find_knee
from auditra.core.decide.reading_set import ReadingSet
from auditra.core.decide.rules import CLEARLY_MORE, WHAT_ANY_WAY_COSTS
from auditra.core.judge.comparison import Comparison, differences
from auditra.core.judge.host_policy import policy_about
from auditra.core.judge.part_limits import (
    AT_ITS_END,
    EXPLAINED_SHARE,
    TAKES_NO_MORE,
    appetite,
    idle_port_w,
    socket_w,
    usual_w,
)
from auditra.core.judge.records import Counted, Records, least_of
from auditra.core.judge.rig_parts import BITS_A_PIXEL, Doubt, Reached, RigParts, show_value
from auditra.core.judge.sharing import shared_upstream
from auditra.core.links.charging import usual_socket_w
from auditra.core.links.display import mode_of, parse_mode
from auditra.core.model.circumstance import Aspect
from auditra.core.model.device import DEVICE, Device, Role
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.trial import DIRECT, ProcedureId
from auditra.core.procedures.registry import procedure_of


@dataclass
class RigProof(RigView):
    """One trial of a claim at one port, beside all other trials of the audit."""

    records: Records
    claim: Claim
    trial: Counted
    port: str
    device: Device
    looked_around: bool = False
    """Something beside the claim's own trials was looked at: the verdict depends on all of them."""

    # what a rule may ask

    def measures(self, reading: Reading) -> bool:
        return self.records.measures(reading)

    def exceeds_a_part(self, quantity: Quantity | str, shown: Estimate) -> str:
        limit = self._parts.exceeded(quantity, shown)
        if limit is None:
            return ""
        return (
            f"{limit.part} carries {show_value(quantity, limit.most)} at most, so it came another way, or from a cache"
        )

    def clearing(self, quantity: Quantity | str, shown: Estimate, needed: float) -> Clearing:
        self.looked_around = True
        if (why := self._excuse(quantity, shown, needed)) is not None:
            return Clearing(False, why, blames_rig=True)
        shared = shared_upstream(self.records, self.claim, self.trial, self.port, quantity, self.device)
        if shared is not None:
            return shared.clearing
        directs = self._direct_values(quantity)
        if directs:
            return self._against_direct(quantity, shown, needed, directs)
        return self._without_direct(quantity, needed)

    def clearing_of_mode(self, shown: str, needed: str) -> Clearing:
        mode = parse_mode(needed)

        def reached(trial: Counted, place: str) -> bool:
            return any(
                shown is not None and shown.covers(mode)
                for shown in (mode_of(reading.text) for reading in trial.taken.of(Quantity.MODE).at(place))
            )

        bits_bps = mode.pixels_a_second * BITS_A_PIXEL
        return self._shown_elsewhere(
            reached, bits_bps, "the display was not seen to run that direct", f"direct {needed}"
        )

    def clearing_of_word(self, name: str) -> Clearing:
        def reached(trial: Counted, place: str) -> bool:
            answer = Evidence(trial.taken.at(place)).said(name)
            return answer is not None and answer.yes is True

        return self._shown_elsewhere(reached, 0.0, "it was not seen direct either", "direct it is on")

    def other_count(self, quantity: Quantity | str) -> OtherCount:
        self.looked_around = True
        direct = [trial for trial in self._fair_directs if trial.taken.of(quantity).direct()]
        sound = [trial.taken.of(quantity).direct() for trial in direct if self._parts.doubt(trial, 1.0, None) is None]
        twins = list(self._twins(quantity))
        at = " and ".join(sorted({reading.at for each in twins for reading in each}))
        alone = OtherCount(ReadingSet.joined(sound).count()) if sound else NEVER_TRIED
        if not twins:
            return alone
        joined = OtherCount(ReadingSet.joined([*sound, *twins]).count(), f"direct and at {at}" if sound else f"at {at}")
        shows_more = not sound or wilson(joined.count).low > wilson(alone.count).low
        return joined if shows_more else alone

    def elsewhere(self, quantity: Quantity | str) -> ReadingSet:
        self.looked_around = True
        others = (each for each in self.records.with_gear(self._gear) if self._is_on_this_host(each))
        found = ReadingSet(
            tuple(reading for each in others for reading in each.taken.of(quantity) if reading.at != self.port)
        )
        return found.direct() or found  # without the device says more than at another port of it

    # direct trials

    @cached_property
    def _gear(self) -> str:
        return self.trial.gear_at(self.port)

    @cached_property
    def _parts(self) -> RigParts:
        return RigParts(self.records, self.trial, self.port)

    @cached_property
    def comparisons(self) -> tuple[tuple[Counted, Comparison], ...]:
        """Each direct trial of the same gear, with what differs."""
        return tuple(
            (
                other,
                Comparison(
                    self.claim.id, self.trial.id, other.id, differences(self.records, self.trial, other, self.port)
                ),
            )
            for other in self.records.directs(self._gear)
            if self._is_like(other)
        )

    def _is_like(self, other: Counted) -> bool:
        ours, theirs = (procedure_of(each.record.trial.procedure) for each in (self.trial, other))
        return ours.compares_with(theirs)

    @cached_property
    def _fair_directs(self) -> tuple[Counted, ...]:
        return tuple(other for other, comparison in self.comparisons if not comparison.refusing)

    def _direct_values(self, quantity: Quantity | str) -> list[tuple[Counted, Estimate]]:
        """What the same gear gave direct, the best first: a device's own current limit has no direct one."""
        if self.trial.record.trial.procedure == ProcedureId.POWER_OUT:
            return []
        found = []
        for other in self._fair_directs:
            reading = self.records.reading(other, DIRECT, quantity)
            if reading is not None:
                exact = Estimate(min(reading.values), 0.0, 1)
                found.append((other, exact if quantity is Quantity.LINK else estimate(reading)))
        return sorted(found, key=lambda pair: -pair[1].value)

    def _against_direct(
        self, quantity: Quantity | str, shown: Estimate, needed: float, directs: list[tuple[Counted, Estimate]]
    ) -> Clearing:
        """The best direct trial whose parts leave no doubt about the others; the first doubt where none does.

        What carried clearly more than was read here is not what holds it back, whatever was promised.
        """
        doubts: list[Doubt] = []
        explains = min(needed, CLEARLY_MORE * shown.value)
        for other, d in directs:
            doubt = self._parts.doubt(other, explains, quantity)
            if doubt is None:
                return _clearly_below(quantity, shown, d)
            doubts.append(doubt)
        return doubts[0].clearing

    # without a direct one

    def _without_direct(self, quantity: Quantity | str, needed: float) -> Clearing:
        def reached(trial: Counted, place: str) -> bool:
            reading = self.records.reading(trial, place, quantity)
            return reading is not None and estimate(reading).founded and least_of(quantity, reading) >= needed

        proof = self._proof_elsewhere(reached, quantity, needed)
        if proof is not None:
            return proof
        doubt = self._parts.doubt(None, needed, quantity)
        if doubt is not None and doubt.known:  # a direct trial could not have shown it either
            return doubt.clearing
        if self._can_be_had_direct:
            return Clearing(False, self._no_direct)
        return self._by_record_or_second_host(reached, quantity, needed, doubt)

    @property
    def _no_direct(self) -> str:
        refused = [comparison for _, comparison in self.comparisons if comparison.refusing]
        if refused:
            return f"the direct trial differs in more than the device: {refused[-1].refusing[0]}"
        return "the same gear was not tried direct"

    @property
    def _can_be_had_direct(self) -> bool:
        """Whether the same can be measured without the device: not of a store inside, or of its own current limit."""
        trial = self.trial.record.trial
        procedure = procedure_of(trial.procedure)
        if self._gear == DEVICE or trial.procedure == ProcedureId.POWER_OUT:
            return False
        return procedure.all_at_once or procedure.direct is not None

    def _proof_elsewhere(self, reached: Reached, quantity: Quantity | str, needed: float) -> Clearing | None:
        """The same gear in another trial on that host that reached the figure, wherever it was; None for none."""
        doubts: list[Doubt] = []
        for other in self.records.with_gear(self._gear) if self._gear != DEVICE else ():
            if other is self.trial or not self._is_on_this_host(other) or self._is_another_case(other):
                continue
            for place in other.places:
                if other.gear_at(place) == self._gear and reached(other, place):
                    doubt = self._parts.doubt(other, needed, quantity, place)
                    if doubt is None:
                        return Clearing(True, f"the same gear reaches it {_place_text(place)}")
                    doubts.append(doubt)
        return doubts[0].clearing if doubts else None

    def _is_on_this_host(self, other: Counted) -> bool:
        return other.setup.host == self.trial.setup.host

    def _is_another_case(self, other: Counted) -> bool:
        """Whether something else differs that could explain it too: a soak, a driver, a protocol."""
        found = differences(self.records, self.trial, other, self.port)
        return any(each.refuses_baseline and each.aspect is not Aspect.PROCEDURE for each in found)

    def _by_record_or_second_host(
        self, reached: Reached, quantity: Quantity | str, needed: float, doubt: Doubt | None
    ) -> Clearing:
        """For what cannot be had without the device: every part is sure by its record, a twin, or two hosts agree."""
        twin = next(self._reaching_twins(reached, quantity, needed), None)
        if twin is not None:
            return Clearing(True, f"{twin} reaches it with the same rig")
        if doubt is None and quantity is Quantity.POWER and not self._parts.load_is_checked:
            return Clearing(False, "nothing shows that the load reads right: a meter in line before it would")
        if doubt is None and quantity in (Quantity.POWER, Quantity.OFFERED):
            return Clearing(True, "every part of the rig is good for it")
        hosts = {self.trial.setup.host}
        for other in self.records.bearing_on(self.claim.id):
            reading = self.records.reading(other, self.port, quantity)
            if reading is not None and estimate(reading).founded and estimate(reading).high < needed:
                hosts.add(other.setup.host)
        if len(hosts) > 1 and doubt is None:
            return Clearing(True, f"{len(hosts)} hosts agree")
        nothing = "nothing shows that this host can: a second host, or a twin of the port, would"
        return doubt.clearing if doubt else Clearing(False, nothing)

    def _reaching_twins(self, reached: Reached, quantity: Quantity | str, needed: float) -> Iterator[str]:
        """Ports with the same connector that reached the figure on the same host with the same parts."""
        for other, place in self._twin_places():
            if other.gear_at(place) == self._gear and reached(other, place):
                foreign = set(self.trial.parts_at(self.port)) - set(other.parts_at(place))
                if all(self._parts.of(part, quantity).sure >= needed for part in foreign):
                    yield place

    def _twins(self, quantity: Quantity | str) -> Iterator[ReadingSet]:
        """Counts of the same gear on the same host at twins of the port."""
        for other, place in self._twin_places():
            readings = other.taken.of(quantity).at(place)
            if readings and other.gear_at(place) == self._gear:
                yield readings

    def _twin_places(self) -> Iterator[tuple[Counted, str]]:
        """Trials on the same host, each with a port of the same connector as this one; gear may go into any port."""
        connector = self._connector(self.port)
        for other in self.records.counted:
            if other is self.trial or other.direct or not self._is_on_this_host(other):
                continue
            for place in other.places if other.setup.device == self.trial.setup.device else ():
                like = connector is not None and self._connector(place) == connector
                if place != self.port and (like or (self._gear != DEVICE and self.device.has(place))):
                    yield other, place

    def _connector(self, port: str) -> str | None:
        found = self.device.port(port)
        return found.connector if found is not None else None

    # pictures, and words beside them

    def _shown_elsewhere(self, reached: Reached, bits_bps: float, otherwise: str, direct: str) -> Clearing:
        self.looked_around = True
        if (why := self._policy()) is not None:
            return Clearing(False, why, blames_rig=True)
        found = Clearing(False, otherwise)
        for other in (each for each in self.records.with_gear(self._gear) if self._is_on_this_host(each)):
            if other is self.trial or self._is_another_case(other):
                continue
            for place in other.places:
                if place != self.port and reached(other, place):
                    doubt = self._parts.picture_doubt(other, place, reached, bits_bps)
                    if doubt is None:
                        return Clearing(True, direct if place == DIRECT else f"{place} shows it on the same display")
                    found = doubt.clearing
        return found

    # what excuses

    def _excuse(self, quantity: Quantity | str, shown: Estimate, needed: float) -> str | None:
        """A reason that no baseline can outweigh; None for none."""
        if (why := self._policy()) is not None:
            return why
        if quantity is Quantity.WRITE and self._fills_up(needed):
            return "the drive falls in the midst of writing, as one does whose cache is full, and is read fast enough"
        if quantity is Quantity.POWER:
            starved = self._left_for_idle_ports(shown, needed) or self._supply_at_its_end(shown)
            return self._appetite(shown) or starved or self._host_alone(shown, needed)
        return None

    def _fills_up(self, needed: float) -> bool:
        """The gear was seen to fall while it was written, and what was written here can be read at the rate that is
        promised: the link carries that, so the medium is what is slow."""
        read = self.records.reading(self.trial, self.port, Quantity.READ)
        if read is None or estimate(read).low < needed:
            return False
        written = (
            reading for other in self.records.with_gear(self._gear) for reading in other.taken.of(Quantity.WRITE)
        )
        return any(reading.trace is not None and find_knee(reading.trace) is not None for reading in written)

    def _supply_at_its_end(self, shown: Estimate) -> str | None:
        """What feeds the device has no more, with all that other ports give; its own supply is its seller's."""
        supply, running_w = self._parts.fed_by, self._parts.running_w
        if supply is None:
            return None
        fed = self.trial.taken.of(Quantity.POWER).at(*(port.id for port in self.device.ports() if port.id != self.port))
        gives_w = usual_w(supply)
        if any(estimate(each).value >= AT_ITS_END * gives_w for each in fed.numbers()):
            return f"the {supply.name} is at its end: it gives {gives_w:g} W"
        if not running_w or shown.value + running_w < TAKES_NO_MORE * gives_w:
            return None
        return f"the {supply.name} is at its end: {shown.value:.1f} W here, {running_w:.1f} W at other ports"

    def _left_for_idle_ports(self, shown: Estimate, needed: float) -> str | None:
        """An inlet takes what is drawn behind it: ports that nothing drew from may have been left their share."""
        trial = self.trial.record.trial
        if trial.procedure != ProcedureId.POWER_IN:
            return None
        idle = [port for port in self.device.ports() if trial.setup.gear_at(port.id) is None]
        watts = {port.id: idle_port_w(port) for port in idle if idle_port_w(port)}
        if not watts or shown.value + sum(watts.values()) < needed:
            return None
        return f"nothing drew from {', '.join(watts)}, which may be left up to {sum(watts.values()):.1f} W"

    def _host_alone(self, shown: Estimate, needed: float) -> str | None:
        """Only the host feeds the device, which uses some of that power itself: at most what a port may draw, or an
        unknown amount where it has an inlet."""
        host, socket = self._parts.host_that_feeds
        if host is None or socket is None or self.trial.record.trial.procedure != ProcedureId.POWER_OUT:
            return None
        if (inlet := self.device.first(Role.INLET)) is not None:
            return f"the {host.name} alone feeds it: with a supply in {inlet.id} it may give more"
        left_w = max(0.0, socket_w(socket) - usual_socket_w("usb-a"))
        if needed <= left_w or shown.value < EXPLAINED_SHARE * left_w:
            return None
        return f"socket {socket.id} of the {host.name} gives {socket_w(socket):g} W, and the device uses some itself"

    def _appetite(self, shown: Estimate) -> str | None:
        """What the host asks for, where the host itself is what draws and has nearly that."""
        rig, trial = self.records.rig, self.trial.record.trial
        loads = {load.id for load in rig.loads}
        draws_by_load = any(loads & {each.gear, each.owner} for each in trial.setup.plugged)
        if draws_by_load or trial.procedure not in (ProcedureId.CHARGE, ProcedureId.POWER_IN):
            return None
        limit = appetite(rig.host(trial.setup.host))
        return f"{limit.part} takes no more" if shown.value >= TAKES_NO_MORE * limit.most else None

    def _policy(self) -> str | None:
        """What this host does not do whatever is connected, where that is what was promised."""
        host = self.records.rig.host(self.trial.setup.host)
        words = policy_about(host, self.claim)
        return f"the {host.name} has a policy: {words}" if host is not None and words else None


def _clearly_below(quantity: Quantity | str, shown: Estimate, d: Estimate) -> Clearing:
    if not d.founded:
        return Clearing(False, "the same gear direct gave a single value with neither error nor last digit")
    value = show_value(quantity, d.value)
    if shown.low > d.high:
        return Clearing(False, f"the same gear direct gives only {value}, less than here")
    if shown.high >= d.low:
        return Clearing(False, f"the same gear direct gives {value} too", blames_rig=True)
    if quantity is not Quantity.LINK and shown.value >= d.value * (1 - WHAT_ANY_WAY_COSTS):
        lost = 1 - shown.value / d.value
        why = f"the same gear direct gives only {value}; a {lost:.0%} loss is within what any hub may cost"
        return Clearing(False, why, blames_rig=True)
    return Clearing(True, f"direct {value}")


def _place_text(place: str) -> str:
    return "direct" if place == DIRECT else f"at {place}"
