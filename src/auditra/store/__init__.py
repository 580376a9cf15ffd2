"""The library on disk: journals in SQLite, the shelf's cache, sheets and profiles as files."""
