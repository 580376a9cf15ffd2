"""A judgement as JSON: everything that a screen or report says, with the readings and the sums that it rests on."""

from __future__ import annotations

from collections.abc import Iterable
from decimal import Decimal
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from auditra import __version__
from auditra.core.advice.coverage import coverage_of
from auditra.core.claims.claim import Claim
from auditra.core.decide.circumstance_text import circumstance_text
from auditra.core.decide.reading_text import reading_in_words
from auditra.core.journal.audit import Audit
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.comparison import refusal_text
from auditra.core.judge.counting import SetAside
from auditra.core.judge.doubts import DoubtAnswer
from auditra.core.judge.finding import Finding
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.next_trials import NextTrial
from auditra.core.judge.score import Score
from auditra.core.model.reading import Reading
from auditra.core.plan.run_sheet import PlannedTrial
from auditra.core.wiring.moves import in_words


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, use_attribute_docstrings=True)


class ReadingRecord(_Model):
    """A reading that was looked at."""

    trial: str
    at: str
    quantity: str
    words: str
    instrument: str
    grade: int
    values: tuple[float, ...]
    unit: str
    note: str
    typed: str
    """As a person typed it, with its unit; empty where it was not typed."""


class PartRecord(_Model):
    """One part of a decision."""

    name: str
    verdict: str
    shown: str
    arithmetic: str
    credit: str | None


class SetUpRecord(_Model):
    """What one set-up showed; `conditions` says what is special about it."""

    conditions: tuple[str, ...]
    circumstances: tuple[str, ...]
    """Everything that was noted of it."""
    as_promised: bool
    """What the claim itself names was so."""
    verdict: str
    parts: tuple[PartRecord, ...]
    trials: tuple[str, ...]


class SetAsideRecord(_Model):
    """A trial whose readings decide nothing, or only what they reached."""

    trial: str
    why: str
    what_it_reached_counts: bool
    """What spoiled it can only have lowered its values: one that keeps the promise still shows that."""


class ComparisonRecord(_Model):
    """A trial beside the same gear direct."""

    trial: str
    direct: str
    differences: tuple[str, ...]
    refused: str
    """Why it decides nothing; empty where it counts."""


class ClaimRecord(_Model):
    """A promise with its verdict."""

    id: str
    sentence: str
    device: str
    port: str
    ports: tuple[str, ...]
    verdict: str
    mark: str
    condition: str
    honest: str
    """What the seller could have said truthfully; empty where the claim simply holds, or nothing was shown."""
    shown: str
    arithmetic: str
    credit_lowest: str
    credit_highest: str
    set_ups: tuple[SetUpRecord, ...]
    shown_under: tuple[str, ...]
    """The set-ups that it was shown under."""
    not_tried: tuple[str, ...]
    """What it was not tried under yet: set-ups, hosts, directions."""
    set_aside: tuple[SetAsideRecord, ...]
    """Trials of the claim that decide nothing, or only what they reached."""
    rests_on: tuple[ReadingRecord, ...]
    comparisons: tuple[ComparisonRecord, ...]


class FindingRecord(_Model):
    """A reasoned sentence. One that is unstated costs points; one that explains costs none."""

    kind: str
    role: str
    """danger, cause, contention, rig limit, contradiction or unstated."""
    subject: str
    """The part, port or circumstance that it names."""
    ports: tuple[str, ...]
    claims: tuple[str, ...]
    """The ids of the claims that it explains."""
    sentence: str
    arithmetic: str
    sure: str
    """How sure it is: "95 % sure" or "likely"."""
    cleared: tuple[str, ...]
    """Who else was suspected, and what cleared each."""
    points: str
    trials: tuple[str, ...]


class LineRecord(_Model):
    """A line of the ledger; points are decimals, as text."""

    text: str
    verdict: str | None
    lowest: str
    highest: str
    weight: str
    claim: str | None


class ScoreRecord(_Model):
    """Out of 100; `value` is null while nothing is decided."""

    value: str | None
    lowest: str
    highest: str
    earned: str
    weight_decided: str
    weight: str
    cap: str
    """Why the score is capped; empty where it is not."""
    ledger: tuple[LineRecord, ...]


