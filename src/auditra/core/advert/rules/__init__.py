"""What each kind of figure promises, a file for each: by its subject and by the words around it."""

from __future__ import annotations

from auditra.core.advert.reading import Rule
from auditra.core.advert.rules import body, device, leads, offer, pictures, power, rates, sound, storage

RULES: tuple[Rule, ...] = (
    rates.declare, leads.lead, rates.rates, rates.generations, rates.same_again, rates.no_data, pictures.pictures, pictures.traits,
    pictures.no_display, pictures.one_at_a_time, storage.cards, storage.sizes, power.power, power.standards,
    body.body, body.made_of, device.drivers, device.protections, device.hosts, device.wakes, device.lock, device.buttons,
    device.desk_switch, sound.sound, sound.optical, offer.included, offer.comes_with, offer.costs,
)  # fmt: skip
"""In the order in which a clause is asked; the numbers of sockets follow from it."""
