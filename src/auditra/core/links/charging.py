"""Voltages that charging must keep to."""

from __future__ import annotations

_SOURCE_TOLERANCE = 0.05
_LEAD_DROP_V = 0.5 + 0.25


def lowest_sink_v(nominal_v: float) -> float:
    """The least voltage at the far end of a good lead while the source keeps its limits, in volts.

    Source: USB PD R3.1, 7.1.4.2 (source tolerance 5 %); USB Type-C R2.2, 4.4.1 (500 mV over VBUS, 250 mV over ground).
    """
    return nominal_v * (1 - _SOURCE_TOLERANCE) - _LEAD_DROP_V
