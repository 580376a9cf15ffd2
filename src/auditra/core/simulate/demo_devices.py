"""What the demo devices really do. Each promises more on its box; an audit finds out which."""

from __future__ import annotations

from auditra.core.links.display import parse_mode
from auditra.core.model.device import BODY
from auditra.core.model.reading import Quantity
from auditra.core.simulate.model import DeviceModel
from auditra.core.simulate.traits.data import (
    DropsAtStart,
    LosesBesideDisplay,
    SharesLink,
    SlowHostPlugTurnedOver,
    TakesFourLanes,
    Throttles,
)
from auditra.core.simulate.traits.network import LimitsFrames, LostAfterInletMoves, NeedsDriver
from auditra.core.simulate.traits.pictures import ForgetsArrangement, ThinsDescription
from auditra.core.simulate.traits.power import SharesPower, ThinCopper
from auditra.core.simulate.traits.seen import FailsBeside, FailsOnHosts, MissesEvery, Takes

_MB = 8e6
_DRIVERLESS = frozenset({"older-laptop"})
_OSIERPELL_OP_6 = DeviceModel(
    data_bps={"A1": 5e9, "A2": 5e9},
    card_bps={"S1": 104 * _MB},
    network_bps={"N1": 1e9},
    display_modes={"H1": "3840x2160@30"},
    gives_w={"A1": 4.6, "A2": 4.6},
    takes_w={"P1": 96.0},
    own_use_w=11.0,
    payload_share={"A1": 0.985, "A2": 0.982, "S1": 0.987, "N1": 0.99},
    lengths_m={"UP": 0.151},
    traits=(
        LosesBesideDisplay("A1", 0.996), LosesBesideDisplay("A2", 0.995), LosesBesideDisplay("S1", 0.999),
        LosesBesideDisplay("N1", 0.999),
    ),
)  # fmt: skip
_BRACKWATER_BW_11 = DeviceModel(
    data_bps={"C1": 10e9, "C2": 10e9, "A1": 5e9, "A2": 5e9},
    card_bps={"S1": 312 * _MB},
    network_bps={"N1": 2.5e9},
    display_modes={"H1": "3840x2160@60"},
    gives_w={"C1": 29.0, "C2": 29.0, "A1": 4.6, "A2": 4.6},
    gives_v={"C1": 9.0, "C2": 9.0},
    takes_w={"P1": 150.0},
    host_w=68.6,
    own_use_w=9.0,
    payload_share={"C1": 0.992, "C2": 0.99, "A1": 0.986, "A2": 0.983, "S1": 0.99, "N1": 0.992},
    rise_idle_k=8.0,
    rise_busy_k=28.4,
    warms_in_s=950.0,
    traits=(
        LosesBesideDisplay("A1", 0.997), LosesBesideDisplay("A2", 0.996), LosesBesideDisplay("S1", 0.999),
        LosesBesideDisplay("N1", 0.999), SharesPower(frozenset({"C1", "C2"}), 45.4),
        SharesLink(frozenset({"S1", "A1"}), 0.93 * 4e9), Throttles("N1", 0.51, above_k=26.2),
    ),
)  # fmt: skip
_HERONSHAW_H6 = DeviceModel(
    data_bps={"A1": 10e9, "A2": 10e9, "A3": 10e9},
    network_bps={"N1": 1e9},
    display_modes={"D1": "3840x2160@60"},
    gives_w={"A1": 4.6, "A2": 4.6, "A3": 4.6},
    takes_w={"P1": 100.0},
    host_w=76.5,
    own_use_w=7.5,
    payload_share={"A1": 0.993, "A2": 0.992, "A3": 0.71, "N1": 0.99},
    traits=(TakesFourLanes(parse_mode("3840x2160@60").pixels_a_second * 0.9),),
)
_WITHYMOOR_W5 = DeviceModel(
    is_hub=False,
    network_bps={"N1": 5e9},
    takes_w={"P1": 100.0},
    host_w=83.0,
    own_use_w=3.0,
    payload_share={"N1": 0.99},
    rise_busy_k=16.0,
    traits=(LimitsFrames("N1", 4074), LostAfterInletMoves("N1", "P1", lasts_s=3.0)),
)
_TOWLYNE_T5 = DeviceModel(
    is_hub=False,
    upstream_bps=5e9,
    data_bps={"F1": 5e9},
    gives_w={"F1": 4.6},
    payload_share={"F1": 0.985},
    lengths_m={"UP": 5.02},
    traits=(SlowHostPlugTurnedOver(), DropsAtStart("F1", ohm=0.42 / 0.9, open_v=5.0, least_v=4.6)),
)
_SLUISGATE_C240 = DeviceModel(
    is_hub=False,
    figures={(BODY, Quantity.LINK): 10e9, (BODY, Quantity.POWER): 96.6},
    lengths_m={BODY: 1.21},
    traits=(ThinCopper(ohm=0.61 / 5, at_a=5.0),),
)
_MALLORBY_M9 = DeviceModel(
    data_bps={"A1": 5e9, "A2": 5e9, "C1": 5e9},
    card_bps={"S1": 104 * _MB, "S2": 104 * _MB},
    network_bps={"N1": 1e9},
    display_modes={"H1": "3840x2160@30", "V1": "1920x1080@60"},
    gives_w={"C1": 15.9, "A1": 4.6, "A2": 4.6},
    takes_w={"P1": 96.0},
    own_use_w=6.0,
    payload_share={"A1": 0.985, "A2": 0.982, "C1": 0.987, "S1": 0.987, "S2": 0.985, "N1": 0.99},
    traits=(
        ThinsDescription("H1", without=frozenset({"hdr"})), SharesLink(frozenset({"S1", "S2"}), 104 * _MB * 0.95),
        NeedsDriver("N1", _DRIVERLESS), FailsBeside("J1", "plays", frozenset({"A1", "A2", "C1"})),
        FailsOnHosts(BODY, "without driver", _DRIVERLESS),
    ),
)  # fmt: skip
_LOCKMERE_DK2 = DeviceModel(
    data_bps={"A1": 5e9, "A2": 5e9, "A3": 5e9},
    display_modes={"H1": "2560x1440@144"},
    gives_w={"A1": 4.6, "A2": 4.6, "A3": 4.6},
    payload_share={"A1": 0.985, "A2": 0.982, "A3": 0.983},
    traits=(
        Takes(BODY, Quantity.TIME_TO_SWITCH, 6.0, 9.0),
        MissesEvery("A3", "works with", 12),
        ForgetsArrangement(frozenset({"laptop"})),
    ),
)  # fmt: skip
MODELS: dict[str, DeviceModel] = {
    "Osierpell OP-6": _OSIERPELL_OP_6,
    "Brackwater BW-11": _BRACKWATER_BW_11,
    "Withymoor W5": _WITHYMOOR_W5,
    "Towlyne T5": _TOWLYNE_T5,
    "Sluisgate C240": _SLUISGATE_C240,
    "Heronshaw H6": _HERONSHAW_H6,
    "Mallorby M9": _MALLORBY_M9,
    "Lockmere DK2": _LOCKMERE_DK2,
}
"""By the device's whole name."""
