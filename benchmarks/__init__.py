"""Figures beside a reference of the same run; none of them is a test."""
