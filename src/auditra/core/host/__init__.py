"""What a host says of itself at one moment, what that means for its links, and what changed between two moments."""
