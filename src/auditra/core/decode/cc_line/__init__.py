"""Captures of a CC line: edges in, power messages out."""
