"""How many sockets of a class a text speaks of: counts before the class, behind it, and in words."""

from __future__ import annotations

import re

LOOK_BEHIND, FAR_BEFORE = 40, 80
"""Characters behind a class, and before it, in which its count may stand."""
NUMBERS = {
    "a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9,
    "ten": 10, "eleven": 11, "twelve": 12, "both": 2, "pair": 2, "brace": 2, "couple": 2, "trio": 3, "single": 1,
    "dual": 2, "double": 2, "triple": 3, "twin": 2, "quad": 4, "another": 1, "half a dozen": 6, "dozen": 12,
    "second": 1, "first": 1, "third": 1, "either": 2, "zwei": 2, "drei": 3, "vier": 4, "deux": 2, "trois": 3,
    "quatre": 4, "dos": 2, "tres": 3, "cuatro": 4, "due": 2, "tre": 3, "quattro": 4, "drie": 3, "twee": 2,
}  # fmt: skip
ORDINALS = {
    "first": 1, "second": 2, "third": 3, "fourth": 4, "fifth": 5, "sixth": 6, "seventh": 7, "eighth": 8,
}  # fmt: skip
COUNT_WORDS = "|".join(sorted(NUMBERS, key=len, reverse=True))
"""Counts in words, as a pattern."""
NUMBER = rf"(?:\d{{1,2}}(?![.,]?\d)|{'|'.join(sorted(NUMBERS, key=len, reverse=True))})"
ADJECTIVES = (
    r"(?:(?:full-size|more|other|own|new|fast|rear|front|side|plain|same|such|downstream|data|sized?|real"
    r"|separate|extra"
    r"|SuperSpeed|Super-Speed|[Hh]i-?[Ss]peed|high[- ]speed|USB(?: ?[234](?:\.\d)?)?(?: Gen ?\d(?: ?x ?\d)?)?"
    r"|further|additional|remaining|left|right|upper|lower|big|small|spare|of the|of its|of these|(?-i:pcs)\.?"
    r"|pieces|times"
    r"|\d+(?:[.,]\d+)?\s?(?:G|[GM]b(?:ps|/s|it/s)|gigabit|W|A)|\dK(?: ?@? ?\d{2,3} ?(?:Hz)?)?"
    r"|\(\d+(?:[.,]\d+)?\s?(?:[GM]b(?:ps|/s|it/s)|W)\)|porte|porten"
    r"|prises|puertos|buchsen|anschl(?:ü|ue)sse|sockets?|ports?|outputs?|slots?|of|USB \d\.\d)\s+)*"
)
_COUNT_BEFORE = re.compile(
    r"(?<![\w.,-])(?:(?P<all>all|each of|every one of|any of|both|each|every|either)\s+)?(?:of )?"
    r"(?:the\s+|its\s+|these\s+|those\s+|our\s+)?"
    rf"(?P<count>{NUMBER})?(?: (?:over|via|through|by|on)(?= $))?(?:(?: (?:at|on"
    rf"|in) the \w+)? are(?: all)?(?= $))?\s*(?:x(?=\s|$)\s*|x$"
    rf"|\*\s*)?{ADJECTIVES}\(?$",
    re.IGNORECASE,
)
_WORDS_OF_COUNT = "|".join(
    word for word in NUMBERS if word not in ("a", "an", "another", "either", "first", "second", "third")
)
_DESCRIBED_BEFORE = re.compile(
    rf"(?i)(?<![\w.,-])(?P<count>{_WORDS_OF_COUNT}) (?!(?:of|at|to|from|and|or|with|per|in|on|for|by|the|is|are|has"
    rf"|via)\b)[a-z][a-z-]* "
    r"(?:(?!(?:of|at|to|from|and|or|with|per|in|on|for|by|the|via)\b)[a-z][a-z-]* )?$"
)
"""``Three quick USB-A``: whatever word describes them."""
_SOCKETS_BEFORE = re.compile(rf"(?i)\b({NUMBER}) (?:sockets|ports), $")
_ANOTHER_CLASS = re.compile(rf"\s*(?:,? ?(?:and|or|&|\+)|/|,) ?(?:{NUMBER} ?x? ?)?(?:USB|HDMI|A\b|C\b)")
"""Behind a class that is one of several."""
_COUNT_OF_LIST = re.compile(r"(?<![\w.])\d \($")
_ANOTHER_LISTED = re.compile(r"(?i)\s*(?:,|/|\+|and|&)\s*(?:and )?(?:USB|HDMI|DisplayPort|DP\b|VGA|SD|micro)")
"""``2 (HDMI, DP)``: how many of both."""
_NUMBERED_SCREEN = re.compile(
    r"(?i)\b(?:screen|monitor|display|picture|output|head) \d{1,2}:? \(?(?:on |via |by |over )?$"
)
"""``Screen 2 (HDMI)``: which one, and not how many."""
_PORTS_BEFORE = re.compile(rf"(?i)\b{NUMBER}[- ](?:ports?|sockets?)[:,]? $")
_ANOTHER_NAMED = re.compile(
    rf"(?i)^(?!.*\b{NUMBER}[- ](?:ports?|sockets?)).*\b(?:USB|HDMI|DisplayPort|VGA|RJ-?45|LAN|SD)\b"
)
"""``4 ports VGA with 2 USB-A``: four in all."""
_UNIT_WORD = re.compile(
    r"(?i)\b(?:\w*bits?|watts?|amps?|amperes?|volts?|\w*met(?:er|re)s?|inch(?:es)?|hosts?|computers?|laptops?"
    r"|screens?|monitors?"
    r"|displays?|models?|leads?|cables?|cords?|plugs?)\b"
)
_TIMES_BEFORE = re.compile(r"(?<![\w.])(\d{1,2})\s?x\s*(?:full-size |mini |fast )?$", re.IGNORECASE)
_GEAR_BY = re.compile(
    rf"(?i)\b({NUMBER}) (?:drives|sticks|disks|SSDs|devices|pads|controllers|phones|keyboards|mice) (?:by|via"
    rf"|over|through|on) $"
    r"|\b(two|three|four|five|six|seven|[2-9]) for $"
)
"""``Two drives by USB-A``, ``two for USB-C``."""
_PAIRS_BEFORE = re.compile(rf"(?i)\b({NUMBER}) pairs of $")
_PORT_BEFORE = re.compile(rf"(?i)(?<![\w.-])({NUMBER})(?:[- ]port|[- ]?P) (?:powered |active )?$")
_COUNT_BEHIND = re.compile(
    r"\s*(?:sockets?|ports?|outputs?|slots?|jacks?|plugs?)?\s*(?:front|rear|back|side|left|right|for charging)?\s*(?:"
    rf"\(\s*(?:there are |in all |(?:front|rear|back|side|left|right)(?: row)?, ?)?x?\s*(?P<paren>{NUMBER})\s*(?:x"
    rf"|sockets?|ports?|pcs\.?|pieces)?\s*\)"
    rf"|x\s?(?P<times>\d{{1,2}})(?!\d|\.\d|\s?\d(?!\d*(?:\.\d+)?\s?(?:G|M|W|A|V|[Kk]\b|[Kk]@)))"
    rf"|,\s*(?P<comma>{NUMBER})(?: in number| in all| of them|x(?=\s*(?:[,.;:-]|$)))?(?=\s*[,.;:-]|$)"
    rf"|\s*[:=]\s*(?P<colon>{NUMBER})(?=\s*(?:x\b|@|,|at\b|\(|$|\n|;|sockets?\b|ports?\b|outputs?\b)))",
    re.IGNORECASE,
)
_TIMES_BEHIND_RATE = re.compile(r"(?: \d\.\d)?(?: Gen ?\d(?:x\d)?)? ?(?:\([^()]{2,24}\) ?)?x ?(\d)(?!\d|\.\d| ?x)")
"""``USB-A 3.2 (10 Gb/s) x 2``."""
_HUB_BEHIND = re.compile(rf"(?i)\s*hub[,:]?\s+(?:with )?({NUMBER})[- ]?ports?\b")
_BRACKETED_BEFORE = re.compile(
    rf"(?i)(?:^\s*|[,;.:] |\band )({NUMBER})(?: of them| more| others?)? (?:are|carry|have|run|is|work|give|charge)\b"
    rf"[^,;.(]{{0,40}}\($|\b({NUMBER}) of them \($"
    rf"|\b({NUMBER}) (?:for|with|of) [\w. ]{{2,24}} \($"
    rf"|\b(both|{NUMBER})(?: \w+)? (?:sockets|ports|ones)(?: (?:on|at|in) (?:the|each|either) \w+)? \($"
)
"""``Seven of them carry data at 5 Gb/s (``: how many there are of the class in brackets."""
_OF_THEM_BEHIND = re.compile(rf"(?i)[^.;\n]{{0,60}}(?:\(|, )(?P<count>{NUMBER}) of them\b")
_OF_ALL_BEFORE = re.compile(r"(?i)\b(?:per|on every) $")
_EITHER_OR = re.compile(r"(?i)\beither (?:the |an? )?\|\s*(?:sockets? )?or\b")
"""``either HDMI or USB-C``: one of each."""
_ENDS = 2
"""Of a range."""
_MOST_OF_PICTURES = 4
"""Sockets for pictures that a device has of one class: a higher number before is of something else."""


