"""What drew power is pulled from a C socket: what is left there is read, and anything clear is a danger."""

from __future__ import annotations

from dataclasses import replace

import pytest

from auditra.bench.simulated.bench import open_simulated_bench
from auditra.core.journal.facts import ClaimMade, DeviceNoted, RigNoted
from auditra.core.judge.finding import Role
from auditra.core.model.device import Face, Port
from auditra.core.model.reading import Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.simulate.trait import Trait
from auditra.core.simulate.traits.power import LeavesVoltage
from auditra.workflows.audits.audit_session import AuditSession
from tests.support.audits import HUB, PROFILE, galley
from tests.support.benches import HONEST, MemoryJournal, Onlooker

WITH_C = replace(HUB, faces=(*HUB.faces, Face("back", (Port("C1", "usb-c"),))))


def session_with(*sentences: str) -> AuditSession:
    claims = [ClaimMade(f"claim{n}", sentence) for n, sentence in enumerate(sentences, start=1)]
    return AuditSession("test", MemoryJournal([DeviceNoted(WITH_C), RigNoted(galley()), *claims]), PROFILE)


def planned_for(session: AuditSession) -> list[str]:
    trials = session.judged.judgement.sheet.trials
    return [each.place for each in trials if each.procedure == ProcedureId.AFTER_REMOVAL]


def audited(*traits: Trait) -> AuditSession:
    session = session_with("C1 gives 15 W")
    planned = next(each for each in session.judged.judgement.sheet.trials
                   if each.procedure == ProcedureId.AFTER_REMOVAL)  # fmt: skip
    with open_simulated_bench(session.judged.audit, model=replace(HONEST, traits=traits), over_sockets=False) as bench:
        session.run(planned, bench, Onlooker())
    return session


def test_only_c_sockets_that_are_promised_to_give_power_are_tried() -> None:
    assert planned_for(session_with("C1 gives 15 W", "A1 gives 5 W")) == ["C1"]
    assert planned_for(session_with("C1 data 10 Gb/s")) == []


@pytest.mark.parametrize(("volts", "kinds"), [(5.1, ["standing voltage"]), (0.6, [])])
def test_more_than_what_counts_as_gone_is_a_danger(volts: float, kinds: list[str]) -> None:
    session = audited(LeavesVoltage("C1", volts))
    (reading,) = (each for each in session.judged.audit.trials[-1].readings
                  if each.quantity is Quantity.VOLTAGE_LEFT)  # fmt: skip
    assert reading.values == (volts,)
    dangers = [each.kind for each in session.judged.judgement.findings if each.role is Role.DANGER]
    assert dangers == kinds
