"""What fits where: gear, leads and sockets, the set-ups they make, and the moves between two set-ups."""
