"""What each kind of figure promises, a file for each: by its subject and by the words around it."""

from __future__ import annotations

from auditra.core.advert.rules import (
    amperes,
    body,
    declared,
    device,
    gear,
    generations,
    in_the_box,
    leads,
    no_data,
    offer,
    pictures,
    power,
    rates,
    sound,
    storage,
    worded,
)
from auditra.core.advert.state import Rule

RULES: tuple[Rule, ...] = (
    declared.declare, leads.lead, rates.rates, generations.generations, generations.same_again,
    generations.of_that_speed, no_data.no_data,
    pictures.pictures, pictures.same_picture, pictures.traits,
    pictures.no_display, pictures.one_at_a_time, storage.cards, storage.sizes,
    power.power, amperes.standards, body.body, body.made_of, worded.worded, device.drivers, device.hosts,
    device.buttons, device.desk_switch, sound.sound, sound.optical, in_the_box.in_the_box, gear.works_with,
    offer.costs,
)  # fmt: skip
"""In the order in which a clause is asked; the numbers of sockets follow from it."""
