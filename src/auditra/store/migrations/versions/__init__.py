"""One file a version, in order."""
