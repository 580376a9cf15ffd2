"""Every format that enters or leaves: its shape, its schema, reading and writing. No files are opened here."""
