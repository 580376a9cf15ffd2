"""A battery that empties while it is charged: what is delivered is less than what the host uses."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.line import Line, Pair, fit_line
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.reading import Quantity
from auditra.core.quantities.display import power

_HOUR_S = 3600.0


@dataclass(frozen=True, kw_only=True)
class BatteryBalance(Finding):
    kind = "battery empties"
    role = Role.UNSTATED

    host: str
    net_w: float
    net_expanded_w: float
    battery_wh: float
    trend: Line

    @property
    def sentence(self) -> str:
        return f"the battery of {self.host} loses {power(-self.net_w)} while {self.ports[0]} charges it"

    @property
    def arithmetic(self) -> str:
        slope = self.trend.slope * _HOUR_S
        return f"{slope:.1f} % an hour of {self.battery_wh:g} Wh = {self.net_w:.1f} ± {self.net_expanded_w:.1f} W"


def _find(inquiry: Inquiry) -> Iterator[BatteryBalance]:
    """Traces of the battery level of a host whose capacity is known."""
    for record in (trial.record for trial in inquiry.records.with_quantity(Quantity.BATTERY)):
        host = inquiry.audit.rig.host(record.trial.setup.host)
        if host is None or not isinstance(host.battery_wh, float | int) or record.trial.setup.direct:
            continue
        for reading in record.taken.of(Quantity.BATTERY).traced():
            trace = reading.trace
            line = fit_line([Pair(*each) for each in zip(trace.time_s, trace.values, strict=True)]) if trace else None
            if line is None:
                continue
            to_w = host.battery_wh / 100 * _HOUR_S
            net, expanded = line.slope * to_w, line.slope_expanded * to_w
            if net + expanded < 0:
                yield BatteryBalance(
                    ports=(reading.at,), trials=(record.trial.id,), host=host.name, net_w=net, net_expanded_w=expanded,
                    battery_wh=float(host.battery_wh), trend=line,
                )  # fmt: skip
                return


BATTERY_BALANCE = Cause(
    "battery empties", "capacity times the slope of the level", "the battery level over time, and its capacity", _find,
    Role.UNSTATED,
)  # fmt: skip
