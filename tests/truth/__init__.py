"""Audits of made-up devices whose truth is known to their maker alone, and what the judge makes of them."""
