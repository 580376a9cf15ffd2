"""The judgement: a pure function of an audit. Nothing is judged anywhere else."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from operator import is_

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import Promise
from auditra.core.journal.audit import Audit
from auditra.core.judge.claim_verdict import LEAST_TO_WORST, ClaimVerdict
from auditra.core.judge.counting import SetAside
from auditra.core.judge.doubts import DoubtAnswer, answers
from auditra.core.judge.finding import Finding, Role
from auditra.core.judge.follow_ups import follow_ups
from auditra.core.judge.honest import honest_sentence, shown_promise
from auditra.core.judge.next_trials import NextTrial, next_trials
from auditra.core.judge.reasoning.chain import ChainView, chain_of
from auditra.core.judge.reasoning.elimination import Elimination
from auditra.core.judge.reasoning.inquiry import Inquiry
from auditra.core.judge.reasoning.reasons import find_all
from auditra.core.judge.records import Records
from auditra.core.judge.score import Score, scores_of
from auditra.core.judge.unit_guard import Question, QuestionsKept
from auditra.core.judge.verdicts import judge_claim
from auditra.core.model.circumstance import Aspect
from auditra.core.model.depth import Depth
from auditra.core.model.device import DEVICE, Device
from auditra.core.model.profile import Profile
from auditra.core.model.trial import DIRECT
from auditra.core.model.verdict import Verdict
from auditra.core.plan.planner import run_sheet_of
from auditra.core.plan.poor_gear import without_poor_gear
from auditra.core.plan.route import Router, route
from auditra.core.plan.run_sheet import PlannedTrial, RunSheet, circumstances_for, still_to_do
from auditra.core.procedures.identity import identity_of

_LOADS = frozenset({Aspect.RUNNING, Aspect.IDLE, Aspect.SOAK, Aspect.RECORDER})
"""What can only make it harder to keep a promise."""
_REASONS = (Role.CAUSE, Role.CONTENTION, Role.RIG_LIMIT, Role.CONTRADICTION, Role.CHANCE)


@dataclass(frozen=True)
class Judgement:
    """All that can be said of an audit as it stands."""

    claims: tuple[ClaimVerdict, ...]
    unstated: tuple[Finding, ...]
    score: Score
    sheet: RunSheet
    left: tuple[PlannedTrial, ...]
    """What is left of the run sheet, then what answers wait for besides, in no order; `to_do` has them in theirs."""
    urgent: tuple[PlannedTrial, ...] = ()
    """Those of them that an answer waits for, such as what parts two explanations: they come next."""
    spared: tuple[PlannedTrial, ...] = ()
    """What need not be done any more: all that it could show is decided already."""
    dangers: tuple[Finding, ...] = ()
    """What may lose data or hurt somebody; each caps the score."""
    set_aside: tuple[SetAside, ...] = ()
    questions: tuple[Question, ...] = ()
    scores: Mapping[str, Score] = field(default_factory=dict)
    """The score of each device of a kit, by its id; `score` is that of the first one."""
    device: str = DEVICE
    """The first device, whose ports are shown."""
    profile: Profile = field(default_factory=lambda: Profile("even", {}))
    """What it was scored with."""

    router: Router = field(default_factory=Router, repr=False, compare=False)
    inquiry: Inquiry | None = field(default=None, repr=False, compare=False)
    """What causes are found from, when somebody asks."""

    @cached_property
    def reasons(self) -> tuple[Finding, ...]:
        """Why claims fail, as far as it was found. Worked out when first asked for, which may take a moment."""
        return find_all(self.inquiry, *_REASONS) if self.inquiry is not None else ()

    @cached_property
    def to_do(self) -> tuple[PlannedTrial, ...]:
        """What is left to do, the next one first: the fewest plug moves from what is connected."""
        standing = self.inquiry.audit.last_setup if self.inquiry is not None else None
        urgent = route(self.urgent, standing)
        rest = tuple(trial for trial in self.left if trial not in urgent)
        return (*urgent, *self.router.order(self.sheet.trials, rest, urgent[-1].setup if urgent else standing))

    @cached_property
    def in_order(self) -> tuple[PlannedTrial, ...]:
        """The whole sheet down to its depth, in the order for one who begins, then the reviewer's own trials."""
        depth = self.inquiry.audit.depth if self.inquiry is not None else Depth.FULL
        planned = (trial for trial in self.router.whole(self.sheet.trials) if trial.depth in depth.includes)
        return (*planned, *self.sheet.own)

    @property
    def is_explained(self) -> bool:
        """Whether the reasons were worked out already."""
        return "reasons" in self.__dict__

    @property
    def reasons_so_far(self) -> tuple[Finding, ...]:
        """The reasons where they were worked out; else none yet."""
        return self.reasons if self.is_explained else ()

    def explain(self) -> None:
        """Work out all that takes a moment; on any thread."""
        _ = (self.reasons, self.doubts, self.next_trials)

    @cached_property
    def doubts(self) -> tuple[DoubtAnswer, ...]:
        """What the readings say to each doubt."""
        return answers(self.inquiry.audit.doubts, self.inquiry, self.findings) if self.inquiry is not None else ()

    @cached_property
    def next_trials(self) -> tuple[NextTrial, ...]:
        """What would tell the causes that are left from each other, the best first."""
        return next_trials(self.inquiry) if self.inquiry is not None else ()

    def chain_of(self, claim_id: str) -> ChainView | None:
        """The ceilings from the host to the gear of a claim, with what was measured."""
        verdict = self.of_claim(claim_id)
        if self.inquiry is None or verdict is None:
            return None
        return chain_of(self.inquiry.records, verdict, self.sheet)

    def elimination_of(self, claim_id: str) -> Elimination | None:
        """Who is left of those that could explain why a claim fails; None where it fails nowhere."""
        verdict = self.of_claim(claim_id)
        return self.inquiry.elimination_of(verdict) if self.inquiry is not None and verdict is not None else None

    def honest_sentence(self, claim_id: str) -> str:
        """What the box should have said of a claim; empty for one that simply holds."""
        verdict = self.of_claim(claim_id)
        known = self.inquiry is not None and verdict is not None
        return honest_sentence(verdict, self.inquiry.records) if known and self.inquiry and verdict else ""

    def shown_promise(self, claim_id: str) -> Promise | None:
        """The promise that was shown of a claim; None for nothing."""
        verdict = self.of_claim(claim_id)
        return shown_promise(verdict, self.inquiry.records) if self.inquiry is not None and verdict else None

    @property
    def findings(self) -> tuple[Finding, ...]:
        """All that was found, the gravest first."""
        return (*self.dangers, *self.reasons, *self.unstated)

    def scored_with(self, profile: Profile) -> Mapping[str, Score]:
        """The score of each device under another profile; nothing is judged again."""
        if self.inquiry is None:
            return self.scores
        return scores_of(self.inquiry.audit, self.claims, self.unstated, self.dangers, profile)

    @property
    def decided(self) -> int:
        return sum(claim.verdict.decided for claim in self.claims)

    @property
    def of_device(self) -> tuple[ClaimVerdict, ...]:
        """Those of the first device."""
        return tuple(verdict for verdict in self.claims if verdict.claim.device == self.device)

    def of_port(self, port: str) -> tuple[ClaimVerdict, ...]:
        """Those of a port of the first device."""
        return tuple(verdict for verdict in self.of_device if port in verdict.claim.ports)

    def worst_of_port(self, port: str) -> Verdict | None:
        """The verdict that a port is shown with; None where no claims for this port."""
        verdicts = [each.verdict for each in self.of_port(port)]
        return max(verdicts, key=LEAST_TO_WORST.index, default=None)

    def of_claim(self, claim_id: str) -> ClaimVerdict | None:
        return next((verdict for verdict in self.claims if verdict.claim.id == claim_id), None)


