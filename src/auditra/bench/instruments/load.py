"""Electronic loads: off when their line is opened, off before it is closed, and off when this process ends."""

from __future__ import annotations

import time
from contextlib import suppress
from types import TracebackType
from weakref import WeakSet

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.core.errors import InstrumentError, QuantityError
from auditra.core.instruments.answer import read_answer
from auditra.core.instruments.description import LoadCommands, Measurand, Query

_JOINED: WeakSet[LiveLoad] = WeakSet()
"""Loads that this process has switched."""
_SET_SHARE, _SET_A = 0.02, 0.005
"""How far the current that a load says it is set to may be from the one it was told: its steps are finer."""
_LINGERS_S = 0.05


def switch_all_off() -> None:
    """Every load off, each over a line of its own: a trial on another thread may hold the other one."""
    for load in tuple(_JOINED):
        with suppress(Exception):  # the next one is switched off all the same
            load.switch_off_anew()


class LiveLoad(LiveInstrument):
    """An electronic load. Raises: InstrumentError, also where it does not set what it was told."""

    def _join(self) -> None:
        super()._join()
        _JOINED.add(self)
        self.switch(on=False)

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        with suppress(InstrumentError):  # it may be what ended the trial
            self.switch(on=False)
        super().__exit__(kind, error, trace)

    @property
    def _commands(self) -> LoadCommands:
        if self.description.load is None:
            why = f'its description "{self.description.name}" does not say how a current is set'
            raise InstrumentError(self.name, where=self.address, why=why, do="Write a [load] table in it")
        return self.description.load

    @property
    def highest_a(self) -> float:
        return self._commands.highest_a

    def switch_off_anew(self) -> None:
        """Off, over another line; over the one there is where no second can be had. Raises: whatever closing raises."""
        off = self._commands.off
        try:
            line = self._open_line()
        except InstrumentError:
            if self._line is None:
                raise
            self._line.write(off)
            return
        try:
            errors = self.description.errors
            if errors and self.description.several_in_a_message:
                line.query(f"{off};:{errors}")
            else:
                line.write(off)
                time.sleep(_LINGERS_S)  # a socket that is closed at once may take the message with it
        finally:
            line.close()

    def set_current(self, amperes: float) -> None:
        commands = self._commands
        if amperes > commands.highest_a:
            why = f"it sets {commands.highest_a:g} A at most, and this trial needs {amperes:g} A"
            raise InstrumentError(self.name, where=self.address, why=why, do="Use a load for more")
        self._command(commands.current(amperes))
        if commands.asks_current:
            self._check_set(amperes, commands)

    def _check_set(self, amperes: float, commands: LoadCommands) -> None:
        """A load that did not take its current would be read as a source that does not give it."""
        highest = commands.highest_a * 2
        scale = commands.amperes_per_unit
        query = Query(Measurand.CURRENT, commands.asks_current, -highest, highest, scale=scale)
        answer = self._ask(query.ask)
        try:
            told_a = read_answer(answer, query).value
        except QuantityError as error:
            raise self._refuse(query.ask, answer, error.why) from error
        if abs(told_a - amperes) > _SET_SHARE * amperes + _SET_A:
            raise self._refuse(query.ask, answer, f"it was set to {amperes:g} A")

    def switch(self, on: bool) -> None:
        self._command(self._commands.on if on else self._commands.off)
