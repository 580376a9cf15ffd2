"""What the Rig stage does to an audit, as facts: parts added, edited, copied, retired and removed.

Each function returns the facts to be written together, or raises InputError with the reason; nothing is changed here.
"""

from __future__ import annotations

import re
from dataclasses import fields, replace
from typing import Any, get_args, get_type_hints

from auditra.core.errors import InputError
from auditra.core.host.as_rig_host import filled_in
from auditra.core.host.snapshot import Snapshot
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import EvidenceKept, Fact, RigNoted
from auditra.core.model.rig import (
    Adapter,
    Card,
    Display,
    Drain,
    Drive,
    Host,
    Lead,
    Load,
    Meter,
    Part,
    Peer,
    Reader,
    Rig,
    Rule,
    Supply,
    Thermometer,
)
from auditra.core.sanitize import sanitize

PART_KINDS: dict[str, type[Part]] = {
    "host": Host, "display": Display, "drive": Drive, "card": Card, "card reader": Reader, "supply": Supply,
    "hand load": Drain, "electronic load": Load, "meter": Meter, "thermometer": Thermometer, "rule": Rule,
    "network peer": Peer, "lead": Lead, "adapter": Adapter,
}  # fmt: skip
"""What a rig has, by the words for it, grouped by what it can show."""
KIND_OF_PART: dict[type[Part], str] = {noun: kind for kind, noun in PART_KINDS.items()}


def part_added(audit: Audit, part: Part) -> tuple[Fact, ...]:
    """A new part. Raises: InputError where another has its id."""
    return (RigNoted(with_part(audit.rig, part)),)


def part_edited(audit: Audit, old: str, part: Part) -> tuple[Fact, ...]:
    """A part put otherwise, in its place. Raises: InputError where another has its new id, or it is gone."""
    if audit.rig.part(old) is None:
        raise _missing(old)
    if part.id != old and audit.rig.part(part.id) is not None:
        raise _taken(part.id)
    field = _FIELD_OF[type(part)]
    parts = tuple(part if each.id == old else each for each in getattr(audit.rig, field))
    retired = tuple(part.id if each == old else each for each in audit.rig.retired)
    return (RigNoted(replace(audit.rig, retired=retired, **_list(field, parts))),)


def part_removed(audit: Audit, part_id: str) -> tuple[Fact, ...]:
    """A part that was never there. Raises: InputError; one that trials were run with can only be retired."""
    part = audit.rig.part(part_id)
    if part is None:
        raise _missing(part_id)
    if isinstance(part, Host) and len(audit.rig.hosts) == 1:
        raise InputError(f"{part.name}", why="a rig needs a host", do="Add another host first, or edit this one")
    field = _FIELD_OF[type(part)]
    parts = tuple(each for each in getattr(audit.rig, field) if each.id != part_id)
    retired = tuple(each for each in audit.rig.retired if each != part_id)
    return (RigNoted(replace(audit.rig, retired=retired, **_list(field, parts))),)


def retirement_turned(audit: Audit, part_id: str) -> tuple[Fact, ...]:
    """A part is retired, or used again. Raises: InputError where it is gone, or the last host."""
    rig = audit.rig
    part = rig.part(part_id)
    if part is None:
        raise _missing(part_id)
    if part_id in rig.retired:
        return (RigNoted(replace(rig, retired=tuple(each for each in rig.retired if each != part_id))),)
    if isinstance(part, Host) and len(rig.in_use.hosts) == 1:
        raise InputError(part.name, why="a rig needs a host", do="Add another host first")
    return (RigNoted(replace(rig, retired=(*rig.retired, part_id))),)


def photo_kept(audit: Audit, part_id: str, photo: EvidenceKept) -> tuple[Fact, ...]:
    """A picture of a part, its bytes kept already."""
    part = audit.rig.part(part_id)
    if part is None:
        raise _missing(part_id)
    return (photo, *part_edited(audit, part_id, replace(part, photo=photo.sha256)))


def host_filled_in(audit: Audit, host_id: str, snapshot: Snapshot) -> tuple[Fact, ...]:
    """A host with what it reported of itself; nothing where that adds nothing."""
    host = audit.rig.host(host_id)
    if host is None:
        raise _missing(host_id)
    filled = filled_in(host, snapshot)
    return part_edited(audit, host_id, filled) if filled != host else ()


def rig_taken(audit: Audit, rig: Rig) -> tuple[Fact, ...]:
    """Another rig, or another state of it. Parts that trials were run with come along, retired."""
    gone = [part for part in audit.rig.parts() if rig.part(part.id) is None and _is_named(audit, part.id)]
    for part in gone:
        rig = with_part(rig, part)
    return (RigNoted(replace(rig, retired=tuple(dict.fromkeys((*rig.retired, *(part.id for part in gone)))))),)


def with_part(rig: Rig, part: Part) -> Rig:
    """The rig with one part more. Raises: InputError where another has its id."""
    if rig.part(part.id) is not None:
        raise _taken(part.id)
    field = _FIELD_OF[type(part)]
    return replace(rig, **_list(field, (*getattr(rig, field), part)))


def free_id(rig: Rig, like: str) -> str:
    """An id that no part has, such as ``CC-3`` after ``CC-2``."""
    stem, number = re.fullmatch(r"(.*?)-?(\d*)", like).groups()  # type: ignore[union-attr]
    turn = int(number) + 1 if number else 2
    while rig.part(f"{stem[:26]}-{turn}") is not None:
        turn += 1
    return f"{stem[:26]}-{turn}"


def _is_named(audit: Audit, part_id: str) -> bool:
    """Whether a trial was run with it."""
    for record in audit.trials:
        setup = record.trial.setup
        plugged = {part for each in setup.plugged for part in (each.gear, each.lead, *each.through)}
        if part_id in {setup.host, record.trial.gear, *plugged}:
            return True
    return False


def _list(field: str, parts: tuple[Part, ...]) -> dict[str, Any]:
    return {field: parts}


def _missing(part_id: str) -> InputError:
    return InputError(sanitize(part_id, 40), why="the rig has no such part any more", do="Choose another")


def _taken(part_id: str) -> InputError:
    return InputError(
        f'"{sanitize(part_id, 40)}"', why="another part of the rig has this short name", do="Choose another"
    )


_FIELD_OF: dict[type[Part], str] = {
    get_args(hint)[0]: field.name
    for field in fields(Rig)
    if (hint := get_type_hints(Rig)[field.name]) not in (str, tuple[str, ...])
}
"""The list of a rig that has the parts of a kind."""
