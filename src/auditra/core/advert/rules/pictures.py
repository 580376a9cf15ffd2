"""Pictures: which modes sockets show, how many at once, and sockets that show none."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from auditra.core.advert.belonging import ids_of
from auditra.core.advert.condition_forms import SYSTEMS, Means
from auditra.core.advert.figures import Figure
from auditra.core.advert.governing import under_what
from auditra.core.advert.phrases import any_of, begins_with, ends_with
from auditra.core.advert.promises import NO_DISPLAY, SHOWS, joined, promise, say, say_of
from auditra.core.advert.rules.screens import (
    BOTH,
    SCREENS,
    TIMES_BEFORE,
    every_named,
    is_of_some,
    is_repeated,
    of_so_many,
    sockets_of_mode,
    whole_list,
)
from auditra.core.advert.rules.worded import sold_as
from auditra.core.advert.sentence import Sentence
from auditra.core.advert.sockets import PICTURE_SOCKETS, Socket
from auditra.core.advert.state import Said, State
from auditra.core.advert.units import Dim
from auditra.core.claims.kinds.shows import NoDisplay, OneAtATime

_TRAITS = (
    ("extended", any_of("extended")), ("hdr", re.compile(r"(?<!no )(?<!without )\bHDR", re.IGNORECASE)),
    ("vrr", re.compile(r"(?i)(?<!no )(?<!without )\b(?:VRR|variable refresh)\b")), ("mirrored",
    any_of(r"(?<!one )(?<!second )mirror\w*(?! or extend| only\b)", "repeats",
    "same picture")),
)  # fmt: skip
_COMPRESSED = re.compile(r"[^,;.]{0,6}\b(?:with |over |by )?(?:DSC|compress)", re.IGNORECASE)
_WITH_COMPRESSION = any_of("with (?:DSC|compression)", "compressed", r"\(DSC\)")
_TWO_SCREENS = re.compile(r"(?i)\b(?:two|2|both|dual) (?:screens|displays|monitors|pictures)\b")
_ON_ONE = re.compile(r"(?i)\s*(?:on|at|over|via|through) (?:the )?(?:one|first)(?: \w+){0,2},?\s*(?:and |but )?")
_ON_OTHER = re.compile(r"(?i)\s*(?:on|at|over|via|through) the (?:other|second)\b")
_ONE = re.compile(r"(?i)\b(?:one|the first)\b[^,.;]{0,24}$")
_THE_OTHER = re.compile(r"(?i)\s*,?\s*(?:and |but )?the (?:other|second)(?: one)?[\w ]{0,12}\s*")
_PLUS = re.compile(r"\s*(?:plus|\+)\s*", re.IGNORECASE)
_MIRRORS = re.compile(r"(?i)\b(?:mirrors|repeats) (?=(?:the )?\w)")
_BEGINS_TRAIT = re.compile(
    r"(?i)\W*(?:it |(?:al)?so )*(?:passes|supports?|carries|with|does|knows)\b(?!.*\b(?:cables?|leads?)\b)"
)
"""``Passes VRR and HDR10``: of the pictures that were promised just before."""
_OF_A_MODE = ("hdr", "vrr", "mirrored")
_TRAIT_PARTS = re.compile(r"[^,;.]+")
_MOST_SCREENS = re.compile(r"(?i)\b(?:displays|screens|monitors)\b")
_ANY_OF_THEM = re.compile(r"(?i)\bany (?:one|two|three|2|3)\b(?:[^,;.]*| at once,? | at a time,? )$")
_EVERY = any_of("all", "both", "every", "each")
_SHOWN_MODE = re.compile(
    r"(?:\w+:)?(?P<ports>[HDV]\d(?:[+|][HDV]\d)*) shows? (?:(?:up to|at least|about) )?\S+(?: \d+ bit)?(?: 4:\d:\d)?"
)
_ON_SYSTEM = re.compile(r"(?i)\W*(?:on (?:an? |the )?)?(?:Macs?|PCs?|Windows|Linux|macOS|Android)\b")
_THE_SAME = re.compile(r"(?i)\W*(?:sockets? )?(?:is |does |shows )?(?:the same|ditto|likewise)\W*")
_UNDER = re.compile(r" (?=without |with |while |on )")
"""Before the condition of a mode."""
_OR = re.compile(r"\W*(?:or|alternatively)\b", re.IGNORECASE)
_SINGLE_BEFORE = ends_with(
    r"\bsingle (?:monitor|display|screen)(?: up to)?",
    r"\b(?:1 ?x|a single(?: (?:one|\w+))?(?: \w+){0,2}|one(?: \w+)? (?:at|with|for)|or one(?: \w+)?)(?: up to)?",
)
_ONE_SCREEN = re.compile(r"(?i)\W*(?:one|1|single|a single) (?:monitor|screen|display)\W*")
_SINGLE = begins_with(r"\(?(?:single|one (?:display|screen)|alone)")
_SHOWN = any_of("picture", "video", "screen", "display")
_NO_DISPLAY, _NONE = sold_as(NoDisplay), re.compile(r"(?i)\s*(?:no|none|without)\s*")
_ALONE = f" {Means.ALONE}"
_WHEN_USED = any_of(
    "(?:when|if|while) (?:they are )?(?:both )?(?:used|connected) (?:together|at once|at the same time)"
)
_MIRRORED_THERE = re.compile(rf"(?i)\bmirror\w* (?:only )?(?:on|under|with) (?:a |the )?{SYSTEMS.pattern}")
"""``4K60 (mirrored on Macs)``: what one system makes of it."""
_ONE_CARD = any_of(r"(?:only )?one (?:card|slot)[^.;]{0,16}at a time")
_ADAPTER, _BEGINNING = any_of("adapters?"), 100
"""In these characters a text says what it sells."""
_EXCLUSIVE = sold_as(OneAtATime)


def pictures(state: State, sentence: Sentence) -> None:
    """Each mode of the sentence on its sockets."""
    if state.product.is_lead:
        return
    if _one_each(state, sentence):
        return
    if _one_on_each_screen(state, sentence):
        return
    for figure in sentence.of_dim(Dim.MODE):
        if any(each.start <= figure.start < each.end for each in sentence.conditions):
            continue
        if _ANY_OF_THEM.search(sentence.before(figure)):
            continue  # of some of them, and the text does not say of which
        found = every_named(state, sentence, figure)
        if is_of_some(state, sentence, figure, found):
            continue
        times = TIMES_BEFORE.search(sentence.before(figure))
        if times and len(found) > 1 and sum(each.count or 1 for each in found) != int(times[1]):
            continue  # on some of them, and the text does not say on which
        part = of_so_many(sentence, figure, found)
        if part or (found and not is_repeated(sentence, figure, found)):
            _show(state, sentence, figure, part or found, is_part=bool(part))


def _one_each(state: State, sentence: Sentence) -> bool:
    """``both: 3840x2160@60 plus 1920x1080@60``: as many modes as sockets, one of each."""
    modes = list(sentence.of_dim(Dim.MODE))
    if len(modes) == BOTH and _ON_ONE.fullmatch(sentence.text[modes[0].end : modes[1].start]):
        found = sockets_of_mode(state, sentence, modes[0])
        if len(found) == 1 and _ON_OTHER.match(sentence.behind(modes[1], 30)):
            ids = ids_of(state, [replace(found[0], count=BOTH, ids=(), label="")], "one each")
            for port, mode in zip(ids, modes, strict=False):
                promise(state, sentence, [port], SHOWS, mode)
            return True
    one_and_other = len(modes) == BOTH and _ONE.search(sentence.before(modes[0])) is not None
    if one_and_other and _THE_OTHER.fullmatch(sentence.text[modes[0].end : modes[1].start]):
        pass
    elif len(modes) != BOTH or not _PLUS.fullmatch(sentence.text[modes[0].end : modes[1].start]):
        return False
    found = whole_list(state, sentence, modes[0], sockets_of_mode(state, sentence, modes[0]))
    ids = ids_of(state, found, "plus", again=True)
    if len(ids) != BOTH:
        return False
    for port, mode in zip(ids, modes, strict=True):
        promise(state, sentence, [port], SHOWS, mode)
    return True


def _one_on_each_screen(state: State, sentence: Sentence) -> bool:
    """``two screens: DisplayPort 2560x1440@60 and HDMI 1920x1080@60``: each while the other shows its own."""
    modes = list(sentence.of_dim(Dim.MODE))
    named = sentence.sockets_of(PICTURE_SOCKETS)
    if not _TWO_SCREENS.search(sentence.over) or len(modes) != BOTH or len(named) != BOTH:
        return False
    if named[0].letter == named[1].letter or not named[0].end <= modes[0].start < named[1].start < modes[1].start:
        return False
    one, two = (ids_of(state, [each], "while", again=True)[0] for each in named)
    if modes[0].hedged == modes[1].hedged:
        say(state, sentence, f"{one}+{two} show {modes[0].hedged} each")
    else:
        say(state, sentence, f"{one} shows {modes[0].hedged} while {two} shows {modes[1].hedged}")
    return True


def _show(state: State, sentence: Sentence, figure: Figure, found: list[Socket], *, is_part: bool = False) -> None:
    under = under_what(sentence, figure)
    by_screens = not sentence.sockets_of(PICTURE_SOCKETS) and SCREENS.search(sentence.over) is not None
    several_modes = sum(each.dim is Dim.MODE for each in sentence.figures) > 1
    ids: list[str] = []
    for letter in dict.fromkeys(socket.letter for socket in found):
        mine = [socket for socket in found if socket.letter == letter]
        in_title = state.said_in_title(letter, "shows?", figure.hedged)
        again = (
            is_part
            or _is_same_set(state, sentence, mine)
            or bool(under)
            or by_screens
            or in_title
            or _OR.match(sentence.own) is not None
            or (several_modes and len(mine) == 1)
        )
        ids += ids_of(state, mine, f"shows {figure.text}" if again else "shows", again=again)
    tail = _tail(sentence, figure)
    times = TIMES_BEFORE.search(sentence.before(figure))
    at_once = times is not None and len(ids) == int(times[1]) > 1 and _MOST_SCREENS.search(sentence.over)
    if at_once:
        say(state, sentence, joined(ids, SHOWS, f"{figure.hedged}{tail}{under}"))
    elif len(ids) > 1 and _is_of_either(sentence, figure, found, under, several_modes=several_modes):
        say(state, sentence, joined(ids, SHOWS, f"{figure.hedged}{tail}", "|") + under.replace(_ALONE, ""))
    else:
        promise(state, sentence, ids, SHOWS, figure, tail=tail)


def _is_same_set(state: State, sentence: Sentence, mine: Sequence[Socket]) -> bool:
    """``Triple display: 2 HDMI + DP``: under so many screens, as many sockets as there are."""
    counts = [each.count for each in mine if not each.ids]
    return SCREENS.search(sentence.over) is not None and counts == [len(state.numbers.ids(mine[0].letter))]


def _is_of_either(
    sentence: Sentence, figure: Figure, found: Sequence[Socket], under: str, *, several_modes: bool
) -> bool:
    """Whether sockets show a mode one at a time."""
    single = several_modes and _SINGLE_BEFORE.search(sentence.before(figure)) is not None
    behind = _SINGLE.match(sentence.behind(figure)) is not None
    return single or behind or _ALONE in under or _is_one_of_several(sentence, found)


def _is_one_of_several(sentence: Sentence, found: Sequence[Socket]) -> bool:
    """``One monitor: 4K 60 Hz. Two monitors: 1080p each``, where the sockets are of one class."""
    if len({each.letter for each in found}) > 1:
        return False
    return _ONE_SCREEN.fullmatch(sentence.clause.over) is not None and not sentence.sockets_of(PICTURE_SOCKETS)


def _tail(sentence: Sentence, figure: Figure) -> str:
    """Depth, chroma, and what is named with this mode: of several, only what stands before the next."""
    modes = [each for each in sentence.figures if each.dim is Dim.MODE]
    text = sentence.without_conditions  # a host with compression is no picture with it
    for match in _MIRRORED_THERE.finditer(sentence.text):
        text = text[: match.start()] + " " * len(match[0]) + text[match.end() :]
    following = min((each.start for each in modes if each.start > figure.start), default=len(sentence.text))
    own = text[figure.start : following] if len(modes) > 1 else text
    behind = (each.start for each in sentence.sockets_of(PICTURE_SOCKETS) if each.start > figure.end)
    another = next((at for at in behind if "," in text[figure.end : at]), len(text))
    own = own if len(modes) > 1 else own[:another]
    here = [
        each
        for each in sentence.of_dim(Dim.DEPTH, Dim.CHROMA)
        if len(modes) < 2 or figure.start < each.start < following
    ]
    depth = next((each for each in here if each.dim is Dim.DEPTH), None)
    chroma = next((each for each in here if each.dim is Dim.CHROMA and each.start > figure.start), None)
    words = [each.text for each in (depth, chroma) if each is not None]
    words += [word for word, pattern in _TRAITS if pattern.search(own)]
    named = _WITH_COMPRESSION.search(own) if len(modes) < 2 else None
    words += ["compressed"] if named or _COMPRESSED.match(sentence.behind(figure, 30)) else []
    return "".join(f" {word}" for word in words)


def same_picture(state: State, sentence: Sentence) -> None:
    """``VGA the same``: the mode of the sockets before it."""
    found = sentence.sockets_of(PICTURE_SOCKETS)
    if len(found) != 1 or not _THE_SAME.fullmatch(sentence.without_conditions[found[0].end :]):
        return
    last = next((said.sentence for said in reversed(state.said) if _SHOWN_MODE.match(said.sentence)), "")
    if last:
        mode = _UNDER.split(re.split(r" shows? ", last, maxsplit=1)[1].removesuffix(" each"))[0]
        under = "".join(f" {each.words}" for each in sentence.conditions[:1] if each.words)
        say_of(state, sentence, ids_of(state, found, "shows"), SHOWS, mode, under=under)


def traits(state: State, sentence: Sentence) -> None:
    """``HDR on all three, VRR on DP 1 only``: what modes that were promised before have besides."""
    if _WHEN_USED.search(sentence.own):
        return  # VGA and HDMI mirror each other when used together
    on_hosts = any(each.means is Means.ON for each in sentence.conditions) or _ON_SYSTEM.match(sentence.own)
    if state.product.is_lead or any(sentence.of_dim(Dim.MODE)) or on_hosts:
        return
    for part in _TRAIT_PARTS.finditer(sentence.text):
        words = [word for word, pattern in _TRAITS if word in _OF_A_MODE and pattern.search(part[0])]
        if not words:
            continue
        ends = _MIRRORS.search(part[0])  # VGA mirrors HDMI: of the first
        end = part.start() + ends.start() if ends else part.end()
        named = [each for each in sentence.sockets_of(PICTURE_SOCKETS) if part.start() <= each.start < end]
        if not named and _BEGINS_TRAIT.match(sentence.own) and not sentence.sockets:
            named = [each for each in state.subject if each.letter in PICTURE_SOCKETS and not each.is_plug]
        every = list(state.numbers.all_of(PICTURE_SOCKETS)) if _EVERY.search(part[0]) else []
        ids = (
            set(every or ids_of(state, named, "traits", again=True))
            if words and "no " not in part[0].lower()
            else set()
        )
        state.said[:] = [_with_traits(said, words, ids) for said in state.said]


def _with_traits(said: Said, words: Sequence[str], ids: set[str]) -> Said:
    match = _SHOWN_MODE.match(said.sentence)
    if match is None or not set(re.split(r"[+|]", match["ports"])) <= ids:
        return said
    new = [word for word in words if f" {word}" not in said.sentence]
    return replace(said, sentence=" ".join((match[0], *new)) + said.sentence[match.end() :])


def no_display(state: State, sentence: Sentence) -> None:
    """Sockets without a picture; those of the last sentence where none is named."""
    none = _NONE.fullmatch(sentence.own) is not None and _SHOWN.search(sentence.clause.column) is not None
    if state.product.is_lead or not (none or _NO_DISPLAY.search(sentence.without_conditions)):
        return
    found = sentence.sockets_of("AC") or [each for each in state.subject if each.letter in "AC" and not each.is_plug]
    if found:
        told = _NO_DISPLAY.search(sentence.without_conditions)
        before = [each for each in found if told and each.end <= told.start()]
        ids = ids_of(state, (before or found)[-1:], "display", again=True)
        if _is_plain_adapter(state, sentence):
            say(state, sentence, "body no display")
        else:
            say_of(state, sentence, ids, NO_DISPLAY)
    elif _is_plain_adapter(state, sentence):
        say(state, sentence, "body no display")


def _is_plain_adapter(state: State, sentence: Sentence) -> bool:
    """From one plug to one socket, of which no sentence need name the socket again."""
    named = _ADAPTER.search(state.text[:_BEGINNING]) is not None and len(list(state.numbers.all_of("ACHDVN"))) <= 1
    return named and not sentence.sockets


def one_at_a_time(state: State, sentence: Sentence) -> None:
    """Sockets of which one shows a picture at a time."""
    if state.product.is_lead or not (_EXCLUSIVE.search(sentence.text) or _ONE_CARD.search(sentence.text)):
        return
    if _ONE_CARD.search(sentence.text) and len(slots := list(state.numbers.all_of("SM"))) > 1:
        say(state, sentence, f"{'|'.join(slots)} one at a time")
        return
    cards = sentence.sockets_of("SM")
    if len(cards) > 1 and not sentence.sockets_of(PICTURE_SOCKETS):
        slots = [port for each in cards for port in ids_of(state, [each], "exclusive", again=True)]
        say(state, sentence, f"{'|'.join(slots)} one at a time")
        return
    slots = list(state.numbers.all_of("SM"))
    only_slots = not list(state.numbers.all_of("ACDHV"))
    if (state.product.is_reader or only_slots) and not sentence.sockets and len(slots) > 1:
        say(state, sentence, f"{'|'.join(slots)} one at a time")
        return
    named = sentence.sockets_of(PICTURE_SOCKETS)
    named = named or [each for each in state.subject if each.letter in PICTURE_SOCKETS and not each.is_plug]
    ids = ids_of(state, named, "exclusive", again=True)
    ids = ids if len(ids) > 1 else list(state.numbers.all_of("DHV"))
    if len(ids) > 1:
        say(state, sentence, f"{'|'.join(ids)} one at a time")
