"""USB descriptors: what is there is read, what is wrong is told, and nothing goes round for ever."""

from __future__ import annotations

import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.decode.problem import Code
from auditra.core.decode.usb_capabilities import Capabilities, decode_capabilities
from auditra.core.decode.usb_descriptors import MAX_BYTES, decode_descriptors
from auditra.core.simulate import descriptors as usb

CONTAINER = "5ab1e000-0000-4000-8000-00000000c0de"
FAST = usb.capabilities(
    usb.usb2_extension(), usb.superspeed(), usb.superspeed_plus(), usb.container(CONTAINER), usb.billboard((0xFF01, 1))
)


def codes(data: bytes) -> list[Code]:
    return [each.code for each in decode_descriptors(data).problems]


def test_a_drive_at_superspeed() -> None:
    found = decode_descriptors(usb.disk())
    assert found.device is not None
    assert (found.device.usb_version, found.device.vid, found.device.pid) == ("3.20", 0x1F6E, 0x0601)
    assert found.device.max_packet_bytes == 512
    (configuration,) = found.configurations
    assert configuration.max_power_ma == 896
    (interface,) = configuration.interfaces
    assert [(each.direction, each.transfer, each.max_packet_bytes) for each in interface.endpoints] == [
        ("in", "bulk", 1024), ("out", "bulk", 1024),
    ]  # fmt: skip
    assert interface.endpoints[0].companion is not None
    assert interface.endpoints[0].companion.max_burst == 16
    assert found.problems == ()


def test_below_superspeed_a_step_of_power_is_2_ma() -> None:
    assert decode_descriptors(usb.disk(0x0210)).configurations[0].max_power_ma == 224


def test_what_a_device_could_do_whatever_it_does() -> None:
    could = decode_descriptors(FAST).capabilities
    assert could is not None
    assert could.most_mbps == 10_000
    assert could.superspeed is not None
    assert could.superspeed.speeds_mbps == (12.0, 480.0, 5000.0)
    assert could.container_id == CONTAINER
    assert could.usb2_extension is not None
    assert could.usb2_extension.link_power_management
    assert could.billboard is not None
    assert [(each.svid, each.mode, each.state) for each in could.billboard.modes] == [(0xFF01, 1, "entered")]
    assert could.problems == ()


@pytest.mark.parametrize(
    ("parts", "most"),
    [
        ((usb.superspeed(),), 5000.0), ((usb.superspeed(0b0110),), 480.0), ((), None),
        ((usb.superspeed(), usb.superspeed_plus(10, lanes=2)), 20_000.0), ((usb.usb2_extension(),), None),
        ((usb.superspeed(), usb.superspeed_plus(5, lanes=2)), 10_000.0),
    ],
)  # fmt: skip
def test_the_fastest_link_that_is_told(parts: tuple[bytes, ...], most: float | None) -> None:
    assert decode_capabilities(usb.capabilities(*parts))[0].most_mbps == most


def test_a_container_of_zeros_is_none() -> None:
    found, _ = decode_capabilities(usb.capabilities(usb.container("0" * 32)))
    assert found.container_id is None


def test_hubs_of_both_generations() -> None:
    slow = bytes((9, 0x29, 4, 0x09, 0x00, 50, 100, 0, 0xFF))
    fast = bytes((12, 0x2A, 4, 0x09, 0x00, 50, 25, 0, 0, 0, 0, 0))
    hubs = decode_descriptors(slow + fast).hubs
    assert [(hub.superspeed, hub.port_count, hub.ready_ms, hub.own_current_ma) for hub in hubs] == [
        (False, 4, 100, 100), (True, 4, 100, 100),
    ]  # fmt: skip
    assert all(hub.switches_each_port and hub.guards_each_port for hub in hubs)


def test_associations_and_alternate_settings() -> None:
    camera = usb.configuration(
        bytes((8, 11, 0, 2, 0x0E, 3, 0, 0)),
        usb.interface(0, endpoints=0, codes=(0x0E, 1, 0)),
        usb.interface(1, endpoints=1, codes=(0x0E, 2, 0)),
        usb.endpoint(0x83, attributes=5, packet=0x1400, burst=None),
        interfaces=2,
    )
    (configuration,) = decode_descriptors(usb.device(0x0200) + camera).configurations
    assert configuration.associations[0].interface_count == 2
    (endpoint,) = configuration.interfaces[1].endpoints
    assert (endpoint.transfer, endpoint.max_packet_bytes, endpoint.transactions) == ("isochronous", 1024, 3)


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (usb.device() + b"\x00\x02" * 500, Code.LENGTH),
        (usb.device() + b"\x01\x02", Code.LENGTH),
        (usb.device()[:10], Code.SHORT),
        (usb.disk()[:-3], Code.SHORT),
        (usb.device() + usb.device(), Code.ORDER),
        (usb.device(count=2) + usb.configuration(interfaces=0), Code.COUNT),
        (usb.device() + usb.configuration(usb.interface(endpoints=3)), Code.COUNT),
        (usb.device() + usb.configuration(interfaces=4), Code.COUNT),
        (usb.interface(), Code.ORDER),
        (usb.endpoint(0x81), Code.ORDER),
        (b"\xff\xff" * MAX_BYTES, Code.LONG),
        (usb.capabilities(usb.superspeed(), count=9), Code.COUNT),
        (usb.capabilities(b"\x00\x10\x03\x00"), Code.LENGTH),
        (usb.capabilities(usb.superspeed()[:5] + bytes(1)), Code.SHORT),
        (bytes((5, 15, 0xFF, 0xFF, 1)) + usb.superspeed(), Code.SHORT),
        (usb.capabilities(usb.billboard((0xFF01, 1))[:-4]), Code.SHORT),
        (b"\x05\x0f\x02\x00\x00", Code.LENGTH),
        (usb.capabilities(b"\x0b\x10\x03" + bytes(8)), Code.LENGTH),
        (usb.capabilities(usb.superspeed_plus(10)[:-4]), Code.SHORT),
        (usb.capabilities(usb.superspeed(), usb.superspeed()), Code.ORDER),
        (usb.capabilities(b"\x0a\x11" + usb.superspeed()[2:]), Code.ORDER),
        (usb.device() + usb.configuration(interfaces=0)[:2] + b"\x0a\0\0\x01\0\x80\x32", Code.COUNT),
        (
            usb.device()
            + usb.configuration(usb.interface(endpoints=0))[:2]
            + b"\x08\0\x01\x01\0\x80\x32"
            + usb.interface(endpoints=0),
            Code.COUNT,
        ),
        (usb.device()[:1] + b"\x01" + usb.device()[2:] + bytes((10, 2)) + usb.configuration()[2:] + b"\0", Code.LENGTH),
    ],
)
def test_what_is_wrong_is_told_and_the_rest_is_read(data: bytes, code: Code) -> None:
    assert code in codes(data)


