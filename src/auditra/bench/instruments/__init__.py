"""Instruments that answer in text: over TCP, USBTMC or a serial line, each as its description says."""
