"""The mode that a display runs, read from the host: its mode-setting interface says it, where it may be asked."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Protocol

from auditra.core.errors import BenchError, QuantityError
from auditra.core.host.snapshot import DisplayConnector
from auditra.core.links.display import Mode, parse_mode
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Person
from auditra.workflows.trials.measure.session import MAX_TRIES

_MENU_EXAMPLE = "3840x2160@60"


class ShowsConnectors(Protocol):
    """What tells the display connectors with the modes that they run."""

    def connectors(self) -> tuple[DisplayConnector, ...]: ...


@dataclass
class HostDisplays:
    """Connectors with a display on them. Which of several is meant, a person is asked once."""

    kernel: ShowsConnectors
    person: Person
    _known: dict[str, str] = field(default_factory=dict)
    _read_at: dict[str, str] = field(default_factory=dict)

    def mode_of(self, display: str) -> Mode | None:
        """None without a picture. Raises: TrialStopped, BenchError for a connector that is not there."""
        shown = {connector.name: connector for connector in self.kernel.connectors() if connector.may_be_tried}
        if not shown:
            return None
        name = self._known.get(display)
        if name not in shown:
            name = next(iter(shown)) if len(shown) == 1 else self._ask(display, tuple(shown))
        self._read_at[display] = name
        running = shown[name].running
        return None if running is None else Mode(running.width, running.height, running.refresh_millihz / 1000)

    def still_shows(self, display: str) -> bool:
        """False, too, for one of which it is not known where it is."""
        name = self._read_at.get(display)
        shown = (each for each in self.kernel.connectors() if each.name == name and each.may_be_tried)
        return any(each.running is not None for each in shown)

    def _ask(self, display: str, names: tuple[str, ...]) -> str:
        said = self.person.ask(f"On which connector is the {display}? ({', '.join(names)})", names[0]).strip()
        if said not in names:
            raise BenchError(
                f'"{sanitize(said, 40)}"', why="no display is on that connector", do="Start the trial again"
            )
        self._known[display] = said
        return said

    def told_by_display(self, display: str, sent: Mode) -> Mode | None:
        """The mode that its own menu shows, as the person reads it there; None if it was not read.

        Raises: TrialStopped.
        """
        asked = f"The host sends {sent}. Which mode does the {display}'s own menu show? (leave empty to skip)"
        question = asked
        for _ in range(MAX_TRIES):
            text = self.person.ask(question, _MENU_EXAMPLE).strip()
            if not text:
                return None
            try:
                return parse_mode(text)
            except QuantityError as error:
                question = f"{error.why}. {error.do}. {asked}"
        return None
