"""The largest packet that goes to a peer and back whole."""

from __future__ import annotations

from collections.abc import Iterator

from auditra.core.claims.promise import Look
from auditra.core.errors import BenchError
from auditra.core.model.reading import Quantity, Reading
from auditra.workflows.trials.doors import Progress
from auditra.workflows.trials.measure.network import ENGINE, LINK_WITHIN_S, find_new_link, named_link
from auditra.workflows.trials.measure.path_proof import prove_interface
from auditra.workflows.trials.measure.session import TrialSession
from auditra.workflows.trials.network_doors import CountedStream


def largest_frame(session: TrialSession, look: Look) -> Iterator[Reading]:
    """The largest packet that goes to the peer and back whole. Raises: BenchError where one of the two ends is set to
    less than what is promised: then nothing larger could have come through.
    """
    peers = session.bench.peers
    owed = next((scale.limit for scale in session.scales if Quantity.LARGEST_FRAME in scale.quantities), None)
    plugged = (each.gear for each in session.planned.setup.plugged)
    peer = next((each for each in plugged if peers is not None and peers.serves(each)), None)
    if peers is None or owed is None or peer is None:
        return
    interface = session.wait_for(lambda: find_new_link(session), "waiting for the network link", LINK_WITHIN_S)
    interface = interface or named_link(session, peers, peer)
    if interface is None:
        return
    prove_interface(session, interface.name)
    stream = peers.connect(peer, interface.name)
    try:
        if not isinstance(stream, CountedStream):
            return
        session.watch(Progress("asking for packets that may not be split"))
        sizes = stream.packets()
    finally:
        stream.close()
    for words, size, do in (
        ("this host's interface", sizes.this_end_bytes, f"Set it: ip link set {interface.name} mtu {owed:g}"),
        ("the peer's interface", sizes.far_end_bytes, f"Set it to {owed:g} B there"),
    ):
        if size is not None and size < owed:
            raise BenchError(words, why=f"it is set to packets of {size} B, less than the {owed:g} B promised", do=do)
    if sizes.whole_bytes is not None:
        note = f"there and back, not split; this end takes {sizes.this_end_bytes} B, the peer {sizes.far_end_bytes} B"
        values = (float(sizes.whole_bytes),)
        yield session.number(Quantity.LARGEST_FRAME, ENGINE, values, resolution=1.0, note=note)
