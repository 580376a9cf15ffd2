"""Bytes in, facts out: each decoder gives what it could read and a list of what is wrong with the rest."""
