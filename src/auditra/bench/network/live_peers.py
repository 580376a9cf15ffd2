"""The peers of a rig that have an address: the person reads the token off the peer's screen, once a run."""

from __future__ import annotations

from collections.abc import Iterable
from contextlib import suppress

from auditra.bench.address import host_and_port
from auditra.bench.network.peer_client import PeerStreams, Place, WrongToken, open_peer
from auditra.core.errors import BenchError, InstrumentError
from auditra.core.model.rig import Peer
from auditra.core.sanitize import sanitize
from auditra.workflows.trials.doors import Person
from auditra.workflows.trials.measure.session import MAX_TRIES, NO

MAX_TOKENS_TRIED = 3
_TOKENS: dict[str, str] = {}
"""By host:port, as long as this process lives; never on disk."""


class LivePeers:
    """Raises: InstrumentError for an address that cannot be one."""

    def __init__(self, person: Person, peers: Iterable[Peer]) -> None:
        self._person = person
        self._known = {peer.id: Place(peer.name, *_where(peer)) for peer in peers if isinstance(peer.address, str)}

    def serves(self, peer: str) -> bool:
        return peer in self._known

    def ask_interface(self, peer: str) -> str:
        name = self._known[peer].name
        seen = "Auditra did not detect a new network link."
        question = f"{seen} Enter the host's interface to the {name}, or no if there is none."
        for _ in range(MAX_TRIES):
            answer = self._person.ask(question, "eth1").strip()
            if answer:
                return "" if answer.lower() in NO else answer
        raise BenchError(name, why="no answer whether it has a link", do="Start the trial again")

    def connect(self, peer: str, interface: str = "", streams: int = 1) -> PeerStreams:
        known = self._known[peer]
        place = Place(known.name, known.host, known.port, interface)
        question = f"Token on the screen of the {place.name} (auditra peer)"
        for _ in range(MAX_TOKENS_TRIED - 1):
            with suppress(WrongToken):
                return self._opened(place, question, streams)
            question = f"The {place.name} does not accept this token. Token on its screen"
        return self._opened(place, question, streams)

    def _opened(self, place: Place, question: str, streams: int) -> PeerStreams:
        """Raises: WrongToken, which is forgotten; BenchError."""
        token = _TOKENS.pop(str(place), None) or self._person.ask(question, "kq3m-7xvt-9ahd")
        opened = open_peer(place, token, streams)
        _TOKENS[str(place)] = token
        return opened


def _where(peer: Peer) -> tuple[str, int]:
    """Raises: InstrumentError for an address that cannot be one."""
    found = host_and_port(str(peer.address))
    if found is None:
        why = f'its address "{sanitize(str(peer.address), 60)}" is not host:port'
        raise InstrumentError(peer.name, why=why, do="Correct it in the rig file")
    return found
