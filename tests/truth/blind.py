"""The whole way, blind: from the box of a practice device to the judgement, and only then a look at the truth."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from random import Random

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.advert.reader import read_text
from auditra.core.journal.facts import BenchNoted, ClaimMade, DeviceNoted, RigNoted
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.finding import Finding, Role, Sureness
from auditra.core.judge.judgement import Judgement
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.verdict import Verdict
from auditra.core.simulate.practice.hidden import Hidden
from auditra.core.simulate.practice.practice import Practice, make_practice
from auditra.core.simulate.rig_fault import Hands
from auditra.core.wiring.moves import cost_of_plug
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.run_left import run_left
from tests.support.audits import PROFILE
from tests.support.benches import MemoryJournal, Onlooker

MOST_TRIALS = 400
"""An audit that has not come to an end by then never does."""


class Counting(Onlooker):
    """Counts what the hands did."""

    moves_made = 0

    def begun(self, planned, moves) -> None:  # type: ignore[no-untyped-def]
        self.moves_made += sum(cost_of_plug(move.what) for move in moves)


@dataclass
class Told:
    """What an audit said of one practice, beside its truth."""

    practice: Practice
    claims_read: int = 0
    misread: int = 0
    false_accusations: list[str] = field(default_factory=list)
    wrong_conditions: list[str] = field(default_factory=list)
    false_praise: list[str] = field(default_factory=list)
    found: list[Hidden] = field(default_factory=list)
    missed: list[Hidden] = field(default_factory=list)
    why_missed: list[str] = field(default_factory=list)
    right_causes: int = 0
    wrong_causes: list[str] = field(default_factory=list)
    no_causes: list[str] = field(default_factory=list)
    sure_right: int = 0
    sure_wrong: list[str] = field(default_factory=list)
    moves: int = 0
    decided: int = 0
    trials: int = 0
    verdicts: Counter[str] = field(default_factory=Counter)

    @property
    def reachable(self) -> list[Hidden]:
        return [hidden for hidden in self.practice.hidden if hidden.is_reachable]

    @property
    def badness(self) -> int:
        """How far from what is wanted, for the list of the worst seeds."""
        return (
            10 * len(self.false_accusations) + 10 * len(self.false_praise) + 4 * len(self.wrong_conditions)
            + 3 * len(self.missed) + 2 * len(self.wrong_causes) + len(self.no_causes)
        )  # fmt: skip


def audit(practice: Practice) -> tuple[AuditSession, Counting, Told]:
    """Read the box, correct what was misread as a reviewer would, and run the whole sheet."""
    told = Told(practice)
    proposed = {proposal.sentence for proposal in read_text(practice.box_text).proposals}
    told.claims_read = len(proposed & set(practice.promises))
    told.misread = len(proposed - set(practice.promises) - {_counted(practice)})
    claims = [ClaimMade(f"claim{n}", sentence) for n, sentence in enumerate(practice.promises, start=1)]
    journal = MemoryJournal(
        [BenchNoted(SIMULATED_BENCH), DeviceNoted(practice.device), RigNoted(practice.rig), *claims]
    )
    session = AuditSession(f"practice-{practice.seed}", journal, PROFILE)
    onlooker = Counting()
    hands = Hands(Random(practice.seed), practice.wrong_socket_one_in, practice.slip_one_in)
    with open_simulated_bench(
        session.judged.audit, seed=practice.seed, model=practice.model, faults=practice.faults, hands=hands,
        over_sockets=False,
    ) as bench:  # fmt: skip
        for _ in run_left(session, bench, onlooker):
            told.trials += 1
            assert told.trials < MOST_TRIALS, f"seed {practice.seed}: no end of trials"
    return session, onlooker, told


def _counted(practice: Practice) -> str:
    return f"body ports {sum(port.role.value != 'upstream' for port in practice.device.ports())}"


def run_blind(seed: int) -> Told:
    """One practice from box to judgement, held against its truth."""
    practice = make_practice(seed)
    session, onlooker, told = audit(practice)
    told.moves = onlooker.moves_made
    weigh(told, session.judged.judgement)
    return told


def weigh(told: Told, judgement: Judgement) -> None:
    """Hold a judgement against the truth."""
    hidden = told.practice.hidden
    broken = {sentence: each for each in hidden for sentence in each.breaks}
    at_times = {sentence: each for each in hidden for sentence in each.breaks_at_times}
    for verdict in judgement.claims:
        sentence = str(verdict.claim)
        told.verdicts[verdict.verdict.word] += 1
        told.decided += verdict.verdict.decided
        line = f"{told.practice.seed}: {sentence} is {verdict.verdict.word} {verdict.condition}: {verdict.why[:200]}"
        accuses = verdict.verdict.accuses or verdict.verdict is Verdict.HOLDS_IF
        if accuses and sentence not in broken and sentence not in at_times:
            told.false_accusations.append(line)
        elif verdict.verdict.accuses and sentence in at_times and sentence not in broken and _was_seen_to_hold(verdict):
            told.wrong_conditions.append(line)
        elif verdict.verdict is Verdict.HOLDS and sentence in broken:
            told.false_praise.append(line)
    for each in hidden:
        _weigh_hidden(told, each, judgement)


def _was_seen_to_hold(verdict: ClaimVerdict) -> bool:
    return any(each.verdict is Verdict.HOLDS and not each.unpromised for each in verdict.set_ups)


def _weigh_hidden(told: Told, hidden: Hidden, judgement: Judgement) -> None:
    verdicts = [each for each in judgement.claims if str(each.claim) in hidden.touched]
    caught = [each for each in verdicts if each.verdict.accuses or each.verdict is Verdict.HOLDS_IF]
    kinds = {finding.kind for finding in judgement.findings}
    if caught or (hidden.unstated & kinds):
        told.found.append(hidden)
    elif hidden.is_reachable:
        told.missed.append(hidden)
        said = "; ".join(f"{each.claim} {each.verdict.word}: {each.why[:90]}" for each in verdicts[:2])
        told.why_missed.append(f"- {hidden.name}, seed {told.practice.seed}: {hidden.words}. {said}")
        return
    else:
        return
    if hidden.causes:
        _weigh_causes(told, hidden, caught, judgement.findings)


def _weigh_causes(told: Told, hidden: Hidden, caught: Sequence[ClaimVerdict], findings: Sequence[Finding]) -> None:
    """Of the findings about the claims that were caught: one of the right kind, another one, or none."""
    ids = {each.claim.id for each in caught}
    about = [
        each for each in findings if ids & set(each.claims) and each.role in (Role.CAUSE, Role.CONTENTION, Role.DANGER)
    ]
    alike = {cause for other in told.practice.hidden if other.touched & hidden.touched for cause in other.causes}
    right = [each for each in about if each.kind in hidden.causes | alike]
    of_rig = {kind for fault in told.practice.faults for kind in fault.shown_by}
    wrong = [each for each in about if each not in right and each.kind not in of_rig]
    name = f"{told.practice.seed}: {hidden.name}"
    if right:
        told.right_causes += 1
    elif wrong:
        told.wrong_causes.append(f"{name}: {', '.join(each.kind for each in wrong)}")
    else:
        told.no_causes.append(name)
    told.sure_right += sum(each.sure is Sureness.SURE for each in right)
    told.sure_wrong += [f"{name}: {each.kind}: {each.sentence}" for each in wrong if each.sure is Sureness.SURE]
