"""Traits of power, pictures, the network and all that a person sees, that practice devices hide."""

from __future__ import annotations

from auditra.core.claims.kinds.body import Below
from auditra.core.claims.kinds.cable import Carries, Marked
from auditra.core.claims.kinds.charges_host import ChargesHost
from auditra.core.claims.kinds.company import WithoutDriver, WorksWith
from auditra.core.claims.kinds.control import SwitchesIn
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.kinds.gives import Gives
from auditra.core.claims.kinds.length import Length
from auditra.core.claims.kinds.links import Links
from auditra.core.claims.kinds.network import Frames
from auditra.core.claims.kinds.shows import BothAtOnce, Shows
from auditra.core.claims.kinds.sound import Plays
from auditra.core.claims.kinds.takes import Takes
from auditra.core.model.device import BODY
from auditra.core.model.reading import Quantity
from auditra.core.quantities.units import Dimension
from auditra.core.simulate.practice.draft import Planting
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.traits.network import LimitsFrames, NeedsDriver
from auditra.core.simulate.traits.pictures import (
    LimitsModeBeside,
    LosesOptionBeside,
    OneWins,
    ThinsDescription,
    Winner,
)
from auditra.core.simulate.traits.power import SharesPower
from auditra.core.simulate.traits.seen import FailsBeside, FailsOnHosts, IsNotSo, WorksNowAndThen

_DEVICE = frozenset({"device part"})
_SMALLER = {"3840x2160@60": "3840x2160@30", "3840x2160@30": "1920x1080@60", "2560x1440@144": "2560x1440@60"}


def gives_less(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Gives))
    if claim is None or not isinstance(claim.promise, Gives):
        return
    draft.gives_w[claim.port] = claim.promise.watts * planting.left(0.5, 0.85)
    reach = planting.bench.load(draft.port(claim.port), claim.promise.watts)
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
        Hidden("shares power", words, breaks_at_times=frozenset({str(claim)}),
               causes=frozenset({"shared power"}), is_reachable=reach),
        SharesPower(frozenset(port.id for port in ports), left_w),
    )  # fmt: skip


def _charges(planting: Planting, watts: float) -> bool:
    draft = planting.draft
    needs_w = watts * 1.05 + draft.own_use_w
    return planting.bench.load(draft.upstream, watts) and planting.bench.feeds(draft.inlet, needs_w)


def passes_less_on(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(ChargesHost))
    if claim is None or not isinstance(claim.promise, ChargesHost):
        return
    draft.host_w = claim.promise.watts * planting.left(0.55, 0.88)
    words = f"no more than {draft.host_w:.0f} W reach the host"
    used_w = draft.host_w + draft.own_use_w + sum(draft.gives_w.values())
    starved = (each for each in draft.of_kind(Takes) if isinstance(each.promise, Takes) and each.promise.watts > used_w)
    broken = frozenset({str(claim), *map(str, starved)})
    draft.hide(Hidden("passes less on", words, breaks=broken, causes=_DEVICE,
                      is_reachable=_charges(planting, claim.promise.watts)))  # fmt: skip


def takes_less(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Takes))
    if claim is None or not isinstance(claim.promise, Takes) or draft.of_kind(ChargesHost, free_only=False):
        return
    draft.takes_w[claim.port] = claim.promise.watts * planting.left(0.5, 0.85)
    reach = planting.bench.feeds(draft.inlet, claim.promise.watts * 1.05) and planting.bench.meters_power()
    words = f"{claim.port} asks for {draft.takes_w[claim.port]:.0f} W"
    draft.hide(Hidden("takes less", words, breaks=frozenset({str(claim)}), causes=_DEVICE, is_reachable=reach))


