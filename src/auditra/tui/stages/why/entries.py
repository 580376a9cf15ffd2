"""What can be chosen on the Why stage: findings, questions that are open, doubts, and the claims of the chosen port."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from textual.content import Content

from auditra.core.journal.facts import DoubtEnd
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.doubts import DoubtAnswer
from auditra.core.judge.finding import Finding, Role
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.next_trials import NextTrial
from auditra.core.model.verdict import UNSTATED_MARK
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import hanging, heading
from auditra.tui.theme import Palette

_SECTIONS = {
    Role.DANGER: "danger", Role.CAUSE: "causes", Role.CONTENTION: "contention", Role.RIG_LIMIT: "limits of the rig",
    Role.CONTRADICTION: "contradictions", Role.CHANCE: "chance", Role.UNSTATED: "unstated",
}  # fmt: skip
OPEN, DOUBTS = "open questions", "doubts"


@dataclass(frozen=True)
class Entry:
    """One line of the list: a finding, an open question, a doubt, or a claim."""

    section: str
    title: str
    mark: str
    port: str | None
    key: str
    """The same for the same thing after another trial."""
    finding: Finding | None = None
    verdict: ClaimVerdict | None = None
    doubt: DoubtAnswer | None = None
    asks: tuple[NextTrial, ...] = ()


def entries_of(judgement: Judgement, port: str | None) -> tuple[Entry, ...]:
    """Everything in the order in which it is listed."""
    return (*_findings(judgement), *_questions(judgement), *_doubts(judgement), *_claims(judgement, port))


def _findings(judgement: Judgement) -> Iterator[Entry]:
    found = (*judgement.dangers, *judgement.reasons_so_far, *judgement.unstated)
    for role, section in _SECTIONS.items():
        for finding in (each for each in found if each.role is role):
            mark = {Role.DANGER: "!!", Role.UNSTATED: UNSTATED_MARK}.get(role, "-")
            port = finding.ports[0] if finding.ports else None
            key = f"{finding.kind} {finding.subject} {' '.join(finding.claims)}"
            yield Entry(section, finding.sentence, mark, port, key, finding=finding)


def _questions(judgement: Judgement) -> Iterator[Entry]:
    """Each claim whose cause is still open, once, with the trials that would split what is left."""
    by_claim: dict[str, list[NextTrial]] = {}
    for asked in judgement.next_trials if judgement.is_explained else ():
        by_claim.setdefault(asked.claim, []).append(asked)
    for claim_id, asks in by_claim.items():
        verdict = judgement.of_claim(claim_id)
        if verdict is not None:
            yield Entry(OPEN, asks[0].question, "?", verdict.claim.port, f"why {claim_id}", verdict=verdict,
                        asks=tuple(asks))  # fmt: skip


def _doubts(judgement: Judgement) -> Iterator[Entry]:
    marks = {DoubtEnd.CONFIRMED: "=", DoubtEnd.REFUTED: "x", DoubtEnd.OPEN: "?"}
    for answer in judgement.doubts if judgement.is_explained else ():
        port = answer.doubt.raised.port
        yield Entry(DOUBTS, sanitize(answer.question, 200), marks[answer.end], port if isinstance(port, str) else None,
                    f"doubt {answer.doubt.raised.id}", doubt=answer)  # fmt: skip


def _claims(judgement: Judgement, port: str | None) -> Iterator[Entry]:
    for verdict in judgement.of_port(port) if port is not None else ():
        yield Entry(f"claims of {port}", f"{verdict.claim}", verdict.verdict.mark, port, f"claim {verdict.claim.id}",
                    verdict=verdict)  # fmt: skip


def list_of_entries(
    entries: tuple[Entry, ...], chosen: int, width: int, palette: Palette, *, explained: bool
) -> tuple[Content, int, tuple[int, ...]]:
    """The list, the line at which the chosen entry begins, and the line at which each begins."""
    lines: list[Content] = [] if explained else [Content.styled("Working out causes ...", palette.quiet), Content("")]
    section, starts = "", []
    for index, entry in enumerate(entries):
        if entry.section != section:
            lines += [Content("")] if section else []
            section = entry.section
            lines.append(heading(section, palette))
        starts.append(len(lines))
        lines += _entry_lines(entry, index == chosen, width, palette)
    if explained and not any(entry.finding or entry.asks or entry.doubt for entry in entries):
        lines = [Content.styled("No findings yet. Run trials in stage 4; press d to note a doubt.", palette.quiet),
                 Content(""), *lines]  # fmt: skip
        starts = [start + 2 for start in starts]
    return Content("\n").join(lines), starts[chosen] if starts else 0, tuple(starts)


def _entry_lines(entry: Entry, is_chosen: bool, width: int, palette: Palette) -> list[Content]:
    colour = _colour(entry, palette)
    style = f"bold {palette.accent}" if is_chosen else palette.ink
    pointer = "▸" if is_chosen else " "
    first, *more = hanging(f"  {entry.mark:2} ", f"bold {colour}", entry.title, style, width)
    return [Content.assemble((f"{pointer} ", palette.accent), first[2:]), *more]


def _colour(entry: Entry, palette: Palette) -> str:
    if entry.finding is not None:
        return {Role.DANGER: palette.broken, Role.UNSTATED: palette.partly}.get(entry.finding.role, palette.accent)
    if entry.verdict is not None and not entry.asks:
        return palette.of(entry.verdict.verdict)
    return palette.unsure