class CoverageRecord(_Model):
    """How much of what is promised was decided."""

    claims: int
    decided: int
    beyond_rig: dict[str, str]
    """Claims that this rig cannot show, with what is lacking."""
    ports_tried: tuple[str, ...]
    ports_left: tuple[str, ...]
    """Ports at which nothing was connected or read."""
    hosts_tried: tuple[str, ...]
    hosts_left: tuple[str, ...]
    weight_decided: str
    """The share of the weight that is decided, 0 to 1."""
    advice: str
    """What is said of the device as a whole, as far as that much was tried."""


class DoubtRecord(_Model):
    """A question of the reviewer or a reader, with what the readings say to it."""

    id: str
    question: str
    suspect: str
    about: str
    end: str
    """confirmed, refuted or still open."""
    why: str
    trials: tuple[str, ...]
    by_reviewer: bool


class OpenQuestionRecord(_Model):
    """A cause that is still open: who is left, and the trial that would tell them from each other."""

    claim: str
    question: str
    suspects: tuple[str, ...]
    decides: tuple[str, ...]
    """Those that the trial leaves out: if it works, the cause is among them."""
    trial: str | None
    """The trial in words; null where something must be borrowed for it."""
    moves: int
    borrow: str


class QuestionRecord(_Model):
    """A value that somebody should look at again."""

    trial: str
    at: str
    quantity: str
    words: str


class NextRecord(_Model):
    """A trial to be done."""

    key: str
    title: str
    why: str
    port: str | None
    moves: tuple[str, ...]


class JudgementFile(_Model):
    """All that can be said of an audit as it stands."""

    format: Literal["auditra judgement"] = "auditra judgement"
    version: Literal[1] = 1
    judged_by: str
    audit: str
    device: str
    rig: str
    bench: str
    entries: int
    profile: str
    claims: tuple[ClaimRecord, ...]
    findings: tuple[FindingRecord, ...]
    set_aside: tuple[SetAsideRecord, ...]
    questions: tuple[QuestionRecord, ...]
    open_questions: tuple[OpenQuestionRecord, ...]
    doubts: tuple[DoubtRecord, ...]
    score: ScoreRecord
    scores: dict[str, ScoreRecord]
    """The score of each device of a kit, by its id."""
    coverage: CoverageRecord
    next_trials: tuple[NextRecord, ...]
    flaws: tuple[str, ...] = ()
    """Evidence that is missing, or not what it was."""


