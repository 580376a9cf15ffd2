"""Traits of data."""

from __future__ import annotations

from dataclasses import replace

from auditra.core.claims.claim import Claim
from auditra.core.claims.kinds.cards import Cards
from auditra.core.claims.kinds.company import WorksWith
from auditra.core.claims.kinds.data import Data
from auditra.core.claims.kinds.links import Links
from auditra.core.claims.kinds.power import Feeds
from auditra.core.claims.kinds.shows import Shows
from auditra.core.links.display import parse_mode
from auditra.core.simulate.practice.draft import Planting, about
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.practice.on_the_bench import SHOWN_SHARE, OnTheBench, good_payload_bps
from auditra.core.simulate.traits.data import (
    HIGH_SPEED_BPS,
    Corrupts,
    DropsAtStart,
    Flaky,
    LosesBesideDisplay,
    MindsTheOrder,
    NarrowUpstream,
    SharesLink,
    Slower,
    SlowHostPlugTurnedOver,
    SlowOnceReconnected,
    SlowTurnedOver,
    TakesFourLanes,
    Throttles,
    UnseenBeside,
)
from auditra.core.simulate.traits.pictures import OfOlderVersion

_DROPS, _FOUR_LANES = "drops at the start", "four lanes for the picture"
_DEVICE = frozenset({"device part"})
_SOAK_K, _HUNGRY_A = 26.0, 0.9
_SLOW_BPS = good_payload_bps(HIGH_SPEED_BPS)


def _owes(claim: Claim) -> float:
    return claim.promise.upstream_bps


def _at(planting: Planting, claim: Claim) -> frozenset[str]:
    """All that is promised of data at the socket of a claim."""
    found = (each for each in planting.draft.claims if each.port == claim.port and _owes(each))
    return frozenset(map(str, found))


def _whole(planting: Planting, claim: Claim) -> frozenset[str]:
    """All that is promised of the socket of a claim and asks for gear in it."""
    found = (each for each in planting.draft.claims if each.port == claim.port)
    return frozenset(str(each) for each in found if _owes(each) or isinstance(each.promise, Feeds | WorksWith))


def _all_data(planting: Planting, above_bps: float = 0.0) -> frozenset[str]:
    """All that is promised of data, on whichever socket, and asks for more than so much."""
    return frozenset(str(each) for each in planting.draft.claims if _owes(each) > above_bps)


def _can_prove(planting: Planting, claim: Claim) -> bool:
    """A store that shows whether the claim is kept."""
    return planting.bench.drives(planting.draft.port(claim.port), SHOWN_SHARE * _owes(claim))


def _good(claim: Claim) -> float:
    """Payload of a sound socket that is promised so."""
    promise = claim.promise
    return good_payload_bps(promise.rate_bps) if isinstance(promise, Data) else _owes(claim)


def twin_runs_slower(planting: Planting) -> None:
    draft = planting.draft
    claim = planting.one_of(each for each in draft.of_kind(Data) if draft.twins_of(each))
    if claim is None:
        return
    kept = planting.left()
    reach = planting.bench.drives(draft.port(claim.port), kept * _good(claim))
    words = f"{claim.port} lets through only {kept:.0%} of what the sockets like it do"
    draft.hide(Hidden("twin runs slower", words, breaks=_at(planting, claim), causes=_DEVICE, is_reachable=reach),
               Slower(claim.port, kept))  # fmt: skip


@about(Data)
def lower_class(planting: Planting, claim: Claim, promise: Data) -> None:
    draft = planting.draft
    draft.data_bps[claim.port] = HIGH_SPEED_BPS
    reach = planting.bench.drives(draft.port(claim.port), good_payload_bps(HIGH_SPEED_BPS))
    words = f"{claim.port} is wired for 480 Mb/s alone"
    draft.hide(Hidden("lower class", words, breaks=_at(planting, claim), causes=_DEVICE | {"class"},
                      is_reachable=reach))  # fmt: skip


