"""Forms: what is typed field by field, and what comes of it."""
