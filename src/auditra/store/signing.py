"""Who signs a bundle: an Ed25519 key of the reviewer's, and a signature over the manifest (RFC 8032)."""

from __future__ import annotations

import hashlib
import json
import os
from dataclasses import dataclass
from pathlib import Path

from auditra.core.errors import InputError, StoreError
from auditra.core.sanitize import sanitize
from auditra.documents.facts import canonical

ALGORITHM = "Ed25519"
MAX_NAME = 120
_CONTEXT = b"auditra bundle 1\x00"
"""So that a signature of something else is never one of a bundle."""


@dataclass(frozen=True)
class Signature:
    """Who signed, with which key; both as hexadecimal digits."""

    name: str
    public_key: str
    signature: str

    @property
    def fingerprint(self) -> str:
        """What two people compare to know a key: the first 16 bytes of its SHA-256."""
        digits = hashlib.sha256(bytes.fromhex(self.public_key)).hexdigest()[:32]
        return " ".join(digits[at : at + 4] for at in range(0, 32, 4))


def make_key(path: Path) -> str:
    """A new private key in a file that only its owner reads; the fingerprint of the public one.

    Raises: StoreError where a file is there already, or cannot be written.
    """
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
    from cryptography.hazmat.primitives.serialization import Encoding, NoEncryption, PrivateFormat

    key = Ed25519PrivateKey.generate()
    pem = key.private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption())
    try:
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW, 0o600)
        with os.fdopen(handle, "wb") as file:
            file.write(pem)
    except OSError as error:
        raise StoreError(
            sanitize(str(path), 200), why=error.strerror or str(error), do="Choose another name"
        ) from error
    return Signature("", key.public_key().public_bytes_raw().hex(), "").fingerprint


def sign(manifest: bytes, name: str, pem: bytes) -> bytes:
    """The signature file of a manifest. Raises: InputError for bytes that are no private Ed25519 key."""
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
    from cryptography.hazmat.primitives.serialization import load_pem_private_key

    try:
        key = load_pem_private_key(pem, password=None)
    except (ValueError, TypeError) as error:
        raise InputError("the key", why="it cannot be read", do="Make one with auditra key FILE") from error
    if not isinstance(key, Ed25519PrivateKey):
        raise InputError("the key", why=f"it is no {ALGORITHM} key", do="Make one with auditra key FILE")
    shown = sanitize(name.strip(), MAX_NAME)
    made = key.sign(_message(manifest, shown))
    public = key.public_key().public_bytes_raw()
    return _file(Signature(shown, public.hex(), made.hex()))


def read_signature(data: bytes) -> Signature:
    """A signature file. Raises: InputError where it is not just what Auditra writes."""
    try:
        read = json.loads(data)
        found = Signature(str(read["name"]), str(read["public_key"]), str(read["signature"]))
        if _file(found) == data and len(bytes.fromhex(found.public_key)) == 32:
            return found
    except (ValueError, KeyError, TypeError, RecursionError):
        pass
    raise InputError("the signature", why="it cannot be read", do="Ask for the bundle again")


def check_signature(manifest: bytes, signature: Signature) -> None:
    """Raises: InputError where the key did not sign this manifest under this name."""
    from cryptography.exceptions import InvalidSignature
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PublicKey

    try:
        key = Ed25519PublicKey.from_public_bytes(bytes.fromhex(signature.public_key))
        key.verify(bytes.fromhex(signature.signature), _message(manifest, signature.name))
    except (InvalidSignature, ValueError) as error:
        why = "it does not fit what is in the bundle, or the name in it was changed"
        raise InputError("the signature", why=why, do="Ask for the bundle again") from error


def _message(manifest: bytes, name: str) -> bytes:
    return _CONTEXT + hashlib.sha256(manifest).digest() + name.encode("utf-8", "surrogatepass")


def _file(signature: Signature) -> bytes:
    said = {
        "algorithm": ALGORITHM,
        "name": signature.name,
        "public_key": signature.public_key,
        "signature": signature.signature,
    }
    return canonical(said).encode() + b"\n"
