"""What figures beside sockets promise: data, network, pictures, cards, power, sound."""

from __future__ import annotations

import re
from collections.abc import Iterator

from auditra.core.advert.mentions import Mention, What, hedge
from auditra.core.advert.phrases import Context, Phrase

_NETWORK_ALWAYS = re.compile(r"gbe|base-?t|10/100")
_NETWORK_ALONE = re.compile(r"gigabit|gbe|10/100")
_TOGETHER = re.compile(
    r"side by side|at once|at the same time|both together|^\W*(?:dual|two|three)\b|\beach\b|\b(?:two|dual"
    r"|three|triple) (?:4k |8k |uhd )?(?:monitors|displays|screens)|all (?:two|three|four) displays"
)
_TWO_SCREENS = re.compile(r"\b(?:two|2|dual|zwei|deux) (?:displays|monitors|screens|monitore|écrans|bildschirme)\b")
_ALL_DISPLAYS = re.compile(
    r"(?:with|on) all (?:two |three |four )?(?:displays|monitors|screens)|(?:using|with|on) both\b"
    r"|(?<!not )both (?:together|at once)|(?:two|three|four) (?:displays|monitors|screens) (?:at once|together)"
)
_OF_A_CHARGER = re.compile(r"\s*(?:\w+ )?(?:charger|power adapter|power brick|netzteil)\b", re.IGNORECASE)
_CONDITION = re.compile(r"\b(?:when|if|wenn|sobald|si|quando|cuando)\b")
_COMBINED = re.compile(r"\b[AC][1-9]\s*\+\s*[AC][1-9]\b")
_READ_OR_WRITE_BEHIND = re.compile(r"\s*(read|writ)", re.IGNORECASE)
_READ_OR_WRITE_BEFORE = re.compile(
    r"\b(read|writ)(?:s|es?|ing)?\b:?(?:\s+(?:speeds?|rates?|sd|micro-?sd|cards?|them|it|at|with"
    r"|of)){0,5}\s*(?:up to\s*)?$",
    re.IGNORECASE,
)


def data(context: Context, phrase: Phrase) -> Iterator[str]:
    """``A1 data 5 Gb/s``, ``N1 links 1 Gb/s``, ``N1 frames 9 kB``."""
    rates = _no_fallbacks(context, phrase)
    plain = [each for each in rates if not each.value.lower().startswith("usb")]
    for figure in plain or rates:
        connector, ids = context.target(figure, phrase)
        word = context.text[figure.start : figure.end].lower()
        if connector == "rj45" or (_NETWORK_ALWAYS if ids else _NETWORK_ALONE).search(word):
            port = ids[0] if connector == "rj45" else context.sockets.only("rj45")[0]
            yield f"{port} links {figure.value}"
            continue
        if context.is_drive and connector == "usb-c":
            ids = ("UP",)
        if not ids:
            context.loose.append(figure)
        yield from (f"{port} data {hedge(figure)}{figure.value}" for port in context.share(figure, ids, phrase))
    if phrase.has("frames"):
        yield from (f"N1 frames {each.value}" for each in phrase.figures(What.BYTES))


def _no_fallbacks(context: Context, phrase: Phrase) -> list[Mention]:
    """The rates of a phrase; of those of a network link, which falls back to each slower one, the first."""
    rates = phrase.figures(What.RATE)
    if not any(each.value == "rj45" for each, _ in phrase.sockets or context.current):
        return rates
    first = next((each for each in context.of_sentence if each.what is What.RATE), None)
    return [each for each in rates if each is first or phrase.sockets]


def pictures(context: Context, phrase: Phrase) -> Iterator[str]:
    """``H1 shows 3840x2160@60``, ``H1+H2 show ... each``, ``H1|D1 one at a time``."""
    modes = phrase.figures(What.MODE)
    ends = [*(each.start for each in modes[1:]), phrase.end]
    for figure, end in zip(modes, ends, strict=False):
        besides = _besides(context, phrase, (figure.start, end) if len(modes) > 1 else (phrase.start, phrase.end))
        _, ids = context.target(figure, phrase)
        if _ALL_DISPLAYS.search(phrase.sentence) or (not ids and _TWO_SCREENS.search(phrase.sentence)):
            ids = context.outputs()
        mode = f"{hedge(figure)}{figure.value}{besides}"
        near = context.text[figure.end : figure.end + 10].lower()
        if len(ids) > 1 and "single" in near:
            yield f"{'|'.join(ids)} show {mode} each"
        elif len(ids) > 1 and ("dual" in near or _TOGETHER.search(phrase.sentence)):
            yield f"{'+'.join(ids)} show {mode} each"
        else:
            yield from (f"{port} shows {mode}" for port in ids)
    if phrase.has("one at a time"):
        outputs = context.outputs()
        if len(outputs) > 1:
            yield f"{'|'.join(outputs)} one at a time"
    if phrase.has("no video"):
        yield from (f"{port} no display" for port in context.near("usb-c", phrase))


def _besides(context: Context, phrase: Phrase, between: tuple[int, int]) -> str:
    """Depth, chroma and the rest: from the whole sentence where that has one mode alone, else from beside the mode."""
    alone = sum(each.what is What.MODE for each in context.of_sentence) == 1
    start, end = between
    about = [each for each in context.of_sentence if alone or start <= each.start < end]
    words = {each.value for each in about if each.what is What.WORD}
    parts = [f" {each.value} bit" for each in about if each.what is What.DEPTH]
    parts += [f" {each.value}" for each in about if each.what is What.CHROMA]
    parts += [f" {name}" for word, name in (("hdr", "hdr"), ("vrr", "vrr"), ("dsc", "compressed")) if word in words]
    return "".join(parts)


