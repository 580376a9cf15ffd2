"""Which trials count: those that were stopped, spoiled, led another way or were set aside decide nothing."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.journal.audit import TrialRecord
from auditra.core.model.reading import Quantity
from auditra.core.model.rig import Rig
from auditra.core.model.setup import NetworkPath
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.core.wiring.trial_profile import MIN_FULL_BATTERY_PERCENT

_POWER_FOR_HOST = (ProcedureId.CHARGE, ProcedureId.POWER_IN)
MIN_SHARE_ON_WIRE = 0.95
"""Of the bytes that a network trial moved, the part that its own interface must have counted."""

MAX_BUSY_PERCENT, MAX_LOST_PERCENT = 95.0, 2.0
"""More than this at either end may be what limits a rate. Source: measured; with less, shaped links gave all."""


@dataclass(frozen=True)
class SetAside:
    """A trial that decides nothing, or only what it reached in spite of it; and why."""

    trial: str
    why: str
    what_it_reached_counts: bool = False
    """What spoiled it can only have lowered its values: one that keeps the promise still shows that."""


def aside(record: TrialRecord, rig: Rig, hub_ids: frozenset[str] = frozenset()) -> SetAside | None:
    """Why a trial does not count; None where it does. What the reviewer decided goes before any other reason."""
    trial, ruling = record.trial, record.ruling
    if ruling is not None:
        return (
            None
            if ruling.counts
            else SetAside(trial.id, f"by the reviewer: {ruling.why}" if ruling.why else "by the reviewer")
        )
    if record.outcome in (Outcome.STOPPED, Outcome.FAILED):
        return SetAside(trial.id, f"{record.outcome}: {record.why}" if record.why else f"{record.outcome}")
    if why := _wrong_route(record) or _wrong_path(record, hub_ids):
        return SetAside(trial.id, why)
    if why := _lowered(record, rig):
        return SetAside(trial.id, why, what_it_reached_counts=True)
    return None


def _wrong_route(record: TrialRecord) -> str:
    """Why its bytes did not pass the port under trial; empty where they did."""
    if record.trial.procedure != ProcedureId.NETWORK:
        return ""
    network = record.trial.setup.network
    moved = record.taken.of(Quantity.MOVED, Quantity.ON_WIRE)
    if isinstance(network, NetworkPath) and network.wireless is True and not moved:
        return "wireless was on: what was moved may not have passed the port"
    sent, counted = (sum(sum(each.values) for each in moved.of(name)) for name in (Quantity.MOVED, Quantity.ON_WIRE))
    if sent and not any(moved.of(Quantity.ON_WIRE)):
        return "it is not known what passed the port's own interface"
    if sent and counted < MIN_SHARE_ON_WIRE * sent:
        return f"only {counted:.0f} of {sent:.0f} B passed the port's own interface"
    return ""


def _wrong_path(record: TrialRecord, hub_ids: frozenset[str]) -> str:
    """Why the way to its drive is not the one that was meant; empty where it is, or where the hubs are not known."""
    path = record.path
    if path is None or path.drive is None or not hub_ids:
        return ""
    through = path.leads_through(frozenset(), hub_ids)
    if record.trial.port is not None and not through:
        return f"the drive was not behind the device: {path.in_words()}"
    return f"the drive was behind the device: {path.in_words()}" if record.trial.port is None and through else ""


def _lowered(record: TrialRecord, rig: Rig) -> str:
    """What can only have lowered its values; empty for nothing."""
    setup = record.trial.setup
    if isinstance(setup.recorder, str):
        return f"{setup.recorder} was recording, which costs speed too"
    if why := _busy_processor(record):
        return why
    if record.trial.procedure not in _POWER_FOR_HOST or _has_load(record, rig):
        return ""
    levels = [min(reading.values) for reading in record.taken.of(Quantity.BATTERY).numbers()]
    level = setup.battery_percent if isinstance(setup.battery_percent, float | int) else max(levels, default=0.0)
    if level >= MIN_FULL_BATTERY_PERCENT:
        return f"the battery was at {level:g} %: a nearly full one takes less than it is offered"
    return ""


def _busy_processor(record: TrialRecord) -> str:
    """Why one of the two computers, not the port, may have limited a network trial; empty if neither did."""
    if record.trial.procedure != ProcedureId.NETWORK:
        return ""
    busy, lost = (
        max((max(each.values) for each in record.taken.of(quantity).numbers()), default=0.0)
        for quantity in (Quantity.PROCESSOR, Quantity.LOST_PROCESSOR)
    )
    if lost > MAX_LOST_PERCENT:
        return f"other machines took {lost:.0f} % of the processors meanwhile"
    return f"the processors were {busy:.0f} % busy meanwhile" if busy > MAX_BUSY_PERCENT else ""


def _has_load(record: TrialRecord, rig: Rig) -> bool:
    ids = {load.id for load in rig.loads}
    return any(each.gear in ids or each.owner in ids for each in record.trial.setup.plugged)