def smaller_mode(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(each for each in draft.of_kind(Shows) if draft.display_modes[each.port] in _SMALLER)
    if claim is None:
        return
    promised = draft.display_modes[claim.port]
    draft.display_modes[claim.port] = _SMALLER[promised]
    words = f"{claim.port} shows {_SMALLER[promised]} at most"
    draft.hide(Hidden("smaller mode", words, breaks=frozenset({str(claim)}), causes=_DEVICE,
                      is_reachable=planting.bench.shows(draft.port(claim.port), promised)))  # fmt: skip


def thins_description(planting: Planting) -> None:
    draft = planting.draft
    rich = [each for each in draft.of_kind(Shows) if isinstance(each.promise, Shows) and each.promise.hdr]
    claim = planting.one_of(rich)
    if claim is None:
        return
    reach = planting.bench.shows(draft.port(claim.port), draft.display_modes[claim.port])
    words = f"{claim.port} hands the host a description without hdr and 10 bit"
    draft.hide(Hidden("description thinned", words, breaks=frozenset({str(claim)}), is_reachable=reach),
               ThinsDescription(claim.port, without=frozenset({"hdr"})))  # fmt: skip


def loses_vrr_beside(planting: Planting) -> None:
    draft = planting.draft
    with_vrr = [each for each in draft.of_kind(Shows) if isinstance(each.promise, Shows) and each.promise.vrr]
    claim = planting.one_of(with_vrr)
    others = [each for each in draft.of_kind(Shows, free_only=False) if claim is None or each.port != claim.port]
    other = planting.one_of(others)
    if claim is None or other is None:
        return
    reach = planting.bench.shows_both(
        draft.port(claim.port), draft.display_modes[claim.port], draft.port(other.port)
    ) and any(display.vrr is True for display in planting.bench.rig.displays)
    words = f"{claim.port} loses vrr while there is a display in {other.port}"
    draft.hide(
        Hidden("vrr lost beside another", words, breaks_at_times=frozenset({str(claim)}),
               causes=frozenset({"contention"}), is_reachable=reach),
        LosesOptionBeside(claim.port, "vrr", other.port),
    )  # fmt: skip


def smaller_mode_beside(planting: Planting) -> None:
    draft = planting.draft
    outputs = draft.of_kind(Shows)
    claim = planting.one_of(each for each in outputs if draft.display_modes[each.port] in _SMALLER)
    other = planting.one_of(each for each in outputs if claim is not None and each.port != claim.port)
    if claim is None or other is None or not isinstance(claim.promise, Shows):
        return
    mode = draft.display_modes[claim.port]
    reach = planting.bench.shows_both(draft.port(claim.port), mode, draft.port(other.port))
    words = f"{claim.port} shows less while a display is in {other.port}"
    draft.hide(
        Hidden("smaller mode beside another", words, breaks_at_times=frozenset({str(claim)}),
               causes=frozenset({"contention"}), is_reachable=reach),
        LimitsModeBeside(claim.port, other.port, claim.promise.mode.pixels_a_second * 0.6),
    )  # fmt: skip


def one_picture_wins(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(BothAtOnce))
    if claim is None:
        return
    one, other = (draft.port(port) for port in claim.ports[:2])
    reach = planting.bench.shows_both(one, draft.display_modes[one.id], other)
    winner = planting.dice.choice(list(Winner))
    words = f"of two displays at {one.id} and {other.id} the {winner.value} one that was connected has the picture"
    shown = frozenset(str(each) for each in draft.of_kind(Shows) if each.port in claim.ports)
    draft.hide(
        Hidden("one picture wins", words, breaks=frozenset({str(claim)}), breaks_at_times=shown, is_reachable=reach),
        OneWins(frozenset(claim.ports), winner),
    )  # fmt: skip


def limits_frames(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Frames))
    if claim is None:
        return
    most = planting.dice.choice((1500, 2034, 4074, 7418))
    words = f"no packet of more than {most} B goes through {claim.port}"
    reach = any(peer.mtu_bytes >= 9000 for peer in planting.bench.rig.peers)
    draft.hide(Hidden("frames cut short", words, breaks=frozenset({str(claim)}), is_reachable=reach),
               LimitsFrames(claim.port, most))  # fmt: skip


