"""Under what a figure is promised: with or without others, a display, a supply; on which host; in other words."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from enum import StrEnum


class Means(StrEnum):
    """What a condition comes to."""

    ALONE = "without others"
    WITHOUT_DISPLAY = "without display"
    WITH_DISPLAY = "with display"
    WITHOUT_NETWORK = "without network"
    WITH_NETWORK = "with network"
    WITHOUT_SUPPLY = "without supply"
    WITHOUT_DATA = "without data"
    ON = "on"
    WITH = "with"
    ALL = ""
    """With all of them in use, which every promise is tried under."""
    UNREAD = "?"


@dataclass(frozen=True)
class Condition:
    """A condition at a place; `words` is how a claim writes it, empty for one that changes nothing."""

    start: int
    end: int
    means: Means
    words: str
    leads: bool = False
    """It stands before what it is about."""


_DISPLAYS = r"(?:displays?|screens?|monitors?|pictures?)"
_SUPPLY = (
    r"(?:power supply|supply|charger|power adapter|mains adapter|wall adapter|adapter(?! (?:for|to) )"
    r"|power brick|mains)"
)
SYSTEM = (
    r"(?:Windows(?: \d{1,2}(?: and \d{1,2})?)?|Win ?1[01](?:/1[01])?|macOS(?: \d+)?"
    r"|Linux(?: (?:from )?\d+(?:\.\d+)?)?|Android|iOS|iPadOS"
    r"|ChromeOS|Macs?(?! address))"
)
SYSTEMS = re.compile(rf"{SYSTEM}(?:(?:,| and|, and| /| &) {SYSTEM})*")
"""Operating systems in a row."""
HOSTS = r"(?:hosts?|computers?|laptops?|notebooks?|tablets?|phones?|PCs?|consoles?)"
_NOT_OF_HOST = r"(?:sockets?|ports?|front|rear|back|side|to|for|of|in|the|from|its|your|is|are|and)\b"
_WHEN = r"(?:while|whenever|when|if|as long as|so long as|provided|only if|only when)"
_ON = r"(?:(?! (?:it|they|you|we) [a-z]+)[^,.;:)])*"
"""What else belongs to it, up to the next mark, or to what is promised: ``if one is used it shows``."""
_FORMS: dict[Means, tuple[str, ...]] = {
    Means.WITHOUT_SUPPLY: (
        rf"without (?:a |an |the |its |any )?(?:external |own |extra )?{_SUPPLY}", rf"from the {HOSTS} alone",
        r"on bus power(?: alone)?", "bus[- ]powered",
        "(?:from|on|over) (?:the )?(?:USB|bus|port|plug)(?: power)? alone", f"with no {_SUPPLY}",
        rf"{_WHEN} (?:the |its )?{_SUPPLY} is (?:pulled|unplugged|disconnected|missing|off"
        r"|not (?:connected|plugged in))",
        r"(?:(?<=[,;:] )|(?<=:  )|^ ?)(?:or )?else", "otherwise",
        rf"(?:{_WHEN} )?(?:[\w ]{{0,20}} )?(?:runs?|running|powered) (?:from|on|off) the {HOSTS}"
        r"(?:'s)?(?: battery)?(?: alone)?",
        rf"(?<!, )(?<!and )no {_SUPPLY}(?! (?:is )?(?:required|needed|necessary))(?!\s*[.;,]|\s*$)",
    ),
    Means.WITHOUT_DISPLAY: (
        f"without (?:a |any |the )?{_DISPLAYS}", f"{_WHEN} no {_DISPLAYS}{_ON}", f"with no {_DISPLAYS}{_ON}",
    ),
    Means.WITHOUT_NETWORK: (
        f"unless the network{_ON}", "without (?:the |a )?network(?! sockets?| ports?)",
        rf"{_WHEN} (?:the )?(?:network|LAN)(?: socket)? is (?:not|un){_ON}",
    ),
    Means.WITH_NETWORK: (
        "with (?:the |a )?network(?: lead| socket)? (?:in use|connected|plugged in|attached|busy)",
        rf"{_WHEN} (?:the |a )?network(?: lead| socket)? is (?:in use|used|connected|plugged in|busy)",
    ),
    Means.WITHOUT_DATA: ("without (?:any )?data", f"{_WHEN} no data{_ON}", f"with no data{_ON}"),
    Means.WITH_DISPLAY: (
        r"with one(?= ?[.;]|$)",
        rf"(?:with|beside) (?!one \w+ (?:\d{{3,4}}x|\dK))(?:a |one |any |the )?(?:\dK\S* "
        rf"|\d+x\d+\S* )?{_DISPLAYS}(?: connected| attached"
        rf"| running| in use| on)?",
        f"(?:{_WHEN}|once) (?:a|one|any|the) {_DISPLAYS}{_ON}",
    ),
    Means.ALONE: (
        rf"(?:only )?{_WHEN} (?:the |all |both )?(?:others?|it is the only|only one|no other|nothing else"
        rf"|used (?:alone|by itself|on its own)|nothing (?:is|hangs|sits) (?:on|in|at|plugged in(?:to)?"
        rf"|connected to|attached to)|(?:only |just )(?:the )?[\w-]+(?: socket| port| output)?(?: \d)? is (?:used"
        rf"|in use|connected|busy|plugged in)|one is used by itself|(?:only |just )?one(?: of (?:them|these"
        rf"|the \w+|both))? is"
        rf" (?:used|in use|connected|plugged in|active|busy)|DisplayPort is not|HDMI is not){_ON}",
        r"with (?:one|a single) (?:monitor|screen|display)(?= (?:\d{3,4}x|\dK))",
        "(?:on|to) (?:only one|one|a single) (?:monitor|screen|display)",
        f"with (?:nothing else|no other|the others?){_ON}", "used alone", "alone", "by itself",
        r"on its own(?! (?:two )?feet)",
        "only one in use", "one in use", "single[- ]port use", "when used singly", "each by itself", "single use",
        r"single[- ](?:port|output)(?= ?(?:max|[:,]|\d))",
        r"(?<!are )(?<!is )(?<!has )(?:one|a single|1) (?:device|phone|socket|output)(?=:)",
        r"(?<!\()one at a time", "with (?:only |just )?one(?=: )",
        f"when it is the only one{_ON}", "if you use one",
        r"(?:if|when) (?:you (?:connect|plug in|attach|use)|there is) (?:only |just )?(?:one|a single)"
        rf"(?: {_DISPLAYS})?",
        "mit nur einem (?:Monitor|Bildschirm|Display)",
    ),
    Means.ALL: (
        rf"(?:if|when) you (?:connect|plug in|attach|use) (?:two|both|all)(?: {_DISPLAYS})?",
        r"(?:while|when|if) (?:more than one|several|two or more)\b[^,.;:)]*?"
        "(?:in use|used|busy|taken|connected|at work)(?= the| they| all|,)",
        r"(?:while|when|if|with) (?:all|both|every|they are all|each)\b[^,.;:)]*?"
        "(?:in use|used|busy|filled|taken|connected|occupied|running|at work|at once)",
        r"(?<=\()(?:dual|both|all)(?: (?:displays|screens|monitors))?(?=[),])", "both in use",
        "even with every socket taken", "fill both", "all at once", "at the same time",
        "all running side by side",
        "side by side", "all in one go", "(?<!not )at once", "always",
    ),
    Means.ON: (
        rf"(?:only )?(?:on|from|with) (?:any |an? )?{HOSTS} (?:that|with|without|of|which) (?:(?! it | you | they "
        rf"| the | we | both | each | all )(?:[^,.;)]|\.(?=\d)))+",
        rf"(?:on|for|under) (?:the )?(?:newer |older )?{SYSTEM}(?:(?:,| and|, and| &) {SYSTEM})*",
        r"(?:only )?on (?:(?!the\b|both\b|all\b|from\b)[\w.+-]+ ){1,3}(?:hosts|computers|laptops)(?: (?:with"
        r"|that have) [\w.+-]+(?: \d[\d.]*)?)?",
        r"(?:on|with) (?:an? )?(?:older|newer|slower) ones?(?=,|:| (?:it|they|both|each|the|all|only)\b)",
        "on (?:all |any |the )?others?(?=,|:| it| they| the| at)", "on other hosts",
        rf"on (?:the )?(?:left |right |first |second |computer |host )?{HOSTS}(?: \d)?(?: only)?"
        "(?! (?:box|ports?|sockets?|side|lead|plug))",
        rf"(?:in|on|at) an? (?:(?:\d+(?:\.\d+)? ?[GM](?:b/s|bps|bit/s)|USB ?[234][\d.]*|older"
        rf"|slower)(?: USB(?:-[AC])?)?|USB-[AC]) (?:{HOSTS} )?(?:sockets?|ports?)",
        rf"(?:on|with|from|at) (?:an?|any|most"
        rf"|some) (?!single )(?:(?!{_NOT_OF_HOST})[\w./+-]+ ){{1,5}}{HOSTS}(?: (?:that|with"
        rf"|of|which) (?:(?! it | you | they | the | we )[^,.;:)])+)?",
        r"on USB ?[23]\.\d(?: Gen ?\d(?: ?x ?\d)?)?(?: or (?:faster|better|newer|later|higher"
        r"|above))(?! sockets?| ports?)",
        r"(?<=\()(?:with )?(?:DP|DisplayPort|HBR|USB|Thunderbolt|TB) ?[\d.]+(?: [\w.]+)? (?:hosts?|sources?"
        r"|computers?)(?=\))",
        "with USB4 hosts?", "(?:on|at|over) (?:hosts with )?USB4(?: hosts?| only)?(?! sockets?| ports?)",
        rf"only (?:the )?{HOSTS} \d",
    ),
}  # fmt: skip
_NAMED_FORMS = (
    r"(?:with|over) (Cat\.? ?\d[a-zA-Z]?)(?: (?:network )?(?:lead|cable))?",
    r"(?:(?<!comes )(?<!come )(?<!ships )(?<!sold )(?<!delivered )with|if you plug in"
    r"|when you plug in|needs?|requires?) (?:a |an |the |its )?"
    rf"((?:supplied |included |enclosed )?(?:XL |larger |bigger |stronger |optional |big "
    rf"|small )?(?:\d+ ?[WV]\+?(?: ?/ ?\d+(?:\.\d+)? ?A)? )?{_SUPPLY}(?: of (?:the )?[^,.;)]{{2,24}})?(?: of \d+ ?W)?)"
    "(?: or more)?(?: connected| plugged in(?: there)?| attached| included)?",
    r"plug(?:ging)? in (?:the |a |an |its |your )?((?:supplied |included |enclosed )?"
    rf"(?:\d+ ?[WV](?:,? ?/? ?\d+(?:\.\d+)? ?A)? )?{_SUPPLY})(?: \([^)]*\))?(?:,? and|[:;,] then)"
    r"(?= (?:the|its|each|all|it|you|every)\b)",
    rf"(?:if|when|once) you (?:plug|connect|attach) (?:a |an |the |its |your )?((?:\d+ ?[WV] )?{_SUPPLY})"
    r"(?: in(?:to (?:it|the \w+))?| to (?:it|the \w+))?",
    rf"({_SUPPLY}(?: of)? \d+ ?W) (?:is )?(?:needed|required)",
    rf"(\d+ ?W {_SUPPLY}) (?:is )?(?:needed|required)",
    rf"((?:\d+ ?[WV] )?{_SUPPLY}) (?:may|can|could) be (?:plugged in|connected|attached|used)",
    rf"(?:if|when|while|once|provided|as long as|so long as)(?: that)? (?:an? |the |its "
    rf"|our )?((?:\d+ ?[WV] )?{_SUPPLY})"
    "(?: is| are)? (?:connected|plugged in|attached|in use|used|present|there)",
    rf"provided(?: that)? (?:there is |you use )?(?:an? |the |its )((?:\d+ ?[WV] )?{_SUPPLY})",
    rf"(?:from|of) (?:an? |the |its )?(\d+ ?[WV] {_SUPPLY})",
    r"(?<=W )(?:at|with|from) (?:an? )?(\d+ ?W input)",
    r"(?:drawn by|by|through|with|(?<!Windows )(?<!Linux )(?<!macOS )(?<! \d\d )needs?) (?:our|the|a|its) (driver)",
    r"(?:with|from|of|for) (?:an? )?((?:two |both |\d )?(?:UHS-I+|V\d0|fast|slow|older|quick|modern|suitable|capable"
    r"|solid[- ]state) (?:cards?"
    r"|drives?|disks?|SSDs?|sticks?))",
    rf"(?:{_WHEN} (?:the \w+|it) (?:hangs|sits|is(?: plugged)?|runs) )?(?:on|in|into|from) (?:an? )?"
    r"((?:\d[\d.]* ?[GM](?:b/s|bps|bit/s) (?:USB )?(?:sockets?|ports?|hosts?)|(?:(?:USB )?(?:socket|port)"
    r"|one) (?:of|with) \d[\d.]* ?[GM](?:b/s|bps|bit/s)))",
    r"((?:two|three|four|2|3|4) in use)",
    r"(chain of (?:two|three|four|2|3|4))(?=:|,| )",
    r"at (\d+ ?(?-i:[GM]b)(?:/s|ps|it/s))(?=,? (?:both|it|they|you|reads?|writes?)\b)",
    r"with (?:a |any )?((?:host|computer|laptop)(?= *[,;.)]|$))",
    r"with ((?:two|three|four|\d)(?: of them)?)(?![.,]\d)(?=\s*(?:[.;,)]|$))",
    r"with (two|three|four)(?= (?:\d{4}x|\dK))",
    r"(?<=[;(,] )(UHS-I+|V\d0)(?: cards?)?(?=:)",
    r"(?<=\()((?:UHS-I+|V\d0|fast|slow|older) cards?)(?=\))",
    r"(?:put |with |join(?:ing)? |use )((?:two|three|\d) (?:of them )?(?:in a row|joined|in series))(?: and)?",
    r"with ((?:two|three|four|\d) (?:drives|sticks|devices|displays|screens|monitors))(?: connected| attached"
    r"| at work)?",
    r"at (up to \d+ ?m)\b(?=,? (?:it|the|you)\b)",
    r"(?<=reads )((?:UHS-I+|V\d0) cards)(?= at)",
    r"(?<=read )((?:UHS-I+|V\d0) cards)(?= at)",
    r"(?<=\()(?:the )?(?:host|computer|laptop) (?:needs|must have|has to have) ([^,;:)]{2,24})",
    r"(?:needs?|requires?) (?:a |an )?((?:[\w.-]+ ){0,4}hosts?(?: with [\w. -]{2,20})?)",
    r"(?:needs?|requires?) (?:a |an )?((?:USB[\w. -]{0,12} )?(?:\d[\d.]* ?[GM](?:b/s|bps|bit/s) )?(?:USB )?"
    r"(?:sockets?|ports?)(?: (?:with|of) \d[\d.]* ?[GM](?:b/s|bps|bit/s))?)",
)
_UNREAD = (
    r"(?:once(?! [(\d])|unless|if|only while|while|whenever|when|as soon as|as long as|so long as|provided"
    r"|only with|only on"
    r"|in case) "
    r"(?!you |your (?!laptop|host|computer|notebook|tablet|phone)|stocks? |others? )(?:(?! (?:and|or"
    r"|but) (?:(?:with|at|then|runs?|gives?) )?\d)[^,.;:)])+"
)
_IN_USE = (
    r"\b(?:while|when|if) (?:the |an? )?[\w-]+(?: [\w-]+){0,3} (?:is|are|runs?) (?:used|in use|active|connected"
    r"|running|busy|on"
    r"|plugged in)(?: (?:at|with) [\w@]+)?(?=,? (?:the|its|all|both|each|USB|it)\b)"
    r"|\bwith (?:an? |one )?(?:phone|tablet|drive|stick|device|keyboard|load)s? (?:on|in|at"
    r"|plugged into) (?:it|that|this|the)"
    r"(?: (?!laptop|host|computer|notebook)[\w-]+){0,2}(?: \(\d+ ?W\))?(?=,| the| it| both| its)"
    r"|\bwith (?:the |its )?[\w-]+(?: of (?:the |your )?\w+)? (?:running|closed|shut|open|powered|unpowered"
    r"|enabled|disabled|(?:switched|turned) (?:on|off))\b(?! as well| too| also)"
    r"|\bwith [^,.;:()]{1,20} (?:(?:is|are) )?(?:also )?(?:in use|used)(?: as well)?(?=[,:])"
)
_ANY_OF_THEM = re.compile(
    r"(?i)with|while|when|if|long as|provided|once|unless|soon as|in case|from|over|under|bus|powered|otherwise"
    r"|else|alone|itself"
    r"|own|single|singly|one|both|all|dual|side|time|always|on |no |in an? |in use|in series|at |through|by |needs?"
    r"|requires?|hosts?|sources?|chain"
    r"|join|use |put |plug|mit |netzteil|aliment|for |into|required|needed|may be|can be|could be|cards?"
)
"""Something of every condition: what has none of it is not looked through."""
_WITH_SO_MANY = re.compile(r"(?i)with (?:one|a single|two|three|four)(?: \w+)?")
_USED = re.compile(_IN_USE, re.IGNORECASE)
_COMPILED = (
    *((means, re.compile(rf"\b(?:{form})\b", re.IGNORECASE)) for means, forms in _FORMS.items() for form in forms),
    *((Means.WITH, re.compile(rf"\b{form}\b", re.IGNORECASE)) for form in _NAMED_FORMS),
    (Means.UNREAD, _USED),
    (Means.UNREAD, re.compile(r"(?i)\b(?:as long as|so long as|provided(?: that)?) you [^,.;:)]+")),
    (Means.UNREAD, re.compile(r"(?i)\bwithout (?:a |any )?(?:host|computer|laptop)\b(?= *[,;.)]|$)")),
    (Means.UNREAD, re.compile(r"(?<=\()without [^(),;]{3,30}(?=\))", re.IGNORECASE)),
    (Means.UNREAD, re.compile(rf"\b{_UNREAD}", re.IGNORECASE)),
    (Means.UNREAD, re.compile(r"(?<=\()(?:Netzteil|alimentation|alimentatore)\b[^)]{2,60}", re.IGNORECASE)),
)
_MARK = r"\[\d\]|\(\d\)|\*\d|\*{1,3}|[†‡]"
_NOTE = re.compile(rf"(?m)(?:^[ \t]*|(?<=[.!?] ))({_MARK})[ \t]*(\S[^\n]{{4,200}})")
_OWN_NOTE = re.compile(
    r"(?i)(?:only )?(?:with|if|when|while|as long as|provided)\s+(?:an? |the |your "
    r"|its )?(\w(?:[^.;,]|\.(?=\d)){3,80})"
)
"""A footnote that is a condition in the seller's words."""
_ONLY_SYSTEMS = re.compile(rf"({SYSTEMS.pattern})(?: only)?")
"""A footnote of nothing but systems."""
_OWN_FIGURE = re.compile(r"(?:only |at |up to )?\d[\d.x]* ?(?:K|Hz|W|[GM]b|x)|\dK\d", re.IGNORECASE)
"""A footnote that begins with a figure tells of an exception."""
_MARKED = re.compile(rf"(?<=[^\s*])[ \t]?({_MARK})(?=\s|[.,;:)]|$)")
_ONLY_SUPPLY = re.compile(rf"{_SUPPLY}(?: connected)?", re.IGNORECASE)
_ON_BEGINS = re.compile(r"^(?:only )?(?:on|from|with|for|under|only|in|at) (?:any |the |an? )?", re.IGNORECASE)
_BESIDES = re.compile(r"\b(?:only|(?:or )?newer)\b", re.IGNORECASE)
_UNREAD_BEGINS = re.compile(
    r"^(?:only )?(?:once|if|while|whenever|when|as soon as|as long as|so long as|provided(?: that)?|with|on|in case"
    r"|unless)\s+"
    r"(?:you (?:leave|keep) )?(?:it is (?=\w)|its |your |the |(?-i:a ))?",
    re.IGNORECASE,
)
_DARK_BEFORE = re.compile(
    r"(?i)[,;(] ?(?:the )?[\w ]{1,24} (?:switched off|dark|off|blank|asleep|disabled|silent) (?:only )?$"
)
"""``VGA 1080p60, HDMI switched off while VGA is used``: of what is off, and no condition of the figure."""
_LOOK_BEFORE = 48
_ANOTHER_CLAUSE = re.compile(r"while [^,.;]*\d ?(?:Hz|hertz|[GM]b)", re.IGNORECASE)
"""``While`` between two promises, and before no condition."""
_NEXT_CONDITION = re.compile(r"(?<=\w) (?:while|without|with|on)\b", re.IGNORECASE)
"""Where the claim language would read another condition."""
_BEGINS_PART = re.compile(r"(?:[,.;:]|\b(?:and|but|or|less|lower|slower|reduced))$")
_ABOUT_THEM = re.compile(r" (?:both|they|each|all) (?=\w)")
_ENCLOSED = re.compile(r"(?i)\b(?:supplied|included|enclosed) ")
_MAX_WORDS = 8
_NO_WORDS = ("", "not", "so", "it", "it is", "needed", "possible", "necessary")


