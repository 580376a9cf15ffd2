"""Models of devices and gear, stepped by hand from a seed. Only the simulated bench and tests look in here."""
