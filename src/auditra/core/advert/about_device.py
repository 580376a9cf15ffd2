"""What a text promises of the device as a whole: sizes, weight, drivers, cables, what is in the box."""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.advert.mentions import NUMBERS, Mention, What, count_of, hedge
from auditra.core.advert.phrases import Context, Phrase

_IN_ONE = re.compile(
    rf"\b({NUMBERS})[- ]?(?:in|en)[- ]?(?:1|one|uno|un|einem)\b(?!-out)|\b({NUMBERS}) ports(?=:| for your"
    rf"| in (?:one|1)\b)"
    rf"|\b(\d+) ports(?=\.)|(?:(?<=\n)|(?<=\. )|^)ports:\s*({NUMBERS})\b"
    rf"|\b({NUMBERS})-ports?\b(?= (?:(?!and\b)[\w.]+ ){{0,3}}(?:hub|dock))",
    re.IGNORECASE,
)
IN_BOX = re.compile(
    r"(?:in the box|included|(?:box |package )?contents|lieferumfang|contenu(?: de la boîte)?|contenido):"
    r"\s?(.{1,400}?)(?=\.\s|\.?\n|\.?$)",
    re.IGNORECASE,
)
_COMES_WITH = (
    re.compile(
        r"\b([^.,;:\n()]{0,40}\b(?:supply|lead|cable|pouch|bag)\b[^.,;:\n()]{0,24}?)\s?\(?included\)?", re.IGNORECASE
    ),
    re.compile(r"\bincludes?\s(?:an?\s)?((?:[^.,;\n]|[.,](?=\d)){1,60})", re.IGNORECASE),
    re.compile(r"\bsupplied\s([^.,;\n]{0,40}\b(?:cable|lead|supply))", re.IGNORECASE),
)
_AND = re.compile(r"\s*,\s*|\s+and\s+")
_HOSTS = r"(?:laptop|tablet|phone|desktop)"
_WORKS_ON = re.compile(rf"\bon\s+({_HOSTS}(?:(?:\s*,\s*|\s+and\s+){_HOSTS})*)\b(?!s)", re.IGNORECASE)
_LENGTH_ALONE = 18
"""A phrase so short says a length and nothing else."""
_DANGERS = ("over-current", "over-voltage", "short circuit")
_NOT_OF_ITS_OWN = re.compile(
    r"included?s?\b|supplied|in the box|network cable|3[.,]5 ?mm|radius|diameter|adjustable|height|thickness|mm thick"
)
Said = tuple[str, int, int]
"""A sentence with the place of the words that it came from."""


def whole(text: str) -> Iterator[Said]:
    """What stands over several phrases: the number on the box, what is in it, the hosts."""
    for match in _IN_ONE.finditer(text):
        yield f"body ports {count_of(next(group for group in match.groups() if group))}", *match.span()
    boxes = [match.span() for match in IN_BOX.finditer(text)]
    for match in IN_BOX.finditer(text):
        for thing in re.split(r",(?!\d)", match[1]):
            yield f"body comes with {thing.strip()}", *match.span()
    for pattern in _COMES_WITH:
        for match in pattern.finditer(text):
            if not any(start <= match.start() < end for start, end in boxes):
                yield f"body comes with {match[1].strip()}", *match.span()
    for match in _WORKS_ON.finditer(text):
        yield f"body works on {', '.join(_AND.split(match[1]))}", *match.span()


def body(context: Context, phrase: Phrase) -> Iterator[str]:
    """Sizes and weight, warmth, drivers, switching, what is guarded against, the price."""
    yield from _sizes(context, phrase)
    yield from (f"body weighs {each.value}" for each in phrase.figures(What.MASS))
    yield from (f"body below {each.value} C" for each in phrase.figures(What.CELSIUS) if phrase.has("below"))
    for word, sentence in (
        ("without driver", "without driver"), ("aluminium", "made of aluminium"), ("lock slot", "has lock slot"),
        ("two hosts", "switches 2 hosts"), *((each, f"guards against {each}") for each in _DANGERS),
    ):  # fmt: skip
        if phrase.has(word):
            yield f"body {sentence}"
    yield from (f"body switches in {each.value} s" for each in phrase.figures(What.SECONDS) if phrase.has("switch"))
    yield from (f"body costs {each.value}" for each in phrase.figures(What.PRICE))


def _sizes(context: Context, phrase: Phrase) -> Iterator[str]:
    yield from (f"body size {each.value}" for each in phrase.figures(What.SIZE))
    lengths = phrase.figures(What.LENGTH)
    if not lengths or phrase.figures(What.SIZE) or _NOT_OF_ITS_OWN.search(phrase.words):
        return
    first = _metric(lengths)[0]
    if phrase.has("slot"):
        yield f"body slot width {first.value}"
    elif context.is_extension and first.hedged:
        yield f"body reaches up to {first.value}"
    elif context.is_extension:
        yield f"body length {first.value}"
        if context.over_full_length:
            yield f"body reaches {first.value}"
    elif phrase.has("lead") or (context.is_adapter and not phrase.sockets and len(phrase.words) < _LENGTH_ALONE):
        yield f"UP length {first.value}"


def _metric(lengths: list[Mention]) -> list[Mention]:
    """Those in metres where there are any: ``3.3 ft (1 m)`` is one length."""
    return [each for each in lengths if not each.value.endswith(("ft", "in"))] or lengths


def cable(context: Context, phrase: Phrase) -> Iterator[str]:
    """A cable as the thing itself: what it carries, how long it is, what its marker says."""
    if phrase.has("marked"):
        both = re.search(r"(\d+)\s*v\s*/\s*(\d+)\s*a", phrase.words)
        amperes = phrase.figures(What.AMPERES)
        figures = f" {both[1]} V {both[2]} A" if both else f" {amperes[0].value} A" if amperes else ""
        yield f"body is marked{figures}"
        return
    drop = re.search(r"(\d+)\s*mv\s*at\s*(\d+)\s*a", phrase.words)
    if drop is not None:
        yield f"body drops at most {drop[1]} mV at {drop[2]} A"
        return
    yield from (f"body carries {hedge(m)}{m.value} W" for m in phrase.figures(What.WATTS, What.VOLTS_AMPERES)[:1])
    yield from (f"body carries {hedge(m)}{m.value}" for m in phrase.figures(What.RATE))
    yield from (f"body carries picture {hedge(m)}{m.value}" for m in phrase.figures(What.MODE))
    yield from (f"body carries {hedge(m)}{m.value} A" for m in phrase.figures(What.AMPERES))
    own = [each for each in phrase.figures(What.LENGTH) if not (each.hedged and phrase.figures(What.RATE))]
    yield from (f"body length {m.value}" for m in _metric(own)[:1] if not _NOT_OF_ITS_OWN.search(phrase.words))
    if phrase.has("no data") or "charge only" in phrase.words:
        yield "body no data"
