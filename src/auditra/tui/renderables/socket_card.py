"""The card of a port: its claims with their verdicts, what was found about it, its links and its power."""

from __future__ import annotations

from collections.abc import Iterable

from textual.content import Content

from auditra.core.decide.estimates import estimate
from auditra.core.decide.reading_text import reading_in_words
from auditra.core.journal.audit import Audit
from auditra.core.journal.facts import LinkSeen
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.judge.judgement import Judgement
from auditra.core.model.device import Port
from auditra.core.model.link_answer import LINK_ANSWER_TEXT, LinkAnswer
from auditra.core.model.noted import in_words as noted_in_words
from auditra.core.model.reading import Quantity, Reading
from auditra.core.model.verdict import UNSTATED_MARK, Verdict
from auditra.core.quantities.display import bit_rate
from auditra.core.sanitize import sanitize
from auditra.tui.renderables.labels import heading, verdict_words
from auditra.tui.theme import Palette


def socket_card(port: Port, audit: Audit, judgement: Judgement, palette: Palette) -> Content:
    """All that is promised of a port, what was shown, the sums, and the links that were made there."""
    printed = (
        f', printed "{sanitize(port.printed, 30)}"'
        if isinstance(port.printed, str)
        else f", print {noted_in_words(port.printed)}"
    )
    lines = [heading(f"socket {port.id}", palette, f"{sanitize(port.connector, 20)}{printed}"), Content("")]
    for verdict in judgement.of_port(port.id):
        lines += [*_claim_lines(verdict, palette), Content("")]
    for finding in judgement.unstated:
        if port.id in finding.ports:
            unstated = (f"{UNSTATED_MARK} unstated  ", f"bold {palette.partly}")
            lines.append(Content.assemble(unstated, (finding.sentence, palette.ink)))
            lines.append(Content.styled(f"  {finding.arithmetic}", palette.quiet))
    for reason in judgement.reasons_so_far:
        if port.id in reason.ports:
            lines.append(Content.assemble(("because  ", f"bold {palette.accent}"), (reason.sentence, palette.ink)))
            lines.append(Content.styled(f"  {reason.arithmetic}", palette.quiet))
    for question in judgement.questions:
        if question.at == port.id:
            lines.append(
                Content.styled(f"question  {question.trial}, {question.quantity}: {question.words}", palette.unsure)
            )
    told = [_link_line(each, palette) for each in links_at(port.id, audit)]
    told += [line for line in (_power_line(port.id, audit, palette), _picture_line(port.id, audit, palette)) if line]
    lines += [Content(""), *told] if told and lines[-1].plain else told
    if not judgement.of_port(port.id):
        lines.append(Content.styled("No claims for this port. Add them in stage 1, Claims.", palette.quiet))
    return Content("\n").join(lines)


def links_at(port: str, audit: Audit) -> tuple[LinkSeen, ...]:
    """The links that were made at a port, the newest of each sort: the same again is listed once."""
    seen = [link for record in audit.trials for link in record.links if link.at == port]
    newest = {(each.rate_bps, each.device_could_bps, each.socket_could_bps): each for each in seen}
    return tuple(newest.values())[-_MAX_LINKS:]


def _newest(port: str, audit: Audit, quantity: Quantity) -> Reading | None:
    """What was read of a port last."""
    found = (record.taken.of(quantity).at(port).last() for record in reversed(audit.trials))
    return next((reading for reading in found if reading is not None), None)


def _power_line(port: str, audit: Audit, palette: Palette) -> Content | None:
    """Offered, agreed and drawn beside each other: three things that are often taken for one."""
    quantities = (("offered", Quantity.OFFERED), ("agreed", Quantity.AGREED), ("drawn", Quantity.POWER))
    found = [(name, _newest(port, audit, quantity)) for name, quantity in quantities]
    if all(reading is None for _, reading in found[:2]):
        return None
    return _columns("power", [(name, _watts(reading)) for name, reading in found], palette)


def _columns(head: str, told: list[tuple[str, str]], palette: Palette) -> Content:
    """Names over values, each value below its name, however narrow the panel."""
    width = max(len(part) for pair in told for part in pair) + 2
    names, values = ("".join(f"{pair[n]:{width}}" for pair in told).rstrip() for n in (0, 1))
    room = " " * (len(head) + 2)
    return Content.assemble(
        (f"{head}  ", f"bold {palette.accent}"), (names, palette.quiet), "\n", room, (values, palette.ink)
    )


def _watts(reading: Reading | None) -> str:
    return "unknown" if reading is None or not reading.values else f"{estimate(reading).value:.1f} W"


def _picture_line(port: str, audit: Audit, palette: Palette) -> Content | None:
    """The mode at both ends: what the host sends, and what the display runs."""
    sent, runs = (_newest(port, audit, quantity) for quantity in (Quantity.MODE_SENT, Quantity.MODE))
    if sent is None:
        return None
    at_display = "not read" if runs is None else reading_in_words(runs)
    return _columns("picture", [("host sends", reading_in_words(sent)), ("display runs", at_display)], palette)


_MAX_LINKS = 3
_LINK_MARKS = {LinkAnswer.BEST: Verdict.HOLDS, LinkAnswer.SLOWER: Verdict.SHORT}


def _link_line(link: LinkSeen, palette: Palette) -> Content:
    """``link  T4: 5 Gb/s; gear supports 10 Gb/s, port 5 Gb/s  = at the best rate both ends support``."""
    rates = (link.rate_bps, link.device_could_bps, link.socket_could_bps)
    made, gear, socket = ("an unknown rate" if rate is None else bit_rate(rate) for rate in rates)
    verdict = _LINK_MARKS.get(link.answer, Verdict.UNPROVEN)
    return Content.assemble(
        ("link  ", f"bold {palette.accent}"),
        (f"{link.trial}: {made}; gear supports {gear}, port {socket}  ", palette.ink),
        (f"{verdict.mark} {LINK_ANSWER_TEXT[link.answer]}", palette.of(verdict)),
    )  # fmt: skip


def _claim_lines(verdict: ClaimVerdict, palette: Palette) -> Iterable[Content]:
    yield Content.assemble(
        verdict_words(verdict.verdict, palette), (f"  {verdict.claim.promise}", f"bold {palette.ink}")
    )
    quoted = verdict.claim.source.quoted
    if isinstance(quoted, str):
        yield Content.styled(
            f"  \N{LEFT DOUBLE QUOTATION MARK}{sanitize(quoted, 90)}\N{RIGHT DOUBLE QUOTATION MARK}", palette.quiet
        )
    yield Content.styled(f"  {verdict.shown}", palette.ink)
    if verdict.condition:
        yield Content.styled(f"  {verdict.condition}", palette.partly)
    for set_up in verdict.set_ups if verdict.verdict is Verdict.OPEN else (s for s in verdict.set_ups if s.trials):
        beside = sanitize(set_up.text, 90)
        trials = f"  {' '.join(set_up.trials)}" if set_up.trials else ""
        mark = (f"  {set_up.verdict.mark:2} ", palette.of(set_up.verdict))
        yield Content.assemble(mark, (f"{beside}: {set_up.verdict.word}", palette.quiet), (trials, palette.quiet))
    for sum_ in verdict.sums:
        yield Content.styled(f"  {sum_}", palette.quiet)
    if verdict.not_tried and verdict.verdict is not Verdict.OPEN:
        yield Content.styled(f"  not yet tried: {'; '.join(verdict.not_tried)}", palette.quiet)
    for aside in verdict.set_aside:
        yield Content.styled(f"  set aside: {aside.trial}, {sanitize(aside.why, 90)}", palette.quiet)
