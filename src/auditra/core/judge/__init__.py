"""From readings to verdicts and a score: statistics, decision rule, findings, ledger. Pure."""
