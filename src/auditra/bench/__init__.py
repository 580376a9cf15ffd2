"""The world behind the doors: kernel attributes, instruments, files on drives; simulated/ stands beside them."""