def has_no_count(letter: str, before: str, behind: str) -> bool:
    """A number before it is of several classes together, or of none."""
    if letter in "HDV" and _PORTS_BEFORE.search(before) and _ANOTHER_NAMED.search(behind):
        return True
    if letter in "HDV" and _NUMBERED_SCREEN.search(before):
        return True
    of_list = _COUNT_OF_LIST.search(before) is not None and _ANOTHER_LISTED.match(behind) is not None
    return of_list or _EITHER_OR.search(f"{before}|{behind}") is not None


def count_around(letter: str, start: int, end: int, text: str) -> int | None:
    """A count behind the class, or further before it."""
    behind, before = text[end : end + LOOK_BEHIND].partition("\n")[0], text[max(0, start - FAR_BEFORE) : start]
    after = _COUNT_BEHIND.match(behind) or (_OF_THEM_BEHIND.match(text[end : end + 80]) if letter in "ACH" else None)
    if times := _TIMES_BEHIND_RATE.match(behind):
        return count_of(times[1])
    if after is not None:
        return count_of(next(group for group in after.groups() if group))
    if letter == "A" and (hub := _HUB_BEHIND.match(behind)):
        return count_of(hub[1])
    of_all = _SOCKETS_BEFORE.search(before) if letter in "AC" and not _ANOTHER_CLASS.match(text, end) else None
    counted = of_all or _BRACKETED_BEFORE.search(before)
    return count_of(next(group for group in counted.groups() if group)) if counted else None


