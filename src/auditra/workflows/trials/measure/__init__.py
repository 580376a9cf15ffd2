"""How each procedure measures: the loops that turn a set-up into readings. They always run; only the doors differ."""
