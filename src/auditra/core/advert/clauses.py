"""A text cut into clauses: rows of tables, lines of key and value, sentences, with the words that stand over them."""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.advert.clause import Clause
from auditra.core.advert.tables import cells_of_table, rows_of_table

MAX_CLAUSES = 2000
MAX_CLAUSE_LENGTH = 800
_KEY = re.compile(
    r"[ \t]*(?:[-*+>o]\s+|\d{1,2}[.)]\s+)?"
    r"((?:\d{1,2} ?x ?)?[A-Za-z][^:=;\n\t|]{0,38}?|\d+(?:\.\d+)? ?c?m\b[^:=\n\t|;,]{0,30}?)\s*(?::(?!\d)|=(?!=)"
    r"|\s\.{3,}\s?|[ \t]\|[ \t](?=[^|\n]*(?:\n|$)))\s*(?=\S)"
)
_WIDE_KEY = re.compile(r"[ \t]*([A-Za-z][A-Za-z /()+&.-]{0,30}?) {3,}(?=\S)(?![^\n]* {3,})")
"""``Power in     19.5 V``: two columns."""
_QUESTION = re.compile(r"[ \t]*([A-Z][^?:.\n]{4,60})\?\s+(?=\S)")
_SHORTENED = "|".join(
    rf"(?<=\b{word})" for word in ("[Mm]ax", "MAX", "[Tt]yp", "[Mm]in", "[Aa]pprox", "[Ii]ncl", "ca", "resp")
)
_SENTENCE = re.compile(
    r"[^.!?;\n]+(?:\.(?=\d|\w\.|[a-z])[^.!?;\n]*|\.(?! [A-Z]|\s|$)[^.!?;\n]*"
    rf"|(?:{_SHORTENED})\.(?! [A-Z][a-z])[^.!?;\n]*)*"
    r"[.!?;]?|\n"
)
_SPOKEN_HEADING = re.compile(r"\s*[A-Z]{4,}(?: [A-Z]{2,}){0,3}\.")
"""A sentence of capitals over those behind it: ``PROTECTION.``"""
_ASKED = re.compile(r"[ \t]*[A-Z][^?.:\n]{4,60}\?\s*")
_ASKS, _ASKS_OR_ANSWERS = re.compile(r"(?m)^[ \t]*Q[:.][ \t]"), re.compile(r"[ \t]*[QA][:.][ \t]+")
_ANSWERED = re.compile(r"(?<=[?.]) (?=A[:.] )")
"""Between a question and its answer on one line."""
_BULLET = re.compile(r"[ \t]*(?:[-*+>#]|\d{1,2}[.)])[ \t]+")
_NOTE_MARK = re.compile(r"[ \t]*(\*{1,3}|[†‡]|\[\d\]|\(\d\))[ \t]*(?=(?:only |at )?\d)")
_NOTE_LINE = re.compile(r"[ \t]*(\*{1,3}|[†‡]|\[\d\]|\(\d\)|\([a-f]\))[ \t]*")
_NOTE_GOES_ON = re.compile(r"\s*(?:[Ff]rom|[Ww]ith|[Oo]n|[Aa]t) [^.;]*\d ?W\b")
"""``(2) With the 150 W supply. With the 100 W supply 65 W.``"""
_ITEM_WORDS = re.compile(r"\W*([A-Za-z][A-Za-z -]{2,30}?) (?=\d)")
"""Before the first figure of an item: ``Laptop power 130 W [1]``."""
_KEYED_CELL = re.compile(r"\s*[A-Za-z][\w +&/-]{0,20}: ?\S[^|]*")
"""``C1: 67 W | C2: 30 W``: cells with a key of their own are no table."""
_HAS_FIGURE = re.compile(r"[A-Za-z] ?\d+(?:[.,]\d+)? ?(?:mm|cm|m|k?g|W)\b")
"""``Cable 0.6 m | Weight 690 g``: two items."""
_IN_BRACKETS = re.compile(r"\s*\([^()\n]*[.!?]\)(?=\s+[A-Z])")
"""A sentence of its own: ``(The 3 m version is another.) Weight: 38 g``."""
_SLASHES = re.compile(r"\s//\s")
_MAX_HEADING = 44


def clauses(text: str) -> list[Clause]:
    """In order of place."""
    found: list[Clause] = []
    asks = _ASKS.search(text) is not None
    text = _ANSWERED.sub("\n", text) if asks else text
    lines = [_answer(text, start, end) if asks else (start, end) for start, end in _lines(text)]
    heading, at = "", 0
    while at < len(lines) and len(found) < MAX_CLAUSES:
        rows = rows_of_table(text, lines, at)
        if rows:
            found += cells_of_table(text, lines[at : at + rows])
            at += rows
            continue
        start, end = lines[at]
        at += 1
        line = text[start:end]
        if not line.strip():
            heading = "" if not line.strip() and _blank_run(text, lines, at) else heading
            continue
        if _is_heading(line) or _ASKED.fullmatch(line):
            heading = line.strip(" -*#:=\t")
            found.append(Clause(start, end, heading=heading))
            continue
        found += _of_line(text, start, end, heading)
    return found


