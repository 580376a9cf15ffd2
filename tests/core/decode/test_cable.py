"""A cable's marker, wires, copper and seller's words side by side."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.claims.language import parse_claim
from auditra.core.decode.cable import FAST_PAIRS, WIRES, Agreement, CableKnown, allows, side_by_side
from auditra.core.decode.identity import Identity, decode_identity

ALL = frozenset(WIRES)
ONE_LANE = ALL - {"TX2", "RX2"}
CHARGING = frozenset({"VBUS", "GND", "CC", "D+", "D-"})


def marker(vdo: int) -> Identity | None:
    return decode_identity(0x18001F6E, 0, 0, (vdo,), of_cable=True)


STRONG, WEAK = marker(0x000A2642), marker(0x00082020)


def known(*sentences: str, **more: object) -> CableKnown:
    claims = tuple(parse_claim(f"body {each}", claim_id=f"c{n}") for n, each in enumerate(sentences))
    return CableKnown(claims=claims, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("cable", "about", "standing", "words"),
    [
        (known("carries 240 W", marker=STRONG), "power", Agreement.TO_BE_MEASURED, "fit the marker"),
        (known("carries 240 W", marker=WEAK), "power", Agreement.CONTRADICTS, "60 W allowed"),
        (known("carries 100 W", answered=False), "power", Agreement.CONTRADICTS, "no marker"),
        (known("carries 60 W", marker=WEAK, vbus_mohm=120.0), "power", Agreement.AGREES, "60 W of 60 W"),
        (known("carries 240 W"), "power", Agreement.TO_BE_MEASURED, "neither marker nor wires"),
        (known("carries 240 W", marker=STRONG, vbus_mohm=122.0), "power", Agreement.CONTRADICTS, "its copper does not"),
        (known(marker=STRONG, vbus_mohm=122.0), "copper", Agreement.CONTRADICTS, "5 A x 122 mohm = 610 mV, 500 mV"),
        (known(marker=STRONG, vbus_mohm=90.0), "copper", Agreement.AGREES, "450 mV"),
        (known(marker=STRONG, ground_mohm=60.0), "copper", Agreement.CONTRADICTS, "250 mV are allowed"),
        (known("is marked 50 V 5 A", marker=STRONG), "marker", Agreement.AGREES, "the marker confirms it"),
        (known("is marked 50 V 5 A", marker=WEAK), "marker", Agreement.CONTRADICTS, "3 A, the seller 5 A"),
        (known("is marked", answered=False), "marker", Agreement.CONTRADICTS, "none answers"),
        (known("carries 10 Gb/s", marker=STRONG, wires=ALL), "data", Agreement.TO_BE_MEASURED, "only data proves it"),
        (known("carries 10 Gb/s", marker=WEAK), "data", Agreement.CONTRADICTS, "480 Mb/s allowed"),
        (known("carries 10 Gb/s", wires=CHARGING), "data", Agreement.CONTRADICTS, "no fast pairs"),
        (known("carries 480 Mb/s", wires=CHARGING), "data", Agreement.TO_BE_MEASURED, "marker and wires"),
        (known("carries 20 Gb/s", marker=STRONG, wires=ONE_LANE), "data", Agreement.CONTRADICTS, "10 Gb/s allowed"),
        (known(marker=STRONG, wires=CHARGING), "data", Agreement.CONTRADICTS, "no fast pairs are there"),
        (known("carries picture 3840x2160@60", wires=ALL - {"SBU1"}), "display", Agreement.CONTRADICTS, "without SBU"),
        (known("carries picture 3840x2160@60", marker=WEAK), "display", Agreement.CONTRADICTS, "USB 2.0"),
        (known("carries picture 3840x2160@60", wires=ALL), "display", Agreement.TO_BE_MEASURED, "shows the rest"),
    ],
)  # fmt: skip
def test_what_is_known_stands_together_or_does_not(
    cable: CableKnown, about: str, standing: Agreement, words: str
) -> None:
    found = [each for each in side_by_side(cable) if each.about == about]
    assert [each.standing for each in found] == [standing]
    assert words in found[0].words


def test_what_a_cable_allows_and_why() -> None:
    told = allows(known(marker=STRONG, wires=ALL))
    assert (told.power_w, told.lane_mbps, told.display_lanes) == (240.0, 10_000, 4)
    assert "5 A at up to 50 V" in told.power_why
    plain = allows(known(answered=False, wires=CHARGING))
    assert (plain.power_w, plain.lane_mbps, plain.display_lanes) == (60.0, 480, 0)
    assert allows(CableKnown()).power_w is None


def test_each_finding_names_who_said_what() -> None:
    (found,) = side_by_side(known("carries 240 W", marker=WEAK))
    assert found.says == ("seller: carries 240 W", "marker: 3 A at up to 20 V (60 W), USB 2.0")


@given(
    st.one_of(st.none(), st.frozensets(st.sampled_from(WIRES))), st.one_of(st.none(), st.floats(0, 2000)),
    st.sampled_from([None, STRONG, WEAK]), st.sampled_from([None, True, False]),
)  # fmt: skip
def test_a_cable_of_which_nothing_is_promised_contradicts_no_seller(
    wires: frozenset[str] | None, mohm: float | None, told: Identity | None, answered: bool | None
) -> None:
    cable = CableKnown(told, answered, wires, mohm, mohm)
    assert all(not each.startswith("seller: carries") for finding in side_by_side(cable) for each in finding.says)
    limits = allows(cable)
    assert limits.display_lanes is None or 0 <= limits.display_lanes <= len(FAST_PAIRS)
