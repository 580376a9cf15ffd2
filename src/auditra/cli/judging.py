"""``auditra judge``, ``compare`` and ``set-aside``: verdicts with all that they rest on, for a terminal."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

import typer

from auditra.bench.clock import SystemClock
from auditra.cli.composition import LibraryHandle
from auditra.core.counted import listed
from auditra.core.decide.reading_text import with_what_was_typed
from auditra.core.errors import InputError
from auditra.core.journal.facts import TrialRuled
from auditra.core.judge.charts import charts_of
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.comparison import TrialComparison, measured_text, refusal_text
from auditra.core.judge.finding import Role
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.next_trials import NextTrial
from auditra.core.model.verdict import Verdict
from auditra.core.sanitize import sanitize

_MAX_READINGS = 12
"""Of one claim; the JSON has all."""


def say(text: str, *, err: bool = False) -> None:
    """A line for a terminal; names that came out of a sheet cannot steer it."""
    typer.echo(sanitize(text, 500), err=err)


def print_grounds(judged: JudgedAudit) -> None:
    """Each claim with what it rests on, what was set aside and what it was not tried under; then all the rest."""
    for verdict in judged.judgement.claims:
        print_claims([verdict])
        for line in grounds_of(verdict):
            say(f"     {line}")
        if honest := judged.judgement.honest_sentence(verdict.claim.id):
            say(f"     honest     {honest}")
    print_findings(judged.judgement)


def grounds_of(verdict: ClaimVerdict) -> Iterator[str]:
    """What a verdict rests on, in lines."""
    yield from (f"sum        {sum_}" for sum_ in verdict.sums)
    if verdict.shown_under and verdict.verdict is not Verdict.OPEN:
        yield f"shown      {'; '.join(verdict.shown_under)}"
    for each in (each for each in verdict.set_ups if each.verdict.accuses):
        yield f"fails      {each.text} ({', '.join(each.trials)})"
    if verdict.not_tried:
        yield f"not tried  {'; '.join(verdict.not_tried)}"
    for reading in verdict.rests_on[:_MAX_READINGS]:
        value = f"{reading.quantity} at {reading.at}: {with_what_was_typed(reading)}"
        yield f"reading    {reading.trial}, {value} (grade {reading.grade.value}, {reading.instrument})"
    if (more := len(verdict.rests_on) - _MAX_READINGS) > 0:
        yield f"reading    and {more} more"
    for comparison in verdict.comparisons:
        if refusal := refusal_text(comparison):
            yield f"baseline   {comparison.direct} is none for {comparison.trial}: {refusal}"
        else:
            yield f"baseline   {comparison.direct} for {comparison.trial}"
    for aside in verdict.set_aside:
        counts = ", only what it reached counts" if aside.what_it_reached_counts else ""
        yield f"set aside  {aside.trial}: {aside.why}{counts}"


def print_claims(verdicts: Iterable[ClaimVerdict]) -> None:
    """A line a claim: mark, word, condition, and what was shown."""
    for verdict in verdicts:
        condition = f", {verdict.condition}" if verdict.condition else ""
        say(f"{verdict.verdict.mark:2} {verdict.verdict.word:9}  {verdict.claim}{condition}: {verdict.shown}")


def print_flaws(flaws: Iterable[str]) -> None:
    """Evidence that is missing, or not what it was."""
    for flaw in flaws:
        say(f"!  {flaw}")


def print_judgement(judgement: Judgement) -> None:
    """Every claim, finding and question, then the score."""
    say("")
    print_claims(judgement.claims)
    print_findings(judgement)


_ROLES = {Role.DANGER: ("!!", "danger"), Role.UNSTATED: ("! ", "unstated"), Role.RIG_LIMIT: ("  ", "limit"),
          Role.CONTRADICTION: ("? ", "conflict"), Role.CHANCE: ("  ", "chance")}  # fmt: skip


def _first_of_each(asked: Iterable[NextTrial]) -> Iterator[NextTrial]:
    """The best next trial of each question."""
    seen: set[str] = set()
    for each in asked:
        if each.claim not in seen:
            seen.add(each.claim)
            yield each


def print_findings(judgement: Judgement) -> None:
    """Reasons, drawbacks, questions and what was set aside; then the score."""
    for finding in judgement.findings:
        mark, word = _ROLES.get(finding.role, ("  ", "because"))
        sum_ = f": {finding.arithmetic}" if finding.arithmetic else ""
        say(f"{mark} {word:10} {finding.sentence}{sum_} ({finding.sure})")
    for asked in _first_of_each(judgement.next_trials):
        what = f"try {asked.trial.title}" if asked.trial is not None else f"borrow {asked.borrow}"
        say(f"?  open       {asked.question} left: {listed(asked.suspects)}; {what}")
    for answer in judgement.doubts:
        say(f"?  doubt      {answer.question} {answer.end}: {answer.why}")
    for question in judgement.questions:
        say(f"   question   {question.trial}, {question.quantity} at {question.at}: {question.words}")
    for aside in judgement.set_aside:
        say(f"   set aside  {aside.trial}, {aside.why}")
    score = judgement.score
    say("")
    value = "none yet" if score.value is None else f"{score.value}"
    say(
        f"score {value} ({score.lowest} to {score.highest}), "
        f"{judgement.decided} of {len(judgement.claims)} claims decided"
    )
    for device, own in judgement.scores.items() if len(judgement.scores) > 1 else ():
        words = "none yet" if own.value is None else f"{own.value}"
        say(f"  {device}: score {words} ({own.lowest} to {own.highest})")


def compared(handle: LibraryHandle, audit: str, one: str, other: str) -> TrialComparison:
    """Two trials of an audit compared. Raises: InputError where it has no such trial."""
    found = handle.session(audit).compare(one, other)
    if found is None:
        known = handle.session(audit).judged.audit.trials
        names = ", ".join(record.trial.id for record in known[-5:]) or "none"
        raise InputError(f"{one} and {other}", why=f"{audit} does not have both trials", do=f"Its last ones: {names}")
    return found


def print_comparison(found: TrialComparison) -> None:
    """Fair or not, every difference, every ratio."""
    say(f"{found.one} against {found.other}: {'a fair comparison' if found.is_fair else 'not a fair comparison'}")
    if not found.is_fair:
        say(f"  {found.why_not}")
    for difference in found.differences:
        say(f"  differs   {difference}")
    for each in found.measured:
        say(f"  {measured_text(each)}")
    if not found.measured:
        say("  no quantity was read in both")


def rule_on(handle: LibraryHandle, audit: str, trial: str, why: str, *, counts: bool) -> None:
    """Record whether a trial counts. Raises: FactRefused where there is no such trial."""
    session = handle.session(audit)
    what = f"count {trial}" if counts else f"set {trial} aside"
    session.write(lambda _: [TrialRuled(trial, counts, why)], what, SystemClock())
    say(f"{trial} {'counts' if counts else 'is set aside'}. auditra judge {audit} shows what follows.")


def draw_charts(
    handle: LibraryHandle, name: str, trials: list[str], at: str | None, of: str | None, out: Path | None
) -> None:
    """Write the charts of some trials into one file, or list what there is. Raises: InputError, StoreError."""
    judged = handle.session(name).judged
    every = [chart for chart in charts_of(judged.audit, judged.judgement) if chart.trial in trials]
    found = [chart for chart in every if at in (None, chart.place) and of in (None, chart.title)]
    if not found:
        there = ", ".join(f"{chart.trial} {chart.place} {chart.title}" for chart in every)
        do = f"Choose from: {there}" if there else "Run a trial that is traced"
        raise InputError(" ".join(trials), why="nothing of them can be drawn so", do=do)
    if out is None:
        for chart in found:
            notes = f": {'; '.join(chart.notes)}" if chart.notes else ""
            say(f"{chart.trial}  {chart.place}  {chart.title}{notes}")
        return
    alike = [chart for chart in found if found[0].beside(chart) and chart.title == found[0].title]
    from auditra.publish.chart import write_chart

    say(str(write_chart(alike, out)))
