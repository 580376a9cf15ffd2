"""What can be said against claims before any testing: one small pure function a rule, each with its sum."""
