"""The stages of the work, in the order of the work; each is a folder that knows nothing of the others."""