def conditions(text: str) -> list[Condition]:
    """Every condition in order of place; of two that overlap, the one whose meaning is known better."""
    found: list[Condition] = []
    if not _ANY_OF_THEM.search(text):
        return found
    for means, pattern in _COMPILED:
        for match in pattern.finditer(text):
            start, end = match.span()
            if _DARK_BEFORE.search(text, max(0, start - _LOOK_BEFORE), start):
                continue
            if means is Means.UNREAD and pattern is not _USED and _ANOTHER_CLAUSE.match(match[0]):
                continue
            if not any(start < each.end and each.start < end for each in found):
                found.append(Condition(start, end, means, _words(means, match), _leads(text, start, end)))
    return _with_opposites(sorted(found, key=lambda condition: condition.start), text)


_OPPOSITE = {
    Means.ALONE: Means.ALL, Means.WITHOUT_DISPLAY: Means.WITH_DISPLAY, Means.WITH_DISPLAY: Means.WITHOUT_DISPLAY,
    Means.WITHOUT_NETWORK: Means.WITH_NETWORK, Means.WITH_NETWORK: Means.WITHOUT_NETWORK,
    Means.WITHOUT_DATA: Means.ALL, Means.ALL: Means.ALONE, Means.UNREAD: Means.UNREAD, Means.ON: Means.UNREAD,
}  # fmt: skip
_OF_SUPPLY = re.compile(rf"{_SUPPLY}$")
_ENDS_IN_USE = re.compile(r"(?:in use|is used|connected|busy|plugged in|active|running)$|^while ")
_ELSE = re.compile(r"(?:or )?else|otherwise", re.IGNORECASE)


