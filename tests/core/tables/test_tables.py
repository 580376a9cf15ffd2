"""Tables that any program wrote: the layout is told from them, and the columns come out in SI."""

from __future__ import annotations

import io
import tracemalloc

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.errors import InputError
from auditra.core.tables import reader
from auditra.core.tables.layout import LOOKED_AT_BYTES, Layout, TimeForm, cells_of, detect_layout
from auditra.core.tables.reader import Table, read_table

TIMES, VOLTS, AMPERES = (0.0, 0.1, 0.2, 0.3), (5.01, 5.02, 4.99, 5.0), (0.5, 0.51, 0.52, 0.5)


def written(delimiter: str, heading: str, *, comma: bool = False, ends: str = "\n") -> bytes:
    rows = [delimiter.join(f"{value:.3f}" for value in row) for row in zip(TIMES, VOLTS, AMPERES, strict=True)]
    body = ends.join(rows).replace(".", ",") if comma else ends.join(rows)
    return (heading + ends + body + ends).encode() if heading else (body + ends).encode()


def read(data: bytes, size: int = 1 << 16) -> tuple[Layout, Table]:
    layout = detect_layout(data[: 1 << 16])
    wanted = [column.number for column in layout.columns if column.number != layout.time]
    return layout, read_table([data[at : at + size] for at in range(0, len(data), size)], layout, wanted)


@pytest.mark.parametrize(
    ("delimiter", "heading", "comma"),
    [
        (",", "Time (s),Voltage (V),Current (A)", False),
        (";", "t/s;U/V;I/A", True),
        (";", "# logged on the bench\ntime [s];bus [V];load [A]", False),
        ("\t", "time\tbus\tload\ns\tV\tA", False),
        (",", '"Time, elapsed (s)","Voltage (V)","Current (A)"', False),
        ("|", "seconds|volts|amps", False),
        (" ", "time bus_V load_A", False),
        (",", "\ufefftime_s,bus_v,load_a", False),
    ],
)
@pytest.mark.parametrize("ends", ["\n", "\r\n"])
def test_what_parts_the_cells_and_what_they_count_is_found(
    delimiter: str, heading: str, comma: bool, ends: str
) -> None:
    layout, table = read(written(delimiter, heading, comma=comma, ends=ends))
    assert (layout.delimiter, layout.decimal_comma, layout.time) == (delimiter, comma, 0)
    assert [column.unit for column in layout.columns[1:]] == ["V", "A"]
    assert table.time_s == pytest.approx(TIMES)
    assert table.columns[1] == pytest.approx(VOLTS)
    assert table.columns[2] == pytest.approx(AMPERES)
    assert table.bad_rows == ()


@pytest.mark.parametrize(
    ("cells", "form", "seconds"),
    [
        (("2026-01-02T10:00:00.100", "2026-01-02T10:00:01.350"), TimeForm.MOMENT, 1.25),
        (("2026-01-02 23:59:59", "2026-01-03 00:00:01"), TimeForm.MOMENT, 2.0),
        (("2026-01-02T10:00:00Z", "2026-01-02T10:01:00Z"), TimeForm.MOMENT, 60.0),
        (("12:00:01,5", "12:00:02,0"), TimeForm.CLOCK, 0.5),
        (("1:59", "2:01"), TimeForm.CLOCK, 2.0),
        (("1500", "1750"), TimeForm.NUMBER, 250.0),
    ],
)
def test_times_in_any_form_count_from_the_first(cells: tuple[str, str], form: TimeForm, seconds: float) -> None:
    layout, table = read("".join(f"{cell};1.5\n" for cell in cells).encode().replace(b"1500", b"time;W\n1500", 1))
    assert (layout.time, layout.time_form) == (0, form)
    assert list(table.time_s) == pytest.approx([0.0, seconds])


def test_units_are_brought_to_si() -> None:
    layout, table = read(b"time (ms),current (mA),rate (Mb/s),what (furlong)\n0,500,940,1\n250,510,941,2\n")
    assert list(table.time_s) == pytest.approx([0.0, 0.25])
    assert list(table.columns[1]) == pytest.approx([0.5, 0.51])
    assert list(table.columns[2]) == pytest.approx([940e6, 941e6])
    assert (layout.columns[3].unit, layout.columns[3].in_si) == ("furlong", None)


def test_an_object_a_line_is_a_table() -> None:
    layout, table = read(b'{"time_s": 0, "power_w": 61.5}\n{"time_s": 0.5, "power_w": 61.0}\nbroken\n')
    assert (layout.is_json, layout.time, layout.columns[1].unit) == (True, 0, "W")
    assert list(table.columns[1]) == [61.5, 61.0]
    assert table.bad_rows[0].line == 3


