"""How warm the simulated device is."""

from __future__ import annotations

import math

from auditra.core.simulate.connections import Connections

AMBIENT_C = 21.5


class Heat:
    """The case warms up first-order toward what its load keeps it at: Newton's law of cooling."""

    def __init__(self, connections: Connections) -> None:
        self._connections = connections
        self.case_c = AMBIENT_C

    def pass_time(self, seconds: float, *, busy: bool) -> None:
        """A busy device warms up more."""
        model = self._connections.model
        rise = 0.0 if self._connections.host_socket is None else model.rise_busy_k if busy else model.rise_idle_k
        share = 1 - math.exp(-seconds / model.warms_in_s)
        self.case_c += (AMBIENT_C + rise - self.case_c) * share

    @property
    def rise_k(self) -> float:
        """Above the room."""
        return self.case_c - AMBIENT_C
