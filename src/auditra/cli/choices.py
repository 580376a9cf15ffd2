"""What may be named on the command line where only a few words are known."""

from __future__ import annotations

from enum import StrEnum


class SchemaName(StrEnum):
    """The formats that have a schema."""

    FACTS = "facts"
    CLAIMS = "claims"
    RIG = "rig"
    PROFILE = "profile"
    JUDGEMENT = "judgement"
    COMPARISON = "comparison"
    PROBE = "probe"
    DECODE_USB = "decode-usb"
    DECODE_EDID = "decode-edid"
    DECODE_PD = "decode-pd"
    DECODE_CABLE = "decode-cable"


class BenchName(StrEnum):
    """Where trials are run."""

    SIMULATED = "simulated"
    LIVE = "live"


class VerdictWord(StrEnum):
    """The words that verdicts are given in."""

    HOLDS = "holds"
    HOLDS_IF = "holds if"
    SHORT = "short"
    BROKEN = "broken"
    TOO_CLOSE = "too close"
    UNPROVEN = "unproven"
    OPEN = "open"


class Group(StrEnum):
    """What claims are counted by."""

    MAKER = "maker"
    MODEL = "model"
    KIND = "kind"
    VERDICT = "verdict"
    AUDIT = "audit"
    PORT = "port"


class Role(StrEnum):
    """What somebody may do in a team's library."""

    READER = "reader"
    REVIEWER = "reviewer"
