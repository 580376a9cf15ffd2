"""How a reading decides a promise: rules, estimates with their uncertainty, evidence. Knows no claim."""
