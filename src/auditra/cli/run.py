"""``auditra run``: the run sheet without a screen, a line a reading."""

from __future__ import annotations

from collections.abc import Sequence

from auditra.cli.judging import print_judgement, say
from auditra.cli.log import log_event
from auditra.cli.terminal_person import TerminalPerson
from auditra.core.counted import counted
from auditra.core.decide.reading_text import reading_in_words
from auditra.core.errors import BenchError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Fact, ReadingTaken, SheetChosen, TrialEnded
from auditra.core.model.bench_kind import LIVE_BENCH
from auditra.core.model.depth import Depth
from auditra.core.model.reading import Reading
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.sanitize import sanitize
from auditra.core.wiring.moves import PlugMove, in_words
from auditra.workflows.audits.run_left import run_left
from auditra.workflows.services import Services
from auditra.workflows.trials.doors import Progress

_NOTE_WIDTH = 100


class Printer:
    """Tells what happens. A line that says "taken" is printed once the fact is on disk."""

    def __init__(self, audit: Audit, *, tells_moves: bool = True) -> None:
        self._audit, self._tells_moves = audit, tells_moves

    def begun(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None:
        say("")
        say(planned.title)
        for move in moves if self._tells_moves else ():
            say(f"  {in_words(move, self._audit.device_of(move.device), self._audit.rig)}")

    def progress(self, progress: Progress) -> None:
        return None

    def taken(self, fact: Fact) -> None:
        match fact:
            case ReadingTaken(reading):
                say(f"  taken  {line_of(reading)}")
            case TrialEnded(_, outcome):
                say(f"  {outcome}")


class Silent:
    """Prints nothing."""

    def begun(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None:
        return None

    def progress(self, progress: Progress) -> None:
        return None

    def taken(self, fact: Fact) -> None:
        return None


def line_of(reading: Reading) -> str:
    """``power at A1: 6.80 ± 0.03 W (gave way at 1.37 A: cut off)``."""
    note = f" ({sanitize(reading.note, _NOTE_WIDTH)})" if reading.note else ""
    return f"{reading.quantity} at {reading.at}: {reading_in_words(reading)}{note}"


def _person(audit: Audit) -> TerminalPerson | None:
    """Somebody to plug, where the bench is a real one."""
    return TerminalPerson(audit) if audit.bench == LIVE_BENCH else None


def _report(error: BenchError | None) -> bool:
    """Print an error, if there is one."""
    if error is not None:
        say(f"  failed: {error}", err=True)
    return error is not None


def run_sheet(name: str, services: Services, depth: Depth | None = None) -> None:
    """Do what is left to do. Raises: StoreError; a trial that the bench spoils is reported and left to be repeated."""
    session = services.open_session(name)
    log_event("run begins", audit=name)
    person = _person(session.judged.audit)
    with services.hold(name), services.open_bench(session.judged.audit, person) as bench:
        say(f"{session.judged.audit.device.name} on {bench.name}, rig {session.judged.audit.rig.name}")
        if depth is not None and depth is not session.judged.audit.depth:
            session.write(lambda _: [SheetChosen(depth)], "choose the sheet", bench.clock)
        printer = Printer(session.judged.audit, tells_moves=person is None)
        errors = [error for error in run_left(session, bench, printer) if _report(error)]
    log_event("run ends", audit=name, spoiled=len(errors))
    print_judgement(session.judged.judgement)
    if errors:
        raise BenchError(
            counted(len(errors), "trial"), why="the bench did not answer", do=f"Run auditra run {name} again"
        )
