"""What may change a result although nobody says so: a factor a file, found by itself."""
