"""Read and print claim sentences: ``A1 data 5 Gb/s``. Printing is canonical; reading that is the identity."""

from __future__ import annotations

import importlib
import pkgutil
import re
from functools import cache
from typing import TypeGuard

from auditra.core.audit.claim import Claim, Source
from auditra.core.claims import kinds
from auditra.core.claims.promise import Promise
from auditra.core.claims.words import Words

_PORT = re.compile(r"[A-Za-z][A-Za-z0-9]{0,7}")


@cache
def promise_kinds() -> tuple[type[Promise], ...]:
    """Every kind of promise there is a file for, those with longer opening words first."""
    found: set[type[Promise]] = set()
    for name in (module.name for module in pkgutil.iter_modules(kinds.__path__)):
        module = importlib.import_module(f"{kinds.__name__}.{name}")
        found |= {each for each in vars(module).values() if _is_kind(each)}
    return tuple(sorted(found, key=lambda kind: (-len(kind.words), kind.words)))


def _is_kind(each: object) -> TypeGuard[type[Promise]]:
    return isinstance(each, type) and issubclass(each, Promise) and hasattr(each, "words")


def parse_claim(sentence: str, *, claim_id: str, source: Source | None = None) -> Claim:
    """The claim that a sentence makes. Raises: ClaimError with the column of the first word that does not fit."""
    words = Words(sentence)
    port = words.take("a port such as A1, then what it promises")
    if not _PORT.fullmatch(port):
        raise Words(sentence).refuse("a port such as A1")
    promise = _parse_promise(words)
    words.end()
    return Claim(claim_id, port, promise, source or Source())


def _parse_promise(words: Words) -> Promise:
    for kind in promise_kinds():
        if words.take_phrase(kind.words):
            return kind.parse(words)
    known = [kind.words for kind in promise_kinds()]
    raise words.refuse(f"one of: {', '.join(sorted(known))}", candidates=known)
