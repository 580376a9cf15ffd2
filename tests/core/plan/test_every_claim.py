"""Whatever is claimed of whatever: each claim has a trial or a reason, and each trial can be set up and judged."""

from __future__ import annotations

from collections import Counter

from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.core.claims.feasibility import problems_of
from auditra.core.claims.language import parse_claim, promise_kinds
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import ClaimMade, DeviceNoted, RigNoted
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judgement import judge
from auditra.core.model.device import DEVICE
from auditra.core.model.reading import Count, Grade, Number, Quantity, Reading, Words, YesNo
from auditra.core.model.trial import Outcome
from auditra.core.model.verdict import Verdict
from auditra.core.plan.planner import run_sheet_of
from auditra.core.wiring.moves import Action
from auditra.store.demos import DEMOS
from tests.support.audits import PROFILE, entries, galley, with_trial

DOCK = next(fact.device for fact in DEMOS[1].facts() if isinstance(fact, DeviceNoted))
PORTS = [port.id for port in DOCK.ports()]
CONDITIONS = ("", "", "", "while C2 gives 18 W", "while H1 shows 3840x2160@60", "without others", "on laptop",
              "on submarine", "with driver")  # fmt: skip


@st.composite
def sentences(draw: st.DrawFn) -> str:
    """A claim of any kind about any port, pair or the body of the dock, one that makes sense of it."""
    kind = draw(st.sampled_from(promise_kinds()))
    joined = draw(st.sampled_from(["+", "|"]))
    pair = draw(st.lists(st.sampled_from(PORTS), min_size=2, max_size=2, unique=True))
    subject = joined.join(pair) if kind.of_group or draw(st.integers(0, 4)) == 0 else draw(st.sampled_from(PORTS))
    subject = "body" if kind.on_body and not kind.of_group else subject
    return f"{subject} {kind.example} {draw(st.sampled_from(CONDITIONS))}".strip()


SENSIBLE = sentences().filter(lambda each: not problems_of(parse_claim(each, claim_id="c"), DOCK))
CLAIMS = st.lists(SENSIBLE, min_size=1, max_size=6, unique=True)


def audit_of(claims: list[str]) -> Audit:
    made = [ClaimMade(f"claim{n}", sentence) for n, sentence in enumerate(claims, start=1)]
    return fold_audit("any", entries([DeviceNoted(DOCK), RigNoted(galley()), *made]))


@settings(max_examples=60, deadline=None)
@given(CLAIMS)
def test_every_claim_has_a_trial_or_a_reason_why_it_has_none(claims: list[str]) -> None:
    sheet = run_sheet_of(audit_of(claims))
    tried = {claim for trial in sheet.trials if trial.port is not None for claim in trial.claims}
    for n, sentence in enumerate(claims, start=1):
        assert (f"claim{n}" in tried) or sheet.beyond_rig.get(f"claim{n}"), sentence


@settings(max_examples=60, deadline=None)
@given(CLAIMS)
def test_every_trial_can_be_plugged_as_it_is_planned(claims: list[str]) -> None:
    audit = audit_of(claims)
    sheet = run_sheet_of(audit)
    assert len({trial.key for trial in (*sheet.trials, *sheet.reserve)}) == len((*sheet.trials, *sheet.reserve))
    for trial in (*sheet.trials, *sheet.reserve):
        places = Counter((each.owner, each.socket) for each in trial.setup.plugged)
        gear = Counter(each.gear for each in trial.setup.plugged)
        leads = Counter(each.lead for each in trial.setup.plugged if each.lead)
        for what in (places, gear, leads):
            assert not what or max(what.values()) == 1, (trial.key, what)
        for each in trial.setup.plugged:
            assert each.gear == DEVICE or audit.rig.find(each.gear) is not None
        moves = trial.moves_from(None)
        assert {move.what for move in moves if move.action is Action.PLUG} == set(trial.setup.plugged)


VALUES = st.one_of(
    st.floats(0, 1e10).map(lambda value: Number((value,))),
    st.integers(0, 3).map(lambda seen: Count(seen, 3)),
    st.just(Words("1920x1080@60")),
    st.booleans().map(YesNo),
)


@settings(max_examples=40, deadline=None)
@given(CLAIMS, st.data())
def test_any_readings_are_judged_and_the_ledger_adds_up(claims: list[str], data: st.DataObject) -> None:
    audit = audit_of(claims)
    for trial in run_sheet_of(audit).trials[:4]:
        at = trial.port or "direct"
        readings = [
            Reading("T", data.draw(st.sampled_from(Quantity)), at, "test", data.draw(st.sampled_from(Grade)),
                    data.draw(VALUES))
            for _ in range(3)
        ]  # fmt: skip
        audit = with_trial(audit, trial.key, *readings, outcome=data.draw(st.sampled_from(Outcome)))
    judgement = judge(audit, PROFILE)
    assert len(judgement.claims) == len(claims)
    score = judgement.score
    assert score.lowest <= (score.value if score.value is not None else score.highest) <= score.highest
    assert sum(line.weight for line in score.ledger) == score.weight
    for verdict in judgement.claims:
        assert 0 <= verdict.lowest <= verdict.highest <= 1
        assert verdict.verdict is not Verdict.HOLDS_IF or verdict.condition


@settings(max_examples=40, deadline=None)
@given(SENSIBLE)
def test_a_claim_says_the_same_of_each_port_of_its_group(sentence: str) -> None:
    claim = parse_claim(sentence, claim_id="c")
    for port in claim.ports:
        alone = parse_claim(claim.sentence_of(port), claim_id="c")
        assert alone.promise == claim.promise
        assert str(alone) in claim.own_words
