"""Trials of behaviour that sellers do not mention but buyers run into; they belong to no claim."""
