"""Why promises fail, and what nobody promised: a cause a file, found by itself."""
