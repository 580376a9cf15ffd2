"""The claim language: one sentence a promise, read, printed and decided; one file a kind under kinds/."""
