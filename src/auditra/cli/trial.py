"""``auditra trial``: one trial of a port, or of gear direct, on this machine."""

from __future__ import annotations

import re
from collections.abc import Iterable
from pathlib import Path

import typer

from auditra.bench.live import WHATEVER_IS_TRIED
from auditra.cli.judging import print_claims
from auditra.cli.run import Printer
from auditra.cli.terminal_person import TerminalPerson
from auditra.core.errors import InputError
from auditra.core.judge.judgement import Judgement
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.core.plan.planner import planned_as
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.procedures.registry import procedure_of
from auditra.core.sanitize import sanitize
from auditra.workflows.audits.own_trials import on_host
from auditra.workflows.hosts.probing import host_of
from auditra.workflows.services import Services


def choose_trial(judgement: Judgement, place: str, gear: str | None, folders: bool) -> PlannedTrial:
    """The planned trial of a port (or ``direct``) that is due first, else the first that there is.

    Raises: InputError where none is planned there.
    """
    wanted = [
        trial
        for trial in (*judgement.left, *judgement.sheet.trials, *judgement.sheet.reserve)
        if trial.place == place
        and (gear is None or trial.gear == gear)
        and (not folders or trial.procedure == ProcedureId.STORAGE)
    ]
    if wanted:
        return wanted[0]
    every = judgement.sheet.trials
    places = ", ".join(dict.fromkeys(trial.place for trial in every)) or "nothing"
    kind = "a trial of data" if folders else "a trial"
    of = f" with {sanitize(gear, 40)}" if gear else ""
    raise InputError(
        f"{sanitize(place, 40)}{of}", why=f"{kind} is not planned there", do=f"Trials are planned at: {places}"
    )


def run_one(
    name: str, place: str, services: Services, *, gear: str | None, folders: bool, plugged: bool, host: str | None
) -> None:
    """Do one trial and say what it showed; where a host is named, on that one.

    Raises: BenchError, StoreError, InputError.
    """
    session = services.open_session(name)
    audit = session.judged.audit
    planned = choose_trial(session.judged.judgement, place, gear, folders)
    if host is not None and host != planned.setup.host:
        planned = planned_as(on_host(planned, audit, host_of(audit, host)))
    if plugged and not folders and procedure_of(planned.procedure).host_sees_it:
        why = "a device that is connected already is not seen to appear, and would be recorded as missing"
        raise InputError("--plugged", why=why, do="Leave it out, or name the drive's folder with --path")
    person = TerminalPerson(audit, plugged)
    with services.hold(name), services.open_bench(audit, person) as bench:
        typer.echo(sanitize(f"{audit.device.name} on {bench.name}, rig {audit.rig.name}", 200))
        outcome = session.run(planned, bench, Printer(audit, tells_moves=False))
    verdicts = [verdict for verdict in session.judged.judgement.claims if verdict.claim.id in planned.claims]
    typer.echo("")
    print_claims(verdicts)
    if outcome is Outcome.DID_NOT_APPEAR:
        typer.echo("It did not appear; recorded as one try.")


def named_folders(said: Iterable[str]) -> dict[str, Path]:
    """``DIR``, or ``GEAR=DIR`` where several are named. Raises: InputError for a folder that is not there."""
    found: dict[str, Path] = {}
    for each in said:
        gear, separator, folder = each.partition("=")
        path = Path(folder if separator else each).expanduser()
        if not path.is_dir():
            raise InputError(f"{path}", why="there is no such folder", do="Name a folder that may be written to")
        found[gear if separator else WHATEVER_IS_TRIED] = path
    return found


def size_bytes(text: str) -> int:
    """``2GB`` or ``512 MB`` in bytes; prefixes are decimal, as everywhere. Raises: InputError."""
    match = re.fullmatch(r"(\d{1,6})\s*(kB|MB|GB|TB)", text.strip())
    if match is None:
        raise InputError(f'"{sanitize(text, 40)}"', why="this is not a size", do="Write it as 512MB or 2GB")
    prefixes = {"kB": 1_000, "MB": 1_000_000, "GB": 1_000_000_000, "TB": 1_000_000_000_000}
    return int(match[1]) * prefixes[match[2]]