def count_before(letter: str, before: str) -> tuple[int | None, bool]:
    """How many, and whether these are all that there are."""
    whole = _OF_ALL_BEFORE.search(before) is not None
    if letter in "AC" and (gear := _GEAR_BY.search(before)):
        return count_of(gear[1] or gear[2]), whole
    if letter in "ACH" and (pairs := _PAIRS_BEFORE.search(before)):
        return 2 * count_of(pairs[1]), whole
    times = _TIMES_BEFORE.search(before) or _PORT_BEFORE.search(before)
    if times is not None:
        return count_of(times[1]), whole
    number = _COUNT_BEFORE.search(before)
    if number is None or not (number["count"] or number["all"]):
        number = None
    described = _DESCRIBED_BEFORE.search(before) if number is None and letter in "AC" else None
    if described is not None and not _UNIT_WORD.search(described[0]):
        return count_of(described["count"]), whole
    if number is None or not (number["count"] or number["all"]):
        return None, whole
    of_two = (number["all"] or "").lower() in ("both", "either")
    count = count_of(number["count"]) if number["count"] else 2 if of_two else None
    too_many = letter in "HDV" and count is not None and count > _MOST_OF_PICTURES
    return None if too_many else count, bool(number["all"]) or whole


def numbers_in(words: str) -> tuple[int, ...]:
    """``3 and 4``, ``1 to 3``, ``5-7``: the numbers that these words mean."""
    numbers = [int(number) for number in re.findall(r"\d+", words)]
    is_range = len(numbers) == _ENDS and re.search(r"-|to", words) is not None
    return tuple(range(numbers[0], numbers[1] + 1)) if is_range else tuple(numbers)


def count_of(word: str) -> int:
    """A count in digits or words. Raises: KeyError for another word."""
    return int(word) if word.isdigit() else NUMBERS[word.lower()]
