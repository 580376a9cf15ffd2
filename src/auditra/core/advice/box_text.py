"""What the box should have said, whole, ready to be pasted; and what the seller's papers leave out."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Finding, Sureness
from auditra.core.judge.judgement import Judgement
from auditra.core.model.device import Device
from auditra.core.model.verdict import Verdict
from auditra.core.paper_check.check import check
from auditra.core.paper_check.remark import Remark, Weight


@dataclass(frozen=True)
class BoxLine:
    """One line of the honest box. `claim` is the claim that it stands for, `finding` the drawback that it adds."""

    text: str
    claim: str = ""
    finding: str = ""
    trials: tuple[str, ...] = ()
    is_changed: bool = False
    """It says something else than the seller does."""


@dataclass(frozen=True)
class BoxText:
    """The honest box of one device, what stays off it until it is shown, and what was left unsaid."""

    lines: tuple[BoxLine, ...]
    not_shown: tuple[ClaimVerdict, ...]
    """Claims that nothing is known of yet: they are not on the box, and not denied either."""
    silences: tuple[Silence, ...]

    @property
    def text(self) -> str:
        """All of it, a line each."""
        return "\n".join(line.text for line in self.lines)


@dataclass(frozen=True)
class Silence:
    """What devices of its kind should state and this one does not; `answer` is what the reviewer found out."""

    remark: Remark
    answer: str = ""


def box_text(device: Device, judgement: Judgement, answers: Mapping[str, str]) -> BoxText:
    """The box text of one device of an audit; `answers` are those to remarks of the paper check, by their keys."""
    own = [each for each in judgement.claims if each.claim.device == device.id]
    lines = [line for each in own if (line := _line(each, judgement)) is not None]
    is_first = device.id == judgement.device
    lines += [_drawback(each) for each in judgement.unstated if is_first and each.sure is Sureness.SURE]
    known = {line.claim for line in lines}
    return BoxText(
        tuple(lines),
        tuple(each for each in own if each.claim.id not in known),
        tuple(_silences(device, own, answers)),
    )


def _line(verdict: ClaimVerdict, judgement: Judgement) -> BoxLine | None:
    claim, trials = verdict.claim, verdict.trials
    if verdict.verdict is Verdict.HOLDS:
        return BoxLine(str(claim), claim.id, trials=trials)
    honest = judgement.honest_sentence(claim.id)
    return BoxLine(honest, claim.id, trials=trials, is_changed=True) if honest else None


def _drawback(finding: Finding) -> BoxLine:
    return BoxLine(finding.box_line, finding=finding.kind, trials=finding.trials, is_changed=True)


def _silences(device: Device, own: list[ClaimVerdict], answers: Mapping[str, str]) -> Iterator[Silence]:
    for remark in check(device, [each.claim for each in own]):
        if remark.weight is Weight.UNSAID:
            yield Silence(remark, answers.get(remark.key, ""))