def judge(audit: Audit, profile: Profile) -> Judgement:
    """The judgement of an audit's facts under a score profile."""
    return Judge(profile).judge(audit)


class Judge:
    """Judges one audit again and again as it grows; what nothing new bears on is taken from the time before.

    The answer is the same as that of a new judge: what is kept is kept by the very facts that it was worked out from.
    """

    def __init__(self, profile: Profile) -> None:
        self.profile = profile
        self._sheet: tuple[tuple[object, ...], RunSheet] | None = None
        self._verdicts: dict[str, _Kept] = {}
        self._questions = QuestionsKept()
        self._router = Router()
        self._records: Records | None = None
        self._poor: tuple[str, ...] = ()
        self._last: tuple[tuple[object, ...], Judgement] | None = None

    def judge(self, audit: Audit) -> Judgement:
        """The judgement of an audit as it stands."""
        said = (audit.answers, *audit.doubts, *audit.events)
        wishes = (*audit.own_trials, *audit.skipped, audit.depth, audit.profile)
        facts = (audit.device, *audit.devices, audit.rig, *audit.claims, *audit.trials, *said, *wishes)
        if self._last is None or not _are_the_same(self._last[0], facts):
            self._last = facts, self._judge(audit)
        return self._last[1]

    def _judge(self, audit: Audit) -> Judgement:
        sheet = self._sheet_of(audit)
        questions = self._questions.of(audit)
        records = self._records = self._records_of(audit, questions)
        by_claim = _by_claim(audit, questions) if questions else {}
        verdicts = tuple(
            self._verdict_on(claim, records, sheet, audit.device_of(claim.device), by_claim.get(claim.id, ()))
            for claim in audit.claims
        )
        inquiry = Inquiry(audit, verdicts, records.questioned, records.hub_ids)
        now = replace(inquiry, shared=records)
        profile = audit.profile or self.profile
        unstated = tuple(
            replace(finding, points=profile.drawback(finding.kind)) for finding in find_all(now, Role.UNSTATED)
        )
        dangers = find_all(now, Role.DANGER)
        scores = scores_of(audit, verdicts, unstated, dangers, profile)
        skipped = {identity_of(each.trial) for each in audit.skipped}
        owed = still_to_do(sheet, audit.trials, skipped, audit.depth)
        lost = {verdict.claim.id for verdict in verdicts if _is_lost(verdict)}
        spared = tuple(trial for trial in owed if _only_loads(trial, lost, audit.claims))
        planned = tuple(trial for trial in owed if trial not in spared)
        asked = follow_ups(verdicts, sheet, audit.trials)
        more = tuple(each for each in asked if each not in planned and each.identity not in skipped)
        urgent = tuple(each for each in more if not each.setup.soaked_s)
        return Judgement(
            verdicts, unstated, scores[audit.device.id], sheet, (*planned, *more), urgent, spared, dangers,
            tuple(records.asides.values()), questions, scores, audit.device.id, profile, self._router, inquiry,
        )  # fmt: skip

    def _sheet_of(self, audit: Audit) -> RunSheet:
        poor = self._poor_gear(audit)
        facts = (audit.device, *audit.devices, audit.rig, *audit.claims, *audit.own_trials, audit.depth, *poor)
        if self._sheet is None or not _are_the_same(self._sheet[0], facts):
            self._sheet = facts, run_sheet_of(audit)
        return self._sheet[1]

    def _poor_gear(self, audit: Audit) -> tuple[str, ...]:
        """The previous tuple while it lists the same gear, so that the sheet is only rebuilt when the list changes."""
        found = without_poor_gear(audit.rig, audit.trials).retired
        self._poor = found if found != self._poor else self._poor
        return self._poor

    def _records_of(self, audit: Audit, questions: tuple[Question, ...]) -> Records:
        questioned = frozenset(question.trial for question in questions if question.at == DIRECT)
        hub_ids = frozenset(name for device in (audit.device, *audit.devices) for name in _hub_ids(device))
        if self._records is None or self._records.hub_ids != hub_ids:
            self._records = Records(audit.rig, questioned, hub_ids)
        before = self._records
        return before.grown_to(audit.trials, audit.rig, questioned)

    def _verdict_on(
        self, claim: Claim, records: Records, sheet: RunSheet, device: Device, questions: tuple[Question, ...]
    ) -> ClaimVerdict:
        """Kept while nothing new bears on the claim; one that looked at other trials too, while none changed."""
        facts = (claim, sheet, device, *questions, *records.bearing_on(claim.id))
        kept = self._verdicts.get(claim.id)
        same = kept is not None and _are_the_same(kept.facts, facts)
        if kept is None or not same or kept.version not in (None, records.version):
            judged = judge_claim(claim, records, sheet, device, questions)
            version = records.version if judged.looked_around else None
            self._verdicts[claim.id] = kept = _Kept(facts, version, judged.verdict)
        return kept.verdict


