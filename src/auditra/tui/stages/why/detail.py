"""The chosen entry of the Why stage, whole: figures, suspects with what cleared each, the chain, the next trial."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from textual.content import Content

from auditra.core.counted import counted, listed
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import DoubtEnd
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.doubts import DoubtAnswer
from auditra.core.judge.finding import Finding
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.next_trials import NextTrial
from auditra.core.judge.reasoning.chain import ChainView
from auditra.core.judge.reasoning.explained import Explained, named
from auditra.core.judge.rig_parts import show_value
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import hanging, heading, verdict_words
from auditra.tui.stages.why.entries import Entry
from auditra.tui.theme import Palette

_MAX_NAME, _FIGURE_CELLS = 30, 12
_MIN_BAR, _MAX_BAR, _HEADROOM = 8, 48, 1.6
_MAX_ASKS = 4


def detail_of(entry: Entry | None, audit: Audit, judgement: Judgement, width: int, palette: Palette) -> Content:
    """All about the chosen entry."""
    if entry is None:
        return Content.styled("Nothing to explain yet. Add claims in stage 1, Claims.", palette.quiet)
    if entry.finding is not None:
        lines = list(_finding(entry.finding, width, palette))
        claims = [judgement.of_claim(name) for name in entry.finding.claims]
    elif entry.doubt is not None:
        lines, claims = list(_doubt(entry.doubt, palette)), []
    else:
        lines, claims = [], [entry.verdict]
    if entry.asks:
        lines += [*_asks(entry.asks, palette)]
    for verdict in (verdict for verdict in claims if verdict is not None):
        lines += [Content("")] if lines else []
        lines += _claim(verdict, audit, judgement, width, palette, full=entry.finding is None)
    return Content("\n").join(lines)


def _finding(finding: Finding, width: int, palette: Palette) -> Iterator[Content]:
    yield heading(finding.kind, palette, str(finding.sure))
    yield Content("")
    yield Content.styled(f"{finding.sentence}.", f"bold {palette.ink}")
    if finding.arithmetic:
        yield Content.styled(finding.arithmetic, palette.quiet)
    if finding.points:
        yield Content.styled(f"costs {counted(int(finding.points), 'point')}", palette.partly)
    if finding.cleared:
        yield Content("")
        yield heading("suspects", palette)
        yield Content.assemble(("x ", f"bold {palette.broken}"), (f"{finding.subject}: left", palette.ink))
        for cleared in finding.cleared:
            yield from hanging("= ", f"bold {palette.holds}", sanitize(cleared, 120), palette.quiet, width)
    if isinstance(finding, Explained):
        yield Content("")
        yield heading("trials on both sides", palette)
        for side, word, colour in ((finding.elimination.failed, "fails", palette.broken),
                                   (finding.elimination.worked, "works", palette.holds)):  # fmt: skip
            trials = tuple(dict.fromkeys(trial for tried in side for trial in tried.trials))
            yield Content.assemble((f"{word} ", f"bold {colour}"), (listed(trials), palette.ink))
    elif finding.trials:
        yield Content.styled(f"from {listed(finding.trials)}", palette.quiet)


def _doubt(answer: DoubtAnswer, palette: Palette) -> Iterator[Content]:
    colour = {DoubtEnd.CONFIRMED: palette.holds, DoubtEnd.REFUTED: palette.broken}.get(answer.end, palette.unsure)
    raised = answer.doubt.raised
    yield heading("doubt", palette, sanitize(raised.raised_by, 40) if isinstance(raised.raised_by, str) else "")
    yield Content("")
    yield Content.styled(sanitize(answer.question, 400), f"bold {palette.ink}")
    suspected = [sanitize(each, 80) for each in (raised.suspect, raised.about) if isinstance(each, str)]
    if suspected:
        yield Content.styled(f"suspected: {', '.join(suspected)}", palette.quiet)
    by = " by the reviewer" if answer.by_reviewer else ""
    yield Content.assemble((f"{answer.end}{by}  ", f"bold {colour}"), (sanitize(answer.why, 300), palette.ink))
    if answer.trials:
        yield Content.styled(f"from {listed(answer.trials)}", palette.quiet)


def _asks(asks: Sequence[NextTrial], palette: Palette) -> Iterator[Content]:
    yield heading("open question", palette)
    yield Content("")
    yield Content.styled(f"{asks[0].question[:1].upper()}{asks[0].question[1:]}", f"bold {palette.ink}")
    yield Content.styled(f"left: {listed(asks[0].suspects)}", palette.ink)
    yield Content("")
    yield heading("next trial", palette, "t sets out the first")
    for asked in asks[:_MAX_ASKS]:
        if asked.trial is None:
            yield Content.assemble(("borrow ", f"bold {palette.unsure}"), (asked.borrow, palette.ink))
            continue
        yield Content.assemble((f"{counted(asked.moves, 'move')}  ", palette.quiet), (asked.trial.title, palette.ink))
        yield Content.styled(f"         if it works, the cause is {_either(asked.decides)}", palette.quiet)


def _either(names: Sequence[str]) -> str:
    *first, last = names
    return f"{', '.join(first)} or {last}" if first else last


def _claim(
    verdict: ClaimVerdict, audit: Audit, judgement: Judgement, width: int, palette: Palette, *, full: bool
) -> Iterator[Content]:
    yield Content.assemble(verdict_words(verdict.verdict, palette), (f"  {verdict.claim}", f"bold {palette.ink}"))
    if full:
        yield Content.styled(f"  {verdict.shown}", palette.ink)
        for sum_ in verdict.sums:
            yield Content.styled(f"  {sum_}", palette.quiet)
    if not judgement.is_explained:
        return
    honest = judgement.honest_sentence(verdict.claim.id)
    if honest:
        yield from hanging("  honest: ", f"bold {palette.accent}", sanitize(honest, 160), palette.ink, width)
    chain = judgement.chain_of(verdict.claim.id)
    if chain is not None and len(chain.stages) > 1:
        yield Content("")
        yield from _chain(chain, width, palette)
    elimination = judgement.elimination_of(verdict.claim.id) if full else None
    if elimination is not None and elimination.cleared:
        yield Content("")
        yield heading("suspects", palette, f"{len(elimination.left)} left")
        for cleared in elimination.cleared:
            name, by = named((cleared.suspect,), audit.rig), listed(cleared.trials) or "its record"
            yield Content.assemble(("= ", f"bold {palette.holds}"),
                                   (f"{name}: cleared by {by}", palette.quiet))  # fmt: skip
        for left in elimination.left:
            words = named(left, audit.rig) or "something that was not noted"
            yield from hanging("? ", f"bold {palette.unsure}", f"{words}: left", palette.ink, width)


def _chain(chain: ChainView, width: int, palette: Palette) -> Iterator[Content]:
    """Each ceiling as a bar on one scale, with what was measured and what is owed below.

    The scale ends a little above what matters; a part that carries far more runs off it.
    """
    of = f"{chain.quantity} in {chain.trial}" if chain.trial else f"{chain.quantity}, before anything is connected"
    yield heading("chain", palette, of)
    finite = [stage.most for stage in chain.stages if math.isfinite(stage.most)]
    shown = chain.shown.value if chain.shown is not None else 0.0
    end = _HEADROOM * max(min(finite, default=0.0), chain.claimed, shown)
    names = [_bar_name(stage.part) for stage in chain.stages]
    cells = max(map(len, (*names, "measured")))
    room = max(_MIN_BAR, min(_MAX_BAR, width - cells - _FIGURE_CELLS - 3))
    bar = _Bars(cells, room, end)
    for name, stage in zip(names, chain.stages, strict=True):
        is_limit = stage is chain.expected
        colour, style = (palette.partly, palette.ink) if is_limit else (palette.quiet, palette.quiet)
        known = math.isfinite(stage.most)
        figure = show_value(chain.quantity, stage.most) if known else "not noted"
        yield bar.line(name, stage.most if known else 0.0, figure, colour, style)
    if chain.shown is not None:
        colour = palette.holds if chain.shown.low >= chain.claimed else palette.broken
        yield bar.line("measured", shown, show_value(chain.quantity, shown), colour, f"bold {palette.ink}")
    yield bar.line("owed", chain.claimed, show_value(chain.quantity, chain.claimed), palette.accent, palette.ink, "─")


def _bar_name(part: str) -> str:
    return sanitize(part.removeprefix("the "), _MAX_NAME)


@dataclass(frozen=True)
class _Bars:
    """Bars of one chart: the cells of their names, those of the longest bar, and the value at its end."""

    names: int
    room: int
    end: float

    def line(self, name: str, value: float, figure: str, colour: str, style: str, mark: str = "━") -> Content:
        cells = min(self.room, max(0, round(value / self.end * self.room)))
        bar = mark * cells if value <= self.end else f"{mark * (self.room - 1)}›"
        return Content.assemble(
            (f"{name:{self.names}} ", style), (bar, colour), (" " * (self.room - len(bar)), style),
            (f" {figure:>{_FIGURE_CELLS}}", style),
        )  # fmt: skip