def test_bad_rows_are_named_by_line_and_cost_themselves_alone() -> None:
    lines = ["time (s),volts"] + [f"{n / 10},{5 + n / 1000}" for n in range(2000)]
    lines[500], lines[1500] = "50.0,overload", "150.0"
    _, table = read("\n".join(lines).encode())
    assert [(bad.line, "overload" in bad.why or "missing" in bad.why) for bad in table.bad_rows] == [
        (501, True),
        (1501, True),
    ]
    assert (len(table), table.left_out) == (1998, 2)


def test_an_empty_cell_is_no_value_and_no_fault() -> None:
    _, table = read(b"time,volts\n0,5.0\n1,\n2,5.1\n")
    assert np.isnan(table.columns[1][1])
    assert table.left_out == 0


def test_time_that_goes_back_is_counted() -> None:
    data = b"time,volts\n0,5.0\n1,5.0\n2,5.1\n" + b"3,5.0\n" * 40
    layout = detect_layout(data)
    assert read_table([data + b"1,5.0\n"], layout, (1,)).goes_back == 1


@pytest.mark.parametrize("data", [b"", b"hello\nworld\n", b"\x00\xff" * 50, b"a,b\nc,d\n"])
def test_what_is_no_table_is_refused_in_words(data: bytes) -> None:
    with pytest.raises(InputError, match="no rows of numbers"):
        detect_layout(data)


@pytest.mark.parametrize("size", [1, 13, 4096])
def test_pieces_of_any_size_are_the_same_table(size: int) -> None:
    data = written(";", "t/s;U/V;I/A", comma=True)
    assert read(data, size)[1].columns[2] == pytest.approx(AMPERES)


@pytest.mark.parametrize("encoding", ["utf-16", "latin-1", "utf-8-sig"])
def test_texts_in_any_usual_encoding_are_read(encoding: str) -> None:
    data = "time (s);temperature (°C)\n0;21.5\n1;21.6\n".encode(encoding)
    layout, table = read(data)
    assert layout.columns[1].unit == "C"
    assert list(table.columns[1]) == [21.5, 21.6]


def test_names_that_steer_a_terminal_are_inert() -> None:
    layout, _ = read(b"time,\x1b[2Jvolts\n0,1\n1,2\n")
    assert "\x1b" not in layout.columns[1].name


@given(st.binary(max_size=400))
def test_any_bytes_are_survived(data: bytes) -> None:
    head = b"time,volts\n0,1\n1,2\n" + data
    try:
        layout = detect_layout(head)
    except InputError:
        return
    read_table([head], layout, range(len(layout.columns)))


def test_a_long_table_takes_little_more_than_its_columns() -> None:
    """At most 2.5 times the columns' bytes, beside one piece of text."""
    rows = 200_000
    text = io.StringIO()
    np.savetxt(text, np.column_stack((np.arange(rows) / 1000, np.full(rows, 5.0))), delimiter=",", fmt="%.3f")
    data = b"time (s),volts\n" + text.getvalue().encode()
    layout = detect_layout(data[: 1 << 16])
    read_table([data[:4096]], layout, (1,))
    tracemalloc.start()
    table = read_table((data[at : at + (1 << 16)] for at in range(0, len(data), 1 << 16)), layout, (1,))
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert len(table) == rows
    assert peak < 2.5 * (table.time_s.nbytes + table.columns[1].nbytes) + 40 * (1 << 20)


def test_a_long_table_in_one_piece_takes_little_more_room_than_its_columns(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(reader, "_PIECE_CHARACTERS", 1 << 16)
    rows = 100_000
    data = b"time (s);bus (V)\n" + b"".join(b"%d.5;%d.25\n" % (n, n % 20) for n in range(rows))
    layout = detect_layout(data)
    tracemalloc.start()
    try:
        table = read_table([data], layout, (1,))
        _, peak_bytes = tracemalloc.get_traced_memory()
    finally:
        tracemalloc.stop()
    assert len(table) == rows
    assert peak_bytes <= 2.5 * (table.time_s.nbytes + table.columns[1].nbytes)


def test_no_more_than_the_beginning_of_a_table_decides_its_layout() -> None:
    head = b"time (s);bus (V)\n" + b"".join(b"%d;5,25\n" % n for n in range(LOOKED_AT_BYTES // 6))
    assert len(head) > LOOKED_AT_BYTES
    assert detect_layout(head + b"a line, with; other | marks\n" * 9) == detect_layout(head)


@pytest.mark.parametrize(
    ("line", "cells"),
    [
        ('1;"two; three" ;4', ["1", "two; three", "4"]),
        ('"she said ""so""";2', ['she said "so"', "2"]),
        ('1;"not closed;2', ["1", "not closed;2"]),
        ("1;;", ["1", "", ""]),
        ("", [""]),
    ],
)
def test_quoted_cells_are_one_cell(line: str, cells: list[str]) -> None:
    assert cells_of(line, ";") == cells