def _with_opposites(found: list[Condition], text: str) -> list[Condition]:
    """``45 W with a display, else 60 W``: the opposite of the condition before it."""
    for n, each in enumerate(found):
        if n and is_else(text[each.start : each.end]):
            found[n] = opposite_of(each, found[n - 1])
    return found


def is_else(words: str) -> bool:
    return _ELSE.fullmatch(words.strip()) is not None


def opposite_of(condition: Condition, before: Condition) -> Condition:
    """An "else" behind a condition: what is left when that does not hold."""
    means = _OPPOSITE.get(before.means)
    if _ENDS_IN_USE.search(before.words):
        means = Means.ALONE
    elif before.means is Means.WITH and not _OF_SUPPLY.search(before.words):
        means = Means.UNREAD
    if means is None:
        return condition
    return replace(condition, means=means, words="" if means is Means.UNREAD else str(means))


def notes_of(text: str) -> dict[str, Condition]:
    """The footnotes of a text by their marks, as the condition that each comes to."""
    found: dict[str, Condition] = {}
    for match in _NOTE.finditer(text):
        first = re.split(r"[.;] ", match[2])[0]
        unread = Condition(0, 0, Means.UNREAD, "")
        is_exception = _OWN_FIGURE.match(first) is not None
        known = [each for each in conditions(first) if each.words and not is_exception]
        only = _ONLY_SYSTEMS.fullmatch(first.strip(" ."))
        if only is not None:
            known = [Condition(0, 0, Means.ON, f"on {only[1]}")]
        own = _OWN_NOTE.match(first) if not known and not is_exception else None
        if own is not None:
            unread = Condition(0, 0, Means.UNREAD, f"with {_short(_NEXT_CONDITION.split(own[1])[0])}")
        found.setdefault(match[1], known[0] if known else unread)
    return found


