"""The peer over loopback: who knows the token is served; strangers, guessers, floods and replays get nothing."""

from __future__ import annotations

import secrets
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass

import pytest

from auditra.bench.network import peer_client, peer_server
from auditra.bench.network.connections import receive_exactly
from auditra.bench.network.handshake import (
    CONTROL,
    HELLO_BYTES,
    NONCE_BYTES,
    UP,
    WELCOME_BYTES,
    Sealed,
    hello,
    key_of,
    make_token,
)
from auditra.bench.network.packet_size import largest_packet
from auditra.bench.network.peer_client import PeerStreams, Place, WrongToken, open_peer
from auditra.bench.network.peer_server import PeerServer
from auditra.core.decode.network.stamp import encode_reflected, encode_sent
from auditra.core.errors import BenchError
from auditra.core.host.snapshot import NetworkInterface

LOOPBACK, OTHER = "127.0.0.1", "127.0.0.2"


@dataclass(frozen=True)
class Served:
    server: PeerServer
    token: str
    said: list[str]

    @property
    def place(self) -> Place:
        return Place("desk computer", LOOPBACK, self.server.port)

    def stranger(self, address: str = OTHER) -> socket.socket:
        return socket.create_connection((LOOPBACK, self.server.port), timeout=5.0, source_address=(address, 0))


@pytest.fixture
def served() -> Iterator[Served]:
    token, said = make_token(), list[str]()
    server = PeerServer(token, LOOPBACK, 0, say=said.append)
    threading.Thread(target=server.serve, daemon=True).start()
    yield Served(server, token, said)
    server.stop()


