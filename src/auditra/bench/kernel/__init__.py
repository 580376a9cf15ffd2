"""What the kernel shows of this host's links: attributes below a root, events, the modes that outputs run."""