def _answer(text: str, start: int, end: int) -> tuple[int, int]:
    """Without the ``Q:`` and ``A:`` of questions and answers, of which one could be a socket."""
    mark = _ASKS_OR_ANSWERS.match(text, start, end)
    return (mark.end() if mark else start), end


def _lines(text: str) -> Iterator[tuple[int, int]]:
    start = 0
    for line in text.split("\n"):
        for part_start, part_end in _parts(line):
            yield start + part_start, start + part_end
        start += len(line) + 1


def _parts(line: str) -> Iterator[tuple[int, int]]:
    is_two_items = line.count("|") == 1 and all(map(_HAS_FIGURE.search, line.split("|")))
    if is_two_items or (line.count("|") > 0 and all(map(_KEYED_CELL.fullmatch, line.strip(" |").split("|")))):
        yield from ((match.start(), match.end()) for match in re.finditer(r"[^|]+", line))
        return
    last = 0
    for match in _SLASHES.finditer(line):
        yield last, match.start()
        last = match.end()
    yield last, len(line)


def _blank_run(text: str, lines: list[tuple[int, int]], at: int) -> bool:
    return at < len(lines) and not text[slice(*lines[at])].strip()


def _is_heading(line: str) -> bool:
    words = line.strip()
    return (
        0 < len(words.strip(" -*#")) <= _MAX_HEADING
        and not re.search(r"\d", words)
        and not words.rstrip(" -").endswith((".", ",", ";", "!", "?"))
        and (words.endswith((":", "-")) or len(words.split()) <= 3)
        and not re.search(r"\b(?:no|not|without|HDR|VRR|needs?|in|out)\b", words)
        and not re.search(r":\s*\S", words)
    )


def _of_line(text: str, start: int, end: int, heading: str) -> Iterator[Clause]:
    bullet = _BULLET.match(text, start, end)
    begin = bullet.end() if bullet else start
    key = _QUESTION.match(text, begin, end) or _KEY.match(text, begin, end) or _WIDE_KEY.match(text, begin, end)
    over = ""
    if (
        key is not None
        and not re.search(r"(?<!max)(?<!min)[.!?]\s", key[1].lower())
        and len(key[1].split()) <= (9 if "?" in key[0] else 6)
    ):
        over, begin = key[1], key.end()
    elif key is None and (mark := _NOTE_MARK.match(text, start, end)):
        over = _noted(text, mark[1], start)
    first, last_name, key_at, asked = True, "", begin, ""
    of_note = _NOTE_LINE.match(text, start, end)
    noted = _noted(text, of_note[1], start) if of_note else ""
    for start_at, end_at in _sentences(text, begin, end):
        if not text[start_at:end_at].strip():
            continue
        if _SPOKEN_HEADING.fullmatch(text[start_at:end_at]):
            heading = text[start_at:end_at].strip(" .:")
            yield Clause(start_at, end_at, heading=heading)
            continue
        if end_at - start_at > MAX_CLAUSE_LENGTH:
            yield from _pieces(text, start_at, end_at, heading)
            continue
        at, name, inherits = start_at, over, False
        if not first:
            own = _KEY.match(text, at, end_at)
            at, name = (
                (own.end(), own[1])
                if own is not None and len(own[1].split()) <= (8 if own[1][0].isdigit() else 4)
                else (at, "")
            )
            name = name or (noted if _NOTE_GOES_ON.match(text, at, end_at) else "")
            inherits = not name and text[start_at - 1 : start_at] == ";"
            name = name or (last_name if inherits else "") or asked
        last_name, key_at = name, key_at if inherits else at
        asked = text[start_at:end_at].strip(" ?") if _ASKED.fullmatch(text, start_at, end_at) else ""
        yield Clause(at, end_at, name, "", heading, key_at=key_at if name else -1, begins_line=first)
        first = False


def _noted(text: str, mark: str, start: int) -> str:
    """The key of the line that a footnote is to: its figure is of the same."""
    for line in re.finditer(rf"(?m)^[^\n]*[^\s*] ?{re.escape(mark)}(?=[\s.,;)]|$)", text[:start]):
        key = _KEY.match(line[0]) or _ITEM_WORDS.match(line[0])
        if key is not None:
            return key[1]
    return ""


def _sentences(text: str, begin: int, end: int) -> Iterator[tuple[int, int]]:
    """Where sentences are; what stands in brackets is not parted."""
    start, open_ones = begin, 0
    for match in _SENTENCE.finditer(text, begin, end):
        start = start if open_ones > 0 else match.start()
        if open_ones == 0 and (aside := _IN_BRACKETS.match(text, start, match.end())):
            yield start, aside.end()
            start = aside.end()
        open_ones = max(0, open_ones + match[0].count("(") - match[0].count(")"))
        if open_ones and match.end() - start < MAX_CLAUSE_LENGTH and match.end() < end:
            continue
        open_ones = 0
        yield start, match.end()


def _pieces(text: str, start: int, end: int, heading: str) -> Iterator[Clause]:
    """A sentence that is longer than any is cut at its commas, or anywhere."""
    while start < end:
        stop = min(end, start + MAX_CLAUSE_LENGTH)
        comma = text.rfind(", ", start + MAX_CLAUSE_LENGTH // 2, stop) if stop < end else -1
        stop = comma + 1 if comma > 0 else stop
        yield Clause(start, stop, heading=heading)
        start = stop