def marked(text: str, notes: dict[str, Condition]) -> list[Condition]:
    """The conditions of the footnotes that a text refers to, where their marks stand."""
    marks = _MARKED.finditer(text) if notes else ()
    return [
        replace(notes[each[1]], start=each.start(), end=each.end(), leads=False) for each in marks if each[1] in notes
    ]


def _words(means: Means, match: re.Match[str]) -> str:
    """As a claim writes it."""
    if means is Means.ON:
        own = re.sub(r"(?i)\bwithout\b", "that lack", _ON_BEGINS.sub("", match[0]))
        own = re.sub(r" ones?$", " hosts", own)
        return f"on {_short(_BESIDES.sub('', own))}"
    if means is Means.WITH:
        if _ONLY_SUPPLY.fullmatch(match[1].strip()):
            return "with charger" if "charger" in match[1].lower() else "with supply"
        words = _short(_ENCLOSED.sub("", match[1]))
        return f"with {words.replace(' with ', ' that has ')}"
    if means is Means.UNREAD:
        own = re.sub(r"(?i)^without (?:an? |any )?", "no ", match[0])
        own = re.sub(r" on (?=(?:that|this|the|it|its)\b)", " at ", own)
        words = _short(_NEXT_CONDITION.split(_UNREAD_BEGINS.sub("", own))[0])
        return f"with {words}" if words not in _NO_WORDS else ""
    return str(means)


def _short(words: str) -> str:
    words = re.sub(r"(?<![A-Za-z])/|/(?![A-Za-z])", " ", words)
    return " ".join(re.sub(r"[^\w.+/-]+", " ", words).split()[:_MAX_WORDS])


def _leads(text: str, start: int, end: int) -> bool:
    """Whether it begins its part of the sentence and what it is about follows."""
    before = text[:start].rstrip()
    if before.endswith("("):
        return re.match(r"[^;)]*\d", text[end:]) is not None
    bracket = re.match(r" \([^)]*\d[^)]*\)", text[end:])
    if bracket is not None and before.endswith(("two", "others", "more")):
        return True
    if _WITH_SO_MANY.fullmatch(text[start:end]) and re.match(r" (?:\d{3,4}x|\dK)", text[end:]):
        return True
    follows = text[end : end + 1] in (",", ":") or _ABOUT_THEM.match(text, end) is not None
    return not before or (_BEGINS_PART.search(before) is not None and follows)
