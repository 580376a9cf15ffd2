"""Read and print claim sentences: ``A1 data 5 Gb/s while H1 shows 3840x2160@60``.

    claim      = subject promise {"," promise} {condition}
    subject    = [device ":"] port {"+" port} | port {"|" port} | "body"
    promise    = one of the kinds, with what it names (docs/claim-language.md)
    condition  = "while" subject promise | "without" thing | "on" host | "with" words

Printing is canonical; reading that is the identity. A sentence with several promises is split into as many claims.
"""

from __future__ import annotations

import importlib
import pkgutil
import re
from dataclasses import replace
from functools import cache
from typing import TypeGuard

from auditra.core.claims import kinds
from auditra.core.claims.claim import Claim, Condition, ConditionKind, Joined
from auditra.core.claims.promise import Promise
from auditra.core.claims.tokens import CONDITION_WORDS, Words
from auditra.core.errors import ClaimError
from auditra.core.model.device import BODY, DEVICE
from auditra.core.model.source import Source

_SUBJECT = re.compile(
    r"(?:([A-Za-z][A-Za-z0-9-]{0,31}):)?([A-Za-z][A-Za-z0-9]{0,7}(?:[+|][A-Za-z][A-Za-z0-9]{0,7}){0,31})"
)
LEFT_OUT = ("others", "display", "data", "network", "supply", "driver")
"""What a promise may be made without; "others": with nothing else plugged in."""
_NO_SOURCE = Source()
MAX_PROMISES = 8
MAX_CONDITIONS = 6
_ONE_PORT = 2
"""A subject no longer than this has no room for a second port."""
_JOINS = tuple(each.value for each in Joined)
_CONDITION_KINDS = tuple(kind.value for kind in ConditionKind)
assert set(_CONDITION_KINDS) == CONDITION_WORDS


@cache
def promise_kinds() -> tuple[type[Promise], ...]:
    """Every kind of promise that stands in a file of kinds/, those with longer opening words first."""
    found: set[type[Promise]] = set()
    for name in (module.name for module in pkgutil.iter_modules(kinds.__path__)):
        module = importlib.import_module(f"{kinds.__name__}.{name}")
        found |= {each for each in vars(module).values() if _is_kind(each)}
    return tuple(sorted(found, key=lambda kind: (-len(kind.words), kind.words)))


def _is_kind(each: object) -> TypeGuard[type[Promise]]:
    return isinstance(each, type) and issubclass(each, Promise) and hasattr(each, "words")


@cache
def _kinds_by_first_word() -> dict[str, tuple[tuple[str, type[Promise]], ...]]:
    found: dict[str, list[tuple[str, type[Promise]]]] = {}
    for kind in promise_kinds():
        for phrase in {kind.words, kind.of_many or kind.words}:
            found.setdefault(phrase.split()[0], []).append((phrase, kind))
    return {word: tuple(sorted(each, key=lambda pair: -len(pair[0].split()))) for word, each in found.items()}


def parse_claim(sentence: str, *, claim_id: str, source: Source | None = None, device: str = DEVICE) -> Claim:
    """The one claim that a sentence makes. `device` is what it is about where the sentence names none.

    Raises: ClaimError with the column of the first word that does not fit, or where it makes several claims.
    """
    words, claims = _read(sentence, claim_id, source, device)
    if len(claims) > 1:
        raise words.refuse("one promise per sentence")
    return claims[0]


def parse_claims(
    sentence: str, *, claim_id: str, source: Source | None = None, device: str = DEVICE
) -> tuple[Claim, ...]:
    """Every claim that a sentence makes, one a promise: ``UP charges host 65 W, passes 80 W`` is two.

    Raises: ClaimError.
    """
    return _read(sentence, claim_id, source, device)[1]


def rename_port(claim: Claim, old: str, new: str) -> Claim:
    """The claim with a port of its own device under another id, in its conditions too. Its words are not searched:
    a seller's "A" may be a port, and an ampere."""
    return replace(
        claim,
        port=new if claim.port == old else claim.port,
        others=tuple(new if port == old else port for port in claim.others),
        conditions=tuple(_rename_in_condition(condition, claim.device, old, new) for condition in claim.conditions),
    )


def _rename_in_condition(condition: Condition, device: str, old: str, new: str) -> Condition:
    if old not in condition.ports:
        return condition
    at_work = parse_claim(condition.words, claim_id="")
    if at_work.device != device:
        return condition
    renamed = rename_port(at_work, old, new)
    return Condition(condition.kind, str(renamed), renamed.ports)


