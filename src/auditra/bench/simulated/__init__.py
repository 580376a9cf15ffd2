"""The simulated bench: core/simulate behind the same doors as the live one."""
