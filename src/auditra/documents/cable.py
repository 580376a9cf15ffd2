"""What is known of a cable, as TOML; and what follows from it, as a file."""

from __future__ import annotations

import tomllib
from typing import Any

from pydantic import BaseModel

from auditra.core.claims.language import parse_claim
from auditra.core.decode.cable import WIRES, CableAllows, CableFinding, CableKnown
from auditra.core.decode.identity import Identity, decode_identity
from auditra.core.errors import ClaimError, InputError
from auditra.core.quantities.parsing import parse_quantity
from auditra.core.quantities.units import Dimension
from auditra.core.sanitize import sanitize
from auditra.documents.hex_text import from_hex


class CableFile(BaseModel):
    """A cable's marker, wires, copper and seller's words side by side."""

    format: str = "auditra decode cable"
    version: int = 1
    marker: Identity | None
    allows: CableAllows
    findings: tuple[CableFinding, ...]


def _words(data: bytes) -> list[int]:
    if not data or len(data) % 4:
        raise InputError("the marker", why=f"{len(data)} bytes are no data objects", do="Write four bytes an object")
    return [int.from_bytes(data[at : at + 4], "big") for at in range(0, len(data), 4)]


def marker_of(data: bytes) -> Identity | None:
    """What the data objects of a marker say; None where they say nothing. Raises: InputError."""
    words = _words(data)
    header, certificate, product, *types = (*words, *[0] * max(0, 3 - len(words)))
    return decode_identity(header, certificate, product, tuple(types), of_cable=True)


def read_cable(data: bytes, name: str) -> CableKnown:
    """A TOML file: marker, wires, vbus, ground and says; what is absent is not known. Raises: InputError."""
    try:
        told: dict[str, Any] = tomllib.loads(data.decode("utf-8"))
    except (tomllib.TOMLDecodeError, UnicodeDecodeError) as error:
        raise InputError(name, why=sanitize(str(error), 200), do="Write it as docs/decoders.md shows") from error
    unknown = set(told) - {"marker", "wires", "vbus", "ground", "says"}
    if unknown:
        known = "marker, wires, vbus, ground, says"
        raise InputError(name, why=f'"{sanitize(min(unknown), 40)}" is not known', do=f"It may have: {known}")
    marker = told.get("marker")
    answered = None if marker is None else marker != "none"
    identity = marker_of(from_hex(" ".join(_texts(name, "marker", marker)))) if answered else None
    return CableKnown(
        identity, answered, _wires(name, told.get("wires")), _mohm(name, told.get("vbus")),
        _mohm(name, told.get("ground")), tuple(_claim(name, text) for text in _texts(name, "says", told.get("says"))),
    )  # fmt: skip


def _texts(name: str, key: str, told: Any) -> list[str]:
    if told is None:
        return []
    if isinstance(told, str):
        return [told]
    if isinstance(told, list) and all(isinstance(each, str) for each in told):
        return told
    raise InputError(f"{name}: {key}", why="this is no list of words", do='Write it as ["...", "..."]')


def _wires(name: str, told: Any) -> frozenset[str] | None:
    if told is None:
        return None
    found = frozenset(_texts(name, "wires", told))
    strange = found - set(WIRES)
    if strange:
        why = f'"{sanitize(min(strange), 20)}" is no contact'
        raise InputError(f"{name}: wires", why=why, do=f"Known are {', '.join(WIRES)}")
    return found


def _mohm(name: str, told: Any) -> float | None:
    if told is None:
        return None
    if not isinstance(told, str):
        raise InputError(name, why="a resistance has no unit", do='Write it as "90 mohm"')
    return parse_quantity(told, Dimension.RESISTANCE).value * 1000


def _claim(name: str, sentence: str) -> Any:
    try:
        return parse_claim(f"body {sentence}", claim_id="")
    except ClaimError as error:
        raise InputError(
            f"{name}: says", why=str(error), do="Write what the seller says as claims of a cable"
        ) from error
