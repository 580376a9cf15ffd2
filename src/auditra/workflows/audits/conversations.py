"""Power conversations that were attached to trials, read again from their evidence."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from auditra.core.decode.power_delivery.conversation import Conversation
from auditra.core.errors import AuditraError
from auditra.core.journal.audit import Audit
from auditra.core.model.reading import Quantity
from auditra.workflows.audits.attaching import conversation_in

_FROM_A_LOG = (Quantity.OFFERED, Quantity.AGREED, Quantity.CONTRACT, Quantity.MARKER)


@dataclass(frozen=True)
class RecordedConversation:
    """One conversation with the trial that it belongs to and the file that it was read from."""

    trial: str
    name: str
    conversation: Conversation


def conversations_at(
    audit: Audit, port: str | None, evidence_of: Callable[[str], bytes]
) -> tuple[RecordedConversation, ...]:
    """Those of a port, the newest trial first. Evidence that is missing is left out: `verify` reports it."""
    names = {each.sha256: each.name for each in audit.evidence}
    found: dict[str, RecordedConversation] = {}
    for record in reversed(audit.trials):
        readings = record.taken.of(*_FROM_A_LOG).at(port or "")
        for sha256 in dict.fromkeys(sha256 for reading in readings for sha256 in reading.evidence):
            if sha256 in names and sha256 not in found:
                conversation = _read(sha256, evidence_of)
                if conversation is not None and conversation.messages:
                    found[sha256] = RecordedConversation(record.trial.id, names[sha256], conversation)
    return tuple(found.values())


def _read(sha256: str, evidence_of: Callable[[str], bytes]) -> Conversation | None:
    try:
        data = evidence_of(sha256)
    except AuditraError:
        return None
    return conversation_in(data)
