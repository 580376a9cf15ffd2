"""What a sheet owes: each level of what may matter beside each claim; on a forensic one every two together."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from auditra.core.journal.audit import Audit
from auditra.core.journal.fold import fold_audit
from auditra.core.model.circumstance import Aspect, Circumstance
from auditra.core.model.depth import Depth
from auditra.core.model.trial import ProcedureId
from auditra.core.plan.alone import tried_alone
from auditra.core.plan.coverage import Choice, Row, levels_of
from auditra.core.plan.factor import Which, all_factors
from auditra.core.plan.offers import sheets_offered
from auditra.core.plan.planner import run_sheet_of
from auditra.core.plan.planning import Planning, Tried
from auditra.core.plan.run_sheet import PlannedTrial, circumstances_for
from auditra.core.wiring.gear import host_for
from auditra.core.wiring.setups import Stand
from auditra.store.demos import DEMOS
from tests.support.audits import audit_of, entries, galley
from tests.support.docks import LARGE

DOCK = fold_audit("BW-11", entries(DEMOS[1].facts()))
PROMISES = (
    "C1 data 10 Gb/s", "C2 data 10 Gb/s", "A1 data 5 Gb/s", "S1 cards 250 MB/s", "N1 links 2.5 Gb/s", "C1 gives 27 W",
    "H1 shows 3840x2160@30", "UP charges host 65 W", "C2 gives 15 W", "A2 data 5 Gb/s", "J1 plays 3.5 mm",
)  # fmt: skip
CLAIMS = st.lists(st.sampled_from(PROMISES), min_size=1, max_size=6, unique=True)


def planned_alone(audit: Audit) -> tuple[Planning, list[Tried]]:
    found = host_for(audit.rig, audit.device.port("UP"))
    assert found is not None
    planning = Planning(audit.device, audit.rig, audit.claims, Stand(audit.device, audit.rig, *found))
    tried = [each for claim in audit.claims for each in tried_alone(claim, planning)]
    planning.pictures = [each for each in tried if each.claim.promise.procedure == ProcedureId.DISPLAY]
    return planning, [each for each in tried if each.goes_anywhere]


def new_in(tried: Tried, trial: PlannedTrial) -> set[Circumstance]:
    return set(circumstances_for(tried.claim, trial)) - set(circumstances_for(tried.claim, tried.trial))


def is_covered(tried: Tried, wanted: set[Circumstance], trials: tuple[PlannedTrial, ...]) -> bool:
    mine = (trial for trial in trials if tried.claim.id in trial.claims)
    return any(wanted <= set(circumstances_for(tried.claim, trial)) for trial in mine)


@settings(max_examples=25, deadline=None)
@given(CLAIMS)
def test_a_full_sheet_has_each_level_that_matters_to_each_claim(sentences: list[str]) -> None:
    audit = audit_of(*sentences, device=DOCK.device, rig=DOCK.rig)
    planning, alone = planned_alone(audit)
    trials = run_sheet_of(audit).trials
    for tried in alone:
        for choice in levels_of(tried, planning):
            single = choice.level.change(tried.trial)
            owed = choice.factor.which is Which.EACH and choice.level.depth is Depth.FULL
            if owed and single is not None:
                assert is_covered(tried, new_in(tried, single), trials), (str(tried.claim), choice.level.words)


@settings(max_examples=12, deadline=None)
@given(CLAIMS)
def test_a_forensic_sheet_has_every_two_levels_together_for_one_claim_of_each_kind(sentences: list[str]) -> None:
    audit = replace(audit_of(*sentences, device=DOCK.device, rig=DOCK.rig), depth=Depth.FORENSIC)
    planning, alone = planned_alone(audit)
    trials = run_sheet_of(audit).trials
    lacking: dict[str, list[int]] = {}
    for tried in alone:
        missing = 0
        for one, other in combinations(levels_of(tried, planning), 2):
            first = Row(tried.trial, tried.trial).with_level(one)
            pair = first.with_level(other) if first is not None else None
            missing += pair is not None and not is_covered(tried, new_in(tried, pair.trial), trials)
        lacking.setdefault(tried.claim.promise.procedure, []).append(missing)
    assert all(min(counts) == 0 for counts in lacking.values()), lacking


@settings(max_examples=25, deadline=None)
@given(CLAIMS)
def test_what_nobody_promised_shares_no_set_up_with_what_was(sentences: list[str]) -> None:
    audit = replace(audit_of(*sentences, device=DOCK.device, rig=DOCK.rig), depth=Depth.FORENSIC)
    planning, alone = planned_alone(audit)
    for tried in alone:
        promised: list[Choice] = []
        unpromised: list[Choice] = []
        for choice in levels_of(tried, planning):
            single = choice.level.change(tried.trial)
            assert single is not None
            (unpromised if single.setup.unpromised else promised).append(choice)
        for one in promised:
            row = Row(tried.trial, tried.trial).with_level(one)
            assert row is not None
            assert all(row.with_level(other) is None for other in unpromised)


def test_each_sheet_has_the_one_before_it_and_says_what_it_leaves() -> None:
    quick, full, forensic = sheets_offered(DOCK)
    assert quick.left < full.left < forensic.left
    assert quick.work.moves < full.work.moves < forensic.work.moves
    assert {Aspect.RUNNING, Aspect.SOAK, Aspect.HOST_SIDE} <= set(quick.aspects)
    assert quick.untried == full.left - quick.left
    assert (forensic.untried, forensic.aspects) == (0, ())
    sheets = [run_sheet_of(replace(DOCK, depth=depth)) for depth in Depth]
    assert sheets[0].down_to(Depth.QUICK) == sheets[1].down_to(Depth.QUICK) == sheets[2].down_to(Depth.QUICK)


def test_every_factor_stands_in_the_documentation() -> None:
    page = (Path(__file__).parents[3] / "docs" / "planning.md").read_text(encoding="utf-8")
    for factor in all_factors():
        assert any(line.startswith(f"| `{factor.name}` |") for line in page.splitlines()), factor.name


def test_every_factor_says_what_it_is_and_excludes_only_factors() -> None:
    names = {factor.name for factor in all_factors()}
    assert len(names) == len(all_factors())
    assert all(factor.excludes <= names for factor in all_factors())


@pytest.mark.parametrize(
    ("sentences", "wanted"),
    [
        (("C1 gives 27 W", "A1 data 5 Gb/s"), "fast SSD in C1"),
        (("C1 data 10 Gb/s", "H1 shows 3840x2160@30"), "projector in C1"),
    ],
)  # fmt: skip
def test_what_a_buyer_will_do_is_tried_once_and_for_no_claim(sentences: tuple[str, ...], wanted: str) -> None:
    audit = audit_of(*sentences, device=DOCK.device, rig=DOCK.rig)
    (wrong,) = (each for each in run_sheet_of(audit).trials if each.procedure == ProcedureId.WRONG_PLUG)
    assert (wrong.title, wrong.claims, wrong.depth) == (wanted, (), Depth.FULL)


def test_what_is_said_to_carry_no_data_is_not_tried_again_for_no_claim() -> None:
    sheet = run_sheet_of(audit_of("P1 takes 90 W", "P1 no data", "A1 data 5 Gb/s"))
    assert all(trial.procedure != ProcedureId.WRONG_PLUG for trial in sheet.trials)


def test_the_lead_of_the_host_is_tried_in_the_socket_beside_it() -> None:
    faces = tuple(
        replace(face, ports=tuple(replace(port, connector="usb-c") if port.id == "UP" else port for port in face.ports))
        for face in LARGE.faces
    )
    audit = audit_of("C1 data 10 Gb/s", device=replace(LARGE, faces=faces), rig=galley())
    wrong = [each for each in run_sheet_of(replace(audit, depth=Depth.FORENSIC)).trials
             if each.procedure == ProcedureId.WRONG_PLUG]  # fmt: skip
    assert [trial.port for trial in wrong] == ["C1", "C2", "C3"]
    assert wrong[0].setup.arranged == ("the host's lead in C1 and nothing in UP",)
