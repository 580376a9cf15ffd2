"""Whether somebody's kit fits a device: each piece gets a socket of its own, the least that will do, or none is left.

The assignment is the cheapest one (Hungarian method, Kuhn 1955), so that a fast socket is not spent on a slow thing.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from auditra.core.claims.kinds.data import Data
from auditra.core.claims.kinds.gives import Gives
from auditra.core.claims.kinds.links import Links
from auditra.core.claims.kinds.shows import Shows
from auditra.core.errors import InputError, QuantityError
from auditra.core.judge.claim_verdict import ClaimVerdict
from auditra.core.links.connectors import parse_connector
from auditra.core.links.display import Mode, mode_of
from auditra.core.model.device import Device, Port, Role
from auditra.core.quantities.parsing import parse_quantity
from auditra.core.quantities.units import Dimension
from auditra.core.sanitize import sanitize

MAX_PIECES = 64
_COUNT = re.compile(r"(\d{1,2})\s*x\s+(.+)")
_FORM = "Write it as 2 x drive usb-a 5 Gb/s; display hdmi 3840x2160@60; phone usb-c 18 W"


class Fit(StrEnum):
    """How well a socket serves a piece; the worst that is still a fit comes last."""

    GOOD = "fits"
    NOT_STATED = "fits, and the seller does not state what it needs"
    TOO_LITTLE = "fits, with less than it needs"
    FAILED = "fits, and the socket failed its trials"


_COST = {Fit.GOOD: 0.0, Fit.NOT_STATED: 10.0, Fit.TOO_LITTLE: 100.0, Fit.FAILED: 1000.0}
_NO_SOCKET = 1e6
_SURPLUS = 1e-12
"""What a socket costs for each bit per second more than is needed: it only breaks ties."""


@dataclass(frozen=True)
class Piece:
    """One thing to plug in: its name, the connector, and what it needs there."""

    name: str
    connector: str
    data_bps: float = 0.0
    watts: float = 0.0
    mode: Mode | None = None


@dataclass(frozen=True)
class Placed:
    """A piece with the socket that it gets; None where none is left for it."""

    piece: Piece
    port: str | None
    fit: Fit | None


def parse_kit(text: str) -> tuple[Piece, ...]:
    """``2 x drive usb-a 5 Gb/s; display hdmi``, one piece each. Raises: InputError."""
    pieces: list[Piece] = []
    for part in (each.strip() for each in text.split(";")):
        match = _COUNT.fullmatch(part)
        if part:
            pieces += [_piece(match[2] if match else part)] * (int(match[1]) if match else 1)
    if not pieces or len(pieces) > MAX_PIECES:
        why = "it has nothing in it" if not pieces else f"it has {len(pieces)} pieces; {MAX_PIECES} are the most"
        raise InputError("the kit", why=why, do=_FORM)
    return tuple(pieces)


def _piece(text: str) -> Piece:
    """A name, a connector, then what it needs. Raises: InputError."""
    words = text.split()
    for at in range(1, len(words)):
        for end in range(min(len(words), at + 2), at, -1):
            try:
                connector = parse_connector(" ".join(words[at:end]))
            except InputError:
                continue
            return _with_need(Piece(sanitize(" ".join(words[:at]), 40), connector), " ".join(words[end:]))
    raise InputError(f'"{sanitize(text, 40)}"', why="it names no connector", do=_FORM)


def _with_need(piece: Piece, need: str) -> Piece:
    if not need:
        return piece
    if (mode := mode_of(need)) is not None:
        return Piece(piece.name, piece.connector, mode=mode)
    try:
        found = parse_quantity(need, Dimension.BIT_RATE, Dimension.BYTE_RATE, Dimension.POWER)
    except QuantityError as error:
        raise InputError(f'"{sanitize(need, 40)}"', why=error.why, do=_FORM) from error
    if found.unit.dimension is Dimension.POWER:
        return Piece(piece.name, piece.connector, watts=found.value)
    return Piece(piece.name, piece.connector, data_bps=found.value)


def fit_kit(pieces: Sequence[Piece], device: Device, claims: Sequence[ClaimVerdict]) -> tuple[Placed, ...]:
    """Every piece with its socket, in their order."""
    import numpy  # loaded once somebody asks
    from scipy.optimize import linear_sum_assignment

    ports = [port for port in device.ports() if port.role is not Role.UPSTREAM]
    fits = [[_fit(piece, port, claims) for port in ports] for piece in pieces]
    costs = numpy.full((len(pieces), max(1, len(ports))), _NO_SOCKET)
    for row, piece in enumerate(pieces):
        for column, port in enumerate(ports):
            fit = fits[row][column]
            if fit is not None:
                costs[row, column] = _COST[fit] + _SURPLUS * max(0.0, _rate_of(port, claims) - piece.data_bps)
    rows, columns = linear_sum_assignment(costs)
    placed = {
        int(row): int(column) for row, column in zip(rows, columns, strict=True) if costs[row, column] < _NO_SOCKET
    }
    return tuple(
        Placed(piece, ports[placed[row]].id, fits[row][placed[row]]) if row in placed else Placed(piece, None, None)
        for row, piece in enumerate(pieces)
    )


def _fit(piece: Piece, port: Port, claims: Sequence[ClaimVerdict]) -> Fit | None:
    """None where it does not go in at all."""
    if port.connector.removesuffix(" plug") != piece.connector:
        return None
    here = [each for each in claims if port.id in each.claim.ports]
    if not (piece.data_bps or piece.watts or piece.mode):
        return Fit.GOOD
    stated = [each for each in here if _is_about(piece, each)]
    if not stated:
        return Fit.NOT_STATED
    if any(each.verdict.accuses for each in stated):
        return Fit.FAILED
    return Fit.GOOD if any(_is_enough(piece, each) for each in stated) else Fit.TOO_LITTLE


def _is_about(piece: Piece, verdict: ClaimVerdict) -> bool:
    """Whether a claim states what the piece needs."""
    kinds: tuple[type, ...] = (Shows,) if piece.mode else (Gives,) if piece.watts else (Data, Links)
    return isinstance(verdict.claim.promise, kinds)


def _is_enough(piece: Piece, verdict: ClaimVerdict) -> bool:
    match verdict.claim.promise:
        case Data(rate_bps=rate) | Links(rate_bps=rate):
            return rate >= piece.data_bps
        case Gives(watts=watts):
            return watts >= piece.watts
        case Shows(mode=mode):
            return piece.mode is not None and mode.covers(piece.mode)
        case _:
            return False


def _rate_of(port: Port, claims: Sequence[ClaimVerdict]) -> float:
    """The fastest data that is claimed of a socket."""
    rates = (
        each.claim.promise.rate_bps
        for each in claims
        if port.id in each.claim.ports and isinstance(each.claim.promise, Data | Links)
    )
    return max(rates, default=0.0)