@about(Cards)
def card_slot_runs_slower(planting: Planting, claim: Claim, promise: Cards) -> None:
    draft = planting.draft
    draft.card_bps[claim.port] = _owes(claim) * planting.left()
    reach = planting.bench.drives(draft.port(claim.port), draft.card_bps[claim.port])
    words = f"the slot {claim.port} is slower than its figure"
    draft.hide(Hidden("slow slot", words, breaks=_at(planting, claim), causes=_DEVICE, is_reachable=reach))


def falls_beside_display(planting: Planting) -> None:
    draft = planting.draft
    picture = planting.one_of(draft.of_kind(Shows))
    claim = planting.one_of(draft.of_kind(Data))
    if claim is None or picture is None:
        return
    kept = planting.left(0.1, 0.6)
    port = draft.port(claim.port)
    reach = planting.bench.drives(port, kept * _good(claim)) and _can_prove(planting, claim)
    reach = reach and planting.bench.shows_anything(draft.port(picture.port))
    words = f"{claim.port} falls to {kept:.0%} while a picture runs"
    draft.hide(
        Hidden("falls beside a display", words, breaks_at_times=_at(planting, claim),
               causes=frozenset({"contention"}), is_reachable=reach),
        LosesBesideDisplay(claim.port, kept),
    )  # fmt: skip


def takes_four_lanes(planting: Planting) -> None:
    draft = planting.draft
    big = [each for each in draft.of_kind(Shows) if isinstance(each.promise, Shows) and
           each.promise.mode.pixels_a_second > 4e8]  # fmt: skip
    picture, data = planting.one_of(big), draft.of_kind(Data, free_only=False)
    if picture is None or not data or not isinstance(picture.promise, Shows):
        return
    mode = str(picture.promise.mode)
    reach = planting.bench.shows(draft.port(picture.port), mode) and any(_can_prove(planting, each) for each in data)
    words = f"{mode} on {picture.port} takes all lanes: data falls to 480 Mb/s"
    draft.hide(
        Hidden(_FOUR_LANES, words, breaks_at_times=_all_data(planting, _SLOW_BPS),
               causes=frozenset({"contention"}), is_reachable=reach),
        TakesFourLanes(0.9 * picture.promise.mode.pixels_a_second),
    )  # fmt: skip


def narrow_upstream(planting: Planting) -> None:
    draft = planting.draft
    fast = [each for each in draft.of_kind(Data) if isinstance(each.promise, Data) and each.promise.rate_bps > 5e9]
    if not fast or len(fast) < len(draft.of_kind(Data, free_only=False)):
        return
    reach = any(planting.bench.drives(draft.port(each.port), good_payload_bps(5e9)) for each in fast)
    words = "its way to the host makes 5 Gb/s, so no socket can do more"
    draft.hide(
        Hidden("narrow way to the host", words, breaks=frozenset().union(*(_at(planting, each) for each in fast)),
               breaks_at_times=_all_data(planting), causes=_DEVICE | {"contention", "shared link"},
               is_reachable=reach),
        NarrowUpstream(5e9),
    )  # fmt: skip


def shares_an_inner_link(planting: Planting) -> None:
    draft = planting.draft
    able = draft.of_kind(Data) + draft.of_kind(Cards)
    rates = [each.promise.rate_bps for each in draft.claims if isinstance(each.promise, Data)]
    fastest_bps = max(rates, default=0.0)
    pairs = [
        (one, other) for n, one in enumerate(able) for other in able[n + 1 :]
        if one.port != other.port and _owes(one) + _owes(other) <= good_payload_bps(fastest_bps) * 0.95
    ]  # fmt: skip
    if not pairs:
        return
    one, other = planting.dice.choice(pairs)
    most = max(_owes(one), _owes(other)) * planting.dice.uniform(1.02, 1.08)
    reach = planting.bench.two_stores(draft.port(one.port), _owes(one), draft.port(other.port), _owes(other))
    name = "card slots share a link" if {one.port[0], other.port[0]} == {"S"} else "sockets share a link"
    words = f"{one.port} and {other.port} have one link between them inside"
    draft.hide(
        Hidden(name, words, breaks_at_times=_at(planting, one) | _at(planting, other),
               causes=frozenset({"shared link", "contention"}), is_reachable=reach),
        SharesLink(frozenset({one.port, other.port}), most),
    )  # fmt: skip


