"""What is recorded, what may be recorded, and the audit that a journal folds to."""
