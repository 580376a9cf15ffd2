"""``auditra peer``: serves network trials to whoever knows the token on its screen.

Other clients are sent nothing. Few connections may be unproved at a time, and each for two seconds; an address that
guesses wrong five times is refused for a minute. Data goes from memory to memory and is never stored.
"""

from __future__ import annotations

import secrets
import select
import socket
import threading
import time
from collections import Counter
from collections.abc import Callable
from contextlib import suppress
from dataclasses import asdict, dataclass, field
from typing import Any

from auditra import __version__
from auditra.bench.network.connections import (
    ANSWER_WITHIN_S,
    cut,
    filled_buffer,
    info_of,
    make_ready,
    receive_exactly,
    receive_message,
)
from auditra.bench.network.handshake import (
    CONTROL,
    DOWN,
    HELLO_BYTES,
    NONCE_BYTES,
    Sealed,
    heard_hello,
    key_of,
    session_key,
    welcome,
)
from auditra.bench.network.interface import interface_named, interface_of
from auditra.bench.network.link_end import LinkEnd
from auditra.bench.network.packet_size import never_split
from auditra.bench.network.processor import ticks
from auditra.core.decode.network.stamp import MAX_PACKET_BYTES, encode_reflected

DEFAULT_PORT = 8620
_MAX_STREAMS_A_SESSION = 128
_MAX_STRANGERS, _MAX_OF_ONE_ADDRESS = 32, 4
_MAX_WRONG, _REFUSED_FOR_S, _MAX_REMEMBERED = 5, 60.0, 1024
_MAX_STREAM_S = 7200.0
"""Longer than any trial at full load."""
_LOOK_S = 0.25
_IP_TTL, _IP_RECVTTL = 2, 12
"""Source: Linux, include/uapi/linux/in.h."""


@dataclass
class _Stream:
    kind: bytes
    connection: socket.socket
    moved_bytes: int = 0

    def told(self) -> dict[str, Any]:
        info = asdict(info_of(self.connection)) if self.kind == DOWN else None
        return {"kind": self.kind.decode(), "bytes": self.moved_bytes, "info": info}


@dataclass
class _Session:
    """What the one client has going."""

    address: str
    key: bytes
    control: socket.socket
    streams: list[_Stream] = field(default_factory=list)


