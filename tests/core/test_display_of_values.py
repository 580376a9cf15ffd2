"""One table from dimension to display: no reading loses its digits, wherever it is shown."""

from __future__ import annotations

import pickle

import pytest
from hypothesis import given
from hypothesis import strategies as st

from auditra.core.counted import counted
from auditra.core.decide.reading_text import reading_in_words
from auditra.core.errors import AmbiguousName, AuditraError, ClaimError, FactsRefused, InputError, SheetError
from auditra.core.model.reading import Grade, Number, Quantity, Reading
from auditra.core.quantities.display import format_for
from auditra.core.quantities.units import Dimension
from auditra.core.sanitize import escaped_json, find_control

SHOWN = [
    (Quantity.MASS, 0.0953, 0.0001, "95.30 ± 0.05 g"),
    (Quantity.DROP, 0.243, 0.001, "243.0 ± 0.5 mV"),
    (Quantity.LATENCY, 0.020, 0.001, "20.0 ± 0.5 ms"),
    (Quantity.TIME_TO_SWITCH, 7.5, 0.1, "7.50 ± 0.05 s"),
    (Quantity.CURRENT, 0.02, 0.001, "20.0 ± 0.5 mA"),
    (Quantity.LENGTH, 0.0005, 0.0, "0.5 ± 0.0 mm"),
    (Quantity.CASE_TEMPERATURE, 46.0, 0.1, "46.00 ± 0.05 C"),
    (Quantity.RESISTANCE, 0.035, 0.001, "35.0 ± 0.5 mohm"),
    (Quantity.WRITE, 3.6e9, 0.0, "450.0 ± 0.0 MB/s"),
]


@pytest.mark.parametrize(("quantity", "value", "resolution", "words"), SHOWN)
def test_a_reading_is_shown_with_its_digits(quantity: Quantity, value: float, resolution: float, words: str) -> None:
    reading = Reading("T1", quantity, "A1", "x", Grade.TYPED, Number((value,)), resolution=resolution)
    assert reading_in_words(reading) == words


@given(st.sampled_from(list(Dimension)), st.floats(1e-6, 1e12), st.floats(0, 1))
def test_no_value_is_rounded_by_more_than_a_hundredth_and_no_uncertainty_to_nothing(
    dimension: Dimension, value: float, share: float
) -> None:
    fmt = format_for(dimension, value)
    expanded = share * value if share > 1e-5 else 0.0
    number, _, rest = fmt.pair(value, expanded).partition(" ± ")
    assert float(number) * fmt.in_si == pytest.approx(value, rel=0.011, abs=1e-9 * fmt.in_si)
    assert (float(rest.split()[0]) == 0) == (expanded == 0 or expanded / fmt.in_si < 5e-10)


ERRORS: list[AuditraError] = [
    InputError("x", why="y", do="z"),
    AmbiguousName("usb 3", ("5 Gb/s", "10 Gb/s")),
    ClaimError("A1 sings", column=4, found="sings", expected="data"),
    SheetError("no", file="a.toml", line=3, key_path="device.maker", words='"7"'),
    FactsRefused("facts.jsonl", [(1, "no")], more=2),
]


@pytest.mark.parametrize("error", ERRORS)
def test_typed_errors_cross_processes_whole(error: AuditraError) -> None:
    again = pickle.loads(pickle.dumps(error))
    assert type(again) is type(error)
    assert str(again) == str(error)
    assert vars(again) == vars(error)


@given(st.text(max_size=40))
def test_json_for_a_terminal_is_the_same_value_and_steers_nothing(text: str) -> None:
    import json

    written = escaped_json(json.dumps({"said": text}, ensure_ascii=False))
    assert json.loads(written) == {"said": text}
    assert find_control(written.replace("\n", "")) == ""


def test_plurals_are_right() -> None:
    assert [counted(n, "trial") for n in (0, 1, 2)] == ["0 trials", "1 trial", "2 trials"]
    assert counted(3, "entry") == "3 entries"
