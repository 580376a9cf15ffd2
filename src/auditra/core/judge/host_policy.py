"""What a host does by its own policy, whatever is connected, and which claims that is about."""

from __future__ import annotations

import re

from auditra.core.claims.claim import Claim
from auditra.core.model.capability import Capability
from auditra.core.model.rig import Host

_ABOUT: dict[Capability, tuple[str, ...]] = {
    Capability.DATA: ("data", "usb", "drive", "storage"),
    Capability.PICTURE: ("display", "picture", "screen", "monitor", "extend", "mirror"),
    Capability.POWER_OUT: ("power", "charge", "watt"),
    Capability.POWER_IN: ("power", "charge", "watt"),
}
"""Words that a policy may name a capability by."""
_COMMON = frozenset({"the", "not", "does", "and", "for", "any", "only", "never", "while", "with", "without", "body"})


def policy_about(host: Host | None, claim: Claim) -> str:
    """What the policy of a host says, where it is about what a claim promises; empty for nothing."""
    if host is None or not isinstance(host.policy, str):
        return ""
    about = f"{claim} {' '.join(_ABOUT.get(claim.promise.capability, ()))}"
    return host.policy if _stems(host.policy) & _stems(about) else ""


def _stems(text: str) -> set[str]:
    """Words without the endings that a claim and a policy may differ by: extended, extends, extend."""
    words = set(re.findall(r"[a-z]{3,}", text.lower())) - _COMMON
    return {re.sub(r"(?:ing|ed|e?s|e)$", "", word) for word in words}
