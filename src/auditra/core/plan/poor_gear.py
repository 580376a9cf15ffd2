"""What later trials do without: leads in whose place another one carried more, and drives that fall off the device."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace

from auditra.core.decide.rules import CLEARLY_MORE
from auditra.core.journal.audit import TrialRecord
from auditra.core.model.circumstance import Aspect
from auditra.core.model.reading import PAYLOAD_RATES, Quantity
from auditra.core.model.rig import Drive, Lead, Rig
from auditra.core.model.setup import Plugged, SetUp
from auditra.core.model.trial import DIRECT, Outcome

_LEADS = frozenset({Aspect.LEAD, Aspect.HOST_LEAD})


def without_poor_gear(rig: Rig, trials: Sequence[TrialRecord]) -> Rig:
    """The rig as later trials use it: what is poor is retired, as far as something else can stand in for it."""
    return _without_drives_that_fall_off(_without_poor_leads(rig, trials), trials)


def _without_poor_leads(rig: Rig, trials: Iterable[TrialRecord]) -> Rig:
    """The rig without such leads, as far as others can stand in for them."""
    poor = poor_leads(trials)
    spare = {lead.id for lead in rig.leads if lead.id in poor and _has_another(rig, lead, poor)}
    return replace(rig, retired=(*rig.retired, *sorted(spare))) if spare else rig


def _without_drives_that_fall_off(rig: Rig, trials: Iterable[TrialRecord]) -> Rig:
    """The rig without drives that were lost in the midst of each trial through the device, where one that draws less
    can stand in for them: they may ask for more than the port gives, and say nothing of its data then."""
    of_drives: dict[str, list[bool]] = {}
    for each in trials:
        if each.trial.port is not None and isinstance(rig.find(each.trial.gear), Drive):
            of_drives.setdefault(each.trial.gear, []).append(bool(each.taken.of(Quantity.DROPPED_OUT)))
    fallen = {drive for drive, lost in of_drives.items() if all(lost)}
    draws_a = {each.id: each.current_a for each in rig.in_use.drives if isinstance(each.current_a, float | int)}
    least_a = min((amperes for drive, amperes in draws_a.items() if drive not in fallen), default=math.inf)
    spare = sorted(drive for drive in fallen if draws_a.get(drive, 0.0) > least_a)
    return replace(rig, retired=(*rig.retired, *spare)) if spare else rig


def _has_another(rig: Rig, lead: Lead, poor: frozenset[str]) -> bool:
    others = (each.id for each in rig.in_use.leads_between(*lead.ends))
    return any(other != lead.id and other not in poor for other in others)


def poor_leads(trials: Iterable[TrialRecord]) -> frozenset[str]:
    """The ids of leads in whose place another lead carried clearly more, all else alike."""
    complete = [each for each in trials if each.outcome is Outcome.COMPLETE]
    swapped = [each for each in complete if _LEADS & set(each.trial.setup.departs)]
    return frozenset(lead for other in swapped for lead in _worse_than(other, complete))


def _worse_than(other: TrialRecord, trials: Iterable[TrialRecord]) -> Iterator[str]:
    """The leads of like trials that carried clearly less."""
    plain = _without_lead(other.trial.setup)
    for each in trials:
        alike = each.trial.gear == other.trial.gear and each.trial.port == other.trial.port
        if not alike or each is other or _without_lead(each.trial.setup) != plain:
            continue
        mine, theirs = _moved(each), _moved(other)
        if mine and theirs > CLEARLY_MORE * mine:
            yield from (one.lead for one, two in zip(each.trial.setup.plugged, other.trial.setup.plugged, strict=True)
                        if one.lead is not None and one.lead != two.lead)  # fmt: skip


def _without_lead(setup: SetUp) -> SetUp:
    """A set-up as it is whichever leads are used."""
    plugged: tuple[Plugged, ...] = tuple(replace(each, lead=None) for each in setup.plugged)
    return replace(setup, plugged=plugged, departs=tuple(each for each in setup.departs if each not in _LEADS))


def _moved(record: TrialRecord) -> float:
    """The least payload rate of a trial at its port, or direct, in bits per second; 0 where none was measured."""
    place = record.trial.port or DIRECT
    rates = [min(reading.values) for reading in record.readings
             if reading.quantity in PAYLOAD_RATES and reading.at == place and reading.values]  # fmt: skip
    return min(rates, default=0.0)
