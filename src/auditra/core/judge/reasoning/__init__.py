"""How causes are found: the tries of a function, what they have in common, and what clears it."""
