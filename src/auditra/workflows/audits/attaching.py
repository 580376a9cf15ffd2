"""A file that belongs to a trial: kept as evidence, and read where it is a display's description or a power log.

What follows are readings of grade 4, from the machine. A description says what a display can be asked for,
and never what it shows: only what is missing in it decides anything.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from auditra.core.decode.display.description import Edid
from auditra.core.decode.display.edid import decode_edid
from auditra.core.decode.identity import identity_in_words
from auditra.core.decode.power_delivery.conversation import Conversation
from auditra.core.decode.power_delivery.hearing import hold_conversation
from auditra.core.decode.power_delivery.log import read_log
from auditra.core.errors import InputError
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.journal.facts import EvidenceKept, Fact, ReadingTaken
from auditra.core.model.reading import Grade, Number, Quantity, Reading, Value, Words, YesNo
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Journal

DESCRIPTION, POWER_LOG = "display's own description", "power log"
"""Instruments that such readings name."""
MAX_FILE_BYTES = 32 << 20
EDID_BEGINS = bytes.fromhex("00ffffffffffff00")
_PLAIN_BITS = 8


def facts_of_attachment(audit: Audit, trial: str, name: str, data: bytes, journal: Journal) -> tuple[Fact, ...]:
    """The evidence, and the readings that it gives. Raises: InputError for a trial that is not there, StoreError."""
    record = record_of(audit, trial)
    if len(data) > MAX_FILE_BYTES:
        raise InputError(
            sanitize(name, 80),
            why=f"it is longer than {MAX_FILE_BYTES} bytes",
            do="Keep a part of it; of a table, name columns",
        )
    kind, readings = _read(data, record)
    sha256 = journal.keep(data)
    kept = EvidenceKept(sha256, sanitize(name, 80), len(data), media_type=kind, about=f"trial {trial}")
    return (kept, *(ReadingTaken(_with_evidence(reading, sha256)) for reading in readings))


def record_of(audit: Audit, trial: str) -> TrialRecord:
    """The trial that a file is named for. Raises: InputError with those that there are."""
    record = next((each for each in audit.trials if each.trial.id == trial), None)
    if record is None:
        known = ", ".join(each.trial.id for each in audit.trials[-12:]) or "none yet"
        raise InputError(f'trial "{sanitize(trial, 20)}"', why="it is not in this audit", do=f"Its trials are: {known}")
    return record


def _with_evidence(reading: Reading, sha256: str) -> Reading:
    return replace(reading, evidence=(sha256,))


def _read(data: bytes, record: TrialRecord) -> tuple[str, tuple[Reading, ...]]:
    """What sort of file it is, and what it says of the trial; nothing for a file that is neither."""
    if data[:8] == EDID_BEGINS:
        return "application/octet-stream", tuple(_of_display(decode_edid(data), record))
    told = conversation_in(data[:MAX_FILE_BYTES])
    if told.messages:
        return "text/plain", tuple(_of_power(told, record))
    return "application/octet-stream", ()


def is_known(data: bytes) -> bool:
    """Whether a file is one that is read by itself: a description, a power log, a captured CC line."""
    return data[:8] == EDID_BEGINS or bool(conversation_in(data[:MAX_FILE_BYTES]).messages)


def conversation_in(data: bytes) -> Conversation:
    """Of a log of messages, or of a captured CC line."""
    from auditra.core.decode.cc_line.capture import is_capture, read_capture  # brings NumPy, which takes a moment

    if is_capture(data):
        return read_capture([data]).conversation
    return hold_conversation(read_log(data.decode("utf-8", "replace").splitlines()))


def _of_display(edid: Edid, record: TrialRecord) -> Iterator[Reading]:
    """Direct, what the display takes; through the device, what it is left with."""
    direct = record.trial.port is None

    def reading(quantity: Quantity | str, value: Value) -> Reading:
        return Reading(record.trial.id, quantity, record.trial.place, DESCRIPTION, Grade.READ, value)

    if not edid.is_readable:
        yield reading(Quantity.DESCRIBED, Words(f"damaged: {edid.problems[0].words}"))
        return
    preferred = edid.preferred.name if edid.preferred is not None else "no mode"
    yield reading(
        Quantity.DESCRIBED, Words(f"{edid.name or 'display'}, preferred {preferred}, {len(edid.modes)} modes")
    )
    if not edid.is_whole:  # what it lacks may just not have been read
        return
    most_bits = max(edid.depths_bits, default=None)
    if most_bits is not None and (direct or most_bits == _PLAIN_BITS):
        yield reading(Quantity.DEPTH, Number((float(most_bits),)))
    for name, has in (("hdr", edid.hdr), ("vrr", edid.adaptive is not None)):
        if direct or not has:
            yield reading(name, YesNo(has))


def _of_power(told: Conversation, record: TrialRecord) -> Iterator[Reading]:
    def reading(quantity: Quantity, value: Value) -> Reading:
        return Reading(record.trial.id, quantity, record.trial.place, POWER_LOG, Grade.READ, value)

    if told.most_offered_mw is not None:
        yield reading(Quantity.OFFERED, Number((told.most_offered_mw / 1000,)))
    if told.contract is not None and told.contract.power_mw is not None:
        yield reading(Quantity.AGREED, Number((told.contract.power_mw / 1000,)))
        yield reading(Quantity.CONTRACT, Words(told.contract.words))
        yield reading(Quantity.CONTRACT_KIND, Words(str(told.contract.kind)))
    for words in told.not_more[:3]:
        yield reading(Quantity.CONTRACT, Words(words))
    if told.cable is not None:
        yield reading(Quantity.MARKER, Words(identity_in_words(told.cable)))