class PeerServer:
    """Listens once it is made. Raises: OSError where the address cannot be had."""

    def __init__(
        self, token: str, host: str = "", port: int = DEFAULT_PORT, say: Callable[[str], None] = print
    ) -> None:
        self._key, self._say = key_of(token), say
        self._listening = socket.create_server((host, port), backlog=_MAX_STRANGERS)
        self.port: int = self._listening.getsockname()[1]
        self._reflecting = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
        self._reflecting.bind((host, self.port))
        with suppress(OSError):  # what came whole goes back whole, or not at all
            never_split(self._reflecting)
        with suppress(OSError):
            self._reflecting.setsockopt(socket.IPPROTO_IP, _IP_RECVTTL, 1)
        self._lock, self._strangers = threading.Lock(), Counter[str]()
        self._session: _Session | None = None
        self._nonces: set[bytes] = set()
        self._wrong: dict[str, tuple[int, float]] = {}
        self._ends = threading.Event()

    def serve(self) -> None:
        """Until `stop`."""
        threading.Thread(target=self._reflect, daemon=True).start()
        while not self._ends.is_set():
            try:
                if not select.select([self._listening], [], [], _LOOK_S)[0]:
                    continue
                connection, address = self._listening.accept()
            except (OSError, ValueError):  # closed meanwhile
                continue
            if self._is_refused(address[0]) or not self._has_room_for(address[0]):
                connection.close()
                continue
            threading.Thread(target=self._meet, args=(connection, address[0]), daemon=True).start()

    def stop(self) -> None:
        self._ends.set()
        for each in (self._listening, self._reflecting):
            cut(each)
        session = self._session
        if session is not None:
            for connection in (session.control, *(stream.connection for stream in session.streams)):
                cut(connection)

    def _has_room_for(self, address: str) -> bool:
        with self._lock:
            if self._strangers[address] >= _MAX_OF_ONE_ADDRESS or self._strangers.total() >= _MAX_STRANGERS:
                return False
            self._strangers[address] += 1
            return True

    def _is_refused(self, address: str) -> bool:
        count, since = self._wrong.get(address, (0, 0.0))
        return count >= _MAX_WRONG and time.monotonic() - since < _REFUSED_FOR_S

    def _guessed(self, address: str) -> None:
        with self._lock:
            if len(self._wrong) >= _MAX_REMEMBERED:
                self._wrong.clear()
            count, since = self._wrong.get(address, (0, 0.0))
            fresh = time.monotonic() - since < _REFUSED_FOR_S
            self._wrong[address] = (count + 1 if fresh else 1, time.monotonic())

    def _meet(self, connection: socket.socket, address: str) -> None:
        """Somebody who has proved nothing yet."""
        known = None
        try:
            data = receive_exactly(connection, HELLO_BYTES, within_s=ANSWER_WITHIN_S)
            session = self._session
            known = heard_hello(data, self._key, session.key if session is not None else None)
        except OSError:
            pass
        finally:
            with self._lock:
                self._strangers[address] -= 1
                self._strangers += Counter()  # forgets whoever has none left
        if known is None:
            self._guessed(address)
        if known is None or not self._may(*known):
            connection.close()
            return
        with connection, suppress(OSError):
            kind, nonce = known
            self._control(connection, address, nonce) if kind == CONTROL else self._stream(connection, kind)

    def _may(self, kind: bytes, nonce: bytes) -> bool:
        """A hello counts once. A new session ends the one before: its cable may have been pulled without a word."""
        with self._lock:
            if nonce in self._nonces:
                return False
            self._nonces.add(nonce)
            session = self._session
            if kind != CONTROL:
                return session is not None and len(session.streams) < _MAX_STREAMS_A_SESSION
            if session is not None:
                cut(session.control)
            return True

    def _control(self, connection: socket.socket, address: str, nonce: bytes) -> None:
        own = secrets.token_bytes(NONCE_BYTES)
        session = _Session(address, session_key(self._key, nonce, own), connection)
        self._session = session
        self._say(f"{address} has begun")
        try:
            connection.sendall(welcome(self._key, nonce, own))
            heard, said = Sealed(session.key, b"to peer"), Sealed(session.key, b"from peer")
            while not self._ends.is_set():
                message = receive_message(connection, heard)
                if message is None or message.get("do") == "bye":
                    break
                connection.sendall(said.pack(self._answer(message, connection)))
        finally:
            if self._session is session:
                self._session = None
            for stream in session.streams:
                cut(stream.connection)
            self._say(f"{address} has ended")

    def _answer(self, message: dict[str, Any], connection: socket.socket) -> dict[str, Any]:
        session = self._session
        if message.get("do") == "about":
            found = interface_named(interface_of(connection.getsockname()[0]))
            return {"version": __version__, "interface": asdict(LinkEnd.of(found))}
        if message.get("do") == "count" and session is not None:
            processor = ticks()
            return {
                "processor": asdict(processor) if processor is not None else None,
                "streams": [stream.told() for stream in session.streams],
            }
        return {"error": "unknown"}

    def _stream(self, connection: socket.socket, kind: bytes) -> None:
        session = self._session
        if session is None:
            return
        stream = _Stream(kind, connection)
        session.streams.append(stream)
        make_ready(connection)
        connection.sendall(b"+")
        buffer = memoryview(filled_buffer())
        deadline = time.monotonic() + _MAX_STREAM_S
        move = connection.send if kind == DOWN else connection.recv_into
        while (moved := move(buffer)) and time.monotonic() < deadline:
            stream.moved_bytes += moved

    def _reflect(self) -> None:
        """Answers the session's own address only, so that forged packets cannot direct answers at somebody else."""
        number = 0
        while not self._ends.is_set():
            try:
                if not select.select([self._reflecting], [], [], _LOOK_S)[0]:
                    continue
                packet, ancillary, _, address = self._reflecting.recvmsg(MAX_PACKET_BYTES, 64)
            except (OSError, ValueError):
                continue
            received_s, session = time.time(), self._session
            if session is None or not address or address[0] != session.address:
                continue
            answer = encode_reflected(packet, number, received_s, time.time(), _ttl_in(ancillary))
            if answer is not None:
                number += 1
                with suppress(OSError):
                    self._reflecting.sendto(answer, address)


def _ttl_in(ancillary: list[tuple[int, int, bytes]]) -> int:
    for level, kind, data in ancillary:
        if (level, kind) == (socket.IPPROTO_IP, _IP_TTL) and len(data) >= 1:
            return data[0]
    return 255
