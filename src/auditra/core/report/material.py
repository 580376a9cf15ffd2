"""What a report is made from: the judged audit, and what its rim knows of shelf, rules and earlier versions."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from auditra.core.advice.for_whom import User
from auditra.core.advice.replication import Other
from auditra.core.advice.worth import Peer
from auditra.core.journal.audit import TrialRecord
from auditra.core.judge.follow_up import FollowUp
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.procedures.registry import procedure_of


@dataclass(frozen=True)
class Rung:
    """One message of a power conversation, with seconds from its beginning."""

    time_s: float
    sender: str
    words: str

    @property
    def is_source(self) -> bool:
        return self.sender == "source"


@dataclass(frozen=True)
class Ladder:
    """A power conversation that belongs to a trial."""

    trial: str
    port: str
    name: str
    rungs: tuple[Rung, ...]
    agreed: str
    not_more: tuple[str, ...] = ()
    faults: tuple[str, ...] = ()


@dataclass(frozen=True)
class Material:
    """Everything that chapters look at."""

    judged: JudgedAudit
    head: str
    """The link that its journal ends in."""
    judged_by: str
    """Name and version of what judged it."""
    users: tuple[User, ...] = ()
    peers: tuple[Peer, ...] = ()
    follow_up: FollowUp | None = None
    """What is different from the audit that it follows."""
    since_last_version: FollowUp | None = None
    """What is different from the version that was published before."""
    ladders: tuple[Ladder, ...] = ()
    replications: tuple[Other, ...] = ()
    """What other reviewers found."""

    @cached_property
    def titles(self) -> Mapping[str, str]:
        """What each trial is called, by its id."""
        planned = {each.identity: each.title for each in self.judged.judgement.in_order}
        return {
            record.trial.id: planned.get(record.identity) or self._title(record) for record in self.judged.audit.trials
        }

    def _title(self, record: TrialRecord) -> str:
        trial, rig = record.trial, self.judged.audit.rig
        where = f"{trial.port} " if trial.port else ""
        return f"{where}{procedure_of(trial.procedure).id}, {rig.name_of(trial.gear)}"
