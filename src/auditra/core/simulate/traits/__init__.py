"""What simulated devices do otherwise than their plain figures say, a file a domain."""