def minds_the_order(planting: Planting) -> None:
    draft = planting.draft
    picture, claim = planting.one_of(draft.of_kind(Shows)), planting.one_of(draft.of_kind(Data))
    if claim is None or picture is None:
        return
    kept = planting.left(0.1, 0.6)
    reach = _can_prove(planting, claim) and planting.bench.shows_anything(draft.port(picture.port))
    words = f"{claim.port} falls to {kept:.0%} if the display was connected first"
    draft.hide(
        Hidden("minds the order", words, breaks_at_times=_at(planting, claim),
               causes=frozenset({"contention", "state or order"}), is_reachable=reach),
        MindsTheOrder(claim.port, kept),
    )  # fmt: skip


def plug_works_one_way(planting: Planting) -> None:
    draft = planting.draft
    sockets = [each for each in draft.of_kind(Data) if draft.port(each.port).connector == "usb-c"]
    claim = planting.one_of(sockets)
    if claim is None:
        return
    words = f"{claim.port} makes 480 Mb/s with the plug one way round"
    draft.hide(
        Hidden("plug works one way", words, breaks_at_times=_at(planting, claim),
               causes=frozenset({"state or order"}), is_reachable=_can_prove(planting, claim)),
        SlowTurnedOver(claim.port),
    )  # fmt: skip


def host_plug_works_one_way(planting: Planting) -> None:
    draft = planting.draft
    data = draft.of_kind(Data)
    if not data or draft.upstream.connector != "usb-c plug" or len(data) < len(draft.of_kind(Data, free_only=False)):
        return
    words = "with the plug at the host one way round, all data runs at 480 Mb/s"
    draft.hide(
        Hidden("host plug works one way", words, breaks_at_times=_all_data(planting, _SLOW_BPS),
               causes=frozenset({"state or order"}), is_reachable=any(_can_prove(planting, each) for each in data)),
        SlowHostPlugTurnedOver(),
    )  # fmt: skip


def slow_once_reconnected(planting: Planting) -> None:
    draft = planting.draft
    data = draft.of_kind(Data)
    if not data or len(data) < len(draft.of_kind(Data, free_only=False)):
        return
    words = "unplugged and plugged in again at once, it comes back at 480 Mb/s"
    draft.hide(
        Hidden("slow once reconnected", words, breaks_at_times=_all_data(planting, _SLOW_BPS),
               causes=frozenset({"state or order"}), is_reachable=any(_can_prove(planting, each) for each in data)),
        SlowOnceReconnected(HIGH_SPEED_BPS),
    )  # fmt: skip


@about(Data)
def is_not_always_seen(planting: Planting, claim: Claim, promise: Data) -> None:
    draft = planting.draft
    words = f"gear in {claim.port} does not always appear"
    draft.hide(
        Hidden("not always seen", words, breaks=_whole(planting, claim), causes=_DEVICE | {"chance"},
               is_reachable=planting.bench.drives(draft.port(claim.port), 0.0)),
        Flaky(claim.port, planting.dice.uniform(0.75, 1.0)),
    )  # fmt: skip


def unseen_beside_another(planting: Planting) -> None:
    draft = planting.draft
    picture, claim = planting.one_of(draft.of_kind(Shows)), planting.one_of(draft.of_kind(Data))
    if claim is None or picture is None:
        return
    reach = planting.bench.shows_anything(draft.port(picture.port)) and _can_prove(planting, claim)
    words = f"{claim.port} is dead while a display is in {picture.port}"
    draft.hide(
        Hidden("unseen beside another", words, breaks_at_times=_at(planting, claim),
               causes=frozenset({"contention"}), is_reachable=reach),
        UnseenBeside(claim.port, picture.port),
    )  # fmt: skip


