"""How trials are done: a file a procedure, found by itself. Its loop is in workflows/measure, under its name."""
