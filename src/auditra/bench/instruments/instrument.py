"""An instrument that is spoken to as its description says. Answers are checked before they are believed."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from types import TracebackType
from typing import Self

from auditra.bench.instruments.line import AGAIN, Line, OpenLine
from auditra.core.errors import InstrumentError, QuantityError
from auditra.core.instruments.answer import Measured, has_no_error, read_answer
from auditra.core.instruments.description import COMMON_INSTRUMENT, Description, Measurand, Query
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Volts, VoltsAmperes


class LiveInstrument:
    """One instrument. Raises: InstrumentError when it is silent, when it closes, or when its answer cannot be right.

    A line that failed is closed, since a late answer on it would pass for the next one; the next message opens
    another.
    """

    def __init__(
        self, name: str, address: str, open_line: OpenLine, description: Description = COMMON_INSTRUMENT
    ) -> None:
        self.name, self.address, self.description = name, address, description
        self._open_line = open_line
        self._line: Line | None = None
        self.identity = ""
        self._join()

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()

    def _join(self) -> None:
        """Open a line and make sure that the right instrument, with an empty list of errors, is at its other end."""
        self._line = self._open_line()
        described = self.description
        if described.identity:
            self.identity = self._ask(described.identity)
            if described.answers.casefold() not in self.identity.casefold():
                self.close()
                raise self._refuse(described.identity, self.identity, f'"{described.answers}" is not in it')
        if described.clear:
            self._tell(described.clear)
        for command in described.begin:
            self._command(command)

    def close(self) -> None:
        line, self._line = self._line, None
        if line is not None:
            with suppress(Exception):  # a line that is gone already needs no closing
                for command in self.description.end:
                    line.write(command)
            with suppress(Exception):
                line.close()

    def measure(self) -> VoltsAmperes:
        """Volts and amperes, out of one answer where it has both."""
        taken = self.read(Measurand.VOLTAGE, Measurand.CURRENT)
        volts, amperes = taken[Measurand.VOLTAGE], taken[Measurand.CURRENT]
        return VoltsAmperes(volts.value, amperes.value, volts.error, amperes.error)

    def volts(self) -> Volts:
        taken = self.read(Measurand.VOLTAGE)[Measurand.VOLTAGE]
        return Volts(taken.value, taken.error)

    def read(self, *measurands: Measurand) -> dict[Measurand, Measured]:
        """What it measures now; each query is sent once, however many values its answer has."""
        queries = [self._query(each) for each in measurands]
        answers = {ask: self._answer(ask) for ask in dict.fromkeys(query.ask for query in queries)}
        return {query.measures: self._value(query, answers[query.ask]) for query in queries}

    def _query(self, measurand: Measurand) -> Query:
        query = self.description.query(measurand)
        if query is None:
            why = f'its description "{sanitize(self.description.name, 40)}" has no query for a {measurand}'
            raise InstrumentError(self.name, where=self.address, why=why, do="Name another, or add the query")
        return query

    def _answer(self, ask: str) -> str:
        answer = self._ask(ask)
        if self.description.errors:
            self._check_error(self._ask(self.description.errors), ask)
        return answer

    def _value(self, query: Query, answer: str) -> Measured:
        try:
            return read_answer(answer, query)
        except QuantityError as error:
            raise self._refuse(query.ask, answer, error.why) from error

    def _command(self, command: str) -> None:
        """A command and the query for its error, as one message where that is possible (IEEE 488.2, 7.3.3): sent as
        two, the second waits 40 ms for the first one's delayed acknowledgement (RFC 896, RFC 1122 4.2.3.2)."""
        errors = self.description.errors
        if errors and self.description.several_in_a_message:
            self._check_error(self._ask(f"{command};:{errors}"), command)
            return
        self._tell(command)
        if errors:
            self._check_error(self._ask(errors), command)

    def _check_error(self, answer: str, after: str) -> None:
        """The instrument's own list of errors must be empty."""
        if not has_no_error(answer):
            raise self._refuse(after, answer, "it reports an error")

    def _ask(self, query: str) -> str:
        return self._on_line(lambda line: line.query(query), f"no answer to {query} in time").strip()

    def _tell(self, command: str) -> None:
        self._on_line(lambda line: str(line.write(command)), f"it did not take {command}")

    def _on_line(self, use: Callable[[Line], str], why: str) -> str:
        if self._line is None:
            self._join()
        try:
            assert self._line is not None
            return use(self._line)
        except Exception as error:  # each backend has errors of its own
            self.close()
            raise InstrumentError(self.name, where=self.address, why=why, do=AGAIN) from error

    def _refuse(self, query: str, answer: str, why: str) -> InstrumentError:
        return InstrumentError(
            self.name, where=self.address, why=f'it answered "{sanitize(answer, 40)}" to {query}: {why}', do=AGAIN
        )
