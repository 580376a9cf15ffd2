"""What differs from one database to another: opening it, its write lock, its version, and its errors in our words."""
