"""One file a chapter of the report, found by itself."""
