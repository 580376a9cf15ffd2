"""A line-up of judged audits, and the document that it is printed as."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.line_up.drawer import COLUMNS, drawer_of
from auditra.core.line_up.line_up import Checked, Gap, LineUp, Row, reason_of, require_enough
from auditra.core.line_up.ports import port_rows
from auditra.core.line_up.size import MOST
from auditra.core.line_up.superlatives import superlatives_of
from auditra.core.line_up.whole import whole_rows
from auditra.core.model.kind import is_cable
from auditra.core.report.document import Block, Chapter, Document, From, Items, Para, Ref, Said, Table, Tone, refs, said

_REASON_SHARE = 0.24
_TITLE_SHARE = 0.2


def line_up_of(audits: Sequence[JudgedAudit]) -> LineUp:
    """Two to six audits beside each other, or a drawer of leads. Raises: InputError."""
    require_enough(audits)
    rows = (*whole_rows(audits), *port_rows(audits))
    return LineUp(tuple(audits), rows, superlatives_of(audits, rows), tuple(_differences(audits)))


def _differences(audits: Sequence[JudgedAudit]) -> Iterator[str]:
    for what, values in (
        ("score profile", [judged.judgement.profile.name for judged in audits]),
        ("bench", [judged.bench for judged in audits]),
        ("rig", [judged.audit.rig.name for judged in audits]),
    ):
        if len(set(values)) > 1:
            each = (f"{judged.audit.name} {value}" for judged, value in zip(audits, values, strict=True))
            yield f"{what}: {', '.join(each)}"


def document_of_line_up(line_up: LineUp) -> Document:
    """The line-up for page, paper and screen."""
    names = line_up.names
    whole = [row for row in line_up.rows if row.of_whole]
    ports = sorted(
        (row for row in line_up.rows if not row.of_whole), key=lambda row: (not row.leaders, not row.measured)
    )
    chapters = [Chapter("in-short", "In short", tuple(_in_short(line_up)))]
    if all(is_cable(judged.audit.device.kind) for judged in line_up.audits):
        chapters.append(Chapter("drawer", "The cable drawer", (_drawer(line_up),)))
    if len(names) <= MOST:  # a column each has no room for more
        chapters.append(Chapter("devices", "The devices", (_table(whole, names, line_up),)))
        chapters.append(Chapter("ports", "Like ports with like", (_table(ports, names, line_up),)))
    if line_up.superlatives:
        chapters.append(Chapter("superlatives", "What the sellers say of being best", (_superlatives(line_up),)))
    kept = tuple(chapter for chapter in chapters if chapter.blocks and chapter.blocks[0] != Items(()))
    days = [last for judged in line_up.audits if (last := judged.audit.last_trial_at) is not None]
    until = f"{max(days):%Y-%m-%d}" if days else "no trial yet"
    audits = ", ".join(judged.audit.name for judged in line_up.audits)
    return Document(" | ".join(names), f"a line-up of {audits}, until {until}", kept, "Line-up")


def _in_short(line_up: LineUp) -> Iterator[Block]:
    every = tuple(_of(judged.audit.name, From.JUDGEMENT, "score") for judged in line_up.audits)
    wins = ", ".join(f"{name} {count}" for name, count in zip(line_up.names, line_up.wins, strict=True))
    fair = sum(bool(row.leaders) for row in line_up.rows)
    ties = sum(len(row.leaders) > 1 for row in line_up.rows)
    empty = sum(cell is Gap.NOT_TRIED for row in line_up.rows for cell in row.cells)
    yield Para((
        Said(f"Rows won: {wins}.", every, Tone.STRONG),
        Said(f"Of {len(line_up.rows)} rows {fair} can be compared, {ties} of them are ties inside the scatter.", every),
        Said(f"{empty} cells were not tried; a lost row and an empty one are different things.", every),
    ), lead=True)  # fmt: skip
    told = tuple((Said(f"Not alike: {each}.", every),) for each in line_up.differences)
    if told:
        yield Items(told)


def _of(audit: str, kind: From, name: str) -> Ref:
    return Ref(kind, f"{audit}: {name}")


def _table(rows: Sequence[Row], names: Sequence[str], line_up: LineUp) -> Block:
    if not rows:
        return Items(())
    share = (1 - _REASON_SHARE - _TITLE_SHARE) / len(names)
    shown = tuple(_row(row, names, line_up) for row in rows)
    return Table(("", *names, "best, and why"), shown, (_TITLE_SHARE, *[share] * len(names), _REASON_SHARE))


def _row(row: Row, names: Sequence[str], line_up: LineUp) -> tuple[tuple[Said, ...], ...]:
    every = tuple(ref for number in range(len(names)) for ref in _refs(row, number, line_up))
    cells = tuple(_cell(row, number, line_up) for number in range(len(names)))
    reason = reason_of(row, names)
    tone = Tone.PLAIN if row.leaders else Tone.QUIET
    return (said(row.title, every),), *cells, (said(reason, every, tone=tone),) if reason else ()


def _refs(row: Row, number: int, line_up: LineUp) -> tuple[Ref, ...]:
    cell, audit = row.cells[number], line_up.audits[number].audit.name
    if isinstance(cell, Gap):
        return (_of(audit, From.JUDGEMENT, "claims"),)
    trials = tuple(_of(audit, From.TRIAL, trial) for trial in cell.trials)
    claim = (_of(audit, From.CLAIM, cell.claim),) if cell.claim else ()
    return (*claim, *trials) or (_of(audit, From.JUDGEMENT, row.title),)


def _cell(row: Row, number: int, line_up: LineUp) -> tuple[Said, ...]:
    cell, about = row.cells[number], _refs(row, number, line_up)
    if isinstance(cell, Gap):
        return (said(cell.value, about, tone=Tone.QUIET),)
    best = number in row.leaders
    words = f"{cell.words}{' *' if best and row.winner is None else ''}"
    lines = [Said(words, about, Tone.STRONG if number == row.winner else Tone.PLAIN, cell.verdict)]
    if cell.port:
        lines.append(said(" ".join(filter(None, (cell.port, *cell.trials[:1]))), about, tone=Tone.QUIET))
    return tuple(lines)


def _drawer(line_up: LineUp) -> Block:
    drawer = drawer_of(line_up.audits)
    rows = tuple(
        ((said(judged.audit.device.name, refs(From.JUDGEMENT, judged.audit.name), tone=Tone.STRONG),),
         *(((said(text, refs(From.JUDGEMENT, judged.audit.name)),) if text else
            (said("not shown", refs(From.JUDGEMENT, judged.audit.name), tone=Tone.QUIET),)) for text in texts))
        for judged, texts in zip(drawer.audits, drawer.rows, strict=True)
    )  # fmt: skip
    share = 0.8 / len(COLUMNS)
    return Table(("lead", *COLUMNS), rows, (0.2, *[share] * len(COLUMNS)))


def _superlatives(line_up: LineUp) -> Block:
    return Items(tuple(tuple(_superlative(each, line_up)) for each in line_up.superlatives))


def _superlative(checked: Checked, line_up: LineUp) -> Iterator[Said]:
    about = (_of(line_up.audits[checked.audit].audit.name, From.CLAIM, checked.claim),)
    yield said(f"{line_up.names[checked.audit]}: {checked.claim}.", about, tone=Tone.STRONG)
    yield said(f"{checked.answer}.", about)


def table_of_line_up(line_up: LineUp) -> list[list[str]]:
    """Rows of texts for a spreadsheet: each device has its words, its value in SI and its uncertainty."""
    head = ["row"]
    for name in line_up.names:
        head += [name, f"{name} value", f"{name} uncertainty", f"{name} verdict", f"{name} port"]
    lines = [[*head, "best", "reason"]]
    for row in line_up.rows:
        line = [row.title]
        for cell in row.cells:
            if isinstance(cell, Gap):
                line += [cell.value, "", "", "", ""]
                continue
            value = [f"{cell.value.value!r}", f"{cell.value.expanded!r}"] if cell.value is not None else ["", ""]
            line += [cell.words, *value, cell.verdict.word if cell.verdict else "", cell.port]
        best = " = ".join(line_up.names[number] for number in row.leaders)
        lines.append([*line, best, reason_of(row, line_up.names)])
    return lines