def _is_lost(verdict: ClaimVerdict) -> bool:
    """It does not work as it is promised: nothing that is tried beside it can change that."""
    plain = any(each.verdict is Verdict.BROKEN and not each.varied for each in verdict.set_ups)
    return plain and verdict.verdict is Verdict.BROKEN and verdict.lowest == verdict.highest


def _only_loads(trial: PlannedTrial, lost: Container[str], claims: Iterable[Claim]) -> bool:
    """It puts more load on what is lost anyway; with the plug turned over, say, it might still work."""
    if trial.depth is Depth.QUICK or not trial.claims or not all(claim in lost for claim in trial.claims):
        return False
    special = [each.aspect for claim in claims if claim.id in trial.claims for each in circumstances_for(claim, trial)]
    return bool(special) and _LOADS.issuperset(special)


def _hub_ids(device: Device) -> tuple[str, ...]:
    """Vendor and product of its hubs, where they were noted."""
    return device.usb_ids if isinstance(device.usb_ids, tuple) else ()


@dataclass(frozen=True)
class _Kept:
    """A verdict with what it was worked out of; the version of all trials, where it depends on those."""

    facts: tuple[object, ...]
    version: int | None
    verdict: ClaimVerdict


def _by_claim(audit: Audit, questions: tuple[Question, ...]) -> dict[str, tuple[Question, ...]]:
    """The questions that hold each claim back: about a value at its ports, of a quantity that decides it."""
    trials = {record.trial.id: record.trial for record in audit.trials}
    found: dict[str, tuple[Question, ...]] = {}
    for claim in audit.claims:
        scale = claim.promise.scale()
        for question in questions:
            concerns = claim.id in trials[question.trial].claims and question.at in claim.ports
            if concerns and (scale is None or question.quantity in scale.quantities):
                found[claim.id] = (*found.get(claim.id, ()), question)
    return found


def _are_the_same(before: tuple[object, ...], now: tuple[object, ...]) -> bool:
    """The very same objects: facts are frozen, and folding keeps those that did not change."""
    return len(before) == len(now) and all(map(is_, before, now))
