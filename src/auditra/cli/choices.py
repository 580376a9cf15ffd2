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
