"""Pages that sell nothing: orders, shelves, jobs, guides, opinions, stories, law; whatever figures stand on them."""

from __future__ import annotations

import re

from auditra.core.advert.phrases import any_of

_BEGINS = any_of(
    "spare parts",
    "contents: see",
    r"packing(?= ?[.:])",
    "you need(?= ?:)",
    r"(?:new )?(?:firmware|software|driver) (?:update|version|\d)",
    r"art(?:icle|\.) no",
    "stock list",
    "sitemap",
    "search tips",
    "customer of the month",
    r"interview(?= ?[.:])",
    "customs data",
    "quality report",
    "what comes next",
    "comparison of standards",
    r"survey(?= ?[.:(])",
    r"^\W*warranty(?= ?[.:]|\W*$)",
    r"care (?:of|for) (?:your |the |all )?(?:leads?|cables?|docks?|hubs?|sockets?)",
    "(?:error|lamp|blink) codes",
    "codes of the (?:lamps?|lights?|LEDs?)",
    "privacy",
    "recall(?= ?[.:])",
    "an apology",
    r"win (?:one|a|an|\d+) (?:of )?",
    "training day",
    "open(?:ing)? hours",
    "guest ?book",
    "history of",
    "terms for (?:schools|dealers|resellers)",
    "notes for dealers",
    "awards?(?= ?[.:])",
)
"""Titles: what a page is that begins with one."""
_SORTS = tuple(any_of(*words) for words in (
    # orders and deliveries
    (r"thanks? (?:you )?for (?:your|the|placing your) (?:order|purchase)", "the invoice", r"order no\.? ?\d",
     r"your (?:order|parcel|purchase)\b[^.]{0,30}\b(?:packed|shipped|sent|on its way)", "packing (?:note|slip)",
     "delivery note", "carriage", r"parcels? (?:to|up to|over|under) \d", r"returns? within", "by air",
     "(?:send|sent) (?:it|something|them|things) back", "refunds?", "returns? policy", "tracking number",
     "invoice (?:no|number)", "HS code", "country of origin", "money back already", r"days net", "keep this box",
     r"PAP 2\d"),
    # the pages of a shop
    (r"order no\.? *\|", "sort by", "filter by", "per page", "results for", "results are shown",
     "add to (?:cart|basket)", "items? found", r"article\s+colou?r", "prices? without tax", r"prices include \d"),
    # jobs, investors, the press
    ("apply (?:by|now|to us|with)", "we (?:look|are looking) for", "vacanc(?:y|ies)",
     r"seeks? (?:an? |two |three )?\w* ?(?:people|person|helper|technician|engineer)s?", r"\d\d? an hour", r"wanted \(",
     "(?:hours|days) a week", r"we offer \d+ days", "salary", "turnover", "press (?:note|release)",
     r"(?:opens?|buys?|builds?|takes over) (?:its|an?) \w+ (?:works|hall|plant|factory)", "than the year before",
     "for the press", "newsletter", "unsubscribe", r'," (?:she|he) (?:says|laughs|adds|asks)', "entry per person",
     "nothing of this is promised", "in (?:spring|summer|autumn|winter) we plan"),
    # guides
    ("to find out (?:whether|if|which)", r"you(?:'ll| will) need(?=:\s*\n)", "(?:small|hard) words, ",
     "terms explained", "glossary", r"what (?:the|these) \w+ means?",
     r"(?:things|lessons|mistakes|tips) (?:I|we|you|to|for|that every)", "words you will meet",
     "which (?:cable|lead|dock|hub|charger|adapter|supply) (?:do|should|is|for)", "which cable",
     "how to (?:choose|pick|update|clean|install|read|send|return|pack|order)", "updating the (?:software|firmware)",
     "buyer's guide", r"what you need(?= (?:before|to|first)\b|\s*[:\n])",
     "(?:why|when) (?:does|do|is|are|will) (?:my|your)", r"what is an? (?!\w+ (?:hub|dock))",
     "before you (?:begin|start|plug|connect)", "your (?:laptop|computer|host|charger) must (?:have|send|be|give)"),
    # tests and opinions
    ("(?:from the|our|in the) forum", "same here", "have you tried", "mine (?:does|shows|runs|has|gets)",
     "how we (?:test|measure)", r"(?<!in )our (?:test )?(?:bench|lab)(?! says| shows| measure)",
     "what (?:buyers|customers|people) (?:write|say)", r"average of \d+ ratings",
     r"\d+ (?:opinions|ratings|reviews)[,;:]? (?:\d|on average)", "customer reviews", "stars from",
     "rate of failure", r"\d+ failed", r"(?:docks|hubs|leads|pieces) tested"),
    # the maker about himself
    (r"(?:our|the(?: \w+)?) story", r"founded in", r"in (?:19|20)\d\d,? (?:two|three|we|our|he|she|a)", "people work",
     r"since (?:19|20)\d\d", r"plant \d+ trees", "our (?:workshop|founders?|family)", "soldered", "of CO2",
     "we aim (?:for|to)", "our parcels"),
    # safety and law
    ("before first use", "not a toy", "never open it", "please read (?:this )?first",
    "safety (?:notes|instructions|leaflet)",
     "keep away from children", "liability", "disposal", "terms of use", "patent pending", r"claims \d+ (?:to|and) \d+",
     "in the drawing", "figures on this site", "not for sale", "not covered", "we repair or replace", "stop using"),
))  # fmt: skip
"""Words of each sort of such pages."""
_SHELF_COUNT, _LEAST_SHELF = re.compile(r"\w[ \t]*[(\[]\d{2,4}[)\]]"), 5
"""``1.2 m [33]``: how many of a kind a shop has; so many of them are its shelf, and no footnotes."""
_TROUBLE = re.compile(
    r"(?im)(?:^|[.!?]\s+)(?:no (?:light|picture|sound|network|power)|(?:red|amber) light"
    r"|[a-z][^?.!\n]{0,24}\b(?:off|dark|red|slow|lost|crawls?"
    r"|broken|drops to [^?\n]{2,16})|slow \w+|still lost)\?"
)
_ASKS_READER = re.compile(
    r"(?i)\b(?:how many|how long|which|what)\b[^?.\n]{0,30}\b(?:do you (?:have|need|use)|is your \w+)\?"
)
"""``How many screens do you have?``: a page that asks so more than once wants to know, and sells nothing."""
_LEAST_TROUBLES = 3
"""So many short questions about what goes wrong are a page of help."""
_KINDS = "hub|dock|docking station|adapter|cable|lead|cord|charger|reader|switch|splitter|repeater|extension"
_GENERIC = re.compile(
    rf"(?:^|[.!?:]\s|\n)an? ({_KINDS}) (?:has|is|takes|gives|needs|can|will|does|carries|charges|only)\b"
    r"(?! (?:included|enclosed|supplied|in the box|needed|required|not|part|also))"
)
"""``A hub takes its power from the computer. A dock has ...``: of any hub and any dock."""
_ONE_OR_OTHER = re.compile(rf"(?i)\W*(?:an? )?(?:{_KINDS})s? or (?:an? )?(?:{_KINDS})s?\?")
_OF_FIVE = re.compile(r"[,(] ?[1-5] (?:of|out of) 5\)")
"""What buyers give: ``(T., 4 of 5)``."""
_STANDARD, _LEAST_STANDARDS = (
    re.compile(
        r"\b((?:USB|HDMI|DisplayPort|Thunderbolt|PCIe) ?\d(?:\.\d)?(?: Gen ?\d(?:x\d)?)?):? (?:up to )?\d[\d.]* ?[GM]b"
    ),
    5,
)
"""``USB 2.0 480 Mb/s``: so many standards with a rate each are compared, and not sold."""
_BEGINNING = 60
"""Characters of a title."""
_TITLE = 160
"""Characters in which a page says what it is."""


def is_other_page(text: str) -> bool:
    """By its title, by what stands at its beginning, or by two such words: a page that sells has at most one."""
    title = text.strip()[:_TITLE]
    if _BEGINS.match(text.strip()[:_BEGINNING].lstrip("#*= ")) or any(words.search(title) for words in _SORTS):
        return True
    if len(_TROUBLE.findall(text)) >= _LEAST_TROUBLES or _is_of_opinions(text):
        return True
    if len(_SHELF_COUNT.findall(text)) >= _LEAST_SHELF or len(set(_STANDARD.findall(text))) >= _LEAST_STANDARDS:
        return True
    if len(set(_GENERIC.findall(text.lower()))) > 1 or _ONE_OR_OTHER.match(text):
        return True  # a guide
    if len(_ASKS_READER.findall(text)) > 1:
        return True
    return sum(len(words.findall(text)) for words in _SORTS) > 1


def _is_of_opinions(text: str) -> bool:
    """It begins with a quotation, and more than one has its stars; a page that sells may quote a buyer, too."""
    return text.lstrip().startswith(('"', "'")) and len(_OF_FIVE.findall(text)) > 1
