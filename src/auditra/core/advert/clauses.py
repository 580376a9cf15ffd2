"""A text cut into clauses: rows of tables, lines of key and value, sentences, with the words that stand over them."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.advert.lengths import LENGTHS_KEY, devices_of
from auditra.core.advert.sockets import sockets

MAX_CLAUSES = 2000
MAX_CLAUSE_LENGTH = 800
_KEY = re.compile(
    r"[ \t]*(?:[-*+>o]\s+|\d{1,2}[.)]\s+)?"
    r"((?:\d{1,2} ?x ?)?[A-Za-z][^:=\n\t|]{0,38}?|\d+(?:\.\d+)? ?c?m\b[^:=\n\t|;,]{0,30}?)\s*(?::(?!\d)|=(?!=)"
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
_RULE = re.compile(r"[\s|:=+-]*")
_KEYED_CELL = re.compile(r"\s*[A-Za-z][\w +&/-]{0,20}: ?\S[^|]*")
"""``C1: 67 W | C2: 30 W``: cells with a key of their own are no table."""
_HAS_FIGURE = re.compile(r"[A-Za-z] ?\d+(?:[.,]\d+)? ?(?:mm|cm|m|k?g|W)\b")
"""``Cable 0.6 m | Weight 690 g``: two items."""
_SLASHES = re.compile(r"\s//\s")
_MAX_HEADING = 44


@dataclass(frozen=True)
class Clause:
    """A stretch of the text. `over` are the words that it stands under: a key, the heads of its row and column."""

    start: int
    end: int
    over: str = ""
    column: str = ""
    heading: str = ""
    model: str = ""
    """The device that a column of a table is of."""
    row: str = ""
    """Which row of a table it is in, where that is a number."""
    begins_line: bool = True
    beside: tuple[tuple[str, str], ...] = ()
    """Of a table with a row for each set of sockets that are used together: every socket with its cell."""


def clauses(text: str) -> list[Clause]:
    """In order of place."""
    found: list[Clause] = []
    asks = _ASKS.search(text) is not None
    text = _ANSWERED.sub("\n", text) if asks else text
    lines = [_answer(text, start, end) if asks else (start, end) for start, end in _lines(text)]
    heading, at = "", 0
    while at < len(lines) and len(found) < MAX_CLAUSES:
        rows = _table(text, lines, at)
        if rows:
            found += _cells(text, lines[at : at + rows])
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
    first, last_name = True, ""
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
        at, name = start_at, over
        if not first:
            own = _KEY.match(text, at, end_at)
            at, name = (
                (own.end(), own[1])
                if own is not None and len(own[1].split()) <= (8 if own[1][0].isdigit() else 4)
                else (at, "")
            )
            name = name or (last_name if text[start_at - 1 : start_at] == ";" else "")
        last_name = name
        yield Clause(at, end_at, name, "", heading, begins_line=first)
        first = False


def _noted(text: str, mark: str, start: int) -> str:
    """The key of the line that a footnote is to: its figure is of the same."""
    for line in re.finditer(rf"(?m)^[^\n]*[^\s*] ?{re.escape(mark)}(?=[\s.,;)]|$)", text[:start]):
        key = _KEY.match(line[0])
        if key is not None:
            return key[1]
    return ""


def _sentences(text: str, begin: int, end: int) -> Iterator[tuple[int, int]]:
    """Where sentences are; what stands in brackets is not parted."""
    start, open_ones = begin, 0
    for match in _SENTENCE.finditer(text, begin, end):
        start = start if open_ones > 0 else match.start()
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


def _table(text: str, lines: list[tuple[int, int]], at: int) -> int:
    """How many lines from one on are rows of one table; 0 for none."""
    first = _split(text, *lines[at])
    if len(first) < 2:
        return 0
    count = 1
    while at + count < len(lines):
        start, end = lines[at + count]
        if _RULE.fullmatch(text[start:end]) and text[start:end].strip():
            count += 1
            continue
        if abs(len(_split(text, start, end)) - len(first)) > (1 if len(first) > 3 else 0):
            break
        count += 1
    return count if count > 1 else 0


def _split(text: str, start: int, end: int) -> list[tuple[int, int]]:
    """The cells of a line: by bars, tabs, wide gaps, or commas without a space behind them."""
    line = text[start:end]
    if line.count("|") >= 2:
        inner = [(match.start(), match.end()) for match in re.finditer(r"[^|]+", line)]
        return [(start + a, start + b) for a, b in inner if line[a:b].strip() or a]
    if "\t" in line:
        ends = [match.start() for match in re.finditer("\t", line)]
        starts = [0, *(at + 1 for at in ends)]
        return [(start + a, start + b) for a, b in zip(starts, [*ends, len(line)], strict=True)]
    if line.count(",") >= 2 and not re.search(r",\s", line) and len(line) < 160:
        cells, last = [], 0
        for match in re.finditer(r",", line):
            cells.append((start + last, start + match.start()))
            last = match.end()
        return [*cells, (start + last, end)]
    parts = [(m.start(), m.end()) for m in re.finditer(r"\S+(?:\s\S+)*", line)]
    if len(parts) > 1 and re.match(r"[ \t]{3}", line):
        parts.insert(0, (0, 0))  # the corner of a table, over its names and beside its heads
    return [(start + a, start + b) for a, b in parts] if len(parts) >= 3 and not line.rstrip().endswith(".") else []


_COUNT_HEAD = re.compile(
    r"\s*(?:number|count|how many|qty\.?|quantity|pcs\.?|pieces|amount|no\. of (?:ports|sockets)|x|ports|sockets"
    r"|anzahl)\s*",
    re.IGNORECASE,
)
_HOST_HEAD = re.compile(
    r"\b(?:hosts?|computers?|laptops?|tablets?|phones?|supply|charger|windows|macos|linux|android|ipados)\b",
    re.IGNORECASE,
)
"""Heads of columns that are conditions, and no models."""
_HEAD_OF_NAMES = re.compile(
    r"\s*(?:lengths?|versions?|specifications?|specs?|features?|models?|item|property|version)\s*", re.IGNORECASE
)
_HEAD_OF_VALUES = re.compile(
    r"(?i)\b(?:values?|number|count|rates?|speed|power|data|video|outputs?|inputs?|displays?|current|alone"
    r"|use|both|notes?|type|"
    r"function|front|rear|back|left|right|top|side|what|does|sockets?|ports?|watts?|length|details?|windows|macos|linux|android|read|write|up"
    r"|down|min|max|price)\b"
)
"""Heads of columns that are of values, and no models."""
_COUNT_CELL = re.compile(r"\s*x?\s*(\d{1,2})\s*x?\s*", re.IGNORECASE)


def _without_counts(
    text: str, rows: list[list[tuple[int, int]]], head: list[tuple[int, int]]
) -> tuple[list[list[tuple[int, int]]], dict[int, str]]:
    """The rows without the column that counts what each is of; and the counts by the place where a row begins."""
    body = rows[1:] if head else rows
    column = next((n for n, cell in enumerate(head) if n and _COUNT_HEAD.fullmatch(text[slice(*cell)])), 0)
    if not head and all(len(row) > 2 and _COUNT_CELL.fullmatch(text[slice(*row[1])]) for row in body):
        column = 1
    cells = [_COUNT_CELL.fullmatch(text[slice(*row[column])]) if len(row) > column else None for row in body]
    if not column or sum(cell is not None for cell in cells) < len(cells) - 1:
        return rows, {}
    counts = {row[0][0]: f"{cell[1]} x " for row, cell in zip(body, cells, strict=True) if cell is not None}
    kept = [[cell for n, cell in enumerate(row) if n != column] for row in rows]
    return kept, counts


def _cells(text: str, lines: list[tuple[int, int]]) -> Iterator[Clause]:
    rows = [_split(text, *line) for line in lines if not _RULE.fullmatch(text[slice(*line)])]
    corner = not text[slice(*rows[0][0])].strip()
    named = corner or _HEAD_OF_NAMES.fullmatch(text[slice(*rows[0][0])]) is not None
    has_head = len(rows[0]) >= 3 and (
        named
        or not any(re.search(r"\d\s?(?:W|G|M|A\b|V\b|Hz|cm|m\b)|^\s*x?\d{1,2}x?\s*$", text[a:b]) for a, b in rows[0])
    )
    head = rows[0] if has_head else []
    rows, counts = _without_counts(text, rows, head)
    head = rows[0] if has_head else []
    of_hosts = any(_HOST_HEAD.search(text[a:b]) for a, b in rows[0])
    plain_heads = not any(_HEAD_OF_VALUES.search(text[a:b]) for a, b in rows[0][1:])
    of_sockets = all(sockets(text[a:b]) for a, b in rows[0][1:])
    by_model = has_head and not of_sockets and named and len(rows[0]) > 2 and not of_hosts and plain_heads
    models = _models_of_rows(text, rows) if not has_head else {}
    rows_are_numbered = any(re.fullmatch(r"\s*#?\d{1,2}\s*", text[slice(*row[0])]) for row in rows)
    if has_head and _is_of_sets(text, rows):
        yield from _sets(text, rows)
        return
    for row in rows[1:] if has_head else rows:
        name = counts.get(row[0][0], "") + _named_behind_number(text[slice(*row[0])].strip())
        if row[0] in models:
            yield from (Clause(start, end, model=models[row[0]]) for start, end in row[1:])
            continue
        if not has_head:
            first = row[0] if not re.search(r"[A-Za-z]", name) else None
            for cell in row[1:]:
                yield Clause(
                    cell[0], cell[1], name if first is None else "", row="model" if re.search(r"\d", name) else ""
                )
            continue
        number_of_row = ""
        if len(row) > 1 and (re.fullmatch(r"#?\d{1,2}", name) or (rows_are_numbered and len(name) <= 6)):
            number_of_row, name = (
                name,
                text[slice(*row[1])].strip()
                if name.lstrip("#").isdigit()
                else f"{name} {text[slice(*row[1])].strip()}",
            )
        for number, cell in enumerate(row[1:], 1):
            column = text[slice(*head[number])].strip() if number < len(head) else ""
            if by_model:
                yield Clause(cell[0], cell[1], name, model=_model_of(column))
                continue
            yield Clause(cell[0], cell[1], name, column, row=number_of_row)


def _model_of(head: str) -> str:
    """The id of a column's device; of one that is named by a length, as `lengths` makes it."""
    words = re.sub(r"[^a-z0-9]", "", head.lower())
    return devices_of(head) if words[:1].isdigit() and LENGTHS_KEY.fullmatch(head) else words


