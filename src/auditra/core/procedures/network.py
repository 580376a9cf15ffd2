"""Data is sent to a peer on the network, and received from it."""

from __future__ import annotations

from auditra.core.model.reading import Quantity
from auditra.core.model.trial import ProcedureId
from auditra.core.procedures.procedure import DATA, RATE, Door, Procedure, Wanted, connected
from auditra.core.wiring.setups import Stand

NETWORK = Procedure(
    id=ProcedureId.NETWORK,
    name="network",
    title="send and receive",
    on_device=connected,
    direct=Stand.on_host,
    door=Door.PEERS,
    typed=(
        Wanted(Quantity.LINK, RATE, "1 Gb/s"),
        Wanted(Quantity.SEND, RATE, "941 Mb/s"),
        Wanted(Quantity.RECEIVE, RATE, "941 Mb/s"),
    ),
    compared_as=DATA,
    host_sees_it=True,
    takes_s=35.0,
    soaks=True,
)
