"""What a driver costs: the load of the processor with it, less that without."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.judge.finding import Cause, Finding, Role
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.model.noted import NOT_NOTED, Noted
from auditra.core.model.reading import Quantity
from auditra.core.model.setup import SetUp

MIN_LOAD_PERCENT = 5.0
"""Below this a driver's load is lost in what any system does by itself."""
_DIRECT = ""
"""Stands for the driver of trials without the device."""


@dataclass(frozen=True, kw_only=True)
class DriverLoad(Finding):
    kind = "driver load"
    role = Role.UNSTATED

    driver: str
    host: str
    with_it: Estimate
    without: Estimate

    @property
    def subject(self) -> str:
        return self.driver

    @property
    def sentence(self) -> str:
        return f"its driver keeps the processor of {self.host} {self.with_it.value - self.without.value:.0f} % busy"

    @property
    def arithmetic(self) -> str:
        expanded = math.hypot(self.with_it.expanded, self.without.expanded)
        difference = self.with_it.value - self.without.value
        return f"{self.with_it.value:.0f} - {self.without.value:.0f} = {difference:.0f} ± {expanded:.0f} %"


def _find(inquiry: Inquiry) -> Iterator[DriverLoad]:
    """The processor's load of a host in trials with a driver and without it; where none is without it, without the
    device: then the rate was another one, and the figure may be too small."""
    loads: dict[str, dict[str | None, list[tuple[str, Estimate]]]] = {}
    for record in (trial.record for trial in inquiry.records.with_quantity(Quantity.PROCESSOR)):
        driver = _driver_of(inquiry, record.trial.setup)
        reading = record.taken.of(Quantity.PROCESSOR).numbers().last()
        known = driver is None or isinstance(driver, str) or record.trial.setup.direct
        if reading is not None and known and estimate(reading).founded:
            name = _DIRECT if record.trial.setup.direct else driver if isinstance(driver, str) else None
            by_driver = loads.setdefault(record.trial.setup.host, {})
            by_driver.setdefault(name, []).append((record.trial.id, estimate(reading)))
    for host, by_driver in loads.items():
        for driver, seen in by_driver.items():
            without = by_driver.get(None) or by_driver.get(_DIRECT)
            if driver in (None, _DIRECT) or not without:
                continue
            (trial, load), (other, idle) = min(seen, key=_load), max(without, key=_load)
            if load.low - idle.high > MIN_LOAD_PERCENT:
                yield DriverLoad(
                    trials=(trial, other), driver=driver, host=inquiry.audit.rig.name_of(host), with_it=load,
                    without=idle,
                )  # fmt: skip


def _driver_of(inquiry: Inquiry, setup: SetUp) -> Noted[str]:
    """The driver that was at work: as it was set up for the trial, else as the rig has it of the host."""
    host = inquiry.audit.rig.host(setup.host)
    return setup.driver if setup.driver is not NOT_NOTED or host is None else host.driver


def _load(pair: tuple[str, Estimate]) -> float:
    return pair[1].value


DRIVER_LOAD = Cause(
    "driver load", "JCGM 100:2008, 5.1.2 (difference)", "the processor's load with the driver and without", _find,
    Role.UNSTATED,
)  # fmt: skip
