"""Traits of the network."""

from __future__ import annotations

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.company import WithoutDriver
from auditra.core.claims.kinds.links import Links
from auditra.core.claims.kinds.network import Frames
from auditra.core.model.device import BODY
from auditra.core.simulate.practice.draft import Planting, about
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.traits.network import DriverBusies, LimitsFrames, LostAfterInletMoves, NeedsDriver
from auditra.core.simulate.traits.seen import FailsOnHosts

_DEVICE = frozenset({"device part"})


@about(Links)
def network_lost_as_inlet_moves(planting: Planting, claim: Claim, promise: Links) -> None:
    draft = planting.draft
    if draft.inlet is None:
        return
    lasts_s = planting.dice.uniform(2.0, 6.0)
    reach = bool(planting.bench.rig.peers) and planting.bench.feeds(draft.inlet, 0.0)
    words = f"{claim.port} is lost for {lasts_s:.1f} s when the supply is plugged in or pulled"
    draft.hide(Hidden("network lost as the inlet moves", words, unstated=frozenset({"interrupted"}),
                      is_reachable=reach),
               LostAfterInletMoves(claim.port, draft.inlet.id, lasts_s))  # fmt: skip


@about(Frames)
def limits_frames(planting: Planting, claim: Claim, promise: Frames) -> None:
    draft = planting.draft
    most = planting.dice.choice((1500, 2034, 4074, 7418))
    words = f"no packet of more than {most} B goes through {claim.port}"
    hosts = planting.bench.hosts_for(draft.upstream)  # one host alone may be what holds large packets back
    reach = len(hosts) > 1 and any(peer.mtu_bytes >= 9000 for peer in planting.bench.rig.peers)
    draft.hide(Hidden("frames cut short", words, breaks=frozenset({str(claim)}), is_reachable=reach),
               LimitsFrames(claim.port, most))  # fmt: skip


@about(Links)
def slower_network(planting: Planting, claim: Claim, promise: Links) -> None:
    draft = planting.draft
    if promise.rate_bps < 1e9:
        return
    draft.network_bps[claim.port] = 100e6 if promise.rate_bps == 1e9 else 1e9
    words = f"{claim.port} links at {draft.network_bps[claim.port] / 1e9:g} Gb/s"
    draft.hide(Hidden("slower network", words, breaks=frozenset({str(claim)}), causes=_DEVICE,
                      is_reachable=planting.bench.peer(promise.rate_bps)
                      and planting.bench.links_without(promise.rate_bps)))  # fmt: skip


def needs_a_driver(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(WithoutDriver))
    hosts = planting.bench.hosts_for(draft.upstream)
    network = planting.one_of(draft.of_kind(Links))
    if claim is None or len(hosts) < 2:
        return
    bare = frozenset({planting.dice.choice(hosts[1:])})
    words = f"on the {' and '.join(bare)} it needs a driver"
    traits = [FailsOnHosts(BODY, "without driver", bare)]
    touched = {str(claim)}
    if network is not None:
        touched.add(str(network))
        draft.traits.append(NeedsDriver(network.port, bare))
    draft.hide(
        Hidden("needs a driver", words, breaks_at_times=frozenset(touched),
               causes=frozenset({"rig part", "software or route"}), is_reachable=True), *traits,
    )  # fmt: skip


@about(Links)
def driver_is_busy(planting: Planting, claim: Claim, promise: Links) -> None:
    draft, bench = planting.draft, planting.bench
    if not isinstance(bench.rig.hosts[0].driver, str):
        return
    percent = planting.dice.uniform(15, 45)
    words = f"its driver keeps {percent:.0f} % of the processors busy"
    draft.hide(Hidden("busy driver", words, unstated=frozenset({"driver load"}),
                      is_reachable=bench.peer(promise.rate_bps)),
               DriverBusies(percent))  # fmt: skip


NETWORK = (network_lost_as_inlet_moves, limits_frames, slower_network, needs_a_driver, driver_is_busy)