def split_claims(sentence: str, device: str = DEVICE) -> tuple[str, ...]:
    """The canonical sentence of each claim that a sentence makes. Raises: ClaimError."""
    return tuple(str(claim) for claim in parse_claims(sentence, claim_id="", device=device))


def _read(sentence: str, claim_id: str, source: Source | None, device: str) -> tuple[Words, tuple[Claim, ...]]:
    words = Words(sentence)
    try:
        return words, read_words(words, claim_id, source, device)
    except ClaimError:  # once more, noting what could have stood where it failed
        words = Words(sentence, notes=True)
        return words, read_words(words, claim_id, source, device)


def read_words(
    words: Words, claim_id: str = "", source: Source | None = None, device: str = DEVICE
) -> tuple[Claim, ...]:
    """The claims of a sentence that is read word by word. Raises: ClaimError."""
    words.begins_claim = _begins_promise
    device, joined, ports = _subject(words, device)
    promises = [_promise(words)]
    _each(words, ports)
    while words.peek() == "," and len(promises) < MAX_PROMISES:
        words.take(",")
        promises.append(_promise(words))
        _each(words, ports)
    conditions = _conditions(words)
    words.end()
    source = source or _NO_SOURCE
    return tuple(
        [Claim(claim_id, ports[0], promise, source, device, ports[1:], joined, conditions) for promise in promises]
    )


def _subject(words: Words, device: str) -> tuple[str, Joined | None, tuple[str, ...]]:
    expected = "a port such as A1, then what it promises"
    text = words.peek()
    match = _SUBJECT.fullmatch(text)
    marks = [mark for mark in _JOINS if mark in text] if match is None or len(text) > _ONE_PORT else []
    if match is None or len(marks) > 1:
        raise words.refuse("ports joined by + or |, not both" if len(marks) > 1 else expected)
    words.take(expected)
    ports = tuple(match[2].split(marks[0])) if marks else (match[2],)
    if marks and (len(set(ports)) < len(ports) or BODY in ports):
        words.back(words.place - 1)
        raise words.refuse("each port once, and the body on its own")
    return match[1] or device, Joined(marks[0]) if marks else None, ports


def _promise(words: Words) -> Promise:
    kind = _kind(words)
    if kind is None:
        raise words.refuse("what is promised, such as data, gives, takes, shows, links, cards or length")
    return kind.parse(words)


def _kind(words: Words) -> type[Promise] | None:
    for phrase, kind in _kinds_by_first_word().get(words.peek(), ()):
        if words.take_phrase(phrase):
            return kind
    words.look_for(*_opening_words())
    return None


@cache
def _opening_words() -> tuple[str, ...]:
    return tuple(kind.words for kind in promise_kinds())


def _begins_promise(words: Words) -> bool:
    place = words.place
    found = _kind(words) is not None
    words.back(place)
    return found


def _each(words: Words, ports: tuple[str, ...]) -> None:
    """Read the word that may stand behind what a group promises; it changes nothing."""
    if len(ports) > 1:
        words.take_phrase("each")


def _conditions(words: Words) -> tuple[Condition, ...]:
    found: list[Condition] = []
    if words.done:
        return ()
    while (kind := words.take_one_of(_CONDITION_KINDS)) and len(found) < MAX_CONDITIONS:
        found.append(_condition(ConditionKind(kind), words))
    return tuple(sorted(dict.fromkeys(found), key=lambda each: (list(ConditionKind).index(each.kind), each.words)))


def _condition(kind: ConditionKind, words: Words) -> Condition:
    match kind:
        case ConditionKind.WHILE:
            return _while(words)
        case ConditionKind.WITHOUT:
            thing = words.take_one_of(LEFT_OUT)
            if not thing:
                raise words.refuse(f"one of: {', '.join(LEFT_OUT)}", LEFT_OUT)
            return Condition(kind, thing)
        case ConditionKind.ON:
            words.look_for("laptop")
            return Condition(kind, words.take_free_words("a host such as laptop"))
        case ConditionKind.WITH:
            words.look_for("driver", "supply", "supplied lead")
            return Condition(kind, words.take_free_words("what is added, such as driver or supply"))


def _while(words: Words) -> Condition:
    device, joined, ports = _subject(words, DEVICE)
    promise = _promise(words)
    _each(words, ports)
    claim = Claim("", ports[0], promise, device=device, others=ports[1:], joined=joined)
    return Condition(ConditionKind.WHILE, str(claim), ports)
