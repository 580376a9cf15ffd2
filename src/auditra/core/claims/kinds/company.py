"""Hosts and gear that it is said to work with, and what is not needed for that."""

from __future__ import annotations

from dataclasses import dataclass

from auditra.core.claims.observed import Working
from auditra.core.claims.terms import FreeWords, Names, said


@dataclass(frozen=True)
class WorksOn(Working):
    """``body works on laptop, tablet``: on each of these, everything that is promised."""

    hosts: tuple[str, ...] = said(Names("laptop"))

    words, of_many = "works on", "work on"
    example = "works on laptop, tablet"
    on_body = True

    @property
    def hosts_named(self) -> tuple[str, ...]:
        return self.hosts

    def question(self, spot: str) -> str:
        return f"On the host of this trial (claimed: {', '.join(self.hosts)}): does the gear on {spot} work?"

    @property
    def brief(self) -> str:
        return f"{len(self.hosts)} hosts" if len(self.hosts) > 1 else self.hosts[0][:11]


@dataclass(frozen=True)
class WorksWith(Working):
    """``A1 works with printer``."""

    gear: tuple[str, ...] = said(Names("printer"))

    words, of_many = "works with", "work with"
    example = "works with printer"

    def question(self, spot: str) -> str:
        return f"Plug {' and then '.join(self.gear)} into {spot}: does it work?"

    @property
    def brief(self) -> str:
        return self.gear[0][:11]


@dataclass(frozen=True)
class NeedsDriver(Working):
    """``body needs driver``: it works with what has to be installed; on one system where that is named."""

    system: str = said(FreeWords("laptop"), after="on", default="")

    words, of_many = "needs driver", "need driver"
    example = "needs driver on laptop"
    on_body = True

    def question(self, spot: str) -> str:
        where = f" on {self.system}" if self.system else ""
        return f"With the seller's driver installed{where}: does everything on {spot} work?"

    @property
    def brief(self) -> str:
        return "driver"


@dataclass(frozen=True)
class WithoutDriver(Working):
    """``body without driver``: nothing needs to be installed; on one system where that is named."""

    system: str = said(FreeWords("laptop"), after="on", default="")

    words = "without driver"
    example = "without driver on laptop"
    on_body = True
    on_every_host = True

    def question(self, spot: str) -> str:
        where = f" on {self.system}" if self.system else ""
        return f"Plug {spot} into a host{where} that never saw it: does everything work with nothing installed?"

    @property
    def brief(self) -> str:
        return "no driver"
