"""The simulated bench behaves like things on a desk."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.display.edid import decode_edid
from auditra.core.links.display import parse_mode
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Meter
from auditra.core.model.setup import Plugged
from auditra.core.simulate.demo_devices import MODELS
from auditra.core.simulate.heat import AMBIENT_C
from auditra.core.simulate.kernel_tree import edid_of, kernel_tree
from auditra.core.simulate.power import Flow
from auditra.core.simulate.scpi import NO_ERROR, SimulatedInstrument
from auditra.core.simulate.trait import Asked
from auditra.core.simulate.traits.data import Flaky
from auditra.core.simulate.world import World
from tests.support.audits import HUB, galley

HUB_ON_LAPTOP = Plugged("laptop", "C1", DEVICE)
LOAD = "load"
SSD_IN_A1 = Plugged(DEVICE, "A1", "fast-ssd", "AC-1")


def world(**changes: object) -> World:
    return World(HUB, galley(), replace(MODELS["Osierpell OP-6"], **changes), seed=7)  # type: ignore[arg-type]


@pytest.fixture
def hub() -> World:
    made = world()
    made.connections.plug(HUB_ON_LAPTOP)
    made.advance(5)
    return made


def test_a_drive_comes_up_after_a_moment_and_goes_when_pulled(hub: World) -> None:
    hub.connections.plug(SSD_IN_A1)
    assert hub.usb.link_bps("fast-ssd") is None
    hub.advance(5)
    assert hub.usb.link_bps("fast-ssd") == 5e9
    hub.connections.pull(SSD_IN_A1)
    assert hub.usb.link_bps("fast-ssd") is None
    assert hub.traffic.payload_bps("fast-ssd", writing=True) == 0.0


def test_a_power_inlet_does_no_data(hub: World) -> None:
    hub.connections.plug(Plugged(DEVICE, "P1", "fast-ssd", "CC-1"))
    hub.advance(60)
    assert hub.usb.link_bps("fast-ssd") is None


def test_the_projector_is_shown_no_more_than_the_hub_can() -> None:
    shown = world(display_modes={"H1": "1920x1080@60"})
    shown.connections.plug(HUB_ON_LAPTOP)
    shown.connections.plug(Plugged(DEVICE, "H1", "projector", "HD-1"))
    shown.advance(10)
    assert str(shown.displays.mode_of("projector")) == "1920x1080@60"


def test_a_source_gives_way_when_more_is_drawn_than_it_has() -> None:
    drawn = world(gives_w={"A1": 4.6}, own_use_w=2.0)
    drawn.connections.plug(HUB_ON_LAPTOP)
    drawn.connections.plug(Plugged(DEVICE, "A1", "load", "AC-1"))
    drawn.power.loads_on, drawn.power.load_a = {LOAD}, {LOAD: 0.9}
    assert drawn.power.load_flow().volts > 4.9
    drawn.power.load_a[LOAD] = 1.5
    assert drawn.power.load_flow().volts < 1.0


def test_a_socket_gives_no_more_than_is_left_of_what_feeds_the_device() -> None:
    drawn = world(gives_w={"A1": 4.6}, own_use_w=11.0, takes_w={"P1": 100.0})
    drawn.connections.plug(HUB_ON_LAPTOP)
    drawn.connections.plug(Plugged(DEVICE, "A1", "load", "AC-1"))
    drawn.power.loads_on, drawn.power.load_a = {LOAD}, {LOAD: 0.9}
    assert drawn.power.load_flow().volts < 1.0
    drawn.connections.plug(Plugged(DEVICE, "P1", "supply-140", "CC-1"))
    assert drawn.power.load_flow().volts > 4.9


def test_the_hub_keeps_its_own_watts() -> None:
    fed = world(own_use_w=11.0)
    fed.connections.plug(Plugged(DEVICE, "UP", "load"))
    fed.connections.plug(Plugged(DEVICE, "P1", "supply-140", "CC-1", through=("meter",)))
    fed.power.loads_on, fed.power.load_a = {LOAD}, {LOAD: 3.0}
    into, out = fed.power.meter_flow(), fed.power.load_flow()
    assert into.volts * into.amperes - out.volts * out.amperes == pytest.approx(11.0, abs=0.8)


@given(st.integers(0, 10_000), st.floats(1, 200))
def test_the_meter_stays_inside_its_stated_error(seed: int, watts: float) -> None:
    rig = galley()
    meter = rig.meters[0]
    assert isinstance(meter, Meter)
    told = World(HUB, rig, MODELS["Osierpell OP-6"], seed).power.as_told_by(meter, Flow(20.0, watts / 20))
    assert abs(told.volts * told.amperes - watts) <= watts * 0.003


@given(st.integers(0, 99))
def test_the_same_seed_gives_the_same_world(seed: int) -> None:
    def rates() -> list[float]:
        made = World(HUB, galley(), MODELS["Osierpell OP-6"], seed)
        made.connections.plug(HUB_ON_LAPTOP)
        made.connections.plug(SSD_IN_A1)
        made.advance(6)
        return [made.traffic.payload_bps("fast-ssd", writing=True) for _ in range(5)]

    assert rates() == rates()


@given(st.floats(0.1, 5000), st.floats(0.1, 5000))
def test_warmth_never_overshoots_and_hours_in_one_step_or_many_are_the_same(one: float, other: float) -> None:
    long, short = world(), world()
    for each in (long, short):
        each.connections.plug(HUB_ON_LAPTOP)
    long.advance(one + other, busy=True)
    short.advance(one, busy=True)
    short.advance(other, busy=True)
    assert AMBIENT_C <= long.heat.case_c <= AMBIENT_C + long.model.rise_busy_k
    assert long.heat.case_c == pytest.approx(short.heat.case_c, rel=1e-6)


def test_the_kernel_tree_names_hub_and_drive(hub: World) -> None:
    hub.connections.plug(SSD_IN_A1)
    hub.advance(5)
    tree = kernel_tree(hub)
    speeds = {path.split("/")[-2]: value for path, value in tree.items() if path.endswith("/speed") and "usb" in path}
    assert speeds["2-1"] == b"10000\n"
    assert speeds["2-1.8"] == speeds["2-1.8.1"] == b"5000\n"


def test_a_display_describes_itself_as_the_rig_does() -> None:
    for display in galley().displays:
        found = decode_edid(edid_of(display))
        assert found.problems == ()
        assert found.name == display.name[:13]
        assert found.preferred is not None
        assert found.preferred.mode.covers(parse_mode(display.modes[0]))
        assert (found.adaptive is not None) == (display.vrr is True)


def instrument() -> tuple[SimulatedInstrument, list[float]]:
    currents: list[float] = []
    return SimulatedInstrument("Maker,LOAD,0,1", lambda: (5.0, 0.9), currents.append, lambda on: None), currents


@pytest.mark.parametrize("header", ["MEAS:VOLT?", "MEASure:VOLTage?", "measure:voltage?", ":MEASURE:VOLT?"])
def test_keywords_may_be_short_or_long_in_any_case(header: str) -> None:
    reply = instrument()[0].answer(header)
    assert reply is not None
    assert float(reply) == 5.0


def test_errors_queue_up_and_are_read_once() -> None:
    load, currents = instrument()
    for line in ("NO:SUCH", "SOUR:CURR 99", "SOUR:CURR much", "SOUR:CURR 1.5"):
        assert load.answer(line) is None
    said = [load.answer("SYST:ERR?") for _ in range(4)]
    assert [(each or "").split(",")[0] for each in said] == ["-113", "-222", "-104", "0"]
    assert said[-1] == NO_ERROR
    assert currents == [1.5]
    assert load.answer("*ESR?") == "48"
    assert load.answer("*ESR?") == "0"


@given(st.text(max_size=60))
def test_any_line_is_answered_or_queued_as_an_error(line: str) -> None:
    load, _ = instrument()
    load.answer(line)
    assert isinstance(load.answer("SYST:ERR?"), str)


def test_what_a_person_sees_of_the_world_is_as_its_model_is() -> None:
    made = world(figures={("body", "mass"): 0.31}, lacks=frozenset({"body"}), traits=(Flaky("J1", 1.0),))
    assert (made.figure("body", "mass"), made.figure("A1", "mass")) == (0.31, None)
    assert [made.is_so(Asked(spot, "made of")) for spot in ("body", "A1")] == [False, True]
    assert [made.works_in(Asked(spot, "plays"), 3) for spot in ("J1", "A1")] == [0, 3]
