"""What to praise and what to warn of, each line with the claims and trials that it comes from."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judgement import Judgement
from auditra.core.model.verdict import Verdict


@dataclass(frozen=True)
class Remark:
    """One line for the reader. `finding` is the id of the cause where it comes from a finding."""

    text: str
    claims: tuple[str, ...] = ()
    trials: tuple[str, ...] = ()
    finding: str = ""
    is_danger: bool = False


def praise(judgement: Judgement) -> tuple[Remark, ...]:
    """Claims that hold, what weighs most first: with what was shown, and under what."""
    held = [each for each in judgement.claims if each.verdict is Verdict.HOLDS]
    return tuple(Remark(_shown(each), (each.claim.id,), each.trials) for each in _weightiest(held, judgement))


def warnings(judgement: Judgement) -> tuple[Remark, ...]:
    """Dangers first, then failures, then what holds only under a condition, then what was not stated."""
    return (*_dangers(judgement), *_failures(judgement), *_conditions(judgement), *_unstated(judgement))


def _dangers(judgement: Judgement) -> Iterator[Remark]:
    for each in judgement.dangers:
        yield Remark(each.sentence, each.claims, each.trials, each.kind, is_danger=True)


def _failures(judgement: Judgement) -> Iterator[Remark]:
    failing = [each for each in judgement.claims if each.verdict.accuses]
    for each in _weightiest(failing, judgement):
        yield Remark(f"{each.claim}: {each.verdict.word}, {each.shown}", (each.claim.id,), each.trials)


def _conditions(judgement: Judgement) -> Iterator[Remark]:
    limited = [each for each in judgement.claims if each.verdict is Verdict.HOLDS_IF]
    for each in _weightiest(limited, judgement):
        yield Remark(f"{each.claim}, but {each.shown}", (each.claim.id,), each.trials)


def _unstated(judgement: Judgement) -> Iterator[Remark]:
    for each in judgement.unstated:
        elsewhere = [port for port in each.ports if port not in each.sentence.split()]
        at = f"{', '.join(elsewhere)}: " if elsewhere else ""
        yield Remark(f"{at}{each.sentence}", each.claims, each.trials, each.kind)


def _weightiest(verdicts: Sequence[ClaimVerdict], judgement: Judgement) -> list[ClaimVerdict]:
    return sorted(verdicts, key=lambda each: -judgement.profile.weight(each.claim.promise.words))


def _shown(verdict: ClaimVerdict) -> str:
    """A claim that holds with its figure, unless that only says the claim again."""
    return f"{verdict.claim}" if verdict.shown in str(verdict.claim) else f"{verdict.claim}: {verdict.shown}"
