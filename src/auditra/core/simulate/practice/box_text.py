"""What stands on the box of a practice device, in one of several styles of sellers."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from auditra.core.claims.claim import Claim

_SOCKETS = {"A": "USB-A", "C": "USB-C", "S": "SD slot", "N": "network", "H": "HDMI", "D": "DisplayPort", "J": "sound",
            "B": "button", "P": "power inlet", "F": "USB-C socket", "UP": "host", "body": ""}  # fmt: skip
_COUNTS = {2: "two", 3: "three", 4: "four"}


@dataclass(frozen=True)
class _Offer:
    """Sockets of one class with all that is promised of each."""

    ports: tuple[str, ...]
    promises: tuple[str, ...]

    @property
    def name(self) -> str:
        return _SOCKETS.get(self.ports[0].rstrip("0123456789"), self.ports[0])


def box_text(kind: str, claims: list[Claim], dice: random.Random) -> str:
    """The whole text."""
    offers = list(_offers(claims))
    style = dice.choice((_as_list, _as_prose, _as_table))
    sockets = [line for offer in offers if offer.name for line in (style(offer),)]
    whole = [words for offer in offers if not offer.name for words in offer.promises]
    return "\n".join((f"{kind.capitalize()} for your desk", "", *sockets, *(_of_the_whole(words) for words in whole)))


def _offers(claims: list[Claim]) -> Iterator[_Offer]:
    """Sockets of one class that promise the same stand together."""
    by_port: dict[str, list[str]] = {}
    for claim in claims:
        by_port.setdefault(claim.port, []).append(str(claim).partition(" ")[2])
    grouped: dict[tuple[str, tuple[str, ...]], list[str]] = {}
    for port, promises in by_port.items():
        grouped.setdefault((port.rstrip("0123456789"), tuple(promises)), []).append(port)
    for (_, told), ports in grouped.items():
        yield _Offer(tuple(ports), told)


def _as_list(offer: _Offer) -> str:
    count = f"{len(offer.ports)} x " if len(offer.ports) > 1 or offer.name.startswith("USB") else ""
    each = " each" if len(offer.ports) > 1 else ""
    return f"- {count}{offer.name}: {', '.join(_plain(promise) for promise in offer.promises)}{each}"


def _as_prose(offer: _Offer) -> str:
    count, many = _COUNTS.get(len(offer.ports), ""), len(offer.ports) > 1
    name = f"{offer.name}{' sockets' if offer.name.startswith('USB-') and 'socket' not in offer.name else ''}"
    subject = f"{count.capitalize()} {name}" if many else f"The {name.removesuffix('s') if 'sockets' in name else name}"
    told = " and ".join(_plain(promise) for promise in offer.promises)
    return f"{subject}: {told}{' each' if many else ''}."


def _as_table(offer: _Offer) -> str:
    count = f"{len(offer.ports)}x " if len(offer.ports) > 1 else ""
    return f"{count}{offer.name} | {' | '.join(_plain(promise) for promise in offer.promises)}"


def _mode(rest: str) -> str:
    """``3840x2160@60 10 bit hdr`` as people write it."""
    mode, *options = rest.split(" ")
    size, _, refresh = mode.partition("@")
    return " ".join((size.replace("x", " x "), "at", refresh, "Hz", *options))


def _itself(rest: str) -> str:
    return rest


_PLAIN: dict[str, Callable[[str], str]] = {
    "data": _itself,
    "cards": _itself,
    "links": _itself,
    "shows": _mode,
    "gives": lambda rest: f"gives {rest}",
    "takes": lambda rest: f"takes up to {rest}",
    "charges": lambda rest: f"charges the host with {rest.removeprefix('host ')}",
    "length": lambda rest: f"fixed lead of {rest}",
    "button": lambda rest: "wakes the sleeping host with the lid closed",
    "plays": lambda rest: f"{rest} jack for headphones",
}


def _plain(promise: str) -> str:
    verb, _, rest = promise.partition(" ")
    return _PLAIN[verb](rest) if verb in _PLAIN else promise


def _of_the_whole(promise: str) -> str:
    return f"- {promise}"
