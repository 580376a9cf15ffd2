"""Trials of what no seller says and a buyer meets all the same; they are for no claim."""
