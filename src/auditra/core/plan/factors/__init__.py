"""What may change a result without being mentioned in a claim: one file a factor, found automatically."""
