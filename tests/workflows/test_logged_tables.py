"""Tables that something else logged become readings of a trial, and stay evidence."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from typer.testing import CliRunner

from auditra.bench.clock import SystemClock
from auditra.cli.commands import app
from auditra.core.errors import InputError
from auditra.core.model.depth import Depth
from auditra.core.model.reading import Grade, Reading
from auditra.core.model.table_use import LEFT_OUT, ColumnUse, TableUse
from auditra.core.tables.extremes import extremes
from auditra.store.table_uses import TableUses
from auditra.workflows.audits.audit_session import AuditSession
from auditra.workflows.audits.logged_tables import MAX_POINTS, layout_of, likely_use, preview_of
from auditra.workflows.trials.measure.look import WITNESS
from tests.support.benches import run_all, session_with

ROWS = [(n / 10, 20.0 - n / 1000, 3.0 + (n % 3) / 10) for n in range(300)]
LOG = ("time (s),bus (V),load (A)\n" + "".join(f"{a:.1f},{b:.3f},{c:.1f}\n" for a, b, c in ROWS)).encode()
POWER = TableUse((ColumnUse("bus", "voltage"), ColumnUse("load", "current")), WITNESS)


@pytest.fixture
def session() -> AuditSession:
    done = session_with("P1 takes 60 W")
    run_all(done, depth=Depth.QUICK)
    return done


def attached(session: AuditSession, use: TableUse, data: bytes = LOG) -> dict[str, Reading]:
    trial = session.judged.audit.trials[0].trial.id
    audit = session.attach_table(trial, "bench.csv", data, use, SystemClock()).audit
    sha256 = audit.evidence[-1].sha256
    return {str(each.quantity): each for each in audit.trials[0].readings if sha256 in each.evidence}


def test_columns_become_readings_with_their_traces(session: AuditSession) -> None:
    found = attached(session, POWER)
    assert found["voltage"].values == pytest.approx((19.8505,))
    assert found["current"].values == pytest.approx((3.1,))
    assert found["voltage"].grade is Grade.TYPED
    assert found["voltage"].resolution == pytest.approx(0.001)
    assert "300 rows; lowest 19.701, highest 20" in found["voltage"].note
    trace = found["voltage"].trace
    assert trace is not None
    assert (trace.time_s[0], len(trace.values)) == (0.0, 300)
    assert trace.time_s[-1] == pytest.approx(29.9)


def test_volts_and_amperes_of_the_same_moments_are_watts(session: AuditSession) -> None:
    power = attached(session, POWER)["power"]
    assert power.values == pytest.approx((float(np.median([b * c for _, b, c in ROWS])),), rel=1e-3)


def test_an_instrument_with_a_known_error_counts_as_read(session: AuditSession) -> None:
    meter = session.judged.audit.rig.meters[0].name
    power = attached(session, TableUse(POWER.columns, meter))["power"]
    assert (power.grade, power.instrument) == (Grade.READ, meter)
    assert power.error > 0


def test_the_whole_file_stays_evidence(session: AuditSession) -> None:
    attached(session, POWER)
    kept = session.judged.audit.evidence[-1]
    assert session.evidence_of(kept.sha256) == LOG


@pytest.mark.parametrize(
    ("columns", "why"),
    [
        ((ColumnUse("bus", "current"),), "it is in V, and current is in A"),
        ((ColumnUse("other", "voltage"),), "none of this name"),
        ((ColumnUse("bus", LEFT_OUT),), "none of them is wanted"),
        ((ColumnUse("bus", "lamp"), ColumnUse("load", "lamp")), "two columns are said to be it"),
    ],
)
def test_what_cannot_be_is_refused_in_words(session: AuditSession, columns: tuple[ColumnUse, ...], why: str) -> None:
    entries = session.judged.audit.entries
    with pytest.raises(InputError, match=why):
        attached(session, TableUse(columns, WITNESS))
    assert session.refresh().audit.entries == entries


def test_the_same_file_does_not_count_twice(session: AuditSession) -> None:
    attached(session, POWER)
    with pytest.raises(InputError, match="from this file already"):
        attached(session, POWER)


def test_rows_that_are_none_are_counted_in_the_note(session: AuditSession) -> None:
    broken = LOG.replace(b"\n1.5,19.985", b"\noverload,19.985")
    assert "299 rows, 1 left out" in attached(session, POWER, broken)["voltage"].note


def test_units_say_what_columns_are_likely_to_be() -> None:
    layout = layout_of(LOG)
    assert layout is not None
    assert likely_use(layout, WITNESS).columns == POWER.columns
    assert preview_of(layout, LOG) == (
        "time (s)  bus (V)  load (A)",
        "0.0       20.000   3.0",
        "0.1       19.999   3.1",
    )


def test_a_thinned_trace_keeps_every_dip_and_peak() -> None:
    values = np.full(100_000, 5.0)
    values[[777, 50_001]] = (3.2, 7.9)
    chosen = extremes(values, MAX_POINTS)
    assert len(chosen) <= MAX_POINTS
    assert {777, 50_001} <= set(chosen)
    assert (np.diff(chosen) > 0).all()


def test_what_was_said_is_remembered_for_tables_with_these_columns(tmp_path: Path) -> None:
    uses = TableUses(tmp_path / "tables")
    assert uses.fitting(("bus", "load")) is None
    uses.remember(POWER, "bench log")
    (tmp_path / "tables" / "broken.json").write_text("{")
    found = uses.fitting(("time", "bus", "load"))
    assert found is not None
    assert (found.name, found.columns) == ("bench log", POWER.columns)
    assert uses.fitting(("bus",)) is None
    with pytest.raises(InputError, match="bench log"):
        uses.use("another")
    with pytest.raises(InputError, match="letters"):
        uses.remember(POWER, "../elsewhere")


def test_the_command_reads_names_and_remembers_columns(tmp_path: Path) -> None:
    library, file = tmp_path / "library", tmp_path / "bench.csv"
    file.write_bytes(LOG)
    run = CliRunner()

    def auditra(*words: str) -> str:
        result = run.invoke(app, ["--library", str(library), *words])
        return result.output if result.exception is None else f"{result.output}{result.exception}"

    auditra("run", "OP-6")
    trial = "T1"
    assert "read one with --column" in auditra("attach", "OP-6", trial, str(file))
    told = auditra("attach", "OP-6", trial, str(file), "--column", "bus=voltage", "--remember", "bench log")
    assert "voltage 19.85" in told
    other = tmp_path / "second.csv"
    other.write_bytes(LOG.replace(b"20.000", b"19.000", 1))
    assert "readings taken: 1" in auditra("attach", "OP-6", trial, str(other), "--use", "bench log")
    assert "it is no column" in auditra("attach", "OP-6", trial, str(file), "--column", "bus")
