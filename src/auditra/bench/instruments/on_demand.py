"""The instruments of a rig that have an address, each opened when it is first looked up."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import ExitStack
from typing import TypeVar

from auditra.bench.instruments.instrument import LiveInstrument
from auditra.bench.instruments.line import open_line, resource_name
from auditra.core.errors import InputError, InstrumentError
from auditra.core.instruments.description import BUILT_IN, COMMON, THERMOMETER, Description
from auditra.core.model.rig import Instrument, Thermometer
from auditra.core.sanitize import sanitize

Kind = TypeVar("Kind", bound=LiveInstrument)
Describe = Callable[[str], Description]


def built_in(name: str) -> Description:
    """Raises: InputError for any other name."""
    if name not in BUILT_IN:
        do = f"Known: {', '.join(BUILT_IN)}"
        raise InputError(f'"{sanitize(name, 40)}"', why="there is no description of this name", do=do)
    return BUILT_IN[name]


class OnDemand(Mapping[str, Kind]):
    """By the ids of the rig. Raises: InstrumentError for an address or a description that cannot be; on looking one
    up, when it does not answer.
    """

    def __init__(
        self, kind: type[Kind], instruments: Iterable[Instrument | Thermometer], describe: Describe = built_in
    ) -> None:
        self._kind = kind
        self._known: dict[str, tuple[str, str, Description]] = {}
        self._opened: dict[str, Kind] = {}
        for each in instruments:
            if isinstance(each.address, str):
                resource_name(each.name, each.address)
                self._known[each.id] = each.name, each.address, _description(each, describe)

    def __getitem__(self, gear: str) -> Kind:
        if gear not in self._opened:
            name, address, description = self._known[gear]
            self._opened[gear] = self._kind(name, address, lambda: open_line(name, address, description), description)
        return self._opened[gear]

    def __iter__(self) -> Iterator[str]:
        return iter(self._known)

    def __len__(self) -> int:
        return len(self._known)

    def close(self) -> None:
        """Let go of all that were opened; loads are switched off first."""
        with ExitStack() as stack:
            for instrument in self._opened.values():
                stack.push(instrument)


def _description(gear: Instrument | Thermometer, describe: Describe) -> Description:
    usual = THERMOMETER if isinstance(gear, Thermometer) else COMMON
    named = gear.speaks if isinstance(gear.speaks, str) else usual
    try:
        return describe(named)
    except InputError as error:
        raise InstrumentError(gear.name, why=f"{error.what}: {error.why}", do=error.do) from error
