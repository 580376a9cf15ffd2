"""Another reviewer's audit of the same device beside one's own: kept as evidence, judged from its own journal."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol

from auditra.core.advice.replication import Other
from auditra.core.errors import AuditraError, InputError
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import Entry, EvidenceKept, Fact, ReplicationKept
from auditra.core.journal.fold import fold_audit
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.judgement import judge
from auditra.core.model.bench_kind import SIMULATED_BENCH
from auditra.core.model.profile import Profile
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import EvidenceKeeper

FactsReader = Callable[[bytes], tuple[str, Sequence[Entry]]]
"""The name and the entries of a facts file whose chain was verified. Raises: InputError, FactsRefused."""


class VerifiedBundle(Protocol):
    """A bundle in which nothing was changed."""

    @property
    def facts(self) -> bytes: ...
    @property
    def head(self) -> str: ...
    @property
    def signer(self) -> str: ...


def facts_of_bundle(
    audit: Audit, bundle: VerifiedBundle, read: FactsReader, keeper: EvidenceKeeper
) -> tuple[Fact, ...]:
    """That another audit was set beside this one; its journal is kept as evidence.

    Raises: InputError where it is of another device, is this audit itself, or stands here already.
    """
    name, entries = read(bundle.facts)
    other = fold_audit(name, entries)
    if not audit.device.same_thing_as(other.device):
        why = f"it is of {sanitize(other.device.name, 60)}, of another variant, revision or firmware perhaps"
        raise InputError("the bundle", why=why, do="Line both up on the shelf instead")
    if any(each.head == bundle.head for each in audit.replications):
        raise InputError("the bundle", why="it was merged already")
    ours = {(record.begun_at, record.readings) for record in audit.trials if record.readings}
    if any((record.begun_at, record.readings) in ours for record in other.trials):
        raise InputError("the bundle", why="it has trials of this very audit", do="Attach what was run on another host")
    signed = other.device.reviewed_by if isinstance(other.device.reviewed_by, str) else ""
    reviewer = bundle.signer or signed
    sha256 = keeper.keep(bundle.facts)
    kept = EvidenceKept(sha256, f"{sanitize(name, 64)} facts.jsonl", len(bundle.facts), about="replication")
    return kept, ReplicationKept(name, sanitize(reviewer, 120), bundle.head, sha256)


def others_of(audit: Audit, evidence: Callable[[str], bytes], read: FactsReader, profile: Profile) -> tuple[Other, ...]:
    """The audits of others, judged now with our score profile; one whose evidence is missing is left out here and told
    among the flaws of the evidence."""
    found = []
    for each in audit.replications:
        try:
            name, entries = read(evidence(each.facts))
        except AuditraError:
            continue
        other = fold_audit(name, entries)
        judged = JudgedAudit(other, judge(other, profile), other.bench or SIMULATED_BENCH)
        found.append(Other(each.name, each.reviewer, each.head, judged))
    return tuple(found)
