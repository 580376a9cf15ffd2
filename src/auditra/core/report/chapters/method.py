"""With what and how it was tried: rig, instruments with their errors, and what differs from a buyer's own use."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from auditra.core.decide.circumstance_text import circumstance_text
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.device import DEVICE
from auditra.core.model.rig import Instrument, Lead, Meter, Origin, Part, Thermometer, part_name
from auditra.core.report.chapter import ChapterRule
from auditra.core.report.document import Block, From, Heading, Items, Para, Said, Table, Tone, refs, said
from auditra.core.report.material import Material
from auditra.core.report.rig_words import part_words
from auditra.core.wiring.trial_profile import departures_of

_RIG_FIRST = (
    "Every trial is compared with the same gear on the host itself, without the device; nothing is called short or "
    "broken that host, lead, gear or supply could explain."
)
_METHOD = refs(From.METHOD, "docs/judging.md")


def _blocks(material: Material) -> Iterator[Block]:
    audit = material.judged.audit
    bench = f"The trials ran on a {material.judged.bench}, with the rig {audit.rig.name}."
    yield Para((said(bench, refs(From.JOURNAL, "bench")), said(_RIG_FIRST, _METHOD)))
    parts = _used(audit)
    if parts:
        yield Heading("What took part")
        yield Table(
            ("part", "what it can do", "trials"), tuple(_part(each, audit) for each in parts), (0.24, 0.54, 0.22)
        )
    departures = tuple(_departures(material))
    if departures:
        yield Heading("What differs from how a buyer would use it")
        yield Items(departures)
    yield Heading("The trials")
    yield Table(("trial", "what", "host", "outcome"), tuple(_trial(each, material) for each in audit.trials),
                (0.09, 0.55, 0.2, 0.16))  # fmt: skip


def _names(record: TrialRecord) -> set[str]:
    setup = record.trial.setup
    plugged = {name for each in setup.plugged for name in (each.gear, each.lead, *each.through) if name}
    return {setup.host, record.trial.gear, *plugged, *(reading.instrument for reading in record.readings)}


def _used(audit: Audit) -> list[Part]:
    """Parts of the rig that were in a trial, in the order of the rig."""
    named = {name for record in audit.trials for name in _names(record)}
    return [part for part in audit.rig.parts() if part.id in named or part_name(part) in named]


def _part(part: Part, audit: Audit) -> tuple[tuple[Said, ...], ...]:
    rig = refs(From.RIG, part.id)
    trials = [record.trial.id for record in audit.trials if {part.id, part_name(part)} & _names(record)]
    is_instrument = isinstance(part, Instrument | Thermometer)
    return (
        (said(part_name(part), rig, tone=Tone.STRONG if is_instrument else Tone.PLAIN),),
        (said(part_words(part), rig),),
        (said(_in_brief(trials), rig, refs(From.TRIAL, *trials), tone=Tone.QUIET),),
    )  # fmt: skip


def _in_brief(trials: list[str]) -> str:
    return ", ".join(trials) if len(trials) <= 6 else f"{', '.join(trials[:3])} ... {trials[-1]} ({len(trials)})"


def _departures(material: Material) -> Iterator[tuple[Said, ...]]:
    audit = material.judged.audit
    if material.judged.bench == SIMULATED_BENCH:
        words = "No device was on the desk: a model of it answered, behind the same doors as a real bench."
        yield (said(words, refs(From.JOURNAL, "bench")),)
    for lead in _other_leads(audit):
        trials = [each.trial.id for each in audit.trials if lead.id in _host_leads(each)]
        what = f"{part_name(lead)} ({part_words(lead)})"
        words = f"Its lead to the host was {what}, not one from its box, in {_in_brief(trials)}."
        yield (said(words, refs(From.RIG, lead.id), refs(From.TRIAL, *trials)),)
    for meter in (part for part in _used(audit) if isinstance(part, Meter)):
        trials = [each.trial.id for each in audit.trials if meter.id in _names(each)]
        words = f"{meter.name} was in line in {_in_brief(trials)}; it takes a little of the volts."
        yield (said(words, refs(From.RIG, meter.id), refs(From.TRIAL, *trials)),)
    yield from _on_purpose(audit.trials)


def _other_leads(audit: Audit) -> list[Lead]:
    used = {name for record in audit.trials for name in _host_leads(record)}
    return [lead for lead in audit.rig.leads if lead.id in used and lead.origin is not Origin.SHIPPED]


def _host_leads(record: TrialRecord) -> set[str]:
    return {each.lead for each in record.trial.setup.plugged if each.gear == DEVICE and each.lead}


def _on_purpose(trials: Iterable[TrialRecord]) -> Iterator[tuple[Said, ...]]:
    by_words: dict[str, list[str]] = {}
    for record in trials:
        for each in departures_of(record.trial.setup):
            by_words.setdefault(circumstance_text(each), []).append(record.trial.id)
    for words, names in by_words.items():
        yield (said(f"On purpose in {_in_brief(names)}: {words}.", refs(From.TRIAL, *names)),)


def _trial(record: TrialRecord, material: Material) -> tuple[tuple[Said, ...], ...]:
    trial, rig = record.trial, material.judged.audit.rig
    about = refs(From.TRIAL, trial.id)
    outcome = str(record.outcome) if record.outcome else "cut off"
    why = f": {record.why}" if record.why else ""
    return (
        (said(trial.id, about),), (said(material.titles[trial.id], about),),
        (said(f"{rig.name_of(trial.setup.host)} {trial.setup.host_socket}", about),), (said(f"{outcome}{why}", about),),
    )  # fmt: skip


METHOD = ChapterRule("method", 100, "How it was tried", _blocks)
