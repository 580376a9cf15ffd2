"""Charts as values: what is drawn of a trial, the same on a screen and on paper."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.claims.claim import Claim
from auditra.core.claims.promise import BITS_A_BYTE
from auditra.core.decide.estimates import estimate
from auditra.core.decide.first_order import fit_first_order
from auditra.core.decide.knee import find_knee
from auditra.core.decide.reading_text import format_of
from auditra.core.journal.audit import Audit, TrialRecord
from auditra.core.judge.judgement import Judgement
from auditra.core.judge.reasoning.loops import Loop, loops_of
from auditra.core.judge.records import Records
from auditra.core.model.reading import STORAGE_RATES, Quantity, Reading, Trace
from auditra.core.model.setup import MINUTE_S
from auditra.core.quantities.display import Format, amount, format_for
from auditra.core.quantities.units import Dimension

_POINTS_OF_A_FIT = 60
_TEMPERATURES = (Quantity.CASE_TEMPERATURE, Quantity.AMBIENT_TEMPERATURE)


@dataclass(frozen=True)
class Series:
    """One line, or a cloud of points; `is_fit` for a curve that was laid through another series."""

    name: str
    x: tuple[float, ...]
    y: tuple[float, ...]
    is_fit: bool = False
    is_points: bool = False

    def reaches(self, x: float) -> bool:
        """Whether a place lies between its ends."""
        return bool(self.x) and min(self.x) <= x <= max(self.x)

    def nearest(self, x: float) -> tuple[float, float] | None:
        """The point nearest to a place; None where there is none."""
        pairs = zip(self.x, self.y, strict=True)
        return min(pairs, key=lambda pair: abs(pair[0] - x), default=None)


@dataclass(frozen=True)
class Level:
    """A value that the whole chart is measured against: the claim, a ceiling, the same gear direct."""

    name: str
    value: float


@dataclass(frozen=True)
class Chart:
    """Series over one axis, in SI; `fmt` says how the values are shown, `x_unit` is ``s`` or ``A``."""

    trial: str
    place: str
    title: str
    x_unit: str
    fmt: Format
    series: tuple[Series, ...]
    levels: tuple[Level, ...] = ()
    notes: tuple[str, ...] = ()
    """What was read off it: a knee, a plateau, ohms."""
    figure: float = 0.0
    """The value to show in large."""

    @property
    def key(self) -> tuple[str, str, str]:
        return self.trial, self.place, self.title

    @property
    def name(self) -> str:
        """What it is of, and where."""
        return _at(self.place, self.title)

    @property
    def y_name(self) -> str:
        return self.title.partition(" over ")[0]

    @property
    def from_zero(self) -> bool:
        """Whether its axis begins at nothing: not for temperatures and volts, where that means little."""
        return self.x_unit == "s" and self.fmt.symbol not in ("C", "V")

    def beside(self, other: Chart) -> bool:
        """Whether another one can be drawn on the same axes."""
        return (self.x_unit, self.fmt.symbol) == (other.x_unit, other.fmt.symbol)


def charts_of(audit: Audit, judgement: Judgement, place: str | None = None) -> tuple[Chart, ...]:
    """The charts of a port, or of all places: the newest trial first, the longest trace of a trial first."""
    found: list[Chart] = []
    for record in reversed(audit.trials):
        traced = [reading for reading in record.taken.traced() if place is None or reading.at == place]
        curves = tuple(_curves(record, traced))
        alone = [reading for reading in traced if all(reading not in (volts, drawn) for volts, drawn, _ in curves)]
        charts = [chart for reading in alone if (chart := _of_trace(record, reading, audit, judgement)) is not None]
        found += sorted(charts, key=lambda chart: -(chart.series[0].x[-1]))
        found += [chart for _, _, chart in curves]
    return (*found, *(_of_loop(loop) for loop in _loops(audit, judgement) if place is None or loop.place == place))


def _loops(audit: Audit, judgement: Judgement) -> Iterator[Loop]:
    records = judgement.inquiry.records if judgement.inquiry is not None else Records(audit.rig)
    return loops_of(records)


def _of_trace(record: TrialRecord, reading: Reading, audit: Audit, judgement: Judgement) -> Chart | None:
    trace = reading.trace
    if trace is None or len(trace.values) < 2:
        return None
    ends = reading.quantity is Quantity.SOAK_RATE or not reading.values
    figure = trace.values[-1] if ends else estimate(reading).value
    claim = _claim_of(record, reading, judgement)
    levels = tuple(_levels(record, reading, claim, audit, judgement)) if claim is not None else ()
    fmt = claim.promise.format if claim is not None and levels else format_of(reading, max(map(abs, trace.values)))
    fits, notes = _fits(reading, trace, fmt)
    series = (Series(_at(reading.at, str(reading.quantity)), tuple(trace.time_s), tuple(trace.values)), *fits)
    return Chart(record.trial.id, reading.at, str(reading.quantity), "s", fmt, series, levels, notes, figure)


def _claim_of(record: TrialRecord, reading: Reading, judgement: Judgement) -> Claim | None:
    """The claim that a trace is measured against: of its place, with a scale for its quantity."""
    for verdict in judgement.claims:
        scale = verdict.claim.promise.scale()
        if verdict.claim.id in record.trial.claims and scale is not None and reading.at in verdict.claim.ports:
            soaks = reading.quantity is Quantity.SOAK_RATE
            if soaks or reading.quantity in scale.quantities:
                return verdict.claim
    return None


def _levels(record: TrialRecord, reading: Reading, claim: Claim, audit: Audit, judgement: Judgement) -> Iterator[Level]:
    scale = claim.promise.scale()
    if scale is None:
        return
    yield Level("claim", scale.limit)
    gear = record.trial.setup.gear_at(reading.at) or record.trial.gear
    same = _baseline(record, claim, judgement) or [
        each for each in audit.trials if each.trial.port is None and each.trial.gear == gear
    ]
    quantities = scale.quantities if reading.quantity is Quantity.SOAK_RATE else (reading.quantity,)
    direct = [estimate(each).value for other in same for each in other.taken.of(*quantities).numbers()]
    if direct and record.trial.port is not None:
        yield Level("direct", max(direct))
    if scale.ceiling is not None:
        yield Level(scale.ceiling_words, scale.ceiling)


def _baseline(record: TrialRecord, claim: Claim, judgement: Judgement) -> list[TrialRecord]:
    """The direct trial that this one was compared with; none where it was compared with none."""
    verdict, inquiry = judgement.of_claim(claim.id), judgement.inquiry
    if verdict is None or inquiry is None:
        return []
    named = {each.direct for each in verdict.comparisons if each.trial == record.trial.id and not each.refusing}
    return [each for each in inquiry.audit.trials if each.trial.id in named]


def _fits(reading: Reading, trace: Trace, fmt: Format) -> tuple[tuple[Series, ...], tuple[str, ...]]:
    """The curve through a trace, and what it says: burst and steady part, or the plateau."""
    if reading.quantity in _TEMPERATURES:
        return _plateau(trace, fmt)
    if reading.quantity in (*STORAGE_RATES, Quantity.SOAK_RATE):
        return _knee(reading, trace, fmt)
    return (), ()


def _knee(reading: Reading, trace: Trace, fmt: Format) -> tuple[tuple[Series, ...], tuple[str, ...]]:
    knee = find_knee(trace)
    if knee is None:
        return (), ()
    x, y = (trace.time_s[0], knee.at_s, knee.at_s, trace.time_s[-1]), (knee.burst, knee.burst, knee.steady, knee.steady)
    moved = f", after {amount(knee.moved / BITS_A_BYTE, Dimension.SIZE)}" if reading.quantity in STORAGE_RATES else ""
    note = f"falls from {fmt.show(knee.burst)} to {fmt.show(knee.steady)} at {_clock(knee.at_s)}{moved}"
    return (Series("burst and steady", x, y, is_fit=True),), (note,)


def _plateau(trace: Trace, fmt: Format) -> tuple[tuple[Series, ...], tuple[str, ...]]:
    fit = fit_first_order(trace)
    if fit is None:
        return (), ()
    begin = trace.time_s[0]
    x = tuple(begin + fit.seen_s * n / _POINTS_OF_A_FIT for n in range(_POINTS_OF_A_FIT + 1))
    curve = Series("first-order fit", x, tuple(fit.at(each - begin) for each in x), is_fit=True)
    steady = "steady" if fit.is_steady else "still moving"
    expanded = max(fit.plateau_expanded, 10.0**-fmt.decimals)
    note = f"plateau {fmt.pair(fit.plateau, expanded)}, time constant {fit.tau_s / MINUTE_S:.0f} min, {steady}"
    return (curve,), (note,)


def _curves(record: TrialRecord, traced: list[Reading]) -> Iterator[tuple[Reading, Reading, Chart]]:
    """The volts and the current of a ramp, with the chart of the one over the other."""
    for volts in traced:
        drawn = next((each for each in traced if each.quantity is Quantity.DRAWN and each.at == volts.at), None)
        if volts.quantity is not Quantity.VOLTAGE or volts.trace is None or drawn is None or drawn.trace is None:
            continue
        if volts.trace.time_s == drawn.trace.time_s and len(volts.trace.time_s) > 1:
            yield volts, drawn, _curve(record, volts, volts.trace, drawn.trace)


def _curve(record: TrialRecord, volts: Reading, over: Trace, drawn: Trace) -> Chart:
    pairs = sorted(zip(drawn.values, over.values, strict=True))
    points = Series(_at(volts.at, "voltage"), tuple(x for x, _ in pairs), tuple(y for _, y in pairs), is_points=True)
    watts = record.taken.at(volts.at).of(Quantity.POWER).numbers().last()
    notes = tuple(filter(None, (watts.note if watts is not None else "", volts.note)))
    fmt = format_for(Dimension.VOLTAGE, max(map(abs, over.values)))
    return Chart(
        record.trial.id, volts.at, "voltage over current drawn", "A", fmt, (points,), (), notes, estimate(volts).value
    )


def _of_loop(loop: Loop) -> Chart:
    """Volts over amperes, with the line through them."""
    x = tuple(pair.x for pair in loop.pairs)
    ends = (min(x), max(x))
    points = Series(_at(loop.place, str(loop.quantity)), x, tuple(pair.y for pair in loop.pairs), is_points=True)
    line = Series("least squares", ends, tuple(loop.line.at(each) for each in ends), is_fit=True)
    fmt = format_for(Dimension.VOLTAGE, max(abs(pair.y) for pair in loop.pairs))
    note = f"{1e3 * loop.ohm:.0f} ± {max(1.0, 1e3 * loop.ohm_expanded):.0f} mohm there and back"
    title = f"{loop.quantity} over current"
    return Chart(loop.trials[-1], loop.place, title, "A", fmt, (points, line), (), (note,), loop.pairs[-1].y)


def _at(place: str, quantity: str) -> str:
    """``A1 write rate``; the case has its place in its name."""
    return quantity if place in quantity.split() else f"{place} {quantity}"


def _clock(seconds: float) -> str:
    return f"{seconds / MINUTE_S:.0f} min" if seconds >= 3 * MINUTE_S else f"{seconds:.1f} s"
