"""What the application does, over doors that it does not know the other side of."""
