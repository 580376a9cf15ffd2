"""``auditra run``: the run sheet without a screen, a line a reading."""

from __future__ import annotations

from collections.abc import Sequence

import typer

from auditra.cli.log import log_event
from auditra.core.audit.audit import Audit
from auditra.core.audit.facts import Fact, ReadingTaken, TrialEnded
from auditra.core.errors import BenchError
from auditra.core.inert import inert
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.telling import reading_in_words
from auditra.core.plan.moves import PlugMove, in_words
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.workflows.ports import Progress
from auditra.workflows.workshop import Workshop


def _say(text: str, *, err: bool = False) -> None:
    """A line for a terminal; names that came out of a sheet cannot steer it."""
    typer.echo(inert(text, 500), err=err)


class _Printer:
    """Tells what happens. A line that says "taken" is printed once the fact is on disk."""

    def __init__(self, audit: Audit) -> None:
        self._audit = audit

    def begun(self, planned: PlannedTrial, moves: Sequence[PlugMove]) -> None:
        _say("")
        _say(planned.title)
        for move in moves:
            _say(f"  {in_words(move, self._audit.device, self._audit.rig)}")

    def progress(self, progress: Progress) -> None:
        return None

    def taken(self, fact: Fact) -> None:
        match fact:
            case ReadingTaken(reading):
                _say(f"  taken  {reading.quantity} at {reading.at}: {reading_in_words(reading)}")
            case TrialEnded(_, outcome):
                _say(f"  {outcome}")


def run_sheet(name: str, workshop: Workshop) -> None:
    """Do what is left to do. Raises: StoreError; a trial that the bench spoils is told of and left to be repeated."""
    desk = workshop.open_desk(name)
    log_event("run begins", audit=name)
    with workshop.hold(name), workshop.open_bench(desk.standing.audit, None) as bench:
        _say(f"{desk.standing.audit.device.name} on {bench.name}, rig {desk.standing.audit.rig.name}")
        spoiled: list[str] = []
        while (
            planned := next((each for each in desk.standing.judgement.to_do if each.key not in spoiled), None)
        ) is not None:
            try:
                desk.run(planned, bench, _Printer(desk.standing.audit))
            except BenchError as error:
                spoiled.append(planned.key)
                _say(f"  failed: {error}", err=True)
    log_event("run ends", audit=name, spoiled=len(spoiled))
    _print_judgement(desk.standing.judgement)
    if spoiled:
        raise BenchError(f"{len(spoiled)} trials", why="the bench did not answer", do=f"Run auditra run {name} again")


def _print_judgement(judgement: Judgement) -> None:
    _say("")
    for verdict in judgement.claims:
        condition = f" ({verdict.condition})" if verdict.condition else ""
        _say(f"{verdict.verdict.mark:2} {verdict.verdict.word:9}  {verdict.claim}{condition}: {verdict.shown}")
    for finding in judgement.reasons:
        _say(f"   because    {finding.sentence}: {finding.arithmetic}")
    for finding in judgement.unstated:
        _say(f"!  unstated   {finding.sentence}")
    score = judgement.score
    _say("")
    value = "none yet" if score.value is None else f"{score.value}"
    _say(
        f"score {value} ({score.lowest} to {score.highest}), "
        f"{judgement.decided} of {len(judgement.claims)} claims decided"
    )
