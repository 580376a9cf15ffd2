"""One file a kind of promise: its fields, grammar, printing, and the decision. A new file here is a new kind."""