def slower_network(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Links))
    if claim is None or not isinstance(claim.promise, Links) or claim.promise.rate_bps < 1e9:
        return
    draft.network_bps[claim.port] = 100e6 if claim.promise.rate_bps == 1e9 else 1e9
    words = f"{claim.port} links at {draft.network_bps[claim.port] / 1e9:g} Gb/s"
    draft.hide(Hidden("slower network", words, breaks=frozenset({str(claim)}), causes=_DEVICE,
                      is_reachable=planting.bench.peer(claim.promise.rate_bps)))  # fmt: skip


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


def hums_beside_data(planting: Planting) -> None:
    draft = planting.draft
    claim, data = planting.one_of(draft.of_kind(Plays)), draft.of_kind(Data, free_only=False)
    if claim is None or not data:
        return
    reach = any(planting.bench.drives(draft.port(each.port), 0.75 * each.promise.upstream_bps) for each in data)
    words = f"{claim.port} hums while a drive is connected"
    draft.hide(
        Hidden("hums beside data", words, breaks_at_times=frozenset({str(claim)}),
               causes=frozenset({"contention"}), is_reachable=reach),
        FailsBeside(claim.port, "plays", frozenset(each.port for each in data)),
    )  # fmt: skip


def switches_slowly(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(SwitchesIn))
    if claim is None or not isinstance(claim.promise, SwitchesIn):
        return
    draft.figures[BODY, Quantity.TIME_TO_SWITCH] = claim.promise.seconds * planting.dice.uniform(1.6, 4)
    words = "it takes longer to switch than is promised"
    draft.hide(Hidden("switches slowly", words, breaks=frozenset({str(claim)})))


def keyboard_not_seen(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(WorksWith))
    if claim is None:
        return
    words = f"the keyboard on {claim.port} is not seen after most switches"
    draft.hide(Hidden("gear not seen", words, breaks=frozenset({str(claim)})),
               WorksNowAndThen(claim.port, "works with", 0.0))  # fmt: skip


def hotter_than_told(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Below))
    if claim is None:
        return
    draft.rise_k = planting.dice.uniform(27, 40)
    draft.figures[BODY, Quantity.CASE_TEMPERATURE] = 21.5 + draft.rise_k
    words = f"its case reaches {21.5 + draft.rise_k:.0f} C"
    reach = bool(planting.bench.rig.thermometers)
    draft.hide(Hidden("hotter than told", words, breaks=frozenset({str(claim)}), is_reachable=reach))


def shorter_than_told(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Length))
    if claim is None or not isinstance(claim.promise, Length):
        return
    draft.lengths_m[claim.port] = claim.promise.metres * planting.dice.uniform(0.8, 0.93)
    words = "it is shorter than is promised"
    reach = bool(planting.bench.rig.rules)
    draft.hide(Hidden("shorter than told", words, breaks=frozenset({str(claim)}), is_reachable=reach))


def marker_is_missing(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(draft.of_kind(Marked))
    if claim is None:
        return
    words = "its marker says less than the sleeve"
    draft.hide(Hidden("marker says less", words, breaks=frozenset({str(claim)})),
               IsNotSo(BODY, "is marked"))  # fmt: skip


def carries_less(planting: Planting) -> None:
    draft = planting.draft
    of_rate = [each for each in draft.of_kind(Carries) if isinstance(each.promise, Carries)
               and each.promise.load.dimension is Dimension.BIT_RATE]  # fmt: skip
    claim = planting.one_of(of_rate)
    if claim is None:
        return
    draft.figures[BODY, Quantity.LINK] = planting.dice.choice((480e6, 5e9))
    words = f"it carries {draft.figures[BODY, Quantity.LINK] / 1e9:g} Gb/s"
    draft.hide(Hidden("carries less", words, breaks=frozenset({str(claim)})))


OTHERS = (
    gives_less, shares_power, passes_less_on, takes_less, smaller_mode, thins_description, loses_vrr_beside,
    smaller_mode_beside, one_picture_wins, limits_frames, slower_network, needs_a_driver, hums_beside_data,
    switches_slowly, keyboard_not_seen, hotter_than_told, shorter_than_told, marker_is_missing, carries_less,
)  # fmt: skip
