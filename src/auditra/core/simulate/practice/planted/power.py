"""Traits of power."""

from __future__ import annotations

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.charges_host import ChargesHost
from auditra.core.claims.kinds.control import Guards
from auditra.core.claims.kinds.gives import Gives
from auditra.core.claims.kinds.takes import Takes
from auditra.core.simulate.practice.draft import Planting, about
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.traits.power import LatchesOff, LeavesVoltage, SharesPower

_DEVICE = frozenset({"device part"})


@about(Gives)
def gives_less(planting: Planting, claim: Claim, promise: Gives) -> None:
    draft = planting.draft
    draft.gives_w[claim.port] = promise.watts * planting.left(0.5, 0.85)
    needs_w = promise.watts * 1.05 + draft.own_use_w  # a host alone may have too little left for it
    port = draft.port(claim.port)
    reach = planting.bench.load_while_fed(port, promise.watts, draft.inlet, needs_w, draft.upstream)
    words = f"{claim.port} cuts off at {draft.gives_w[claim.port]:.1f} W"
    draft.hide(Hidden("cuts off early", words, breaks=frozenset({str(claim)}), causes=_DEVICE, is_reachable=reach))


def shares_power(planting: Planting) -> None:
    draft = planting.draft
    claim, giving = planting.one_of(draft.of_kind(ChargesHost)), draft.of_kind(Gives)
    if claim is None or not giving or not isinstance(claim.promise, ChargesHost):
        return
    ports = [draft.port(each.port) for each in giving]
    watts = max(each.promise.watts for each in giving if isinstance(each.promise, Gives))
    left_w = claim.promise.watts * planting.left(0.5, 0.8)
    reach = planting.bench.drains(ports, watts) and _charges(planting, claim.promise.watts)
    names = " and ".join(port.id for port in ports)
    words = f"the host is left with {left_w:.0f} W while {names} give power"
    draft.hide(
        Hidden("shares power", words, breaks_at_times=frozenset({str(claim), *map(str, draft.of_kind(Takes))}),
               causes=frozenset({"shared power"}), is_reachable=reach),
        SharesPower(frozenset(port.id for port in ports), left_w),
    )  # fmt: skip


def _charges(planting: Planting, watts: float) -> bool:
    draft = planting.draft
    needs_w = watts * 1.05 + draft.own_use_w
    return planting.bench.load(draft.upstream, watts) and planting.bench.feeds(draft.inlet, needs_w)


@about(ChargesHost)
def passes_less_on(planting: Planting, claim: Claim, promise: ChargesHost) -> None:
    draft = planting.draft
    draft.host_w = promise.watts * planting.left(0.55, 0.88)
    words = f"no more than {draft.host_w:.0f} W reach the host"
    used_w = draft.host_w + draft.own_use_w + sum(draft.gives_w.values())
    starved = (each for each in draft.of_kind(Takes) if isinstance(each.promise, Takes) and each.promise.watts > used_w)
    broken = frozenset({str(claim), *map(str, starved)})
    draft.hide(Hidden("passes less on", words, breaks=broken, causes=_DEVICE,
                      is_reachable=_charges(planting, promise.watts)))  # fmt: skip


@about(Takes)
def takes_less(planting: Planting, claim: Claim, promise: Takes) -> None:
    draft = planting.draft
    if draft.of_kind(ChargesHost, free_only=False):
        return
    draft.takes_w[claim.port] = promise.watts * planting.left(0.5, 0.85)
    ready_w = planting.bench.kept_ready_w(draft.ports)
    reach = planting.bench.feeds(draft.inlet, promise.watts * 1.05) and planting.bench.meters_power()
    reach = reach and draft.takes_w[claim.port] + ready_w < promise.watts
    words = f"{claim.port} asks for {draft.takes_w[claim.port]:.0f} W"
    draft.hide(Hidden("takes less", words, breaks=frozenset({str(claim)}), causes=_DEVICE, is_reachable=reach))


def leaves_voltage(planting: Planting) -> None:
    draft = planting.draft
    cold = [each for each in draft.of_kind(Gives, free_only=False) if draft.port(each.port).connector == "usb-c"]
    claim = planting.one_of(cold)
    if claim is None or not isinstance(claim.promise, Gives):
        return
    volts = planting.dice.choice((5.0, draft.gives_v.get(claim.port, 5.0))) * planting.dice.uniform(0.97, 1.02)
    reach = planting.bench.load(draft.port(claim.port), 0.0) and planting.bench.meters_in_line()
    words = f"{claim.port} still has {volts:.1f} V a second after what drew power was pulled"
    draft.hide(Hidden("voltage left", words, unstated=frozenset({"standing voltage"}), is_reachable=reach),
               LeavesVoltage(claim.port, volts))  # fmt: skip


@about(Guards)
def latches_off(planting: Planting, claim: Claim, promise: Guards) -> None:
    draft = planting.draft
    words = f"{claim.port} stays dead after an overload, until the device is unplugged"
    draft.hide(Hidden("dead after an overload", words, breaks=frozenset({str(claim)})), LatchesOff(claim.port))


POWER = (gives_less, shares_power, passes_less_on, takes_less, leaves_voltage, latches_off)
