"""What runs beside the screen: trials on their own thread, the bench they hold, hosts that are probed."""
