"""Rows of whole devices: score, verdicts, sockets, length, weight, own use, prices and worth."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from decimal import Decimal

from auditra.core.advice.coverage import coverage_of
from auditra.core.claims.promise import Sense
from auditra.core.decide.estimates import Estimate, estimate
from auditra.core.judge.causes.own_use import OwnUse
from auditra.core.judge.judged_audit import JudgedAudit
from auditra.core.judge.score import Score
from auditra.core.line_up.line_up import Cell, Gap, Row
from auditra.core.model.device import BODY, Price, PriceKind
from auditra.core.model.reading import Quantity
from auditra.core.model.verdict import Verdict
from auditra.core.quantities.display import WATTS, Format, format_for
from auditra.core.quantities.units import Dimension

_POINTS = Format("", 1.0, 1)
_COUNT = Format("", 1.0, 0)
_SIZES = {Quantity.LENGTH: Dimension.LENGTH, Quantity.MASS: Dimension.MASS}


def whole_rows(audits: Sequence[JudgedAudit]) -> tuple[Row, ...]:
    """In the order in which a buyer asks; a row that no device has anything for is left out."""
    rows = (
        _row("score", audits, _score, _POINTS),
        _row("claims decided", audits, _decided, _COUNT, Sense.SIZE),
        _row("claims that hold without a condition", audits, _share(Verdict.HOLDS), _COUNT, Sense.SIZE),
        _row("claims that hold only under a condition", audits, _share(Verdict.HOLDS_IF), _COUNT, Sense.SIZE),
        _row("claims that are short or broken", audits, _accused, _COUNT, Sense.SIZE),
        _row("dangers", audits, lambda judged: _count(len(judged.judgement.dangers)), _COUNT, Sense.SIZE),
        _row("sockets", audits, lambda judged: _count(len(judged.audit.device.counted_ports)), _COUNT, Sense.SIZE),
        _row("length", audits, _size(Quantity.LENGTH), format_for(Dimension.LENGTH, 0.1), Sense.SIZE),
        _row("weight", audits, _size(Quantity.MASS), format_for(Dimension.MASS, 0.1), Sense.AT_MOST),
        _row("own use", audits, _own_use, WATTS, Sense.AT_MOST),
        *_prices(audits),
    )
    return tuple(row for row in rows if any(isinstance(cell, Cell) for cell in row.cells))


def _row(
    title: str,
    audits: Sequence[JudgedAudit],
    cell: Callable[[JudgedAudit], Cell | Gap],
    fmt: Format,
    sense: Sense = Sense.AT_LEAST,
) -> Row:
    return Row(title, tuple(map(cell, audits)), sense, fmt, of_whole=True)


def _score(judged: JudgedAudit) -> Cell | Gap:
    """With its band as its scatter: two scores that may still meet are a tie."""
    score = judged.judgement.score
    if score.value is None:
        return Gap.NOT_TRIED
    shown = f"{score.value}" if score.lowest == score.highest else f"{score.value} ({score.lowest} to {score.highest})"
    return Cell(shown, Estimate(float(score.value), float(_band(score)), 1))


def _band(score: Score) -> Decimal:
    """How far it may still move, either way."""
    return Decimal(0) if score.value is None else max(score.highest - score.value, score.value - score.lowest)


def _decided(judged: JudgedAudit) -> Cell:
    found = coverage_of(judged.audit, judged.judgement, judged.audit.device)
    return Cell(found.claims.words)


def _share(verdict: Verdict) -> Callable[[JudgedAudit], Cell]:
    def cell(judged: JudgedAudit) -> Cell:
        own = judged.judgement.of_device
        return Cell(f"{sum(each.verdict is verdict for each in own)} of {len(own)}")

    return cell


def _accused(judged: JudgedAudit) -> Cell:
    own = judged.judgement.of_device
    return Cell(f"{sum(each.verdict.accuses for each in own)} of {len(own)}")


def _count(number: int) -> Cell:
    return Cell(f"{number}")


def _size(quantity: Quantity) -> Callable[[JudgedAudit], Cell | Gap]:
    def cell(judged: JudgedAudit) -> Cell | Gap:
        readings = [each for record in judged.audit.trials for each in record.taken.of(quantity).at(BODY).numbers()]
        value = estimate(readings[-1]) if readings else None
        if value is None or not value.founded:
            return Gap.NOT_TRIED
        fmt = format_for(_SIZES[quantity], value.value)
        return Cell(fmt.pair(value.value, value.expanded), value, None, readings[-1].at, "", "", (readings[-1].trial,))

    return cell


def _own_use(judged: JudgedAudit) -> Cell | Gap:
    found = next((each for each in judged.judgement.unstated if isinstance(each, OwnUse)), None)
    if found is None:
        return Gap.NOT_TRIED
    value = Estimate(found.kept_w, found.expanded_w, 1)
    return Cell(WATTS.pair(value.value, value.expanded), value, None, "", "", "", found.trials)


def _prices(audits: Sequence[JudgedAudit]) -> Iterator[Row]:
    """A row a kind of price, and one for worth; compared only where all of it is in one money."""
    for kind in PriceKind:
        asked = [next((each for each in judged.audit.device.prices if each.kind is kind), None) for judged in audits]
        yield _in_one_money(f"{kind} price", asked, tuple(map(_price, asked)), Sense.AT_MOST, 2)
    paid = [judged.audit.device.cost for judged in audits]
    cells = tuple(_worth(judged, cost) for judged, cost in zip(audits, paid, strict=True))
    title = "points of the score for 100 of its price, extras included"
    yield _in_one_money(title, paid, cells, Sense.AT_LEAST, 1)


def _in_one_money(
    title: str, prices: Sequence[Price | None], cells: tuple[Cell | Gap, ...], sense: Sense, digits: int
) -> Row:
    monies = {each.money for each, cell in zip(prices, cells, strict=True) if each and isinstance(cell, Cell)}
    return Row(title, cells, sense if len(monies) == 1 else Sense.SIZE, Format("", 1.0, digits), of_whole=True)


def _price(asked: Price | None) -> Cell | Gap:
    if asked is None:
        return Gap.NOT_TRIED
    return Cell(f"{asked.amount:.2f} {asked.money}", Estimate(asked.amount, 0.0, 1))


def _worth(judged: JudgedAudit, cost: Price | None) -> Cell | Gap:
    score = judged.judgement.score
    if cost is None or score.value is None or not cost.amount:
        return Gap.NOT_TRIED
    per = 100 / Decimal(str(cost.amount))
    value = float(score.value * per)
    return Cell(f"{value:.1f} for 100 {cost.money}", Estimate(value, float(_band(score) * per), 1))
