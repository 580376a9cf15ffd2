"""The report as a value: chapters of blocks, each sentence with what it comes from. Printing it is the rim's work."""
