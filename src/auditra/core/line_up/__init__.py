"""Several audited devices side by side: like ports with like, a winner where there is one, losses and gaps shown."""
