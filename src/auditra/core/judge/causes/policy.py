"""What a host refuses by itself, whatever is connected."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from auditra.core.judge.finding import Cause, Finding, Role, Sureness
from auditra.core.judge.host_policy import policy_about
from auditra.core.judge.reasoning.inquiry import Inquiry


@dataclass(frozen=True, kw_only=True)
class Policy(Finding):
    kind = "policy"
    role = Role.CAUSE
    settles = True

    claim: str
    host: str
    policy: str
    elsewhere: tuple[str, ...]

    @property
    def subject(self) -> str:
        return self.host

    @property
    def sentence(self) -> str:
        return f"{self.host} refuses it by itself ({self.policy}): that says nothing of {self.claim}"

    @property
    def arithmetic(self) -> str:
        return f"it works on another host in {', '.join(self.elsewhere)}" if self.elsewhere else ""


def _find(inquiry: Inquiry) -> Iterator[Policy]:
    """Claims that fail on a host with a policy about them, and on no other."""
    for verdict in inquiry.investigated:
        tries = inquiry.tries_of(verdict)
        failed = [trial for tried in tries if tried.failed for trial in tried.trials]
        hosts = {trial.setup.host for trial in map(inquiry.counted, failed) if trial is not None}
        if len(hosts) != 1:
            continue
        host = inquiry.audit.rig.host(hosts.pop())
        words = policy_about(host, verdict.claim)
        if host is None or not words:
            continue
        worked = [name for tried in tries if not tried.failed for name in tried.trials]
        elsewhere = tuple(name for name in worked
                          if (trial := inquiry.counted(name)) is not None and trial.setup.host != host.id
                          and not trial.direct)  # fmt: skip
        yield Policy(
            ports=(verdict.claim.port,), trials=(*failed, *elsewhere), claims=(verdict.claim.id,),
            sure=Sureness.SURE if elsewhere else Sureness.LIKELY, claim=str(verdict.claim), host=host.name,
            policy=words, elsewhere=elsewhere,
        )  # fmt: skip


POLICY = Cause("policy", "one host refuses what another does", "a host whose policy was noted", _find)
