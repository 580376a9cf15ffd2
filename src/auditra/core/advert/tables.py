"""Rows and columns of tables: each cell as a clause under the heads of its row and column."""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.advert.clause import Clause
from auditra.core.advert.lengths import LENGTHS_KEY, devices_of
from auditra.core.advert.sockets import sockets

Row = list[tuple[int, int]]
"""Where the cells of a row begin and end."""
_RULE = re.compile(r"[\s|:=+-]*")


def rows_of_table(text: str, lines: list[tuple[int, int]], at: int) -> int:
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
    mark = next((each for each in ",;" if line.count(each) >= 2 and not re.search(rf"{each}\s", line)), "")
    if mark and len(line) < 160:
        cells, last = [], 0
        for match in re.finditer(mark, line):
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
    r"\b(?:PCs?|hosts?|computers?|laptops?|tablets?|phones?|supply|charger|windows|macos|linux|android|ipados)\b",
    re.IGNORECASE,
)
"""Heads of columns that are conditions, and no models."""
_HOSTS_OF_ROWS = re.compile(r"(?i)\s*(?:hosts?|computers?|laptops?)(?:'s)?(?: sockets?| ports?| links?)?\s*")
_OF_THE_HOST = re.compile(r"(?i)\s*(?:(?:to|for) (?:the |your )?)?(?:hosts?|computer|laptop|upstream)\s*")
"""A cell that says where a socket leads."""
_NO_HOST_NAME = re.compile(r"(?i)USB ?[234][\d.]*(?: Gen ?\d(?: ?x ?\d)?)?$|\d[\d.]* ?[GM]b(?:/s|ps)$")
"""What stands for a host beside what the device does there."""
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
_INLET_ROW = re.compile(r"(?i)(?:in|inlet|input|power|power in|charge|charging|PD|DC)")
"""In a column of numbers: what takes the supply."""
_NUMBER_LENGTH = 6
"""Characters that the number of a row may have, with what stands for one."""
_COUNT_CELL = re.compile(r"\s*x?\s*(\d{1,2})\s*x?\s*", re.IGNORECASE)


def _without_counts(text: str, rows: list[Row], head: Row) -> tuple[list[Row], dict[int, str]]:
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


def cells_of_table(text: str, lines: list[tuple[int, int]]) -> Iterator[Clause]:
    rows = [_split(text, *line) for line in lines if not _RULE.fullmatch(text[slice(*line)])]
    corner = not text[slice(*rows[0][0])].strip()
    named = corner or _HEAD_OF_NAMES.fullmatch(text[slice(*rows[0][0])]) is not None
    has_head = len(rows[0]) >= 3 and (
        named
        or not any(re.search(r"\d\s?(?:W|G|M|A\b|V\b|Hz|cm|m\b)|^\s*x?\d{1,2}x?\s*$", text[a:b]) for a, b in rows[0])
    )
    has_head = has_head or (len(rows[0]) == 2 and _HOSTS_OF_ROWS.fullmatch(text[slice(*rows[0][0])]) is not None)
    head = rows[0] if has_head else []
    rows, counts = _without_counts(text, rows, head)
    head = rows[0] if has_head else []
    if has_head and _is_same_in_all(text, rows):
        rows, head = [row[1:] for row in rows], head[1:]
    of_hosts = any(_HOST_HEAD.search(text[a:b]) for a, b in rows[0])
    plain_heads = not any(_HEAD_OF_VALUES.search(text[a:b]) for a, b in rows[0][1:])
    of_sockets = all(sockets(text[a:b]) for a, b in rows[0][1:])
    by_model = has_head and not of_sockets and named and len(rows[0]) > 2 and not of_hosts and plain_heads
    rows_are_numbered = any(re.fullmatch(r"\s*#?\d{1,2}\s*", text[slice(*row[0])]) for row in rows)
    if has_head and _is_of_sets(text, rows):
        yield from _sets(text, rows)
        return
    together = _all_in_use(text, rows) if has_head else 0
    if together:
        cells = ((text[slice(*row[0])].strip(), text[slice(*row[together])]) for row in rows[1:])
        yield Clause(rows[1][0][0], rows[-1][-1][1], beside=tuple(cells))
        rows = [[cell for n, cell in enumerate(row) if n != together] for row in rows]
        head = rows[0]
    if not has_head:
        yield from _without_heads(text, rows, counts)
        return
    by_host = bool(head) and _HOSTS_OF_ROWS.fullmatch(text[slice(*head[0])]) is not None
    for row in rows[1:]:
        name = counts.get(row[0][0], "") + _named_behind_number(text[slice(*row[0])].strip())
        if any(_OF_THE_HOST.fullmatch(text[slice(*cell)]) for cell in row[1:]):
            name = f"{re.sub(r' ?[0-9]+$', '', name)} (host)"
        name = f"on {name} hosts" if by_host and _NO_HOST_NAME.match(name) else name
        number_of_row = ""
        if len(row) > 1 and (re.fullmatch(r"#?\d{1,2}", name) or (rows_are_numbered and len(name) <= _NUMBER_LENGTH)):
            number_of_row = "in" if _INLET_ROW.fullmatch(name) else name
            name = text[slice(*row[1])].strip()
            name = name if number_of_row.lstrip("#").isdigit() else f"{number_of_row} {name}"
        for number, cell in enumerate(row[1:], 1):
            column = text[slice(*head[number])].strip() if number < len(head) else ""
            if by_model:
                yield Clause(cell[0], cell[1], name, model=_model_of(column))
                continue
            yield Clause(cell[0], cell[1], name, column, row=number_of_row, row_start=row[0][0])


