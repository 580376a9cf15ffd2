"""A report goes out: what it is made of, which version it is, and why it corrects an earlier one."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

from auditra import __version__
from auditra.core.advice.for_whom import User
from auditra.core.advice.replication import Other
from auditra.core.advice.worth import Peer
from auditra.core.errors import AuditraError, InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import ReportPublished
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.follow_up import FollowUp, follow_up_of
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.report.document import Document
from auditra.core.report.material import Ladder, Material, Rung
from auditra.core.report.missing import missing_from
from auditra.core.report.report import make_report
from auditra.core.sanitize import sanitize
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.replicating import FactsReader, others_of
from auditra.workflows.trials.doors import Clock

JUDGED_BY = f"Auditra {__version__}"
MAX_WHY = 300


@dataclass(frozen=True)
class Surroundings:
    """What a report needs besides its audit: users, the rest of the shelf, the audit that it follows."""

    users: Sequence[User] = ()
    peers: Sequence[Peer] = ()
    open_session: Callable[[str], AuditSession] | None = None
    read_facts: FactsReader | None = None


def document_of(session: AuditSession, around: Surroundings) -> tuple[Document, JudgedAudit]:
    """The report as the journal stands, with the audit that it is of; evidence is looked at first."""
    session.refresh()
    judged = session.checked()
    judged.judgement.explain()
    material = Material(
        judged, session.head_link, JUDGED_BY, tuple(around.users), tuple(around.peers),
        follow_up=_follow_up(judged, around), since_last_version=_since_last_version(session, judged),
        ladders=tuple(_ladders(session, judged.audit)), replications=_others(session, judged, around),
    )  # fmt: skip
    return make_report(material), judged


def record_version(session: AuditSession, why: str, clock: Clock) -> int:
    """Record that a report goes out, where something changed since the last time; its version.

    Raises: InputError where a reader would not be told what they must be, or a correction has no reason; StoreError.
    """
    judged = session.checked()
    blocking = [each.text for each in missing_from(judged) if each.blocks]
    if blocking:
        do = "Answer it on stage 8, or write a draft"
        raise InputError("the report", why=f"it cannot go out: {'; '.join(blocking)}", do=do)

    if judged.audit.changed_since_published:
        session.write(lambda audit: version_facts(audit, why), "publish", clock)
    return session.judged.audit.published[-1].version


def version_facts(audit: Audit, why: str) -> tuple[ReportPublished, ...]:
    """That the next version goes out; nothing where it is out already. Raises: InputError for one without a reason."""
    if not audit.changed_since_published:
        return ()
    version = len(audit.published) + 1
    if version > 1 and not why.strip():
        words = f"version {version} corrects what is published already, and no reason is given"
        raise InputError("the report", why=words, do="Say what was wrong, or what is new")
    return (ReportPublished(version, audit.entries, sanitize(why.strip(), MAX_WHY)),)


def _ladders(session: AuditSession, audit: Audit) -> Iterator[Ladder]:
    """Every power conversation that was attached, oldest trial first."""
    for port in audit.device.ports():
        for recorded in reversed(session.conversations(port.id)):
            told = recorded.conversation
            rungs = tuple(Rung(turn.from_start_s, turn.sender, turn.words) for turn in told.turns)
            agreed = told.contract.words if told.contract is not None else ""
            faults = tuple(f"{fault}" for fault in told.faults)
            yield Ladder(recorded.trial, port.id, recorded.name, rungs, agreed, tuple(told.not_more), faults)


def _others(session: AuditSession, judged: JudgedAudit, around: Surroundings) -> tuple[Other, ...]:
    if around.read_facts is None:
        return ()
    return others_of(judged.audit, session.evidence_of, around.read_facts, judged.judgement.profile)


def _follow_up(judged: JudgedAudit, around: Surroundings) -> FollowUp | None:
    follows = judged.audit.follows
    if follows is None or around.open_session is None:
        return None
    try:
        earlier = around.open_session(follows.earlier).judged
    except AuditraError:
        return None
    return follow_up_of(earlier, judged, follows.changed)


def _since_last_version(session: AuditSession, judged: JudgedAudit) -> FollowUp | None:
    """What is different from the version that went out before this one; None for the first."""
    published = judged.audit.published
    before = published[-1] if judged.audit.changed_since_published and published else None
    if before is None and len(published) > 1:
        before = published[-2]
    if before is None:
        return None
    entries = [entry for entry in session.entries() if entry.number <= before.entries]
    audit = fold_audit(session.name, entries)
    then = JudgedAudit(audit, judge(audit, session.profile), judged.bench)
    reason = published[-1].why if not judged.audit.changed_since_published else ""
    return replace(follow_up_of(then, judged, reason), earlier=f"version {before.version}")
