"""Instruments as values: what each is asked, what its answers mean, and how far they may be off."""