def cards(context: Context, phrase: Phrase) -> Iterator[str]:
    """``S1 cards 104 MB/s``, ``S1 cards UHS-II``, ``M1 reads 90 MB/s``, ``S1 accepts cards of up to 2 TB``."""
    every = tuple(port for each in ("sd", "microsd") for port in context.sockets.found.get(each, []))
    rates = phrase.figures(What.BYTE_RATE)
    for figure in rates:
        behind = _READ_OR_WRITE_BEHIND.match(context.text[figure.end : phrase.end])
        before = _READ_OR_WRITE_BEFORE.search(context.text[phrase.start : figure.start])
        found = behind or before
        verb = {"r": "reads", "w": "writes"}[found[1][0].lower()] if found else "cards"
        _, near = context.target(figure, phrase)
        ports = ("UP",) if context.is_drive and not every else near or every
        yield from (f"{port} {verb} {hedge(figure)}{figure.value} MB/s" for port in ports)
    for figure in phrase.figures(What.BUS) if not context.tells_card_rates else ():
        _, near = context.target(figure, phrase)
        yield from (f"{port} cards {figure.value}" for port in near or every)
    if phrase.has("cards"):
        yield from (f"{p} accepts cards of up to {each.value}" for each in phrase.figures(What.BYTES) for p in every)


def power(context: Context, phrase: Phrase) -> Iterator[str]:
    """Watts where the words put them; amperes that are fed; standards of fast charging; no data on an inlet."""
    if _COMBINED.search(phrase.text[phrase.start : phrase.end]) or _depends(phrase):
        return
    largest = max((float(m.value) for m in context.of_sentence if m.what is What.VOLTS_AMPERES), default=0.0)
    for figure in phrase.figures(What.WATTS, What.VOLTS_AMPERES):
        if figure.what is What.WATTS or float(figure.value) >= largest:
            yield from _watts(context, phrase, figure)
    if phrase.has("feeds"):
        for figure in phrase.figures(What.AMPERES):
            _, near = context.target(figure, phrase)
            ids = near or tuple(context.sockets.found.get("usb-a", ()))
            yield from (f"{port} feeds {hedge(figure)}{figure.value} A" for port in ids)
    if phrase.has("no data") and (context.inlet or phrase.has("input")):
        yield "P1 no data"
    if context.is_charger:
        for port in context.near("usb-c", phrase) if phrase.has("pps", "pd") else ():
            yield from (
                f"{port} fast charges by {name}" for word, name in (("pd", "PD"), ("pps", "PD PPS")) if phrase.has(word)
            )


def _depends(phrase: Phrase) -> bool:
    """Whether the watts of a sentence are given under a condition, which a person should put into words."""
    said = _CONDITION.search(phrase.sentence)
    return said is not None and phrase.text.find("otherwise", phrase.start, phrase.end) < 0


def _watts(context: Context, phrase: Phrase, figure: Mention) -> Iterator[str]:
    watts = f"{hedge(figure)}{figure.value} W"
    connector, ids = context.target(figure, phrase)
    if re.search(r"supply|inverter", phrase.words) or (
        not context.is_charger and _OF_A_CHARGER.match(context.text, figure.end)
    ):
        return
    if phrase.has("uses"):
        yield f"body uses {watts}"
    elif phrase.has("total") and len(phrase.figures(What.WATTS)) > 1:
        return
    elif phrase.has("total"):
        givers = [port for each in ("usb-c", "usb-a") for port in context.sockets.found.get(each, [])]
        yield f"{'+'.join(givers)} share {watts}"
    elif phrase.has("passes"):
        yield f"UP passes {watts}"
    elif _to_the_host(context, phrase, ids) and not re.search(r"input|inlet", phrase.words):
        beside = next((each for each in ("without display", "with display") if phrase.has(each)), "")
        yield f"UP charges host {watts} {beside}".strip()
    elif not context.is_charger and _into_the_device(context, phrase, figure):
        context.inlet = True
        yield f"P1 takes {watts}"
    elif connector and (figure.what is What.WATTS or context.says(phrase, "gives")):
        ids = context.share(figure, ids, phrase)
        every = tuple(context.sockets.found[connector]) if phrase.has("each") and len(ids) == 1 else ids
        yield from (f"{port} gives {watts}" for port in every)


def _to_the_host(context: Context, phrase: Phrase, ids: tuple[str, ...]) -> bool:
    here = any(port in ids for _, ports in phrase.sockets for port in ports)
    if (
        phrase.has("gives")
        and not (phrase.sockets or phrase.has("input"))
        and context.says(phrase, "input")
        and not context.is_charger
    ):
        return True
    return (phrase.has("host") and not here) or (not ids and (context.says(phrase, "host") or phrase.has("charges")))


def _into_the_device(context: Context, phrase: Phrase, figure: Mention) -> bool:
    """An inlet's figure: its phrase says so, or its sentence and nothing else in the phrase claims it."""
    if phrase.has("input"):
        return True
    earlier = context.says(phrase, "input")
    return earlier and (figure.what is What.VOLTS_AMPERES or not (phrase.sockets or phrase.has("gives")))


def sound(context: Context, phrase: Phrase) -> Iterator[str]:
    """``J1 plays 3.5 mm 300 ohm``, ``J1 records``."""
    sized = " 3.5 mm" if context.names_3_5_mm else ""
    ohms = context.ohms
    for jack in [ids[0] for each, ids in phrase.sockets if each.value == "3.5 mm"][:1]:
        yield f"{jack} plays{sized}{f' {ohms[-1].value} ohm' if ohms else ''}"
    if phrase.has("microphone"):
        yield f"J1 records{sized}"
