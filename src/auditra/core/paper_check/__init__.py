"""What can be said against claims before anything is plugged in: one small pure function a rule, each with its sum."""
