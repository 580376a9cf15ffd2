"""The worth of a device in words."""

from __future__ import annotations

from collections.abc import Iterator
from decimal import Decimal

from auditra.core.advice.worth import AtPrice, Worth


def price_text(at: AtPrice) -> str:
    """A price with its kind and day, and what is paid in all where that is more: ``street 80.00 EUR, 2026-03-01``."""
    price = at.price
    day = f", {price.seen}" if isinstance(price.seen, str) else ""
    extras = f", {at.total} with extras" if at.total != Decimal(f"{price.amount:.2f}") else ""
    return f"{at.kind} {price.amount:.2f} {price.money}{day}{extras}"


def extras_text(worth: Worth) -> Iterator[str]:
    """What must be bought besides, and what is cheaper in a shop than by the list."""
    money = worth.at[0].price.money
    if worth.extras:
        yield f"Sold separately: {worth.extras} {money}."
    if worth.extras_elsewhere:
        yield f"Sold separately, not in the sums: {', '.join(worth.extras_elsewhere)}."
    if worth.discount is not None and worth.discount > 0:
        yield f"Shops ask {100 * worth.discount:.0f} % less than the list price."


def best_text(worth: Worth) -> Iterator[str]:
    """The best of its kind on the shelf, and the price at which this one is worth as much."""
    best = worth.best
    if best is None:
        yield "Nothing else of its kind on the shelf has a score and a price in this money."
        return
    per_hundred = 100 * best.per_money
    named = f"{best.device} ({best.audit})"
    yield f"The best of the others on the shelf is the {named}: {per_hundred:.2f} for 100 {best.money}."
    if worth.matches_at is not None:
        yield f"It would be worth as much at {worth.matches_at} {best.money}."