def _without_heads(text: str, rows: list[Row], counts: dict[int, str]) -> Iterator[Clause]:
    """Rows that each begin with a model, a number or a name, and have no heads over them."""
    models = _models_of_rows(text, rows)
    for row in rows:
        name = counts.get(row[0][0], "") + _named_behind_number(text[slice(*row[0])].strip())
        if row[0] in models:
            yield from (Clause(start, end, model=models[row[0]]) for start, end in row[1:])
        elif re.fullmatch(r"#?\d{1,2}[.)]?", name) and len(row) > 2 and sockets(text[slice(*row[1])]):
            over, number = text[slice(*row[1])].strip(), name.strip("#.)")
            yield from (Clause(*cell, over, row=number, row_start=row[0][0]) for cell in row[2:])
        elif len(row) > 2 and (socket := _SOCKET_CELL.fullmatch(text[slice(*row[1])].strip())) is not None:
            over = f"{socket[1] or ''}USB-{socket[2]}" if socket[2] else socket[0]
            yield from (Clause(*cell, over, row_start=row[0][0]) for cell in row[2:])
        else:
            over, of_model = name if re.search(r"[A-Za-z]", name) else "", "model" if re.search(r"\d", name) else ""
            yield from (Clause(*cell, over, row=of_model, row_start=row[0][0]) for cell in row[1:])


def _is_same_in_all(text: str, rows: list[Row]) -> bool:
    """A first column that says the same in every row, beside one with a socket in each."""
    body = [row for row in rows[1:] if len(row) > 2]
    first = {text[slice(*row[0])].strip().lower() for row in body}
    return len(body) > 1 and len(first) == 1 and all(sockets(text[slice(*row[1])].strip()) for row in body)


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


_SOCKET_CELL = re.compile(r"(\d{1,2} ?x )?(?:(?:USB-)?([AC])|HDMI|DisplayPort|DP|VGA|RJ-?45|SD|microSD)")
"""``USB | 3 x A | 10 Gbit/s``: the socket in the second column, behind what it is for."""
_MODEL_OF_ROW = re.compile(r"\s*([A-Z][A-Za-z]{0,11})[ -]?\d{1,4}[A-Za-z]?\s*")


def _models_of_rows(text: str, rows: list[Row]) -> dict[tuple[int, int], str]:
    """Of a table with a device of one family in each row, the name of each by its place."""
    found = {row[0]: _MODEL_OF_ROW.fullmatch(text[slice(*row[0])]) for row in rows}
    families = {match[1] for match in found.values() if match is not None}
    if len(rows) < _LEAST_HEADS or len(families) != 1 or not all(found.values()) or sockets(text[slice(*rows[0][0])]):
        return {}
    return {place: re.sub(r"[^a-z0-9]", "", text[slice(*place)].lower()) for place in found}


_ALONE_HEAD = re.compile(r"(?i)\b(?:alone|singly|single|only|by itself|on its own)\b")
_TOGETHER_HEAD = re.compile(
    r"(?i)\W*(?:with (?:all|both|the others?|the other (?:two|three|\d))|all(?: (?:in use|together|at once|busy"
    r"|used|taken"
    r"|\d|two|three|four))*|everything(?: in use)?|together|(?:all|both) .{0,8}in use|shared)\W*"
)
"""Over what each socket gives while all are in use."""
_WATTS_CELL = re.compile(r"\W*\d+(?:[.,]\d+)? ?W\b[^|]{0,8}")


def _all_in_use(text: str, rows: list[Row]) -> int:
    """The column of what three or more sockets give together, beside one of what each gives alone; 0 for none."""
    heads = [text[slice(*cell)] for cell in rows[0]]
    column = next((n for n, head in enumerate(heads) if n and _TOGETHER_HEAD.fullmatch(head)), 0)
    body = rows[1:]
    is_full = column and all(len(row) > column for row in body)
    if not is_full or len(body) <= _LEAST_HEADS or not any(map(_ALONE_HEAD.search, heads)):
        return 0
    told = all(_WATTS_CELL.fullmatch(text[slice(*row[column])]) for row in body)
    named = all(len(sockets(f"{text[slice(*row[0])].strip()} ")) == 1 for row in body)
    return column if told and named else 0


_SOCKET_HEAD = r"(?:USB-?)?[AC] ?\d?|USB-?[AC] ?\(?\d?\)?"
_ONE_SOCKET = re.compile(rf"\s*(?:{_SOCKET_HEAD})\s*")
_SET = re.compile(
    rf"(?i)\s*(?:(?:only )?(?:{_SOCKET_HEAD})(?: only| alone)?(?:\s*(?:\+|&|,|and|/)\s*(?:{_SOCKET_HEAD}))*"
    r"|all(?: \w+){0,3})\s*"
)
_LEAST_HEADS = 2


def _is_of_sets(text: str, rows: list[Row]) -> bool:
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


def _sets(text: str, rows: list[Row]) -> Iterator[Clause]:
    heads = [text[slice(*cell)].strip() for cell in rows[0]]
    for row in rows[1:]:
        cells = tuple((heads[n], text[slice(*cell)]) for n, cell in enumerate(row) if 0 < n < len(heads))
        if len(row) > 1:
            yield Clause(row[0][0], row[-1][1], beside=cells)
