"""What a link can carry: every figure with its standard and section, derived rather than typed in where it can be."""
