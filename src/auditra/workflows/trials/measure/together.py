"""Several ports at once: each measured in turn while the others are kept at work."""

from __future__ import annotations

from contextlib import ExitStack
from dataclasses import replace

from auditra.core.model.rig import Peer
from auditra.core.model.trial import Outcome, ProcedureId
from auditra.workflows.trials.measure import network, storage
from auditra.workflows.trials.measure.session import TrialSession


def measure(session: TrialSession) -> Outcome:
    """What each port's own trial reads, for every piece of gear in the set-up. Raises: BenchError, TrialStopped."""
    companions = session.need(session.bench.companions, "way to keep several ports at work")
    members = [
        (each.socket, each.gear) for each in session.planned.setup.members if session.rig.find(each.gear) is not None
    ]
    outcome = Outcome.COMPLETE
    for port, gear in members:
        with ExitStack() as others:
            for _, other in members:
                if other != gear:
                    others.enter_context(companions.busy(other))
            if _measure_one(session, port, gear) is not Outcome.COMPLETE:
                outcome = Outcome.DID_NOT_APPEAR
    return outcome


def _measure_one(session: TrialSession, port: str, gear: str) -> Outcome:
    is_peer = isinstance(session.rig.find(gear), Peer)
    procedure = ProcedureId.NETWORK if is_peer else ProcedureId.STORAGE
    planned = replace(session.planned, port=port, gear=gear, procedure=procedure)
    one = replace(session, planned=planned)
    return network.measure(one) if is_peer else storage.measure(one)
