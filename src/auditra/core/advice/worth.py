"""What a device is worth: points for money at every price that was noted, beside the best of its kind on the shelf.

    points per 100 = 100 x score / (price + what must be bought besides)
    it matches the best at   score / (the best one's points per unit of money) - what must be bought besides

Only prices in one money are compared; nothing is converted. The score band decides what is better: where the bands of
two devices overlap in points for money, they are about even.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import ROUND_HALF_EVEN, Decimal
from enum import StrEnum

from auditra.core.judge.score import Score
from auditra.core.model.device import Device, Price, PriceKind
from auditra.core.model.kind import is_cable

_CENT = Decimal("0.01")
_HUNDRED = Decimal(100)


class Relation(StrEnum):
    """A price beside the best of the others."""

    BETTER = "more for the money than"
    EVEN = "about as much for the money as"
    LESS = "less for the money than"


@dataclass(frozen=True)
class Peer:
    """Another audit of the shelf: its score with its band, and what one pays in all."""

    audit: str
    device: str
    kind: str
    profile: str
    score: Decimal
    lowest: Decimal
    highest: Decimal
    total: Decimal
    money: str

    @property
    def per_money(self) -> Decimal:
        return self.score / self.total


@dataclass(frozen=True)
class AtPrice:
    """One price: what is paid in all, what that buys, and how it stands beside the best of the others."""

    price: Price
    total: Decimal
    per_hundred: Decimal
    """Points of the score for 100 units of money."""
    relation: Relation | None
    """None where nothing on the shelf can be compared."""

    @property
    def kind(self) -> str:
        return str(self.price.kind) if isinstance(self.price.kind, PriceKind) else "price"


@dataclass(frozen=True)
class Worth:
    """The worth of a device; without a score or a price there is none."""

    at: tuple[AtPrice, ...]
    extras: Decimal
    """What must be bought besides, in the money of the price."""
    extras_elsewhere: tuple[str, ...]
    """Extras without a price, or in other money: they are not in the sums."""
    best: Peer | None
    matches_at: Decimal | None
    """The price at which it gives as many points for money as the best; None where nothing can be compared."""
    discount: Decimal | None
    """How far the lowest price of a shop is below the list price, as a share; apart from all else."""


def worth_of(device: Device, score: Score, profile: str, peers: Iterable[Peer]) -> Worth | None:
    """The worth of a device beside those of its kind that were scored with the same profile."""
    prices = tuple(each for each in device.prices if each.amount > 0)  # of no price nothing can be said
    if score.value is None or not prices:
        return None
    money = prices[0].money
    extras, elsewhere = _extras(device, money)
    alike = [each for each in peers if each.money == money and each.profile == profile
             and is_cable(each.kind) == is_cable(device.kind)]  # fmt: skip
    best = max(alike, key=lambda each: each.per_money, default=None)
    return Worth(
        tuple(_at(price, extras if price.money == money else Decimal(0), score, best) for price in prices),
        extras, elsewhere, best, _matches_at(score.value, best, extras), _discount(prices),
    )  # fmt: skip


def _extras(device: Device, money: str) -> tuple[Decimal, tuple[str, ...]]:
    extras = device.extras if isinstance(device.extras, tuple) else ()
    priced = [each for each in extras if isinstance(each.price, Price) and each.price.money == money]
    total = sum((_decimal(each.price) for each in priced if isinstance(each.price, Price)), Decimal(0))
    return total, tuple(each.name for each in extras if each not in priced)


def _at(price: Price, extras: Decimal, score: Score, best: Peer | None) -> AtPrice:
    total = _decimal(price) + extras
    per_hundred = (_HUNDRED * (score.value or Decimal(0)) / total).quantize(_CENT, ROUND_HALF_EVEN)
    comparable = best is not None and best.money == price.money
    return AtPrice(price, total, per_hundred, _relation(score, total, best) if comparable and best else None)


def _relation(score: Score, total: Decimal, best: Peer) -> Relation:
    if score.lowest / total > best.highest / best.total:
        return Relation.BETTER
    if score.highest / total < best.lowest / best.total:
        return Relation.LESS
    return Relation.EVEN


def _matches_at(score: Decimal, best: Peer | None, extras: Decimal) -> Decimal | None:
    if best is None or not best.score:
        return None
    return max(Decimal(0), score / best.per_money - extras).quantize(_CENT, ROUND_HALF_EVEN)


def _discount(prices: Sequence[Price]) -> Decimal | None:
    listed = [each for each in prices if each.kind is PriceKind.LIST]
    asked = [each for each in prices if each.kind is PriceKind.STREET]
    pairs = [(one, other) for one in listed for other in asked if one.money == other.money]
    if not pairs:
        return None
    return max(1 - _decimal(street) / _decimal(list_) for list_, street in pairs)


def _decimal(price: Price) -> Decimal:
    return Decimal(str(price.amount)).quantize(_CENT, ROUND_HALF_EVEN)