_NUMBER_AND_NAME = re.compile(r"(\d(?:(?:, ?| and |-| to )\d)*) \(([^()]+)\)")
_CLASS_OF_PORT = re.compile(r"(?i)(?:\w+ )?(?:USB|HDMI|DisplayPort|RJ|SD|VGA|TB|Thunderbolt)\b.*|[AC]")


def _named_behind_number(name: str) -> str:
    """``3, 4 (rear, USB-A)`` as ``ports 3, 4 (USB-A, rear)``, ``5 (rear, host)`` as ``host port``."""
    match = _NUMBER_AND_NAME.fullmatch(name)
    if match is None:
        return name
    words = sorted(match[2].split(", "), key=lambda word: _CLASS_OF_PORT.fullmatch(word) is None)
    if any(re.fullmatch(r"(?i)(?:to )?(?:host|upstream|computer)", word) for word in words):
        return "host port"
    return f"ports {match[1]} ({', '.join(words)})" if _CLASS_OF_PORT.fullmatch(words[0]) else name


_MODEL_OF_ROW = re.compile(r"\s*([A-Z][A-Za-z]{0,11})[ -]?\d{1,4}[A-Za-z]?\s*")


def _models_of_rows(text: str, rows: list[list[tuple[int, int]]]) -> dict[tuple[int, int], str]:
    """Of a table with a device of one family in each row, the name of each by its place."""
    found = {row[0]: _MODEL_OF_ROW.fullmatch(text[slice(*row[0])]) for row in rows}
    families = {match[1] for match in found.values() if match is not None}
    if len(rows) < _LEAST_HEADS or len(families) != 1 or not all(found.values()) or sockets(text[slice(*rows[0][0])]):
        return {}
    return {place: re.sub(r"[^a-z0-9]", "", text[slice(*place)].lower()) for place in found}


