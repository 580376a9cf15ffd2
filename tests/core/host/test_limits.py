"""What limits the power of a C socket, and when a cable that is not shown says anything."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.core.decode.identity import decode_identity
from auditra.core.host.limits import power_limits
from auditra.core.host.snapshot import PowerObject, PowerOffer, TypeCCable, TypeCPartner, TypeCPort

LIMIT = "no cable answered: without a marker 3 A (60 W) is the limit"
OFFER = PowerOffer("pd0", gives=(PowerObject(1, "fixed", 20_000, current_ma=3000),))
ASKED = TypeCPort("port0", power_role="sink", operation="usb_power_delivery", vconn_source=True,
                  partner=TypeCPartner(power_delivery=True, offer=OFFER))  # fmt: skip
_HUB_WITH_ITS_OWN_LEAD, _HUB_WITH_A_SOCKET = 0x48600000 | 0x1F6E, 0x48400000 | 0x1F6E


def of_partner(**changes: object) -> TypeCPort:
    assert ASKED.partner is not None
    return replace(ASKED, partner=replace(ASKED.partner, **changes))  # type: ignore[arg-type]


def identity(header: int) -> object:
    return decode_identity(header, 0, 0, (), of_cable=False)


@pytest.mark.parametrize(
    "port",
    [ASKED, replace(ASKED, vconn_source=None), replace(ASKED, operation=None), of_partner(power_delivery=None),
     of_partner(accessory="none"), of_partner(identity=identity(_HUB_WITH_A_SOCKET))],
)  # fmt: skip
def test_a_cable_that_could_have_answered_and_did_not_limits_to_3_a(port: TypeCPort) -> None:
    assert LIMIT in power_limits(port)


@pytest.mark.parametrize(
    "port",
    [
        replace(ASKED, partner=None), replace(ASKED, operation="default"), replace(ASKED, operation="1.5A"),
        replace(ASKED, operation="3.0A"), replace(ASKED, vconn_source=False), of_partner(power_delivery=False),
        of_partner(accessory="analog_audio"), of_partner(identity=identity(_HUB_WITH_ITS_OWN_LEAD)),
        replace(ASKED, operation=None, partner=TypeCPartner()), replace(ASKED, cable=TypeCCable()),
    ],
)  # fmt: skip
def test_a_cable_that_nobody_could_ask_says_nothing(port: TypeCPort) -> None:
    assert not any("60 W" in words and "cable" in words for words in power_limits(port))


def test_more_than_3_a_is_offered_only_over_a_lead_that_is_known_to_carry_it() -> None:
    five = of_partner(offer=PowerOffer("pd0", gives=(PowerObject(1, "fixed", 20_000, current_ma=5000),)))
    assert list(power_limits(five))[:2] == [
        LIMIT, "the partner offers more than 3 A, which requires a cable that it identified as 5 A",
    ]  # fmt: skip


@pytest.mark.parametrize("types", [(), (0,)])
def test_a_marker_whose_own_object_is_not_reported_carries_nothing_known(types: tuple[int, ...]) -> None:
    """Older kernels show the first three objects alone, and zeros until they were asked."""
    told = decode_identity(0x18001F6E, 0, 0, types, of_cable=True)
    assert told is not None
    assert (told.cable, told.reserved) == (None, ())
    assert "the cable answered, but its current rating is not reported" in power_limits(
        replace(ASKED, cable=TypeCCable(None, identity=told))
    )


def test_a_limited_object_is_no_offer_of_its_product() -> None:
    limited = PowerObject(2, "programmable", most_voltage_mv=21_000, current_ma=5000, power_limited=True)
    assert replace(OFFER, gives=(*OFFER.gives, limited)).most_w == 60
    assert replace(OFFER, gives=(*OFFER.gives, replace(limited, power_limited=False))).most_w == 105