def judgement_schema() -> dict[str, Any]:
    """The JSON Schema of a judgement."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | JudgementFile.model_json_schema()


def judgement_file(judged: JudgedAudit) -> JudgementFile:
    """The judgement of an audit as it stands."""
    audit, judgement = judged.audit, judged.judgement
    return JudgementFile(
        judged_by=f"auditra {__version__}",
        audit=audit.name,
        device=audit.device.name,
        rig=audit.rig.name,
        bench=judged.bench,
        entries=audit.entries,
        profile=judgement.profile.name,
        claims=tuple(_claim(verdict, judgement.honest_sentence(verdict.claim.id)) for verdict in judgement.claims),
        findings=tuple(map(_finding, judgement.findings)),
        set_aside=tuple(map(_aside, judgement.set_aside)),
        questions=tuple(
            QuestionRecord(trial=question.trial, at=question.at, quantity=question.quantity, words=question.words)
            for question in judgement.questions
        ),
        open_questions=tuple(map(_open_question, judgement.next_trials)),
        doubts=tuple(map(_doubt, judgement.doubts)),
        score=_score(judgement.score),
        scores={device: _score(score) for device, score in judgement.scores.items()},
        coverage=_coverage(audit, judgement),
        next_trials=tuple(_next(each, audit) for each in judgement.to_do),
        flaws=judged.flaws,
    )


def _claim(told: ClaimVerdict, honest: str) -> ClaimRecord:
    claim: Claim = told.claim
    return ClaimRecord(
        id=claim.id, sentence=str(claim), device=claim.device, port=claim.port, ports=claim.ports,
        verdict=told.verdict.word, mark=told.verdict.mark,
        condition=told.condition, honest=honest, shown=told.shown, arithmetic=told.why,
        credit_lowest=str(told.lowest), credit_highest=str(told.highest),
        set_ups=tuple(
            SetUpRecord(
                conditions=tuple(map(circumstance_text, set_up.beside)), verdict=set_up.verdict.word,
                circumstances=tuple(sorted(map(circumstance_text, set_up.seen.circumstances))),
                as_promised=set_up.meets_conditions, trials=set_up.trials,
                parts=tuple(
                    PartRecord(
                        name=part.name, verdict=part.verdict.word, shown=part.shown, arithmetic=part.arithmetic,
                        credit=None if part.credit is None else str(part.credit),
                    )
                    for part in set_up.parts
                ),
            )
            for set_up in told.set_ups
        ),
        shown_under=told.shown_under, not_tried=told.not_tried, set_aside=tuple(map(_aside, told.set_aside)),
        rests_on=tuple(_readings(told.rests_on)),
        comparisons=tuple(
            ComparisonRecord(
                trial=comparison.trial, direct=comparison.direct, differences=tuple(map(str, comparison.differences)),
                refused=refusal_text(comparison),
            )
            for comparison in told.comparisons
        ),
    )  # fmt: skip


def _aside(aside: SetAside) -> SetAsideRecord:
    return SetAsideRecord(trial=aside.trial, why=aside.why, what_it_reached_counts=aside.what_it_reached_counts)


def _readings(readings: Iterable[Reading]) -> Iterable[ReadingRecord]:
    for reading in readings:
        yield ReadingRecord(
            trial=reading.trial, at=reading.at, quantity=str(reading.quantity), words=reading_in_words(reading),
            instrument=reading.instrument, grade=reading.grade.value, values=reading.values,
            unit=reading.si_unit, note=reading.note, typed=reading.typed,
        )  # fmt: skip


def _finding(found: Finding) -> FindingRecord:
    return FindingRecord(
        kind=found.kind, role=found.role, subject=found.subject, ports=found.ports, claims=found.claims,
        sentence=found.sentence, arithmetic=found.arithmetic, sure=found.sure, cleared=found.cleared,
        points=str(found.points), trials=found.trials,
    )  # fmt: skip


def _open_question(asked: NextTrial) -> OpenQuestionRecord:
    return OpenQuestionRecord(
        claim=asked.claim, question=asked.question, suspects=asked.suspects, decides=asked.decides,
        trial=asked.trial.title if asked.trial is not None else None, moves=asked.moves, borrow=asked.borrow,
    )  # fmt: skip


def _doubt(answer: DoubtAnswer) -> DoubtRecord:
    raised = answer.doubt.raised
    return DoubtRecord(
        id=raised.id, question=raised.question, suspect=raised.suspect if isinstance(raised.suspect, str) else "",
        about=raised.about if isinstance(raised.about, str) else "", end=answer.end, why=answer.why,
        trials=answer.trials, by_reviewer=answer.by_reviewer,
    )  # fmt: skip


def _score(score: Score) -> ScoreRecord:
    return ScoreRecord(
        value=None if score.value is None else str(score.value), lowest=str(score.lowest), highest=str(score.highest),
        earned=str(score.earned), weight_decided=str(score.weight_decided), weight=str(score.weight), cap=score.danger,
        ledger=tuple(
            LineRecord(
                text=line.text, verdict=line.verdict.word if line.verdict else None, lowest=str(line.lowest),
                highest=str(line.highest), weight=str(line.weight), claim=line.claim,
            )
            for line in score.ledger
        ),
    )  # fmt: skip


def _coverage(audit: Audit, judgement: Judgement) -> CoverageRecord:
    found = coverage_of(audit, judgement, audit.device)
    return CoverageRecord(
        claims=len(judgement.claims), decided=judgement.decided, beyond_rig=dict(judgement.sheet.beyond_rig),
        ports_tried=found.ports.tried, ports_left=found.ports.left, hosts_tried=found.hosts.tried,
        hosts_left=found.hosts.left, weight_decided=str(found.weight_decided.quantize(Decimal("0.001"))),
        advice=found.advice,
    )  # fmt: skip


def _next(planned: PlannedTrial, audit: Audit) -> NextRecord:
    moves = planned.moves_in(audit)
    words = tuple(in_words(move, audit.device, audit.rig) for move in moves)
    return NextRecord(key=planned.key, title=planned.title, why=planned.why, port=planned.port, moves=words)
