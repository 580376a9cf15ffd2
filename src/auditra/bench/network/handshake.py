"""Who may use a peer: only a client that proves it knows the token on the peer's screen. Until then it is sent nothing.

The client speaks first. Every message carries an HMAC-SHA-256 (RFC 2104), keyed by the token, and within a control
session by a key made for that session. Messages are counted, so none can be replayed or inserted.
"""

from __future__ import annotations

import hashlib
import hmac
import json
import secrets
from dataclasses import dataclass
from typing import Any

MAGIC = b"AUDITRA1"
CONTROL, UP, DOWN = b"C", b"U", b"D"
"""What a connection is for: the control session, bytes to the peer, bytes from it."""
NONCE_BYTES, MAC_BYTES = 16, 32
HELLO_BYTES = len(MAGIC) + 1 + NONCE_BYTES + MAC_BYTES
WELCOME_BYTES = NONCE_BYTES + MAC_BYTES
MAX_MESSAGE_BYTES = 1 << 16
_ALPHABET = "abcdefghjkmnpqrstuvwxyz23456789"
"""No letter that is mistaken for another when it is read off a screen."""
_TOKEN_LENGTH = 12


def make_token() -> str:
    """59 bits, in groups of four: ``kq3m-7xvt-9ahd``."""
    letters = "".join(secrets.choice(_ALPHABET) for _ in range(_TOKEN_LENGTH))
    return "-".join(letters[at : at + 4] for at in range(0, _TOKEN_LENGTH, 4))


def key_of(token: str) -> bytes:
    """However it was typed: blanks, dashes and capitals do not matter."""
    plain = "".join(letter for letter in token.lower() if letter.isalnum())
    return hashlib.sha256(b"auditra peer " + plain.encode()).digest()


def proof(key: bytes, *parts: bytes) -> bytes:
    return hmac.new(key, b"\0".join(parts), hashlib.sha256).digest()


def hello(key: bytes, kind: bytes, nonce: bytes) -> bytes:
    """What a client opens with."""
    return MAGIC + kind + nonce + proof(key, b"hello", kind, nonce)


def heard_hello(data: bytes, key: bytes, session: bytes | None) -> tuple[bytes, bytes] | None:
    """Kind and nonce of a hello that is proved: of a control session by the token's key, of a stream by the session's.

    None for anything else.
    """
    if len(data) != HELLO_BYTES or not data.startswith(MAGIC):
        return None
    kind, rest = data[len(MAGIC) : len(MAGIC) + 1], data[len(MAGIC) + 1 :]
    nonce, told = rest[:NONCE_BYTES], rest[NONCE_BYTES:]
    by = key if kind == CONTROL else session
    if by is None or kind not in (CONTROL, UP, DOWN):
        return None
    return (kind, nonce) if hmac.compare_digest(told, proof(by, b"hello", kind, nonce)) else None


def welcome(key: bytes, nonce: bytes, own: bytes) -> bytes:
    """What a peer answers: that it knows the token too."""
    return own + proof(key, b"welcome", nonce, own)


def heard_welcome(data: bytes, key: bytes, nonce: bytes) -> bytes | None:
    """The key of the session; None for an answer of somebody who does not know the token."""
    own, told = data[:NONCE_BYTES], data[NONCE_BYTES:]
    if len(data) != WELCOME_BYTES or not hmac.compare_digest(told, proof(key, b"welcome", nonce, own)):
        return None
    return session_key(key, nonce, own)


def session_key(key: bytes, nonce: bytes, own: bytes) -> bytes:
    return proof(key, b"session", nonce, own)


@dataclass
class Sealed:
    """Messages of a control session in one direction, each with its count and its proof."""

    key: bytes
    direction: bytes
    count: int = 0

    def pack(self, message: dict[str, Any]) -> bytes:
        body = json.dumps(message, separators=(",", ":")).encode()
        return len(body).to_bytes(4, "big") + body + self._proof(body)

    def unpack(self, body: bytes, told: bytes) -> dict[str, Any] | None:
        """None for a message that is not proved, or no object."""
        if not hmac.compare_digest(told, self._proof(body)):
            return None
        try:
            message = json.loads(body)
        except (ValueError, RecursionError):
            return None
        return message if isinstance(message, dict) else None

    def _proof(self, body: bytes) -> bytes:
        self.count += 1
        return proof(self.key, self.direction, self.count.to_bytes(8, "big"), body)