_SOCKET_HEAD = r"(?:USB-?)?[AC] ?\d?|USB-?[AC] ?\(?\d?\)?"
_ONE_SOCKET = re.compile(rf"\s*(?:{_SOCKET_HEAD})\s*")
_SET = re.compile(
    rf"(?i)\s*(?:(?:only )?(?:{_SOCKET_HEAD})(?: only| alone)?(?:\s*(?:\+|&|,|and|/)\s*(?:{_SOCKET_HEAD}))*"
    r"|all(?: \w+){0,3})\s*"
)
_LEAST_HEADS = 2


def _is_of_sets(text: str, rows: list[list[tuple[int, int]]]) -> bool:
    """Whether a table has a socket over each column and beside each row those that are in use."""
    heads = rows[0][1:]
    names = [text[slice(*row[0])] for row in rows[1:]]
    several = sum(re.search(r"[+&,]|\band\b|\ball\b", name) is not None for name in names)
    return (
        len(heads) >= _LEAST_HEADS
        and all(_ONE_SOCKET.fullmatch(text[slice(*cell)]) for cell in heads)
        and several > 0
        and all(map(_SET.fullmatch, names))
    )


def _sets(text: str, rows: list[list[tuple[int, int]]]) -> Iterator[Clause]:
    heads = [text[slice(*cell)].strip() for cell in rows[0]]
    for row in rows[1:]:
        cells = tuple((heads[n], text[slice(*cell)]) for n, cell in enumerate(row) if 0 < n < len(heads))
        if len(row) > 1:
            yield Clause(row[0][0], row[-1][1], beside=cells)
