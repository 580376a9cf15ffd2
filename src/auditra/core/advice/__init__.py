"""What a buyer is told on the strength of a judgement: how much was tried, what it is worth, and for whom it is."""