def test_a_device_survives_what_follows_it() -> None:
    found = decode_descriptors(usb.device() + b"\x00" * 4096)
    assert found.device is not None
    assert found.device.vid == 0x1F6E


def test_a_length_of_zero_never_goes_round() -> None:
    begun = time.process_time()
    decode_descriptors(b"\x00" * MAX_BYTES)
    decode_descriptors(b"\x02\x00" * (MAX_BYTES // 2))
    assert time.process_time() - begun < 1.0


@pytest.mark.parametrize("header", [b"\x06\x0f", b"\x04\x0f", b"\x05\x10", b"\x05\x02", b"\x00\x0f"])
def test_what_is_no_header_of_capabilities_gives_none(header: bytes) -> None:
    found, _ = decode_capabilities(header + usb.capabilities(usb.superspeed(), usb.superspeed_plus(20))[2:])
    assert (found.most_mbps, [each.code for each in found.problems]) == (None, [Code.ORDER])


RICH = usb.capabilities(
    usb.usb2_extension(), usb.superspeed(), usb.superspeed_plus(10), usb.container("6f1e0601" + "0" * 24),
    usb.billboard((0xFF01, 1), (0x8087, 1)),
)  # fmt: skip
_LENGTHS_TYPES_AND_COUNTS = (0, 1, 2, 3, 4, 5, 6, 12, 13, 22, 23, 42, 43, 62, 63)
_CUT = st.integers(0, len(RICH)).map(lambda at: RICH[:at])
_CHANGED = st.builds(
    lambda at, to: RICH[:at] + bytes((to,)) + RICH[at + 1 :],
    st.sampled_from(_LENGTHS_TYPES_AND_COUNTS), st.integers(0, 255),
)  # fmt: skip
_GROWN = st.builds(
    lambda at, put: RICH[:at] + put + RICH[at:], st.integers(0, len(RICH) - 1), st.binary(min_size=1, max_size=3)
)


def modes_of(found: Capabilities) -> set[int]:
    return {mode.svid for mode in found.billboard.modes} if found.billboard is not None else set()


@given(_CUT | _CHANGED)
def test_damage_to_how_capabilities_are_laid_out_is_told_and_adds_none(data: bytes) -> None:
    sound, found = decode_capabilities(RICH)[0], decode_capabilities(data)[0]
    assert (found.most_mbps or 0) <= (sound.most_mbps or 0)
    assert modes_of(found) <= modes_of(sound)
    assert data == RICH or found.problems


@given(_GROWN)
def test_bytes_put_in_between_give_no_faster_link(data: bytes) -> None:
    found, end = decode_capabilities(data)
    assert (found.most_mbps or 0) <= (decode_capabilities(RICH)[0].most_mbps or 0)
    assert found.problems or end < len(data)


@given(st.binary(max_size=400))
def test_any_bytes_give_a_value(data: bytes) -> None:
    found = decode_descriptors(data)
    assert all(0 <= each.offset <= len(data) for each in found.problems)


@given(st.data())
def test_damaged_descriptors_give_what_is_left(data: st.DataObject) -> None:
    whole = bytearray(usb.disk() + FAST)
    for _ in range(data.draw(st.integers(1, 4))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    cut = data.draw(st.integers(0, len(whole)))
    found = decode_descriptors(bytes(whole[:cut]))
    assert len(found.configurations) <= 2
    assert found.capabilities is None or isinstance(found.capabilities, Capabilities)


SOUND = usb.device(0x0200) + usb.configuration(
    usb.interface(0, endpoints=1), usb.endpoint(0x81, packet=512, burst=None),
    usb.interface(1, endpoints=1, codes=(0x0E, 2, 0)), usb.endpoint(0x83, packet=512, burst=None), interfaces=2,
)  # fmt: skip


@given(st.integers(0, len(SOUND) - 1))
def test_descriptors_that_were_cut_are_told_and_have_nothing_more(end: int) -> None:
    sound, found = decode_descriptors(SOUND), decode_descriptors(SOUND[:end])
    functions = {(each.number, each.class_code) for each in sound.configurations[0].interfaces}
    for configuration in found.configurations:
        assert {(each.number, each.class_code) for each in configuration.interfaces} <= functions
        assert configuration.max_power_ma == sound.configurations[0].max_power_ma
    assert found.problems or end == 0
