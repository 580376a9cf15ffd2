"""Facts to JSON and back. What was not noted is left out; none is null; so absent never reads as none."""

from __future__ import annotations

import json
from functools import cache
from typing import Any

from pydantic import TypeAdapter, ValidationError

from auditra.core.audit.facts import FACT_KINDS, KIND_OF_FACT, Fact
from auditra.core.errors import JournalDamaged


@cache
def _adapter(kind: str) -> TypeAdapter[Any]:
    return TypeAdapter(FACT_KINDS[kind])


def encode_fact(fact: Fact) -> tuple[str, str]:
    """The kind of a fact and its body as canonical JSON: sorted keys, no spaces."""
    kind = KIND_OF_FACT[type(fact)]
    plain = _adapter(kind).dump_python(fact, mode="json", exclude_defaults=True)
    return kind, json.dumps(plain, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def decode_fact(kind: str, body: str, where: str) -> Fact:
    """The fact. Raises: JournalDamaged when it is none that this Auditra knows."""
    if kind not in FACT_KINDS:
        raise JournalDamaged(where, why=f'unknown kind of fact "{kind}"', do="Open it with the Auditra that wrote it")
    try:
        fact: Fact = _adapter(kind).validate_json(body)
    except ValidationError as error:
        first = error.errors()[0]
        raise JournalDamaged(
            where, why=f"{first['loc']}: {first['msg']}", do="Restore the library from a copy"
        ) from error
    return fact
