"""The mode that a display runs, read from the host: its mode-setting interface says it, where it may be asked."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from auditra.bench.kernel.tree import KernelTree
from auditra.core.errors import BenchError
from auditra.core.host.snapshot import DisplayConnector
from auditra.core.links.display import Mode
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Person

_BUILT_IN = re.compile(r"card\d+-(?:eDP|LVDS|DSI|Virtual|Writeback)-\d+")
"""A panel of the host itself, or no socket at all, is not a display under test."""


@dataclass
class HostDisplays:
    """Connectors with a display on them. Which of several is meant, a person is asked once."""

    kernel: KernelTree
    person: Person
    _known: dict[str, str] = field(default_factory=dict)

    def mode_of(self, display: str) -> Mode | None:
        """None without a picture. Raises: TrialStopped, BenchError for a connector that is not there."""
        shown = {connector.name: connector for connector in self.kernel.connectors() if _may_be_meant(connector)}
        if not shown:
            return None
        name = self._known.get(display)
        if name not in shown:
            name = next(iter(shown)) if len(shown) == 1 else self._ask(display, tuple(shown))
        running = shown[name].running
        return None if running is None else Mode(running.width, running.height, running.refresh_millihz / 1000)

    def _ask(self, display: str, names: tuple[str, ...]) -> str:
        said = self.person.ask(f"On which connector is the {display}? ({', '.join(names)})", names[0]).strip()
        if said not in names:
            raise BenchError(
                f'"{sanitize(said, 40)}"', why="no display is on that connector", do="Start the trial again"
            )
        self._known[display] = said
        return said


def _may_be_meant(connector: DisplayConnector) -> bool:
    return connector.connected and _BUILT_IN.fullmatch(connector.name) is None
