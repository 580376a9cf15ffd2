"""Values to text: pure functions that know nothing of the application."""