@about(Data)
def spoils_bytes(planting: Planting, claim: Claim, promise: Data) -> None:
    draft = planting.draft
    words = f"{claim.port} now and then hands back a wrong byte"
    draft.hide(
        Hidden("wrong bytes", words, breaks=_at(planting, claim), causes=frozenset({"wrong bytes"}),
               is_reachable=_can_prove(planting, claim)),
        Corrupts(claim.port),
    )  # fmt: skip


@about(Links)
def throttles_when_hot(planting: Planting, claim: Claim, promise: Links) -> None:
    draft = planting.draft
    draft.rise_k = max(draft.rise_k, _SOAK_K + 4)
    kept = planting.left()
    words = f"{claim.port} falls to {kept:.0%} once the case is {_SOAK_K:g} K above the room"
    draft.hide(
        Hidden("throttles when hot", words, breaks_at_times=_at(planting, claim), causes=frozenset({"heat"}),
               is_reachable=planting.bench.peer(promise.rate_bps)
               and planting.bench.links_without(promise.rate_bps)),
        Throttles(claim.port, kept, above_k=_SOAK_K),
    )  # fmt: skip


def _has_hungry_drive(planting: Planting) -> bool:
    drives = planting.bench.rig.drives
    return any(isinstance(each.current_a, float | int) and each.current_a >= _HUNGRY_A for each in drives)


@about(Feeds)
def drops_at_the_start(planting: Planting, claim: Claim, promise: Feeds) -> None:
    draft = planting.draft
    words = f"so much is lost on the way to {claim.port} that a disk falls off when it starts"
    draft.hide(
        Hidden(_DROPS, words, breaks=frozenset({str(claim)}),
               is_reachable=_has_hungry_drive(planting)),
        DropsAtStart(claim.port, ohm=planting.dice.uniform(0.5, 0.7), open_v=5.0, least_v=4.6),
    )  # fmt: skip


def mind_what_masks(planting: Planting) -> None:
    """What keeps something else from being seen: hungry drives that fall off, pictures too small to take all lanes."""
    _mind_what_falls_off(planting)
    draft = planting.draft
    largest = max((parse_mode(mode).pixels_a_second for mode in draft.display_modes.values()), default=0.0)
    if any(isinstance(each, TakesFourLanes) and largest < each.from_pixels_a_second for each in draft.traits) or any(
        isinstance(each, OfOlderVersion) for each in draft.traits
    ):
        draft.hidden = [replace(each, is_reachable=False) if each.name == _FOUR_LANES else each
                        for each in draft.hidden]  # fmt: skip


def _mind_what_falls_off(planting: Planting) -> None:
    """Where hungry drives fall off a socket, only the others can show what else is wrong with its data."""
    draft, bench = planting.draft, planting.bench
    for trait in (each for each in draft.traits if isinstance(each, DropsAtStart)):
        sturdy = OnTheBench(replace(bench.rig, drives=tuple(filter(trait.carries, bench.rig.drives)), cards=()))
        owed_bps = max((_owes(each) for each in draft.claims if each.port == trait.socket), default=0.0)
        if not sturdy.drives(draft.port(trait.socket), SHOWN_SHARE * owed_bps):
            draft.hidden = [
                each if each.name == _DROPS or not each.touched & _all_data(planting)
                else replace(each, is_reachable=False) for each in draft.hidden
            ]  # fmt: skip


DATA = (
    twin_runs_slower, lower_class, card_slot_runs_slower, falls_beside_display, takes_four_lanes, narrow_upstream,
    shares_an_inner_link, minds_the_order, plug_works_one_way, host_plug_works_one_way, slow_once_reconnected,
    is_not_always_seen, unseen_beside_another, spoils_bytes, throttles_when_hot, drops_at_the_start,
)  # fmt: skip