@pytest.fixture(autouse=True)
def at_once(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(peer_client, "SETTLE_S", 0.02)


def what_it_says(connection: socket.socket) -> bytes:
    """All until the end of the line."""
    with connection, suppress(ConnectionError):
        return receive_exactly(connection, 1 << 16, within_s=5.0)
    return b""


def moved(streams: PeerStreams, count: int = 1 << 22) -> int:
    total = 0
    while total < count:
        total += streams.send(1 << 18)
    return total


@pytest.mark.parametrize("count", [1, 4, 16])
def test_as_many_streams_as_asked_move_both_ways_and_are_counted(served: Served, count: int) -> None:
    streams = open_peer(served.place, served.token.upper().replace("-", " "), count)
    sent = moved(streams)
    account = streams.account()
    assert account.moved_bytes >= sent
    assert account.interface == "lo"
    assert account.wire_bytes is not None
    assert account.wire_bytes >= account.moved_bytes
    assert account.remarks[0].startswith(f"{count} stream")
    received = streams.receive(1 << 20)
    account = streams.account()
    assert account.moved_bytes >= received > 0
    streams.close()
    assert served.said == [f"{LOOPBACK} has begun", f"{LOOPBACK} has ended"] or len(served.said) == 1


def test_seventeen_streams_are_refused_in_words(served: Served) -> None:
    with pytest.raises(BenchError, match="17 streams are not 1 to 16"):
        open_peer(served.place, served.token, 17)


@pytest.mark.parametrize(
    "opening",
    [b"GET / HTTP/1.1\r\n\r\n", b"AUDITRA1C", b"\0" * HELLO_BYTES, hello(key_of("guess"), CONTROL, b"n" * NONCE_BYTES)],
)
def test_whoever_does_not_know_the_token_gets_not_one_byte(served: Served, opening: bytes) -> None:
    stranger = served.stranger()
    stranger.sendall(opening)
    stranger.shutdown(socket.SHUT_WR)
    assert what_it_says(stranger) == b""
    assert served.said == []


def test_a_wrong_token_is_named_and_a_guesser_is_refused_even_with_the_right_one(served: Served) -> None:
    for _ in range(5):
        with pytest.raises(WrongToken, match="does not accept this token"):
            open_peer(served.place, "wrong")
    with pytest.raises(WrongToken, match="refuses for a minute"):
        open_peer(served.place, served.token)
    right = served.stranger()
    right.sendall(hello(key_of(served.token), CONTROL, secrets.token_bytes(NONCE_BYTES)))
    assert len(receive_exactly(right, WELCOME_BYTES, within_s=5.0)) == WELCOME_BYTES
    right.close()


def test_a_hello_that_was_overheard_is_worth_nothing(served: Served) -> None:
    heard = hello(key_of(served.token), CONTROL, b"n" * NONCE_BYTES)
    first = served.stranger()
    first.sendall(heard)
    assert len(receive_exactly(first, WELCOME_BYTES, within_s=5.0)) == WELCOME_BYTES
    again = served.stranger()
    again.sendall(heard)
    assert what_it_says(again) == b""
    stream = served.stranger()
    stream.sendall(hello(key_of(served.token), UP, b"m" * NONCE_BYTES))  # of the token, not of the session
    assert what_it_says(stream) == b""
    first.close()


def test_a_flood_of_strangers_does_not_keep_the_reviewer_out(served: Served) -> None:
    crowd = [served.stranger() for _ in range(60)]
    streams = open_peer(served.place, served.token)
    assert moved(streams) > 0
    streams.close()
    for each in crowd:
        each.close()


def test_delays_are_told_to_the_one_who_is_served_and_to_nobody_else(served: Served) -> None:
    def is_answered(address: str) -> bool:
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asking:
            asking.bind((address, 0))
            asking.settimeout(0.3)
            asking.sendto(encode_sent(1, time.time()), (LOOPBACK, served.server.port))
            with suppress(TimeoutError):
                return bool(asking.recv(100))
            return False

    assert not is_answered(LOOPBACK)
    streams = open_peer(served.place, served.token)
    assert is_answered(LOOPBACK)
    assert not is_answered(OTHER)
    delays = streams.delays()
    assert delays.loss_percent == 0
    assert delays.median_s is not None
    assert 0 < delays.median_s < 0.5
    streams.close()


def test_a_peer_that_goes_while_bytes_move_is_said(served: Served) -> None:
    streams = open_peer(served.place, served.token)
    moved(streams)
    served.server.stop()
    with pytest.raises(BenchError, match="desk computer"):
        moved(streams, 1 << 50)
    streams.close()


def test_a_message_that_was_changed_on_the_way_ends_the_session(served: Served) -> None:
    streams = open_peer(served.place, served.token)
    packed = bytearray(Sealed(streams.session, b"to peer", count=1).pack({"do": "count"}))
    packed[-1] ^= 1
    streams.control.sendall(packed)
    assert what_it_says(streams.control) == b""
    with pytest.raises(BenchError, match="desk computer"):
        streams.send(1)


def test_nothing_listening_is_said_with_what_to_do(served: Served) -> None:
    served.server.stop()
    with pytest.raises(BenchError, match="auditra peer"):
        open_peer(served.place, served.token)


@dataclass
class Impostor:
    """Listens as a peer would and knows no token: it must not pass for one."""

    says: bytes

    def serve_once(self, listening: socket.socket) -> None:
        connection, _ = listening.accept()
        with connection:
            connection.recv(HELLO_BYTES)
            connection.sendall(self.says)


@pytest.mark.parametrize("says", [b"", b"\0" * WELCOME_BYTES, b"hello there" * 9])
def test_who_answers_without_the_token_is_not_believed(says: bytes) -> None:
    with socket.create_server((LOOPBACK, 0)) as listening:
        threading.Thread(target=Impostor(says).serve_once, args=(listening,), daemon=True).start()
        with pytest.raises(WrongToken):
            open_peer(Place("desk computer", LOOPBACK, listening.getsockname()[1]), "kq3m-7xvt-9ahd")


def test_the_largest_packet_of_loopback_is_the_largest_there_is(served: Served) -> None:
    streams = open_peer(served.place, served.token)
    try:
        assert streams.packets().whole_bytes == 65_535
    finally:
        streams.close()


def test_packets_that_never_come_back_have_no_size() -> None:
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as silent, socket.socket(
        socket.AF_INET, socket.SOCK_DGRAM
    ) as asking:  # fmt: skip
        silent.bind((LOOPBACK, 0))
        asking.connect(silent.getsockname())
        assert largest_packet(asking) is None


def test_an_answer_that_is_shorter_than_what_was_sent_is_no_whole_packet() -> None:
    """A reflector that answers every packet with the shortest one proves the way there, and not the way back."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as short, socket.socket(
        socket.AF_INET, socket.SOCK_DGRAM
    ) as asking:  # fmt: skip
        short.bind((LOOPBACK, 0))
        asking.connect(short.getsockname())

        def answer() -> None:
            with suppress(OSError):
                while True:
                    packet, address = short.recvfrom(65_535)
                    whole = encode_reflected(packet, 0, time.time(), time.time())
                    short.sendto((whole or b"")[:44], address)

        threading.Thread(target=answer, daemon=True).start()
        assert largest_packet(asking, 3000) is None


def test_a_peer_on_a_wireless_link_is_refused_before_anything_is_measured(
    served: Served, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(peer_server, "interface_named", lambda name: NetworkInterface(name, "up", 866, wireless=True))
    with pytest.raises(BenchError, match="wireless link"):
        open_peer(served.place, served.token)
