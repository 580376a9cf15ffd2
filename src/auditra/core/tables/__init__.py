"""Tables of numbers that another program wrote: what their columns are, and the columns."""
