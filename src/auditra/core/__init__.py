"""Values in, values out: no files, sockets, clock, threads or hidden randomness."""
