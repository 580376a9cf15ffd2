"""What practice devices hide, a file a domain: each puts a trait into a device that is being made."""
