"""Power by agreement: what a socket, a contract and a cable allow, in volts, amperes and watts."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.links.copper import USB_C_GROUND_DROP_V, USB_C_VBUS_DROP_V

_SOURCE_TOLERANCE = 0.05
USB_V = 5.0
UNMARKED_A, MARKED_A = 3.0, 5.0
UNMARKED_W, STANDARD_W, EXTENDED_W = 60.0, 100.0, 240.0
"""What a cable without a marker, one marked 5 A, and one marked 50 V 5 A may carry.

Source: USB Type-C R2.2, 4.6.2 and 5.2 (3 A without a marker); USB PD R3.1, 6.4.4.3 and 10.3 (SPR to 20 V, EPR to 48 V).
"""


def usual_socket_w(connector: str) -> float:
    """What a socket may give without any agreement, in watts; 0 for one that gives nothing.

    Sources: USB 3.2, 11.4.5 (900 mA at 5 V); USB Type-C R2.2, 4.6.2.1 (3 A at 5 V).
    """
    return {"usb-a": 0.9 * USB_V, "usb-c": UNMARKED_A * USB_V}.get(connector, 0.0)


def lowest_sink_v(nominal_v: float) -> float:
    """The least voltage at the far end of a good lead while the source keeps its limits, in volts.

    Source: USB PD R3.1, 7.1.4.2 (source tolerance 5 %); USB Type-C R2.2, 4.4.1 (500 mV over VBUS, 250 mV over ground).
    """
    return nominal_v * (1 - _SOURCE_TOLERANCE) - (USB_C_VBUS_DROP_V + USB_C_GROUND_DROP_V)


@dataclass(frozen=True)
class Feed:
    """What a socket feeds by one standard: most volts and amperes, and where that is written."""

    name: str
    volts: float
    amperes: float
    source: str

    @property
    def watts(self) -> float:
        return self.volts * self.amperes


FEEDS = (
    Feed("USB 2.0 default", USB_V, 0.5, "USB 2.0, 7.2.1"),
    Feed("USB 3.2 default", USB_V, 0.9, "USB 3.2, 11.4.5"),
    Feed("USB 3.2 default, two lanes", USB_V, 1.5, "USB 3.2, 11.4.5"),
    Feed("BC 1.2", USB_V, 1.5, "USB BC 1.2, 4.1"),
    Feed("Type-C 1.5 A", USB_V, 1.5, "USB Type-C R2.2, table 4-36"),
    Feed("Type-C 3 A", USB_V, 3.0, "USB Type-C R2.2, table 4-36"),
    Feed("PD fixed", 20.0, MARKED_A, "USB PD R3.1, 10.2"),
    Feed("PD PPS", 21.0, MARKED_A, "USB PD R3.1, 10.2.3"),
    Feed("PD AVS", 20.0, MARKED_A, "USB PD R3.2, 10.2 (SPR AVS, 9 to 20 V)"),
    Feed("PD EPR", 48.0, MARKED_A, "USB PD R3.1, 10.3"),
    Feed("PD EPR AVS", 48.0, MARKED_A, "USB PD R3.1, 10.3 (15 to 48 V)"),
)
"""Variable and battery objects of PD stay within the volts and amperes of fixed ones (USB PD R3.1, 6.4.1.2)."""
_STEPS = ((5.0, 0.0), (9.0, 15.0), (15.0, 27.0), (20.0, 45.0), (28.0, 100.0), (36.0, 140.0), (48.0, 180.0))
"""Fixed voltages, and the watts above which a source has each of them. Source: USB PD R3.1, 10.2.2 and 10.3.2."""


@dataclass(frozen=True)
class Step:
    """One voltage that a source of so many watts must offer, with its current."""

    volts: float
    amperes: float


def steps_of_source(watts: float) -> tuple[Step, ...]:
    """The fixed voltages that a source of that power must offer by the power rules, lowest first.

    Source: USB PD R3.1, 10.2.2 "Normative Voltages and Minimum Currents". Raises: ValueError above 240 W.
    """
    if not 0 < watts <= EXTENDED_W:
        raise ValueError(f"{watts:g} W is outside what USB PD gives: up to {EXTENDED_W:g} W")
    volts = [step for step, above in _STEPS if watts > above]
    return tuple(Step(each, min(_most_a(each), watts / each)) for each in volts)


def _most_a(volts: float) -> float:
    """Below 20 V three amperes will do: a higher voltage carries the rest."""
    return MARKED_A if volts >= 20.0 else UNMARKED_A


@dataclass(frozen=True)
class PowerAnswer:
    """The most that a way lets through, and the sum behind it."""

    watts: float
    volts: float
    amperes: float
    why: str


def cable_allows(marked_v: float | None, marked_a: float | None) -> PowerAnswer:
    """What a C to C cable may carry by what its marker says; None for a cable without one."""
    if marked_a is None or marked_a < MARKED_A:
        why = "without a 5 A marker: 3 A at up to 20 V (USB Type-C R2.2, 4.6.2)"
        return PowerAnswer(UNMARKED_W, 20.0, UNMARKED_A, why)
    if marked_v is not None and marked_v >= 50.0:
        why = "marked 50 V 5 A: 5 A at up to 48 V (USB PD R3.1, 10.3)"
        return PowerAnswer(EXTENDED_W, 48.0, MARKED_A, why)
    return PowerAnswer(STANDARD_W, 20.0, MARKED_A, "marked 5 A, not 50 V: 5 A at up to 20 V (USB PD R3.1, 10.2)")


def cable_needed(watts: float) -> str:
    """Which cable so many watts take, in words. Raises: ValueError above 240 W."""
    if watts > EXTENDED_W:
        raise ValueError(f"{watts:g} W is more than any C to C cable may carry: {EXTENDED_W:g} W")
    if watts > STANDARD_W:
        return "a cable marked 50 V 5 A"
    return "a cable marked 5 A" if watts > UNMARKED_W else "any C to C cable"


@dataclass(frozen=True)
class LeftForHost:
    """What of a supply's watts can reach a host, and what sets it."""

    watts: float
    left_w: float
    """Less what the device uses and gives away, before the lead is asked."""
    cable: PowerAnswer
    needed: str
    """Which cable all that is left takes."""


def left_for_host(
    supply_w: float, *, own_w: float = 0.0, given_w: float = 0.0, marked_v: float | None = None,
    marked_a: float | None = None,
) -> LeftForHost:  # fmt: skip
    """What is left to the host of a supply, over a lead with that marker. Raises: ValueError above 240 W or below 0."""
    if min(supply_w, own_w, given_w) < 0:
        raise ValueError("power cannot be negative")
    left = max(0.0, supply_w - own_w - given_w)
    cable = cable_allows(marked_v, marked_a)
    return LeftForHost(min(left, cable.watts), left, cable, cable_needed(left))
