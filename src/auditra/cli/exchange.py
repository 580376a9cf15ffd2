"""Audits in and out: ``auditra new``, ``export``, ``import`` and ``schema``."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import typer

from auditra.bench.clock import SystemClock
from auditra.cli.composition import LibraryHandle
from auditra.core.counted import counted
from auditra.core.decide.reading_text import reading_in_words
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import BenchNoted, Entry, Fact
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import judge
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.sanitize import sanitize
from auditra.documents.claim_sheet import facts_of
from auditra.store.bundle import load_bundle
from auditra.store.evidence import FOLDER as EVIDENCE
from auditra.store.evidence import EvidenceFolder, copy_evidence
from auditra.store.exchange import export_audit, read_audit
from auditra.store.files import load_claim_sheet, load_evidence, load_rig
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.beginning import check_name


def begin(handle: LibraryHandle, name: str, sheet: Path, rig: Path) -> None:
    """A new audit on the shelf. Raises: SheetError, InputError, StoreError."""
    check_name(name)
    facts: tuple[Fact, ...] = (BenchNoted(LIVE_BENCH), *facts_of(load_claim_sheet(sheet), load_rig(rig)))
    now = datetime.now(UTC)
    audit = fold_audit(name, [Entry(number, now, "made", fact) for number, fact in enumerate(facts, start=1)])
    judgement = judge(audit, handle.profile)
    handle.library.create(name, facts, now)
    typer.echo(sanitize(f"{name}: {audit.device.name} on rig {audit.rig.name} is on the shelf.", 300))
    typer.echo(f"{counted(len(judgement.claims), 'claim')}, {counted(len(judgement.sheet.trials), 'trial')} planned.")
    for claim in audit.claims:
        if lacking := judgement.sheet.beyond_rig.get(claim.id):
            typer.echo(sanitize(f"?  {claim}: {lacking}", 300))


def export_to(handle: LibraryHandle, name: str, folder: Path) -> None:
    """Write the audit's files. Raises: StoreError, AuditraError."""
    journal = handle.library.journal(name)
    entries = journal.entries()
    remarks: list[str] = []

    def copy() -> None:
        facts = (entry.fact for entry in entries)
        remarks.extend(copy_evidence(facts, journal.evidence.read, EvidenceFolder(folder / EVIDENCE)))

    for path in export_audit(name, entries, folder, copy):
        typer.echo(sanitize(str(path), 400))
    for remark in remarks:
        typer.echo(f"note: {sanitize(remark, 300)}")


def import_from(handle: LibraryHandle, folder: Path, name: str | None) -> None:
    """Put the audit in a folder on the shelf, whole or not at all. Raises: InputError, StoreError."""
    library = handle.library
    if folder.suffix == ".zip":
        bundle = load_bundle(folder, datetime.now(UTC))
        came, evidence = bundle.audit, bundle.evidence
    else:
        came, evidence = read_audit(folder, datetime.now(UTC)), EvidenceFolder(folder / EVIDENCE).read
    if name is not None:
        check_name(name)
        came = replace(came, name=name)
    audit = fold_audit(came.name, came.entries)
    judgement = judge(audit, handle.profile)
    library.require_new(came.name)
    missing = tuple(copy_evidence((entry.fact for entry in came.entries), evidence, library.evidence))
    library.restore(came.name, came.entries)  # last: what is on the shelf has all that it names
    for remark in (*came.remarks, *missing):
        typer.echo(f"note: {sanitize(remark, 300)}")
    typer.echo(
        f"{came.name}: {counted(len(came.entries), 'fact')}, {counted(len(audit.trials), 'trial')}; it is on the shelf."
    )
    for question in judgement.questions:
        typer.echo(sanitize(f"?  {question.trial}, {question.quantity} at {question.at}: {question.words}", 300))


def join_facts(handle: LibraryHandle, session: AuditSession, file: Path) -> tuple[str, ...]:
    """Take over the trials of an exported audit that were run on another host; their names here.

    Raises: InputError, FactsRefused, StoreError.
    """
    folder = file if file.is_dir() else file.parent
    came = read_audit(folder, datetime.now(UTC))
    facts = (entry.fact for entry in came.entries)
    tuple(copy_evidence(facts, EvidenceFolder(folder / EVIDENCE).read, handle.library.evidence))
    return session.join(came.entries, SystemClock())


def attach_file(handle: LibraryHandle, name: str, trial: str, file: Path | None) -> None:
    """Keep a file as evidence of a trial, or of a host, and print what it gave; an exported audit joins its trials.

    Raises: InputError, StoreError.
    """
    if file is None:
        names = join_facts(handle, handle.session(name), Path(trial).expanduser())
        typer.echo(f"joined: {', '.join(names)}" if names else "every trial of it is here already")
        return
    session = handle.session(name)
    if session.judged.audit.rig.host(trial) is not None:
        file_name, data = load_evidence(str(file))
        snapshot = session.add_probe(trial, data, file_name, SystemClock())
        typer.echo(f"kept as what {sanitize(trial, 40)} reports: {sanitize(snapshot.host.words, 80)}")
        return
    file_name, data = load_evidence(str(file))
    audit = session.attach(trial, file_name, data, SystemClock()).audit
    if not tell_readings(audit, trial):
        tell_columns(data)


def tell_readings(audit: Audit, trial: str) -> int:
    """What the file that was kept last gave; how many readings."""
    kept = audit.evidence[-1].sha256
    taken = [each for record in audit.trials for each in record.readings if kept in each.evidence]
    for reading in taken:
        typer.echo(sanitize(f"{reading.at}: {reading.quantity} {reading_in_words(reading)}", 200))
    typer.echo(f"kept as evidence of {sanitize(trial, 20)}; readings taken: {len(taken)}")
    return len(taken)


def tell_columns(data: bytes) -> None:
    """For a table whose columns were not named: what they are called, and how to name them."""
    from auditra.workflows.audits.logged_tables import layout_of, table_in_words

    layout = layout_of(data)
    if layout is not None:
        columns = ", ".join(table_in_words(layout))
        typer.echo(sanitize(f'it is a table: {columns}; read one with --column "NAME=voltage"', 400))


def schema_of(format_name: str) -> str:
    """The JSON Schema of a format, by its name."""
    from auditra.documents.registry import SCHEMAS

    made = SCHEMAS[format_name]()
    return json.dumps(made, indent=2, ensure_ascii=False)
