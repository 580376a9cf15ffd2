"""How sellers word conditions: a table of phrases for each thing that a condition can come to."""

from __future__ import annotations

import re
from enum import StrEnum

from auditra.core.advert.phrases import needed_words


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


_DISPLAYS = r"(?:displays?|screens?|monitors?|pictures?)(?! (?:mark|sign|symbol|icon|socket|port|outlet))"
SUPPLY = (
    r"(?:power supply|supply|charger|power adapter|mains adapter|wall adapter|adapter(?! (?:for|to) )"
    r"|power brick|brick|mains)"
)
SYSTEM = (
    r"(?:Windows(?: \d{1,2}(?: and \d{1,2})?)?|Win ?1[01](?:/1[01])?|macOS(?: \d+(?:\.\d+)?)?"
    r"|Linux(?: (?:from )?\d+(?:\.\d+)?)?|Android|iOS|iPadOS"
    r"|ChromeOS|Chromebooks?|iPads?|iPhones?|Macs?(?! address))"
)
SYSTEMS = re.compile(rf"{SYSTEM}(?:(?:,| and|, and| /| &) {SYSTEM})*")
"""Operating systems in a row."""
HOSTS = r"(?:hosts?|computers?|laptops?|notebooks?|tablets?|phones?|PCs?|consoles?)"
_NOT_OF_HOST = r"(?:sockets?|ports?|front|rear|back|side|to|for|of|in|the|from|its|your|is|are|and)\b"
_WHEN = r"(?:while|whenever|when|if|as long as|so long as|provided|only if|only when)"
_ON = r"(?:(?! (?:it|they|you|we|both|each|all) [a-z]+| (?:and|but) (?:at |with )?(?:up to )?\d)(?:[^,.;:)]|\.(?=\d)))*"
"""What else belongs to it, up to the next mark, or to what is promised: ``if one is used it shows``."""
_FORMS: dict[Means, tuple[str, ...]] = {
    Means.WITHOUT_SUPPLY: (
        rf"without (?:a |an |the |its |any )?(?:external |own |extra )?{SUPPLY}", rf"(?:from|on|off) the {HOSTS} alone",
        r"on bus power(?: alone)?", "bus[- ]powered",
        "(?:from|on|over) (?:the )?(?:USB|bus|port|plug)(?: power)? alone", f"with no {SUPPLY}",
        rf"{_WHEN} (?:the |its )?{SUPPLY} is (?:pulled|unplugged|disconnected|missing|off"
        r"|not (?:connected|plugged in))",
        r"(?:(?<=[,;:] )|(?<=:  )|^ ?)(?:or )?else", "otherwise",
        rf"(?:{_WHEN} )?(?:[\w ]{{0,20}} )?(?:runs?|running|powered) (?:from|on|off) the {HOSTS}"
        r"(?:'s)?(?: battery)?(?: alone)?",
        rf"(?<!, )(?<!and )no {SUPPLY}(?! (?:is )?(?:required|needed|necessary))(?!\s*[.;,]|\s*$)",
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
        rf"(?:with|beside) (?!one \w+(?: (?:\d{{3,4}}x|\dK)|,? (?:the \w+|it|you) (?:gives?|shows?|gets?|runs?|does"
        rf"|reaches|manages)\b))(?:a |one |any |the )?(?:\dK\S* "
        rf"|\d+x\d+\S* )?{_DISPLAYS}(?: connected| attached"
        rf"| running| in use| on)?",
        f"(?:{_WHEN}|once) (?:a|one|any|the) {_DISPLAYS}{_ON}",
    ),
    Means.ALONE: (
        r"unless (?:the |its )?(?:HDMI|DisplayPort|DP|VGA|USB-[AC]|other)(?: sockets?| outputs?| ports?"
        r"| ones?)?(?: \d)?"
        r" (?:is|are) (?:also )?(?:used|in use|connected|taken|busy|occupied|plugged in)(?: too| as well)?",
        rf"(?:only )?{_WHEN} (?:the |its )?(?:HDMI|DisplayPort|DP|VGA|USB-[AC]|USB|other"
        rf"|[ACHD]\d(?:(?:, | and | or | & )[ACHD]\d)*)(?: sockets?| outputs?"
        rf"| ports?| ones?)?"
        r"(?: \d)? (?:is|are|stays?|remains?|rests?|sits?|lies) (?:not (?:used|in use|connected|taken)|empty"
        r"|free|unused|dark|off"
        r"|open|idle|unplugged|unoccupied|vacant)",
        rf"(?:only )?{_WHEN} (?:the |all |both )?(?:others?|it is the only|only one|no other|nothing else"
        rf"|used (?:alone|by itself|on its own)|nothing (?:is|hangs|sits) (?:on|in|at|plugged in(?:to)?"
        rf"|connected to|attached to)|(?:only |just )(?:the )?[\w-]+(?: socket| port| output)?(?: \d)? is (?:used"
        rf"|in use|connected|busy|plugged in)|one is used by itself|(?:only |just )?one(?: of (?:them|these"
        rf"|the \w+|both))? is"
        rf" (?:used|in use|connected|plugged in|active|busy)|DisplayPort is not|HDMI is not){_ON}",
        r"with (?:one|a single) (?:monitor|screen|display)(?= (?:\d{3,4}x|\dK)|,? (?:the \w+|it|you) (?:gives?"
        r"|shows?|gets?"
        r"|runs?|does|reaches|manages)\b)",
        "(?:on|to) (?:only one|one|a single) (?:monitor|screen|display)",
        "with nothing (?:in|on|at|plugged into) (?:the )?(?:HDMI|DisplayPort|DP|VGA|other)\\b",
        f"with (?:nothing else|no other|the others? (?:off|empty|free|unused|idle|dark|not)){_ON}", "used alone",
        r"with (?:none|nothing)(?: (?:plugged in|connected|attached|in use))?(?= *(?:[,;.)]|$))",
        r"(?:one|either)(?: of (?:them|these|the two))? alone(?= (?:\d{3,4}x|\dK))",
        "(?<!charging )(?<!power )(?<!data )(?<!pictures )alone", "by itself",
        r"on its own(?! (?:two )?feet)",
        "only one in use", "one in use", "single[- ]port use", "when used singly", "each by itself", "single use",
        r"(?:when|if|while) (?:only |just )?(?:a single|a lone)(?: one| socket| port)? is(?: (?:used|in use"
        r"|busy|taken|at work))?",
        r"(?<![\w ])one (?:HDMI|DisplayPort|DP)(?= ?:)",
        r"single[- ](?:port|output)(?= ?(?:max|[:,]|\d))",
        r"(?<!are )(?<!is )(?<!has )(?:one|a single|1) (?:device|phone|socket|output|port)(?: in use)?(?=:)",
        r"(?<!\()one at a time", "with (?:only |just )?one(?=: )",
        f"when it is the only one{_ON}", "if you use one",
        r"(?:if|when) (?:you (?:connect|plug in|attach|use)|there is) (?:only |just )?(?:one|a single)"
        rf"(?: {_DISPLAYS})?",
        rf"(?:whoever|who|those who) (?:needs?|has|have|wants?|uses?|connects?) (?:but |only |just )?(?:one"
        rf"|a single)(?: {_DISPLAYS})?",
        "mit nur einem (?:Monitor|Bildschirm|Display)",
    ),
    Means.ALL: (
        r"(?:if|when|as soon as|once|while) (?:anything|something)(?: else)? is (?:plugged in(?:to)?|connected"
        r"|attached|in use)"
        r"[^,.;:)]*",
        r"(?:while|when|with) (?:an? )?\w+(?:, (?:an? )?\w+)+,? and (?:an? )?\w+ (?:hang|are|sit|run"
        r"|work)s?\b[^,.;:)]{0,24}",
        rf"with (?:all|both)(?: of them| two| three| four| \d)? {_DISPLAYS} (?:on|lit|running|connected"
        rf"|attached|in use|used)\b",
        r"whatever (?:else )?(?:is|you)\b[^,.;:)]{2,24}",
        rf"(?:if|when) you (?:connect|plug in|attach|use) (?:two|both|all)(?: {_DISPLAYS})?",
        r"(?:while|when|if) (?:more than one|several|two or more)\b[^,.;:)]*?"
        "(?:in use|used|busy|taken|connected|at work)(?= the| they| all|,)",
        r"(?:while|when|if|with) (?:all|both|every|they are all|each)\b[^,.;:)]*?"
        "(?:in use|used|busy|filled|taken|connected|occupied|running|at work|at once)",
        r"(?:when|if|while) (?:both|all(?: two| three| four| of them)?) (?:work|run|charge|give|are on)(?=,"
        r"| the| each| it)",
        r"(?:when|if|while) (?:both|all)(?: of them)? are(?=\s*(?:[.,;)]|$))",
        r"(?<=\()(?:dual|both|all)(?: (?:displays|screens|monitors))?(?=[),])", "both in use",
        "even with every socket taken", "fill both", "all at once", "at the same time",
        "all running side by side",
        "side by side", "all in one go", "(?<!not )at once", "always(?! on\\b)",
    ),
    Means.ON: (
        rf"where (?:the|your|an?) {HOSTS} (?:has|knows|supports|offers|does|can do) [^,.;:)]{{2,30}}",
        rf"(?:only )?(?:on|from|with) (?:any |an? )?{HOSTS} (?:that|with|without|of|which) (?:(?! it | you | they "
        rf"| the | we | both | each | all | about \d| only \d| \d ?x \d| \d{{3,4}} ?x| \dK\b"
        rf"| \d{{3,4}}p)(?:[^,.;)]|\.(?=\d)))+",
        rf"(?<!not )(?:on|for|under) (?:the )?(?:newer |older )?{SYSTEM}(?:(?:,| and|, and| &) {SYSTEM})*",
        r"(?:only )?on (?:(?!the\b|both\b|all\b|from\b)[\w.+-]+ ){1,3}(?:hosts|computers|laptops)(?: (?:with"
        r"|that have) [\w.+-]+(?: \d[\d.]*)?)?",
        r"(?:on|with) (?:an? )?(?:older|newer|slower) ones?(?=,|:| (?:it|they|both|each|the|all|only)\b)",
        r"on any other(?: one)?(?=\s*(?:[,;]|\.(?!\d)|$))",
        r"(?<=[;,] )others(?= (?:get |show |do )?(?:\d{3,4}x|\dK))", "from (?:all |any "
        "|the )?others?\\b(?! (?:end|side|socket|port|one|two|three|four|five|six|\\d))",
        "on (?:all |any |the )?others?(?=,|:| it| they| the| at| \\d)", "on other hosts",
        rf"on (?:the )?(?:left |right |first |second |computer |host )?{HOSTS}(?: \d)?(?: only)?"
        "(?! (?:box|ports?|sockets?|side|lead|plug))",
        rf"(?:in|on|at) an? (?:(?:\d+(?:\.\d+)? ?[GM](?:b/s|bps|bit/s)|USB ?[234][\d.]*|older"
        rf"|slower)(?: USB(?:-[AC])?)?|USB-[AC]) (?:{HOSTS} )?(?:sockets?|ports?)",
        rf"(?:on|with|from|at) (?:an?|any|most"
        rf"|some) (?!single )(?:(?!{_NOT_OF_HOST})[\w./+-]+ ){{1,5}}{HOSTS}(?: (?:that|with"
        rf"|of|which) (?:(?! it | you | they | the | we | about \d| only \d| \d ?x \d| \d{{3,4}} ?x| \dK\b"
        rf"| \d{{3,4}}p)[^,.;:)])+)?",
        r"on USB ?[123](?:\.\d)?(?= *(?:[,;:)]|\.(?!\d)|$))",
        r"on USB ?[23]\.\d(?: Gen ?\d(?: ?x ?\d)?)?(?: or (?:faster|better|newer|later|higher"
        r"|above))(?! sockets?| ports?)",
        r"(?<=\()(?:hosts?|computers?|laptops?|sources?) (?:with|of|that [a-z]+) [^(),;]{2,24}(?=\))",
        r"(?<=\()(?:with )?(?:DP|DisplayPort|HBR|USB|Thunderbolt|TB) ?[\d.]+(?: [\w.]+)? (?:hosts?|sources?"
        r"|computers?)(?=\))",
        r"(?:with|over) (?:DP|DisplayPort|HBR|USB) ?\d\.\d(?: hosts?)?(?=,? (?:you get|it is|it shows"
        r"|only)\b|:)",
        rf"(?:with the [\w -]{{2,24}} )?(?:plugged"
        rf"|connected) (?:in)?to an? (?:(?!{_NOT_OF_HOST})[\w./+-]+ ){{1,3}}{HOSTS}",
        rf"(?:with|on|from|at) \d[\d.]* ?[GM](?:b/s|bps|bit/s) (?:USB )?{HOSTS}\b(?! (?:ports?|sockets?))",
        r"with (?:DP|DisplayPort|HBR|USB|Thunderbolt|TB) ?\d(?:\.\d)? (?:hosts?|sources?|computers?|laptops?)",
        "(?:with|on) (?:any |all |recent |newer )?(?:Thunderbolt|USB ?4|TB) (?:hosts?|computers?|laptops?)(?: only)?"
        "(?! (?:ports?|sockets?|side|lead|plug))",
        r"with (?!(?:the|both|all|two|three|four|most|many|older|slower|your|its)\b)(?:[\w.+-]+ ){1,3}"
        r"(?:hosts|computers|laptops|notebooks) only", "(?:on|at|over(?= USB4 (?:hosts"
        "|only))) (?:hosts with )?USB4(?: hosts?"
        "| only)?(?! sockets?| ports?)",
        r"(?:over|through|via) USB-[AC] (?:at|with|of) \d[\d.]* ?[GM]b/s(?=[:,]? (?:about |up to "
        r"|only )?\d[\d,.]* ?[MG]B)",
        rf"only (?:the )?{HOSTS} \d",
        rf"(?:older|newer|slower|other) {HOSTS} with [\w.+-]+(?: \d[\d.]*)?(?= (?:reach|get|show|do|run|are"
        rf"|have|manage|see)\b)",
    ),
}  # fmt: skip
_NAMED_FORMS = (
    r"(?:with|over) (Cat\.? ?\d[a-zA-Z]?)(?: (?:network )?(?:lead|cable))?",
    r"(?:(?<!comes )(?<!come )(?<!ships )(?<!sold )(?<!delivered )(?<!used it )(?<!tried it )(?<!tested it )with"
    r"|if you plug in"
    r"|when you plug in|needs?|requires?) (?:a |an |the |its )?"
    rf"((?:supplied |included |enclosed )?(?:XL |larger |bigger |stronger |optional |big "
    rf"|small )?(?:\d+ ?[WV]\+?(?: ?/ ?\d+(?:\.\d+)? ?A)? )?{SUPPLY}(?: of (?:the )?[^,.:;)]{{2,24}})?(?: of \d+ ?W)?)"
    "(?: or more)?(?: connected| plugged in(?: there)?| attached| included)?",
    r"plug(?:ging)? in (?:the |a |an |its |your )?((?:supplied |included |enclosed )?"
    rf"(?:\d+ ?[WV](?:,? ?/? ?\d+(?:\.\d+)? ?A)? )?{SUPPLY})(?: \([^)]*\))?(?:,? and|[:;,] then)"
    r"(?= (?:the|its|each|all|it|you|every)\b)",
    rf"(?:if|when|once) you (?:use|plug|connect|attach) (?:a |an |the |its |your )?((?:\d+ ?[WV] )?{SUPPLY})"
    r"(?: in(?:to (?:it|the \w+))?| to (?:it|the \w+))?",
    r"needs? (?:an? |the |its )?((?:[\w-]+ ){0,5}[\w-]+)[,;:] (?:and )?then(?= (?:the|its|each|all|it|you|every"
    r"|both)\b)",
    r"with ((?:one more|one other|another|any other|a second|two more|two others)"
    r"(?: (?:device|socket|port|outlet|one))?)(?: (?:in use|connected|busy|used|plugged in"
    r"|taken))?(?=\s*(?:[,;:.)]|$))",
    rf"({SUPPLY}(?: of)? \d+ ?W) (?:is )?(?:needed|required)",
    rf"(\d+ ?W {SUPPLY}) (?:is )?(?:needed|required)",
    rf"((?:\d+ ?[WV] )?{SUPPLY}) (?:may|can|could) be (?:plugged in|connected|attached|used)",
    rf"(?:if|when|while|once|provided|as soon as|as long as|so long as)(?: that)? (?:an? |the |its |its own "
    rf"|our )?((?:\d+ ?[WV] )?{SUPPLY})"
    "(?: is| are)? (?:connected|plugged in|attached|in use|used|present|there)",
    rf"provided(?: that)? (?:there is |you use )?(?:an? |the |its )((?:\d+ ?[WV] )?{SUPPLY})",
    rf"(?:while|when|if|as long as) (?:the |its )?(?:[\w-]+ ){{1,2}}has (?:a |its |the |its own )?({SUPPLY})(?! of)",
    rf"(?:from|with|on) (?:the |its )?({SUPPLY} in the box)",
    rf"(?:from|of|on) (?:an? |any |the |its )?(\d+ ?[WV] {SUPPLY})",
    rf"(?:from|with|on) (?:an? |any |the |its )?({SUPPLY} of \d+ ?W)(?: or more)?",
    rf"(?:if|as long as|so long as|provided|when) (?:an? |the |your )?({SUPPLY} (?:has|gives|brings"
    rf"|delivers) (?:at least )?\d+ ?W)",
    r"(?<=W )(?:at|with|from) (?:an? )?(\d+ ?W input)",
    r"(?:drawn by|by|through|with"
    r"|(?<!Windows )(?<!Linux )(?<!macOS )(?<! \d\d )(?<!not )(?<!never )needs?) (?:our|the|a|its) (driver)",
    r"(?:with|from|of|for) (?:an? )?((?:two |both |\d )?(?:UHS-I+|V\d0|fast|slow|older|quick|modern|suitable|capable"
    r"|solid[- ]state) (?:cards?"
    r"|drives?|disks?|SSDs?|sticks?))",
    rf"(?:{_WHEN} (?:the \w+|it) (?:hangs|sits|is(?: plugged)?|runs) )?(?:on|in|into|from) (?:an? )?"
    r"((?:\d[\d.]* ?[GM](?:b/s|bps|bit/s) (?:USB )?(?:sockets?|ports?|hosts?|one\b)|(?:(?:USB )?(?:socket|port)"
    r"|one) (?:of|with) \d[\d.]* ?[GM](?:b/s|bps|bit/s)))",
    r"((?:two|three|four|2|3|4) in use)",
    r"(after (?:the first )?\d+ ?(?:GB|MB|TB))(?= *(?:[,;.)]|$))",
    r"(?:in|as|with) (RAID \d{1,2})\b",
    r"when used (?:together )?with ((?:USB-)?[AC]\d?)\b",
    r"up to ((?:two|three|four|\d) (?:of them )?(?:in a row|in series|in a chain))",
    r"(?<!used )(?<!runs )(?<!running )(?<!set )(?:at|with) (\d{3,4}x\d{3,4}(?: (?:at|@) ?|@)\d{2,3} ?Hz"
    r"|\dK(?: (?:at|@) ?"
    r"| ?@? ?)\d{2,3} ?(?:Hz)?)(?=,? (?:they|it|the (?:USB|sockets|ports)\b))",
    r"(?<![\w ])((?:two|three|four|\d)(?: of them)? (?:in a row|in series|joined|chained))(?=:)",
    r"(chain of (?:two|three|four|2|3|4))(?=:|,| )",
    r"(?:at|on) (\d+ ?(?-i:[GM]b)(?:/s|ps|it/s))(?=,? (?:the (?:\w+ )?(?:slots?|sockets?|bays?) |both|it|they"
    r"|you|reads?|writes?)\b)",
    r"with (?:a |any )?((?:host|computer|laptop)(?= *[,;.)]|$))",
    r"with ((?:two|three|four|\d)(?: of them)?)(?![.,]\d)(?=\s*(?:[.;,)]|$))",
    r"with (two|three|four)(?= (?:\d{4}x|\dK))",
    r"(?<=[;(,] )(UHS-I+|V\d0)(?: cards?)?(?=:)",
    r"(?<=\()((?:UHS-I+|V\d0|fast|slow|older) cards?)(?=\))",
    r"(?:put |with |join(?:ing)? |use )((?:two|three|\d) (?:of them )?(?:in a row|joined|in series))(?: and)?",
    r"with ((?:two|three|four|\d) (?:drives|sticks|devices|displays|screens|monitors))(?: connected| attached"
    r"| at work)?",
    r"(?:chain|join|link)(?:ed|ing)? up to ((?:two|three|four|\d)(?: of them)?)\b",
    r"(?:(?:at|over) )?(up to \d+ ?m)\b(?=,? (?:it|the|you)\b|: )",
    r"(?<=reads )((?:UHS-I+|V\d0) cards)(?= at)",
    r"(?<=read )((?:UHS-I+|V\d0) cards)(?= at)",
    r"(?<=\()(?:the )?(?:host|computer|laptop) (?:needs|must have|has to have) ([^,;:)]{2,24})",
    r"(?:needs?|requires?) ((?:DP|DisplayPort|HBR) ?\d\.\d)(?: (?:on|at) (?:the|your) (?:host|computer|laptop))?",
    r"(?:needs?|requires?) (?:a |an )?((?:[\w.-]+ ){0,4}hosts?(?: with [\w. -]{2,20})?)",
    r"(?:needs?|requires?) (?:a |an )?((?:USB[\w. -]{0,12} )?(?:\d[\d.]* ?[GM](?:b/s|bps|bit/s) )?(?:USB )?"
    r"(?:sockets?|ports?)(?: (?:with|of) \d[\d.]* ?[GM](?:b/s|bps|bit/s))?)",
)
_UNREAD = (
    r"(?<!-)(?:once(?! (?:[(\d]|of\b|at\b|and\b|with\b|each\b))|unless|if|only while|while|whenever|when"
    r"|as soon as|as long as|so long as|provided"
    r"|only with|only on"
    r"|in case) "
    r"(?!in use\b|you |your (?!laptop|host|computer|notebook|tablet|phone)|stocks? |others? )(?:(?! (?:and|or"
    r"|but) (?:(?:with|at|then|runs?|gives?) )?\d| \(\d[\d.]* ?[GM]b)(?:[^,.;:)]|\.(?=\d)))+"
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
ANY_OF_THEM = re.compile(
    r"(?i)with|while|when|if|long as|provided|once|unless|soon as|in case|from|over|under|bus|powered|otherwise"
    r"|else|alone|itself"
    r"|own|single|singly|one|both|all|dual|side|time|always|on |no |in an? |in use|in series|at |through|by |needs?"
    r"|requires?|hosts?|sources?|chain|RAID|in a row"
    r"|join|use |put |plug|after |up to |mit |netzteil|aliment|for |into|required|needed|may be|can be|could be|cards?"
)
"""Something of every condition: what has none of it is not looked through."""
USED = re.compile(_IN_USE, re.IGNORECASE)
_OTHERS = (
    USED,
    re.compile(r"(?i)\b(?:as long as|so long as|provided(?: that)?) you [^,.;:)]+"),
    re.compile(r"(?i)\bwithout (?:a |any )?(?:host|computer|laptop)\b(?= *[,;.)]|$)"),
    re.compile(r"(?<=\()without [^(),;]{3,30}(?=\))", re.IGNORECASE),
    re.compile(rf"\b{_UNREAD}", re.IGNORECASE),
    re.compile(r"(?<=\()(?:Netzteil|alimentation|alimentatore)\b[^)]{2,60}", re.IGNORECASE),
)
COMPILED = (
    *(
        (means, re.compile(rf"\b(?:{form})\b", re.IGNORECASE), needed_words(form))
        for means, forms in _FORMS.items()
        for form in forms
    ),
    *((Means.WITH, re.compile(rf"\b{form}\b", re.IGNORECASE), needed_words(form)) for form in _NAMED_FORMS),
    *((Means.UNREAD, pattern, needed_words(pattern.pattern)) for pattern in _OTHERS),
)
"""Each with the words without which it cannot match, which is quicker to see."""
