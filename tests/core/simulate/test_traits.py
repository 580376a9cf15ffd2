"""Each trait does what it says, and nothing else changes; faults of a rig leave the device alone."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.model.device import BODY, DEVICE
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import Plugged
from auditra.core.simulate.demo_devices import MODELS
from auditra.core.simulate.power import Flow
from auditra.core.simulate.rig_fault import (
    FillsUp,
    RecorderOn,
    RigFault,
    SickInstrument,
    SlowDrive,
    SlowLead,
    StaleWitness,
    WeakHost,
    WrongRoute,
)
from auditra.core.simulate.trait import Asked, Trait
from auditra.core.simulate.traits.data import (
    Corrupts,
    DropsAtStart,
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
from auditra.core.simulate.traits.network import LimitsFrames, LostAfterInletMoves, NeedsDriver
from auditra.core.simulate.traits.pictures import (
    BlanksWhenPlugged,
    ForgetsArrangement,
    LimitsModeBeside,
    LosesOptionBeside,
    OfOlderVersion,
    OneWins,
    ThinsDescription,
    Winner,
)
from auditra.core.simulate.traits.power import LatchesOff, LeavesVoltage, SharesPower, ThinCopper
from auditra.core.simulate.traits.seen import (
    FailsBeside,
    FailsOnHosts,
    HappensAnyway,
    IsNotSo,
    MissesEvery,
    StopsAfter,
    Takes,
    WorksNowAndThen,
)
from auditra.core.simulate.world import World
from tests.support.audits import HUB, galley

ON_LAPTOP, SSD = Plugged("laptop", "C1", DEVICE), Plugged(DEVICE, "A1", "fast-ssd", "AC-1")
SCREEN = Plugged(DEVICE, "H1", "projector", "HD-1")


def world(*traits: Trait, faults: tuple[RigFault, ...] = ()) -> World:
    model = replace(MODELS["Osierpell OP-6"], display_modes={"H1": "3840x2160@60"}, traits=traits)
    return World(HUB, galley(), model, seed=7, faults=faults)


def standing(made: World, *plugged: Plugged, turned: bool = False) -> World:
    for each in (ON_LAPTOP, *plugged):
        made.connections.plug(each, turned=turned)
        made.advance(5)
    return made


def rate(made: World, gear: str = "fast-ssd") -> float:
    return made.traffic.payload_bps(gear, writing=False) / 8e6


def test_a_sound_hub_gives_the_same_whatever_stands_beside() -> None:
    assert rate(standing(world(), SSD)) == pytest.approx(458, rel=0.03)
    assert rate(standing(world(), SCREEN, SSD)) == pytest.approx(458, rel=0.03)


@pytest.mark.parametrize(
    ("trait", "plugged", "share"),
    [
        (Slower("A1", 0.5), (SSD,), 0.5),
        (LosesBesideDisplay("A1", 0.2), (SSD,), 1.0),
        (LosesBesideDisplay("A1", 0.2), (SCREEN, SSD), 0.2),
        (MindsTheOrder("A1", 0.3), (SCREEN, SSD), 0.3),
        (MindsTheOrder("A1", 0.3), (SSD, SCREEN), 1.0),
        (TakesFourLanes(4e8), (SCREEN, SSD), 0.11),
        (NarrowUpstream(480e6), (SSD,), 0.11),
        (DropsAtStart("A1", ohm=1.0), (SSD,), 1.0),
        (SharesLink(frozenset({"A1", "A2"}), 3.8e9), (SSD,), 1.0),
    ],
)
def test_a_trait_of_data_takes_its_share_under_its_circumstances(
    trait: Trait, plugged: tuple[Plugged, ...], share: float
) -> None:
    assert rate(standing(world(trait), *plugged)) / rate(standing(world(), *plugged)) == pytest.approx(share, rel=0.05)


def test_ports_that_share_a_link_slow_each_other_down_only_while_both_are_at_work() -> None:
    other = Plugged(DEVICE, "A2", "film-ssd", "AC-2")
    made = standing(world(SharesLink(frozenset({"A1", "A2"}), 3.4e9)), SSD, other)
    alone = rate(made)
    made.traffic.busy.add("film-ssd")
    assert rate(made) < 0.6 * alone


def test_plugs_that_work_one_way_round_only() -> None:
    assert standing(world(SlowTurnedOver("A1")), SSD, turned=True).usb.link_bps("fast-ssd") == 480e6
    assert standing(world(SlowTurnedOver("A1")), SSD).usb.link_bps("fast-ssd") == 5e9
    assert standing(world(SlowHostPlugTurnedOver()), SSD, turned=True).usb.link_bps("fast-ssd") == 480e6


def test_a_device_that_is_plugged_in_again_at_once_stays_slow_until_it_had_a_rest() -> None:
    made = standing(world(SlowOnceReconnected(480e6)), SSD)
    for rest_s, link_bps in ((1.0, 480e6), (20.0, 5e9)):
        made.connections.pull(ON_LAPTOP)
        made.advance(rest_s)
        made.connections.plug(ON_LAPTOP)
        made.advance(5)
        assert made.usb.link_bps("fast-ssd") == link_bps


def test_gear_that_is_not_seen_beside_something_or_on_a_host() -> None:
    assert standing(world(UnseenBeside("A1", "H1")), SCREEN, SSD).usb.link_bps("fast-ssd") is None
    assert standing(world(UnseenBeside("A1", "H1")), SSD).usb.link_bps("fast-ssd") == 5e9
    assert standing(world(NeedsDriver("A1", frozenset({"laptop"}))), SSD).usb.link_bps("fast-ssd") is None


def test_heat_lowers_a_rate_once_the_case_is_warm_and_a_lost_link_comes_back() -> None:
    made = standing(world(Throttles("A1", 0.4, above_k=6.0)), SSD)
    cool = rate(made)
    made.advance(4000, busy=True)
    assert rate(made) == pytest.approx(0.4 * cool, rel=0.05)
    fed = Plugged(DEVICE, "P1", "supply-90", "CC-1")
    lost = standing(world(LostAfterInletMoves("A1", "P1", lasts_s=3.0)), SSD, fed)
    assert rate(lost) > 0
    lost.connections.pull(fed)
    assert rate(lost) == 0
    lost.advance(6)
    assert rate(lost) > 0


def test_a_picture_goes_dark_for_a_moment_when_something_is_plugged_elsewhere() -> None:
    made = standing(world(BlanksWhenPlugged("H1", lasts_s=2.0)), SCREEN)
    assert made.displays.mode_of("projector") is not None
    made.connections.plug(SSD)
    assert made.displays.mode_of("projector") is None
    made.advance(2.5)
    assert made.displays.mode_of("projector") is not None
    assert standing(world(BlanksWhenPlugged("H2", lasts_s=9.0)), SCREEN, SSD).displays.mode_of("projector") is not None


def test_a_host_forgets_its_displays_and_an_output_is_of_an_older_version() -> None:
    asked = Asked("H1", Quantity.ARRANGEMENT)
    assert not standing(world(ForgetsArrangement(frozenset({"laptop"}))), SCREEN).is_so(asked)
    assert standing(world(ForgetsArrangement(frozenset({"tablet"}))), SCREEN).is_so(asked)
    older = standing(world(OfOlderVersion("H1")), SCREEN)
    assert str(older.displays.mode_of("projector")) == "3840x2160@30"


def test_what_a_person_keeps_up_stops_after_its_time() -> None:
    made, sound = standing(world(StopsAfter("J1", "plays", 300.0))), Asked("J1", "plays")
    made.advance(900)
    assert made.works_in(sound, 3) == 3
    made.keep_up(True)
    made.advance(299)
    assert made.works_in(sound, 3) == 3
    made.advance(2)
    assert made.works_in(sound, 3) == 0
    made.keep_up(False)
    assert made.works_in(sound, 3) == 3


def test_what_is_left_in_a_socket_and_what_happens_by_itself() -> None:
    made = world(LeavesVoltage("C1", 9.0), LatchesOff("A1"), HappensAnyway("B1", "button"))
    assert (made.figure("C1", Quantity.VOLTAGE_LEFT), made.figure("C2", Quantity.VOLTAGE_LEFT)) == (9.0, 0.02)
    assert not made.is_so(Asked("A1", "guards against"))
    assert made.is_so(Asked("A2", "guards against"))
    assert (made.happens_anyway(Asked("B1", "button")), made.happens_anyway(Asked("B2", "button"))) == (True, False)


def test_a_drive_that_fills_up_is_slow_until_it_is_plugged_anew() -> None:
    made = standing(world(faults=(FillsUp("fast-ssd", 1e9, 0.3),)), SSD)
    fast = made.traffic.payload_bps("fast-ssd", writing=True)
    made.traffic.note_written("fast-ssd", 2_000_000_000)
    assert made.traffic.payload_bps("fast-ssd", writing=True) == pytest.approx(0.3 * fast, rel=0.05)
    assert made.traffic.payload_bps("fast-ssd", writing=False) == pytest.approx(fast, rel=0.1)
    made.connections.pull(SSD)
    standing(made, SSD)
    assert made.traffic.payload_bps("fast-ssd", writing=True) == pytest.approx(fast, rel=0.05)


def test_a_host_that_says_too_little_of_links_and_one_that_takes_another_way() -> None:
    made = standing(world(faults=(StaleWitness(480e6),)), SSD)
    assert {node.speed_mbps for node in made.usb.nodes() if not node.is_hub} == {480.0}
    assert rate(made) > 400
    over_the_air = world(faults=(WrongRoute("peer", 3e8),))
    assert over_the_air.traffic.wire_bps("peer") == pytest.approx(3e8, rel=0.05)
    assert world().traffic.wire_bps("peer") == 0


def test_a_socket_spoils_a_byte_now_and_then() -> None:
    made = standing(world(Corrupts("A1")), SSD)
    assert 100 < made.traffic.wrong_bytes("fast-ssd", 20_000 << 20) < 300
    assert sum(made.traffic.wrong_bytes("fast-ssd", 1 << 20) for _ in range(20_000)) == pytest.approx(200, rel=0.5)
    assert not standing(world(Corrupts("A2")), SSD).traffic.wrong_bytes("fast-ssd", 20_000 << 20)


def test_pictures_share_lanes_lose_options_and_win() -> None:
    beside = Plugged(DEVICE, "A2", "monitor", "HD-2")
    limited = standing(world(LimitsModeBeside("H1", "A2", 3e8)), beside, SCREEN)
    assert str(limited.displays.mode_of("projector")) == "3840x2160@30"
    assert str(standing(world(), SCREEN).displays.mode_of("projector")) == "3840x2160@60"
    lost = standing(world(LosesOptionBeside("H1", "vrr", "A2")), Plugged(DEVICE, "H1", "monitor", "HD-1"), beside)
    assert not lost.is_so(Asked("H1", "vrr"))
    thin = world(ThinsDescription("H1", without=frozenset({"hdr"})))
    assert not thin.is_so(Asked("H1", "hdr"))
    assert thin.figure("H1", Quantity.DEPTH) == 8
    for winner, shown in ((Winner.FIRST, True), (Winner.LAST, False)):
        won = standing(world(OneWins(frozenset({"H1", "A2"}), winner)), SCREEN, beside)
        assert (won.displays.mode_of("projector") is not None) == shown
        assert not won.is_so(Asked("H1 and A2", "at once"))


def test_power_is_shared_and_copper_is_thin() -> None:
    shares = SharesPower(frozenset({"A1"}), 20.0)
    made = world()
    assert shares.host_w(made, {"A1": 4.0}, 60.0) == 20.0
    assert shares.host_w(made, {}, 60.0) == 60.0
    cable = world(ThinCopper(0.1, at_a=5.0))
    assert (cable.figure(BODY, Quantity.DROP), cable.figure(BODY, Quantity.CURRENT)) == (0.5, 5.0)
    assert cable.figure("A1", Quantity.DROP) is None


def test_what_a_person_sees_depends_on_where_and_beside_what() -> None:
    hums = standing(world(FailsBeside("J1", "plays", frozenset({"A1"}))))
    assert hums.works_in(Asked("J1", "plays"), 3) == 3
    hums.connections.plug(SSD)
    assert hums.works_in(Asked("J1", "plays"), 3) == 0
    bare = standing(world(FailsOnHosts(BODY, "without driver", frozenset({"laptop"}))))
    assert bare.works_in(Asked(BODY, "without driver"), 3) == 0
    assert bare.works_in(Asked(BODY, "wakes with host"), 3) == 3
    assert not world(IsNotSo(BODY, "is marked")).is_so(Asked(BODY, "is marked"))
    assert world(WorksNowAndThen("A1", "works with", 0.0)).works_in(Asked("A1", "works with"), 5) == 0
    assert world(MissesEvery("A1", "works with", 4)).works_in(Asked("A1", "works with"), 9) == 7
    seconds = world(Takes(BODY, Quantity.TIME_TO_SWITCH, 6.0, 9.0)).figure(BODY, Quantity.TIME_TO_SWITCH)
    assert seconds is not None
    assert 6 <= seconds <= 9
    assert world(LimitsFrames("N1", 4074)).figure("N1", Quantity.LARGEST_FRAME) == 4074
    hungry = standing(world(DropsAtStart("A1", ohm=1.0)), Plugged(DEVICE, "A1", "disk", "AC-1"))
    assert hungry.works_in(Asked("A1", "feeds"), 3) == 0


@pytest.mark.parametrize(
    ("fault", "most_mb"),
    [
        (SlowLead("AC-1", 480e6), 50), (SlowDrive("fast-ssd", 0.1), 110), (WeakHost("laptop", 480e6), 50),
        (RecorderOn("laptop", 100 * 8e6), 102),
    ],
)  # fmt: skip
def test_a_fault_of_the_rig_slows_a_sound_device(fault: RigFault, most_mb: float) -> None:
    assert rate(standing(world(faults=(fault,)), SSD)) <= most_mb
    assert fault.words


def test_a_sick_instrument_shows_a_share_and_others_do_not() -> None:
    made = world(faults=(SickInstrument("meter", 0.8),))
    meter, load = made.connections.rig.meters[0], made.connections.rig.loads[0]
    assert made.power.as_told_by(meter, Flow(20.0, 2.0)).amperes == pytest.approx(1.6, rel=0.01)
    assert made.power.as_told_by(load, Flow(20.0, 2.0)).amperes == pytest.approx(2.0, rel=0.01)
