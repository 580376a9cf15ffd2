"""Where an instrument or a peer answers: host and port, as the rig has them."""

from __future__ import annotations

from auditra.core.errors import InstrumentError
from auditra.core.model.rig import Instrument, Peer
from auditra.core.sanitize import sanitize


def address_of(gear: Instrument | Peer) -> tuple[str, int]:
    """Raises: InstrumentError for an address that cannot be one."""
    address = str(gear.address)
    host, _, port = address.rpartition(":")
    if not host or not port.isdecimal() or not 0 < int(port[:6]) < 65536:
        why = f'its address "{sanitize(address, 60)}" is not host:port'
        raise InstrumentError(gear.name, why=why, do="Correct it in the rig file")
    return host.removeprefix("[").removesuffix("]"), int(port)
