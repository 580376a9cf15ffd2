"""What can come next while somebody types a claim: ports, kinds, units, the gear's modes, conditions."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache

from auditra.core.claims.claim import Claim
from auditra.core.claims.language import promise_kinds, read_words
from auditra.core.claims.promise import Hedge
from auditra.core.claims.terms import ModeTerm
from auditra.core.claims.tokens import CONDITION_WORDS, MAX_SENTENCE_LENGTH, Words
from auditra.core.errors import ClaimError
from auditra.core.model.device import BODY, Device, Role
from auditra.core.model.rig import Rig
from auditra.core.quantities.parsing import both_forms

MAX_OFFERED = 16
_HEDGES = tuple(each.value for each in Hedge)


@dataclass(frozen=True)
class Typed:
    """A sentence as far as it is typed: what may follow, each as it would be typed on, and what is wrong so far.

    `offers` are the words themselves, `keep` how much of the text stands before them.
    """

    keep: str
    offers: tuple[str, ...]
    error: ClaimError | None = None
    claims: tuple[Claim, ...] = ()
    forms: tuple[str, ...] = ()
    """Its values in the two forms that people mix up."""

    def with_offer(self, offer: str) -> str:
        """The text with an offer taken."""
        gap = "" if not self.keep or self.keep.endswith(" ") else " "
        return f"{self.keep}{gap}{offer}"


def complete(text: str, device: Device, rig: Rig | None = None) -> Typed:
    """What can follow a text, the likeliest first. Never raises: a text that cannot be read has its error beside it."""
    if len(text) > MAX_SENTENCE_LENGTH or not text.isprintable():
        return Typed(text, (), ClaimError(text[:MAX_SENTENCE_LENGTH], column=1, found="", expected="plain words"))
    words = Words(text, notes=True)
    try:
        claims = read_words(words)
    except ClaimError as error:
        return _after_error(text, error, words.looked_for, device, rig)
    forms = tuple(form for each in words.quantities if "=" in (form := both_forms(each)))
    return Typed(text, _beginning_with("", words.looked_for), claims=claims, forms=forms)


def _after_error(text: str, error: ClaimError, looked_for: Iterable[str], device: Device, rig: Rig | None) -> Typed:
    ports = [port.id for port in device.ports()] + [BODY]
    if " " not in text and text not in ports:
        return Typed("", _beginning_with(text, ports), error)
    keep, begun = text[: error.column - 1], text[error.column - 1 :]
    if not begun.strip():
        keep, begun = text, ""
    offers = list(looked_for)
    if not offers and keep.split()[-1:] == ["while"]:
        offers = ports
    if set(_opening_words()) <= set(offers):
        offers = _kinds_for(keep.split()[-1], device)
    return Typed(keep, _beginning_with(begun, _from_rig(offers, rig) if rig else offers), error)


@cache
def _opening_words() -> tuple[str, ...]:
    return tuple(kind.words for kind in promise_kinds())


_USUAL = {
    "usb-a": ("data", "gives", "reads", "writes", "feeds"),
    "usb-c": ("data", "gives", "shows", "takes", "fast charges", "no data", "no display"),
    "usb-c plug": ("charges host", "passes", "length", "data"),
    "usb-a plug": ("length", "data"),
    "rj45": ("links", "frames"),
    "hdmi": ("shows", "one at a time"),
    "displayport": ("shows", "one at a time"),
    "vga": ("shows", "one at a time"),
    "sd": ("cards", "accepts cards of"),
    "microsd": ("cards", "accepts cards of"),
    "3.5 mm": ("plays", "records"),
    "barrel": ("takes", "no data"),
}
"""What sellers usually promise of a connector: offered first."""


def _kinds_for(subject: str, device: Device) -> list[str]:
    """The opening words of every kind, those first that are usual for the port."""
    port_id = subject.rpartition(":")[2].replace("|", "+").split("+")[0]
    port = device.port(port_id)
    if port is None:
        usual = [kind.words for kind in promise_kinds() if kind.on_body]
    else:
        usual = [*(("takes", "no data") if port.role is Role.INLET else ()), *_USUAL.get(port.connector, ())]
    return list(dict.fromkeys([*usual, *sorted(_opening_words())]))


def _from_rig(offers: Sequence[str], rig: Rig) -> list[str]:
    """The rig's own modes and hosts before the examples."""
    if ModeTerm.examples[0] in offers:
        modes = [mode for display in rig.displays for mode in display.modes]
        return list(dict.fromkeys([*modes, *offers]))
    if list(offers) == ["laptop"]:
        return [host.name for host in rig.hosts]
    return list(offers)


def _beginning_with(begun: str, offers: Iterable[str]) -> tuple[str, ...]:
    """The offers that go on with what is typed; conditions last."""
    fitting = [each for each in dict.fromkeys(offers) if each.lower().startswith(begun.lower()) and each != ","]
    fitting.sort(key=lambda each: each in CONDITION_WORDS or each in _HEDGES)
    return tuple(fitting[:MAX_OFFERED])
